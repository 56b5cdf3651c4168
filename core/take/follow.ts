import { median } from 'simple-statistics';
import type { Seconds } from '../plain';
import type { Opening } from './opening';
import { firstAt, type HeardMoment, type MeantMoment } from './moments';

/**
 * Following a player stroke by stroke. A few guesses of where the player's clock is are carried along (a beam); each
 * stroke is looked for in its territory around that clock, half-way to its neighbours. What is late inside it is
 * late. The clock itself may fall behind at a stroke ("behind since here"), and come back by and by ("recovering").
 */

export type ClockEvent = 'jump' | 'back' | 'stays' | null;

/** What the cheapest way of laying what was heard on what was meant says of each stroke. */
export interface Followed {
  /** Index of what was heard; -1 where nothing was. */
  heard: number[];
  /** Seconds that the clock is behind where it began, at each stroke. */
  clock: Seconds[];
  /** Seconds that it is behind the place to which the player may be on the way back. */
  behind: Seconds[];
  /** Where the clock fell behind or got ahead, where it was back, and where it stayed for good. */
  event: ClockEvent[];
  /** The last stroke that was reached. */
  reached: number;
  cost: number;
  /** Moments before its first stroke could be. */
  before: number;
}

/** What a stroke that is missed costs, another right after it, one that is soft, and one that was added. */
export const MISS = 2;
const MISS_AGAIN = 1.4;
export const [MISS_SOFT, EXTRA] = [0.8, 1.5];
/** One that seems to be there, and too faint to be sure of; and how near to its place, in seconds. */
const MISS_FAINT = 0.5;
const FAINT_WITHIN: Seconds = 0.045;
/** A stroke that is not reached any more; and a stroke the other way. */
const [UNREACHED, OTHER_WAY] = [0.5, 0.6];
/** What is heard after the last stroke. */
const AFTER = 1.6;
/** Lateness costs as its square up to a point, and no more from there: late is still that stroke. */
export const USUAL_LATE: Seconds = 0.03;
const MAX_LATE = 1.5;
/** What is faint may be no stroke: it costs more to take it for one. */
const FAINT = 1;
/** The clock falls behind, or gets ahead: what that costs, and from and up to how many seconds. */
const [JUMP, JUMP_AT_PAUSE] = [5, 2.4];
const PER_SECOND = 0.8;
const [JUMP_FROM, JUMP_BACK, JUMP_AHEAD] = [0.045, 1.2, 10];
/** What was heard meanwhile may be so many moments. */
const MEANWHILE = 12;
/** Back where the clock was, and a stroke on the way there. */
const RETURN = 0.7;
export const ON_THE_WAY = 0.25;
/** Of what it was behind, a stroke on the way back is still behind by so much. */
const WAYS_BACK = [0.85, 0.66, 0.45];
/**
 * How much of a stroke's lateness the clock follows, and its tempo (an alpha-beta filter): tempo drifts slowly. What is
 * farther off than so many seconds says nothing of it.
 */
const [FOLLOWS, TEMPO_FOLLOWS] = [0.2, 0.025];
const FOLLOWS_UP_TO: Seconds = 0.06;
/** The tempo of the clock may be this far from where it began. */
const MAX_DRIFT = 0.12;
/** Guesses that are carried along, and of those, how many may jump. */
/** After so many strokes at its new place the clock is at home there. */
const SETTLED = 5;
const [GUESSES, JUMPERS] = [24, 6];
/** What costs so much more than the cheapest guess is given up. */
const GIVEN_UP = 12;
/** Guesses this near to each other are one, in seconds. */
const SAME: Seconds = 0.012;
/** More moments than this, and more steps of the clock, there are not: guesses are known by both. */
const STEPS = 2 ** 16;

interface Guess {
  cost: number;
  clock: Seconds;
  /** Seconds that the clock loses in a second. */
  drift: number;
  /** Where the clock was before the player fell behind; null where nobody did. */
  home: Seconds | null;
  /** Index of the last moment that is accounted for. */
  last: number;
  match: number;
  /** Strokes since the clock moved. */
  since: number;
  event: ClockEvent;
  before: Guess | null;
}

