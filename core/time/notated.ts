import type { Ticks } from '../plain';
import { TICKS_PER_QUARTER } from './ticks';

/** Lengths as they are notated: what a stretch of ticks is written with. */

/** One note value. */
export interface NoteValue {
  ticks: Ticks;
  /** As MusicXML names it. */
  type: 'whole' | 'half' | 'quarter' | 'eighth' | '16th' | '32nd' | '64th' | '128th' | '256th';
  dots: 0 | 1;
  /** Three in the time of two. */
  triplet: boolean;
}

const NAMES: NoteValue['type'][] = [
  'whole',
  'half',
  'quarter',
  'eighth',
  '16th',
  '32nd',
  '64th',
  '128th',
  '256th',
];
const PLAIN = NAMES.map((type, power) => ({
  type,
  dots: 0 as const,
  triplet: false,
  ticks: (TICKS_PER_QUARTER * 4) / 2 ** power,
}));
const DOTTED = PLAIN.map((value) => ({ ...value, dots: 1 as const, ticks: value.ticks * 1.5 }));
/** Longest first; a dot is taken down to the eighth, below that notes are tied. */
const VALUES: NoteValue[] = [...PLAIN, ...DOTTED.slice(0, 4)].sort((a, b) => b.ticks - a.ticks);
const TRIPLETS: NoteValue[] = PLAIN.map((value) => ({
  ...value,
  triplet: true,
  ticks: (value.ticks * 2) / 3,
})).filter(({ ticks }) => Number.isInteger(ticks));

/** A 64th, to which odd times are moved. */
const NEAREST = TICKS_PER_QUARTER / 16;

/**
 * The nearest place in a bar that can be notated: itself on every grid that a beat is divided in, else
 * the nearest 64th.
 * @param at ticks from the bar line
 * @example nearestNotated(320) // 320
 * @example nearestNotated(331) // 360
 */
export function nearestNotated(at: number): number {
  const onGrid = at % 30 === 0 || at % 40 === 0;
  return onGrid ? at : Math.round(at / NEAREST) * NEAREST;
}

function greedy(ticks: Ticks, values: NoteValue[]): NoteValue[] | null {
  const found: NoteValue[] = [];
  let left = ticks;
  while (left > 0) {
    const value = values.find((candidate) => candidate.ticks <= left);
    if (!value) return null;
    found.push(value);
    left -= value.ticks;
  }
  return found;
}

/**
 * The note values that fill a stretch, to be tied to each other. Triplets end with their beat, so that
 * what follows begins on it.
 * @param from where it begins, in ticks from the bar line
 * @param beat length of a beat in ticks
 * @throws RangeError where no values fill it, as for a tick that is on no slot
 * @example noteValues(0, 2400, 960).map(({ type }) => type) // ['half', 'eighth']
 * @example noteValues(320, 640, 960).map(({ triplet }) => triplet) // [true]
 */
export function noteValues(from: number, ticks: Ticks, beat: number): NoteValue[] {
  const end = from + ticks;
  const found: NoteValue[] = [];
  let at = from;
  while (at < end) {
    const beatEnd = (Math.floor(at / beat) + 1) * beat;
    const onBeat = at % beat === 0;
    // Whole beats are written in one where they begin on one; what is left over goes beat by beat.
    const whole = onBeat ? Math.floor((end - at) / beat) * beat : 0;
    const stretch = whole > 0 ? whole : Math.min(end, beatEnd) - at;
    const values = greedy(stretch, VALUES) ?? greedy(stretch, TRIPLETS);
    if (!values) throw new RangeError(`no note values fill ${stretch} ticks`);
    found.push(...values);
    at += stretch;
  }
  return found;
}
