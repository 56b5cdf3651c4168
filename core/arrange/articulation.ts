import type { Ticks } from '../plain';
import type { Arrival, LegatoHow, Pattern, Section, Song } from '../schema';
import { type Slot, type SoundingStroke, sounds, strokeDirection } from '../stroke';
import type { Strike } from './performance';
import type { PlayedBar } from '../song';
import { VELOCITIES } from './voicing';

/** How a slot is played: what its pattern says, and what its bar and section make of it. */

/**
 * How hard each slot is struck, 0 to 1: by its accent, and by the build it lies in, which goes from one
 * level to another over its beats. An accent stands out by as much inside a build as outside.
 */
function velocityIn(pattern: Pattern, { beat, position, stroke }: Slot): number {
  if (!('accent' in stroke)) return 0;
  const own = VELOCITIES[stroke.accent];
  const build = pattern.builds?.findLast(
    (candidate) => beat >= candidate.beat && beat < candidate.beat + candidate.beats,
  );
  if (!build) return own;
  const at = beat - build.beat + position / pattern.beats[beat]!.division;
  // A build may reach past the end of its pattern: what lies beyond is not played.
  const end = pattern.beats[build.beat + build.beats - 1] ?? pattern.beats.at(-1)!;
  const last = build.beats - 1 / end.division;
  const share = last > 0 ? Math.min(1, at / last) : 1;
  const level = VELOCITIES[build.from] + (VELOCITIES[build.to] - VELOCITIES[build.from]) * share;
  return Math.min(1, (level * own) / VELOCITIES.normal);
}

/** What is the same each time a slot is played. */
export interface Articulation extends Pick<
  Strike,
  'kind' | 'dir' | 'accent' | 'velocity' | 'transition' | 'palm' | 'flesh' | 'tap'
> {
  stroke: SoundingStroke;
}

/** A slot as its pattern says it is played; null where it is silent. */
export function articulationOf(pattern: Pattern, slot: Slot): Articulation | null {
  const { stroke } = slot;
  if (!sounds(stroke)) return null;
  return {
    stroke,
    kind: stroke.kind,
    dir: strokeDirection(stroke) ?? 'down',
    accent: stroke.accent,
    velocity: velocityIn(pattern, slot),
    transition: 'open' in stroke && stroke.open === true,
    palm: 'palm' in stroke && stroke.palm === true,
    flesh: isOfFlesh(stroke),
    tap: stroke.kind === 'tap' ? stroke.on : 'tap' in stroke ? (stroke.tap ?? null) : null,
  };
}

/** True where a finger is named for it: flesh is rounder than a pick. */
function isOfFlesh(stroke: SoundingStroke): boolean {
  // A rest stroke is as round as one of the flesh.
  if ('rest' in stroke && stroke.rest) return true;
  if (stroke.kind === 'pick') return stroke.strings.some(({ finger }) => finger !== undefined);
  return 'finger' in stroke && stroke.finger !== undefined;
}

/** Variants of strokes, the same one each time, so that their strings are worked out once. */
const openVariants = new WeakMap<SoundingStroke, SoundingStroke>();
const downVariants = new WeakMap<SoundingStroke, SoundingStroke>();

function variant(
  known: WeakMap<SoundingStroke, SoundingStroke>,
  stroke: SoundingStroke,
  change: Partial<{ open: true; dir: 'down' }>,
): SoundingStroke {
  const made = known.get(stroke) ?? ({ ...stroke, ...change } as SoundingStroke);
  known.set(stroke, made);
  return made;
}

/** The stroke on open strings. */
export function openOf(stroke: SoundingStroke): SoundingStroke {
  return variant(openVariants, stroke, { open: true });
}

const dampedVariants = new WeakMap<SoundingStroke, SoundingStroke>();

/** The stroke on damped strings, as loud. */
export function dampedOf(stroke: SoundingStroke): SoundingStroke {
  if (!('dir' in stroke) || stroke.kind === 'chuck') return stroke;
  const made = dampedVariants.get(stroke) ?? {
    kind: 'chuck',
    dir: stroke.dir,
    accent: stroke.accent,
    ...(stroke.tap && { tap: stroke.tap }),
  };
  dampedVariants.set(stroke, made);
  return made;
}

/** True for what the fretting hand sounds, where no stroke does. */
export function isLegato(how: Arrival | undefined): how is LegatoHow {
  return how === 'slide' || how === 'hammer' || how === 'pull';
}

/** Arrivals that are struck; the others are the fretting hand's: see `legato.ts`. */
type StruckArrival = Exclude<Arrival, LegatoHow>;

const landingStrokes: Record<StruckArrival, WeakMap<SoundingStroke, SoundingStroke>> = {
  bass: new WeakMap(),
  'bass side': new WeakMap(),
  'treble side': new WeakMap(),
  whole: new WeakMap(),
  roll: new WeakMap(),
};

