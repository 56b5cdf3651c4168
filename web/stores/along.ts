import { messageOf } from '#core/plain';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { Seconds, Ticks } from '#core/plain';
import {
  type BeatMap,
  type HeardLanding,
  type LaidPart,
  LONGEST_RECORDING,
  type Meter,
  type RecordingInfo,
} from '#core/schema';
import { barTicks, pulseTicks } from '#core/time';
import { guessKey, transposeChord } from '#core/neck';
import { playedBars } from '#core/song';
import { type Arrangement, arrangement } from '#core/arrange';
import {
  carryLandings,
  carryLayout,
  type ChordGuess,
  type Difference,
  differences,
  landPresses,
  layOn,
  lineOf,
  mappedBars,
  moveDownbeat,
  namedAsShapes,
  oddLandings,
  onBeats,
  pressesOf,
  readFrom,
  secondsOf,
  setDownbeat,
  shapeShift,
  stretchesOn,
  SURE_ENOUGH,
  tempoAt,
} from '#core/along';
import { decode } from '../audio/capture';
import { api } from '../remote/client';
import { alongWorker } from '../workers/along';
import { cloneForWorker } from '../workers/cloneForWorker';
import { useSongStore } from './song';

/** Samples a second that a recording is read at: enough for its beats and chords, and light in memory. */
const READ_RATE = 22_050;
/** Points of the waveform that is drawn. */
const PEAKS = 4000;
const UNDO_STEPS = 50;

/** What is known of a recording at one moment. */
interface Known {
  map: BeatMap | null;
  landings: HeardLanding[];
  /** How the song lies on it; empty where the song begins with the first bar. */
  layout: LaidPart[];
}
const NOTHING_KNOWN: Known = { map: null, landings: [], layout: [] };

