/** How late a player hears: measured by tapping along with the click. */

import type { Seconds } from '../plain';

/** Taps that are needed before anything is said. */
export const TAPS_NEEDED = 6;
/** Taps farther from a click than this, in seconds, belong to no click. */
const NEAR = 0.4;

/**
 * The delay between the click on the audio clock and the taps of someone who plays along with what is
 * heard: the middle one of all, so that a slip does not count.
 * @param taps moments of the audio clock, in seconds
 * @param clicks the same clock
 * @returns seconds, and half the spread of the middle half; null for too few taps
 * @example tappedLatency([1.1, 2.1, 3.1, 4.1, 5.1, 6.1], [1, 2, 3, 4, 5, 6]) // a delay of 0.1, and no spread
 */
export function tappedLatency(
  taps: Seconds[],
  clicks: Seconds[],
): { delay: Seconds; spread: Seconds } | null {
  const offs = taps
    .map((tap) => {
      const nearest = clicks.reduce(
        (best, click) => (Math.abs(tap - click) < Math.abs(tap - best) ? click : best),
        Infinity,
      );
      return tap - nearest;
    })
    .filter((off) => Math.abs(off) <= NEAR)
    .sort((one, other) => one - other);
  if (offs.length < TAPS_NEEDED) return null;
  const at = (share: number) => offs[Math.min(offs.length - 1, Math.floor(share * offs.length))]!;
  return { delay: Math.max(0, at(0.5)), spread: (at(0.75) - at(0.25)) / 2 };
}
