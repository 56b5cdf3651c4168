import { median } from 'simple-statistics';
import type { Seconds } from '../plain';
import { layByClock } from './clock';
import { curveAt, fitCurve } from './fit';
import { follow, type Followed } from './follow';
import { clicks, type HeardMoment, type MeantMoment } from './moments';
import { CLICKS, EVEN, FIRST, leftBefore, type Opening, openings, otherOpenings } from './opening';

export type { HeardMoment, MeantMoment } from './moments';

/** A stroke that was heard, and the one that was meant. */
export interface Match {
  /** Index of what was heard, and of what was expected. */
  heard: number;
  expected: number;
}

/** The clock stopped before a stroke, and went on from there; below zero where time was gained. */
export interface Stop {
  expected: number;
  seconds: Seconds;
}

/** Heard strokes laid on expected ones. */
export interface Alignment {
  matches: Match[];
  /** Expected strokes up to the last match that were not heard. */
  missed: number[];
  /** What was heard in that stretch and not expected. */
  added: number[];
  /** Seconds of the first bar line in the recording. */
  barLine: Seconds;
  /** True where a count-in said where it is. */
  countedIn: boolean;
  /** Places where the player stopped and went on from there, or jumped ahead. */
  stops: Stop[];
  /** Strokes, by their index, that are behind because the player waited and is hurrying back into time. */
  hurried: Set<number>;
  /** Seconds of the recording at which an expected stroke would lie without its own unevenness. */
  at: (expected: number) => Seconds;
  /** Per cent by which the tempo at the start, in the mean and at the end is above the one that was asked for. */
  tempo: { start: number; mean: number; end: number };
  /** How sure the tempo at the end is: its standard error, in per cent. */
  tempoError: number;
  /** What it cost to lay a stroke, in the mean: below 1 is a take of these bars, whatever is wrong with it. */
  cost: number;
}

/** What laying a take costs a stroke: below the first no other tempo is looked for, beyond the second it hardly fits. */
const GOOD_FIT = 0.5;
const POOR_FIT = 1.4;
/** Per cent beside the tempo that was asked for beyond which it is another. */
const NEAR_TEMPO = 8;
/** Of what was meant a take at the tempo that was asked for has at least this, where it ends when it should. */
const LEAST_SHARE = 0.4;
/** Beats around the end within which it ends when it should: the last strokes may be among those left out. */
const END_WITHIN = 4;
/** And of what was heard at most this is not meant. */
const MAX_ADDED = 0.1;
/** A take that costs less than this for a stroke is laid where it belongs: no other start is tried. */
const EASY = 0.2;
/** What is heard before the start costs so many times what it does to the guess of it. */
const LEFT = 2;
/** And lay about as much. */
const AS_GOOD = 0.05;
/** What another tempo has to be better by, as a share of what the fit at the asked one costs. */
const BETTER = 0.72;

interface Try {
  opening: Opening;
  followed: Followed;
}

function tryAt(
  heard: HeardMoment[],
  meant: MeantMoment[],
  beat: Seconds,
  from: Opening,
  known: Seconds | null,
  faint: Seconds[],
): Try | null {
  const followed = follow(heard, meant, beat, from, faint);
  if (!followed) return null;
  const left = leftBefore(heard, followed.before, from, known);
  return { opening: from, followed: { ...followed, cost: followed.cost + LEFT * left } };
}

/** Of what was meant and what was heard beside it, how much is laid on each other. */
function figures({ followed }: Try, heard: HeardMoment[]) {
  const used = followed.heard.filter((index) => index >= 0);
  const [first = 0] = used;
  const matched = used.length;
  const added = heard.length - first - matched;
  const jumps = followed.event.filter((event) => event === 'jump').length;
  return { matched, added, share: matched / (followed.reached + 1 + added), jumps };
}

/** The tempo and the way of laying that explain most. */
function bestTry(
  heard: HeardMoment[],
  meant: MeantMoment[],
  beat: Seconds,
  known: Seconds | null,
  faint: Seconds[],
): Try | null {
  const expected = meant.map(({ seconds }) => seconds);
  let asked: Try | null = null;
  for (const from of openings(heard, expected, beat, known)) {
    const one = tryAt(heard, meant, beat, from, known, faint);
    if (one && (!asked || one.followed.cost < asked.followed.cost)) asked = one;
    if (asked && asked.followed.cost < EASY * expected.length) break;
  }
  if (!asked) return null;
  const { matched, added, share, jumps } = figures(asked, heard);
  const each = asked.followed.cost / meant.length;
  if (each < GOOD_FIT) return asked;
  // A take that ends where it should, with strokes that are all meant, is one at that tempo with others left out.
  const last = heard.at(-1)!.seconds - asked.opening.start;
  const ends = expected.at(-1)! * asked.opening.rate;
  const inTime =
    Math.abs(last - ends) < END_WITHIN * beat &&
    added <= MAX_ADDED * matched &&
    jumps <= 0.02 * matched;
  if (inTime && matched >= LEAST_SHARE * meant.length && each < POOR_FIT) return asked;
  let best: Try = asked;
  let least = BETTER * asked.followed.cost;
  for (const from of otherOpenings(heard, expected, beat, known)) {
    const per = 100 * (1 / from.rate - 1);
    if (Math.abs(per) < NEAR_TEMPO / 2) continue;
    const other = tryAt(heard, meant, beat, from, known, faint);
    if (!other) continue;
    if (other.followed.cost < least && figures(other, heard).share > share - AS_GOOD) {
      best = other;
      least = other.followed.cost;
    }
  }
  return best;
}

