import { modulo } from '../plain';
import type { Instrument } from '../schema';
import { parseChord, transposeChord } from './chords';
import { barres } from './fingering';
import { guessKey, type Key, usesFlats } from './key';
import { shapesFor } from './shapes';
import { smoothestSet } from './smoothest';

/** A place for the capo with the chords to finger behind it. */
export interface CapoOption {
  capo: number;
  /** Semitones by which the fingered chords differ from those that are written now. */
  shift: number;
  /** Semitones by which the song then sounds higher than now. */
  sounds: number;
  /** What is fingered, chord by chord, and what it sounds as. */
  chords: { written: string; fingered: string; sounding: string }[];
  fingeredKey: Key;
  soundingKey: Key;
  barres: number;
  /** Mean difficulty of the shapes and of the changes: less is easier. */
  effort: number;
}

export interface CapoQuery {
  instrument: Instrument;
  /** The chords of the song in the order in which they come, repeats included. */
  sequence: string[];
  /** The capo that is on now. */
  capo: number;
  /** How much lower (0 or less) and higher (0 or more) it may sound, in semitones. */
  lowest: number;
  highest: number;
}

const HIGHEST_CAPO = 7;
/** A high capo leaves little neck and a thin sound. */
const CAPO_COST = 0.12;
const BARRE_COST = 0.6;

/**
 * Capo places and chords that give the easiest set, for the key that sounds now or, where a singer
 * allows it, for keys near it. Easiest first.
 * @example capoOptions({ instrument: INSTRUMENTS.guitar, sequence: ['Bb', 'Eb', 'F'], capo: 0, lowest: 0, highest: 0 })[0]
 * // capo 1 with A, D, E, or capo 3 with G, C, D
 */
export function capoOptions(query: CapoQuery): CapoOption[] {
  const chords = [...new Set(query.sequence)].filter((symbol) => parseChord(symbol) !== null);
  if (chords.length === 0) return [];
  const written = guessKey(query.sequence);
  const moved = (key: Key, semitones: number): Key => ({
    ...key,
    tonic: modulo(key.tonic + semitones, 12),
  });
  const options: CapoOption[] = [];
  const efforts = new Map<number, { effort: number; barres: number } | null>();
  for (let sounds = query.lowest; sounds <= query.highest; sounds += 1) {
    for (let capo = 0; capo <= HIGHEST_CAPO; capo += 1) {
      const shift = sounds + query.capo - capo;
      const fingeredKey = moved(written, shift);
      const soundingKey = moved(written, shift + capo + query.instrument.offset);
      const turn = modulo(shift, 12);
      const finger = (symbol: string) => transposeChord(symbol, shift, usesFlats(fingeredKey));
      if (!efforts.has(turn)) efforts.set(turn, effortOf(query, finger));
      const found = efforts.get(turn);
      if (!found) continue;
      options.push({
        capo,
        shift,
        sounds,
        chords: chords.map((symbol) => ({
          written: symbol,
          fingered: finger(symbol),
          sounding: transposeChord(
            symbol,
            shift + capo + query.instrument.offset,
            usesFlats(soundingKey),
          ),
        })),
        fingeredKey,
        soundingKey,
        barres: found.barres,
        effort: Number((found.effort + capo * CAPO_COST).toFixed(2)),
      });
    }
  }
  return options.sort(
    (a, b) => a.effort - b.effort || a.capo - b.capo || Math.abs(a.sounds) - Math.abs(b.sounds),
  );
}

/** How easy a set of chords is; null where one of them cannot be held. */
function effortOf(query: CapoQuery, finger: (symbol: string) => string) {
  const sequence = query.sequence.filter((symbol) => parseChord(symbol) !== null).map(finger);
  const choices = [...new Set(sequence)].map((symbol) => ({
    symbol,
    shapes: shapesFor(query.instrument, parseChord(symbol)!).slice(0, 4),
  }));
  if (choices.some(({ shapes }) => shapes.length === 0)) return null;
  const { shapes, after } = smoothestSet(choices, sequence);
  const held = [...shapes.values()];
  const laid = held.filter((shape) => barres(shape).length > 0).length;
  const holding = held.reduce((sum, shape) => sum + shape.difficulty, 0) / held.length;
  const changing = after / Math.max(1, sequence.length - 1);
  return { effort: holding + changing + (laid * BARRE_COST) / held.length, barres: laid };
}
