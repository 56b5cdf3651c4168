import type { Ticks } from '../plain';
import type { Feel, Meter } from '../schema';
import { beatTicks, EIGHTH, SIXTEENTH } from './ticks';

/**
 * Swing: the first of each pair of eighths (or sixteenths) is long and the second comes late. It
 * moves what is heard in time and never the ticks: these functions go from a tick to the tick at
 * which it is heard, and back.
 */

/** Length of one note of the pair, in ticks; null where the feel has no meaning in the meter. */
function swungNote(feel: Feel, meter: Meter): Ticks | null {
  const note = feel.on === 'eighths' ? EIGHTH : SIXTEENTH;
  return beatTicks(meter) % (2 * note) === 0 ? note : null;
}

/**
 * True where a feel can be heard in a meter: eighths are swung inside a quarter, so not in 6/8.
 * @example canSwing({ on: 'eighths', percent: 67 }, METERS['6/8']) // false
 */
export function canSwing(feel: Feel, meter: Meter): boolean {
  return swungNote(feel, meter) !== null;
}

/**
 * The tick at which a place is heard; a fraction of a tick where it falls so.
 * @param tick from a bar line
 * @example swungTick(480, { on: 'eighths', percent: 75 }, METERS['4/4']) // 720
 */
export function swungTick(tick: Ticks, feel: Feel | undefined, meter: Meter): Ticks {
  const note = feel ? swungNote(feel, meter) : null;
  if (!feel || note === null || feel.percent === 50) return tick;
  const inside = ((tick % (2 * note)) + 2 * note) % (2 * note);
  const long = (2 * note * feel.percent) / 100;
  const heard =
    inside < note ? (inside * long) / note : long + ((inside - note) * (2 * note - long)) / note;
  return tick - inside + heard;
}

/**
 * The place that is heard at a tick of the clock: the inverse of `swungTick`.
 * @example straightTick(720, { on: 'eighths', percent: 75 }, METERS['4/4']) // 480
 */
export function straightTick(heard: Ticks, feel: Feel | undefined, meter: Meter): Ticks {
  const note = feel ? swungNote(feel, meter) : null;
  if (!feel || note === null || feel.percent === 50) return heard;
  const inside = ((heard % (2 * note)) + 2 * note) % (2 * note);
  const long = (2 * note * feel.percent) / 100;
  const tick =
    inside < long ? (inside * note) / long : note + ((inside - long) * note) / (2 * note - long);
  return heard - inside + tick;
}
