import {
  goesWithTheArm,
  gracesOf,
  isPitched,
  takesFinger,
  takesRest,
  takesSweep,
  takesTap,
  withGrace,
} from './kinds';
import type { Accent, Direction, PluckingFinger, Stroke, TapPlace } from '../schema';
import { strokeDirection } from './grid';
import { readGrace, readLegato, sayGrace, sayLegato } from './legato';
import { readPicked, sayPicked } from './picked';

/**
 * The words in which strokes are said and read. A stroke is one word, with what is special about it
 * before it and after a colon:
 *
 *   down  up  miss  hold  chuck  bass  fifth  alternate  roll4  tap  slap  3  1+2  R  R+1  s3f2
 *   palm-down   open-up   low-down   high-up   tap+bass   resting-bass   played so
 *   down.i sweep-down.p sweep-up.i   roll:amip                in one movement of the hand; a roll by its fingers
 *   down:4321   chuck:up   bass:s5f3   down.i   R.p+2.m      on these strings, that way, with this finger
 *   hammer   pull:s3f0   2:hammer2                           the fretting hand: see `legato.ts`
 *   DOWN        DOWN!      (down)      R!      R!!           accented, driven, barely heard
 */

/** A word with how loud it is: its name in capitals where it has one, what stands around the name as it is. */
function withAccent(
  [before, name, after]: [string, string, string],
  accent: Accent,
  shout: boolean,
): string {
  const word = before + name + after;
  if (accent === 'ghost') return `(${word})`;
  if (accent === 'normal') return word;
  if (!shout) return `${word}${accent === 'accent' ? '!' : '!!'}`;
  const loud = before + name.toUpperCase() + after;
  return accent === 'accent' ? loud : `${loud}!`;
}

/** The name of a stroke in a word: without a tap, what it is played like, and what stands after it. */
const nameIn = (word: string): string => /^[^:>.]*/.exec(withoutBefore(word))![0];
const withoutBefore = (word: string): string =>
  modifiersBefore(word.replace(/^(tap|slap)\+/i, '')).rest;

const TAPS: Record<TapPlace, string> = { body: 'tap', strings: 'slap' };

function baseWord(stroke: Stroke): string {
  switch (stroke.kind) {
    case 'strum':
      return stroke.dir;
    case 'bass':
      return typeof stroke.note === 'string' ? stroke.note : 'bass';
    case 'roll':
      return `roll${stroke.hits}`;
    case 'tap':
      return TAPS[stroke.on];
    case 'pick':
      return sayPicked(stroke.strings);
    case 'legato':
      return sayLegato(stroke.steps);
    default:
      return stroke.kind;
  }
}

/**
 * One stroke in words that `readStrokes` reads back.
 * @param natural the arm's own direction there: strokes other than strums say theirs only where it differs
 * @example sayStroke({ kind: 'chuck', dir: 'up', accent: 'accent' }, 'down') // 'CHUCK:up'
 */
export function sayStroke(stroke: Stroke, natural: Direction): string {
  if (stroke.kind === 'miss' || stroke.kind === 'hold') return stroke.kind;
  const before: string[] = [];
  const after: string[] = [];
  if ('palm' in stroke && stroke.palm) before.push('palm-');
  if ('open' in stroke && stroke.open) before.push('open-');
  if ('rest' in stroke && stroke.rest) before.push('resting-');
  if ('sweep' in stroke && stroke.sweep) before.push('sweep-');
  if (stroke.kind === 'strum') {
    const { reach } = stroke;
    if (reach === 'bass') before.push('low-');
    else if (reach === 'treble') before.push('high-');
    else if (reach) after.push(reach.join(''));
  } else if ('dir' in stroke && stroke.dir !== natural) {
    after.push(stroke.dir);
  }
  if (stroke.kind === 'bass' && typeof stroke.note === 'object') {
    after.push(`s${stroke.note.string}f${stroke.note.fret}`);
  }
  if (stroke.kind === 'roll' && stroke.fingers) after.push(stroke.fingers.join(''));
  after.push(...gracesOf(stroke).map(sayGrace));
  const tap = 'tap' in stroke && stroke.tap ? `${TAPS[stroke.tap]}+` : '';
  const base = baseWord(stroke);
  const isPick = stroke.kind === 'pick';
  const name = isPick ? base : /^[^:>]*/.exec(base)![0];
  const finger = 'finger' in stroke && stroke.finger ? `.${stroke.finger}` : '';
  const details = after.map((detail) => `:${detail}`).join('');
  const rest = base.slice(name.length) + finger + details;
  return withAccent([tap + before.join(''), name, rest], stroke.accent, !isPick);
}

