import { median } from 'simple-statistics';
import { plural } from '../plain';
import {
  afterMiss,
  type Added,
  deviation,
  type Evidence,
  FEWEST_OF,
  type Found,
  gathered,
  heardOf,
  isMissing,
  landed,
  lateWords,
  MAX_MISSING,
  offsOf,
} from './findings';
import type { PluckingFinger } from '../schema';
import { FINGER_NAMES } from '../stroke';
import { fingerOfStrike, type Judged } from './groups';
import { type KindOfStroke, kindOfStroke } from './kinds';

/** Of what is missing, a place or a kind explains it where it holds at least this share. */
const EXPLAINS = 0.6;
/** And is missing so many times as often as the others. */
const LIFT = 1.8;
/** Of a place that stands out, so many are off the same way. */
const SAME_WAY = 0.6;
/** A place that is late or early is so by so many times the chance of its middle. */
const BEYOND_CHANCE = 3.5;
/** More strokes than one in twenty beside those that were meant are too many. */
export const MAX_ADDED = 1 / 20;

const KINDS: Record<KindOfStroke, string> = {
  downs: 'downs',
  ups: 'ups',
  basses: 'bass strokes',
  chucks: 'chucks',
  picks: 'picked notes',
  rolls: 'rolls',
  taps: 'taps',
};

/** A set of strokes that may be what is left out, and how well it fits what is missing. */
interface Guess {
  /** Of the strokes with a name: a place, a kind, what one finger picks, or those after a miss. */
  of: 'place' | 'kind' | 'finger' | 'after-miss';
  name: string;
  all: Judged[];
  out: Judged[];
  /** Of all that is missing, the share that is in it. */
  precision: number;
  fit: number;
}

/** A kind that is all that is missing is named from fewer on, where chance would hardly leave out that kind alone. */
const [OF_A_KIND, ALONE, BY_CHANCE] = [0.15, 0.95, 0.04];
/** A kind that holds nearly all that is missing is named before a place, or what follows misses, that holds but most of it. */
const [NEARLY_ALL, BUT_MOST] = [0.9, 0.8];

function guessOf(
  of: Guess['of'],
  name: string,
  all: Judged[],
  missing: number,
  count: number,
): Guess | null {
  const out = all.filter(isMissing);
  const [recall, precision] = [out.length / Math.max(1, all.length), out.length / missing];
  const alone =
    of === 'kind' &&
    recall >= OF_A_KIND &&
    precision >= ALONE &&
    (all.length / count) ** out.length < BY_CHANCE;
  if (out.length < FEWEST_OF || (recall <= MAX_MISSING && !alone) || precision < EXPLAINS)
    return null;
  // What is missing everywhere alike is of no place and of no kind.
  const elsewhere = (missing - out.length) / Math.max(1, count - all.length);
  if (recall < LIFT * elsewhere) return null;
  return { of, name, all, out, precision, fit: (2 * recall * precision) / (recall + precision) };
}

/** Strokes that are left out again and again: a place of the bar, a kind of stroke, or those after a miss. */
export function leftOut(evidence: Evidence, explained: Set<Judged>): Found | null {
  const { played, place } = evidence;
  const strokes = played.filter((one) => one.counts && !explained.has(one));
  const missing = strokes.filter(isMissing);
  if (missing.length < FEWEST_OF) return null;
  const places = [...gathered(strokes, place)].map(([name, all]) =>
    guessOf('place', name, all, missing.length, strokes.length),
  );
  const kinds = [...gathered(strokes, ({ strike }) => kindOfStroke(strike))].map(([name, all]) =>
    guessOf('kind', name, all, missing.length, strokes.length),
  );
  const fingerOf = new Map(
    strokes.map((one) => [one, fingerOfStrike(evidence.arranged, one.strike)]),
  );
  const picked = strokes.filter((one) => fingerOf.get(one));
  const byFinger = gathered(picked, (one) => fingerOf.get(one)!);
  const fingers = [...byFinger].map(([name, all]) =>
    guessOf('finger', name, all, missing.length, strokes.length),
  );
  const after = strokes.filter((one) => afterMiss(one) && !landed(one));
  // Of what fits as well, the finger says more than the places that it has.
  const guesses = [
    ...fingers,
    ...places,
    ...kinds,
    guessOf('after-miss', '', after, missing.length, strokes.length),
  ]
    .filter((one) => one !== null)
    .sort((one, other) => other.fit - one.fit);
  const [fits] = guesses;
  const kind = guesses.find(({ of, precision }) => of === 'kind' && precision >= NEARLY_ALL);
  const best =
    kind && fits!.of !== 'kind' && fits!.of !== 'finger' && fits!.precision < BUT_MOST
      ? kind
      : fits;
  // A place of ups is both, where it has all the ups there are, or where most of what is missing elsewhere are ups too.
  const ups =
    best !== undefined &&
    kindOfStroke(best.all[0]!.strike) === 'ups' &&
    (guesses.some(({ name, fit }) => name === 'ups' && fit === best.fit) ||
      (best.precision < BUT_MOST &&
        missing.filter(({ strike }) => kindOfStroke(strike) === 'ups').length >=
          NEARLY_ALL * missing.length));
  return best ? omission(best, ups) : null;
}

