import type { Instrument, Shape } from '../schema';
import { fingerWord } from './bass';
import { stringLabel } from './instruments';

/** Where a finger presses: one fret, one string or, for a barre, several. */
export interface FingerPlace {
  fret: number;
  strings: number[];
}

/** What one finger does from one shape to the next. */
export interface FingerMove {
  finger: number;
  kind: 'stays' | 'slides' | 'moves' | 'lifts' | 'lands';
  from: FingerPlace | null;
  to: FingerPlace | null;
}

export interface FingerChange {
  moves: FingerMove[];
  /** How much the hand has to do, 0 for nothing; an estimate for comparing. */
  cost: number;
}

function places(shape: Shape): Map<number, FingerPlace> {
  const found = new Map<number, FingerPlace>();
  shape.fingers.forEach((finger, string) => {
    const fret = shape.frets[string];
    if (finger === 0 || !fret) return;
    const place = found.get(finger) ?? { fret, strings: [] };
    place.strings.push(string);
    found.set(finger, place);
  });
  return found;
}

function kindOf(from: FingerPlace | null, to: FingerPlace | null): FingerMove['kind'] {
  if (!from) return 'lands';
  if (!to) return 'lifts';
  const shared = from.strings.some((string) => to.strings.includes(string));
  if (!shared) return 'moves';
  return from.fret === to.fret ? 'stays' : 'slides';
}

const BARRE = 1.5;

function costOf({ kind, from, to }: FingerMove): number {
  const lay = to && to.strings.length > 1 ? BARRE : 0;
  const frets = from && to ? Math.abs(from.fret - to.fret) : 0;
  switch (kind) {
    case 'stays':
      // A finger that lies down flat, or gets up, where it was still has something to do.
      return from!.strings.length === to!.strings.length ? 0 : 0.6;
    case 'slides':
      return 0.7 + frets * 0.3 + (from!.strings.length === to!.strings.length ? 0 : lay);
    case 'moves':
      return 1.5 + frets * 0.35 + Math.abs(from!.strings[0]! - to!.strings[0]!) * 0.25 + lay;
    case 'lifts':
      return 0.4;
    case 'lands':
      return 1.2 + lay;
  }
}

/**
 * What the fretting hand does from one shape to the next: fingers that stay (anchors), slide along
 * their string (guides), move, lift and land, and how much that is.
 * @example fingerChange(shapeOf('C'), shapeOf('Am')).moves.filter((move) => move.kind === 'stays')
 * // fingers 1 and 2
 */
export function fingerChange(from: Shape, to: Shape): FingerChange {
  const known = changes.get(from) ?? new WeakMap<Shape, FingerChange>();
  changes.set(from, known);
  const change = known.get(to) ?? changeOf(from, to);
  known.set(to, change);
  return change;
}

/** The same two shapes are asked for at every place of a song where they meet. */
const changes = new WeakMap<Shape, WeakMap<Shape, FingerChange>>();

function changeOf(from: Shape, to: Shape): FingerChange {
  const before = places(from);
  const after = places(to);
  const moves = [1, 2, 3, 4].flatMap((finger): FingerMove[] => {
    const start = before.get(finger) ?? null;
    const end = after.get(finger) ?? null;
    return start || end ? [{ finger, kind: kindOf(start, end), from: start, to: end }] : [];
  });
  const cost = moves.reduce((sum, move) => sum + costOf(move), 0);
  return { moves, cost: Number(cost.toFixed(2)) };
}

/**
 * A change of fingers as a sentence.
 * @example describeChange(guitar, fingerChange(shapeOf('C'), shapeOf('Am')))
 * // 'Keep the first and second finger; move the third to the G string, fret 2.'
 */
export function describeChange(instrument: Instrument, change: FingerChange): string {
  const list = (fingers: number[]) => {
    const words = new Intl.ListFormat('en').format(fingers.map(fingerWord));
    return `the ${words} finger`;
  };
  const of = (kind: FingerMove['kind']) => change.moves.filter((move) => move.kind === kind);
  const parts: string[] = [];
  const stay = of('stays');
  if (stay.length > 0) parts.push(`keep ${list(stay.map((move) => move.finger))}`);
  for (const { finger, from, to } of of('slides')) {
    const way = to!.fret - from!.fret;
    const size = Math.abs(way) === 1 ? 'one fret' : `${Math.abs(way)} frets`;
    parts.push(`slide the ${fingerWord(finger)} ${way > 0 ? 'up' : 'down'} ${size}`);
  }
  const where = ({ fret, strings }: FingerPlace) =>
    strings.length > 1
      ? `flat over ${strings.length} strings at fret ${fret}`
      : `to the ${stringLabel(instrument, strings[0]!)} string, fret ${fret}`;
  for (const { finger, to } of of('moves'))
    parts.push(`move the ${fingerWord(finger)} ${where(to!)}`);
  for (const { finger, to } of of('lands')) {
    parts.push(`put the ${fingerWord(finger)} ${where(to!).replace(/^to /, 'on ')}`);
  }
  const lift = of('lifts');
  if (lift.length > 0) parts.push(`lift ${list(lift.map((move) => move.finger))}`);
  if (parts.length === 0) return 'Nothing to do: both shapes are all open strings.';
  const sentence = parts.join('; ');
  return `${sentence.charAt(0).toUpperCase()}${sentence.slice(1)}.`;
}
