import type { Instrument } from '../schema';

interface Placed {
  string: number;
  fret: number;
  /** Sounded by the fretting hand, and so on the string of the note before it. */
  how?: string | undefined;
  /** Ticks from the bar line: notes at once lie on strings of their own. */
  at?: number | undefined;
}

/** A hand reaches so many frets without moving. */
const REACH = 4;
const FARTHER = 1;
const OTHER_STRING = 0.3;
const SHIFTED = 0.6;

/**
 * A line of notes so many semitones higher, or on another instrument: new strings and frets at the same
 * pitches, found by a search that keeps to the position. Intervals stay; a line that has no place on the neck
 * goes by octaves to where it has one.
 * @param notes strings numbered from the far side, 1 first, as they are written
 * @returns the notes in their order; null where the neck has no place for one of them
 * @example moveLine([{ string: 3, fret: 0 }], 2, guitar) // [{ string: 3, fret: 2 }]
 */
export function moveLine<T extends Placed>(
  notes: T[],
  semitones: number,
  from: Instrument,
  to: Instrument = from,
): T[] | null {
  const pitches = notes.map(
    ({ string, fret }) => (from.strings.at(-string) ?? 0) + from.offset + fret + semitones,
  );
  const octaves = [0, 12, -12, 24, -24];
  for (const octave of octaves) {
    const found = placed(
      pitches.map((pitch) => pitch + octave - to.offset),
      notes,
      to,
    );
    if (found) return notes.map((note, index) => ({ ...note, ...found[index]! }));
  }
  return null;
}

interface State extends Placed {
  cost: number;
  from: State | null;
}

function placed(pitches: number[], notes: Placed[], { strings, frets }: Instrument) {
  const most = Math.min(frets, 24);
  let states: State[] = [];
  for (const [index, pitch] of pitches.entries()) {
    const options = strings.flatMap((open, string) => {
      const fret = pitch - open;
      return fret < 0 || fret > most ? [] : [{ string: strings.length - string, fret }];
    });
    if (options.length === 0) return null;
    const before = states;
    states = options.flatMap((option): State[] => {
      const own =
        option.fret * 0.05 + Math.abs(option.string - notes[index]!.string) * OTHER_STRING;
      const { how, at } = notes[index]!;
      const from = before.filter(
        (state) =>
          (!how || state.string === option.string) &&
          !(at !== undefined && takenAt(state, notes, index).has(option.string)),
      );
      if (before.length > 0 && from.length === 0) return [];
      const [best] = from
        .map((state) => ({ state, cost: state.cost + way(state, option) }))
        .sort((a, b) => a.cost - b.cost);
      return [{ ...option, cost: own + (best?.cost ?? 0), from: best?.state ?? null }];
    });
    if (states.length === 0) return null;
  }
  const path: Placed[] = [];
  let at: State | null = states.sort((a, b) => a.cost - b.cost)[0] ?? null;
  for (; at; at = at.from) path.unshift({ string: at.string, fret: at.fret });
  return path;
}

/** The strings that notes at the time of this one have on the way to a state. */
function takenAt(last: State, notes: Placed[], index: number): Set<number> {
  const taken = new Set<number>();
  let state: State | null = last;
  for (let other = index - 1; state && notes[other]?.at === notes[index]!.at; other -= 1) {
    taken.add(state.string);
    state = state.from;
  }
  return taken;
}

function way(from: Placed, to: Placed): number {
  if (from.fret === 0 || to.fret === 0) return 0;
  const frets = Math.abs(from.fret - to.fret);
  return frets * SHIFTED * 0.2 + Math.max(0, frets - REACH) * FARTHER;
}
