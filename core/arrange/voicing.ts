import type { Seconds } from '../plain';
import type { Accent, Direction, Pattern, PickedString, StrumReach } from '../schema';
import { alternateOf, type FrettedChord, type FretOptions, isReentrant } from '../neck';
import { type SoundingStroke, stringPlace } from '../stroke';
import type { Strike, StrikeNote } from './performance';

/** How hard the hand strikes, by accent, 0 to 1. */
export const VELOCITIES: Record<Accent, number> = {
  ghost: 0.32,
  normal: 0.6,
  accent: 0.82,
  strong: 1,
};

/** A swing spends about this share of its time on the strings: the rest is turning. */
const TIME_ON_STRINGS = 0.12;
const SLOWEST_RAKE = 0.06;
const FASTEST_RAKE = 0.012;

/**
 * Seconds that the pick takes across all the strings, by the rate of the arm.
 * @param rate moves a second
 */
export function rakeSeconds(rate: number): Seconds {
  return Math.min(SLOWEST_RAKE, Math.max(FASTEST_RAKE, TIME_ON_STRINGS / rate));
}

/** A pinch is one movement, but fingers are never quite together: seconds between its strings. */
const PINCH = 0.002;
/** The pick loses a little of its force on the way from string to string. */
const FORCE_LOST = 0.05;
/** Share of its slot that a roll fills. */
const ROLL_SHARE = 0.5;

/** What a stroke sounds on a chord, and what it damps. */
export type Voicing = Pick<Strike, 'notes' | 'damps'>;

/** What decides the strings of a stroke, besides the stroke. */
export interface VoicingContext {
  held: FrettedChord | null;
  options: FretOptions;
  velocity: number;
  /** Seconds across all strings, and for the slot. */
  rake: number;
  slotSeconds: Seconds;
  /** The bass struck last on this chord. */
  lastBass: 'root' | 'other' | null;
  /** Strings, by their numbers, that the fingers of the pattern have: on a re-entrant instrument the thumb keeps off them. */
  taken?: ReadonlySet<number>;
}

export interface Sounding {
  string: number;
  fret: number;
  midi: number;
}

/** Strings that a stroke would sound: those of the shape, or all of them open. */
export function soundingStrings(
  { held, options }: Pick<VoicingContext, 'held' | 'options'>,
  open: boolean,
): Sounding[] {
  if (open) return options.instrument.strings.map((_, string) => openString(options, string));
  if (!held) return [];
  return held.pitches.flatMap((midi, string) =>
    midi === null ? [] : [{ midi, string, fret: held.shape.frets[string]! }],
  );
}

export function stringAt(
  { instrument, capo }: FretOptions,
  string: number,
  fret: number,
): Sounding {
  return { string, fret, midi: instrument.strings[string]! + fret + capo + instrument.offset };
}

const openString = (options: FretOptions, string: number) => stringAt(options, string, 0);

/** The string of a number that players count from the far side; null where the neck has none. */
function byNumber(options: FretOptions, number: number): number | null {
  const string = options.instrument.strings.length - number;
  return string < 0 ? null : string;
}

/** Of the strings on offer, those that a strum reaches. */
function reached(
  strings: Sounding[],
  reach: StrumReach | undefined,
  options: FretOptions,
): Sounding[] {
  const half = Math.ceil(strings.length / 2);
  if (reach === undefined) return strings;
  if (reach === 'bass') return strings.slice(0, half);
  if (reach === 'treble') return strings.slice(-half);
  const chosen = reach.map((number) => byNumber(options, number));
  return strings.filter(({ string }) => chosen.includes(string));
}

function raked(strings: Sounding[], dir: Direction, velocity: number, step: number): StrikeNote[] {
  const ordered = dir === 'down' ? strings : strings.toReversed();
  // Field by field: thousands of them are made, and a spread takes several times as long.
  return ordered.map(({ string, fret, midi }, order) => ({
    midi,
    string,
    fret,
    delay: order * step,
    velocity: velocity * (1 - FORCE_LOST * order),
  }));
}

/** Fans of a roll, evenly over the first half of the slot, the last a little louder. */
function rolled(
  strings: Sounding[],
  dir: Direction,
  hits: number,
  context: VoicingContext,
): StrikeNote[] {
  const { slotSeconds, velocity } = context;
  const apart = (slotSeconds * ROLL_SHARE) / hits;
  const step = Math.min(0.004, apart / (2 * Math.max(1, strings.length)));
  return Array.from({ length: hits }, (_, hit) => {
    const force = velocity * (hit === hits - 1 ? 1 : 0.75);
    return raked(strings, dir, force, step).map((note) => ({
      ...note,
      delay: note.delay + hit * apart,
    }));
  }).flat();
}

/** A string at the fret that its pick asks for: one of its own, or one counted from the shape's. */
function atFret(
  { fret, above }: PickedString,
  sounding: Sounding,
  options: FretOptions,
): Sounding | null {
  const wanted = fret ?? sounding.fret + (above ?? 0);
  if (wanted === sounding.fret) return sounding;
  return wanted < 0 ? null : stringAt(options, sounding.string, wanted);
}

/**
 * The string of a pick on this chord, at the fret that it asks for; null where the shape, or the neck, has
 * none.
 * @param sounding the strings of the shape, from the thumb on
 */
export function pickedString(
  picked: PickedString,
  sounding: Sounding[],
  context: Pick<VoicingContext, 'held' | 'options' | 'taken'>,
): Sounding | null {
  const string = stringOfPick(picked, sounding, context);
  return string && atFret(picked, string, context.options);
}

