import type { Meter } from '../schema';
import { type BeatWeight, beatTicks, beatWeights, barTicks } from '../time';

export interface ClickBeat {
  tick: number;
  weight: BeatWeight;
  /** The number counted on it, from 1. */
  number: number;
}

/**
 * The beats that fall in a span of ticks, counted from a bar line at tick 0; ticks before it, as
 * in a count-in, are counted the same way.
 * @example clickBeats(METERS['4/4'], -3840, 0).map((beat) => beat.number) // [1, 2, 3, 4]
 */
export function clickBeats(meter: Meter, from: number, to: number): ClickBeat[] {
  const beat = beatTicks(meter);
  const bar = barTicks(meter);
  const weights = beatWeights(meter);
  const beats: ClickBeat[] = [];
  for (let tick = Math.ceil(from / beat) * beat; tick < to; tick += beat) {
    const number = (((tick % bar) + bar) % bar) / beat;
    beats.push({ tick, weight: weights[number]!, number: number + 1 });
  }
  return beats;
}
