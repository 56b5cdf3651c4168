import {
  type Direction,
  type Division,
  DIVISIONS,
  type Pattern,
  type PatternBeat,
  type Stroke,
} from '../schema';
import { naturalDirections } from './arm';
import { sameBeats } from './counts';
import { slots, strokeDirection } from './grid';
import { sweeps } from './kinds';

/** What a line may mean where it may mean several things: nobody guesses which. */

/** A pattern that what was said may mean, or one near to it where it does not fit as it is. */
export interface NearFit {
  label: string;
  pattern: Pattern;
}

/** What may be meant in several ways, the likeliest first: nobody guesses which. */
export interface SayChoice {
  asks: string;
  fits: NearFit[];
}

type Meant = { pattern: Pattern } | { choice: SayChoice };

export const divisionOf = (slotCount: number): Division | undefined =>
  DIVISIONS.find((division) => division === slotCount);

/** One reading is taken, also among several where it is what is there already; several are asked. */
export function asked(fits: NearFit[], base: Pattern): Meant {
  const [first] = fits;
  const same = fits.find(({ pattern }) => sameBeats(pattern, base));
  if (same) return { pattern: same.pattern };
  if (fits.length === 1) return { pattern: first!.pattern };
  return { choice: { asks: 'Which is meant?', fits } };
}

/** What a pattern may be that is shorter than the one it is said for: again, slower, or once. */
export function toLength(said: Pattern, base: Pattern): NearFit[] {
  const [short, long] = [said.beats.length, base.beats.length];
  if (short >= long) return [{ label: '', pattern: said }];
  const bar = base.meter.beats;
  const rest = (beats: number) => emptyBeats(beats, said.beats.at(-1)!.division);
  const fits: NearFit[] = [];
  const times = long / short;
  if (Number.isInteger(times)) {
    const beats = Array.from({ length: times }, () => said.beats).flat();
    // What takes its direction from the arm goes on with it; a strum goes the way that was said.
    const again = remade({ ...base, beats }, (stroke, dir) =>
      stroke.kind !== 'strum' && 'dir' in stroke ? { ...stroke, dir } : stroke,
    );
    fits.push({
      label: short === bar ? 'In every bar' : 'Once through, then again',
      pattern: again,
    });
  }
  const slower = Number.isInteger(times) ? stretched(said, times) : null;
  if (slower && long > bar && long % bar === 0) {
    fits.push({ label: `Over ${long / bar} bars`, pattern: slower });
  }
  const once = { ...base, beats: [...said.beats, ...rest(long - short)] };
  fits.push({
    label: short === bar ? 'In the first bar only' : 'Once, then nothing',
    pattern: once,
  });
  return fits;
}

/** A pattern with its strokes made anew from the direction that the arm has under each. */
function remade(pattern: Pattern, make: (stroke: Stroke, natural: Direction) => Stroke): Pattern {
  const natural = naturalDirections(pattern);
  let slot = 0;
  const beats = pattern.beats.map((beat) => ({
    ...beat,
    slots: beat.slots.map((stroke) => make(stroke, natural[slot++]!)),
  }));
  return { ...pattern, beats };
}

/** The same strokes, each beat so many beats long; null where no grid holds them. */
function stretched({ beats, ...base }: Pattern, times: number): Pattern | null {
  const longer: PatternBeat[] = [];
  for (const { division, slots: strokes } of beats) {
    const each = division / times;
    if (each >= 1) {
      const inBeat = divisionOf(each);
      if (!inBeat) return null;
      for (let at = 0; at < strokes.length; at += each) {
        longer.push({ division: inBeat, slots: strokes.slice(at, at + each) });
      }
      continue;
    }
    if (times % division !== 0) return null;
    for (const stroke of strokes) {
      longer.push({ division: 1, slots: [stroke] }, ...emptyBeats(times / division - 1, 1));
    }
  }
  return { ...base, beats: longer };
}

/** So many strokes against the arm are no slip of the tongue. */
const MEANT = 2;

/**
 * A whole pattern whose directions are said is meant so: it is asked whether the hand plays all downs, or has directions
 * of its own, before any stroke is called against the arm.
 */
export function asMeant(pattern: Pattern, base: Pattern): Meant {
  const { school } = pattern.arm;
  if (sameBeats(pattern, base)) return { pattern };
  if (school === 'free' || school === 'all-downs' || base.meant?.includes('against')) {
    return { pattern };
  }
  const natural = naturalDirections(pattern);
  const before = slots(base).map(({ stroke }) => strokeDirection(stroke));
  const strums = slots(pattern).filter(({ stroke }) => stroke.kind === 'strum');
  const swept = sweeps(slots(pattern));
  const against = strums.filter(
    ({ index, stroke }) =>
      !swept.has(index) &&
      strokeDirection(stroke) !== natural[index] &&
      strokeDirection(stroke) !== before[index],
  );
  if (against.length < MEANT || pattern.beats.length < base.beats.length) return { pattern };
  const allDown = strums.every(({ stroke }) => strokeDirection(stroke) === 'down');
  const own = allDown
    ? { label: 'This hand plays all downs', school: 'all-downs' as const }
    : { label: 'These directions are meant', school: 'free' as const };
  const withArm = remade(pattern, (stroke, dir) =>
    stroke.kind === 'strum' ? { ...stroke, dir } : stroke,
  );
  return {
    choice: {
      asks: 'Which is meant?',
      fits: [
        { label: own.label, pattern: { ...pattern, arm: { ...pattern.arm, school: own.school } } },
        { label: 'Down on the beat, up after it', pattern: withArm },
      ],
    },
  };
}

export function emptyBeats(beats: number, division: Division): PatternBeat[] {
  const slotsOfBeat = Array.from({ length: division }, (): Stroke => ({ kind: 'miss' }));
  return Array.from({ length: beats }, () => ({ division, slots: slotsOfBeat }));
}