function stringOfPick(
  { string }: PickedString,
  sounding: Sounding[],
  { held, options, taken = NONE }: Pick<VoicingContext, 'held' | 'options' | 'taken'>,
): Sounding | null {
  const place = stringPlace(string);
  if ('number' in place) {
    const at = byNumber(options, place.number);
    if (at === null) return null;
    // A string that the shape leaves out rings open when it is picked by its number.
    return sounding.find((other) => other.string === at) ?? openString(options, at);
  }
  const root = held?.bass.string ?? sounding[0]?.string;
  if (root === undefined) return null;
  const rootString = sounding.find((other) => other.string === root) ?? null;
  if (isReentrant(options.instrument)) {
    // The fingers have their own strings: the thumb takes the one that they leave it.
    if (place.above === 0) {
      const isTaken = (string: number) => taken.has(options.instrument.strings.length - string);
      const free = sounding.find(({ string }) => string < root && !isTaken(string));
      return isTaken(root) && free ? free : rootString;
    }
    // Across the neck from the root, then what is left: the lowest is not the first.
    const across = [
      ...sounding.filter(({ string }) => string > root),
      ...sounding.filter(({ string }) => string < root),
    ];
    return across[place.above - 1] ?? across.at(-1) ?? null;
  }
  const above = sounding.filter((other) => other.string !== root);
  if (place.above === 0) return rootString;
  return above[place.above - 1] ?? above.at(-1) ?? null;
}

const NONE: ReadonlySet<number> = new Set();
const takenIn = new WeakMap<Pattern, ReadonlySet<number>>();

/**
 * The strings that the fingers beside the thumb have by their number in a picked pattern; 1 is the farthest from the thumb.
 * @example fingersOf(pattern) // of 'R.p s3.i, s2.m s1.a' 3, 2 and 1
 */
export function fingersOf(pattern: Pattern): ReadonlySet<number> {
  const known = takenIn.get(pattern);
  if (known) return known;
  const found = new Set<number>();
  for (const { slots } of pattern.beats) {
    for (const stroke of slots) {
      if (stroke.kind !== 'pick') continue;
      for (const { string, finger } of stroke.strings) {
        const place = stringPlace(string);
        if ('number' in place && finger !== 'p') found.add(place.number);
      }
    }
  }
  takenIn.set(pattern, found);
  return found;
}

/** The note of a bass strike, and the string that stops as a finger leaves it for that note. */
function bassOf(
  stroke: Extract<SoundingStroke, { kind: 'bass' }>,
  { held, options, lastBass }: VoicingContext,
): { note: Sounding | null; left: number[] } {
  const { note } = stroke;
  if (typeof note === 'object') {
    const string = byNumber(options, note.string);
    const there = string === null ? null : stringAt(options, string, stroke.open ? 0 : note.fret);
    return { note: there, left: [] };
  }
  if (!held) return { note: null, left: [] };
  const root = held.bass;
  const away = note === 'fifth' || (note === 'alternate' && lastBass === 'root');
  if (!away) {
    const { string, fret, midi } = root;
    return { note: stroke.open ? openString(options, string) : { string, fret, midi }, left: [] };
  }
  const { string, fret, midi, mover } = alternateOf(held, options, options.ownAlternates);
  if (stroke.open) return { note: openString(options, string), left: [] };
  const from = mover?.from && mover.from.string !== string ? [mover.from.string] : [];
  return { note: { string, fret, midi }, left: from };
}

/** Which bass a stroke has struck, for the next alternate; null where it struck none. */
export function bassStruck(
  stroke: SoundingStroke,
  lastBass: VoicingContext['lastBass'],
): VoicingContext['lastBass'] {
  if (stroke.kind !== 'bass') return lastBass;
  if (stroke.note === undefined) return 'root';
  if (stroke.note === 'alternate') return lastBass === 'root' ? 'other' : 'root';
  return 'other';
}

/**
 * The strings that a stroke sounds on a chord, in the order in which they are reached, and those that it
 * damps. Without a chord only open strings, explicit ones and percussion sound.
 */
export function voicingOf(stroke: SoundingStroke, context: VoicingContext): Voicing {
  const { options, velocity, rake } = context;
  const all = options.instrument.strings.map((_, string) => string);
  switch (stroke.kind) {
    case 'chuck':
      return { notes: [], damps: all };
    case 'legato':
      // Worked out last, when it is known what rings: see `legato.ts`.
      return { notes: [], damps: [] };
    case 'tap':
      return { notes: [], damps: stroke.on === 'strings' ? all : [] };
    case 'bass': {
      const { note, left } = bassOf(stroke, context);
      const notes = note ? [{ ...note, delay: 0, velocity: Math.min(1, velocity * 1.08) }] : [];
      return { notes, damps: left };
    }
    case 'pick': {
      const sounding = soundingStrings(context, stroke.open === true);
      const found = stroke.strings.flatMap(
        (picked) => pickedString(picked, sounding, context) ?? [],
      );
      const once = [...new Map(found.map((note) => [note.string, note])).values()].sort(
        (a, b) => a.string - b.string,
      );
      return { notes: raked(once, stroke.dir, velocity, PINCH), damps: [] };
    }
    case 'roll': {
      const sounding = soundingStrings(context, stroke.open === true);
      return { notes: rolled(sounding, stroke.dir, stroke.hits, context), damps: [] };
    }
    case 'strum': {
      const sounding = soundingStrings(context, stroke.open === true);
      const step = rake / Math.max(1, options.instrument.strings.length - 1);
      const strings = reached(sounding, stroke.reach, options);
      return { notes: raked(strings, stroke.dir, velocity, step), damps: [] };
    }
  }
}