/** The bar line that a count-in leads to: moments a beat apart, the last of them a beat before the first stroke. */
function countedIn(heard: HeardMoment[], first: number, beat: Seconds): number | null {
  const before = heard.filter((one) => one.seconds < first - 0.4 * beat && clicks(one));
  const chain: number[] = [];
  let wanted = first - beat;
  for (let index = before.length - 1; index >= 0; index -= 1) {
    const { seconds } = before[index]!;
    if (Math.abs(seconds - wanted) < (chain.length === 0 ? FIRST : EVEN) * beat) {
      chain.push(seconds);
      wanted = seconds - beat;
    }
  }
  if (chain.length < CLICKS) return null;
  const points = chain.map((y, index) => ({ x: -1 - index, y }));
  return fitCurve(
    points,
    points.map(() => 1),
    false,
  ).start;
}

/** Strokes that begin together are one, as far as their place matters, in seconds. */
const TOGETHER: Seconds = 0.012;
/** Seconds that a stop lasts at least: what is less is a late stroke. */
const LEAST_STOP: Seconds = 0.05;

/**
 * Lays what was heard on what was expected: where the take begins and how fast it is are found by itself, with or
 * without a count-in; the tempo may be another than was asked for, and drift; strokes may be late, missed or added, and
 * a player who stops is met again where the thread is taken up.
 * @param heard in order of time
 * @param meant the strokes that were to be played, in order
 * @param beat seconds of a beat
 * @param known the second at which the first bar line was heard, where a clock or a recording said so
 * @param faint seconds, in order, of what is too faint to be a stroke by itself
 * @returns null where too little fits to say that this is what was played
 * @example align(heard, [{ seconds: 0 }, { seconds: 0.5 }], 0.5) // null: four strokes are needed
 */
export function align(
  heard: HeardMoment[],
  meant: MeantMoment[],
  beat: Seconds,
  known: Seconds | null = null,
  faint: Seconds[] = [],
): Alignment | null {
  const expected = meant.map(({ seconds }) => seconds);
  if (heard.length < 4 || expected.length < 4) return null;
  // Those that begin together are followed once.
  const groups: number[] = [];
  expected.forEach((seconds, index) => {
    if (index === 0 || seconds - expected[groups.at(-1)!]! > TOGETHER) groups.push(index);
  });
  const places = groups.map((index) => expected[index]!);
  const tried = bestTry(
    heard,
    groups.map((index) => meant[index]!),
    beat,
    known,
    faint,
  );
  if (!tried) return null;
  const { followed, opening: from } = tried;
  const taken = layByClock(
    heard,
    groups.map((index) => meant[index]!),
    beat,
    from,
    followed,
  );
  if (!taken) return null;
  const { curve, lost, laid, stops, hurried, residuals } = taken;
  const groupOf = new Map<number, number>();
  groups.forEach((index, group) => {
    for (let one = index; one < (groups[group + 1] ?? expected.length); one += 1)
      groupOf.set(one, group);
  });
  const at = (index: number) => curveAt(curve, expected[index]!) + lost[groupOf.get(index)!]!;
  const matches = expected.flatMap((_, index): Match[] => {
    const one = laid[groupOf.get(index)!] ?? -1;
    return one >= 0 ? [{ heard: one, expected: index }] : [];
  });
  const [first, last] = [matches[0]!, matches.at(-1)!];
  const counted = countedIn(
    heard,
    heard[first.heard]!.seconds - expected[first.expected]! * curve.rate,
    beat * curve.rate,
  );
  const found = new Set(matches.map((match) => match.expected));
  const used = new Set(matches.map((match) => match.heard));
  const missed: number[] = [];
  for (let index = 0; index < last.expected; index += 1) if (!found.has(index)) missed.push(index);
  const added: number[] = [];
  for (let index = first.heard; index < last.heard; index += 1) {
    if (!used.has(index)) added.push(index);
  }
  const lostBefore = (group: number) => (group > 0 ? lost[group - 1]! : 0);
  const end = expected[last.expected]!;
  const begin = expected[first.expected]!;
  const per = (rate: number) => (1 / rate - 1) * 100;
  return {
    matches,
    missed,
    added,
    barLine: counted ?? at(first.expected) - expected[first.expected]! * curve.rate,
    countedIn: counted !== null,
    stops: stops.flatMap((group) => {
      const seconds = lost[group]! - lostBefore(group);
      return Math.abs(seconds) < LEAST_STOP ? [] : [{ expected: groups[group]!, seconds }];
    }),
    hurried: new Set(
      expected.flatMap((_, index) => (hurried.has(groupOf.get(index)!) ? [index] : [])),
    ),
    at,
    cost: followed.cost / places.length,
    tempo: {
      start: per(curve.rate + 2 * curve.bend * begin),
      mean: per(curve.rate + curve.bend * (begin + end)),
      end: per(curve.rate + 2 * curve.bend * end),
    },
    tempoError: slopeError(residuals, end - begin, curve.bend !== 0),
  };
}

/** The standard error of the slope at the end of a line, or of a curve, through evenly spread points, in per cent. */
function slopeError(residuals: Seconds[], length: Seconds, curved: boolean): number {
  if (residuals.length < 4 || length <= 0) return Infinity;
  const spread = 1.4826 * median(residuals.map(Math.abs));
  // Of the normal equations for points at even distances: 12 for a line, 192 for a parabola at its end.
  return (100 * spread * Math.sqrt((curved ? 192 : 12) / residuals.length)) / length;
}
