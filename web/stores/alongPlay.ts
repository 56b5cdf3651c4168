import { useEventListener, useRafFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { itemAt } from '#core/song';
import { type MappedBar, pulsesPerBar, songTickAt, tempoAt, tickOf } from '#core/along';
import { AlongEngine, stretchLead } from '../audio/alongEngine';
import { useAlongStore } from './along';
import { useMixerStore } from './mixer';
import { type Heard, usePlayerStore } from './player';

/** The slowest and the fastest that a recording is played, as shares of its own speed. */
export const SLOWEST = 0.4;
export const FASTEST = 1.2;

/** The recording as it plays: where it is, how fast and how high, the stretch that comes again, what goes along. */
export const useAlongPlayStore = defineStore('along-play', () => {
  const along = useAlongStore();
  const player = usePlayerStore();
  const mixer = useMixerStore();

  const media = new Audio();
  media.preload = 'auto';
  // It belongs to the page and not to a station: one that is taken off the page stops.
  media.hidden = true;
  document.body.append(media);
  const seconds = ref(0);
  const playing = ref(false);
  /** A bar is counted before the recording begins. */
  const counting = ref(false);
  const speed = ref(1);
  /** Semitones by which it sounds higher or lower than it was recorded. */
  const shift = ref(0);
  const level = ref(0.9);
  /** Bars of the song that come again, from 1, while they do: where they sound last before where it is. */
  const looping = ref(false);
  const first = ref(1);
  const last = ref(4);
  /** Where it was when the loop was asked for. */
  const start = ref(0);
  watch([looping, first, last], () => (start.value = media.currentTime));
  /** From second to second; null for all of it. */
  const loop = computed(() => {
    if (!looping.value || !along.map) return null;
    const shown = (bar: MappedBar, number: number) => (bar.song ?? bar.number) === number;
    const { bars } = along;
    const begins = bars.filter((bar) => shown(bar, first.value));
    const begin = begins.findLast((bar) => bar.seconds <= start.value) ?? begins[0] ?? bars[0];
    if (!begin) return null;
    const count = Math.max(0, last.value - first.value) + 1;
    const end = bars[begin.number - 1 + count]?.seconds ?? along.map.pulses.at(-1)!;
    return { from: begin.seconds, to: Math.max(end, begin.seconds + 0.1) };
  });
  const click = ref(false);
  const part = ref(false);
  const countIn = ref(false);
  const engine = new AlongEngine(media);

  watch(
    () => along.url,
    (now) => {
      media.pause();
      if (now) media.src = now;
      else media.removeAttribute('src');
      seconds.value = 0;
    },
    { immediate: true },
  );
  watch(
    speed,
    (now) => {
      media.preservesPitch = true;
      media.defaultPlaybackRate = now;
      media.playbackRate = now;
    },
    { immediate: true },
  );
  watch(level, (now) => (media.volume = now), { immediate: true });
  watch(shift, (now) => engine.shift(now));

  /** The second of the recording that is heard: stretched it is a little ahead, shifted in pitch a little later. */
  const heardNow = () => {
    const { currentTime, playbackRate: rate } = media;
    return Math.max(0, currentTime + stretchLead(rate) - engine.behind * rate);
  };
  const { pause: rest, resume } = useRafFn(
    () => {
      const { value: turn } = loop;
      if (turn && media.currentTime >= turn.to) media.currentTime = turn.from;
      seconds.value = heardNow();
    },
    { immediate: false },
  );
  useEventListener(media, 'play', () => {
    playing.value = true;
    resume();
  });
  useEventListener(media, 'pause', () => {
    playing.value = false;
    rest();
    seconds.value = media.currentTime;
  });
  useEventListener(media, 'seeked', () => (seconds.value = media.currentTime));

  /** Where the song is that the recording plays; null where that is not the song. */
  const tick = computed(() => (along.laid ? songTickAt(along.laid, seconds.value) : null));
  const bar = computed(() =>
    tick.value === null ? null : (itemAt(player.bars, tick.value) ?? null),
  );
  /** The same as the stand view knows it of the song. */
  const heard = computed<Heard | null>(() => {
    const now = tick.value;
    if (!along.map || now === null) return null;
    if (!(playing.value || counting.value) || !bar.value) return null;
    const tempo = tempoAt(along.map, tickOf(along.map, seconds.value)) * speed.value;
    return { tick: now, countIn: counting.value, start: bar.value.tick, tempo };
  });

  /** The click, and what plays along, on the beats of the recording. */
  const score = computed(() => {
    const { performance, activeSong } = player;
    if (!along.laid || !performance || !activeSong || !(click.value || part.value)) return null;
    return {
      performance: part.value ? performance : { ...performance, strikes: [], landings: [] },
      family: activeSong.instrument.family,
      click: click.value ? mixer.clickMode : null,
      groove: null,
      laid: along.laid,
      levels: { ...mixer.levels },
    };
  });
  watch([score, playing], ([now, plays], [before]) => {
    if (!now || !plays) engine.stop();
    else if (before) {
      engine.update(now);
      void engine.start(now);
    } else void engine.start(now);
  });

  /** Starts and pauses so far: a count-in that was broken off begins nothing. */
  let asked = 0;
  async function play(): Promise<void> {
    asked += 1;
    const mine = asked;
    const turn = loop.value;
    if (turn && (media.currentTime < turn.from || media.currentTime >= turn.to)) {
      media.currentTime = turn.from;
    }
    media.playbackRate = speed.value;
    const { map } = along;
    if (countIn.value && map) {
      const now = tickOf(map, media.currentTime);
      const beat = 60 / (tempoAt(map, Math.max(0, now)) * speed.value);
      counting.value = true;
      await engine.countIn(pulsesPerBar(map.meter), beat, mixer.levels);
      counting.value = false;
      if (mine !== asked) return;
    }
    if (shift.value !== 0) await engine.shift(shift.value);
    await media.play();
  }
  function pause(): void {
    asked += 1;
    counting.value = false;
    engine.quietCount();
    media.pause();
  }
  function toggle(): void {
    if (media.paused && !counting.value) void play();
    else pause();
  }
  function seek(to: number): void {
    media.currentTime = Math.max(0, to);
    seconds.value = media.currentTime;
  }
  /**
   * Plays, and says where the recording would have been at a moment: so that what was captured from then on, before
   * the count-in, is laid on it.
   * @param moment milliseconds of the page's clock
   */
  async function playSince(moment: number): Promise<number> {
    await play();
    return heardNow() - ((performance.now() - moment) / 1000) * speed.value;
  }
  /**
   * Sets it up for a take: at that speed, counted in, alone and without a loop.
   * @returns puts it back as the player had it
   */
  function forTake(takeSpeed: number): () => void {
    const all = { speed, looping, countIn, click, part };
    const before = Object.entries(all).map(([, one]) => [one, one.value] as const);
    speed.value = takeSpeed;
    looping.value = false;
    countIn.value = true;
    click.value = false;
    part.value = false;
    return () => before.forEach(([one, value]) => ((one as { value: unknown }).value = value));
  }

  return {
    media,
    seconds,
    playing,
    counting,
    speed,
    shift,
    level,
    looping,
    first,
    last,
    click,
    part,
    countIn,
    tick,
    bar,
    heard,
    heardNow,
    play,
    pause,
    toggle,
    seek,
    playSince,
    forTake,
  };
});
