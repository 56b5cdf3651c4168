import type { Instrument, Shape } from '../schema';
import type { ChordReading } from './chords';
import { assignFingers, barres } from './fingering';
import { isReentrant, REACH } from './instruments';
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
/** What a shape loses in fullness if it left every string out: fewer strings of few weigh more. */
const LEFT_OUT = 5.4;

/**
 * Weighs how hard a shape is to hold, and how much of a chord it is, with the reasons. Barres, stretches, positions up the neck and
 * muted strings inside the shape count against it; open strings and the root in the bass for it.
 */
export function weigh(
  shape: Shape,
  chord: ChordReading,
  instrument: Instrument,
): Omit<RankedShape, 'source'> {
  const reasons: string[] = [];
  const sounding = shape.frets.flatMap((fret, string) => (fret === null ? [] : [string]));
  const pressed = shape.frets.filter((fret) => fret !== null && fret > 0) as number[];
  const low = pressed.length > 0 ? Math.min(...pressed) : 0;
  const span = pressed.length > 0 ? Math.max(...pressed) - low : 0;
  const laid = barres(shape);
  const fingers = new Set(shape.fingers.filter((finger) => finger > 0)).size;
  const open = shape.frets.filter((fret) => fret === 0).length;

  let difficulty =
    fingers * 0.9 +
    span * (span >= REACH[instrument.family] ? 1.4 : 0.7) +
    Math.max(0, low - 1) * 0.5;
  for (const barre of laid) {
    const over = barre.last - barre.first + 1;
    difficulty += 1.5 + over * 0.6;
    reasons.push(`a barre over ${over} strings at fret ${barre.fret}`);
  }
  const inner = shape.frets
    .slice(sounding[0], sounding.at(-1))
    .filter((fret) => fret === null).length;
  if (inner > 0) {
    difficulty += inner * 2.5;
    reasons.push(`${inner === 1 ? 'a string' : `${inner} strings`} to mute inside the shape`);
  }
  const treble = shape.frets.length - 1 - sounding.at(-1)!;
  if (treble > 0) {
    difficulty += treble * 1.5;
    reasons.push('the last string has to be left out');
  }
  const bassString = isReentrant(instrument) ? lowestString(shape, instrument) : sounding[0]!;
  const bassTone = (instrument.strings[bassString]! + shape.frets[bassString]!) % 12;
  if (bassTone !== chord.bass) {
    difficulty += isReentrant(instrument) ? 0.4 : 1.6;
    reasons.push('another note than the root in the bass');
  }
  if (shape.frets.length - sounding.length === 0) reasons.push('all strings sound');
  else difficulty += (shape.frets.length - sounding.length) * (LEFT_OUT / shape.frets.length);
  if (open > 0) {
    difficulty -= open * 0.25;
    reasons.push(`${open} open ${open === 1 ? 'string' : 'strings'}`);
  }
  if (low > 4) reasons.push(`up the neck, at fret ${low}`);
  return { ...shape, difficulty: Math.max(0, Number(difficulty.toFixed(2))), reasons };
}

function lowestString(shape: Shape, instrument: Instrument): number {
  let lowest = -1;
  let pitch = Infinity;
  shape.frets.forEach((fret, string) => {
    if (fret !== null && instrument.strings[string]! + fret < pitch) {
      pitch = instrument.strings[string]! + fret;
      lowest = string;
    }
  });
  return lowest;
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
 * and one more elsewhere.
 * @example searchShapes(INSTRUMENTS.mandolin, parseChord('G')!, { allowBarre: true, limit: 4 })[0].frets
 * // [0, 0, 2, 3]
 */
export function searchShapes(
  instrument: Instrument,
  chord: ChordReading,
  { allowBarre, limit }: SearchOptions,
): RankedShape[] {
  const count = instrument.strings.length;
  const needed = neededTones(chord, count);
  const slash = chord.bass !== chord.root;
  const tones = new Set(slash ? [...chord.tones, chord.bass] : chord.tones);
  const fewest = Math.min(count, Math.max(needed.length, count > 4 ? 4 : 3));
  const reach = REACH[instrument.family];
  const found: RankedShape[] = [];
  const frets: (number | null)[] = Array(count).fill(null);

  const keep = (position: number) => {
    const pressed = frets.filter((fret) => fret !== null && fret > 0) as number[];
    // Each shape is taken in the position of its lowest fretted note, so that it comes once.
    if (position > 0 ? !pressed.includes(position) : pressed.length > 0) return;
    const pitches = frets.flatMap((fret, string) =>
      fret === null ? [] : [instrument.strings[string]! + fret],
    );
    if (pitches.length < fewest) return;
    const sounding = new Set(pitches.map((pitch) => pitch % 12));
    if (needed.some((tone) => !sounding.has(tone))) return;
    if (slash && Math.min(...pitches) % 12 !== chord.bass) return;
    const fingers = assignFingers(frets, allowBarre);
    if (!fingers) return;
    const shape = { frets: [...frets], fingers };
    found.push({ ...weigh(shape, chord, instrument), source: 'found' });
  };

  const place = (string: number, position: number, muted: number, started: boolean) => {
    if (string === count) {
      keep(position);
      return;
    }
    const open = instrument.strings[string]!;
    const isTone = (fret: number) => tones.has((open + fret) % 12);
    if (isTone(0)) {
      frets[string] = 0;
      place(string + 1, position, muted, true);
    }
    if (position > 0) {
      const top = Math.min(instrument.frets, position + reach);
      for (let fret = position; fret <= top; fret += 1) {
        if (!isTone(fret)) continue;
        frets[string] = fret;
        place(string + 1, position, muted, true);
      }
    }
    if (!started || muted < 1) {
      frets[string] = null;
      place(string + 1, position, started ? muted + 1 : muted, started);
    }
  };

  for (let position = 0; position <= HIGHEST_POSITION; position += 1) place(0, position, 0, false);
  return found.sort((a, b) => a.difficulty - b.difficulty).slice(0, limit);
}