/** A stroke as it was read; some take their direction from the arm where they are put. */
export interface SpokenStroke {
  /** The direction it asks for; null where it takes the arm's. */
  dir: Direction | null;
  make: (natural: Direction) => Stroke;
}

type Base = (accent: Accent) => Stroke;
const bass =
  (note?: 'fifth' | 'alternate'): Base =>
  (accent) =>
    note ? { kind: 'bass', accent, note } : { kind: 'bass', accent };
const strum =
  (dir: Direction): Base =>
  (accent) => ({ kind: 'strum', dir, accent });
const chuck: Base = (accent) => ({ kind: 'chuck', dir: 'down', accent });
const tap =
  (on: TapPlace): Base =>
  (accent) => ({ kind: 'tap', accent, on });
const roll: Base = (accent) => ({ kind: 'roll', dir: 'down', accent, hits: 4 });

const BASES: Record<string, Base> = {
  down: strum('down'),
  d: strum('down'),
  '↓': strum('down'),
  up: strum('up'),
  u: strum('up'),
  '↑': strum('up'),
  chuck,
  mute: chuck,
  x: chuck,
  bass: bass(),
  root: bass(),
  b: bass(),
  fifth: bass('fifth'),
  f: bass('fifth'),
  alternate: bass('alternate'),
  alt: bass('alternate'),
  roll,
  tap: tap('body'),
  t: tap('body'),
  slap: tap('strings'),
  miss: () => ({ kind: 'miss' }),
  pass: () => ({ kind: 'miss' }),
  '-': () => ({ kind: 'miss' }),
  '·': () => ({ kind: 'miss' }),
  _: () => ({ kind: 'miss' }),
  hold: () => ({ kind: 'hold' }),
  rest: () => ({ kind: 'hold' }),
  h: () => ({ kind: 'hold' }),
  '=': () => ({ kind: 'hold' }),
};

/** Words before a stroke, and what they make of it. */
interface Modifier {
  palm?: true;
  open?: true;
  rest?: true;
  sweep?: true;
  reach?: 'bass' | 'treble';
  accent?: Accent;
}
const MODIFIERS: Record<string, Modifier> = {
  palm: { palm: true },
  muted: { palm: true },
  open: { open: true },
  resting: { rest: true },
  sweep: { sweep: true },
  low: { reach: 'bass' },
  high: { reach: 'treble' },
  soft: { accent: 'ghost' },
  ghost: { accent: 'ghost' },
  light: { accent: 'ghost' },
  loud: { accent: 'accent' },
  accented: { accent: 'accent' },
  heavy: { accent: 'strong' },
  hard: { accent: 'strong' },
};
/** Words that join strokes and mean nothing. */
const JOINERS = new Set(['and', 'then', '&']);

/** True where a word only says how the next stroke is played: "palm down". */
export const isModifier = (word: string) => word.toLowerCase() in MODIFIERS;
export const isJoiner = (word: string) => JOINERS.has(word.toLowerCase());

/** A run of single letters and signs: "B-DU", "R321". */
const RUN = /^[dubfxhtr1-8↓↑\-·_=]+$/i;

