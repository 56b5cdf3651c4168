import type { SecondsPerTick, Ticks } from '../plain';
import type { Meter } from '../schema';

/** Ticks to the quarter note. Divides evenly by 2, 3, 4, 6 and 8, so every slot is a whole tick. */
export const TICKS_PER_QUARTER = 960;
export const EIGHTH = 480;
export const SIXTEENTH = 240;

/**
 * Length of one counted beat in ticks.
 * @example beatTicks(METERS['6/8']) // 480, an eighth note
 */
export function beatTicks(meter: Meter): Ticks {
  return (TICKS_PER_QUARTER * 4) / meter.unit;
}

/**
 * Length of a bar in ticks.
 * @example barTicks(METERS['3/4']) // 2880
 */
export function barTicks(meter: Meter): Ticks {
  return beatTicks(meter) * meter.beats;
}

/** True where eighths (or sixteenths) are felt in groups of three: 6/8, 9/8, 12/8. */
export function isCompound(meter: Meter): boolean {
  return meter.unit >= 8 && meter.groups.every((size) => size === 3);
}

/**
 * Length of the pulse that the tempo counts, in ticks: the beat, or three beats in compound meter,
 * as the dotted quarter of 6/8 is what the foot taps.
 * @example pulseTicks(METERS['6/8']) // 1440
 */
export function pulseTicks(meter: Meter): Ticks {
  return beatTicks(meter) * (isCompound(meter) ? 3 : 1);
}

/**
 * Seconds that one tick lasts.
 * @param tempo pulses a minute
 * @example secondsPerTick(90, METERS['4/4']) * 960 // 0.667 s for a quarter
 */
export function secondsPerTick(tempo: number, meter: Meter): SecondsPerTick {
  return 60 / tempo / pulseTicks(meter);
}
