import type { BassRule, Instrument, OwnAlternate, Shape } from '../schema';
import type { ChordReading } from './chords';
import { isReentrant, REACH, stringLabel } from './instruments';
import { shapePitches } from './spelling';

/** On a re-entrant instrument the thumb plays so many strings. */
const THUMB_STRINGS = 2;

/** The string and fret that a bass strike hits. */
export interface BassNote {
  string: number;
  fret: number;
  /** MIDI pitch as it sounds, capo included. */
  midi: number;
}

/**
 * The bass note of a shape.
 *
 * - school *root*: the lowest pitch that sounds the root (or the note after the slash); where two
 *   strings sound it alike, the one nearer the thumb;
 * - school *lowest*: the lowest pitch of the shape, whatever it is;
 * - school *thumb*: the first string from the thumb side that sounds the root, high or low; on a re-entrant instrument
 *   one of the thumb's two strings (g and C of a ukulele), whatever the chord: the one that sounds the root, else the
 *   lower of the two.
 *
 * A shape without its root falls back to its lowest pitch.
 * @returns null only for a shape that sounds no string
 * @example bassNote(guitar, shapeOf('C'), parseChord('C')!, 'root', 0) // string 1 (A), fret 3
 */
export function bassNote(
  instrument: Instrument,
  shape: Shape,
  chord: ChordReading,
  school: BassRule,
  capo: number,
): BassNote | null {
  const sounding = shapePitches(instrument, shape, capo).flatMap((midi, string) =>
    midi === null ? [] : [{ midi, string, fret: shape.frets[string]! }],
  );
  const lowest = (notes: BassNote[]) =>
    notes.reduce<BassNote | null>((low, note) => (low && low.midi <= note.midi ? low : note), null);
  const isRoot = ({ string, fret }: BassNote) =>
    (instrument.strings[string]! + fret) % 12 === chord.bass;
  if (school === 'thumb' && isReentrant(instrument)) {
    const thumbs = sounding.filter(({ string }) => string < THUMB_STRINGS);
    return thumbs.find(isRoot) ?? lowest(thumbs) ?? lowest(sounding);
  }
  const roots = school === 'lowest' ? [] : sounding.filter(isRoot);
  return (school === 'thumb' ? (roots[0] ?? null) : lowest(roots)) ?? lowest(sounding);
}

/**
 * Which bass strikes a player of an instrument means where nothing is said: the root of the chord, and on a re-entrant
 * instrument the thumb's strings.
 * @example usualBassRule(INSTRUMENTS.ukulele) // 'thumb'
 */
export const usualBassRule = (instrument: Instrument): BassRule =>
  isReentrant(instrument) ? 'thumb' : 'root';

/** A second bass note to go to and fro with, and what the hand does to reach it. */
export interface AlternateBass extends BassNote {
  relation: 'fifth below' | 'fifth above' | 'root again' | 'thumb' | 'own';
  /** The finger that has to move there, where it was, or null where nothing moves. */
  mover: { finger: number; from: { string: number; fret: number } | null } | null;
}

/** What it costs that a finger moves to an alternate bass, in half steps of two: more than an octave and a fifth. */
const MOVES = 9;

/**
 * The alternate bass of a shape, best first: the fifth below the root, then the nearest fifth above,
 * what sounds already before what a finger has to move for, however far it lies; the root again comes last, where there
 * is no other. A finger moves there from the bass note, is lifted from it for its open string, or lands if it was free;
 * it never leaves the reach of the hand.
 * @example alternateBass(guitar, shapeOf('C'), parseChord('C')!, bass, 0)[0]
 * // { string: 0, fret: 3, relation: 'fifth below', mover: { finger: 3, from: { string: 1, fret: 3 } } }
 */
