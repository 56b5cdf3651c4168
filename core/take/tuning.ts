import { stringLabel } from '../neck';
import type { Instrument } from '../schema';

/** What a string is tuned to, and what it would have to be. */
export interface Tuned {
  /** From the thumb, from 0. */
  string: number;
  /** Cents above what it should be, or below zero. */
  cents: number;
  /** Whether the string was guessed from its pitch. */
  guessed: boolean;
  /** What to do, in words. */
  says: string;
}

/** Cents within which a string is in tune. */
export const IN_TUNE = 4;
/** Within so many cents of an octave it is the octave. */
const NEAR_OCTAVE = 150;
/** A string that was guessed is kept while its peg is turned, for so many cents. */
const KEPT = 250;
/** Farther from every string than this it may be one of them an octave off. */
const FAR = 250;
const OCTAVE = 1200;

/**
 * What a pitch says of a string: how far off it is and which way to turn the peg. The string is the one that the player
 * chose; else it is guessed, and the guess is kept while the peg is turned.
 * @param midi the pitch that was heard, with its fraction
 * @param chosen the string that is being tuned, from the thumb, from 0; null to guess
 * @param before the string that was guessed last, if any
 * @example tunedString(62.8, INSTRUMENTS.ukulele, 2).says // 'The E string is 120 cents flat: tighten it.'
 * @example tunedString(55, INSTRUMENTS.ukulele, 0).says
 * // 'The G string is an octave low: this is a low G, and your instrument is set to a high one.'
 */
export function tunedString(
  midi: number,
  instrument: Instrument,
  chosen: number | null,
  before: number | null = null,
): Tuned {
  const offs = instrument.strings.map((open) => (midi - open - instrument.offset) * 100);
  const string = chosen ?? guess(offs, before);
  const cents = Math.round(offs[string]!);
  const guessed = chosen === null;
  return { string, cents, guessed, says: sentence(instrument, string, cents, guessed) };
}

function guess(offs: number[], before: number | null): number {
  if (before !== null && Math.abs(offs[before] ?? Infinity) < KEPT) return before;
  const nearest = (away: (off: number) => number) =>
    offs.reduce((best, off, string) => (away(off) < away(offs[best]!) ? string : best), 0);
  const plain = nearest(Math.abs);
  if (Math.abs(offs[plain]!) <= FAR) return plain;
  const octave = (off: number) => Math.abs(Math.abs(off) - OCTAVE);
  const other = nearest(octave);
  return octave(offs[other]!) <= NEAR_OCTAVE ? other : plain;
}

function sentence(instrument: Instrument, string: number, cents: number, guessed: boolean): string {
  const name = `The ${stringLabel(instrument, string)} string`;
  const which = guessed ? `${name}, it seems,` : name;
  const off = Math.abs(cents);
  if (off <= IN_TUNE) return `${which} is in tune.`;
  if (Math.abs(off - OCTAVE) <= NEAR_OCTAVE) {
    if (cents > 0) return `${which} is an octave high: loosen it, or choose another string.`;
    const isHigh = string === 0 && instrument.strings[0]! > Math.min(...instrument.strings);
    const low = `this is a low ${stringLabel(instrument, string)}, and your instrument is set to a high one`;
    return `${which} is an octave low: ${isHigh ? low : 'a new string, or another one than you chose'}.`;
  }
  const way = cents > 0 ? 'sharp: loosen it' : 'flat: tighten it';
  const slowly = cents < -FAR ? ' A new string gives: tune it again in a while.' : '';
  return `${which} is ${off} cents ${way}.${slowly}`;
}