/** A stroke of all strings, at once or one after the other, in the place of one that is pitched. */
function ofAllStrings(stroke: SoundingStroke, how: 'whole' | 'roll'): SoundingStroke {
  if (stroke.kind === 'chuck' || stroke.kind === 'tap' || stroke.kind === 'legato') return stroke;
  const { accent, palm, open, tap } = stroke;
  const dir = 'dir' in stroke ? stroke.dir : 'down';
  const touch = { ...(palm && { palm }), ...(open && { open }), ...(tap && { tap }) };
  return how === 'whole'
    ? { kind: 'strum', dir, accent, ...touch }
    : { kind: 'roll', dir, accent, hits: ROLL_HITS, ...touch };
}
/** Strokes of a roll that a chord lands with. */
export const ROLL_HITS = 4;

/**
 * The stroke that a chord lands with, as its placement asks for it. Of a strum one side is taken, or its bass note,
 * which an up does not have; any pitched stroke may become the whole chord, or a roll.
 */
export function arriving(now: Articulation, how: Arrival): Articulation {
  const { stroke } = now;
  // The fretting hand takes the place of the stroke: see `legato.ts`.
  if (isLegato(how)) return now;
  if (how === 'whole' || how === 'roll') {
    const made = landingStrokes[how].get(stroke) ?? ofAllStrings(stroke, how);
    landingStrokes[how].set(stroke, made);
    return { ...now, stroke: made, kind: made.kind };
  }
  if (stroke.kind !== 'strum' || (how === 'bass' && stroke.dir === 'up')) return now;
  const { dir: _, reach: __, kind: ___, grace: ____, ...rest } = stroke;
  const made =
    landingStrokes[how].get(stroke) ??
    (how === 'bass'
      ? { kind: 'bass' as const, ...rest }
      : { ...stroke, reach: how === 'bass side' ? ('bass' as const) : ('treble' as const) });
  landingStrokes[how].set(stroke, made);
  return { ...now, stroke: made, kind: made.kind };
}

/** The loudness of a section: as a whole, and over its build. */
export interface SectionLevel {
  /** A velocity at a tick, made louder or softer. */
  of: (velocity: number, tick: Ticks) => number;
  downs: boolean;
}

/** Steps of loudness that are told apart: a build need not be worked out strike by strike. */
const LEVELS = 48;
const stepped = (velocity: number) => Math.min(1, Math.round(velocity * LEVELS) / LEVELS);

/** The loudness of each passage; null where it is as the pattern says. */
export function passageLevels(song: Song, bars: PlayedBar[]): (SectionLevel | null)[] {
  const spans: { section: number; first: number; end: number }[] = [];
  for (const { passage, section, tick, ticks } of bars) {
    const span = (spans[passage] ??= { section, first: tick, end: tick });
    span.end = tick + ticks;
  }
  return spans.map(({ section, first, end }) =>
    levelOf(song.sections[section]!, first, end - first),
  );
}

function levelOf(section: Section, first: number, length: number): SectionLevel | null {
  const { level = 'normal', build } = section.rules ?? {};
  if (!build && level === 'normal') return null;
  const whole = VELOCITIES[level] / VELOCITIES.normal;
  if (!build) return { of: (velocity) => stepped(velocity * whole), downs: false };
  const [from, to] = [VELOCITIES[build.from], VELOCITIES[build.to]];
  const at = (tick: Ticks) =>
    (whole * (from + ((to - from) * (tick - first)) / length)) / VELOCITIES.normal;
  return {
    of: (velocity, tick) => stepped(velocity * at(tick)),
    downs: build.downs === true,
  };
}

const DRIVEN: SoundingStroke = { kind: 'strum', dir: 'down', accent: 'accent' };

/** Strokes that are no whole chord. */
const PARTS = new Set<Strike['kind']>(['bass', 'chuck', 'tap']);

/** Where a slot lies under a fermata: the one stroke that it has, or after it. */
export type FermataPlace = 'struck' | 'held';

/** What a bar's rules, and a section that is driven by downs, make of a slot; null where it is silent. */
export function articulated(
  now: Articulation | null,
  bar: PlayedBar,
  tick: Ticks,
  level: SectionLevel | null | undefined,
  fermata: FermataPlace | null,
): Articulation | null {
  const { stop, skipFirst } = bar.content.rules ?? {};
  if (skipFirst && tick === bar.tick) return null;
  if (stop !== undefined && tick > bar.tick + stop) return null;
  if (fermata === 'held') return null;
  const driven = fermata === 'struck' || (stop !== undefined && tick === bar.tick + stop);
  // Nothing rings as a chord lands, and so all strike where the hand was to sound it by itself.
  // What is held to the end is the whole chord, whatever the pattern begins with.
  const isPart = fermata === 'struck' && now !== null && PARTS.has(now.kind);
  if (driven && (!now || now.kind === 'legato' || isPart)) {
    return {
      stroke: DRIVEN,
      kind: 'strum',
      dir: 'down',
      accent: 'accent',
      velocity: VELOCITIES.accent,
      transition: false,
      palm: false,
      flesh: false,
      tap: null,
    };
  }
  if (now && level?.downs && 'dir' in now.stroke && now.dir === 'up') {
    return { ...now, stroke: variant(downVariants, now.stroke, { dir: 'down' }), dir: 'down' };
  }
  return now;
}
