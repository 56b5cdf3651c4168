import type { Ticks } from '../plain';
import { type Meter, MOST_TUNE_NOTES, type Song, type TuneNote } from '../schema';
import { barTicks, beatTicks, placeName } from '../time';

/** Lines of notes written one by one: on a grid of the bar, or where they are tapped while it plays. */

/**
 * Whether a song has a line of notes anywhere.
 * @example hasTunes(song) // false
 */
export function hasTunes({ sections }: Pick<Song, 'sections'>): boolean {
  return sections.some(({ lines }) =>
    lines.some(({ bars }) => bars.some(({ rules }) => rules?.tune)),
  );
}

/** Parts of a beat that a note may be as long as, and be tapped on. */
export const TUNE_PARTS = [1, 2, 3, 4] as const;
export type TunePart = (typeof TUNE_PARTS)[number];

/**
 * The places of a bar on which notes are written.
 * @param parts of a beat
 * @returns ticks from the bar line, with the name of each
 * @example tuneGrid(METERS['3/4'], 2)[1] // { at: 480, name: 'the & of 1' }
 */
export function tuneGrid(meter: Meter, parts: TunePart): { at: number; name: string }[] {
  const divisions = Array.from({ length: meter.beats }, () => parts);
  const cell = beatTicks(meter) / parts;
  return Array.from({ length: meter.beats * parts }, (_, index) => ({
    at: Math.round(index * cell),
    name: placeName(divisions, meter, index),
  }));
}

/**
 * The place of the grid that is nearest to a moment of the bar; the last one where the moment is later.
 * @param tick from the bar line
 * @example nearestPlace(METERS['4/4'], 2, 500) // 480
 */
export function nearestPlace(meter: Meter, parts: TunePart, tick: Ticks): number {
  const cell = beatTicks(meter) / parts;
  const last = Math.round(barTicks(meter) / cell) - 1;
  return Math.round(Math.max(0, Math.min(last, Math.round(tick / cell))) * cell);
}

/**
 * A line with a note put in; what lay on its time gives way to it.
 * @returns the line itself where it has as many notes as a bar may have
 * @example placeNote([{ at: 0, string: 3, fret: 0 }], { at: 480, string: 3, fret: 2 }).length // 2
 */
export function placeNote(notes: TuneNote[], note: TuneNote): TuneNote[] {
  const others = notes.filter(({ at }) => at !== note.at);
  if (others.length >= MOST_TUNE_NOTES) return notes;
  return [...others, note].sort((one, other) => one.at - other.at);
}

/**
 * A line without the note on a time.
 * @example takeNote([{ at: 0, string: 3, fret: 0 }], 0) // []
 */
export function takeNote(notes: TuneNote[], at: number): TuneNote[] {
  return notes.filter((note) => note.at !== at);
}
