import { guessKey, moveLine, transposeChord, usesFlats } from '../neck';
import { modulo } from '../plain';
import { type Bar, type Passage, type Round, roundsOf, type Song } from '../schema';

/** What says which passages a song has, and in which key they are. */
export type PassageSong = Pick<Song, 'sections' | 'order'> &
  Partial<Pick<Song, 'key' | 'instrument' | 'endings'>>;

/** One time that a section, or the end of one, is played; the end alone is no time round, and counts as the first. */
export interface PlayedPassage extends Round {
  section: number;
  /** Semitones up from what is written. */
  shift: number;
  /** Only so many of its last lines; null for all. */
  lastLines: number | null;
}

/**
 * The passages of a song, each time round by itself: its sections in the order it asks for, or as they are written.
 * Names that no section has are passed over; of two sections with one name, the first is meant.
 * @example passagesOf(song)[1] // { section: 0, time: 2, last: true, shift: 2, lastLines: null }
 */
export function passagesOf({
  sections,
  order,
  endings,
}: Pick<PassageSong, 'sections' | 'order' | 'endings'>): PlayedPassage[] {
  const asked = order
    ? order.flatMap(({ name, times, shift = 0, lastLines }) => {
        const section = sections.findIndex((candidate) => candidate.name === name);
        const one = { section, shift, lastLines: lastLines ?? null };
        return section < 0 ? [] : Array.from({ length: times }, () => one);
      })
    : sections.map((_, section) => ({ section, shift: 0, lastLines: null }));
  const rounds = roundsOf(
    asked.filter(({ lastLines }) => lastLines === null).map(({ section }) => section),
    endings,
  );
  let at = 0;
  return asked.map((one) =>
    one.lastLines === null ? { ...one, ...rounds[at++]! } : { ...one, time: 1, last: false },
  );
}

/** Every chord of a song as it is written, those that stand in for others some of the times with them. */
export const writtenChords = (bars: Bar[]): string[] =>
  bars.flatMap(({ chords }) =>
    chords.flatMap(({ symbol, substitutes = [] }) => [
      symbol,
      ...substitutes.map((other) => other.symbol),
    ]),
  );

/**
 * How the bars of a song are taken to another key: its chords spelled as that key is, its lines of notes to other strings
 * and frets; a line that the neck has no place for is left out.
 * @returns a function of bars and semitones; a bar that is moved by nothing is itself
 * @example barMover(song)(bar.content, 2).chords[0].symbol // 'B', where it is written A
 */
export function barMover(song: PassageSong): (bar: Bar, shift: number) => Bar {
  let key = song.key;
  const { instrument } = song;
  return (bar, shift) => {
    if (shift === 0) return bar;
    key ??= guessKey([
      ...new Set(
        writtenChords(song.sections.flatMap(({ lines }) => lines.flatMap(({ bars }) => bars))),
      ),
    ]);
    const flats = usesFlats({ ...key, tonic: modulo(key.tonic + shift, 12) });
    const moved = <T extends { symbol: string }>(chord: T): T => ({
      ...chord,
      symbol: transposeChord(chord.symbol, shift, flats),
    });
    const chords = bar.chords.map((chord) => ({
      ...moved(chord),
      ...(chord.substitutes && { substitutes: chord.substitutes.map(moved) }),
    }));
    const { tune, ...rules } = bar.rules ?? {};
    if (!tune) return { ...bar, chords };
    const notes = instrument ? moveLine(tune.notes, shift, instrument) : null;
    return { ...bar, chords, rules: { ...rules, ...(notes && { tune: { ...tune, notes } }) } };
  };
}

/**
 * A passage without how often it comes: `last line of Verse +2`.
 * @param gap what stands before what is more than the name
 * @param minus the sign of a key below
 * @example passageHead({ name: 'Verse', shift: -2 }) // 'Verse −2'
 */
export function passageHead(
  { name, shift, lastLines }: Pick<Passage, 'name' | 'shift' | 'lastLines'>,
  gap = ' ',
  minus = '−',
): string {
  const lines = lastLines === 1 ? 'line' : `${lastLines} lines`;
  const end = lastLines === undefined ? '' : `last${gap}${lines} of `;
  const key = shift ? `${gap}${shift > 0 ? '+' : minus}${Math.abs(shift)}` : '';
  return `${end}${name}${key}`;
}

/**
 * What a passage that is being played is called: its section, and how far it is from the written key.
 * @example passageName(song, playedBars(song)[8]!) // 'Verse +2'
 */
export function passageName(
  { sections }: Pick<Song, 'sections'>,
  { section, shift }: { section: number; shift?: number },
): string {
  return passageHead({ name: sections[section]!.name, ...(shift && { shift }) }).trim();
}

/**
 * What a passage in a list is called: its section, the end of it alone, how far it is from the written key, how often.
 * @example passageWords({ name: 'Verse', times: 2, shift: -1 }) // 'Verse −1 ×2'
 * @example passageWords({ name: 'Verse', times: 1, lastLines: 1 }) // 'last line of Verse'
 */
export function passageWords(passage: Passage): string {
  return passageHead(passage) + (passage.times > 1 ? ` ×${passage.times}` : '');
}
