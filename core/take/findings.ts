import { median, wilcoxonRankSum } from 'simple-statistics';
import type { Milliseconds } from '../plain';
import type { Arrangement } from '../arrange';
import type { TakeJudgement, Trouble } from '../schema';
import type { Judged } from './groups';
import { isAfterMiss, isLanding } from './kinds';

/** Something that was played between the strokes that were meant. */
export interface Added {
  seconds: number;
  /** The stroke before it, by its place among those that were played. */
  after: number;
}

/** What a verdict is drawn from. */
export interface Evidence {
  arranged: Arrangement;
  played: Judged[];
  tolerance: Milliseconds;
  added: Added[];
  /** Where the player stopped and went on from there, by the stroke before which it was. */
  stops: { at: number; seconds: number }[];
  /** Per cent above the tempo that was asked for. */
  tempo: { start: number; mean: number; end: number };
  tempoError: number;
  byChange: TakeJudgement['byChange'];
  /** The place of each stroke in its bar, in words. */
  place: (one: Judged) => string;
}

/** Something that is wrong, with the strokes that show it. */
export interface Found {
  trouble: Trouble;
  hand: TakeJudgement['verdict']['hand'];
  sentence: string;
  /** How far beyond its limit, 1 at the limit. */
  weight: number;
  /** The strokes that it is about. */
  strokes: Judged[];
  /** The bar that it is heard in, from 1, where it is of one place of the song. */
  bar?: number;
  /** The change that it is about. */
  change?: { from: string; to: string };
}

/** Of something that stands out, so many there have to be. */
export const FEWEST_OF = 3;
/** Of a place, a change or a kind of stroke, more than this share may not be missing. */
export const MAX_MISSING = 0.25;
/** Deviations from chance of a rank sum: one in two thousand. */
export const CHANCE = 3.3;

export const heardOf = (strokes: Judged[]) => strokes.filter(({ heard }) => heard !== null);
export const offsOf = (strokes: Judged[]): number[] =>
  strokes.flatMap(({ heard }) => (heard ? [heard.off] : []));
export const landed = ({ strike, before }: Judged) => isLanding(strike, before);
export const afterMiss = ({ strike, before }: Judged) => isAfterMiss(strike, before);
/** A stroke that was meant, counts, and was not heard. */
export const isMissing = ({ heard, counts }: Judged) => heard === null && counts;

/** Scatter as a standard deviation, from the median absolute deviation. */
export function deviation(values: number[]): number {
  if (values.length < 2) return 0;
  const middle = median(values);
  return 1.4826 * median(values.map((value) => Math.abs(value - middle)));
}

/**
 * How far apart two groups are, in deviations from chance: the rank-sum test of Wilcoxon, Mann and Whitney with its
 * normal approximation.
 */
export function apart(one: number[], other: number[]): number {
  const [m, n] = [one.length, other.length];
  if (m < 2 || n < 4) return 0;
  const sum = wilcoxonRankSum(one, other);
  const mean = (m * (m + n + 1)) / 2;
  return (sum - mean) / Math.sqrt((m * n * (m + n + 1)) / 12);
}

/** Strokes gathered by a word for each. */
export function gathered(strokes: Judged[], key: (one: Judged) => string): Map<string, Judged[]> {
  const groups = new Map<string, Judged[]>();
  for (const one of strokes) {
    const name = key(one);
    const known = groups.get(name);
    if (known) known.push(one);
    else groups.set(name, [one]);
  }
  return groups;
}

/** The middle of some lateness, in words. */
export const lateWords = (off: Milliseconds) =>
  `${Math.round(Math.abs(off))} ms ${off > 0 ? 'late' : 'early'}`;

/** The bar, from 1, in which most of some strokes lie. */
export function densestBar(strokes: Judged[]): number | undefined {
  const bars = gathered(strokes, ({ strike }) => String(strike.bar));
  let best: Judged[] = [];
  for (const some of bars.values()) if (some.length > best.length) best = some;
  return best[0] && best[0].strike.bar + 1;
}
