import { median } from 'simple-statistics';
import type { Seconds } from '../plain';
import { fitCurve } from './fit';
import { clicks, firstAt, type HeardMoment } from './moments';

/** Where a take may begin, and how fast: seconds heard for a second meant. */
export interface Opening {
  start: Seconds;
  rate: number;
  score: number;
  /** Clicks of a count-in that lead to it. */
  counted: number;
}

/** Seconds, and at least so many strokes, that decide where a take begins. */
const OPENING = 7;
const OPENING_STROKES = 14;
/** Per cent around the tempo that was asked for, in which a take is looked for first. */
const NEAR_TEMPOS = Array.from({ length: 33 }, (_, step) => 1 + (step - 16) / 200);
/** From half to double the tempo that was asked for, in steps that the opening cannot tell apart. */
const WIDE_TEMPOS = Array.from({ length: 98 }, (_, step) => 0.48 * 1.0148 ** step);
/** The tempo that was asked for, and a little around it, for the first few strokes alone. */
const AT_TEMPO = [0.98, 1, 1.02];
const FEW_STROKES = 6;
/** What a per cent beside the tempo that was asked for costs, near it and far from it. */
const PER_CENT = 0.1;
const PER_OCTAVE = 1.5;
/** Tempos nearer to each other than this are one guess. */
const ALIKE = 1.1;
const NEAR = 0.035;
const MISS = 1;
/** What is left out before the first stroke costs as an added one, if it is as full as a stroke; a count-in is thin. */
const BEFORE = 0.9;
const THIN = 0.15;
/** What rings costs so much more: a stroke that is left out is a stroke that was played. */
const RINGING = 2;
/** So many of the first strokes may be the first that is heard. */
const ANCHORS = 4;
/** Clicks that make a count-in, how even they are, and what speaks for a start right after them. */
export const CLICKS = 3;
export const EVEN = 0.09;
export const FIRST = 0.22;
const COUNT_IN = 3;
/** Share of a beat within which a player comes in where it is known where the first bar line is. */
const IN_PLACE = 0.6;
/** At least so many seconds: presses and devices have delays of their own. */
const DELAY = 0.35;
/** Of what was heard, so many moments may be the first stroke. */
const CANDIDATES = 120;
const WIDE_CANDIDATES = 24;
/** Places to begin that are kept for each tempo. */
const STARTS = 3;

function nearest(heard: HeardMoment[], seconds: Seconds): number {
  const next = firstAt(heard, seconds);
  const after = heard[next] ? heard[next].seconds - seconds : Infinity;
  const before = next > 0 ? seconds - heard[next - 1]!.seconds : Infinity;
  return Math.min(after, before);
}

/** How many moments right before one lie a beat apart, up to it, with nothing between them. */
function evenBefore(heard: HeardMoment[], index: number, beat: Seconds): number {
  let count = 0;
  for (let at = index; at > 0 && count < 8; at -= 1) {
    const gap = heard[at]!.seconds - heard[at - 1]!.seconds;
    if (!clicks(heard[at - 1]!)) break;
    // The first stroke itself may be late or early; clicks are not.
    if (Math.abs(gap - beat) > (at === index ? FIRST : EVEN) * beat) break;
    count += 1;
  }
  return count;
}

/** What it costs that something was heard before the first stroke, and was none. */
function leftOutCost(moment: HeardMoment, usual: number): number {
  const full = Math.max(THIN, Math.min(1, moment.strength / usual)) ** 2;
  return BEFORE * full * (clicks(moment) ? 1 : RINGING);
}

/** What it costs that moments before a start were none of the strokes, beside the clicks of its count-in. */
export function leftBefore(
  heard: HeardMoment[],
  count: number,
  { counted }: Opening,
  known: Seconds | null,
): number {
  // What comes before a bar line that is known needs no reason.
  if (known !== null) return 0;
  const usual = usualOf(heard);
  const all = heard.slice(0, count).reduce((sum, one) => sum + leftOutCost(one, usual), 0);
  return Math.max(0, all - counted * BEFORE);
}

/** The best places to begin for one tempo. */
function bestStarts(
  heard: HeardMoment[],
  usual: number,
  first: Seconds[],
  beat: Seconds,
  known: Seconds | null,
  per: number,
  candidates: number,
): Opening[] {
  const rate = 1 / per;
  const reach = Math.max(DELAY, IN_PLACE * beat);
  // Where all strokes lie on the beat, a count-in looks like them.
  const offBeat = first.some(
    (seconds) => Math.abs(seconds / beat - Math.round(seconds / beat)) > 0.2,
  );
  const far = Math.abs(Math.log2(per));
  const apart = far < 0.12 ? Math.abs(per - 1) * 100 * PER_CENT : 0.8 + far * PER_OCTAVE;
  const usually = {
    start: known ?? heard[0]!.seconds - first[0]!,
    rate,
    score: -Infinity,
    counted: 0,
  };
  let best: Opening[] = [usually];
  let skipped = 0;
  for (const [index, moment] of heard.slice(0, candidates).entries()) {
    const { seconds } = moment;
    // What is left out before it can no longer be made up for.
    if (first.length + COUNT_IN - apart - skipped + index * BEFORE * THIN < best.at(-1)!.score)
      break;
    for (const anchor of first.slice(0, ANCHORS)) {
      const start = seconds - anchor * rate;
      if (known !== null && Math.abs(start - known) > reach) continue;
      const counted = offBeat && anchor < 0.1 * beat ? evenBefore(heard, index, beat * rate) : 0;
      const left = counted >= CLICKS ? skipped - counted * BEFORE - COUNT_IN : skipped;
      let score = -apart - left;
      for (const place of first) {
        const off = nearest(heard, start + place * rate);
        score += off < 3 * NEAR ? Math.exp(-((off / NEAR) ** 2) / 2) : -MISS;
      }
      if (score > best.at(-1)!.score || best.length < STARTS) {
        const near = best.find((one) => Math.abs(one.start - start) < ELSEWHERE);
        if (near && near.score >= score) continue;
        best = [
          ...best.filter((one) => one !== near),
          { start, rate, score, counted: counted >= CLICKS ? counted : 0 },
        ]
          .sort((one, other) => other.score - one.score)
          .slice(0, STARTS);
      }
    }
    // What comes before a bar line that is known needs no reason.
    if (known !== null && seconds < known - reach) continue;
    skipped += leftOutCost(moment, usual);
  }
  return best;
}

