import type { BassSchool } from '../schema';
import type { ChordReading } from './chords';
import { type Instrument, stringLabel } from './instruments';
import { type Shape, shapePitches } from './shapes';

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
 * - school *lowest*: the lowest pitch of the shape, whatever it is.
 *
 * A shape without its root falls back to its lowest pitch.
 * @returns null only for a shape that sounds no string
 * @example bassNote(guitar, shapeOf('C'), parseChord('C')!, 'root', 0) // string 1 (A), fret 3
 */
export function bassNote(
  instrument: Instrument,
  shape: Shape,
  chord: ChordReading,
  school: BassSchool,
  capo: number,
): BassNote | null {
  const sounding = shapePitches(instrument, shape, capo).flatMap((midi, string) =>
    midi === null ? [] : [{ midi, string, fret: shape.frets[string]! }],
  );
  const lowest = (notes: BassNote[]) =>
    notes.reduce<BassNote | null>((low, note) => (low && low.midi <= note.midi ? low : note), null);
  const wanted = (chord.bass + capo) % 12;
  const roots = school === 'root' ? sounding.filter((note) => note.midi % 12 === wanted) : [];
  return lowest(roots) ?? lowest(sounding);
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
export function describeBass(instrument: Instrument, bass: BassNote): string {
  const label = stringLabel(instrument, bass.string);
  return `${label} string, ${bass.fret === 0 ? 'open' : `fret ${bass.fret}`}`;
}
