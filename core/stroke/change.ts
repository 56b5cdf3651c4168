import type {
  Accent,
  Grace,
  LegatoHow,
  LegatoStep,
  PluckingFinger,
  Stroke,
  StrumReach,
  TapPlace,
} from '../schema';
import { isPitched, takesFinger, takesGrace, takesRest, takesSweep, takesTap } from './kinds';

/** One-press changes of a stroke. Each leaves a stroke that it says nothing about as it is. */

const ACCENTS: Accent[] = ['ghost', 'normal', 'accent', 'strong'];
const FINGERS: (PluckingFinger | undefined)[] = [undefined, 'p', 'i', 'm', 'a', 'c'];

function next<T>(list: readonly T[], now: T, by = 1): T {
  const at = list.indexOf(now);
  return list[(at + by + list.length) % list.length]!;
}

/** A stroke without a part that is left out, or with it. */
function withPart<S extends Stroke, K extends string>(stroke: S, key: K, value: unknown): S {
  const { [key]: _, ...rest } = stroke as S & Record<K, unknown>;
  return (value === undefined ? rest : { ...rest, [key]: value }) as unknown as S;
}

/** One level louder or softer; at an end it stays. */
export function stepAccent(stroke: Stroke, by: 1 | -1): Stroke {
  if (!('accent' in stroke)) return stroke;
  const at = ACCENTS.indexOf(stroke.accent) + by;
  return at < 0 || at >= ACCENTS.length ? stroke : { ...stroke, accent: ACCENTS[at]! };
}

/** Palm-muted, or not. */
export function setPalm(stroke: Stroke, palm: boolean): Stroke {
  return isPitched(stroke) ? withPart(stroke, 'palm', palm || undefined) : stroke;
}

/** On open strings, or on the chord. */
export function setOpen(stroke: Stroke, open: boolean): Stroke {
  return isPitched(stroke) ? withPart(stroke, 'open', open || undefined) : stroke;
}

/**
 * With a tap on the body, a slap on the strings, or without; a stroke that is a tap keeps being one.
 * @example setTap(strum('down'), 'body') // { kind: 'strum', dir: 'down', accent: 'normal', tap: 'body' }
 */
export function setTap(stroke: Stroke, place: TapPlace | undefined): Stroke {
  if (stroke.kind === 'tap') return place ? { ...stroke, on: place } : stroke;
  return takesTap(stroke) ? withPart(stroke, 'tap', place) : stroke;
}

/** The finger that a stroke names; of a pick, that of its first string. */
export function fingerOf(stroke: Stroke): PluckingFinger | undefined {
  if (stroke.kind === 'pick') return stroke.strings[0]!.finger;
  return takesFinger(stroke) ? stroke.finger : undefined;
}

/**
 * Names a finger, or none; in a pinch the first string takes it and the others those that follow.
 * @example setFinger({ kind: 'bass', accent: 'normal' }, 'p') // { kind: 'bass', accent: 'normal', finger: 'p' }
 */
export function setFinger(stroke: Stroke, finger: PluckingFinger | undefined): Stroke {
  if (stroke.kind !== 'pick') {
    return takesFinger(stroke) ? withPart(stroke, 'finger', finger) : stroke;
  }
  const first = FINGERS.indexOf(finger);
  const strings = stroke.strings.map(({ finger: _, ...rest }, order) => {
    const own = finger && FINGERS[Math.min(FINGERS.length - 1, first + order)];
    return own ? { ...rest, finger: own } : rest;
  });
  return { ...stroke, strings };
}

/** Palm-muted, and not, in turn. */
export function togglePalm(stroke: Stroke): Stroke {
  return isPitched(stroke) ? setPalm(stroke, !stroke.palm) : stroke;
}

/** On open strings, and on the chord, in turn. */
export function toggleOpen(stroke: Stroke): Stroke {
  return isPitched(stroke) ? setOpen(stroke, !stroke.open) : stroke;
}

/** In one movement with the stroke before it, and by itself, in turn. */
export function toggleSweep(stroke: Stroke): Stroke {
  return takesSweep(stroke) ? withPart(stroke, 'sweep', stroke.sweep ? undefined : true) : stroke;
}

/**
 * How many strokes a roll has, and with which fingers.
 * @param fingers one after the other; as many as are hit
 */
export function setRoll(stroke: Stroke, hits: number, fingers?: PluckingFinger[]): Stroke {
  if (stroke.kind !== 'roll') return stroke;
  return withPart({ ...stroke, hits }, 'fingers', fingers?.length === hits ? fingers : undefined);
}

/** Without a tap, with one on the body, with a slap on the strings, in turn. */
export function nextTap(stroke: Stroke): Stroke {
  if (stroke.kind === 'tap') return setTap(stroke, stroke.on === 'body' ? 'strings' : 'body');
  return takesTap(stroke)
    ? setTap(stroke, next([undefined, 'body', 'strings'] as const, stroke.tap))
    : stroke;
}

