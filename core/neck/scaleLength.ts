import type { Centimetres } from '../plain';
import type { Family, Instrument, InstrumentId } from '../schema';
import { builtInId } from './instruments';

/**
 * From nut to bridge, as instruments of each kind are commonly built: a ukulele of concert size, the others between
 * them (soprano 33, tenor 43). How long it is decides how far apart the frets lie, and with them the fingers.
 */
const SCALES: Record<Family, Centimetres> = {
  guitar: 65,
  nylon: 65,
  ukulele: 38,
  baritone: 50,
  mandolin: 35,
  banjo: 67,
};
/** Built in, and shorter or longer than their kind. */
const OTHERS: Partial<Record<InstrumentId, Centimetres>> = { banjo: 58 };

/** What a ukulele comes in, by its name. */
export const UKULELE_SIZES: { name: string; scale: Centimetres }[] = [
  { name: 'soprano', scale: 33 },
  { name: 'concert', scale: 38 },
  { name: 'tenor', scale: 43 },
];

/**
 * Length of the strings of an instrument from nut to bridge: the player's own, or that of its kind.
 * @example scaleLengthOf(INSTRUMENTS.ukulele) // 38
 */
export function scaleLengthOf(instrument: Instrument): Centimetres {
  const before = known.get(instrument);
  if (before !== undefined) return before;
  const id = builtInId(instrument);
  const scale = instrument.scaleLength ?? (id && OTHERS[id]) ?? SCALES[instrument.family];
  known.set(instrument, scale);
  return scale;
}

/** It is asked for with every shape that is weighed. */
const known = new WeakMap<Instrument, Centimetres>();

/**
 * What is left of the strings above a capo: the neck of the hand.
 * @param capo the fret that it lies on, 0 for none
 * @example soundingLength(INSTRUMENTS.guitar, 12) // 32.5
 */
export function soundingLength(instrument: Instrument, capo = 0): Centimetres {
  return scaleLengthOf(instrument) * 2 ** (-capo / 12);
}

/** From the nut to a fret; frets halve what is left of the string every twelve. */
function fretAt(scale: Centimetres, fret: number): Centimetres {
  return scale * (1 - 2 ** (-fret / 12));
}

/**
 * How far two frets are apart, either way.
 * @example fretsApart(65, 1, 4).toFixed(1) // '9.8'
 */
export function fretsApart(scale: Centimetres, one: number, other: number): Centimetres {
  return Math.abs(fretAt(scale, one) - fretAt(scale, other));
}

/** A hand lies over so much without reaching: two frets of a guitar from its first. */
export const EASY_CM: Centimetres = 6.7;

/** Fingertips are some 16 mm wide and strings 9 apart: staggered, each wants so much of the fret. An estimate. */
const FINGER_CM: Centimetres = 0.8;

/**
 * By how much a fret is too narrow for fingers side by side in it: 0 for wide enough, towards 1.
 * @param fret from 1
 * @example crowding(65, 2, 3) // 0: three fingers have room in the second fret of a guitar
 */
export function crowding(scale: Centimetres, fret: number, fingers: number): number {
  if (fingers < 2) return 0;
  return Math.max(0, 1 - fretsApart(scale, fret - 1, fret) / (FINGER_CM * fingers));
}