export function alternateBass(
  instrument: Instrument,
  shape: Shape,
  chord: ChordReading,
  bass: BassNote,
  capo: number,
): AlternateBass[] {
  const fifth = chord.intervals.find((interval) => interval >= 6 && interval <= 8) ?? 7;
  const wanted = (chord.root + fifth) % 12;
  const pressed = shape.frets.filter((fret) => fret !== null && fret > 0) as number[];
  const low = pressed.length > 0 ? Math.min(...pressed) : 1;
  const high = Math.max(low + REACH[instrument.family], ...pressed);
  const pitchOf = (string: number, fret: number) =>
    instrument.strings[string]! + fret + capo + instrument.offset;

  const found: (AlternateBass & { cost: number })[] = [];
  instrument.strings.forEach((open, string) => {
    for (let fret = 0; fret <= Math.min(instrument.frets, high); fret += 1) {
      if ((open + fret) % 12 !== wanted || (string === bass.string && fret === bass.fret)) continue;
      const midi = pitchOf(string, fret);
      const distance = midi - bass.midi;
      const held = shape.frets[string] === fret;
      const still = held || isOpenBeside(shape, string, fret);
      if (distance === 0 || (Math.abs(distance) > 12 && !still)) continue;
      if (fret > 0 && fret < low - 1) continue;
      // A finger higher up on the same string would have to be lifted first.
      const covered = (shape.frets[string] ?? 0) > fret && string !== bass.string;
      if (covered) continue;
      const mover = still ? null : moverTo(shape, bass, string, fret);
      if (mover === undefined) continue;
      const below = distance < 0;
      const cost =
        (below ? 0 : 20) +
        (mover ? MOVES : 0) +
        Math.abs(distance) * 0.5 +
        Math.abs(string - bass.string);
      const relation = below ? 'fifth below' : 'fifth above';
      found.push({ string, fret, midi, relation, mover, cost });
    }
  });
  const ranked = found
    .sort((a, b) => a.cost - b.cost)
    .map(({ string, fret, midi, relation, mover }): AlternateBass => ({
      string,
      fret,
      midi,
      relation,
      mover,
    }));
  return ranked.length > 0 ? ranked : [{ ...bass, relation: 'root again', mover: null }];
}

/** An open string that the shape leaves out can be struck without moving a finger. */
function isOpenBeside(shape: Shape, string: number, fret: number): boolean {
  return fret === 0 && shape.frets[string] === null;
}

/** The finger that can go to a place: the one on the bass note, or a free one; undefined for none. */
function moverTo(
  shape: Shape,
  bass: BassNote,
  string: number,
  fret: number,
): AlternateBass['mover'] | undefined {
  const onBass = shape.fingers[bass.string] ?? 0;
  const alone = shape.fingers.filter((finger) => finger === onBass).length === 1;
  if (fret === 0) {
    const lifts = string === bass.string && bass.fret > 0 && alone;
    return lifts ? { finger: onBass, from: { string, fret: bass.fret } } : undefined;
  }
  if (bass.fret > 0 && onBass > 0 && alone && Math.abs(fret - bass.fret) <= 2) {
    return { finger: onBass, from: { string: bass.string, fret: bass.fret } };
  }
  // A free finger must fit between those that stay: lower frets have lower fingers.
  const free = [1, 2, 3, 4].find((finger) => {
    if (shape.fingers.includes(finger)) return false;
    return shape.fingers.every((other, at) => {
      const there = shape.frets[at];
      if (other === 0 || !there || at === string) return true;
      return other < finger ? there <= fret : there >= fret;
    });
  });
  return free === undefined ? undefined : { finger: free, from: null };
}

const FINGER_NAMES = ['', 'first', 'second', 'third', 'fourth'];

/** A finger in one word: 1 is the first, the index. */
export function fingerWord(finger: number): string {
  return FINGER_NAMES[finger] ?? 'free';
}

/** A finger in words. */
export function fingerName(finger: number): string {
  return `${fingerWord(finger)} finger`;
}

/**
 * Which strings a shape sounds, in words.
 * @example describeStrings(guitar, shapeOf('D')) // '4 strings, from D'
 */
export function describeStrings(instrument: Instrument, shape: Shape): string {
  const sounding = shape.frets.flatMap((fret, string) => (fret === null ? [] : [string]));
  if (sounding.length === shape.frets.length) return `all ${sounding.length} strings`;
  return `${sounding.length} strings, from ${stringLabel(instrument, sounding[0]!)}`;
}

