import type { Centimetres, Milliseconds } from '../plain';
import { crowding, EASY_CM, type FingerMove, fingerChange, fretsApart } from '../neck';
import type { Shape } from '../schema';

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
  /** Across one string, and along the neck as far as one fret of a guitar (`FRET_CM`), through the air. */
  string: 25,
  fret: 35,
  /** As far with the finger on its string: the string guides it. */
  slide: 28,
  /** Down behind the fret until the note is clean. */
  place: 85,
  /** Down from where a free finger waits above the strings. */
  land: 105,
  /** A finger that lies down flat, for each string beyond two that it covers, and one that gets up. */
  barre: 130,
  barreString: 14,
  raise: 55,
  /** To the far end of a shape that is as wide as the hand reaches (`WIDE_CM`), and in proportion between. */
  stretch: 55,
  /** Into a fret that is too narrow for the fingers in it (`crowding`), for each other finger of the shape. */
  crowd: 160,
  /** The little finger is slower than the others. */
  little: 35,
  /** For each movement beside the first that goes another way: the hand thinks of one at a time. */
  apart: 20,
} as const;

/** How wide the third fret of a guitar is, by which ways along the neck are measured. */
const FRET_CM: Centimetres = fretsApart(65, 2, 3);
/** A hand reaches so far: three frets of a guitar from its first. */
const WIDE_CM: Centimetres = fretsApart(65, 1, 4);

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

/** What a shape asks of the hand by how long the strings are. */
interface Spread {
  scale: Centimetres;
  /** Its lowest and highest fret, and the share of a reach that they are apart. */
  low: number;
  high: number;
  stretch: number;
  /** Fingers in each fret; one that lies flat is one. */
  inFret: Map<number, number>;
}

function spreadOf({ frets, fingers }: Shape, scale: Centimetres): Spread {
  const pressed = frets.filter((fret) => fret !== null && fret > 0) as number[];
  const [low, high] = [Math.min(...pressed), Math.max(...pressed)];
  const wide = pressed.length > 0 ? fretsApart(scale, low, high) : 0;
  const stretch = Math.min(1, Math.max(0, (wide - EASY_CM) / (WIDE_CM - EASY_CM)));
  const inFret = new Map<number, Set<number>>();
  frets.forEach((fret, string) => {
    if (fret) inFret.set(fret, (inFret.get(fret) ?? new Set()).add(fingers[string]!));
  });
  const counts = [...inFret].map(([fret, held]) => [fret, held.size] as const);
  return { scale, low, high, stretch, inFret: new Map(counts) };
}

function ownNeed(move: FingerMove, { scale, low, high, stretch, inFret }: Spread): Milliseconds {
  const { kind, from, to, finger } = move;
  // A barre covers the strings between the ones that it presses, too.
  const laid = to && to.strings.length > 1 ? to.strings.at(-1)! - to.strings[0]! + 1 : 0;
  const lay = laid > 1 ? NEED.barre + (laid - 2) * NEED.barreString : 0;
  const raised = from && from.strings.length > 1 && laid === 0 ? NEED.raise : 0;
  const little = finger === 4 ? NEED.little : 0;
  const far = to && low < high && (to.fret === low || to.fret === high);
  const narrow = to ? crowding(scale, to.fret, inFret.get(to.fret) ?? 1) : 0;
  const others = [...inFret.values()].reduce((sum, count) => sum + count, -1);
  const crowd = narrow * others * NEED.crowd;
  const reach = (far ? NEED.stretch * stretch : 0) + crowd;
  const frets = from && to ? fretsApart(scale, from.fret, to.fret) / FRET_CM : 0;
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
 * @param scale of the strings that sound, from nut or capo to bridge: see `soundingLength`
 * @param wanted whether a finger takes part; one whose strings are never struck may stay off
 * @example changeDuration(shapeOf('C'), shapeOf('Am'), 65).ms // 315: the third finger, to the G string
 */
export function changeDuration(
  from: Shape,
  to: Shape,
  scale: Centimetres,
  wanted: (move: FingerMove) => boolean = () => true,
): ChangeNeed {
  const moves = fingerChange(from, to).moves.filter(wanted);
  const key = `${scale} ${moves.map(({ finger }) => finger).join('')}`;
  const before = known.get(from) ?? new WeakMap<Shape, Map<string, ChangeNeed>>();
  known.set(from, before);
  const needs = before.get(to) ?? new Map<string, ChangeNeed>();
  before.set(to, needs);
  const need = needs.get(key) ?? needFrom(to, scale, moves);
  needs.set(key, need);
  return need;
}

/** The same change is asked for at every place of a song where it comes. */
const known = new WeakMap<Shape, WeakMap<Shape, Map<string, ChangeNeed>>>();

function needFrom(to: Shape, scale: Centimetres, moves: FingerMove[]): ChangeNeed {
  const spread = spreadOf(to, scale);
  const own = moves.map((move) => ({ move, ms: Math.round(ownNeed(move, spread)) }));
  const ways = new Set(own.flatMap(({ move, ms }) => (ms > 0 ? (wayOf(move) ?? []) : [])));
  const apart = Math.max(0, ways.size - 1) * NEED.apart;
  const fingers = own.map(({ move, ms }) => ({
    move,
    ms: ms === 0 ? 0 : ms + (move.kind === 'lifts' ? 0 : apart),
  }));
  return { ms: Math.max(0, ...fingers.map(({ ms }) => ms)), fingers };
}
