import type { Ticks } from '../plain';
import { type Meter, MAX_TUNE_NOTES, type Song, type TuneNote } from '../schema';
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
 * @param lead ticks of the bar that a pick-up leaves out: nothing is played there
 * @returns ticks from the bar line, with the name of each
 * @example tuneGrid(METERS['3/4'], 2)[1] // { at: 480, name: 'the & of 1' }
 */
export function tuneGrid(
  meter: Meter,
  parts: TunePart,
  lead: Ticks = 0,
): { at: number; name: string }[] {
  const divisions = Array.from({ length: meter.beats }, () => parts);
  const cell = beatTicks(meter) / parts;
  return Array.from({ length: meter.beats * parts }, (_, index) => ({
    at: Math.round(index * cell),
    name: placeName(divisions, meter, index),
  })).filter(({ at }) => at >= lead);
}

/**
 * The place of the grid that is nearest to a moment of the bar; the last one where the moment is later.
 * @param tick from the bar line
 * @example nearestPlace(METERS['4/4'], 2, 500) // 480
 */
export function nearestPlace(meter: Meter, parts: TunePart, tick: Ticks, lead: Ticks = 0): number {
  const cell = beatTicks(meter) / parts;
  const first = Math.ceil(lead / cell);
  const last = Math.round(barTicks(meter) / cell) - 1;
  return Math.round(Math.max(first, Math.min(last, Math.round(tick / cell))) * cell);
}

/**
 * A line with a note put beside those on its time: they sound at once, each on its own string. A note that is there
 * already is taken out; one of the fretting hand gives way, since notes at once are struck.
 * @example addNote([{ at: 0, string: 5, fret: 3 }], { at: 0, string: 2, fret: 1 }).length // 2
 */
export function addNote(notes: TuneNote[], note: TuneNote): TuneNote[] {
  const same = (one: TuneNote) => one.at === note.at && one.string === note.string;
  const there = notes.find(same);
  const others = notes.filter((one) => !same(one) && !(one.at === note.at && one.how));
  if (there?.fret === note.fret) return notes.filter((one) => !same(one));
  if (others.length >= MAX_TUNE_NOTES) return notes;
  const { how, ...struck } = note;
  const alone = !others.some(({ at }) => at === note.at);
  const added = alone && how ? note : struck;
  return [...others, added].sort((a, b) => a.at - b.at || b.string - a.string);
}

/**
 * A line with a note put in; what lay on its time gives way to it.
 * @returns the line itself where it has as many notes as a bar may have
 * @example placeNote([{ at: 0, string: 3, fret: 0 }], { at: 480, string: 3, fret: 2 }).length // 2
 */
export function placeNote(notes: TuneNote[], note: TuneNote): TuneNote[] {
  const others = notes.filter(({ at }) => at !== note.at);
  if (others.length >= MAX_TUNE_NOTES) return notes;
  return [...others, note].sort((one, other) => one.at - other.at);
}

/**
 * A line without the note on a time.
 * @example removeNote([{ at: 0, string: 3, fret: 0 }], 0) // []
 */
export function removeNote(notes: TuneNote[], at: number): TuneNote[] {
  return notes.filter((note) => note.at !== at);
}