/**
 * Where a bass note lies, in words.
 * @example describeBass(guitar, { string: 1, fret: 3, midi: 48 }) // 'A string, fret 3'
 */
export function describeBass(
  instrument: Instrument,
  { string, fret }: { string: number; fret: number },
): string {
  const label = stringLabel(instrument, string);
  return `${label} string, ${fret === 0 ? 'open' : `fret ${fret}`}`;
}

/**
 * An alternate bass in words, with the finger that moves.
 * @example describeAlternate(guitar, alternate)
 * // 'low E string, fret 3: the third finger moves there'
 */
export function describeAlternate(instrument: Instrument, alternate: AlternateBass): string {
  if (alternate.relation === 'root again') return 'none in reach: strike the root again';
  const place = describeBass(instrument, alternate);
  if (!alternate.mover) return `${place}, nothing moves`;
  const { finger, from } = alternate.mover;
  if (alternate.fret === 0) return `${place}: the ${fingerName(finger)} lifts`;
  return `${place}: the ${fingerName(finger)} ${from ? 'moves' : 'lands'} there`;
}

/** What an alternate bass depends on: how the chord is held, and where. */
export interface HeldForBass {
  symbol: string;
  chord: ChordReading;
  shape: Shape;
  bass: BassNote;
  /** Which bass strikes are meant. */
  school?: BassRule;
}

/**
 * The alternate bass of a chord as it is played: the one that the player wants for it, else the first of `alternateBass`.
 * @param own what the player wants, by chord; strings numbered from 1, the farthest from the thumb
 * On a re-entrant instrument whose bass strikes are the thumb's, it is the other of its two strings, as it is held.
 * @example alternateOf(held('D'), { instrument: guitar, capo: 0 }, [{ symbol: 'D', string: 3, fret: 2 }]).fret // 2
 */
export function alternateOf(
  { symbol, chord, shape, bass, school }: HeldForBass,
  { instrument, capo }: { instrument: Instrument; capo: number },
  own: OwnAlternate[] = [],
): AlternateBass {
  const wanted = own.find((one) => one.symbol === symbol);
  const string = wanted ? instrument.strings.length - wanted.string : -1;
  if (!wanted && school === 'thumb' && isReentrant(instrument)) {
    const other = THUMB_STRINGS - 1 - bass.string;
    const fret = shape.frets[other] ?? null;
    if (bass.string < THUMB_STRINGS && fret !== null) {
      const midi = instrument.strings[other]! + fret + capo + instrument.offset;
      return { string: other, fret, midi, relation: 'thumb', mover: null };
    }
  }
  if (!wanted || string < 0 || wanted.fret > instrument.frets) {
    return alternateBass(instrument, shape, chord, bass, capo)[0]!;
  }
  const { fret } = wanted;
  const midi = instrument.strings[string]! + fret + capo + instrument.offset;
  const still = shape.frets[string] === fret || isOpenBeside(shape, string, fret);
  const mover = still ? null : (moverTo(shape, bass, string, fret) ?? null);
  return { string, fret, midi, relation: 'own', mover };
}

/**
 * The strings of a shape relative to its root string: R for the bass string, then 1, 2, 3 towards the
 * far side, over the sounding strings; null where a string does not sound. On a re-entrant instrument they are counted
 * across the neck from the root, and what is on its other side comes last.
 * @example relativeStrings(shapeOf('C'), 1) // [null, 'R', '1', '2', '3', '4']
 * @example relativeStrings({ frets: [0, 0, 0, 3], fingers: [0, 0, 0, 3] }, 1, true) // ['3', 'R', '1', '2']
 */
export function relativeStrings(
  shape: Shape,
  bassString: number,
  across = false,
): (string | null)[] {
  let next = 1;
  if (across) {
    const far = shape.frets.filter((fret, string) => fret !== null && string > bassString).length;
    let [beyond, before] = [1, far + 1];
    return shape.frets.map((fret, string) => {
      if (fret === null) return null;
      if (string === bassString) return 'R';
      return String(string > bassString ? beyond++ : before++);
    });
  }
  return shape.frets.map((fret, string) => {
    if (fret === null) return null;
    if (string === bassString) return 'R';
    return String(next++);
  });
}
