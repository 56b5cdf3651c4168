import type { Instrument } from '../schema';
import type { ChordReading } from './chords';
import { dataFor, dataShapes } from './dataShapes';
import { isReentrant, tuningKey } from './instruments';
import { scaleLengthOf } from './scaleLength';
import { isUkulele, usualShapes } from './usualShapes';
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
  const key = `${tuningKey(instrument)}/${scaleLengthOf(instrument)}|${chord.symbol}`;
  const before = known.get(key);
  if (before) return before;
  const list = findShapes(instrument, chord);
  if (known.size > KNOWN) known.clear();
  known.set(key, list);
  return list;
}

function findShapes(instrument: Instrument, chord: ChordReading): RankedShape[] {
  const slash = chord.bass !== chord.root;
  const data = dataFor(instrument);
  const known = data ? dataShapes(data, chord, chord.bass) : [];
  // The fingers of the data set are those that players have, but where a table says them.
  const said = isUkulele(instrument);
  const first = usualShapes(instrument, chord).map((shape) =>
    said ? shape : (known.find((other) => sameFrets(shape, other)) ?? shape),
  );
  const usual = [
    ...first,
    ...known.filter((shape) => !first.some((other) => sameFrets(shape, other))),
  ];
  const ranked = usual.map((shape): RankedShape => ({
    ...weigh(shape, chord, instrument),
    source: 'usual',
  }));
  const found = searchShapes(instrument, chord, { allowBarre: true, limit: OFFERED });
  const fresh = found.filter((shape) => !ranked.some((other) => sameFrets(shape, other)));
  const list = [...ranked, ...fresh].slice(0, OFFERED);
  if (!slash) return list;
  const plain = findShapes(instrument, { ...chord, bass: chord.root });
  if (list.length === 0) return plain;
  if (!leavesBass(instrument, list[0]!)) return list;
  const others = list.filter((shape) => !plain.some((other) => sameFrets(shape, other)));
  const [firstPlain, ...restPlain] = plain.map((shape) => ({
    ...shape,
    reasons: ['the slash is left to whoever has a bass', ...shape.reasons],
  }));
  return firstPlain ? [firstPlain, ...others, ...restPlain].slice(0, OFFERED) : list;
}

/** The highest fret that a ukulele's slash chord is looked for at: beyond it the plain chord is what is played. */
const FIRST_FRETS = 5;

/**
 * True where players leave the note after the slash to another instrument: on strings whose lowest is not nearest the
 * thumb, and on small ones where that note would lead up the neck.
 */
function leavesBass(instrument: Instrument, shape: { frets: (number | null)[] }): boolean {
  if (isReentrant(instrument)) return true;
  const far = Math.max(...shape.frets.map((fret) => fret ?? 0)) > FIRST_FRETS;
  return instrument.family === 'ukulele' && far;
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
