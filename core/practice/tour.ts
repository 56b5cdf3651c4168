import { keyChords, type Key, shuffleChanges, transposeChord, usesFlats } from '../neck';
import type { Pattern, Song } from '../schema';
import { PATTERN_LETTERS } from '../schema';
import { plural } from '../plain';
import { noise } from '../random';
import { newSong } from '../song';
import { patternTicks } from '../stroke';
import { barTicks } from '../time';

/** What a tour goes through: all chords of a key, or all majors or minors there are. */
export type TourOf = { key: Key } | 'majors' | 'minors';
/** In which order: up the scale, by fifths, or shuffled. */
export type TourOrder = 'steps' | 'fifths' | 'shuffled';

/** Fifths up from a tone: twelve of them come back to it. */
const FIFTH = 7;

/**
 * A pattern through many chords: each for as many bars as the pattern is long. As a song of its own, so that it
 * is played, drawn and judged like any other.
 * @param like the song whose instrument, tempo and capo it takes
 * @param seed for a shuffled order
 * @example tour(song, song.pattern, 'majors', 'fifths').sections[0].lines[0].bars.length // 12
 */
export function tour(
  like: Pick<Song, 'instrument' | 'capo' | 'tempo' | 'bassSchool' | 'countIn'>,
  pattern: Pattern,
  of: TourOf,
  order: TourOrder,
  seed = 1,
): Song {
  const bars = Math.max(1, Math.ceil(patternTicks(pattern) / barTicks(pattern.meter)));
  const symbols = ordered(of, order, seed);
  const bar = (symbol: string) => [symbol, ...Array.from({ length: bars - 1 }, () => '%')];
  const title = `Tour of ${plural(symbols.length, 'chord')}`;
  const song = newSong({
    title: title.slice(0, PATTERN_LETTERS),
    instrument: like.instrument,
    meter: pattern.meter,
    tempo: like.tempo,
    progression: symbols.map((symbol) => bar(symbol).join(' | ')).join('\n'),
  });
  const { capo, bassSchool, countIn } = like;
  return { ...song, pattern, capo, bassSchool, countIn };
}

function ordered(of: TourOf, order: TourOrder, seed: number): string[] {
  if (typeof of === 'object') {
    const chords = keyChords(of.key);
    if (order === 'shuffled') return shuffleChanges(chords, chords.length * 2, seed);
    // By fifths, the steps of a key go round as 1, 5, 2, 6, 3, 7, 4.
    return order === 'steps'
      ? chords
      : chords.map((_, step) => chords[(step * 4) % chords.length]!);
  }
  const quality = of === 'minors' ? 'm' : '';
  const all = Array.from({ length: 12 }, (_, step) => {
    const tone = (step * (order === 'fifths' ? FIFTH : 1)) % 12;
    return transposeChord(`C${quality}`, tone, usesFlats({ tonic: tone, minor: of === 'minors' }));
  });
  return order === 'shuffled' ? shuffled(all, seed) : all;
}

/** Each once, in an order that the seed gives. */
function shuffled<T>(items: T[], seed: number): T[] {
  const random = noise(seed);
  return items
    .map((item) => ({ item, at: random() }))
    .sort((a, b) => a.at - b.at)
    .map(({ item }) => item);
}
