import type { Accent, PluckingFinger, Stroke, StrumReach } from '../schema';

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

/** Those that sound the strings at a pitch, and so may be muted or on open strings. */
type PitchedStroke = Extract<Stroke, { kind: 'strum' | 'bass' | 'pick' | 'roll' }>;
const PITCHED: readonly Stroke['kind'][] = ['strum', 'bass', 'pick', 'roll'];
const isPitched = (stroke: Stroke): stroke is PitchedStroke => PITCHED.includes(stroke.kind);

/** Palm-muted, or not. */
export function togglePalm(stroke: Stroke): Stroke {
  return isPitched(stroke) ? withPart(stroke, 'palm', stroke.palm ? undefined : true) : stroke;
}

/** On open strings, or on the chord. */
export function toggleOpen(stroke: Stroke): Stroke {
  return isPitched(stroke) ? withPart(stroke, 'open', stroke.open ? undefined : true) : stroke;
}

/** Without a tap, with one on the body, with a slap on the strings, in turn. */
export function nextTap(stroke: Stroke): Stroke {
  if (stroke.kind === 'tap') return { ...stroke, on: stroke.on === 'body' ? 'strings' : 'body' };
  if (stroke.kind === 'miss' || stroke.kind === 'hold') return stroke;
  return withPart(stroke, 'tap', next([undefined, 'body', 'strings'] as const, stroke.tap));
}

/** The fingers in turn, then none; in a pinch the outermost is the thumb and the others follow. */
export function nextFinger(stroke: Stroke): Stroke {
  if (stroke.kind === 'pick') {
    const first = next(FINGERS, stroke.strings[0]!.finger);
    const strings = stroke.strings.map((string, order) => {
      const at = FINGERS.indexOf(first);
      const finger =
        first === undefined ? undefined : FINGERS[Math.min(FINGERS.length - 1, at + order)];
      const { finger: _, ...rest } = string;
      return finger ? { ...rest, finger } : rest;
    });
    return { ...stroke, strings };
  }
  if (stroke.kind !== 'strum' && stroke.kind !== 'chuck' && stroke.kind !== 'bass') return stroke;
  return withPart(stroke, 'finger', next(FINGERS, stroke.finger));
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