function baseOf(word: string): Base | null {
  const lower = word.toLowerCase();
  if (Object.hasOwn(BASES, lower)) return BASES[lower]!;
  const hits = /^roll([2-5])$/.exec(lower)?.[1];
  if (hits) return (accent) => ({ kind: 'roll', dir: 'down', accent, hits: Number(hits) });
  const steps = readLegato(word);
  if (steps) return (accent) => ({ kind: 'legato', accent, steps });
  const strings = readPicked(word);
  return strings && ((accent) => ({ kind: 'pick', dir: 'down', accent, strings }));
}

/** A pick with an arrow, `2↑`: the same as `2:up`. */
const ARROWED =
  /^((?:r|s?[1-8])(?:f\d+)?(?:\.[pimac])?(?:\+(?:r|s?[1-8])(?:f\d+)?(?:\.[pimac])?)*)([↑↓])$/i;
const withoutArrow = (word: string) =>
  word.replace(
    ARROWED,
    (_, strings: string, arrow: string) => `${strings}:${arrow === '↑' ? 'up' : 'down'}`,
  );

/** What stands after a colon, put on a stroke; null where it says nothing about such a stroke. */
function withDetail(stroke: Stroke, detail: string): { stroke: Stroke; dir?: Direction } | null {
  const lower = detail.toLowerCase();
  if (lower === 'down' || lower === 'up') {
    return goesWithTheArm(stroke) ? { stroke: { ...stroke, dir: lower }, dir: lower } : null;
  }
  if (/^[pimac]$/.test(lower)) {
    return takesFinger(stroke) ? { stroke: { ...stroke, finger: lower as PluckingFinger } } : null;
  }
  if (stroke.kind === 'roll' && /^[pimac]{2,5}$/.test(lower)) {
    const fingers = [...lower] as PluckingFinger[];
    return { stroke: { ...stroke, hits: fingers.length, fingers } };
  }
  if (stroke.kind === 'strum' && /^[1-8]{1,8}$/.test(lower)) {
    return { stroke: { ...stroke, reach: [...lower].map(Number) } };
  }
  const grace = readGrace(lower);
  if (grace) {
    const ornamented = withGrace(stroke, grace);
    return ornamented && { stroke: ornamented };
  }
  const place = /^s([1-8])f(\d{1,2})$/.exec(lower);
  if (stroke.kind === 'bass' && place && Number(place[2]) <= 24) {
    return { stroke: { ...stroke, note: { string: Number(place[1]), fret: Number(place[2]) } } };
  }
  return null;
}

/** The modifiers that stand before a word, each with a hyphen; and what is left of the word. */
function modifiersBefore(word: string): { modifiers: Modifier[]; rest: string } {
  const modifiers: Modifier[] = [];
  let rest = word;
  for (;;) {
    const hyphen = rest.indexOf('-');
    const modifier = hyphen > 0 ? rest.slice(0, hyphen).toLowerCase() : '';
    if (!Object.hasOwn(MODIFIERS, modifier)) return { modifiers, rest };
    modifiers.push(MODIFIERS[modifier]!);
    rest = rest.slice(hyphen + 1);
  }
}

function played(stroke: Stroke, { palm, open, rest, sweep, reach }: Modifier): Stroke | null {
  if ((palm || open) && !isPitched(stroke)) return null;
  if (rest && !takesRest(stroke)) return null;
  if (sweep && !takesSweep(stroke)) return null;
  if (reach && stroke.kind !== 'strum') return null;
  return {
    ...stroke,
    ...(palm && { palm }),
    ...(open && { open }),
    ...(rest && { rest }),
    ...(sweep && { sweep }),
    ...(reach && { reach }),
  } as Stroke;
}

