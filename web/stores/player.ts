import { useRafFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { Ticks } from '#core/plain';
import type { Meter, Song } from '#core/schema';
import type { Span } from '#core/time';
import { barNumbers, itemAt } from '#core/song';
import { commands } from '#core/edit';
import {
  arrangement,
  type Arrangement,
  type Groove,
  grooveFor,
  type Performance,
  writtenTick,
} from '#core/arrange';
import { countAloud, type SaidWord } from '#core/sound';
import { Engine, type Score } from '../audio/engine';
import { whenIdle } from '../frame/idle';
import { useMixerStore } from './mixer';
import { useSongStore } from './song';

/** What is heard now, in ticks of the song; negative bars of a count-in lie before `from`. */
export interface Heard {
  tick: Ticks;
  countIn: boolean;
  /** The tick that a count-in leads into. */
  start?: number;
  /** Pulses a minute, as it is played. */
  tempo?: number;
}

/** A song that is played in place of the open one, as long as it bar for bar. */
export interface Override {
  song: Song;
  setTempo: (tempo: number) => void;
}

/** How something outside the song is played. */
export interface Audition {
  click?: boolean;
  /** With the drums that are chosen. */
  drums?: boolean;
  loop?: boolean;
  /** Bars counted before it; one before a loop, else none. */
  countIn?: number;
  /** Where it is not the song's. */
  meter?: Meter;
  words?: SaidWord[];
}

const NO_SOUND = 'The sound could not be loaded.';

/** The arranged song, and its playing. */
export const usePlayerStore = defineStore('player', () => {
  const songs = useSongStore();
  const mixer = useMixerStore();
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
  /** What is played in place of the open song, as a rung of its ladder, with what sets its tempo. */
  const override = shallowRef<Override | null>(null);
  const activeSong = computed(() => override.value?.song ?? songs.song);

  function setTempo(tempo: number): void {
    if (override.value) override.value.setTempo(tempo);
    else songs.run(commands.setTempo(tempo), true);
  }

  /** The song as it is played, worked out once for all that show, sound or judge it. */
  const arranged = shallowRef<Arrangement | null>(null);
  /** Of the song whose name the pointer rests on: it is taken where that is opened. */
  let ahead: Arrangement | null = null;
  watch(
    () => songs.foreseen,
    (song) => {
      if (song) whenIdle(() => (ahead = arrangement(song)));
    },
  );
  watch(
    activeSong,
    (song) => {
      const known = ahead?.song === song ? ahead : null;
      ahead = null;
      arranged.value = song && (known ?? arrangement(song, arranged.value));
    },
    { immediate: true, flush: 'sync' },
  );
  const bars = computed(() => arranged.value?.bars ?? []);
  const changes = computed(() => arranged.value?.changes ?? []);
  /** The rhythm of each bar. */
  const parts = computed(() => arranged.value?.rhythms ?? []);
  const performance = computed<Performance | null>(() => arranged.value?.performance ?? null);

  const loop = computed<Span | null>(() => {
    if (!looping.value || bars.value.length === 0) return null;
    const end = bars.value.length - 1;
    const last = bars.value[Math.min(loopBars.value?.last ?? end, end)]!;
    const first = bars.value[Math.min(loopBars.value?.first ?? 0, last.index)]!;
    return { from: first.tick, to: last.tick + last.ticks };
  });

  /** The groove that goes with the song where none is chosen. */
  const usualGroove = computed<Groove | null>(() =>
    activeSong.value ? grooveFor(activeSong.value.meter, activeSong.value.pattern) : null,
  );
  const groove = computed<Groove | null>(() => {
    if (mixer.drums === 'none') return null;
    return mixer.drums === 'auto' ? usualGroove.value : mixer.drums;
  });
  const counted = computed(() =>
    mixer.counting ? countAloud(bars.value, barNumbers(bars.value, changes.value)) : [],
  );
  const score = computed<Score | null>(() =>
    activeSong.value && performance.value
      ? {
          performance: performance.value,
          meter: activeSong.value.meter,
          family: activeSong.value.instrument.family,
          loop: loop.value,
          click: click.value ? mixer.clickMode : null,
          groove: groove.value,
          words: counted.value,
          levels: { ...mixer.levels },
          speed: mixer.speed,
          ramp: mixer.ramp,
        }
      : null,
  );

  /** The bar that is heard, or that was chosen. */
  const bar = computed(() => {
    const now = heard.value;
    const tick = now && (now.countIn ? (now.start ?? 0) : now.tick);
    return tick === null
      ? (bars.value[selectedBar.value] ?? bars.value[0])
      : itemAt(bars.value, tick);
  });

  const engine = new Engine(() => stop());
  watch(
    () => mixer.latency,
    (milliseconds) => (engine.latency = milliseconds / 1000),
    { immediate: true },
  );
  const auditionPosition = shallowRef<Heard | null>(null);
  const frames = useRafFn(
    () => {
      const now = engine.position();
      if (auditioning.value) auditionPosition.value = now;
      else heard.value = now && !now.countIn ? { ...now, tick: written(now.tick) } : now;
    },
    { immediate: false },
  );

  /** The place in the pattern that is heard at a tick of the clock: swing taken off. */
  const written = (tick: Ticks) =>
    performance.value ? writtenTick(performance.value, tick) : tick;

  /** Where the clock is at this moment, in ticks, for taps that are timed against it. */
  const position = () => engine.position();
  const clock = () => engine.clock();

  /**
   * Starts what sounds. Where its parts cannot be loaded, because the server went away before they were, that is
   * told, in few words: they stand in the head of the page.
   * @returns false where it does not sound, or was stopped before it did
   */
  async function begin(what: Score, from: Ticks, countIn: number): Promise<boolean> {
    try {
      const begun = await engine.start(what, from, countIn);
      if (songs.notice === NO_SOUND) songs.notice = null;
      return begun;
    } catch {
      songs.notice = NO_SOUND;
      return false;
    }
  }

  async function play(): Promise<void> {
    if (!score.value || bars.value.length === 0 || playing.value || starting.value) return;
    stop();
    starting.value = true;
    const chosen = bars.value[selectedBar.value]?.tick ?? 0;
    const inLoop = loop.value && chosen >= loop.value.from && chosen < loop.value.to;
    const from = loop.value && !inLoop ? loop.value.from : chosen;
    try {
      if (!(await begin(score.value, from, activeSong.value?.countIn ?? 0))) return;
      playing.value = true;
      frames.resume();
    } finally {
      starting.value = false;
    }
  }

  /** Plays something outside the song once, or round and round. */
  async function audition(alone: Performance, options: Audition = {}): Promise<void> {
    stop();
    if (!score.value) return;
    const { click: clicks = false, loop: loops = false, drums = false, words } = options;
    const sole: Score = {
      ...score.value,
      performance: alone,
      meter: options.meter ?? score.value.meter,
      loop: loops ? { from: 0, to: alone.ticks } : null,
      click: clicks ? 'all' : null,
      groove: drums ? groove.value : null,
      ramp: null,
      ...(words && { words }),
    };
    if (!(await begin(sole, 0, options.countIn ?? (loops ? 1 : 0)))) return;
    auditioning.value = true;
    frames.resume();
  }

  function stop(): void {
    engine.stop();
    auditioning.value = false;
    frames.pause();
    playing.value = false;
    heard.value = null;
    auditionPosition.value = null;
  }

  /** Something else plays in place of the clock, a recording: where it is; null once it has ended. */
  function follow(now: Heard | null): void {
    auditioning.value = now !== null;
    auditionPosition.value = now;
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
      override.value = null;
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
    override,
    activeSong,
    setTempo,
    arranged,
    bars,
    changes,
    parts,
    bar,
    performance,
    loop,
    play,
    stop,
    toggle,
    auditioning,
    auditionPosition,
    audition,
    follow,
    position,
    clock,
    groove,
    usualGroove,
  };
});
