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

/** Printed music signs become the letters that are typed. */
function fold(symbol: string): string {
  return symbol.replaceAll('♯', '#').replaceAll('♭', 'b');
}

/**
 * Reads a chord symbol as players write it.
 * @returns null where it names no chord
 * @example parseChord('F#m')?.tones // [6, 9, 1]
 * @example parseChord('C/G')?.bass // 7
 */
export function parseChord(symbol: string): ChordReading | null {
  if (!/^[A-G]/.test(symbol)) return null;
  const chord = Chord.get(fold(symbol));
  if (chord.empty || chord.tonic === null) return null;
  const root = Note.chroma(chord.tonic);
  const bass = Note.chroma(chord.bass || chord.tonic);
  if (!Number.isInteger(root) || !Number.isInteger(bass)) return null;
  const basic = chord.bass ? Chord.get(fold(symbol).replace(/\/[A-G][#b]*$/, '')) : chord;
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
