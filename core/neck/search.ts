import { plural } from '../plain';
import type { Instrument, Shape } from '../schema';
import type { ChordReading } from './chords';
import { assignFingers, type Barre, barres } from './fingering';
import { isReentrant, REACH } from './instruments';
import { crowding, EASY_CM, fretsApart, scaleLengthOf } from './scaleLength';
import { neededTones } from './spelling';

/** A shape with what speaks for and against it. */
export interface RankedShape extends Shape {
  /** Where it comes from: the usual ones, our own search, or the player. */
  source: 'usual' | 'found' | 'own';
  /** How hard it is to hold, 0 easy to about 20; an estimate for comparing. */
  difficulty: number;
  /** In words, the most telling first. */
  reasons: string[];
}

const HIGHEST_POSITION = 9;
/** What a centimetre between the lowest and the highest finger counts, and one beyond what a hand lies over. */
const APART = 0.27;
const REACHED = 0.6;
/** What a finger counts that has no room beside others in its fret. */
const CROWDED = 4;
/** What a shape loses in fullness if it left every string out: fewer strings of few weigh more. */
const LEFT_OUT = 6.6;
/** What a finger, a fret up the neck, a string muted inside count; and what an open string takes off. */
const FINGER = 0.9;
const POSITION = 0.5;
const INNER = 2.5;
/** A string that a finger leans on mutes itself: so much of the trouble of an inner one is gone. */
const LEANS = 0.6;
const OPEN = 0.25;

/** What there is to say of a shape, measured once. */
interface Measures {
  fingers: number;
  lowest: number;
  /** Centimetres between the lowest and the highest finger. */
  apart: number;
  /** How little room fingers have in one fret, over all that share one. */
  crowded: number;
  barres: Barre[];
  inner: number;
  /** Strings that a finger touches and does not press. */
  touched: number;
  reentrant: boolean;
  /** Strings of a power chord that is held on two or three; 0 for any other. */
  power: number;
  trebleOut: number;
  leftOut: number;
  open: number;
  rootInBass: boolean;
}

function measure(shape: Shape, chord: ChordReading, instrument: Instrument): Measures {
  const { frets, fingers } = shape;
  let lowest = Infinity;
  let highest = 0;
  let open = 0;
  let firstString = -1;
  let lastString = -1;
  let lowestPitch = Infinity;
  let sounding = 0;
  let used = 0;
  const inFret: number[] = [];
  const scale = scaleLengthOf(instrument);
  frets.forEach((fret, string) => {
    if (fret === null) return;
    sounding += 1;
    if (firstString < 0) firstString = string;
    lastString = string;
    lowestPitch = Math.min(lowestPitch, instrument.strings[string]! + fret);
    if (fret === 0) {
      open += 1;
      return;
    }
    lowest = Math.min(lowest, fret);
    highest = Math.max(highest, fret);
    used |= 1 << fingers[string]!;
    inFret[fret] = (inFret[fret] ?? 0) | (1 << fingers[string]!);
  });
  const thumbSide = instrument.strings[firstString]! + (frets[firstString] ?? 0);
  const bass = isReentrant(instrument) ? lowestPitch : thumbSide;
  return {
    fingers: bits(used & ~1),
    lowest: highest === 0 ? 0 : lowest,
    apart: highest === 0 ? 0 : fretsApart(scale, lowest, highest),
    crowded: inFret.reduce((sum, held, fret) => {
      const count = bits(held);
      return count < 2 ? sum : sum + (count - 1) * crowding(scale, fret, count);
    }, 0),
    barres: barres(shape),
    inner: lastString - firstString + 1 - sounding,
    touched: frets.filter((fret, string) => fret === null && fingers[string] !== 0).length,
    reentrant: isReentrant(instrument),
    power: chord.intervals.length === 2 && sounding <= 3 ? sounding : 0,
    trebleOut: frets.length - 1 - lastString,
    leftOut: frets.length - sounding,
    open,
    rootInBass: bass % 12 === chord.bass,
  };
}

function bits(mask: number): number {
  let count = 0;
  for (let left = mask; left !== 0; left &= left - 1) count += 1;
  return count;
}

function difficultyOf(found: Measures, strings: number, instrument: Instrument): number {
  const stretch = found.apart * APART + Math.max(0, found.apart - EASY_CM) * REACHED;
  const laid = found.barres.reduce(
    (sum, { first, last }) => sum + 1.5 + (last - first + 1) * 0.6,
    0,
  );
  const otherBass = isReentrant(instrument) ? 0.4 : 1.6;
  const difficulty =
    found.fingers * FINGER +
    stretch +
    found.crowded * CROWDED +
    Math.max(0, found.lowest - 1) * POSITION +
    laid +
    (found.inner - found.touched * LEANS) * INNER +
    (found.power > 0 ? 0 : found.trebleOut * 1.5) +
    (found.rootInBass ? 0 : otherBass) +
    // A power chord is whole on the strings that it has.
    (found.power > 0 ? 0 : found.leftOut * (LEFT_OUT / strings)) -
    found.open * OPEN;
  return Math.max(0, Number(difficulty.toFixed(2)));
}

function reasonsOf(found: Measures): string[] {
  return [
    ...(found.power > 0 ? [`${found.power === 2 ? 'two' : 'three'} strings, no third`] : []),
    ...found.barres.map(
      ({ first, last, fret }) => `a barre over ${last - first + 1} strings at fret ${fret}`,
    ),
    ...(found.touched > 0
      ? [
          `a finger leans on ${found.touched === 1 ? 'a string' : `${found.touched} strings`} to mute it`,
        ]
      : []),
    ...(found.inner > found.touched
      ? [`${found.inner === 1 ? 'a string' : `${found.inner} strings`} to mute inside the shape`]
      : []),
    ...(found.trebleOut > 0 && found.power === 0 ? ['the last string has to be left out'] : []),
    // Where the lowest string is not nearest the thumb there is no bass to speak of.
    ...(found.rootInBass || found.reentrant ? [] : ['another note than the root in the bass']),
    ...(found.leftOut === 0 ? ['all strings sound'] : []),
    ...(found.open > 0 ? [plural(found.open, 'open string')] : []),
    ...(found.lowest > 4 ? [`up the neck, at fret ${found.lowest}`] : []),
  ];
}

