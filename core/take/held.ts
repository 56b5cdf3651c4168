import type { Strike } from '../arrange';
import { parseChord } from '../neck';
import type { Plainer } from './listen';

/** The pitches that the hand holds at each strike, and those that it held for the chord before. */
export function chordsUnder(strikes: Strike[]): {
  under: { now: number[]; before: number[] }[];
  fullest: Map<string, number[]>;
} {
  const fullest = new Map<string, number[]>();
  for (const { chord, notes, transition, run } of strikes) {
    if (!chord || transition || run) continue;
    const known = fullest.get(chord) ?? [];
    if (notes.length > known.length)
      fullest.set(
        chord,
        notes.map(({ midi }) => midi),
      );
  }
  let now: string | null = null;
  let before: string | null = null;
  const under = strikes.map(({ chord }) => {
    if (chord !== now) {
      before = now;
      now = chord;
    }
    const of = (symbol: string | null) => (symbol ? (fullest.get(symbol) ?? []) : []);
    return { now: of(now), before: of(before) };
  });
  return { under, fullest };
}

/** Semitones of a minor third, and of the two sevenths. */
const MINOR_THIRD = 3;
const SEVENTHS = [10, 11];

/** The chord that is left of one with a seventh when that is not held: G of G7, Am of Am7. */
export function plainerThan(symbol: string): Plainer | null {
  const reading = parseChord(symbol);
  const seventh = reading?.intervals.findIndex((interval) => SEVENTHS.includes(interval)) ?? -1;
  if (!reading || seventh < 0) return null;
  const minor = reading.intervals.includes(MINOR_THIRD) ? 'm' : '';
  return { symbol: reading.noteNames[0]! + minor, without: reading.tones[seventh]! };
}
