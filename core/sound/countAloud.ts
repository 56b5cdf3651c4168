import type { PlayedBar } from '../song';
import { beatTicks, countNumber } from '../time';
import type { SaidWord } from './cues';

/** Numbers of two syllables. */
const LONG = new Set(['7', '11', '12', '13', '14', '15', '16']);

/**
 * The beats of a song as they are counted aloud: a number on each, the bars of a held chord in place of the "one".
 * @param numbers which bar of its chord each bar is, from `barNumbers`
 * @example countAloud(playedBars(song), [1, 2]).map(({ word }) => word) // ['1', '2', '3', '4', '2', '2', '3', '4']
 */
export function countAloud(bars: PlayedBar[], numbers: number[] = []): SaidWord[] {
  return bars.flatMap(({ index, tick, ticks, lead, meter }) => {
    const beat = beatTicks(meter);
    return Array.from({ length: Math.round(ticks / beat) }, (_, at): SaidWord => {
      const place = at + lead / beat;
      const number = numbers[index] ?? 1;
      const word = String(place === 0 && number > 1 ? number : countNumber(meter, place));
      return { tick: tick + at * beat, late: 0, word, syllables: LONG.has(word) ? 2 : 1 };
    });
  });
}
