import { median } from 'simple-statistics';
import type { Seconds } from '../plain';
import { type Curve, curveAt, fitCurve } from './fit';
import {
  EXTRA,
  type Followed,
  lateCost,
  MISS,
  MISS_SOFT,
  ON_THE_WAY,
  territories,
  USUAL_LATE,
} from './follow';
import { firstAt, type HeardMoment, type MeantMoment } from './moments';
import type { Opening } from './opening';

/** Matches that a curve needs; with fewer the tempo is taken as even. */
const FOR_A_CURVE = 16;
/** A way back into time is no longer than so many strokes. */
const LONGEST_WAY = 14;
/** Of what the player was behind, no more than this is left at its end. */
const LEFT_BEHIND = 0.45;
/** What the clock did beside going on: where it stopped for good, and where it only was for a while. */
interface Moves {
  /** Groups of strokes before which time was lost, or gained. */
  stops: number[];
  /** Runs of strokes, first and last, in which the player was behind and hurried back. */
  ways: [first: number, last: number][];
}

/** Where the clock went and stayed, and where it only was for a while: the player hurried back. */
function excursions({ event, behind }: Followed): Moves {
  const stops: number[] = [];
  const ways: Moves['ways'] = [];
  const hurried = new Set<number>();
  const count = event.length;
  event.forEach((now, at) => {
    if (now !== 'jump') return;
    let end = at + 1;
    let least = Math.abs(behind[at]!);
    while (end < count && event[end] === null && end - at <= LONGEST_WAY) {
      least = Math.min(least, Math.abs(behind[end]!));
      end += 1;
    }
    const isBack = event[end] === 'back' && end - at <= LONGEST_WAY;
    if (isBack || least <= LEFT_BEHIND * Math.abs(behind[at]!)) {
      for (let one = at; one < end; one += 1) hurried.add(one);
      ways.push([at, end - 1]);
    } else stops.push(at);
  });
  // What was lost and is made up for in one jump is a stop too, the other way.
  event.forEach((now, at) => {
    if (now === 'back' && !hurried.has(at - 1)) stops.push(at);
  });
  return { stops: stops.sort((a, b) => a - b), ways };
}

/** What a take's clock did: its curve, and what was lost at stops. */
interface Clock {
  curve: Curve;
  /** Seconds that were lost up to each stroke. */
  lost: Seconds[];
}

/** The curve of the clock, and what was lost at each stop: each found with the other taken off, in turn. */
function clockOf(
  points: { x: Seconds; y: Seconds; at: number; sure: number }[],
  stops: number[],
  count: number,
  rate: number,
): Clock {
  const stretchOf = (at: number) => stops.filter((stop) => stop <= at).length;
  const offsets = stops.map(() => 0);
  const lostAt = (at: number) => {
    const stretch = stretchOf(at);
    return stretch > 0 ? offsets[stretch - 1]! : 0;
  };
  const first = points.filter(({ at }) => stretchOf(at) === 0);
  const start = first.length > 0 ? median(first.map(({ x, y }) => y - rate * x)) : 0;
  let curve: Curve = { start, rate, bend: 0 };
  for (let round = 0; round < (stops.length > 0 ? 4 : 1); round += 1) {
    stops.forEach((_, index) => {
      const own = points.filter(({ at, sure }) => stretchOf(at) === index + 1 && sure > 0);
      const before = index > 0 ? offsets[index - 1]! : 0;
      offsets[index] =
        own.length > 0 ? median(own.map(({ x, y }) => y - curveAt(curve, x))) : before;
    });
    const straight = points.map(({ x, y, at }) => ({ x, y: y - lostAt(at) }));
    const sure = points.map((point) => point.sure);
    const curved = sure.filter((weight) => weight > 0).length >= FOR_A_CURVE;
    // With many stops a curve and the stops explain each other.
    curve = fitCurve(straight, sure, curved && stops.length < 3);
  }
  return { curve, lost: Array.from({ length: count }, (_, at) => lostAt(at)) };
}

/**
 * What was heard, stroke by stroke, by the territories around the clock that was found: following had but a guess of it.
 * Strokes beside a stop, and those on the way back from one, keep what following said.
 */
