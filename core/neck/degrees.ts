import { Interval, Note } from 'tonal';
import type { DegreeStyle } from '../schema';
import { noteName, parseChord } from './chords';
import { type Key, usesFlats } from './key';

/**
 * Chords by the step of the key that they stand on: `1 5 6m 4`, or `I V vi IV`. Steps are those of the major scale on
 * the tonic, in a minor key too, so that `b7` is a whole tone under it everywhere. Small Roman letters are minor; after
 * a number the chord is written as after a name: `6m7`, `57`, `4/1`. `V7/V` is the fifth of the fifth.
 */
const INTERVALS = ['1P', '2M', '3M', '4P', '5P', '6M', '7M'];
const ROMAN = ['I', 'II', 'III', 'IV', 'V', 'VI', 'VII'];
/** What may stand after a step, so that not every word that begins with a v or an i is one. */
const REST = String.raw`((?:(?:maj|m|M|dim|sus|add|aug|[-°oø+#b(\d])[^/]*)?)`;
const ROMANS = 'VII|VI|IV|V|III|II|I|vii|vi|iv|v|iii|ii|i';
const NUMBERED = new RegExp(`^([b#]?)([1-7])${REST}(?:/([b#]?)([1-7]))?$`);
const LETTERED = new RegExp(`^([b#]?)(${ROMANS})${REST}(?:/(?:([b#]?)([1-7])|(${ROMANS})))?$`);
/** Other ways to write what stands after a step. */
const SUFFIXES: Record<string, string> = {
  '-': 'm',
  '-7': 'm7',
  '°': 'dim',
  o: 'dim',
  '°7': 'dim7',
  o7: 'dim7',
  ø: 'm7b5',
  ø7: 'm7b5',
};

/** True for a word that is written like a chord by its step, whichever key it is in. */
export const isDegree = (word: string): boolean => NUMBERED.test(word) || LETTERED.test(word);

const tonicName = (key: Key) => noteName(key.tonic, usesFlats(key));

