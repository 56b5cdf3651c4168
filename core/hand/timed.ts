import { interquartileRange, median, medianAbsoluteDeviation } from 'simple-statistics';
import type { Milliseconds, Seconds } from '../plain';
import { soundingLength } from '../neck';
import type { ChangeTime, Instrument, Shape } from '../schema';
import { changeDuration } from './need';

/** What one timing of a change came to. */
export interface TimedChange {
  /** Changes that count, and those that were left out as slips. */
  changes: number;
  left: number;
  /** Milliseconds from chord to chord, and the width of the middle half of them. */
  median: Milliseconds;
  spread: Milliseconds;
}

/** So many scaled deviations from the median are no longer the same thing (Iglewicz and Hoaglin, 1993). */
const OUTLIER = 3.5;
/** What makes a median absolute deviation a standard deviation of normal scatter. */
const TO_DEVIATION = 1.4826;
/** A very even hand still scatters by this much, in milliseconds. */
const LEAST_DEVIATION = 20;

/**
 * The median and spread of a timing, with slips left out: gaps farther from the median than 3.5 scaled
 * median absolute deviations.
 * @param gaps milliseconds from chord to chord; at least one
 * @example timedChange([500, 520, 480, 510, 2400]) // { changes: 4, left: 1, median: 505, spread: 18 }
 */
export function timedChange(gaps: Milliseconds[]): TimedChange {
  const middle = median(gaps);
  const deviation = Math.max(LEAST_DEVIATION, medianAbsoluteDeviation(gaps) * TO_DEVIATION);
  const kept = gaps.filter((gap) => Math.abs(gap - middle) <= OUTLIER * deviation);
  return {
    changes: kept.length,
    left: gaps.length - kept.length,
    median: Math.round(median(kept)),
    spread: Math.round(interquartileRange(kept)),
  };
}

/** Milliseconds from tap to tap. @param seconds when each chord was ready, in order */
export function gapsOf(seconds: Seconds[]): Milliseconds[] {
  return seconds
    .slice(1)
    .map((at, index) => Math.max(1, Math.round((at - seconds[index]!) * 1000)));
}

/** What is known of a player's hand. */
export interface Hand {
  /** How long it takes beside the model: 1 as the model, below that quicker. */
  factor: number;
  /** Milliseconds of the changes that were timed, by `pairOf`. */
  measured: Map<string, Milliseconds>;
}

/** A hand of which nothing is known. */
export const ANY_HAND: Hand = { factor: 1, measured: new Map() };

const held = ({ frets, fingers }: Pick<Shape, 'frets' | 'fingers'>) =>
  `${frets.map((fret) => fret ?? 'x').join('.')}:${fingers.join('')}`;

/** Two shapes in either order: a timing goes there and back. */
export function pairOf(one: Shape, other: Shape): string {
  return [held(one), held(other)].sort().join(' ');
}

const SLOWEST = 4;
const QUICKEST = 0.25;

/**
 * What the timed changes say of a hand: of each pair of shapes the latest timing, and of all of them the
 * median of what was measured over what the model gives.
 * @param timings in any order; those of other tunings say nothing of these strings
 * @example handFrom(timings, song.instrument).factor // 0.8
 */
export function handFrom(timings: ChangeTime[], instrument: Instrument): Hand {
  const { strings } = instrument;
  const scale = soundingLength(instrument);
  const own = timings
    .filter((timing) => String(timing.strings) === String(strings))
    .sort((a, b) => (a.madeAt < b.madeAt ? -1 : a.madeAt > b.madeAt ? 1 : 0));
  const latest = new Map(
    own.map((timing) => [pairOf(timing.fromShape, timing.toShape), timing] as const),
  );
  const measured = new Map<string, Milliseconds>();
  const ratios: number[] = [];
  for (const [pair, { gaps, fromShape, toShape }] of latest) {
    const found = timedChange(gaps).median;
    measured.set(pair, found);
    const there = changeDuration(fromShape, toShape, scale).ms;
    const back = changeDuration(toShape, fromShape, scale).ms;
    if (there + back > 0) ratios.push((2 * found) / (there + back));
  }
  const factor = ratios.length > 0 ? median(ratios) : 1;
  return { factor: Math.min(SLOWEST, Math.max(QUICKEST, factor)), measured };
}
