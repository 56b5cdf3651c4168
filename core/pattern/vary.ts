import { type Division, type Meter, MAX_BEATS, type Pattern, type Stroke } from '../schema';
import { backBeats, isCompound, METERS, sameMeter, strongBeats } from '../time';
import {
  isLoud,
  joinBeats,
  MISS,
  naturalDirections,
  type RelativeBeat,
  relativeStrokes,
  type Slot,
  slots,
  slotWeight,
  sounds,
  splitBeat,
  strokeDirection,
  toRelative,
  withStrokes,
} from '../stroke';
import { fitPattern, placeStroke, setLength, strum, withBeats } from './pattern';
import { anotherAfterRoot, partialSweep, pickedLeadIn, twoToThree } from './varyPicked';

/**
 * Variations: one press each. Every one is a function from a pattern to another; where it has nothing
 * to do it gives the same pattern back, and where it cannot be done it gives null.
 */
export interface Variation {
  id: string;
  name: string;
  /** What it does, in a few words. */
  says: string;
  group: 'easier' | 'fuller' | 'time' | 'meter' | 'strokes' | 'picked';
  apply: (pattern: Pattern) => Pattern | null;
}

function mapSlots(pattern: Pattern, change: (slot: Slot) => Stroke): Pattern {
  return slots(pattern).reduce((varied, slot) => {
    const stroke = change(slot);
    return stroke === slot.stroke ? varied : placeStroke(varied, slot.index, stroke);
  }, pattern);
}

/** The stroke itself where it has none of those parts. */
function withoutParts(stroke: Stroke, parts: string[]): Stroke {
  if (!parts.some((part) => part in stroke)) return stroke;
  const kept = Object.entries(stroke).filter(([key]) => !parts.includes(key));
  return Object.fromEntries(kept) as Stroke;
}

/** A stroke without what is an ornament on it; a roll becomes a strum, a tap and a ghost fall away. */
function plain(stroke: Stroke): Stroke {
  switch (stroke.kind) {
    case 'roll':
      return { kind: 'strum', dir: stroke.dir, accent: stroke.accent };
    case 'tap':
    case 'legato':
      return MISS;
    case 'strum':
    case 'chuck':
    case 'bass':
    case 'pick': {
      if (stroke.accent === 'ghost') return MISS;
      return withoutParts(stroke, ['tap', 'palm', 'grace', 'moreGraces', 'rest']);
    }
    default:
      return stroke;
  }
}

function thinned(pattern: Pattern, keeps: (slot: Slot) => boolean): Pattern {
  return mapSlots(pattern, (slot) => {
    if (!sounds(slot.stroke)) return slot.stroke;
    return keeps(slot) ? plain(slot.stroke) : MISS;
  });
}

/** Only what falls on a beat; the arm goes on. */
export const beatsOnly = (pattern: Pattern): Pattern =>
  thinned(pattern, ({ position }) => position === 0);

/** The beats, and the off-beats that are accented. */
export const beatsAndMarked = (pattern: Pattern): Pattern =>
  thinned(pattern, ({ position, stroke }) => position === 0 || isLoud(stroke));

/** All of it, without taps, palm muting, rolls and strokes that are barely heard. */
export const withoutOrnaments = (pattern: Pattern): Pattern => thinned(pattern, () => true);

/**
 * All of it, with what the fretting hand sounds by itself left out: hammer-ons, pull-offs, slides and graces. The
 * arm goes on.
 * @example sayPattern(withoutLegato(said('s3f0 hammer:s3f2, down up, down up, down up'))) // 's3f0 miss, down up, ...'
 */
export const withoutLegato = (pattern: Pattern): Pattern =>
  mapSlots(pattern, ({ stroke }) =>
    stroke.kind === 'legato' ? MISS : withoutParts(stroke, ['grace', 'moreGraces']),
  );

/**
 * Fills the misses that weigh most, all of one weight at a press, with strums that go with the arm.
 * @example fuller(newPattern(METERS['4/4'])) // the &s filled: eighths throughout
 */
