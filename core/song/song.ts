import {
  type Bar,
  type Instrument,
  type InstrumentId,
  type Meter,
  MAX_PATTERN_LETTERS,
  type Section,
  type Song,
} from '../schema';
import { guessKey, INSTRUMENTS, type Key, usualBassRule } from '../neck';
import { isCompound, METERS } from '../time';
import { newPattern } from '../pattern';
import { barMover, type PassageSong, passagesOf, writtenChords } from './passages';
import { readProgression } from './progression';

/**
 * A song from what a player fills in first.
 * A progression that is too long to be worked out gives a song without bars.
 * @example newSong({ title: 'Towpath', instrument: 'guitar', progression: 'G | C | D . G . | %' })
 */
export function newSong(start: {
  title: string;
  instrument: InstrumentId | Instrument;
  meter?: Meter;
  tempo?: number;
  progression?: string;
}): Song {
  const meter = start.meter ?? METERS['4/4'];
  const { sections, order, endings, key, degrees, tooLong } = readProgression(
    start.progression ?? '',
    meter,
  );
  const instrument =
    typeof start.instrument === 'string' ? INSTRUMENTS[start.instrument] : start.instrument;
  return {
    schema: 9,
    title: start.title,
    instrument,
    capo: 0,
    bassSchool: usualBassRule(instrument),
    tempo: start.tempo ?? (isCompound(meter) ? 60 : 80),
    meter,
    countIn: 1,
    ...(tooLong ? { sections: [] } : { sections, ...(order && { order }) }),
    ...(endings && !tooLong && { endings }),
    ...(key && { key }),
    ...(key && degrees && { degrees }),
    pattern: newPattern(meter, `Strum of ${start.title}`.slice(0, MAX_PATTERN_LETTERS).trim()),
    chosenShapes: [],
    ownShapes: [],
  };
}

/**
 * The song with each of its bars changed as they are written; itself where none is.
 * @example withEachBar(song, (bar) => bar) === song // true
 */
export function withEachBar(song: Song, change: (bar: Bar) => Bar): Song {
  let changed = false;
  const sections = song.sections.map((section) => ({
    ...section,
    lines: section.lines.map((line) => ({
      ...line,
      bars: line.bars.map((bar) => {
        const now = change(bar);
        changed ||= now !== bar;
        return now;
      }),
    })),
  }));
  return changed ? { ...song, sections } : song;
}

/**
 * The key of a song: the one that the player names, else the likeliest of its chords.
 * @example songKey(newSong({ title: 'Weir', instrument: 'guitar', progression: 'Key: G\n1 | 4' })).tonic // 7
 */
export const songKey = ({ sections, key }: Pick<Song, 'sections' | 'key'>): Key =>
  key ?? guessKey(songChords({ sections }));

/**
 * The chords of a song, each once, in the order in which they are first written; after them those of passages in
 * another key.
 * @example songChords(song) // ['G', 'C', 'D']
 */
export function songChords(song: PassageSong): string[] {
  const barsOf = ({ lines }: Section) => lines.flatMap(({ bars }) => bars);
  const inKey = barMover(song);
  const moved = song.order?.some(({ shift }) => shift) ? passagesOf(song) : [];
  const bars = [
    ...song.sections.flatMap(barsOf),
    ...moved.flatMap(({ section, shift }) =>
      shift === 0 ? [] : barsOf(song.sections[section]!).map((bar) => inKey(bar, shift)),
    ),
  ];
  return [...new Set(writtenChords(bars))];
}