/** The fingers in turn, then none. */
export function nextFinger(stroke: Stroke): Stroke {
  return setFinger(stroke, next(FINGERS, fingerOf(stroke)));
}

/** All strings, the bass side, the treble side, in turn; chosen strings go back to all. */
export function nextReach(stroke: Stroke): Stroke {
  if (stroke.kind !== 'strum') return stroke;
  const sides: (StrumReach | undefined)[] = [undefined, 'bass', 'treble'];
  const now = Array.isArray(stroke.reach) ? 'treble' : stroke.reach;
  return withPart(stroke, 'reach', next(sides, now));
}

/** Root, fifth, alternate, in turn. */
export function nextBassNote(stroke: Stroke): Stroke {
  if (stroke.kind !== 'bass') return stroke;
  const notes = [undefined, 'fifth', 'alternate'] as const;
  const now = typeof stroke.note === 'object' ? 'alternate' : stroke.note;
  return withPart(stroke, 'note', next(notes, now));
}

const HOWS: LegatoHow[] = ['hammer', 'pull', 'slide'];

/**
 * The fretting hand sounds the slot: it is completed by a hammer-on; then a pull-off, a slide, in turn.
 * @example nextLegato({ kind: 'miss' }) // { kind: 'legato', accent: 'normal', steps: [{ how: 'hammer' }] }
 */
export function nextLegato(stroke: Stroke): Stroke {
  if (stroke.kind !== 'legato') {
    return { kind: 'legato', accent: 'normal', steps: [{ how: 'hammer' }] };
  }
  const [first, ...others] = stroke.steps;
  const { to: _, ...step } = first!;
  return { ...stroke, steps: [{ ...step, how: next(HOWS, first!.how) }, ...others] };
}

/** What the fretting hand does in a slot of its own; another stroke stays. */
export function setLegato(stroke: Stroke, steps: LegatoStep[]): Stroke {
  return stroke.kind === 'legato' && steps.length > 0 ? { ...stroke, steps } : stroke;
}

/** With an ornament of the fretting hand, or without. */
export function setGrace(stroke: Stroke, grace: Grace | undefined): Stroke {
  if (!takesGrace(stroke)) return stroke;
  // Another ornament takes the place of all that were there.
  const bare = stroke.kind === 'pick' ? withPart(stroke, 'moreGraces', undefined) : stroke;
  return withPart(bare, 'grace', grace);
}

const GRACES: (Grace | undefined)[] = [
  undefined,
  { how: 'hammer', frets: 2 },
  { how: 'pull', frets: 2 },
  { how: 'slide', frets: 2 },
];

/** Without an ornament, hammered on, pulled off, slid into, in turn. */
export function nextGrace(stroke: Stroke): Stroke {
  if (!takesGrace(stroke)) return stroke;
  const now = GRACES.find((grace) => grace?.how === stroke.grace?.how);
  return setGrace(stroke, next(GRACES, now));
}

/** The pick comes to rest on the next string, or goes on through the air, in turn. */
export function toggleRest(stroke: Stroke): Stroke {
  return takesRest(stroke) ? withPart(stroke, 'rest', stroke.rest ? undefined : true) : stroke;
}

/**
 * A pick at a fret of its own, the same on each of its strings; at the shape's where there is none.
 * @example pickAt({ kind: 'pick', dir: 'down', accent: 'normal', strings: [{ string: 's2' }] }, 8)
 */
export function pickAt(stroke: Stroke, fret: number | undefined): Stroke {
  if (stroke.kind !== 'pick') return stroke;
  const strings = stroke.strings.map(({ fret: _, above: __, ...rest }) =>
    fret === undefined ? rest : { ...rest, fret },
  );
  return { ...stroke, strings };
}

/** The other way. */
export function turnStroke(stroke: Stroke): Stroke {
  return 'dir' in stroke ? { ...stroke, dir: stroke.dir === 'down' ? 'up' : 'down' } : stroke;
}

/**
 * Chosen strings: of a strum those it reaches, of a pick those that are struck; all strings of a strum
 * where none is chosen.
 * @param strings for a strum numbers, 1 the farthest from the thumb; for a pick `R`, `1`, `s3`
 */
export function chooseStrings(stroke: Stroke, strings: string[]): Stroke {
  if (stroke.kind === 'strum') {
    const numbers = strings.map(Number).sort((a, b) => b - a);
    return withPart(stroke, 'reach', numbers.length > 0 ? numbers : undefined);
  }
  if (stroke.kind !== 'pick' || strings.length === 0) return stroke;
  const known = new Map(stroke.strings.map((string) => [string.string, string]));
  return { ...stroke, strings: strings.map((string) => known.get(string) ?? { string }) };
}
