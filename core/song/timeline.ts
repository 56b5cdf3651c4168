import type { Bar, Song } from '../schema';
import { barTicks } from '../time';

/** A bar where it is played; a repeated line gives each of its bars more than once. */
export interface PlayedBar {
  /** Position in the order of playing, from 0. */
  index: number;
  section: number;
  line: number;
  /** Position in the line as it is written. */
  bar: number;
  /** First tick, from the start of the song. */
  tick: number;
  ticks: number;
  content: Bar;
}

/**
 * The bars of a song in the order in which they are played, repeats written out.
 * @example playedBars(song).length // 16
 */
export function playedBars(song: Pick<Song, 'sections' | 'meter'>): PlayedBar[] {
  const ticks = barTicks(song.meter);
  const bars: PlayedBar[] = [];
  song.sections.forEach((section, sectionIndex) =>
    section.lines.forEach((line, lineIndex) => {
      for (let time = 0; time < line.times; time += 1) {
        line.bars.forEach((content, bar) =>
          bars.push({
            index: bars.length,
            section: sectionIndex,
            line: lineIndex,
            bar,
            tick: bars.length * ticks,
            ticks,
            content,
          }),
        );
      }
    }),
  );
  return bars;
}

/** Length of the song in ticks. */
export function songTicks(bars: PlayedBar[]): number {
  const last = bars.at(-1);
  return last ? last.tick + last.ticks : 0;
}

/** A change of chord: from its tick on, `symbol` is under the hand. */
export interface Landing {
  /** Where the chord lands, a push already taken off. */
  tick: number;
  symbol: string;
  /** How much earlier than its written place, in ticks. */
  push: number;
}

/**
 * Every change of chord in the order of playing. A chord that is written again while it is already
 * held does not land anew.
 * @example landings(playedBars(song))[1] // { tick: 3360, symbol: 'E7', push: 480 }
 */
export function landings(bars: PlayedBar[]): Landing[] {
  const changes: Landing[] = [];
  for (const bar of bars) {
    for (const { at, push, symbol } of bar.content.chords) {
      const tick = Math.max(0, bar.tick + at - push);
      // A later chord that lands no later than the one before it takes its place.
      while (changes.length > 0 && changes.at(-1)!.tick >= tick) changes.pop();
      if (changes.at(-1)?.symbol !== symbol) changes.push({ tick, symbol, push });
    }
  }
  return changes;
}

/** The last item that begins at or before a tick, by bisection; undefined before the first. */
export function itemAt<T extends { tick: number }>(items: T[], tick: number): T | undefined {
  return items[firstFrom(items, tick + 1) - 1];
}

/** Index of the first item at or after a tick; the length where there is none. */
export function firstFrom(items: { tick: number }[], tick: number): number {
  let low = 0;
  let high = items.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (items[middle]!.tick < tick) low = middle + 1;
    else high = middle;
  }
  return low;
}
