import guitarData from '@tombatossals/chords-db/lib/guitar.json';
import ukuleleData from '@tombatossals/chords-db/lib/ukulele.json';
import type { InstrumentId } from '../schema';
import { type ChordReading, parseChord } from './chords';
import { INSTRUMENTS, type Instrument } from './instruments';

/** A way to hold a chord, string by string in the order of `Instrument.openStrings`. */
export interface Shape {
  /** Fret counted from the nut or the capo, 0 for open; null where the string is not sounded. */
  frets: (number | null)[];
  /** 1 index to 4 little finger, 0 for none. */
  fingers: number[];
}

/** One finger lying over several strings, from the first to the last it presses. */
export interface Barre {
  finger: number;
  fret: number;
  first: number;
  last: number;
}

/** A shape of the data set that does not spell its chord, and why. */
export interface DroppedShape {
  chord: string;
  frets: (number | null)[];
  reason: string;
}

interface DataPosition {
  frets: number[];
  fingers: number[];
  baseFret: number;
}

interface ChordData {
  chords: Record<string, { key: string; suffix: string; positions: DataPosition[] }[]>;
}

const DATA: Record<InstrumentId, ChordData> = { guitar: guitarData, ukulele: ukuleleData };

/** The data set's words for qualities where they are not a usual chord symbol. */
const SUFFIXES: Record<string, string> = { major: '', minor: 'm', mmaj7: 'mMaj7', mmaj9: 'mMaj9' };

function toShape(position: DataPosition): Shape {
  const absolute = (fret: number) =>
    fret < 0 ? null : fret === 0 ? 0 : fret + position.baseFret - 1;
  return {
    frets: position.frets.map(absolute),
    fingers: position.fingers,
  };
}

/**
 * MIDI pitch of every string of a shape, null where it is not sounded.
 * @param capo fret of the capo, 0 for none
 * @example shapePitches(INSTRUMENTS.ukulele, { frets: [0, 0, 0, 3], fingers: [0, 0, 0, 3] }, 0)
 * // [67, 60, 64, 72]
 */
export function shapePitches(
  instrument: Instrument,
  shape: Shape,
  capo: number,
): (number | null)[] {
  return shape.frets.map((fret, string) =>
    fret === null ? null : instrument.openStrings[string]! + fret + capo,
  );
}

/**
 * Says why a set of pitches does not spell a chord, or null where it does. No pitch may be foreign
 * to the chord. Every tone must be there, but for those that players leave out when strings are
 * short: the perfect fifth of a chord of four or more tones, the root too where four strings hold
 * five tones, and, of chords of six or seven, all between the seventh and the last.
 */
export function spellingFault(
  pitches: number[],
  chord: ChordReading,
  strings: number,
): string | null {
  const sounding = new Set(pitches.map((pitch) => pitch % 12));
  const foreign = [...sounding].find((tone) => tone !== chord.bass && !chord.tones.includes(tone));
  if (foreign !== undefined) return 'sounds a note that is not in the chord';
  const size = chord.tones.length;
  const mayMiss = (interval: number, index: number) =>
    (interval === 7 && size >= 4) ||
    (interval === 0 && size > strings) ||
    (size >= 6 && interval > 12 && index < size - 1);
  const missing = chord.tones.find(
    (tone, index) => !sounding.has(tone) && !mayMiss(chord.intervals[index]!, index),
  );
  if (missing !== undefined) return 'leaves out a note that the chord needs';
  if (chord.bass !== chord.root && Math.min(...pitches) % 12 !== chord.bass) {
    return 'does not have the slash note in the bass';
  }
  return null;
}

/** Chords that sound alike have one key, however they are spelled. */
function soundKey(chord: ChordReading, bass: number): string {
  const intervals = chord.intervals.map((interval) => interval % 12).sort((a, b) => a - b);
  return `${chord.root}:${intervals.join(',')}/${bass}`;
}

interface ShapeIndex {
  shapes: Map<string, Shape[]>;
  dropped: DroppedShape[];
}

const indexes = new Map<InstrumentId, ShapeIndex>();

function shapeIndex(id: InstrumentId): ShapeIndex {
  const known = indexes.get(id);
  if (known) return known;
  const instrument = INSTRUMENTS[id];
  const index: ShapeIndex = { shapes: new Map(), dropped: [] };
  for (const { key, suffix, positions } of Object.values(DATA[id].chords).flat()) {
    const name = key + (SUFFIXES[suffix] ?? suffix);
    const chord = parseChord(name);
    if (!chord) continue;
    const good = positions.map(toShape).filter((shape) => {
      const pitches = shapePitches(instrument, shape, 0).filter((pitch) => pitch !== null);
      const reason = spellingFault(pitches, chord, instrument.openStrings.length);
      if (reason) index.dropped.push({ chord: name, frets: shape.frets, reason });
      return reason === null;
    });
    if (good.length > 0) index.shapes.set(soundKey(chord, chord.bass), good);
  }
  indexes.set(id, index);
  return index;
}

/**
 * The shapes for a chord, the usual open one first. A slash chord that the instrument has no shape
 * for falls back to the shapes of the plain chord. Empty where there is none.
 * @example shapesFor('guitar', parseChord('A')!)[0].frets // [null, 0, 2, 2, 2, 0]
 */
export function shapesFor(instrument: InstrumentId, chord: ChordReading): Shape[] {
  const { shapes } = shapeIndex(instrument);
  return shapes.get(soundKey(chord, chord.bass)) ?? shapes.get(soundKey(chord, chord.root)) ?? [];
}

/** What was left out of the data set for an instrument because it does not spell its chord. */
export function droppedShapes(instrument: InstrumentId): DroppedShape[] {
  return shapeIndex(instrument).dropped;
}

/**
 * The barres of a shape: every finger that presses two or more strings at one fret.
 * @example barres({ frets: [1, 3, 3, 2, 1, 1], fingers: [1, 3, 4, 2, 1, 1] })
 * // [{ finger: 1, fret: 1, first: 0, last: 5 }]
 */
export function barres(shape: Shape): Barre[] {
  return [1, 2, 3, 4].flatMap((finger) => {
    const under = shape.fingers.flatMap((used, string) =>
      used === finger && shape.frets[string] ? [string] : [],
    );
    const fret = shape.frets[under[0] ?? -1];
    if (under.length < 2 || !fret) return [];
    return [{ finger, fret, first: under[0]!, last: under.at(-1)! }];
  });
}
