import type { Grace, Stroke } from '../schema';

/** What is true of every stroke of a kind, in one table: what may be asked of it, and who decides its way. */
interface StrokeTraits {
  /** It sounds the strings at a pitch, and so may be muted or on open strings. */
  pitched: boolean;
  /** One finger of the striking hand may be named for it. */
  fingered: boolean;
  /** A tap may come with it. */
  tapped: boolean;
  /** It may go on from the stroke before it in one movement of the hand. */
  sweeps: boolean;
  /** Its way is the arm's unless another is said. */
  goesWithTheArm: boolean;
}

const TRAITS: Record<Stroke['kind'], StrokeTraits> = {
  strum: { sweeps: true, pitched: true, fingered: true, tapped: true, goesWithTheArm: false },
  chuck: { sweeps: true, pitched: false, fingered: true, tapped: true, goesWithTheArm: true },
  bass: { sweeps: false, pitched: true, fingered: true, tapped: true, goesWithTheArm: false },
  pick: { sweeps: true, pitched: true, fingered: false, tapped: true, goesWithTheArm: true },
  roll: { sweeps: false, pitched: true, fingered: false, tapped: true, goesWithTheArm: true },
  legato: { sweeps: false, pitched: false, fingered: false, tapped: false, goesWithTheArm: false },
  tap: { sweeps: false, pitched: false, fingered: false, tapped: false, goesWithTheArm: false },
  miss: { sweeps: false, pitched: false, fingered: false, tapped: false, goesWithTheArm: false },
  hold: { sweeps: false, pitched: false, fingered: false, tapped: false, goesWithTheArm: false },
};

type OfKind<Kind extends Stroke['kind']> = Extract<Stroke, { kind: Kind }>;

/** @example isPitched({ kind: 'miss' }) // false */
export function isPitched(stroke: Stroke): stroke is OfKind<'strum' | 'bass' | 'pick' | 'roll'> {
  return TRAITS[stroke.kind].pitched;
}

/** True where one finger may be named for it; a pick names one for each of its strings. */
export function takesFinger(stroke: Stroke): stroke is OfKind<'strum' | 'chuck' | 'bass'> {
  return TRAITS[stroke.kind].fingered;
}

export function takesTap(
  stroke: Stroke,
): stroke is OfKind<'strum' | 'chuck' | 'bass' | 'pick' | 'roll'> {
  return TRAITS[stroke.kind].tapped;
}

/** True where an ornament of the fretting hand may come with it. */
export function takesGrace(stroke: Stroke): stroke is OfKind<'strum' | 'bass' | 'pick'> {
  return TRAITS[stroke.kind].pitched && stroke.kind !== 'roll';
}

/**
 * The ornaments that come with a stroke: one, or one for each of several strings of a pinch.
 * @example gracesOf({ kind: 'miss' }) // []
 */
export function gracesOf(stroke: Stroke): Grace[] {
  if (!takesGrace(stroke) || !stroke.grace) return [];
  return [stroke.grace, ...(stroke.kind === 'pick' ? (stroke.moreGraces ?? []) : [])];
}

/**
 * The stroke with one more ornament; null where it has one that this would take the place of: of several, each is on a
 * string of its own, one of those that are picked.
 */
export function withGrace(stroke: Stroke, grace: Grace): Stroke | null {
  if (!takesGrace(stroke)) return null;
  const before = gracesOf(stroke);
  if (before.length === 0) return { ...stroke, grace };
  if (stroke.kind !== 'pick') return null;
  const strings = [...before, grace].map(({ string }) => string);
  const picked = new Set<string | undefined>(stroke.strings.map(({ string }) => string));
  const apart = new Set(strings).size === strings.length;
  if (!apart || !strings.every((string) => picked.has(string))) return null;
  return { ...stroke, moreGraces: [...(stroke.moreGraces ?? []), grace] };
}

/** True where the pick may come to rest on the next string. */
export function takesRest(stroke: Stroke): stroke is OfKind<'bass' | 'pick'> {
  return stroke.kind === 'bass' || stroke.kind === 'pick';
}

/** True where it may go on from the stroke before it in one sweep of the hand. */
export function takesSweep(stroke: Stroke): stroke is OfKind<'strum' | 'chuck' | 'pick'> {
  return TRAITS[stroke.kind].sweeps;
}

/**
 * Which slots are in a sweep, each with the slot that it began with; a stroke that says it goes on from what does not
 * sound begins by itself.
 * @param grid the slots in order
 * @example sweeps([{ stroke: strum('down') }, { stroke: { ...strum('down'), sweep: true } }]).get(1) // 0
 */
export function sweeps(grid: { stroke: Stroke }[]): Map<number, number> {
  const found = new Map<number, number>();
  grid.forEach(({ stroke }, slot) => {
    const before = grid[slot - 1]?.stroke;
    if (!takesSweep(stroke) || !stroke.sweep || !before) return;
    if (before.kind === 'miss' || before.kind === 'hold' || before.kind === 'legato') return;
    found.set(slot, found.get(slot - 1) ?? slot - 1);
  });
  return found;
}

export function goesWithTheArm(stroke: Stroke): stroke is OfKind<'chuck' | 'pick' | 'roll'> {
  return TRAITS[stroke.kind].goesWithTheArm;
}
