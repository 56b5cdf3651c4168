import type { Division, Pattern, PatternBeat, Stroke } from '../schema';
import { naturalDirections } from './arm';

/**
 * A stroke with whether it goes with the arm. Moving strokes about changes which way the arm goes
 * under them: those that went with it are turned to go with it again.
 */
export interface RelativeStroke {
  stroke: Stroke;
  follows: boolean;
}

export interface RelativeBeat {
  division: Division;
  slots: RelativeStroke[];
}

export const MISS: Stroke = { kind: 'miss' };
const HOLD: Stroke = { kind: 'hold' };
export const RELATIVE_MISS: RelativeStroke = { stroke: MISS, follows: false };

/** A beat of misses. */
export function restingBeat(division: Division): PatternBeat {
  return { division, slots: Array.from({ length: division }, () => MISS) };
}

/** The beats of a pattern with their strokes marked. */
export function toRelative(pattern: Pattern): RelativeBeat[] {
  const natural = naturalDirections(pattern);
  let slot = -1;
  return pattern.beats.map(({ division, slots: strokes }) => ({
    division,
    slots: strokes.map((stroke) => {
      slot += 1;
      return { stroke, follows: 'dir' in stroke && stroke.dir === natural[slot] };
    }),
  }));
}

/** The pattern with other beats, its strokes turned to the arm where they went with it. */
export function fromRelative(pattern: Pattern, beats: RelativeBeat[]): Pattern {
  const bare = beats.map(({ division, slots: marked }) => ({
    division,
    slots: marked.map(({ stroke }) => stroke),
  }));
  const natural = naturalDirections({ ...pattern, beats: bare });
  let slot = -1;
  const turned = bare.map((beat, index) => {
    let changed = false;
    const strokes = beat.slots.map((stroke, position) => {
      slot += 1;
      const follows = beats[index]!.slots[position]!.follows && 'dir' in stroke;
      if (!follows || stroke.dir === natural[slot]) return stroke;
      changed = true;
      return { ...stroke, dir: natural[slot]! };
    });
    return changed ? { ...beat, slots: strokes } : beat;
  });
  return { ...pattern, beats: keepSame(pattern.beats, turned) };
}

/** Beats that say the same as before keep their identity, so that only what changed is drawn again. */
function keepSame(before: PatternBeat[], after: PatternBeat[]): PatternBeat[] {
  return after.map((beat, index) => {
    const old = before[index];
    const same =
      old?.division === beat.division &&
      old.slots.every((stroke, position) => stroke === beat.slots[position]);
    return same ? old : beat;
  });
}

/** All strokes in a row, marked. */
export function relativeStrokes(pattern: Pattern): RelativeStroke[] {
  return toRelative(pattern).flatMap((beat) => beat.slots);
}

/** Strokes laid over the grid that a pattern has; there must be one for every slot. */
export function withStrokes(pattern: Pattern, strokes: RelativeStroke[]): Pattern {
  let next = 0;
  const beats = pattern.beats.map(({ division }) => ({
    division,
    slots: strokes.slice(next, (next += division)),
  }));
  return fromRelative(pattern, beats);
}

/**
 * One beat as two of half its length, each as long as the whole was: for half time, and from quarters
 * to eighths. Null where its slots cannot be shared out: a beat of three has no half.
 */
export function splitBeat({
  division,
  slots: strokes,
}: RelativeBeat): [RelativeBeat, RelativeBeat] | null {
  if (division === 1) {
    const rest = strokes[0]!.stroke.kind === 'hold' ? HOLD : MISS;
    return [
      { division: 1, slots: strokes },
      { division: 1, slots: [{ stroke: rest, follows: false }] },
    ];
  }
  if (division % 2 !== 0) return null;
  const half = (division / 2) as Division;
  return [
    { division: half, slots: strokes.slice(0, half) },
    { division: half, slots: strokes.slice(half) },
  ];
}

const JOINED = new Set<number>([2, 4, 6, 8]);

/** Two beats as one: the inverse of `splitBeat`. Null where no division of a beat holds them both. */
export function joinBeats(one: RelativeBeat, two: RelativeBeat): RelativeBeat | null {
  const larger = Math.max(one.division, two.division);
  const each = [larger, larger * 2, larger * 3].find(
    (size) => size % one.division === 0 && size % two.division === 0,
  );
  if (each === undefined || !JOINED.has(each * 2)) return null;
  const spread = ({ division, slots: strokes }: RelativeBeat) =>
    Array.from({ length: each }, (_, position) => {
      const step = each / division;
      return position % step === 0 ? strokes[position / step]! : RELATIVE_MISS;
    });
  return { division: (each * 2) as Division, slots: [...spread(one), ...spread(two)] };
}