/** Reads one stroke without its loudness: modifiers, word and details. */
function readOne(word: string, accent: Accent, before: Modifier[]): SpokenStroke | null {
  const tapped = /^(tap|slap)\+(.+)$/i.exec(word);
  const { modifiers, rest } = modifiersBefore(tapped ? tapped[2]! : word);
  const legato = readLegato(rest) !== null;
  const [written = '', ...details] = legato ? [rest] : rest.split(':');
  // A finger stands after a dot, as it does after a string.
  const fingered = legato || readPicked(written) ? null : /^(.+)\.([pimac])$/i.exec(written);
  const name = fingered ? fingered[1]! : written;
  if (fingered) details.unshift(fingered[2]!);
  const base = baseOf(name);
  if (!base) return null;
  const all = [...before, ...modifiers];
  let stroke = base(all.findLast((modifier) => modifier.accent)?.accent ?? accent);
  let dir = stroke.kind === 'strum' ? stroke.dir : strokeDirection(stroke);
  const takesTheArms = goesWithTheArm(stroke);
  if (takesTheArms) dir = null;
  for (const modifier of all) {
    const so = played(stroke, modifier);
    if (!so) return null;
    stroke = so;
  }
  for (const detail of details) {
    const so = withDetail(stroke, detail);
    if (!so) return null;
    stroke = so.stroke;
    dir = so.dir ?? dir;
  }
  if (tapped) {
    if (!takesTap(stroke)) return null;
    stroke = { ...stroke, tap: tapped[1]!.toLowerCase() === 'tap' ? 'body' : 'strings' };
  }
  const done = stroke;
  return {
    dir,
    make: (natural) =>
      takesTheArms && dir === null ? ({ ...done, dir: natural } as Stroke) : done,
  };
}

/**
 * Reads one token: a stroke, strokes joined by hyphens ("down-up"), or a run of letters ("B-DU").
 * @param modifiers words that stood before it: "palm", "low"
 * @returns each stroke with its place in the token; null where it is no stroke
 */
export function readStrokes(
  token: string,
  modifiers: string[] = [],
): { from: number; to: number; spoken: SpokenStroke }[] | null {
  const before = modifiers.map((word) => MODIFIERS[word.toLowerCase()]!);
  const ghost = token.startsWith('(');
  const bangs = /!*$/.exec(token)![0].length;
  const core = token.replace(/^\(/, '').replace(/!*$/, '').replace(/\)$/, '');
  const start = ghost ? 1 : 0;
  const marked: Accent = bangs > 1 ? 'strong' : bangs === 1 ? 'accent' : 'normal';
  // DOWN is accented, and DOWN! more so; a letter, and the strings of a pick, have only the sign.
  const accentOf = (word: string, sign: Accent): Accent => {
    if (ghost) return 'ghost';
    const name = nameIn(word);
    const lettered = name.length > 1 && name === name.toUpperCase() && name !== name.toLowerCase();
    const isPick = readPicked(withoutBefore(word.split(':')[0]!)) !== null;
    return lettered && !isPick ? (sign === 'normal' ? 'accent' : 'strong') : sign;
  };
  const at = (from: number, length: number) => ({ from: start + from, to: start + from + length });

  const single = readOne(withoutArrow(core), accentOf(core, marked), before);
  if (single) return [{ ...at(0, core.length), spoken: single }];
  if (RUN.test(core)) {
    const letters = [...core];
    return letters.map((letter, index) => {
      const last = index === letters.length - 1;
      const own = ghost ? 'ghost' : last ? marked : 'normal';
      return { ...at(index, 1), spoken: readOne(letter, own, index === 0 ? before : [])! };
    });
  }
  const strokes: { from: number; to: number; spoken: SpokenStroke }[] = [];
  let from = 0;
  let word = '';
  const pieces = core.split('-');
  for (const [index, piece] of pieces.entries()) {
    word = word ? `${word}-${piece}` : piece;
    // The sign stands after the last of them.
    const accent = accentOf(word, index === pieces.length - 1 ? marked : 'normal');
    const spoken = readOne(word, accent, strokes.length === 0 ? before : []);
    if (spoken) {
      strokes.push({ ...at(from, word.length), spoken });
      from += word.length + 1;
      word = '';
    } else if (!isModifier(piece)) {
      return null;
    }
  }
  return word === '' && strokes.length > 0 ? strokes : null;
}
