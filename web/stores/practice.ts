import { messageOf } from '#core/plain';
import { until, useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { Seconds } from '#core/plain';
import type { Hands, NewEntry, RungId, Song } from '#core/schema';
import { armReport } from '#core/pattern';
import { arrangement, type Arrangement } from '#core/arrange';
import {
  ladder,
  type NextStep,
  nextStep,
  type Rung,
  rungSong,
  type RungTake,
  rungTakeOf,
  stepRules,
} from '#core/practice';
import { takeFigures } from '#core/log';
import { api } from '../remote/client';
import { useHandStore } from './hand';
import { usePlayerStore } from './player';
import { useSongStore } from './song';
import { useTakesStore } from './takes';
import { useUnsentStore } from './unsent';
import { useViewStore } from './view';

/** Takes of the log from which the next step follows. */
const REMEMBERED = '200';
/** Milliseconds that practice waits for what the hand can do. */
const HAND_WITHIN = 2000;

/** How far ahead landings are called out. */
export type Calls = 'off' | 'beat' | 'bar';

/** The ladder of the open song: where we are on it, what comes next, and what is played. */
export const usePracticeStore = defineStore('practice', () => {
  const songs = useSongStore();
  const player = usePlayerStore();
  const takes = useTakesStore();
  const unsent = useUnsentStore();
  const hand = useHandStore();
  const view = useViewStore();

  /** True while the Practice station is open: then the rung is what is played. */
  const active = ref(false);
  const rung = ref<RungId>('song');
  const tempo = ref(80);
  const hands = ref<Hands>('both');
  /** Something that is practised beside the ladder: a tour. */
  const drill = shallowRef<Song | null>(null);
  const taken = shallowRef<RungTake[]>([]);
  /** The change that waited longest in the last takes. */
  const waited = ref<string | null>(null);
  /** What the plan of the evening asks to be played. */
  const wish = shallowRef<{ songId: string; rung: RungId; tempo: number } | null>(null);
  /** What another station asks to be played beside the ladder, at which tempo. */
  const asked = shallowRef<{ song: Song; tempo: number } | null>(null);
  const ready = ref(false);
  /** There was a take since the last step was taken. */
  const fresh = ref(false);
  const trouble = ref<string | null>(null);

  const calls = useLocalStorage<Calls>('plucky-wrist:calls', 'beat');
  const aloud = useLocalStorage('plucky-wrist:verdict-aloud', false);
  const runsOn = useLocalStorage('plucky-wrist:runs-on', false);
  /** Minutes of playing after which a pause is proposed; 0 for never. */
  const pauseAfter = useLocalStorage('plucky-wrist:pause-after', 20);
  /** Seconds that were played since the last pause. */
  const played = ref(0);

  const known = shallowRef<Arrangement | null>(null);
  const whole = computed<Arrangement | null>(() => {
    if (!active.value || !songs.song) return null;
    known.value = arrangement(songs.song, known.value);
    return known.value;
  });
  const all = computed<Rung[]>(() =>
    whole.value && whole.value.bars.length > 0 ? ladder(whole.value) : [],
  );
  /** The rungs that are climbed, in the player's order. */
  const rungs = computed<Rung[]>(() => {
    const wished = songs.song?.practice?.rungs;
    if (!wished) return all.value;
    return wished.flatMap((id) => all.value.find((one) => one.id === id) ?? []);
  });
  const now = computed(() => all.value.find(({ id }) => id === rung.value) ?? null);

  const rules = computed(() => stepRules(songs.song ?? { tempo: 80 }));
  const bounds = computed(() => ({
    ceiling: hand.found?.ceiling ?? null,
    arm: songs.song
      ? armReport(songs.song.pattern, songs.song.tempo, view.armLimit).tempoAtLimit
      : null,
  }));
  const next = computed<NextStep | null>(() =>
    rungs.value.length === 0
      ? null
      : nextStep(
          rungs.value.map(({ id }) => id),
          taken.value,
          rules.value,
          bounds.value,
        ),
  );
  const loop = computed(() => {
    const bars = player.looping ? player.loopBars : null;
    return bars && { from: bars.first + 1, to: bars.last + 1 };
  });

  /** The rung as a song of its own, at the tempo that is practised. */
  const made = computed<Song | null>(() => {
    if (!whole.value || whole.value.bars.length === 0) return null;
    return drill.value ?? rungSong(whole.value, now.value ? rung.value : 'song', hands.value);
  });
  const document = computed<Song | null>(() => made.value && { ...made.value, tempo: tempo.value });
  watch(
    document,
    (song) => {
      player.override = song && { song, setTempo: (value) => (tempo.value = value) };
    },
    { flush: 'sync' },
  );
  watch(
    [rung, hands, drill],
    () => {
      takes.rung = drill.value ? {} : { rung: rung.value, hands: hands.value };
    },
    { immediate: true, flush: 'sync' },
  );
  /** Every rung as a song at the tempo that is practised: what a take may be one of. */
  function rungSongs(): { id: RungId; song: Song }[] {
    const song = whole.value;
    if (!song) return [];
    return all.value
      .filter(({ strokes }) => strokes > 0)
      .map(({ id }) => ({ id, song: { ...rungSong(song, id, 'both'), tempo: tempo.value } }));
  }
  /** Nothing sounds in it, so nothing can be heard. */
  const silent = computed(() => player.performance?.strikes.length === 0);

  /** Goes to where the last evening ended. */
  async function begin(): Promise<void> {
    const { id } = songs;
    ready.value = false;
    drill.value = null;
    hands.value = 'both';
    const chosen = choices;
    // What is no song of the shelf has no takes to go on from.
    const asking = { kind: 'take', limit: REMEMBERED };
    // The step to take goes by what the hand can do, which is worked out meanwhile: not for long where it cannot be.
    const [page] = await Promise.all([
      id ? api.readLog({ song: id, ...asking }).catch(() => null) : null,
      id
        ? until(() => !hand.behind || hand.trouble !== null).toBe(true, { timeout: HAND_WITHIN })
        : null,
    ]);
    if (songs.id !== id || !active.value) return;
    taken.value = (page?.entries ?? [])
      .filter((entry) => entry.hands !== 'strumming' && entry.hands !== 'fretting')
      .map(rungTakeOf)
      .reverse();
    waited.value = page?.entries.find(({ change }) => change)?.change ?? null;
    const step = next.value;
    // What the player chose meanwhile stands. A loop that was set before goes on, unless the step asks for its own.
    if (step && chosen === choices)
      go({ ...step, loop: step.loop ?? inSong(before?.looping ? before.bars : null) });
    applyRequest();
    ready.value = true;
  }

  /** Does what the plan of the evening wishes for this song, once. */
  function applyRequest(): void {
    if (asked.value) {
      setOut(asked.value.song);
      tempo.value = asked.value.tempo;
      asked.value = null;
    }
    const wished = wish.value;
    if (!wished || wished.songId !== songs.id) return;
    wish.value = null;
    if (all.value.some(({ id }) => id === wished.rung)) go({ ...wished, loop: null });
  }

  /** Plays something beside the ladder, as long as it may be: a tour, a drill. */
  function setOut(song: Song): void {
    setLoop(null);
    drill.value = song;
  }

  function setLoop(bars: RungTake['loop']): void {
    if (bars) player.looping = true;
    player.loopBars = bars && { first: bars.from - 1, last: bars.to - 1 };
    player.selectedBar = bars ? bars.from - 1 : 0;
  }

  /** Bars of a loop that the song has, counted from 1; null for none. */
  function inSong(bars: { first: number; last: number } | null): RungTake['loop'] {
    const count = whole.value?.bars.length ?? 0;
    if (!bars || bars.first >= count || (bars.first === 0 && bars.last >= count - 1)) return null;
    return { from: bars.first + 1, to: Math.min(count, bars.last + 1) };
  }

  /** The bars that the last step asked for: a loop that is another is the player's own. */
  let given: RungTake['loop'] = null;

  /** Does what a step says: its rung, its tempo, its bars. */
  function go(step: Pick<NextStep, 'rung' | 'tempo' | 'loop'>): void {
    player.stop();
    fresh.value = false;
    drill.value = null;
    rung.value = step.rung;
    tempo.value = step.tempo;
    given = step.loop;
    setLoop(step.loop);
  }

  /** How often the player has chosen a rung. */
  let choices = 0;

  /** Goes to a rung that the player chooses, at the tempo that it was left at; a loop of the player's own is kept. */
  function choose(id: RungId): void {
    choices += 1;
    const own = player.looping ? inSong(player.loopBars) : null;
    const isGiven = own?.from === given?.from && own?.to === given?.to;
    const last = taken.value.findLast((take) => take.rung === id && !take.loop);
    go({
      rung: id,
      tempo: last?.tempo ?? Math.round(rules.value.goal * 0.75),
      loop: isGiven ? null : own,
    });
    if (!isGiven) given = null;
    takes.shown = null;
  }
  /** The rung before, or after; stays at the ends. */
  function stepRung(by: 1 | -1): void {
    const at = rungs.value.findIndex(({ id }) => id === rung.value);
    const other = rungs.value[at + by];
    if (other) choose(other.id);
  }

  watch(
    () => takes.latest,
    (take) => {
      if (!take || !active.value || drill.value || hands.value !== 'both') return;
      const bars = player.bars.length;
      const figures = takeFigures(take.judgement, bars);
      if (figures.change) waited.value = figures.change;
      fresh.value = true;
      taken.value = [
        ...taken.value,
        {
          rung: rung.value,
          tempo: take.tempo,
          loop: take.from === 1 && take.to >= bars ? null : { from: take.from, to: take.to },
          trouble: take.judgement.verdict.trouble,
          place: figures.place,
        },
      ];
    },
  );

  /** How it went, by the player's own word. */
  async function say(how: 'clean' | 'so-so' | 'not yet', seconds: Seconds): Promise<void> {
    const { id, title } = songs;
    const { from, to } = takes.part;
    const bars = loop.value;
    const isWhole = !bars || (from === 1 && to >= player.bars.length);
    const row: NewEntry = {
      kind: 'take',
      ...(id ? { songId: id } : { song: title ?? '' }),
      rung: rung.value,
      hands: hands.value,
      tempo: tempo.value,
      seconds: Math.min(86_400, Math.max(0, seconds)),
      trouble: how,
      whole: isWhole,
      from,
      to,
    };
    takes.shown = null;
    if (!drill.value && hands.value === 'both') {
      fresh.value = true;
      taken.value = [
        ...taken.value,
        {
          rung: rung.value,
          tempo: tempo.value,
          loop: isWhole ? null : { from, to },
          trouble: how,
          place: null,
        },
      ];
    }
    trouble.value = null;
    await unsent.giveEntry(row).catch((error: unknown) => {
      trouble.value = `This was not kept in the log: ${messageOf(error)}`;
    });
  }

  /** Where the loop of the stage bar was before practising. */
  let before: { looping: boolean; bars: { first: number; last: number } | null } | null = null;
  function enter(): void {
    before = { looping: player.looping, bars: player.loopBars };
    active.value = true;
    void begin();
  }
  function leave(): void {
    active.value = false;
    player.stop();
    player.override = null;
    takes.rung = {};
    if (before) {
      player.looping = before.looping;
      player.loopBars = before.bars;
    }
  }

  return {
    active,
    wish,
    asked,
    setOut,
    rungSongs,
    applyRequest,
    ready,
    fresh,
    rung,
    tempo,
    hands,
    drill,
    taken,
    waited,
    whole,
    all,
    rungs,
    now,
    rules,
    bounds,
    next,
    loop,
    silent,
    calls,
    aloud,
    runsOn,
    pauseAfter,
    played,
    trouble,
    go,
    choose,
    stepRung,
    setLoop,
    say,
    enter,
    leave,
  };
});
