import type { BassSchool, InstrumentId } from '../schema';
import { type BassNote, bassNote } from './bass';
import { type ChordReading, parseChord } from './chords';
import { INSTRUMENTS } from './instruments';
import { type Shape, shapePitches, shapesFor } from './shapes';

/** A chord under the hand: how it is held, what each string sounds, where its bass lies. */
export interface HeldChord {
  symbol: string;
  chord: ChordReading;
  shape: Shape;
  /** MIDI pitch per string as it sounds, null where the string is left out. */
  pitches: (number | null)[];
  bass: BassNote;
}

export interface HoldOptions {
  instrument: InstrumentId;
  capo: number;
  bassSchool: BassSchool;
}

/**
 * Holds a chord in its first-choice shape.
 * @returns null where the symbol names no chord, or there is no shape for it
 * @example holdChord('E7', { instrument: 'guitar', capo: 0, bassSchool: 'root' })?.bass.midi // 40
 */
export function holdChord(symbol: string, options: HoldOptions): HeldChord | null {
  const chord = parseChord(symbol);
  const shape = chord && shapesFor(options.instrument, chord)[0];
  if (!chord || !shape) return null;
  const instrument = INSTRUMENTS[options.instrument];
  const bass = bassNote(instrument, shape, chord, options.bassSchool, options.capo);
  if (!bass) return null;
  return { symbol, chord, shape, pitches: shapePitches(instrument, shape, options.capo), bass };
}
