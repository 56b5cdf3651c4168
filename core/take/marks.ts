import type { Ticks } from '../plain';
import type { Strike } from '../arrange';
import { isLanding } from './kinds';

/** What was struck while a take runs, as it is drawn. */
export interface Mark {
  /** Where it was struck, in ticks of the song. */
  tick: Ticks;
  /** In time, early or late in the territory of a stroke, or one more where that stroke was played already. */
  is: 'in time' | 'early' | 'late' | 'added';
  /** The stroke is one with which a chord arrives. */
  landing: boolean;
  /** The stroke, by its place among the strikes; -1 for one that was added. */
  strike: number;
}

/**
 * What was struck, laid on the strokes whose territory it is in: half-way to their neighbours, as the judge has them. So a
 * late landing is a late mark, and never one too many.
 * @param strikes in order, with the ticks that swing delays them
 * @param struck ticks of the song, in the order in which they came
 * @param tolerance ticks within which a stroke is on time
 * @example marksOf(strikes, [0, 970], 60)[1].is // 'late' or 'in time'
 */
export function marksOf(
  strikes: readonly Strike[],
  struck: readonly Ticks[],
  tolerance: Ticks,
): Mark[] {
  const places = strikes.map(({ tick, late }) => tick + late);
  const taken = new Set<number>();
  return struck.map((tick) => {
    let [low, high] = [0, places.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (places[middle]! < tick) low = middle + 1;
      else high = middle;
    }
    const [before, after] = [places[low - 1], places[low]];
    const nearer =
      after !== undefined && (before === undefined || after - tick < tick - before) ? low : low - 1;
    const strike = strikes[nearer];
    if (!strike || taken.has(nearer)) return { tick, is: 'added', landing: false, strike: -1 };
    taken.add(nearer);
    const off = tick - places[nearer]!;
    return {
      tick,
      is: Math.abs(off) <= tolerance ? 'in time' : off > 0 ? 'late' : 'early',
      landing: isLanding(strike, strikes[nearer - 1]),
      strike: nearer,
    };
  });
}