function omission({ of, name, all, out }: Guess, onlyUps: boolean): Found {
  const count = out.length === all.length ? 'all' : String(out.length);
  const weight = out.length / all.length / MAX_MISSING;
  const shared = { hand: 'strumming' as const, weight, strokes: out };
  if (of === 'after-miss') {
    return {
      ...shared,
      trouble: 'after-miss',
      sentence: `${out.length} of the ${plural(all.length, 'stroke')} after a miss are left out: the arm stops where it should only pass.`,
    };
  }
  if (of === 'finger') {
    const which = `${FINGER_NAMES[name as PluckingFinger]}${name === 'c' ? ' finger' : ''} notes`;
    return {
      ...shared,
      trouble: 'missing',
      sentence: `${count === 'all' ? 'All' : `${count} of`} ${all.length} ${which} are left out.`,
    };
  }
  if (of === 'place') {
    return {
      ...shared,
      trouble: kindOfStroke(all[0]!.strike) === 'taps' ? 'taps' : onlyUps ? 'ups' : 'missing',
      sentence: `${name.replace(/^the /, 'The ')} is left out ${out.length === all.length ? 'each time' : `${out.length} of ${all.length} times`}.`,
    };
  }
  const kind = name as KindOfStroke;
  const sentence = `${count === 'all' ? 'All' : `${count} of`} ${all.length} ${KINDS[kind]} are left out.`;
  if (kind === 'ups') {
    const how = ' Let the hand brush the strings on its way back.';
    return { ...shared, trouble: 'ups', sentence: sentence + how };
  }
  return { ...shared, trouble: kind === 'taps' ? 'taps' : 'missing', sentence };
}

/** A place of the bar that comes late, or early, each time. */
export function placeOff(evidence: Evidence, explained: Set<Judged>): Found | null {
  const { played, tolerance, place } = evidence;
  const strokes = heardOf(played).filter((one) => !explained.has(one) && !one.hurried);
  const found: Found[] = [];
  for (const [name, some] of gathered(strokes, place)) {
    const others = offsOf(strokes.filter((one) => place(one) !== name));
    if (some.length < FEWEST_OF || others.length < FEWEST_OF) continue;
    const by = median(offsOf(some)) - median(others);
    const chance = (1.25 * Math.max(4, deviation(others))) / Math.sqrt(some.length);
    if (Math.abs(by) <= tolerance || Math.abs(by) < BEYOND_CHANCE * chance) continue;
    const same = some.filter(({ heard }) => Math.sign(by) * heard!.off > tolerance / 2);
    if (same.length < SAME_WAY * some.length) continue;
    const times =
      same.length === some.length ? 'each time' : `${same.length} of ${some.length} times`;
    found.push({
      trouble: 'slot',
      hand: 'strumming',
      sentence: `${name.replace(/^the /, 'The ')} comes ${lateWords(by)}, ${times}.`,
      weight: Math.abs(by) / tolerance,
      strokes: same,
    });
  }
  return found.sort((a, b) => b.weight - a.weight)[0] ?? null;
}

/** More strokes than were meant. */
export function addedStrokes({ played, added, place }: Evidence): Found | null {
  const meant = played.filter(({ counts }) => counts).length;
  if (added.length < FEWEST_OF || added.length <= MAX_ADDED * meant) return null;
  const at = new Map<string, Added[]>();
  for (const one of added) {
    const before = played[one.after];
    const name = before ? `after ${place(before)}` : 'before the first stroke';
    at.set(name, [...(at.get(name) ?? []), one]);
  }
  const [most] = [...at].sort((a, b) => b[1].length - a[1].length);
  const where =
    most && most[1].length > added.length / 2
      ? `, ${most[1].length === added.length ? 'all' : 'most'} of them ${most[0]}`
      : '';
  return {
    trouble: 'added',
    hand: 'strumming',
    sentence: `${plural(added.length, 'stroke')} too many beside the ${meant} that are meant${where}.`,
    weight: added.length / (MAX_ADDED * meant) / 2,
    strokes: added.flatMap(({ after }) => (played[after] ? [played[after]] : [])),
  };
}
