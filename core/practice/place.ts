import type { TakeJudgement } from '../schema';
import type { BarLoop } from './steps';

/** A landing that waits longer than this, in milliseconds, is worth a loop of its own. */
const WORTH = 20;

/**
 * The place of a take that gives most trouble, as a loop of its own: the bars around its worst landing, with one
 * to get in and one to get out.
 * @param bars that the song has
 * @returns null where every landing came as the other strokes did
 * @example troublesomePlace(judgement, 16) // { from: 3, to: 5, change: 'C to F', late: 62 }, say
 */
export function troublesomePlace(
  { byChange }: Pick<TakeJudgement, 'byChange'>,
  bars: number,
): (BarLoop & { change: string; late: number }) | null {
  const worst = byChange
    .filter(({ median, bars: where }) => median !== null && median >= WORTH && where.length > 0)
    .sort((a, b) => b.median! - a.median!)[0];
  if (!worst) return null;
  const bar = worst.bars[0]!;
  return {
    from: Math.max(1, bar - 1),
    to: Math.min(bars, bar + 1),
    change: `${worst.from} to ${worst.to}`,
    late: Math.round(worst.median!),
  };
}