/**
 * Weighs how hard a shape is to hold, and how much of a chord it is, with the reasons. Barres,
 * stretches, positions up the neck and strings left out count against it; open strings and the root
 * in the bass for it.
 */
export function weigh(
  { frets, fingers }: Shape,
  chord: ChordReading,
  instrument: Instrument,
): Omit<RankedShape, 'source'> {
  const found = measure({ frets, fingers }, chord, instrument);
  const difficulty = difficultyOf(found, frets.length, instrument);
  return { frets, fingers, difficulty, reasons: reasonsOf(found) };
}

export interface SearchOptions {
  /** Whether a finger may lie over several strings. */
  allowBarre: boolean;
  /** How many shapes are wanted. */
  limit: number;
}

/**
 * Finds playable shapes of a chord on any instrument: within the reach of a hand on strings of this
 * length, no crossed and no fifth finger, easiest first. Strings may be left out on the thumb side,
 * and, of up to six, one more elsewhere.
 * @example searchShapes(INSTRUMENTS.mandolin, parseChord('G')!, { allowBarre: true, limit: 4 })[0].frets
 * // [0, 0, 2, 3]
 */
export function searchShapes(
  instrument: Instrument,
  chord: ChordReading,
  { allowBarre, limit }: SearchOptions,
): RankedShape[] {
  const { strings } = instrument;
  const count = strings.length;
  const needed = neededTones(chord, count);
  const need = needed.reduce((mask, tone) => mask | (1 << tone), 0);
  const slash = chord.bass !== chord.root;
  const tones = new Set(slash ? [...chord.tones, chord.bass] : chord.tones);
  const fewest = Math.min(count, Math.max(needed.length, count > 4 ? count - 2 : 3));
  // On many strings the ways to mute one inside are too many, and no one plays them.
  const skippable = count > 6 ? 0 : 1;
  const reach = REACH[instrument.family];
  const frets: (number | null)[] = Array(count).fill(null);
  const found: { shape: Shape; difficulty: number }[] = [];

  const keep = (position: number, sounding: number, skipped: number, pressed: number) => {
    // What it costs at least; a shape that cannot be among the best is not looked at closer.
    const fingers = pressed <= 4 ? pressed : 2;
    const least =
      fingers * FINGER +
      Math.max(0, position - 1) * POSITION +
      skipped * INNER +
      (count - sounding) * (LEFT_OUT / count) -
      (sounding - pressed) * OPEN;
    if (found.length === limit && least >= found.at(-1)!.difficulty) return;
    if (slash) {
      const pitches = frets.flatMap((fret, string) =>
        fret === null ? [] : [strings[string]! + fret],
      );
      if (Math.min(...pitches) % 12 !== chord.bass) return;
    }
    const assigned = assignFingers(frets, allowBarre);
    if (!assigned) return;
    const shape = { frets: [...frets], fingers: assigned };
    const difficulty = difficultyOf(measure(shape, chord, instrument), count, instrument);
    const after = found.findIndex((other) => other.difficulty > difficulty);
    found.splice(after < 0 ? found.length : after, 0, { shape, difficulty });
    if (found.length > limit) found.pop();
  };

  /**
   * Tries every way to go on from a string. `mask` holds the tones that sound so far, `at` counts
   * notes in the lowest fret and `above` those higher up.
   */
  const place = (
    string: number,
    position: number,
    mask: number,
    sounding: number,
    skipped: number,
    at: number,
    above: number,
  ): void => {
    const left = count - string;
    if (bits(need & ~mask) > left || sounding + left < fewest) return;
    // Four fingers, or one laid flat and three: more notes above it only fit a second barre.
    if (above > 4 || (!allowBarre && at + above > 4)) return;
    if (left === 0) {
      // Each shape is taken in the position of its lowest fretted note, so that it comes once.
      const barreNeeded = at + above > 4;
      if ((position === 0) === (at === 0) && (!barreNeeded || at > 1)) {
        // A string left out at the end is no string muted inside.
        const muted = frets.at(-1) === null ? 0 : skipped;
        keep(position, sounding, muted, at + above);
      }
      return;
    }
    const open = strings[string]!;
    const tryFret = (fret: number) => {
      const tone = (open + fret) % 12;
      if (!tones.has(tone)) return;
      frets[string] = fret;
      const low = fret > 0 && fret === position ? 1 : 0;
      const high = fret > position ? 1 : 0;
      place(
        string + 1,
        position,
        mask | (1 << tone),
        sounding + 1,
        skipped,
        at + low,
        above + high,
      );
    };
    tryFret(0);
    const top = position === 0 ? 0 : Math.min(instrument.frets, position + reach);
    for (let fret = Math.max(1, position); fret <= top; fret += 1) tryFret(fret);
    if (sounding === 0 || skipped < skippable) {
      frets[string] = null;
      place(string + 1, position, mask, sounding, sounding === 0 ? 0 : skipped + 1, at, above);
    }
  };

  for (let position = 0; position <= HIGHEST_POSITION; position += 1)
    place(0, position, 0, 0, 0, 0, 0);
  return found.map(({ shape }) => ({
    ...weigh(shape, chord, instrument),
    source: 'found' as const,
  }));
}