export function fuller(pattern: Pattern): Pattern {
  const missing = slots(pattern).filter(({ stroke }) => stroke.kind === 'miss');
  const heaviest = Math.max(...missing.map((slot) => slotWeight(pattern, slot)));
  const natural = naturalDirections(pattern);
  return missing
    .filter((slot) => slotWeight(pattern, slot) === heaviest)
    .reduce((filled, { index }) => placeStroke(filled, index, strum(natural[index]!)), pattern);
}

function withArm(pattern: Pattern, halfSwings: number): Pattern {
  const fits = [1, 2, 3, 4, 6, 8].includes(halfSwings);
  return fits
    ? { ...pattern, arm: { ...pattern.arm, halfSwings: halfSwings as Division } }
    : pattern;
}

/** Every stroke twice as long: the pattern takes twice as many beats. Null where a beat of three is in it. */
export function halfTime(pattern: Pattern): Pattern | null {
  const split = toRelative(pattern).map(splitBeat);
  if (split.some((pair) => pair === null) || split.length * 2 > MAX_BEATS) return null;
  return withBeats(
    withArm(pattern, pattern.arm.halfSwings / 2),
    split.flatMap((pair) => pair!),
  );
}

/**
 * Every stroke half as long; what then remains of the last bar is filled by saying it again. Null where
 * the beats are too fine to be joined.
 */
export function doubleTime(pattern: Pattern): Pattern | null {
  const relative = toRelative(pattern);
  const twice = relative.length % 2 === 0 ? relative : [...relative, ...relative];
  const joined: RelativeBeat[] = [];
  for (let beat = 0; beat < twice.length; beat += 2) {
    const pair = joinBeats(twice[beat]!, twice[beat + 1]!);
    if (!pair) return null;
    joined.push(pair);
  }
  const faster = withArm(pattern, pattern.arm.halfSwings * 2);
  const squeezed = withBeats({ ...faster, builds: undefined }, joined);
  const bar = pattern.meter.beats;
  const half = pattern.beats.length < bar ? joined.length : Math.ceil(joined.length / bar) * bar;
  return setLength(squeezed, half);
}

function otherMeter(pattern: Pattern, meter: Meter, beats: number): Pattern {
  return withBeats({ ...pattern, meter }, toRelative(setLength(pattern, beats)));
}

/** 4/4 to 3/4, 3/4 to 2/4, 12/8 to 9/8 to 6/8: the last beat (or group of three) of each bar goes. */
export function dropBeat(pattern: Pattern): Pattern | null {
  const smaller = neighbourMeter(pattern.meter, -1);
  return smaller && fitPattern(pattern, smaller);
}

/** 3/4 to 4/4 and so on: the last beat (or group of three) of each bar is said again. */
export function addBeat(pattern: Pattern): Pattern | null {
  const larger = neighbourMeter(pattern.meter, 1);
  if (!larger) return null;
  if (!isCompound(larger)) return fitPattern(pattern, larger);
  const perBar = pattern.meter.beats;
  const relative = toRelative(pattern);
  const beats: RelativeBeat[] = [];
  for (let beat = 0; beat < relative.length; beat += perBar) {
    const bar = relative.slice(beat, beat + perBar);
    beats.push(...bar, ...bar.slice(-3));
  }
  return beats.length > MAX_BEATS ? null : withBeats({ ...pattern, meter: larger }, beats);
}

const CHAINS: Meter[][] = [
  [METERS['2/4'], METERS['3/4'], METERS['4/4'], METERS['5/4']],
  [METERS['6/8'], METERS['9/8'], METERS['12/8']],
];

function neighbourMeter(meter: Meter, by: 1 | -1): Meter | null {
  for (const chain of CHAINS) {
    const at = chain.findIndex((other) => sameMeter(other, meter));
    if (at >= 0) return chain[at + by] ?? null;
  }
  return null;
}

