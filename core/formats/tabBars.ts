import { fretChord, INSTRUMENT_IDS, INSTRUMENTS, parseChord, stringNames } from '../neck';
import type { Instrument, InstrumentId, Meter, Tune, TuneNote } from '../schema';
import { barTicks, beatTicks } from '../time';
import { chordsOfBar } from './midiChords';
import type { ReadStroke } from './readRhythm';
import type { TabBar, TabEvent } from './readTab';
import { barWords, type PlacedChord } from './written';

/** What is played in a bar of tablature: strokes on the chord's strings, or notes of their own. */
export interface PlayedBarOfTab {
  strokes: ReadStroke[];
  tune: Tune | null;
}

/** Bars of tablature as a line of text has them, with what is played in them and how their chords are held. */
export interface ReadTabBars {
  words: string[];
  played: PlayedBarOfTab[];
  shapes: { symbol: string; frets: Map<number, number> }[];
  /** What became of notes that have no place here. */
  left: string[];
}

/** Strings of which a chord is struck, at least; fewer are picked. */
const STRUM = 3;
/** Strings that an instrument has, at least, where the lowest of a chord is a bass. */
const WITH_BASS = 5;

/**
 * Which built-in instrument tablature is for, by the names of its strings, the highest first, else by how many they are.
 * @example tabInstrument(['A', 'E', 'C', 'G'], 4) // 'ukulele'
 */
export function tabInstrument(names: string[], strings: number): InstrumentId | null {
  const low = names.map((name) => name[0]!.toUpperCase() + name.slice(1)).reverse();
  const alike = INSTRUMENT_IDS.filter((id) => INSTRUMENTS[id].strings.length === strings);
  const named = alike.find((id) => stringNames(INSTRUMENTS[id]).join() === low.join());
  return named ?? (names.length === 0 ? (alike[0] ?? null) : null);
}

/** The chord that is held at a tick of a bar. */
const chordAt = (chords: PlacedChord[], at: number, before: string | null) =>
  chords.findLast((chord) => chord.at <= at)?.symbol ?? before;

/**
 * What bars of tablature say: a bar whose notes all lie on the shapes of its chords is strokes and picks, which go along
 * with other chords; another one is notes on their strings.
 * @param meter of the song
 * @param instrument where it is known: chords that are not named over the strings are named by its pitches
 */
export function tabBars(bars: TabBar[], meter: Meter, instrument: Instrument | null): ReadTabBars {
  const left = new Set<string>();
  const areNamed = bars.some(({ chords }) => chords.length > 0);
  const named = bars.map((bar) => ({
    ...bar,
    chords: areNamed || !instrument ? bar.chords : soundingChords(bar, instrument),
  }));
  const shapes = new Map(
    [...shapesOf(named)].map(([symbol, frets]) => [
      symbol,
      { frets, strings: heldStrings(symbol, frets, instrument) },
    ]),
  );
  let before: string | null = null;
  const played = named.map((bar) => {
    const lead = leadOf(bar);
    const held = before;
    before = bar.chords.at(-1)?.symbol ?? before;
    const symbolAt = ({ at }: TabEvent) => chordAt(bar.chords, at - lead, held);
    return playedIn(bar, symbolAt, { shapes, instrument, left });
  });
  const { words, left: between } = barWords(named, meter);
  return {
    words,
    played,
    shapes: [...shapes].map(([symbol, { frets }]) => ({ symbol, frets })),
    left: [...left, ...between.map(({ text }) => text)],
  };
}

const leadOf = ({ meter, pickup }: TabBar) =>
  pickup === undefined ? 0 : (meter.beats - pickup) * beatTicks(meter);

/** True where strings sound together, or one after another with the same fret each time: a riff names no chord. */
function isChordLike({ events }: TabBar): boolean {
  if (events.some(({ notes }) => notes.length >= STRUM)) return true;
  const frets = new Map<number, Set<number>>();
  for (const { string, fret } of events.flatMap(({ notes }) => notes))
    frets.set(string, (frets.get(string) ?? new Set()).add(fret));
  return frets.size >= STRUM && [...frets.values()].every(({ size }) => size === 1);
}

/** Chords by what sounds, each note until the next on its string. */
function soundingChords(bar: TabBar, { strings }: Instrument): PlacedChord[] {
  if (!isChordLike(bar)) return [];
  const whole = barTicks(bar.meter);
  const notes = bar.events.flatMap(({ at, notes: some }) =>
    some.map(({ string, fret }) => {
      const next = bar.events.find(
        (other) => other.at > at && other.notes.some((note) => note.string === string),
      );
      return { from: at, to: next?.at ?? whole, midi: strings.at(-string)! + fret, velocity: 80 };
    }),
  );
  return chordsOfBar(notes, 0, beatTicks(bar.meter), bar.meter.beats);
}

/** How often each string has each fret under a chord. */
type Frets = Map<number, Map<number, number>>;

const counted = (frets: Frets, string: number, fret: number) => {
  const own = frets.get(string) ?? new Map<number, number>();
  frets.set(string, own.set(fret, (own.get(fret) ?? 0) + 1));
};

/**
 * The shape of each chord: on each string the fret that it has most often in what is struck together; a string that is
 * only picked has its fret where that is always the same.
 */