/** The recording beside the open song: its sound, its beats, its landings. */
export const useAlongStore = defineStore('along', () => {
  const songs = useSongStore();
  const info = shallowRef<RecordingInfo | null>(null);
  /** What goes on: the recording is fetched, read, or its beats are found. */
  const busy = ref<string | null>('Looking for a recording.');
  const trouble = ref<string | null>(null);
  const url = computed(() =>
    info.value && songs.id ? api.recordingUrl(songs.id, info.value.madeAt) : null,
  );
  /** Loudness over the recording, -1 to 1, and its length in seconds. */
  const peaks = shallowRef<Float32Array[]>([]);
  const duration = ref(0);
  const known = shallowRef<Known>(NOTHING_KNOWN);
  const past = shallowRef<Known[]>([]);
  const future = shallowRef<Known[]>([]);
  const guesses = shallowRef<Map<number, ChordGuess[]>>(new Map());
  /** The song whose recording is open with its sound. */
  let read: string | null = null;

  function forget(): void {
    info.value = null;
    know(NOTHING_KNOWN);
    peaks.value = [];
  }
  // What is known of one song is nothing of the next, not even until that is looked for.
  watch(() => songs.id, forget, { flush: 'sync' });

  /** What is known of the recording of the open song, without its sound. */
  async function look(): Promise<void> {
    const { id } = songs;
    const found = id ? await api.readRecording(id) : null;
    if (songs.id !== id) return;
    if (found) take(found);
    else info.value = null;
    read = null;
  }

  /** Opens it with its sound, where that is not open already. */
  async function enter(): Promise<void> {
    const { id } = songs;
    if (!id || (read === id && info.value)) return;
    busy.value = 'Looking for a recording.';
    trouble.value = null;
    peaks.value = [];
    try {
      await look();
      if (info.value) await readSound();
      read = id;
    } catch (error) {
      info.value = null;
      trouble.value = messageOf(error);
    } finally {
      busy.value = null;
    }
  }

  function take(found: RecordingInfo): void {
    info.value = found;
    know({ map: found.map, landings: found.landings, layout: found.layout ?? [] });
  }
  function know(now: Known): void {
    known.value = now;
    past.value = [];
    future.value = [];
    guesses.value = new Map();
    kept.value = new Set();
  }

  /** Samples of sound bytes, in one channel. */
  async function decoded(bytes: ArrayBuffer): Promise<Float32Array<ArrayBuffer>> {
    const { samples } = await decode(bytes, READ_RATE);
    if (samples.length > LONGEST_RECORDING * READ_RATE) {
      throw new Error('A recording may last fifteen minutes.');
    }
    return samples;
  }

  async function readSound(): Promise<void> {
    if (!url.value) return;
    busy.value = 'Reading the recording.';
    const bytes = await (await fetch(url.value)).arrayBuffer();
    await hold(await decoded(bytes));
  }

  async function hold(samples: Float32Array<ArrayBuffer>): Promise<void> {
    duration.value = samples.length / READ_RATE;
    const step = Math.max(1, Math.floor(samples.length / PEAKS));
    const rows = new Float32Array(Math.ceil(samples.length / step));
    let loudest = 1e-6;
    for (let row = 0; row < rows.length; row += 1) {
      let most = 0;
      const end = Math.min(samples.length, (row + 1) * step);
      for (let at = row * step; at < end; at += 1) most = Math.max(most, Math.abs(samples[at]!));
      rows[row] = most;
      loudest = Math.max(loudest, most);
    }
    peaks.value = [rows.map((value) => value / loudest)];
    await alongWorker().open(samples, READ_RATE);
  }

  /** Keeps a file beside the song; one that the browser cannot read is not sent. */
  async function bring(file: File): Promise<void> {
    const { id } = songs;
    if (!id) return;
    busy.value = 'Reading the recording.';
    trouble.value = null;
    try {
      const samples = await decoded(await file.arrayBuffer());
      busy.value = 'Keeping the recording.';
      take(await api.keepRecording(id, file));
      await hold(samples);
    } catch (error) {
      trouble.value = messageOf(error);
    } finally {
      busy.value = null;
    }
  }

  async function remove(): Promise<void> {
    const { id } = songs;
    if (!id) return;
    await api.deleteRecording(id).catch((error: unknown) => (trouble.value = messageOf(error)));
    forget();
  }

  /** Writes are sent one after another, and the last one wins. */
  let sending: Promise<unknown> = Promise.resolve();
  function keep(next: Known): void {
    const { id } = songs;
    past.value = [...past.value.slice(1 - UNDO_STEPS), known.value];
    future.value = [];
    known.value = next;
    if (id) send(id);
  }
  function send(id: string): void {
    const now = cloneForWorker(known.value);
    sending = sending
      .then(() => api.mapRecording(id, now))
      .catch((error: unknown) => (trouble.value = messageOf(error)));
  }
  function undo(): void {
    const before = past.value.at(-1);
    if (!before || !songs.id) return;
    past.value = past.value.slice(0, -1);
    future.value = [known.value, ...future.value];
    known.value = before;
    send(songs.id);
  }
  function redo(): void {
    const [next, ...rest] = future.value;
    if (!next || !songs.id) return;
    future.value = rest;
    past.value = [...past.value, known.value];
    known.value = next;
    send(songs.id);
  }

  const map = computed(() => known.value.map);
  const landings = computed(() => known.value.landings);
  const layout = computed(() => known.value.layout);
  /** The bars of the song as they are played, and how they lie on the recording. */
  const songBars = computed(() => (songs.song ? playedBars(songs.song) : []));
  const laid = computed(() => (map.value ? layOn(map.value, layout.value, songBars.value) : null));
  const bars = computed(() => (laid.value ? mappedBars(laid.value, songBars.value) : []));
  const unsure = computed(() => bars.value.filter(({ sure }) => sure < SURE_ENOUGH));
  const tempos = computed(() => {
    const now = map.value;
    if (!now) return null;
    const all = bars.value
      .slice(0, -1)
      .map(({ pulse }) => tempoAt(now, (pulse - now.one) * pulseTicks(now.meter)));
    return all.length > 0 ? { least: Math.min(...all), most: Math.max(...all) } : null;
  });

  /** Another map: what was laid and what landed stays where it is in time. */
  function withMap(next: BeatMap): Known {
    const { map: before, landings: landed, layout: parts } = known.value;
    if (!before) return { ...known.value, map: next };
    const same = before.one === next.one && before.pulses.length === next.pulses.length;
    return {
      map: next,
      landings: same ? landed : carryLandings(landed, before, next),
      layout: carryLayout(parts, before, next),
    };
  }
  function setMap(next: BeatMap): void {
    keep(withMap(next));
  }
  function setLayout(next: LaidPart[]): void {
    keep({ ...known.value, layout: next });
  }
  /** A bar begins on this pulse: where the song is laid on it the part that sounds there is moved. */
  function setDownbeatHere(pulse: number): void {
    if (!map.value) return;
    if (layout.value.length === 0) setMap(setDownbeat(map.value, pulse));
    else setLayout(moveDownbeat(layout.value, pulse, bars.value));
  }
  /** Where the song lies in it, told by its chords; null where they do not tell. */
  async function laidBySound(on: BeatMap): Promise<LaidPart[] | null> {
    const { song } = songs;
    if (!song || peaks.value.length === 0) return null;
    const { bars: played, changes } = arrangement(song);
    return alongWorker().lay(
      cloneForWorker(on),
      cloneForWorker({ bars: played, changes }),
      -shapeShift(song),
    );
  }
  /** Looks for the song in the recording, and says so where it is not told. */
  async function findSong(): Promise<void> {
    if (!map.value) return;
    busy.value = 'Looking for the song in it.';
    trouble.value = null;
    try {
      const found = await laidBySound(map.value);
      if (found) setLayout(found);
      else trouble.value = 'By its chords the song may as well begin with the first bar.';
    } catch (error) {
      trouble.value = messageOf(error);
    } finally {
      busy.value = null;
    }
  }

  /** Finds the beats of the whole recording, or tracks them again through what was set and tapped. */
  async function findBeats(taps: Seconds[], meter: Meter): Promise<void> {
    busy.value = 'Finding the beats.';
    trouble.value = null;
    try {
      const before = map.value;
      const found = before
        ? await alongWorker().again(cloneForWorker(before), cloneForWorker(taps))
        : await alongWorker().map(cloneForWorker(taps), cloneForWorker(meter));
      if (typeof found === 'string') {
        trouble.value = found;
        return;
      }
      const next = withMap(found);
      const parts = next.layout.length > 0 ? next.layout : await laidBySound(found);
      keep({ ...next, layout: parts ?? [] });
    } catch (error) {
      trouble.value = messageOf(error);
    } finally {
      busy.value = null;
    }
  }

  /** A chord changes here, as it was pressed; what all presses are late is taken off all of them. */
  function land(seconds: Seconds, late: Seconds): void {
    const now = map.value;
    if (!now) return;
    const presses = [...pressesOf(now, landings.value), { seconds, symbol: null }];
    keep({ ...known.value, landings: landPresses(now, presses, late) });
  }
  /** Landings between the beats that nobody has been asked about yet. */
  const kept = ref<ReadonlySet<Ticks>>(new Set());
  const odd = computed(() =>
    map.value
      ? oddLandings(map.value, landings.value).filter(({ tick }) => !kept.value.has(tick))
      : [],
  );
  function leaveOdd(): void {
    kept.value = new Set([...kept.value, ...odd.value.map(({ tick }) => tick)]);
  }
  function oddToBeats(): void {
    if (!map.value) return;
    keep({ ...known.value, landings: onBeats(map.value, landings.value, odd.value) });
  }
  function name(tick: Ticks, symbol: string | null): void {
    keep({
      ...known.value,
      landings: landings.value.map((one) => (one.tick === tick ? { ...one, symbol } : one)),
    });
  }
  /** The likeliest reading for every landing that has no name yet, in one step. */
  function nameSuggested(): void {
    keep({
      ...known.value,
      landings: landings.value.map((one) => ({
        ...one,
        symbol: one.symbol ?? guesses.value.get(one.tick)?.[0]?.symbol ?? null,
      })),
    });
  }
  function drop(tick: Ticks): void {
    keep({ ...known.value, landings: landings.value.filter((one) => one.tick !== tick) });
  }

  /**
   * Readings of stretches, named as the shapes that the song would play them with.
   * @param named shapes that are known, which say the key
   */
  async function readings(
    stretches: { from: Seconds; to: Seconds; before?: string }[],
    named: string[],
  ): Promise<ChordGuess[][]> {
    const semitones = songs.song ? shapeShift(songs.song) : 0;
    const sounding = (symbol: string) => transposeChord(symbol, -semitones, false);
    const key = named.length >= 2 ? guessKey(named.map(sounding)) : null;
    const heard = stretches.map(({ before, ...stretch }) => ({
      ...stretch,
      ...(before !== undefined && { before: sounding(before) }),
    }));
    const found = await alongWorker().chords(heard, key);
    return found.map((guesses) => namedAsShapes(guesses, semitones));
  }

  /** Where the recording seems to have another chord than the song. */
  async function differing(arranged: Arrangement): Promise<Difference[]> {
    if (!laid.value || peaks.value.length === 0) return [];
    const stretches = stretchesOn(laid.value, arranged);
    const found = await readings(
      stretches.map(readFrom),
      stretches.map(({ symbol }) => symbol),
    );
    return differences(stretches, found);
  }

  /** Readings from the sound for every landing: suggestions, with how sure they are. */
  watch([landings, map, peaks], async () => {
    const now = map.value;
    if (!now || peaks.value.length === 0 || landings.value.length === 0) return;
    const all = landings.value;
    const stretches = all.map(({ tick }, index) => {
      const next = all[index + 1]?.tick ?? tick + barTicks(now.meter);
      const before = all[index - 1]?.symbol;
      return {
        from: secondsOf(now, tick),
        to: Math.min(duration.value, secondsOf(now, next)),
        ...(before && { before }),
      };
    });
    const named = all.flatMap(({ symbol }) => (symbol ? [symbol] : []));
    const found = await readings(stretches, named).catch(() => null);
    if (found && landings.value === all) {
      guesses.value = new Map(all.map(({ tick }, index) => [tick, found[index]!]));
    }
  });

  /** The tick of the recording at which the song was said to begin. */
  const songBegins = computed(() => {
    const first = layout.value.find(({ bar }) => bar !== null);
    return map.value && first ? (first.pulse - map.value.one) * pulseTicks(map.value.meter) : 0;
  });
  const line = computed(() =>
    map.value && landings.value.some(({ symbol }) => symbol !== null)
      ? lineOf(map.value, landings.value, songBegins.value)
      : null,
  );

  return {
    info,
    busy,
    trouble,
    url,
    peaks,
    duration,
    map,
    landings,
    bars,
    unsure,
    tempos,
    guesses,
    line,
    differences: differing,
    look,
    past,
    future,
    enter,
    bring,
    remove,
    undo,
    redo,
    layout,
    laid,
    songBars,
    setMap,
    setLayout,
    setDownbeatHere,
    findSong,
    findBeats,
    land,
    odd,
    leaveOdd,
    oddToBeats,
    name,
    nameSuggested,
    drop,
  };
});
