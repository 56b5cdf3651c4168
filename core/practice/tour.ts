import { keyChords, type Key, shuffleChanges, transposeChord, usesFlats } from '../neck';
import { type Pattern, type Song, MAX_TITLE_LETTERS } from '../schema';
import { plural } from '../plain';
import { noise } from '../random';
import { newSong } from '../song';
import { patternTicks } from '../stroke';
import { barTicks } from '../time';

/** What a tour goes through: all chords of a key, or all majors or minors there are. */
export type TourOf = { key: Key } | 'majors' | 'minors';
/** In which order: up the scale, by fifths, or shuffled. */
export type TourOrder = 'steps' | 'fifths' | 'shuffled';

/** What something beside the ladder takes from the song that is open. */
export type Like = Pick<Song, 'instrument' | 'capo' | 'tempo' | 'bassSchool' | 'countIn'>;

/** Fifths up from a tone: twelve of them come back to it. */
const FIFTH = 7;

/**
 * A pattern through many chords: each for as many bars as the pattern is long. As a song of its own, so that it
 * is played, drawn and judged like any other.
 * @param like the song whose instrument, tempo and capo it takes
 * @param seed for a shuffled order
 * @example tour(song, song.pattern, 'majors', 'fifths').sections[0].lines[0].bars.length // 12
 */
export function tour(like: Like, pattern: Pattern, of: TourOf, order: TourOrder, seed = 1): Song {
  const symbols = ordered(of, order, seed);
  return through(like, pattern, symbols, `Tour of ${plural(symbols.length, 'chord')}`);
}

/** Rounds of a drill, so that a take has enough landings to judge by. */
const ROUNDS = 4;
/** Chords of a round in random order. */
const ROUND = 16;

/**
 * One change to and fro, or between several chords in turn: the pattern through each, four times round.
 * @param symbols at least two chords
 * @throws RangeError where there are fewer
 * @example changeDrill(song, song.pattern, ['C', 'F']).title // 'C to F and back'
 */
export function changeDrill(like: Like, pattern: Pattern, symbols: string[]): Song {
  if (symbols.length < 2) throw new RangeError('a change needs two chords');
  const title =
    symbols.length === 2
      ? `${symbols[0]} to ${symbols[1]} and back`
      : `${symbols.join(', ')}, round`;
  return through(like, pattern, Array.from({ length: ROUNDS }, () => symbols).flat(), title);
}

/**
 * Chords in random order, none after itself: the pattern through each.
 * @param seed the same one gives the same order
 * @throws RangeError where there are fewer than two
 * @example randomChanges(song, song.pattern, ['C', 'F', 'G'], 3).title // 'Changes in random order'
 */
export function randomChanges(like: Like, pattern: Pattern, symbols: string[], seed: number): Song {
  if (symbols.length < 2) throw new RangeError('a change needs two chords');
  return through(like, pattern, shuffleChanges(symbols, ROUND, seed), 'Changes in random order');
}

/**
 * A pattern by itself, without a song: round and round on one chord, or on two that take turns as a drone does.
 * @param chords one or two
 * @example patternAlone(song, pattern, ['G']).sections[0].lines.length // 8, one a pass of a pattern of one bar
 */
export function patternAlone(like: Like, pattern: Pattern, chords: string[]): Song {
  const passes = Array.from({ length: 8 }, (_, pass) => chords[pass % chords.length]!);
  return through(like, pattern, passes, pattern.name);
}

/** The pattern once through each of the chords, one a line; a chord that stays is not written again. */
function through(like: Like, pattern: Pattern, symbols: string[], title: string): Song {
  const bars = Math.max(1, Math.ceil(patternTicks(pattern) / barTicks(pattern.meter)));
  const line = (symbol: string, index: number) =>
    Array.from({ length: bars }, (_, bar) =>
      bar > 0 || symbols[index - 1] === symbol ? '%' : symbol,
    ).join(' | ');
  const song = newSong({
    title: title.slice(0, MAX_TITLE_LETTERS),
    instrument: like.instrument,
    meter: pattern.meter,
    tempo: like.tempo,
    progression: symbols.map(line).join('\n'),
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
