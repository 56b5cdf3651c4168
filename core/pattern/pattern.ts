import {
  type Accent,
  type Arm,
  type Build,
  type Direction,
  type Division,
  type Meter,
  MAX_BEATS,
  type Pattern,
  type PatternBeat,
  type Stroke,
} from '../schema';
import { beatTicks, isCompound, sameMeter } from '../time';
import {
  fromRelative,
  joinBeats,
  naturalDirections,
  RELATIVE_MISS,
  type RelativeBeat,
  restingBeat,
  type Slot,
  slots,
  sounds,
  splitBeat,
  toRelative,
} from '../stroke';

export function strum(dir: Direction, accent: Accent = 'normal'): Stroke {
  return { kind: 'strum', dir, accent };
}

/** Meters whose counts are eighths, and count cycles, start with one slot a count. */
function firstGrid(meter: Meter): { division: Division; arm: Arm } {
  if (meter.cycle) return { division: 1, arm: { school: 'alternate', halfSwings: 2 } };
  const division: Division = isCompound(meter) || meter.unit >= 8 ? 1 : 2;
  return { division, arm: { school: 'alternate', halfSwings: division } };
}

/**
 * A first pattern for a meter: a down on every number (or every count of 6/8), the rest missed, the
 * arm swinging in eighths.
 * @example newPattern(METERS['4/4'], 'Lantern strum')
 */
export function newPattern(meter: Meter, name = 'New pattern'): Pattern {
  const { division, arm } = firstGrid(meter);
  const empty: Pattern = {
    schema: 9,
    name,
    meter,
    beats: Array.from({ length: meter.beats }, () => restingBeat(division)),
    arm,
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
  if (!slot) throw new RangeError(`the pattern has no place ${index}`);
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
  const relative = toRelative(pattern);
  const before = relative[beat];
  if (!before) throw new RangeError(`the pattern has no beat ${beat + 1}`);
  const strokes = Array.from({ length: division }, (_, position) => {
    const from = (position * before.division) / division;
    return before.slots[from] ?? RELATIVE_MISS;
  });
  // The other beats stay as they are, whichever way the arm now comes to them.
  const kept = relative.map((one) => ({
    ...one,
    slots: one.slots.map((each) => ({ ...each, follows: false })),
  }));
  return fromRelative(pattern, kept.with(beat, { division, slots: strokes }));
}

/** Sets how loud the stroke in a slot is; a miss or a hold stays as it is. */
export function accentStroke(pattern: Pattern, index: number, accent: Accent): Pattern {
  const { stroke } = findSlot(pattern, index);
  return sounds(stroke) ? placeStroke(pattern, index, { ...stroke, accent }) : pattern;
}

/** Builds that still lie inside a pattern of so many beats. */
function buildsWithin(builds: Build[] | undefined, beats: number): Build[] {
  return (builds ?? [])
    .filter(({ beat }) => beat < beats)
    .map((build) => ({ ...build, beats: Math.min(build.beats, beats - build.beat) }));
}

function withBuilds(pattern: Pattern, builds: Build[]): Pattern {
  const { builds: _, ...rest } = pattern;
  return builds.length > 0 ? { ...rest, builds } : rest;
}

/**
 * The pattern with other beats; what it says of single beats is kept where they still are.
 * @throws RangeError where they are none, or too many
 */
export function withBeats(pattern: Pattern, beats: RelativeBeat[]): Pattern {
  if (beats.length === 0 || beats.length > MAX_BEATS) {
    throw new RangeError(`a pattern has 1 to ${MAX_BEATS} beats, not ${beats.length}`);
  }
  return withBuilds(fromRelative(pattern, beats), buildsWithin(pattern.builds, beats.length));
}

/**
 * Makes a pattern longer, saying it again from its start, or cuts it.
 * @param beats its new length
 * @example setLength(oneBar, 8).beats.length // 8
 */
export function setLength(pattern: Pattern, beats: number): Pattern {
  const relative = toRelative(pattern);
  return withBeats(
    pattern,
    Array.from({ length: beats }, (_, beat) => relative[beat % relative.length]!),
  );
}

/**
 * The lengths a pattern can have in a meter: half a bar, where it has one, to eight bars.
 * @example patternLengths(METERS['3/4'])[0] // { label: '1 bar', beats: 3 }
 */
export function patternLengths(meter: Meter): { label: string; beats: number }[] {
  const whole = Array.from({ length: 8 }, (_, index) => ({
    label: index === 0 ? '1 bar' : `${index + 1} bars`,
    beats: (index + 1) * meter.beats,
  }));
  const half = meter.beats % 2 === 0 ? [{ label: 'half a bar', beats: meter.beats / 2 }] : [];
  return [...half, ...whole.filter(({ beats }) => beats <= MAX_BEATS)];
}

/** Beats written in another note value: quarters as eighths, or eighths as quarters. */
function inUnit(beats: RelativeBeat[], from: Meter, to: Meter): RelativeBeat[] | null {
  const ratio = beatTicks(from) / beatTicks(to);
  // A count of a cycle is a count, whatever note it is written as.
  if (ratio === 1 || from.cycle || to.cycle) return beats;
  if (ratio === 2) {
    const split = beats.map(splitBeat);
    return split.every((pair) => pair !== null) ? split.flat() : null;
  }
  if (ratio !== 0.5) return null;
  const joined: RelativeBeat[] = [];
  for (let beat = 0; beat < beats.length; beat += 2) {
    const pair = joinBeats(beats[beat]!, beats[beat + 1] ?? beats[beat]!);
    if (!pair) return null;
    joined.push(pair);
  }
  return joined;
}

/**
 * Fits a pattern to another meter, bar by bar: beats are dropped from the end of each, or its last is
 * said again, until the bar is full. Quarters become eighths where the count is in eighths. Strokes
 * keep their place and turn with the arm; where nothing can be kept it starts anew.
 * @example fitPattern(fourFour, METERS['3/4']).beats.length // 3
 */
export function fitPattern(pattern: Pattern, meter: Meter): Pattern {
  if (sameMeter(pattern.meter, meter)) return pattern;
  const perBar = pattern.meter.beats;
  const relative = toRelative(pattern);
  const bars: RelativeBeat[][] = [];
  for (let beat = 0; beat < relative.length; beat += perBar) {
    const bar = inUnit(relative.slice(beat, beat + perBar), pattern.meter, meter);
    if (!bar)
      return { ...newPattern(meter, pattern.name), ...(pattern.tags && { tags: pattern.tags }) };
    bars.push(bar);
  }
  const most = Math.min(8, Math.floor(MAX_BEATS / meter.beats));
  const beats = bars
    .slice(0, most)
    .flatMap((bar) =>
      Array.from({ length: meter.beats }, (_, beat) => bar[Math.min(beat, bar.length - 1)]!),
    );
  const sameUnit = meter.unit === pattern.meter.unit;
  const arm = sameUnit ? pattern.arm : { ...firstGrid(meter).arm, school: pattern.arm.school };
  return withBeats({ ...pattern, meter, arm }, beats);
}