function shapesOf(bars: TabBar[]): Map<string, Map<number, number>> {
  const found = new Map<string, { struck: Frets; open: Frets; picked: Frets }>();
  let before: string | null = null;
  for (const bar of bars) {
    for (const { at, notes } of bar.events) {
      const symbol = chordAt(bar.chords, at - leadOf(bar), before);
      if (symbol === null || notes.some(({ how }) => how)) continue;
      const own = found.get(symbol) ?? { struck: new Map(), open: new Map(), picked: new Map() };
      found.set(symbol, own);
      const isOpen = notes.every(({ fret }) => fret === 0);
      const kind = notes.length < STRUM ? own.picked : isOpen ? own.open : own.struck;
      for (const { string, fret } of notes) counted(kind, string, fret);
    }
    before = bar.chords.at(-1)?.symbol ?? before;
  }
  const shapes = new Map<string, Map<number, number>>();
  for (const [symbol, { struck, open, picked }] of found) {
    const shape = new Map<number, number>();
    // Open strings may only be those of a hand that travels.
    for (const [string, frets] of struck.size > 0 ? struck : open) {
      const [most] = [...frets].sort(([, a], [, b]) => b - a);
      shape.set(string, most![0]);
    }
    for (const [string, frets] of picked) {
      if (frets.size === 1 && !shape.has(string)) shape.set(string, [...frets.keys()][0]!);
    }
    if (shape.size >= STRUM) shapes.set(symbol, shape);
  }
  return shapes;
}

/** The strings that a chord has where it is held: of the usual shape, where all that is played lies on that. */
function heldStrings(
  symbol: string,
  shape: Map<number, number>,
  instrument: Instrument | null,
): number[] {
  const strings = [...shape.keys()];
  if (!instrument) return strings;
  const usual = fretChord(symbol, { instrument, capo: 0, bassSchool: 'root' })
    ?.shape.frets.slice()
    .reverse();
  if (!usual || strings.some((string) => usual[string - 1] !== shape.get(string))) return strings;
  return usual.flatMap((fret, at) => (fret === null ? [] : [at + 1]));
}

/** How a bar is played: on the shapes of its chords, and on which strings those are held. */
interface Held {
  shapes: Map<string, { frets: Map<number, number>; strings: number[] }>;
  instrument: Instrument | null;
  left: Set<string>;
}

/** The strokes of a bar, or its notes where they do not lie on its chords. */
function playedIn(
  bar: TabBar,
  symbolAt: (event: TabEvent) => string | null,
  { shapes, instrument, left }: Held,
): PlayedBarOfTab {
  const onShape = (event: TabEvent): boolean => {
    const shape = shapes.get(symbolAt(event) ?? '');
    return (
      event.damped || event.notes.every(({ string, fret }) => shape?.frets.get(string) === fret)
    );
  };
  const struck = (event: TabEvent): ReadStroke => {
    const symbol = symbolAt(event) ?? '';
    const stroke = { at: event.at, dir: null, accent: false, damped: event.damped };
    if (event.damped) return stroke;
    const strings = event.notes.map(({ string }) => string).sort((a, b) => a - b);
    if (!onShape(event)) {
      const frets = new Map(event.notes.map(({ string, fret }) => [string, fret]));
      return { ...stroke, strings, frets };
    }
    const held = shapes.get(symbol)!.strings;
    if (strings.length === held.length) return stroke;
    return isBass(event, symbol, held, instrument)
      ? { ...stroke, bass: true }
      : { ...stroke, strings };
  };
  const strings = new Set(bar.events.flatMap(({ notes }) => notes.map(({ string }) => string)));
  const some = bar.events.filter(onShape).length;
  const plain = bar.events.every(({ notes }) =>
    notes.every(({ how, soft, fret }) => !how && !soft && fret <= HIGHEST_FRET),
  );
  const isChordal = plain && some * 2 > bar.events.length && (strings.size > 1 || some === 0);
  if (bar.events.every(({ damped }) => damped) || isChordal)
    return { strokes: bar.events.map(struck), tune: null };
  const damped = bar.events.filter((event) => event.damped);
  const notes = bar.events.flatMap(notesOf);
  if (notes.length > MAX_NOTES) left.add(`notes of a bar beyond ${MAX_NOTES}`);
  const meets = damped.length > 0 ? 'in place' : 'alone';
  return {
    strokes: damped.map(struck),
    tune: notes.length > 0 ? { notes: notes.slice(0, MAX_NOTES), meets } : null,
  };
}
const MAX_NOTES = 64;
const HIGHEST_FRET = 24;

/** The notes of an event as they are kept. */
function notesOf({ at, notes }: TabEvent): TuneNote[] {
  return notes
    .filter(({ fret }) => fret <= HIGHEST_FRET)
    .map(({ string, fret, how, from, soft }): TuneNote => {
      const frets = from === undefined ? 0 : fret - from;
      const above = how === 'slide' && frets < 0;
      return {
        at,
        string,
        fret,
        ...(how && from === undefined && { how }),
        ...(how &&
          frets !== 0 &&
          Math.abs(frets) <= 12 && {
            grace: { how, frets: Math.abs(frets), ...(above && { above: true as const }) },
          }),
        ...(soft && { accent: 'ghost' as const }),
      };
    })
    .sort((a, b) => b.string - a.string);
}

/** True for the root alone, on the lowest string of its chord, on an instrument that has basses. */
function isBass(
  { notes }: TabEvent,
  symbol: string,
  held: number[],
  instrument: Instrument | null,
): boolean {
  const [note] = notes;
  if (!instrument || instrument.strings.length < WITH_BASS || notes.length > 1 || !note)
    return false;
  const open = instrument.strings.at(-note.string)!;
  return note.string === Math.max(...held) && (open + note.fret) % 12 === parseChord(symbol)?.bass;
}