function byTerritory(
  heard: HeardMoment[],
  places: Seconds[],
  followed: number[],
  { curve, lost }: Clock,
  hurried: ReadonlySet<number>,
  beat: Seconds,
): number[] {
  const around = territories(places, curve.rate, beat);
  const kept = followed.map((_, at) => {
    const moves = (one: number) => hurried.has(one) || lost[one] !== lost[one - 1];
    return (at > 0 && moves(at)) || (at + 1 < followed.length && moves(at + 1));
  });
  const taken = new Set(followed.filter((index, at) => index >= 0 && kept[at]));
  return followed.map((index, at) => {
    if (kept[at]) return index;
    const middle = curveAt(curve, places[at]!) + lost[at]!;
    const [early, late] = around[at]!;
    let [best, near] = [-1, Infinity];
    for (let one = firstAt(heard, middle - early); one < heard.length; one += 1) {
      const off = heard[one]!.seconds - middle;
      if (off >= late) break;
      // What is faint is passed over where something fuller is there.
      if (Math.abs(off) < near && !taken.has(one)) [best, near] = [one, Math.abs(off)];
    }
    // What following took for the stroke may be fuller than what is nearer.
    if (index >= 0 && index !== best) {
      const off = heard[index]!.seconds - middle;
      const fuller = best >= 0 && heard[index]!.strength > FULLER * heard[best]!.strength;
      if (off >= -early && off < late && fuller) return index;
    }
    return best;
  });
}
/** So much stronger is what following took for the stroke than what is nearer to its place. */
const FULLER = 1.5;

/** Seconds around the clock within which a stroke is surely in time with it, and how much the others count. */
const SURE: Seconds = 0.03;
const UNSURE = 0.02;
/** What is on the way back counts where it leads to. */
const WAY_BACK = 0.3;

/** A take laid on what was meant, group of strokes by group. */
export interface LaidTake extends Clock {
  /** Index of what was heard; -1 where nothing was. */
  laid: number[];
  stops: number[];
  hurried: Set<number>;
  /** Seconds that the strokes that are in time lie beside the clock. */
  residuals: Seconds[];
}

/**
 * A move of the clock has to explain so much more than going on does: the first few more than those that come again
 * and again, since whoever stops at changes stops at more than one.
 */
const [FIRST_MOVES, A_MOVE] = [4.5, 2.4];
const FEW_MOVES = 2;
/** So many moves are doubted one by one. */
const DOUBTED = 6;
/** With fewer strokes than this nothing is known of the clock. */
const LEAST_POINTS = 4;
/** Times that a take is laid and its clock fitted again. */
const ROUNDS = 4;
/** Deviations of a take's own scatter within which a stroke is no more than usually late. */
const SCATTERS = 2;
const costOfMoves = (count: number) =>
  count <= FEW_MOVES ? count * FIRST_MOVES : FEW_MOVES * FIRST_MOVES + (count - FEW_MOVES) * A_MOVE;

/**
 * Lays a take by the clock that following found, with as few moves of it as explain what was heard: what is as well
 * explained by strokes that scatter, by one that is left out or by a tempo that drifts is no stop.
 * @param followed what following found, for each group of strokes at one moment
 * @returns null where too little was heard
 */