/** Half-way to the neighbours, before and after each stroke; at the ends as far as on the other side. */
export function territories(
  expected: Seconds[],
  rate: number,
  beat: Seconds,
): [Seconds, Seconds][] {
  // No farther than a beat: what is later than that is another stroke, or the clock.
  const half = expected.map((place, index) =>
    Math.min(beat, ((expected[index + 1] ?? Infinity) - place) / 2),
  );
  return expected.map((_, index) => {
    const after = half[index]!;
    const before = half[index - 1] ?? after;
    const last = index === expected.length - 1;
    return [before * rate, (last ? before : after) * rate];
  });
}

export const lateCost = (off: Seconds) => Math.min(MAX_LATE, (off / USUAL_LATE) ** 2 / 2);

/**
 * The cheapest way to lay what was heard on what was meant, in order.
 * @param meant strokes from the first bar line, in order
 * @param beat seconds of a beat
 * @param faint seconds of what is too faint to be a stroke by itself, in order: a stroke that is missed there may be it
 */
export function follow(
  heard: HeardMoment[],
  meant: MeantMoment[],
  beat: Seconds,
  { start, rate }: Opening,
  faint: Seconds[] = [],
): Followed | null {
  const expected = meant.map(({ seconds }) => seconds);
  const usual = median(heard.map(({ strength }) => strength));
  const full = heard.map(({ strength }) => Math.min(1, strength / usual));
  const skipped = [0];
  for (const share of full) skipped.push(skipped.at(-1)! + EXTRA * share);
  /** What lies between two moments and is left out. */
  const between = (after: number, upTo: number) =>
    Math.max(0, skipped[Math.max(after + 1, upTo)]! - skipped[after + 1]!);
  const mayBe = faint.map((seconds) => ({ seconds, strength: 0 }));
  const isFaint = (seconds: Seconds) => {
    const next = mayBe[firstAt(mayBe, seconds - FAINT_WITHIN)];
    return next !== undefined && next.seconds <= seconds + FAINT_WITHIN;
  };
  const places = expected.map((place) => start + place * rate);
  const around = territories(expected, rate, beat);
  // What comes before the first stroke is a count-in, or nothing.
  const first = firstAt(heard, places[0]! - around[0]![0]) - 1;
  let guesses: Guess[] = [
    {
      cost: 0,
      clock: 0,
      drift: 0,
      home: null,
      last: first,
      match: -1,
      since: 0,
      event: null,
      before: null,
    },
  ];
  let end: { guess: Guess; at: number; cost: number } | null = null;

  for (const [at, place] of places.entries()) {
    const [early, late] = around[at]!;
    const { soft, pause, direction } = meant[at]!;
    const gap = at > 0 ? place - places[at - 1]! : 0;
    const jump = pause ? JUMP_AT_PAUSE : JUMP;
    const otherWay = (index: number) => {
      const heardWay = heard[index]!.direction;
      return heardWay && direction && heardWay !== direction ? OTHER_WAY : 0;
    };
    const next: Guess[] = [];
    let most = Infinity;
    const keep = (guess: Guess) => {
      most = Math.min(most, guess.cost + GIVEN_UP);
      next.push(guess);
    };
    const stroke = (
      guess: Guess,
      clock: Seconds,
      home: Seconds | null,
      extra: number,
      moves: 'on' | 'back' | 'nearer',
    ) => {
      const middle = place + clock;
      const stays = moves === 'on' && home !== null && guess.since >= SETTLED;
      const nearer = moves === 'nearer';
      const event = moves === 'back' ? 'back' : stays ? 'stays' : null;
      const now = stays ? null : home;
      const since = nearer ? 0 : guess.since;
      const { last, drift } = guess;
      if (!nearer) {
        const missed = soft ? MISS_SOFT : guess.match < 0 && at > 0 ? MISS_AGAIN : MISS;
        const miss = isFaint(middle) ? Math.min(MISS_FAINT, missed) : missed;
        // What was heard in its territory and is not this stroke was added.
        const passed = Math.max(last, firstAt(heard, middle + late) - 1);
        const cost = guess.cost + extra + miss + between(last, passed + 1);
        if (cost <= most) {
          keep({
            cost,
            clock,
            drift,
            home: now,
            last: passed,
            match: -1,
            since,
            event,
            before: guess,
          });
        }
      }
      for (
        let index = Math.max(last + 1, firstAt(heard, middle - early));
        index < heard.length;
        index += 1
      ) {
        const off = heard[index]!.seconds - middle;
        if (off >= late) break;
        const cost =
          guess.cost +
          extra +
          between(last, index) +
          lateCost(off) +
          FAINT * (1 - full[index]!) +
          otherWay(index);
        if (cost > most) continue;
        const sure = Math.abs(off) <= FOLLOWS_UP_TO;
        const moved = nearer ? off / 2 : sure ? off * FOLLOWS : 0;
        const bent = sure && !nearer && gap > 0 ? (TEMPO_FOLLOWS * off) / gap : 0;
        keep({
          cost,
          clock: clock + moved,
          drift: Math.max(-MAX_DRIFT, Math.min(MAX_DRIFT, drift + bent)),
          home: now,
          last: index,
          match: index,
          since: since + (nearer ? 0 : 1),
          event,
          before: guess,
        });
      }
    };
    for (const [rank, guess] of guesses.entries()) {
      // The clock goes on at its own tempo, and so does the place where it was before.
      const by = guess.drift * gap;
      const clock = guess.clock + by;
      const home = guess.home === null ? null : guess.home + by;
      stroke(guess, clock, home, 0, 'on');
      if (home !== null) {
        stroke(guess, home, null, RETURN, 'back');
        for (const share of WAYS_BACK) {
          stroke(guess, home + share * (clock - home), home, ON_THE_WAY, 'nearer');
        }
      }
      if (rank >= JUMPERS || at === 0) continue;
      const middle = place + clock;
      const upTo = Math.min(heard.length - 1, guess.last + MEANWHILE);
      for (let index = guess.last + 1; index <= upTo; index += 1) {
        const off = heard[index]!.seconds - middle;
        if (off < -JUMP_BACK || Math.abs(off) < JUMP_FROM) continue;
        if (off > JUMP_AHEAD) break;
        const cost =
          guess.cost +
          jump +
          PER_SECOND * Math.abs(off) +
          between(guess.last, index) +
          FAINT * (1 - full[index]!) +
          otherWay(index);
        if (cost > most) continue;
        keep({
          cost,
          clock: clock + off,
          drift: guess.drift,
          home: home ?? clock,
          last: index,
          match: index,
          since: 0,
          event: 'jump',
          before: guess,
        });
      }
    }
    next.sort((one, other) => one.cost - other.cost);
    const seen = new Set<number>();
    guesses = [];
    for (const one of next) {
      const step = Math.round(one.clock / SAME) + STEPS / 2;
      const key = (one.last * STEPS + step) * 2 + Number(one.home === null);
      if (seen.has(key)) continue;
      seen.add(key);
      guesses.push(one);
      if (guesses.length === GUESSES) break;
    }
    for (const guess of guesses) {
      if (guess.match < 0 && at < places.length - 1) continue;
      const left = heard.length - 1 - guess.last;
      const cost = guess.cost + AFTER * left + UNREACHED * (places.length - 1 - at);
      if (!end || cost < end.cost) end = { guess, at, cost };
    }
  }
  if (!end) return null;
  const matches: number[] = [];
  const clock: Seconds[] = [];
  const behind: Seconds[] = [];
  const event: ClockEvent[] = [];
  for (let guess: Guess | null = end.guess; guess?.before; guess = guess.before) {
    matches.unshift(guess.match);
    clock.unshift(guess.clock);
    behind.unshift(guess.home === null ? 0 : guess.clock - guess.home);
    event.unshift(guess.event);
  }
  return {
    heard: matches,
    clock,
    behind,
    event,
    reached: end.at,
    cost: end.cost,
    before: first + 1,
  };
}
