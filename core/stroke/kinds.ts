import type { Stroke } from '../schema';

/** What is true of every stroke of a kind, in one table: what may be asked of it, and who decides its way. */
interface StrokeTraits {
  /** It sounds the strings at a pitch, and so may be muted or on open strings. */
  pitched: boolean;
  /** One finger of the striking hand may be named for it. */
  fingered: boolean;
  /** A tap may come with it. */
  tapped: boolean;
  /** Its way is the arm's unless another is said. */
  goesWithTheArm: boolean;
}

const TRAITS: Record<Stroke['kind'], StrokeTraits> = {
  strum: { pitched: true, fingered: true, tapped: true, goesWithTheArm: false },
  chuck: { pitched: false, fingered: true, tapped: true, goesWithTheArm: true },
  bass: { pitched: true, fingered: true, tapped: true, goesWithTheArm: false },
  pick: { pitched: true, fingered: false, tapped: true, goesWithTheArm: true },
  roll: { pitched: true, fingered: false, tapped: true, goesWithTheArm: true },
  legato: { pitched: false, fingered: false, tapped: false, goesWithTheArm: false },
  tap: { pitched: false, fingered: false, tapped: false, goesWithTheArm: false },
  miss: { pitched: false, fingered: false, tapped: false, goesWithTheArm: false },
  hold: { pitched: false, fingered: false, tapped: false, goesWithTheArm: false },
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

/** True where the pick may come to rest on the next string. */
export function takesRest(stroke: Stroke): stroke is OfKind<'bass' | 'pick'> {
  return stroke.kind === 'bass' || stroke.kind === 'pick';
}

export function goesWithTheArm(stroke: Stroke): stroke is OfKind<'chuck' | 'pick' | 'roll'> {
  return TRAITS[stroke.kind].goesWithTheArm;
}