/** The note on a step above a tonic, spelled as the step wants it; simpler where that would be an odd name. */
function noteOn(tonic: string, accidental: string, step: number): string {
  const natural = Note.transpose(tonic, INTERVALS[step - 1]!);
  const spelled = accidental === 'b' ? `${natural}b` : accidental ? `${natural}#` : natural;
  const plain = spelled.replace(/#b|b#/, '');
  return /^([A-G](#|b)?)$/.test(plain) && !/^(Cb|Fb|E#|B#)$/.test(plain)
    ? plain
    : Note.simplify(plain);
}

const suffixOf = (written: string) => SUFFIXES[written] ?? written;

/**
 * The chord that a word names by its step in a key; null where it names none.
 * @example readDegree('6m', { tonic: 7, minor: false }) // 'Em'
 * @example readDegree('bVII', { tonic: 9, minor: true }) // 'G'
 */
export function readDegree(word: string, key: Key): string | null {
  const tonic = tonicName(key);
  const voicing = /'*$/.exec(word)![0];
  const plain = word.slice(0, word.length - voicing.length);
  const made = byNumber(plain, tonic) ?? byLetter(plain, tonic);
  const symbol = made && made + voicing;
  return symbol && parseChord(symbol) ? symbol : null;
}

function byNumber(word: string, tonic: string): string | null {
  const found = NUMBERED.exec(word);
  if (!found) return null;
  const [, accidental, step, rest, low, bass] = found;
  const under = bass ? `/${noteOn(tonic, low!, Number(bass))}` : '';
  return noteOn(tonic, accidental!, Number(step)) + suffixOf(rest!) + under;
}

function byLetter(word: string, tonic: string): string | null {
  const found = LETTERED.exec(word);
  if (!found) return null;
  const [, accidental, letters, rest, low, bass, of] = found;
  const stepOf = (roman: string) => ROMAN.indexOf(roman.toUpperCase()) + 1;
  const from = of ? noteOn(tonic, '', stepOf(of)) : tonic;
  const small = letters === letters!.toLowerCase();
  const written = suffixOf(rest!);
  const isMinorAlready = /^(dim|m(?!aj))/.test(written);
  const suffix = small && !isMinorAlready ? `m${written.replace(/^maj/, 'Maj')}` : written;
  const under = bass ? `/${noteOn(tonic, low!, Number(bass))}` : '';
  return noteOn(from, accidental!, stepOf(letters!)) + suffix + under;
}

/** The step that a note stands on in a key, with a flat or a sharp where it is none of the major scale's. */
function stepOf(note: string, key: Key): { accidental: string; step: number } {
  const tonic = tonicName(key);
  const spelled = Interval.get(Interval.distance(tonic, note));
  const natural = Interval.semitones(INTERVALS[modStep(spelled.step)]!)!;
  const off = modTwelve((spelled.chroma ?? 0) - natural);
  const ACCIDENTALS: Record<number, string> = { 0: '', 1: '#', 11: 'b' };
  if (!spelled.empty && ACCIDENTALS[off] !== undefined) {
    return { accidental: ACCIDENTALS[off], step: modStep(spelled.step) + 1 };
  }
  // A note that is spelled far from the key is named by its sound.
  const above = modTwelve(Note.chroma(note)! - key.tonic);
  const step = [1, 2, 2, 3, 3, 4, 5, 5, 6, 6, 7, 7][above]!;
  const flat = above !== Interval.semitones(INTERVALS[step - 1]!);
  return { accidental: flat ? 'b' : '', step };
}
const modStep = (step: number) => ((step % 7) + 7) % 7;
const modTwelve = (semitones: number) => ((semitones % 12) + 12) % 12;

/**
 * A chord by its step in a key, as `readDegree` reads it. What names no chord stays as it is.
 * @example sayDegree('Em7', { tonic: 7, minor: false }, 'numbers') // '6m7'
 * @example sayDegree('Em7', { tonic: 7, minor: false }, 'roman') // 'vi7'
 */
export function sayDegree(symbol: string, key: Key, style: DegreeStyle): string {
  const found = /^([A-G][#b]?)([^/]*?)(?:\/([A-G][#b]?))?('*)$/.exec(symbol);
  if (!found || !parseChord(symbol)) return symbol;
  const [, root, suffix, bass, marks] = found;
  const { accidental, step } = stepOf(root!, key);
  const low = bass && stepOf(bass, key);
  const under = (low ? `/${low.accidental}${low.step}` : '') + marks!;
  const said =
    style === 'numbers'
      ? `${accidental}${step}${suffix}${under}`
      : accidental + romanOf(ROMAN[step - 1]!, suffix!) + under;
  // A chord that would read back as another is written by its name.
  const back = readDegree(said, key);
  const same = back !== null && parseChord(back)!.tones.join() === parseChord(symbol)!.tones.join();
  return same ? said : symbol;
}

function romanOf(letters: string, suffix: string): string {
  if (suffix.startsWith('dim')) return letters.toLowerCase() + suffix;
  return /^m(?!aj)/.test(suffix) ? letters.toLowerCase() + suffix.slice(1) : letters + suffix;
}

/**
 * A key as it is written in the line of text: `G`, `Em`.
 * @example writtenKey({ tonic: 4, minor: true }) // 'Em'
 */
export const writtenKey = (key: Key): string => `${tonicName(key)}${key.minor ? 'm' : ''}`;

/**
 * Reads a key: `G`, `Em`, `Bb major`, `F# minor`; null where it names none.
 * @example readKey('Bb major') // { tonic: 10, minor: false }
 */
export function readKey(text: string): Key | null {
  const found = /^\s*([A-Ga-g])([#b♯♭]?)\s*(m|min|minor|maj|major)?\s*$/.exec(text);
  if (!found) return null;
  const accidental = found[2]!.replace('♯', '#').replace('♭', 'b');
  const tonic = Note.chroma(found[1]!.toUpperCase() + accidental);
  return { tonic: tonic!, minor: /^m(in|inor)?$/.test(found[3] ?? '') };
}