export function layByClock(
  heard: HeardMoment[],
  meant: MeantMoment[],
  beat: Seconds,
  { start, rate }: Opening,
  followed: Followed,
): LaidTake | null {
  const places = meant.map(({ seconds }) => seconds);
  const all = excursions(followed);
  const clockAt = (at: number) => start + rate * places[at]! + followed.clock[at]!;
  const usual = median(heard.map(({ strength }) => strength));
  // Strokes that scatter are late and early by themselves: that is no reason to move the clock.
  let scatter = 0;

  const lay = (
    { stops, ways }: Moves,
    knows: (at: number) => boolean = () => true,
  ): (LaidTake & { cost: number }) | null => {
    const hurried = new Set<number>();
    for (const [first, last] of ways) {
      for (let at = first; at <= last; at += 1) hurried.add(at);
    }
    const left = new Set<number>();
    for (const [first, last] of all.ways) {
      for (let at = first; at <= last; at += 1) if (!hurried.has(at)) left.add(at);
    }
    /** What was heard for each stroke, as far as it tells where the clock is. */
    const pointsOf = (indexes: number[], isNear: (at: number, y: Seconds) => boolean) =>
      indexes.flatMap((index, at) => {
        if (index < 0) return [];
        const x = places[at]!;
        // Of who is on the way back, it is known where that leads.
        if (hurried.has(at)) {
          return [{ x, y: clockAt(at) - followed.behind[at]!, at, sure: WAY_BACK }];
        }
        const y = heard[index]!.seconds;
        return [{ x, y, at, sure: isNear(at, y) ? 1 : UNSURE }];
      });
    let points = pointsOf(
      followed.heard,
      (at, y) => knows(at) && !left.has(at) && Math.abs(y - clockAt(at)) < SURE,
    );
    if (points.length < LEAST_POINTS) return null;
    let clock = clockOf(points, stops, places.length, rate);
    let laid = byTerritory(heard, places, followed.heard, clock, hurried, beat);
    const middle = (at: number) => curveAt(clock.curve, places[at]!) + clock.lost[at]!;
    const isWhole = stops.length === all.stops.length && ways.length === all.ways.length;
    // With fewer moves strokes are others than following took them for: laid and fitted in turn until nothing changes.
    for (let round = 0; !isWhole && round < ROUNDS; round += 1) {
      points = pointsOf(laid, (at, y) => Math.abs(y - middle(at)) < SURE);
      if (points.length < LEAST_POINTS) return null;
      clock = clockOf(points, stops, places.length, rate);
      const before = laid;
      laid = byTerritory(heard, places, followed.heard, clock, hurried, beat);
      if (laid.every((index, at) => index === before[at])) break;
    }
    const residuals = points.filter(({ sure }) => sure === 1).map(({ y, at }) => y - middle(at));
    if (isWhole) scatter = 1.4826 * median(points.map(({ y, at }) => Math.abs(y - middle(at))));
    const usually = Math.max(1, (SCATTERS * scatter) / USUAL_LATE);
    const late = (off: Seconds) => lateCost(off / usually);
    let cost = costOfMoves(stops.length + ways.length);
    const used = new Set(laid);
    const [from, to] = [
      laid.find((index) => index >= 0) ?? 0,
      laid.findLast((index) => index >= 0),
    ];
    const strengthOf = (index: number) => Math.min(1, heard[index]!.strength / usual);
    for (let index = from; index < (to ?? 0); index += 1) {
      if (!used.has(index)) cost += EXTRA * strengthOf(index);
    }
    laid.forEach((index, at) => {
      if (index < 0) cost += meant[at]!.soft ? MISS_SOFT : MISS;
      else if (hurried.has(at)) cost += late(heard[index]!.seconds - clockAt(at)) + ON_THE_WAY;
      else cost += late(heard[index]!.seconds - middle(at));
    });
    return { ...clock, laid, stops, hurried, residuals, cost };
  };

  let best = lay(all);
  let moves = all;
  const tryWith = (fewer: Moves, knows?: (at: number) => boolean) => {
    const other = lay(fewer, knows);
    if (!other || (best && other.cost > best.cost)) return false;
    [best, moves] = [other, fewer];
    return true;
  };
  const count = all.stops.length + all.ways.length;
  // Moves that come again and again are not there by chance: one by one only a few are doubted.
  if (count > 0 && !tryWith({ stops: [], ways: [] }) && count <= DOUBTED) {
    for (const stop of all.stops) {
      const fewer = { ...moves, stops: moves.stops.filter((one) => one !== stop) };
      // Where what comes before was taken for other strokes, it is what comes after that tells, or the other way round.
      const sides = [undefined, (at: number) => at >= stop, (at: number) => at < stop];
      sides.some((knows) => tryWith(fewer, knows));
    }
    for (const way of all.ways) {
      tryWith({ ...moves, ways: moves.ways.filter((one) => one !== way) });
    }
  }
  return best;
}
