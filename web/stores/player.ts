import { useRafFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { arrange, itemAt, type Performance, playedBars, type Span } from '#core';
import { Engine, type Score } from '../audio/engine';
import { useSongStore } from './song';

/** What is heard now, in ticks of the song; negative bars of a count-in lie before `from`. */
export interface Heard {
  tick: number;
  countIn: boolean;
}

/** The arranged song, and its playing. */
export const usePlayerStore = defineStore('player', () => {
  const songs = useSongStore();
  const playing = ref(false);
  const starting = ref(false);
  /** True while something outside the song sounds. */
  const auditioning = ref(false);
  const click = ref(true);
  const looping = ref(true);
  /** First and last bar of the loop as they are played, from 0; null for the whole song. */
  const loopBars = ref<{ first: number; last: number } | null>(null);
  /** The bar that is looked at, as it is played, from 0. */
  const selectedBar = ref(0);
  const heard = shallowRef<Heard | null>(null);

  // By parts, so that an edit of the pattern leaves the bars as they are.
  const sections = computed(() => songs.song?.sections);
  const meter = computed(() => songs.song?.meter);
  const bars = computed(() =>
    sections.value && meter.value
      ? playedBars({ sections: sections.value, meter: meter.value })
      : [],
  );
  const performance = computed<Performance | null>(() => (songs.song ? arrange(songs.song) : null));

  const loop = computed<Span | null>(() => {
    if (!looping.value || bars.value.length === 0) return null;
    const end = bars.value.length - 1;
    const last = bars.value[Math.min(loopBars.value?.last ?? end, end)]!;
    const first = bars.value[Math.min(loopBars.value?.first ?? 0, last.index)]!;
    return { from: first.tick, to: last.tick + last.ticks };
  });

  const score = computed<Score | null>(() =>
    songs.song && performance.value
      ? {
          performance: performance.value,
          meter: songs.song.meter,
          family: songs.song.instrument.family,
          loop: loop.value,
          click: click.value,
        }
      : null,
  );

  /** The bar that is heard, or that was chosen. */
  const bar = computed(() => {
    const tick = heard.value && !heard.value.countIn ? heard.value.tick : null;
    return tick === null
      ? (bars.value[selectedBar.value] ?? bars.value[0])
      : itemAt(bars.value, tick);
  });

  const engine = new Engine(() => stop());
  const heardAlone = shallowRef<Heard | null>(null);
  const frames = useRafFn(
    () => {
      if (auditioning.value) heardAlone.value = engine.position();
      else heard.value = engine.position();
    },
    { immediate: false },
  );

  async function play(): Promise<void> {
    if (!score.value || bars.value.length === 0 || playing.value || starting.value) return;
    stop();
    starting.value = true;
    const chosen = bars.value[selectedBar.value]?.tick ?? 0;
    const inLoop = loop.value && chosen >= loop.value.from && chosen < loop.value.to;
    const from = loop.value && !inLoop ? loop.value.from : chosen;
    try {
      await engine.start(score.value, from, songs.song?.countIn ?? 0);
      playing.value = true;
      frames.resume();
    } finally {
      starting.value = false;
    }
  }

  /** Plays something outside the song once, or round and round. */
  async function audition(
    alone: Performance,
    options = { click: false, loop: false },
  ): Promise<void> {
    stop();
    if (!score.value) return;
    const loopAll = options.loop ? { from: 0, to: alone.ticks } : null;
    const sole = { ...score.value, performance: alone, loop: loopAll, click: options.click };
    await engine.start(sole, 0, options.loop ? 1 : 0);
    auditioning.value = true;
    frames.resume();
  }

  function stop(): void {
    engine.stop();
    auditioning.value = false;
    frames.pause();
    playing.value = false;
    heard.value = null;
    heardAlone.value = null;
  }

  function toggle(): void {
    if (playing.value || auditioning.value) stop();
    else void play();
  }

  watch(score, (next) => {
    if (playing.value && next) engine.update(next);
  });
  watch(
    () => songs.id,
    () => {
      stop();
      selectedBar.value = 0;
      loopBars.value = null;
    },
  );

  return {
    playing,
    starting,
    click,
    looping,
    loopBars,
    selectedBar,
    heard,
    bars,
    bar,
    performance,
    play,
    stop,
    toggle,
    auditioning,
    heardAlone,
    audition,
  };
});
