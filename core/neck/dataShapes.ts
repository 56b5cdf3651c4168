import guitarData from '@tombatossals/chords-db/lib/guitar.json';
import ukuleleData from '@tombatossals/chords-db/lib/ukulele.json';
import type { Instrument, Shape } from '../schema';
import { type ChordReading, parseChord } from './chords';
import { INSTRUMENTS } from './instruments';
import { shapePitches, spellingFault } from './spelling';

/** A shape of the data set that does not spell its chord, and why. */
interface DroppedShape {
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

/** What the data set covers. */
export type DataInstrument = 'guitar' | 'ukulele';
const DATA: Record<DataInstrument, ChordData> = { guitar: guitarData, ukulele: ukuleleData };

/** The data set's words for qualities where they are not a usual chord symbol. */
const SUFFIXES: Record<string, string> = { major: '', minor: 'm', mmaj7: 'mMaj7', mmaj9: 'mMaj9' };

/**
 * The part of the data set for an instrument, by the names of its strings: an octave here or there
 * (a low fourth string) leaves the shapes as they are.
 */
export function dataFor({ strings }: Instrument): DataInstrument | null {
  const same = (id: DataInstrument) =>
    strings.length === INSTRUMENTS[id].strings.length &&
    strings.every((midi, string) => (midi - INSTRUMENTS[id].strings[string]!) % 12 === 0);
  return same('guitar') ? 'guitar' : same('ukulele') ? 'ukulele' : null;
}

function toShape(position: DataPosition): Shape {
  const absolute = (fret: number) => (fret <= 0 ? fret : fret + position.baseFret - 1);
  return {
    frets: position.frets.map((fret) => (fret < 0 ? null : absolute(fret))),
    fingers: position.fingers,
  };
}

/** Strings that the guitar keeps at least when those below the bass note are left out. */
const FULL_ENOUGH = 4;

/**
 * Strings below the one with the bass note are left out, as players do: the data set lets a barre
 * sound the fifth below the root. A finger that then presses nothing is lifted.
 */
function fromTheBass(shape: Shape, chord: ChordReading, instrument: Instrument): Shape {
  const bass = shape.frets.findIndex(
    (fret, string) => fret !== null && (instrument.strings[string]! + fret) % 12 === chord.bass,
  );
  const left = shape.frets.slice(bass).filter((fret) => fret !== null).length;
  if (bass <= 0 || left < FULL_ENOUGH) return shape;
  const upper: Shape = {
    frets: shape.frets.map((fret, string) => (string < bass ? null : fret)),
    fingers: shape.fingers.map((finger, string) => (string < bass ? 0 : finger)),
  };
  const pitches = shapePitches(instrument, upper, 0).filter((pitch) => pitch !== null);
  return spellingFault(pitches, chord, instrument.strings.length) === null ? upper : shape;
}

/** Chords that sound alike have one key, however they are spelled. */
export function soundKey(chord: ChordReading, bass: number): string {
  const intervals = chord.intervals.map((interval) => interval % 12).sort((a, b) => a - b);
  return `${chord.root}:${intervals.join(',')}/${bass}`;
}

interface ShapeIndex {
  shapes: Map<string, Shape[]>;
  dropped: DroppedShape[];
}

const indexes = new Map<DataInstrument, ShapeIndex>();

function shapeIndex(id: DataInstrument): ShapeIndex {
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
      const reason = spellingFault(pitches, chord, instrument.strings.length);
      if (reason) index.dropped.push({ chord: name, frets: shape.frets, reason });
      return reason === null;
    });
    const cut = id === 'guitar' ? good.map((shape) => fromTheBass(shape, chord, instrument)) : good;
    // Cut from the bass, two of them may be the same.
    const played = cut.filter(
      ({ frets }, at) => cut.findIndex((other) => String(other.frets) === String(frets)) === at,
    );
    if (played.length > 0) index.shapes.set(soundKey(chord, chord.bass), played);
  }
  indexes.set(id, index);
  return index;
}

/** The usual shapes of a chord from the data set, checked; empty where it has none. */
export function dataShapes(id: DataInstrument, chord: ChordReading, bass: number): Shape[] {
  return shapeIndex(id).shapes.get(soundKey(chord, bass)) ?? [];
}

/** What was left out of the data set because it does not spell its chord. */
export function droppedShapes(id: DataInstrument): DroppedShape[] {
  return shapeIndex(id).dropped;
}