/** 6/8 as two bars of 3/4: every eighth becomes a beat. Two bars of 3/4 become one of 6/8. */
export function betweenSixAndThree(pattern: Pattern): Pattern | null {
  const { meter } = pattern;
  if (sameMeter(meter, METERS['6/8']))
    return otherMeter(pattern, METERS['3/4'], pattern.beats.length);
  if (!sameMeter(meter, METERS['3/4'])) return null;
  const even = Math.ceil(pattern.beats.length / 6) * 6;
  return even > MAX_BEATS ? null : otherMeter(pattern, METERS['6/8'], even);
}

/** 6/8 as half a bar of 12/8; 12/8 as two bars of 6/8. */
export function betweenSixAndTwelve(pattern: Pattern): Pattern | null {
  const { meter, beats } = pattern;
  if (sameMeter(meter, METERS['6/8'])) return otherMeter(pattern, METERS['12/8'], beats.length);
  if (!sameMeter(meter, METERS['12/8'])) return null;
  return otherMeter(pattern, METERS['6/8'], beats.length);
}

/**
 * Begins a slot (or, where beats are divided differently, a beat) later: what was first comes last.
 * The arm stays where it is, and strokes that went with it still do.
 */
export function rotate(pattern: Pattern): Pattern {
  const rows = new Set(pattern.beats.map(({ division }) => division));
  if (rows.size > 1) {
    const relative = toRelative(pattern);
    return withBeats(pattern, [...relative.slice(1), relative[0]!]);
  }
  const strokes = relativeStrokes(pattern);
  return withStrokes(pattern, [...strokes.slice(1), strokes[0]!]);
}

/** Bass strikes for the strums on the strong beats; from the second on the alternate bass. */
export function bassOnStrong(pattern: Pattern): Pattern {
  const strong = strongBeats(pattern.meter);
  return mapSlots(pattern, ({ beat, position, stroke }) => {
    const order = strong.indexOf(beat % pattern.meter.beats);
    const strummed = stroke.kind === 'strum' && stroke.dir === 'down';
    if (position !== 0 || order < 0 || !strummed) return stroke;
    const { accent } = stroke;
    return order === 0 ? { kind: 'bass', accent } : { kind: 'bass', accent, note: 'alternate' };
  });
}

/** Chucks on the back-beat. */
export function chuckBackBeat(pattern: Pattern): Pattern {
  const back = backBeats(pattern.meter);
  const natural = naturalDirections(pattern);
  return mapSlots(pattern, ({ index, beat, position, stroke }) =>
    position === 0 && back.includes(beat % pattern.meter.beats) && stroke.kind !== 'chuck'
      ? { kind: 'chuck', dir: natural[index]!, accent: isLoud(stroke) ? 'accent' : 'normal' }
      : stroke,
  );
}

/** A kick into the next chord: the last eighth of the pattern becomes two sixteenths. */
export function kickAtEnd(pattern: Pattern): Pattern | null {
  const relative = toRelative(pattern);
  const last = relative.at(-1)!;
  const eighths = pattern.meter.unit >= 8 ? 1 : 2;
  if (last.division !== eighths && last.division !== 1) return null;
  const division = (eighths * 2) as Division;
  const kick = { stroke: strum('down'), follows: true };
  const kept = Array.from({ length: division - 2 }, (_, position) =>
    position === 0 ? last.slots[0]! : { stroke: MISS, follows: false },
  );
  const beats = relative.with(-1, { division, slots: [...kept, kick, kick] });
  return withBeats(pattern, beats);
}

/** The first half of the pattern's first bar, for a bar that two chords share. Null in a bar of one beat. */
export function halveForSplit(pattern: Pattern): Pattern | null {
  const half = Math.ceil(Math.min(pattern.beats.length, pattern.meter.beats) / 2);
  return half === pattern.beats.length
    ? null
    : withBeats(pattern, toRelative(pattern).slice(0, half));
}

