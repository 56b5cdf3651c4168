import { median, quantile } from 'simple-statistics';
import type { Seconds } from '../plain';

/** Seconds that sound takes from the device's loudspeaker into its microphone, at most. */
const LONGEST = 0.8;
/** Clicks that are as late as each other lie within this, in seconds. */
const ALIKE = 0.012;
/** The share of the clicks that has to be heard. */
const HEARD = 0.6;

/**
 * Seconds after the first at which clicks are played to be heard: so uneven that only one delay brings them all
 * under what was heard.
 */
export const ROUND_TRIP_CLICKS: readonly number[] = [0, 0.52, 1.17, 1.58, 2.34, 2.79, 3.52, 4.13];

/**
 * How long clicks take from the loudspeaker to the microphone: the delay at which most of them were heard.
 * @param clicks seconds at which they were given to the device
 * @param heard seconds at which something was heard, on the same clock
 * @returns seconds, and half the width of the middle half; null where too few of the clicks were heard
 * @example roundTrip([0, 0.5, 1.2, 1.6], [0.1, 0.6, 1.3, 1.7])!.delay // 0.1
 */
export function roundTrip(
  clicks: readonly number[],
  heard: readonly number[],
): { delay: Seconds; spread: Seconds; heard: number } | null {
  const delays = clicks.flatMap((click) =>
    heard.map((at) => at - click).filter((delay) => delay >= 0 && delay <= LONGEST),
  );
  const near = (delay: number) =>
    clicks.flatMap((click) => {
      const offs = heard.map((at) => at - click).filter((off) => Math.abs(off - delay) <= ALIKE);
      return offs.length > 0 ? [Math.min(...offs)] : [];
    });
  let best: number[] = [];
  for (const delay of delays) {
    const all = near(delay);
    if (all.length > best.length) best = all;
  }
  if (best.length === 0 || best.length < HEARD * clicks.length) return null;
  const spread = (quantile(best, 0.75) - quantile(best, 0.25)) / 2;
  return { delay: Number(median(best).toFixed(4)), spread, heard: best.length };
}