/** The first strokes: those that decide where a take begins. */
function firstOf(expected: Seconds[]): Seconds[] {
  const count = expected.findIndex((seconds) => seconds > expected[0]! + OPENING);
  return expected.slice(0, Math.max(OPENING_STROKES, count < 0 ? expected.length : count));
}

/** Starts that are this far from each other are two, in seconds. */
const ELSEWHERE: Seconds = 0.05;

/** The best few of some guesses, each unlike those before it, with their tempos made exact. */
function bestFew(
  guesses: Opening[],
  heard: HeardMoment[],
  expected: Seconds[],
  unlike: (one: Opening, other: Opening) => boolean,
): Opening[] {
  const best: Opening[] = [];
  for (const one of [...guesses].sort((a, b) => b.score - a.score)) {
    if (!best.every((other) => unlike(one, other))) continue;
    best.push(one);
    if (best.length === GUESSES) break;
  }
  return best.map((one) => refined(heard, expected, one));
}
const GUESSES = 4;

/**
 * Where a take may begin, near the tempo that was asked for: the places at which most of the first strokes are heard,
 * the likeliest first.
 * @param known the second of the first bar line, where a clock said so
 */
export function openings(
  heard: HeardMoment[],
  expected: Seconds[],
  beat: Seconds,
  known: Seconds | null,
): Opening[] {
  const first = firstOf(expected);
  const usual = usualOf(heard);
  const startsAt = (tempos: number[], some: Seconds[], candidates: number) =>
    tempos.flatMap((per) => bestStarts(heard, usual, some, beat, known, per, candidates));
  const elsewhere = (one: Opening, other: Opening) => Math.abs(one.start - other.start) > ELSEWHERE;
  const best = bestFew(startsAt(NEAR_TEMPOS, first, CANDIDATES), heard, expected, elsewhere);
  // Who stops at every change has only a few strokes in a row in time.
  const few = startsAt(AT_TEMPO, first.slice(0, FEW_STROKES), WIDE_CANDIDATES)
    .sort((a, b) => b.score - a.score)
    .filter((one) => best.every((other) => elsewhere(one, other) || one.rate !== other.rate))
    .slice(0, 2);
  return [...best, ...few];
}

const usualOf = (heard: HeardMoment[]) => median(heard.map(({ strength }) => strength));

/** Strokes this near to where they should be say how fast the player is, in seconds. */
const CLOSE: Seconds = 0.06;
/** With fewer than this share of them in place, a longer stretch says nothing more. */
const IN_STEP = 0.5;

/** The same with its tempo made exact: on stretches that grow, as long as most of their strokes are in place. */
function refined(heard: HeardMoment[], expected: Seconds[], from: Opening): Opening {
  let now = from;
  for (let length = OPENING; ; length *= 2) {
    const inside = expected.filter((seconds) => seconds <= expected[0]! + length);
    const points = inside.flatMap((x) => {
      const place = now.start + x * now.rate;
      const next = firstAt(heard, place);
      const near = [heard[next - 1], heard[next]].flatMap((one) => (one ? [one.seconds] : []));
      const y = near.reduce(
        (best, one) => (Math.abs(one - place) < Math.abs(best - place) ? one : best),
        Infinity,
      );
      return Math.abs(y - place) < CLOSE ? [{ x, y }] : [];
    });
    if (points.length < 6 || points.length < IN_STEP * inside.length) return now;
    const { start, rate } = fitCurve(
      points,
      points.map(() => 1),
      false,
    );
    now = { ...now, start, rate };
    if (inside.length === expected.length) return now;
  }
}

/**
 * Where a take might begin if it was played at quite another tempo, from half to double: a few guesses, the likeliest
 * first.
 */
export function otherOpenings(
  heard: HeardMoment[],
  expected: Seconds[],
  beat: Seconds,
  known: Seconds | null,
): Opening[] {
  const first = firstOf(expected).slice(0, OPENING_STROKES);
  const usual = usualOf(heard);
  const all = WIDE_TEMPOS.flatMap((per) =>
    bestStarts(heard, usual, first, beat, known, per, WIDE_CANDIDATES).slice(0, 1),
  );
  return bestFew(
    all,
    heard,
    expected,
    (one, other) => Math.max(one.rate / other.rate, other.rate / one.rate) > ALIKE,
  );
}
