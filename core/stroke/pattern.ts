import type { Accent, Direction, Division, Meter, Pattern, PatternBeat, Stroke } from '../schema';
import { isCompound } from '../time';
import { naturalDirections } from './arm';
import { type Slot, slots, sounds, strokeDirection } from './grid';

export function strum(dir: Direction, accent: Accent = 'normal'): Stroke {
  return { kind: 'strum', dir, accent };
}

const MISS: Stroke = { kind: 'miss' };

function restingBeat(division: Division): PatternBeat {
  return { division, slots: Array.from({ length: division }, () => MISS) };
}

/**
 * A first pattern for a meter: a down on every number (or every count of 6/8), the rest missed, the
 * arm swinging in eighths.
 * @example newPattern(METERS['4/4'], 'Lantern strum')
 */
export function newPattern(meter: Meter, name = 'New pattern'): Pattern {
  const compound = isCompound(meter);
  const division: Division = compound ? 1 : 2;
  const empty: Pattern = {
    schema: 1,
    name,
    meter,
    beats: Array.from({ length: meter.beats }, () => restingBeat(division)),
    arm: { school: 'alternate', halfSwings: division },
  };
  const natural = naturalDirections(empty);
  return slots(empty).reduce(
    (pattern, { index, position }) =>
      position === 0 ? placeStroke(pattern, index, strum(natural[index]!)) : pattern,
    empty,
  );
}

function findSlot(pattern: Pattern, index: number): Slot {
  const slot = slots(pattern)[index];
  if (!slot) throw new RangeError(`the pattern has no slot ${index}`);
  return slot;
}

function withBeat(pattern: Pattern, index: number, beat: PatternBeat): Pattern {
  return { ...pattern, beats: pattern.beats.with(index, beat) };
}

/**
 * Puts a stroke in a slot.
 * @throws RangeError where the pattern has no such slot
 */
export function placeStroke(pattern: Pattern, index: number, stroke: Stroke): Pattern {
  const { beat, position } = findSlot(pattern, index);
  const before = pattern.beats[beat]!;
  return withBeat(pattern, beat, { ...before, slots: before.slots.with(position, stroke) });
}

/**
 * Divides a beat anew. Strokes that fall on a place of the new division stay, turned to the arm
 * where they went with it before; new places are misses.
 * @throws RangeError where the pattern has no such beat
 */
export function divideBeat(pattern: Pattern, beat: number, division: Division): Pattern {
  const before = pattern.beats[beat];
  if (!before) throw new RangeError(`the pattern has no beat ${beat + 1}`);
  const first = slots(pattern).find((slot) => slot.beat === beat)!.index;
  const oldWay = naturalDirections(pattern);
  const divided = withBeat(pattern, beat, restingBeat(division));
  const newWay = naturalDirections(divided);
  const strokes = divided.beats[beat]!.slots.map((empty, position) => {
    const from = (position * before.division) / division;
    const stroke = before.slots[from];
    if (!stroke) return empty;
    const followsArm = strokeDirection(stroke) === oldWay[first + from];
    return followsArm && 'dir' in stroke ? { ...stroke, dir: newWay[first + position]! } : stroke;
  });
  return withBeat(divided, beat, { division, slots: strokes });
}

/** Sets how loud the stroke in a slot is; a miss or a hold stays as it is. */
export function accentStroke(pattern: Pattern, index: number, accent: Accent): Pattern {
  const { stroke } = findSlot(pattern, index);
  return sounds(stroke) ? placeStroke(pattern, index, { ...stroke, accent }) : pattern;
}

/**
 * Fits a pattern to another meter: beats are dropped from the end, or the last is said again,
 * until the bar is full. Strokes keep their place and turn with the arm.
 * @example fitPattern(fourFour, METERS['3/4']).beats.length // 3
 */
export function fitPattern(pattern: Pattern, meter: Meter): Pattern {
  if (isCompound(meter) !== isCompound(pattern.meter)) return newPattern(meter, pattern.name);
  const beats = Array.from(
    { length: meter.beats },
    (_, index) => pattern.beats[Math.min(index, pattern.beats.length - 1)]!,
  );
  return { ...pattern, meter, beats };
}