/** Every stroke down, and an arm that means it. */
export function allDowns(pattern: Pattern): Pattern {
  const driven: Pattern = { ...pattern, arm: { ...pattern.arm, school: 'all-downs' } };
  return mapSlots(driven, ({ stroke }) =>
    strokeDirection(stroke) === 'up' ? ({ ...stroke, dir: 'down' } as Stroke) : stroke,
  );
}

export const VARIATIONS: Variation[] = [
  {
    id: 'beats',
    name: 'Beats only',
    says: 'what falls on a number; the arm goes on',
    group: 'easier',
    apply: beatsOnly,
  },
  {
    id: 'relative',
    name: 'Beats and marked off-beats',
    says: 'the accented off-beats stay too',
    group: 'easier',
    apply: beatsAndMarked,
  },
  {
    id: 'plain',
    name: 'Without ornaments',
    says: 'no taps, rolls, palm muting or ghost strokes',
    group: 'easier',
    apply: withoutOrnaments,
  },
  {
    id: 'legato',
    name: 'Without legato',
    says: 'no hammer-ons, pull-offs and slides; the arm goes on',
    group: 'easier',
    apply: withoutLegato,
  },
  {
    id: 'fuller',
    name: 'Fuller',
    says: 'fills the misses that weigh most',
    group: 'fuller',
    apply: fuller,
  },
  {
    id: 'half',
    name: 'Half time',
    says: 'every stroke twice as long',
    group: 'time',
    apply: halfTime,
  },
  {
    id: 'double',
    name: 'Double time',
    says: 'every stroke half as long',
    group: 'time',
    apply: doubleTime,
  },
  {
    id: 'rotate',
    name: 'Begin a place later',
    says: 'what was first comes last',
    group: 'time',
    apply: rotate,
  },
  {
    id: 'split',
    name: 'Halve for a split bar',
    says: 'the first half bar alone',
    group: 'time',
    apply: halveForSplit,
  },
  { id: 'drop', name: 'Drop a beat', says: '4/4 becomes 3/4', group: 'meter', apply: dropBeat },
  { id: 'add', name: 'Add a beat', says: '3/4 becomes 4/4', group: 'meter', apply: addBeat },
  {
    id: 'six-three',
    name: '6/8 as two of 3/4',
    says: 'and two of 3/4 as 6/8',
    group: 'meter',
    apply: betweenSixAndThree,
  },
  {
    id: 'six-twelve',
    name: '6/8 as half of 12/8',
    says: 'and 12/8 as two of 6/8',
    group: 'meter',
    apply: betweenSixAndTwelve,
  },
  {
    id: 'bass',
    name: 'Bass on strong beats',
    says: 'root, then the alternate',
    group: 'strokes',
    apply: bassOnStrong,
  },
  {
    id: 'chuck',
    name: 'Chuck the back-beat',
    says: 'damped on 2 and 4',
    group: 'strokes',
    apply: chuckBackBeat,
  },
  {
    id: 'kick',
    name: 'Kick at the end',
    says: 'the last eighth as two sixteenths',
    group: 'strokes',
    apply: kickAtEnd,
  },
  { id: 'downs', name: 'All downs', says: 'for drive', group: 'strokes', apply: allDowns },
  {
    id: 'after-root',
    name: 'Another string after the root',
    says: 'the next of three strings, so that the chord opens another way',
    group: 'picked',
    apply: anotherAfterRoot,
  },
  {
    id: 'three',
    name: 'Two strings to three',
    says: 'a pinch with one string more: fuller',
    group: 'picked',
    apply: twoToThree,
  },
  {
    id: 'sweep',
    name: 'Partial sweep',
    says: 'strings plucked at once become a brush over the treble side',
    group: 'picked',
    apply: partialSweep,
  },
  {
    id: 'lead-in',
    name: 'Lead into the change',
    says: 'the last eighth as two sixteenths, towards the root',
    group: 'picked',
    apply: pickedLeadIn,
  },
];
