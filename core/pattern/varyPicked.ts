import type { Division, Pattern, PickedString, Stroke } from '../schema';
import { MISS, type Slot, slots, stringName, stringPlace, toRelative } from '../stroke';
import { placeStroke, withBeats } from './pattern';

/** Variations of picked patterns: other strings, more of them, a brush in place of some, a way out. */

type Pick = Extract<Stroke, { kind: 'pick' }>;

const isPick = (stroke: Stroke): stroke is Pick => stroke.kind === 'pick';

/** Strings that a plain picking hand reaches beside its thumb. */
const REACHED = 3;

/** The number of a string and how it is named: from the root up, or absolute. */
function numbered({ string }: PickedString): { absolute: boolean; number: number } | null {
  const place = stringPlace(string);
  if ('number' in place) return { absolute: true, number: place.number };
  return place.above === 0 ? null : { absolute: false, number: place.above };
}

const named = (absolute: boolean, number: number): PickedString => ({
  string: stringName(absolute ? { number } : { above: number }),
});

function mapPicks(pattern: Pattern, change: (pick: Pick, slot: Slot) => Stroke): Pattern {
  return slots(pattern).reduce((varied, slot) => {
    if (!isPick(slot.stroke)) return varied;
    const stroke = change(slot.stroke, slot);
    return stroke === slot.stroke ? varied : placeStroke(varied, slot.index, stroke);
  }, pattern);
}

const strikesRoot = (stroke: Stroke) =>
  stroke.kind === 'bass' || (isPick(stroke) && stroke.strings.some(({ string }) => string === 'R'));

/**
 * Another string after the root: what is picked by itself after each root or bass goes to the next of three
 * strings, round and round.
 * @example sayPattern(anotherAfterRoot(said('R 1, 2 1, R 1, 2 1'))) // 'R 2, 2 1, R 2, 2 1'
 */
export function anotherAfterRoot(pattern: Pattern): Pattern {
  let afterRoot = false;
  return slots(pattern).reduce((varied, { index, stroke }) => {
    if (strikesRoot(stroke)) {
      afterRoot = true;
      return varied;
    }
    if (!isPick(stroke)) return varied;
    const only = afterRoot && stroke.strings.length === 1 ? numbered(stroke.strings[0]!) : null;
    afterRoot = false;
    if (!only) return varied;
    const { absolute, number } = only;
    const other = named(absolute, (number % REACHED) + 1);
    return placeStroke(varied, index, { ...stroke, strings: [other] });
  }, pattern);
}

/**
 * Two strings at once become three: the next one up joins them, or the next one down where there is none.
 * @example sayPattern(twoToThree(said('R+s1 2, 1+2 3, miss miss, miss miss'))) // 'R+s1+2 2, 1+2+3 3, ...'
 */
export function twoToThree(pattern: Pattern): Pattern {
  return mapPicks(pattern, (pick) => {
    if (pick.strings.length !== 2) return pick;
    const places = pick.strings.flatMap((picked) => numbered(picked) ?? []);
    const last = places.at(-1);
    if (!last) return pick;
    const { absolute } = last;
    const taken = places.map(({ number }) => number);
    const up = absolute ? Math.min(...taken) - 1 : Math.max(...taken) + 1;
    const down = absolute ? Math.max(...taken) + 1 : Math.min(...taken) - 1;
    const number = up >= 1 && up <= 7 ? up : down;
    if (number < 1 || number > 7) return pick;
    return { ...pick, strings: [...pick.strings, named(absolute, number)] };
  });
}

/**
 * Strings that are plucked at once, the root not among them, become a brush over the treble strings.
 * @example sayPattern(partialSweep(said('R 1+2, R 1+2+3, R 1, R 1'))) // 'R high-up, R high-up, R 1, R 1'
 */
export function partialSweep(pattern: Pattern): Pattern {
  return mapPicks(pattern, (pick) => {
    if (pick.strings.length < 2 || strikesRoot(pick)) return pick;
    const { dir, accent, palm, open, tap } = pick;
    const touch = { ...(palm && { palm }), ...(open && { open }), ...(tap && { tap }) };
    return { kind: 'strum', dir, accent, reach: 'treble', ...touch };
  });
}

/**
 * The last eighth as two sixteenths that lead into the change: the string that was picked last, and the next
 * one towards the root. Null where nothing is picked, or the last beat is divided otherwise.
 * @example sayPattern(pickedLeadIn(said('R 1, 2 3, R 1, 2 3'))!) // 'R 1, 2 3, R 1, 2 miss 3 4'
 */
export function pickedLeadIn(pattern: Pattern): Pattern | null {
  const picked = slots(pattern).findLast(({ stroke }) => isPick(stroke))?.stroke;
  if (!picked || !isPick(picked)) return null;
  const relative = toRelative(pattern);
  const last = relative.at(-1)!;
  const eighths = pattern.meter.unit >= 8 ? 1 : 2;
  if (last.division !== eighths && last.division !== 1) return null;
  const from = picked.strings.flatMap((one) => numbered(one) ?? []).at(-1) ?? {
    absolute: false,
    number: 1,
  };
  const { absolute, number } = from;
  const toRoot = absolute
    ? named(absolute, Math.min(number + 1, REACHED + 1))
    : number > 1
      ? named(absolute, number - 1)
      : { string: 'R' };
  const note = (string: PickedString) => ({
    stroke: { kind: 'pick', dir: 'down', accent: 'normal', strings: [string] } as Stroke,
    follows: true,
  });
  const division = (eighths * 2) as Division;
  const kept = Array.from({ length: division - 2 }, (_, position) =>
    position === 0 ? last.slots[0]! : { stroke: MISS, follows: false },
  );
  const run = [note(named(absolute, number)), note(toRoot)];
  return withBeats(pattern, relative.with(-1, { division, slots: [...kept, ...run] }));
}
