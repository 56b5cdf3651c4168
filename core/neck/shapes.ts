import type { Instrument } from '../schema';
import type { ChordReading } from './chords';
import { dataFor, dataShapes } from './dataShapes';
import { tuningKey } from './instruments';
import { type RankedShape, searchShapes, weigh } from './search';

/** Shapes offered for a chord. */
const OFFERED = 12;
const KNOWN = 600;

const known = new Map<string, RankedShape[]>();

const sameFrets = (a: { frets: (number | null)[] }, b: { frets: (number | null)[] }) =>
  a.frets.every((fret, string) => fret === b.frets[string]);

/**
 * The shapes for a chord, best first: the usual ones where the data set covers the instrument, then
 * those that our own search finds, easiest first. A slash chord that cannot be held falls back to
 * the plain one. Empty where there is none.
 * @example shapesFor(INSTRUMENTS.guitar, parseChord('A')!)[0].frets // [null, 0, 2, 2, 2, 0]
 */
export function shapesFor(instrument: Instrument, chord: ChordReading): RankedShape[] {
  const key = `${tuningKey(instrument)}|${chord.symbol}`;
  const before = known.get(key);
  if (before) return before;
  const list = findShapes(instrument, chord);
  if (known.size > KNOWN) known.clear();
  known.set(key, list);
  return list;
}

function findShapes(instrument: Instrument, chord: ChordReading): RankedShape[] {
  const data = dataFor(instrument);
  const usual = data ? dataShapes(data, chord, chord.bass) : [];
  const ranked = usual.map((shape): RankedShape => ({
    ...weigh(shape, chord, instrument),
    source: 'usual',
  }));
  const found = searchShapes(instrument, chord, { allowBarre: true, limit: OFFERED });
  const fresh = found.filter((shape) => !ranked.some((other) => sameFrets(shape, other)));
  const list = [...ranked, ...fresh].slice(0, OFFERED);
  if (list.length > 0 || chord.bass === chord.root) return list;
  return findShapes(instrument, { ...chord, bass: chord.root });
}

/** How a shape sounds beside another of the same chord. */
export type Tone = 'bright' | 'dark' | 'even';

/**
 * Whether a shape lies higher (bright) or lower (dark) than the first choice, by the mean of its
 * pitches; a difference of less than two semitones is even.
 */
export function toneBeside(
  instrument: Instrument,
  shape: { frets: (number | null)[] },
  first: { frets: (number | null)[] },
): Tone {
  const mean = (frets: (number | null)[]) => {
    const pitches = frets.flatMap((fret, string) =>
      fret === null ? [] : [instrument.strings[string]! + fret],
    );
    return pitches.reduce((sum, pitch) => sum + pitch, 0) / pitches.length;
  };
  const difference = mean(shape.frets) - mean(first.frets);
  return difference >= 2 ? 'bright' : difference <= -2 ? 'dark' : 'even';
}
