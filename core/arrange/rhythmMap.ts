import type { Pattern } from '../schema';
import { strokeKey } from '../pattern';
import { sameMeter } from '../time';
import type { RhythmPart } from './rhythm';

/** A rhythm of a song, where it lies on its bars. */
export interface MappedRhythm {
  /** A letter that it is known by over the bars: A, B, and so on. */
  mark: string;
  pattern: Pattern;
  /** Bars that it carries, as they are played, from 1. */
  bars: number[];
}

/** More rhythms than letters are told apart by numbers. */
const LETTERS = 26;
const markOf = (index: number) =>
  index < LETTERS ? String.fromCharCode('A'.charCodeAt(0) + index) : String(index + 1);

/**
 * The rhythms of a song and the bars that each carries, the song's own first. What is halved or squeezed for chords
 * that share a bar, or fitted to a bar in another meter, is still the rhythm that it was made of.
 * @param own the song's
 * @param rhythms of every bar, as they are arranged
 * @returns the rhythms, and the mark of each bar
 * @example rhythmMap(song.pattern, arrangement(song).rhythms).marks // ['A', 'A', 'A', 'A']
 */
export function rhythmMap(
  own: Pattern,
  rhythms: RhythmPart[][],
): { rhythms: MappedRhythm[]; marks: string[] } {
  const found = new Map<string, MappedRhythm>();
  const keyOf = (pattern: Pattern) => `${pattern.name}/${strokeKey(pattern)}`;
  const named = new Map<string, MappedRhythm>();
  /** Bars mostly share a pattern, and then its strokes are told apart once. */
  const met = new Map<Pattern, MappedRhythm>();
  const enter = (pattern: Pattern) => {
    const same = met.get(pattern);
    if (same) return same;
    const key = keyOf(pattern);
    const rhythm = found.get(key) ?? { mark: markOf(found.size), pattern, bars: [] };
    found.set(key, rhythm);
    met.set(pattern, rhythm);
    if (!named.has(pattern.name)) named.set(pattern.name, rhythm);
    return rhythm;
  };
  enter(own);
  const marks = rhythms.map(([part], index) => {
    if (!part) return '';
    const cut = part.split === 'half' || part.split === 'squeeze';
    const fitted = !sameMeter(part.pattern.meter, own.meter);
    const rhythm = ((cut || fitted) && named.get(part.pattern.name)) || enter(part.pattern);
    rhythm.bars.push(index + 1);
    return rhythm.mark;
  });
  return { rhythms: [...found.values()], marks };
}
