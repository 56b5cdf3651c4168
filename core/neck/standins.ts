import type { Instrument, Shape } from '../schema';
import { type ChordReading, noteName, parseChord } from './chords';
import { barres } from './fingering';
import { type RankedShape, weigh } from './search';
import { shapesFor } from './shapes';

/** An easier way to play a chord, and what is lost by it. */
export interface StandIn {
  symbol: string;
  shape: RankedShape;
  /** In words: 'the two lowest strings are left out'. */
  lost: string;
}

/** Chords that may stand in for one of a quality, by the suffix of both. */
const RELATIVES: [number[], string[]][] = [
  [
    [0, 4, 7],
    ['maj7', 'add9', '7'],
  ],
  [[0, 3, 7], ['m7']],
  [[0, 4, 7, 10], ['']],
  [[0, 3, 7, 10], ['m']],
  [[0, 4, 7, 11], ['']],
];

const OFFERED = 4;
/** Fingers that put down by themselves need nothing easier. */
const EASY_FINGERS = 2;

/**
 * Easier stand-ins for a shape: other shapes of the chord that are easier to hold, and close
 * relatives of the chord in an easy shape, each with what is lost. None where the shape is easy.
 * @example standIns(INSTRUMENTS.guitar, parseChord('F')!, barreF)[0].lost
 * // 'the barre, and with it the 2 lowest strings'
 */
export function standIns(instrument: Instrument, chord: ChordReading, shape: Shape): StandIn[] {
  const now = weigh(shape, chord, instrument);
  const fingers = new Set(shape.fingers.filter((finger) => finger > 0));
  if (fingers.size <= EASY_FINGERS && barres(shape).length === 0) return [];
  const easier = (candidate: RankedShape) => candidate.difficulty < now.difficulty - 1;
  const own = [...shapesFor(instrument, chord), ...partial(instrument, chord, shape)]
    .filter(easier)
    .map((candidate) => ({
      symbol: chord.symbol,
      shape: candidate,
      lost: lostStrings(shape, candidate),
    }));
  const rootName = /^[A-G][#b♯♭]*/.exec(chord.symbol)![0];
  const [, suffixes] =
    RELATIVES.find(([intervals]) => String(intervals) === String(chord.intervals)) ?? [];
  const relatives = (suffixes ?? []).flatMap((suffix): StandIn[] => {
    const other = parseChord(rootName + suffix)!;
    const best = shapesFor(instrument, other)[0];
    if (!best || !easier(best) || barres(best).length > 0) return [];
    return [{ symbol: other.symbol, shape: best, lost: lostTones(chord, other) }];
  });
  const all = [...own, ...relatives].sort((a, b) => a.shape.difficulty - b.shape.difficulty);
  const first = (stand: StandIn) =>
    all.find(({ shape: other }) => String(other.frets) === String(stand.shape.frets)) === stand;
  return all.filter(first).slice(0, OFFERED);
}

/** The same shape on fewer strings: those of the treble side, without the barre below them. */
function partial(instrument: Instrument, chord: ChordReading, shape: Shape): RankedShape[] {
  if (shape.frets.length < 5 || barres(shape).length === 0) return [];
  return shapesFor(instrument, chord).flatMap((candidate) => {
    const frets = candidate.frets.map((fret, string) =>
      string < shape.frets.length - 4 ? null : fret,
    );
    const sounding = new Set(
      frets.flatMap((fret, string) =>
        fret === null ? [] : [(instrument.strings[string]! + fret) % 12],
      ),
    );
    if (!chord.tones.every((tone) => sounding.has(tone))) return [];
    const fingers = candidate.fingers.map((finger, string) => (frets[string] ? finger : 0));
    return [{ ...weigh({ frets, fingers }, chord, instrument), source: 'found' as const }];
  });
}

function lostStrings(from: Shape, to: Shape): string {
  const fewer = from.frets.filter(
    (fret, string) => fret !== null && to.frets[string] === null,
  ).length;
  const parts = [
    ...(barres(from).length > 0 && barres(to).length === 0 ? ['the barre'] : []),
    ...(fewer > 0 ? [`${fewer === 1 ? 'a string' : `${fewer} strings`} of fullness`] : []),
  ];
  return parts.length > 0 ? parts.join(', and with it ') : 'nothing but its place on the neck';
}

function lostTones(from: ChordReading, to: ChordReading): string {
  const name = (tone: number) => noteName(tone, from.symbol.includes('b'));
  const gone = from.tones.filter((tone) => !to.tones.includes(tone)).map(name);
  const added = to.tones.filter((tone) => !from.tones.includes(tone)).map(name);
  const parts = [
    ...(gone.length > 0 ? [`${gone.join(' and ')} is left out`] : []),
    ...(added.length > 0 ? [`${added.join(' and ')} is added`] : []),
  ];
  return `another colour: ${parts.join(', ')}`;
}
