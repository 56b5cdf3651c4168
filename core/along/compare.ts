import type { Arrangement } from '../arrange';
import { isNoChord, parseChord, transposeChord, usesFlats, guessKey } from '../neck';
import { ordinal, type Seconds, type Ticks } from '../plain';
import type { BeatMap, Song } from '../schema';
import { itemAt } from '../song';
import type { ChordGuess } from './chordEar';
import { secondsOf } from './beatMap';

/** A chord of the song, as long as it is held, and where it lies in the recording. */
export interface Stretch {
  tick: Ticks;
  symbol: string;
  /** Seconds of the recording. */
  from: Seconds;
  to: Seconds;
  /** The bar as it is played, from 1, and which time its section comes round. */
  bar: number;
  section: string;
  time: number;
}

/** A place at which the recording has another chord than the song. */
export interface Difference extends Stretch {
  /** What was heard instead, and how sure that is, 0 to 1. */
  heard: string;
  sure: number;
  /** One sentence. */
  says: string;
}

/** A passage of the song in the recording: bars from 1, seconds. */
export interface HeardPassage {
  section: string;
  time: number;
  first: number;
  last: number;
  from: Seconds;
  to: Seconds;
}

/** Where every passage of the song lies in the recording, as far as that goes. */
export function passagesOn(map: BeatMap, { bars, song }: Arrangement): HeardPassage[] {
  const end = map.pulses.at(-1)!;
  const found: HeardPassage[] = [];
  const times = new Map<number, number>();
  let passage = -1;
  for (const bar of bars) {
    const from = secondsOf(map, bar.tick);
    if (from >= end) break;
    const to = Math.min(end, secondsOf(map, bar.tick + bar.ticks));
    if (bar.passage !== passage) {
      passage = bar.passage;
      const time = (times.get(bar.section) ?? 0) + 1;
      times.set(bar.section, time);
      const section = song.sections[bar.section]!.name;
      found.push({ section, time, first: bar.index + 1, last: bar.index + 1, from, to });
    } else Object.assign(found.at(-1)!, { last: bar.index + 1, to });
  }
  return found;
}

/** Every chord of the song where it lies in the recording, as far as that goes. */
export function stretchesOn(map: BeatMap, arranged: Arrangement): Stretch[] {
  const { bars, changes } = arranged;
  const last = bars.at(-1);
  if (!last) return [];
  const end = last.tick + last.ticks;
  const until = map.pulses.at(-1)!;
  const passages = passagesOn(map, arranged);
  return changes.flatMap(({ tick, symbol }, index) => {
    const from = secondsOf(map, tick);
    const bar = itemAt(bars, tick);
    if (from >= until || !bar || isNoChord(symbol)) return [];
    const to = Math.min(until, secondsOf(map, changes[index + 1]?.tick ?? end));
    const number = bar.index + 1;
    const passage = passages.find(({ first, last: latest }) => first <= number && number <= latest);
    if (!passage) return [];
    const { section, time } = passage;
    return [{ tick, symbol, from, to, bar: number, section, time }];
  });
}

/** How sure a reading must be before the recording is said to have another chord. */
const SURE = 0.55;

/** True for chords with the same root and the same third: what else is in them an ear cannot be sure of. */
function alike(one: string, other: string): boolean {
  const [a, b] = [parseChord(one), parseChord(other)];
  if (!a || !b) return one === other;
  const third = (tones: number[], root: number) =>
    tones.map((tone) => (tone - root + 12) % 12).find((step) => step === 3 || step === 4);
  return a.root === b.root && third(a.tones, a.root) === third(b.tones, b.root);
}

/**
 * Where the recording seems to have another chord than the song: the third time of a verse, say. A chord that is
 * among the readings counts as agreeing.
 * @param guesses readings of each stretch, named as the song names its shapes
 * @example differences(stretchesOn(map, arranged), guesses)[0]?.says // 'Bar 22, the third time of Verse: ...'
 */
export function differences(stretches: Stretch[], guesses: ChordGuess[][]): Difference[] {
  const found = stretches.flatMap((stretch, index) => {
    const [best] = guesses[index] ?? [];
    const agrees = (guesses[index] ?? []).some(({ symbol }) => alike(symbol, stretch.symbol));
    if (!best || agrees || best.sure < SURE) return [];
    return [{ ...stretch, heard: best.symbol, sure: best.sure }];
  });
  const comesRound = new Set(
    stretches.filter(({ time }) => time > 1).map(({ section }) => section),
  );
  return found.map((one) => {
    const name = one.section === '' ? 'this part' : one.section;
    const where = comesRound.has(one.section) ? `, the ${ordinal(one.time)} time of ${name}` : '';
    const percent = Math.round(one.sure * 100);
    const says = `Bar ${one.bar}${where}: ${one.heard} was heard (${percent} % sure), the song has ${one.symbol}.`;
    return { ...one, says };
  });
}

/**
 * Semitones from a chord as it sounds in the recording to the shape that plays it: a capo and a tuning that is
 * higher make the shape lower, and so the other way round.
 * @param shift semitones by which the recording is played higher
 */
export function shapeShift(
  { capo, instrument }: Pick<Song, 'capo' | 'instrument'>,
  shift = 0,
): number {
  return shift - capo - instrument.offset;
}

/** Readings as the song names its shapes. */
export function namedAsShapes(guesses: ChordGuess[], semitones: number): ChordGuess[] {
  if (semitones === 0) return guesses;
  return guesses.map(({ symbol, sure }) => {
    const flats = usesFlats(guessKey([transposeChord(symbol, semitones, false)]));
    return { symbol: transposeChord(symbol, semitones, flats), sure };
  });
}
