import type { Pattern } from '../schema';
import { strongBeats } from '../time';
import type { Slot } from './grid';

/**
 * How heavily a place of the meter weighs, for thinning and filling: 5 the bar's first beat, 4 another
 * strong beat, 3 any beat, 2 half a beat, 1 a third or a quarter, 0 finer.
 * @example slotWeight(pattern, slots(pattern)[0]) // 5
 */
export function slotWeight(pattern: Pattern, slot: Slot): number {
  if (slot.position === 0) {
    const place = slot.beat % pattern.meter.beats;
    if (place === 0) return 5;
    return strongBeats(pattern.meter).includes(place) ? 4 : 3;
  }
  const share = slot.position / pattern.beats[slot.beat]!.division;
  if (share === 0.5) return 2;
  return Number.isInteger(share * 4) || Number.isInteger(share * 3) ? 1 : 0;
}
