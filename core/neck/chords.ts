import { modulo } from '../plain';
import { Chord, Interval, Note } from 'tonal';

/** A chord symbol, read. Pitch classes are numbers from 0 (C) to 11 (B). */
export interface ChordReading {
  symbol: string;
  root: number;
  /** Pitch class that belongs in the bass: the root, or the note after the slash. */
  bass: number;
  /** Pitch classes of the chord proper, the root first. */
  tones: number[];
  /** Semitones of the tones above the root, the same order. */
  intervals: number[];
  /** Note names as spelled for this symbol. */
  noteNames: string[];
}

/** No chord: the hand damps, the arm goes on. */
export function isNoChord(symbol: string): boolean {
  return /^n\.?c\.?$/i.test(symbol);
}

/** After a symbol: the same chord in another shape, `C'`, and in a third, `C''`. */
const MARKS = /(?:'{1,3})$/;

/**
 * The chord that a symbol names, without the marks that say which of its shapes is meant.
 * @example plainSymbol("C/G'") // 'C/G'
 */
export function plainSymbol(symbol: string): string {
  return symbol.replace(MARKS, '');
}

/**
 * Which shape of its chord a symbol means: 0 the usual one, then another for each mark.
 * @example voicingNumber("Am''") // 2
 */
export function voicingNumber(symbol: string): number {
  return symbol.length - plainSymbol(symbol).length;
}

/** Printed music signs become the letters that are typed, and `B7(b9)` what it says without its brackets. */
function fold(symbol: string): string {
  return symbol.replaceAll('♯', '#').replaceAll('♭', 'b').replaceAll(/[()]/g, '');
}

/**
 * Reads a chord symbol as players write it.
 * @returns null where it names no chord
 * @example parseChord('F#m')?.tones // [6, 9, 1]
 * @example parseChord('C/G')?.bass // 7
 * @example parseChord("C'")?.bass // 0: C in another shape
 */
export function parseChord(symbol: string): ChordReading | null {
  const known = readings.get(symbol);
  if (known !== undefined) return known;
  const reading = readChord(symbol);
  if (readings.size > 2000) readings.clear();
  readings.set(symbol, reading);
  return reading;
}

/** Symbols that were read before: a song asks for the same few again and again. */
const readings = new Map<string, ChordReading | null>();

function readChord(symbol: string): ChordReading | null {
  if (!/^[A-G]/.test(symbol)) return null;
  const name = fold(plainSymbol(symbol));
  const chord = Chord.get(name);
  if (chord.empty || chord.tonic === null) return null;
  const root = Note.chroma(chord.tonic);
  const bass = Note.chroma(chord.bass || chord.tonic);
  if (!Number.isInteger(root) || !Number.isInteger(bass)) return null;
  const basic = chord.bass ? Chord.get(name.replace(/\/[A-G][#b]*$/, '')) : chord;
  const intervals = basic.intervals.map((name) => Interval.semitones(name)!);
  return {
    symbol,
    root: root!,
    bass: bass!,
    tones: intervals.map((semitones) => (root! + semitones) % 12),
    intervals,
    noteNames: basic.notes,
  };
}

const QUALITIES = [
  '',
  'm',
  '7',
  'm7',
  'maj7',
  '5',
  '6',
  'm6',
  '9',
  'add9',
  'sus2',
  'sus4',
  '7sus4',
  '6/9',
  'dim',
  'dim7',
  'aug',
  'm7b5',
  'm9',
  'maj9',
];

/** Letters to change to make one word of the other (the distance of Levenshtein). */
function distance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, index) => index);
  for (const [i, letter] of [...a].entries()) {
    const next = [i + 1];
    for (let j = 1; j <= b.length; j += 1) {
      const same = letter === b[j - 1] ? 0 : 1;
      next.push(Math.min(row[j]! + 1, next[j - 1]! + 1, row[j - 1]! + same));
    }
    row = next;
  }
  return row[b.length]!;
}

const NEAREST = 3;

/**
 * The chords that a word which names none may have meant, nearest first.
 * @example nearestChords('Am77') // ['Am7', 'Am', 'A7']
 * @example nearestChords('Hm') // ['Bm', ...]: H is what some call B
 */
export function nearestChords(word: string): string[] {
  const [, letter, sign, rest] = /^([a-hA-H])([#b♯♭]?)(.*)$/.exec(word) ?? [];
  if (letter === undefined) return [];
  const root = letter.toUpperCase().replace('H', 'B') + fold(sign!);
  const quality = rest!.toLowerCase() === rest ? rest : rest!.replace(/^MAJ/i, 'maj');
  return QUALITIES.map((known) => ({ known, far: distance(quality, known) }))
    .sort((a, b) => a.far - b.far)
    .slice(0, NEAREST)
    .map(({ known }) => root + known);
}

const SHARPS = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'];
const FLATS = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B'];

/** The name of a pitch class, with flats or sharps. */
export function noteName(tone: number, flats: boolean): string {
  return (flats ? FLATS : SHARPS)[modulo(tone, 12)]!;
}

/**
 * The same chord some semitones higher. A word that names no chord stays as it is.
 * @param flats whether black keys are written as flats
 * @example transposeChord('F#m/E', -2, false) // 'Em/D'
 */
export function transposeChord(symbol: string, semitones: number, flats: boolean): string {
  // Moved by nothing it keeps its spelling: Bb is no A#, whatever the key.
  return modulo(semitones, 12) === 0 ? symbol : spelled(symbol, semitones, flats);
}

/**
 * The same chord with its black keys written as flats or as sharps: for chords that were told from
 * sounds, which have no spelling of their own.
 * @example spellChord('A#m7/D#', true) // 'Bbm7/Eb'
 */
export function spellChord(symbol: string, flats: boolean): string {
  return spelled(symbol, 0, flats);
}

function spelled(symbol: string, semitones: number, flats: boolean): string {
  if (!parseChord(symbol)) return symbol;
  const shift = (name: string) => noteName(Note.chroma(name)! + semitones, flats);
  const marks = "'".repeat(voicingNumber(symbol));
  const moved = fold(plainSymbol(symbol))
    .replace(/^[A-G][#b]*/, shift)
    .replace(/\/([A-G][#b]*)$/, (_, name: string) => `/${shift(name)}`);
  return moved + marks;
}
