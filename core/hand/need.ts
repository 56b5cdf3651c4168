import type { Milliseconds } from '../plain';
import { type FingerMove, fingerChange, REACH } from '../neck';
import type { Family, Shape } from '../schema';

/**
 * How long a fretting hand takes, in milliseconds: our own estimate of a hand that knows its shapes and
 * has not practised this change in particular. What is measured takes its place, and the hand's own
 * factor scales it.
 */
export const NEED = {
  /** From the last note of the old chord until the fingers leave it; a change is known ahead. */
  start: 110,
  /** Off the string, far enough to clear the others. */
  lift: 35,
  /** Across one string, and along one fret, through the air. */
  string: 25,
  fret: 35,
  /** Along one fret with the finger on its string: the string guides it. */
  slide: 28,
  /** Down behind the fret until the note is clean. */
  place: 85,
  /** Down from where a free finger waits above the strings. */
  land: 105,
  /** A finger that lies down flat, for each string beyond two that it covers, and one that gets up. */
  barre: 130,
  barreString: 14,
  raise: 55,
  /** To the far end of a shape that is as wide as the hand reaches. */
  stretch: 55,
  /** The little finger is slower than the others. */
  little: 35,
  /** For each movement beside the first that goes another way: the hand thinks of one at a time. */
  apart: 20,
} as const;

/** What one finger needs, with what it is made of. */
export interface FingerNeed {
  move: FingerMove;
  /** Milliseconds; 0 for a finger that stays. */
  ms: Milliseconds;
}

/** What a change needs: fingers move at the same time, so it is that of the slowest. */
export interface ChangeNeed {
  ms: Milliseconds;
  fingers: FingerNeed[];
}

/** The movement of a finger as a way over the neck; those that go the same way are one block. */
function wayOf({ kind, from, to }: FingerMove): string | null {
  if (kind === 'lifts' || !to) return null;
  // Free fingers make their shape in the air and come down together.
  if (!from) return 'lands';
  return `${to.strings[0]! - from.strings[0]!}/${to.fret - from.fret}/${to.strings.length}`;
}

function ownNeed(move: FingerMove, wide: { low: number; high: number } | null): Milliseconds {
  const { kind, from, to, finger } = move;
  // A barre covers the strings between the ones that it presses, too.
  const laid = to && to.strings.length > 1 ? to.strings.at(-1)! - to.strings[0]! + 1 : 0;
  const lay = laid > 1 ? NEED.barre + (laid - 2) * NEED.barreString : 0;
  const raised = from && from.strings.length > 1 && laid === 0 ? NEED.raise : 0;
  const little = finger === 4 ? NEED.little : 0;
  const reach = wide && to && (to.fret === wide.low || to.fret === wide.high) ? NEED.stretch : 0;
  const frets = from && to ? Math.abs(from.fret - to.fret) : 0;
  switch (kind) {
    case 'stays': {
      const grown = to!.strings.length - from!.strings.length;
      if (grown === 0) return 0;
      return NEED.start + (grown > 0 && laid > 1 ? lay : raised || NEED.lift);
    }
    case 'slides': {
      const relaid = laid > 1 && from!.strings.length !== to!.strings.length ? lay : 0;
      return NEED.start + frets * NEED.slide + NEED.lift + relaid + raised + little + reach;
    }
    case 'moves': {
      const strings = Math.abs(from!.strings[0]! - to!.strings[0]!);
      const travel = strings * NEED.string + frets * NEED.fret;
      return NEED.start + NEED.lift + travel + NEED.place + lay + raised + little + reach;
    }
    case 'lands':
      return NEED.start + NEED.land + lay + little + reach;
    case 'lifts':
      return NEED.start + NEED.lift + (from!.strings.length > 1 ? NEED.raise : 0);
  }
}

/**
 * What a change needs, finger by finger. A kept finger needs nothing; farther is never quicker, and nor is
 * a finger more, unless fingers come to travel as one block.
 * @param wanted whether a finger takes part; one whose strings are never struck may stay off
 * @example needOf(shapeOf('C'), shapeOf('Am'), 'guitar').ms // 315: the third finger, to the G string
 */
export function needOf(
  from: Shape,
  to: Shape,
  family: Family,
  wanted: (move: FingerMove) => boolean = () => true,
): ChangeNeed {
  const moves = fingerChange(from, to).moves.filter(wanted);
  const key = `${family} ${moves.map(({ finger }) => finger).join('')}`;
  const before = known.get(from) ?? new WeakMap<Shape, Map<string, ChangeNeed>>();
  known.set(from, before);
  const needs = before.get(to) ?? new Map<string, ChangeNeed>();
  before.set(to, needs);
  const need = needs.get(key) ?? needFrom(to, family, moves);
  needs.set(key, need);
  return need;
}

/** The same change is asked for at every place of a song where it comes. */
const known = new WeakMap<Shape, WeakMap<Shape, Map<string, ChangeNeed>>>();

function needFrom(to: Shape, family: Family, moves: FingerMove[]): ChangeNeed {
  const frets = to.frets.filter((fret) => fret !== null && fret > 0) as number[];
  const [low, high] = [Math.min(...frets), Math.max(...frets)];
  const wide = high - low >= REACH[family] ? { low, high } : null;
  const own = moves.map((move) => ({ move, ms: ownNeed(move, wide) }));
  const ways = new Set(own.flatMap(({ move, ms }) => (ms > 0 ? (wayOf(move) ?? []) : [])));
  const apart = Math.max(0, ways.size - 1) * NEED.apart;
  const fingers = own.map(({ move, ms }) => ({
    move,
    ms: ms === 0 ? 0 : ms + (move.kind === 'lifts' ? 0 : apart),
  }));
  return { ms: Math.max(0, ...fingers.map(({ ms }) => ms)), fingers };
}
