import { ordinal, ordinalEnding, type Ticks } from '../plain';
import {
  type Bar,
  isPlayed,
  type Meter,
  type Placement,
  type Song,
  type TimeRound,
} from '../schema';
import { barTicks, beatTicks } from '../time';
import { barMover, type PassageSong, passagesOf, type PlayedPassage } from './passages';

/** A bar where it is played; a repeated line gives each of its bars more than once. */
export interface PlayedBar {
  /** Position in the order of playing, from 0. */
  index: number;
  /** Which passage of the song it is in, from 0: a section may be played more than once. */
  passage: number;
  section: number;
  line: number;
  /** Position in the line as it is written. */
  bar: number;
  /**
   * Which time the bar comes in the song, from 1, and how often it does: repeats of its line are counted, the end of a
   * section that is played alone is not.
   */
  time: number;
  times: number;
  /** First tick, from the start of the song. */
  tick: Ticks;
  ticks: Ticks;
  /** The meter it is counted in, and how much of the bar a pick-up leaves out before its first tick. */
  meter: Meter;
  lead: Ticks;
  /** Semitones up from what is written, where it is in another key. */
  shift?: number;
  /** It is of the end of a section that is played alone, as an intro is: nobody sings there. */
  alone?: true;
  /** As it is played this time: with the chords that stand in for others, in its key, and the rhythm of this time. */
  content: Bar;
}

/**
 * How long a bar is, and in which meter.
 * @param meter the song's
 * @example barLength({ chords: [], pickup: 1 }, METERS['4/4']) // { meter, ticks: 960, lead: 2880 }
 */
export function barLength(
  { meter: own, pickup }: Pick<Bar, 'meter' | 'pickup'>,
  meter: Meter,
): Pick<PlayedBar, 'meter' | 'ticks' | 'lead'> {
  const counted = own ?? meter;
  const whole = barTicks(counted);
  const ticks = pickup === undefined ? whole : Math.min(whole, pickup * beatTicks(counted));
  return { meter: counted, ticks, lead: whole - ticks };
}

function isTime(asked: TimeRound, { time, last }: PlayedPassage): boolean {
  return asked === 'last' ? last : asked === time;
}

/** The bar with the chords that stand in for others this time; itself where none do. */
function substituted(bar: Bar, passage: PlayedPassage): Bar {
  if (!bar.chords.some(({ substitutes }) => substitutes)) return bar;
  const chords = bar.chords.map((placement) => {
    const other = placement.substitutes?.find(({ time }) => isTime(time, passage));
    return other ? { ...placement, symbol: other.symbol } : placement;
  });
  return { ...bar, chords };
}

/** The bar with the rhythm that it has this time; itself where it has none. */
function inItsTime(bar: Bar, time: number, times: number): Bar {
  const other = bar.rules?.timed?.find(({ time: asked }) =>
    asked === 'last' ? time === times : asked === time,
  );
  return other ? { ...bar, rules: { ...bar.rules, pattern: other.pattern } } : bar;
}

/**
 * The bars of a song in the order in which they are played, repeats written out.
 * @example playedBars(song).length // 16
 */
export function playedBars(song: PassageSong & Pick<Song, 'meter'>): PlayedBar[] {
  const bars: PlayedBar[] = [];
  const inKey = barMover(song);
  const came = new Map<string, number>();
  const placeOf = ({ section, line, bar }: Pick<PlayedBar, 'section' | 'line' | 'bar'>) =>
    `${section}/${line}/${bar}`;
  let tick = 0;
  passagesOf(song).forEach((passage, index) => {
    const { section, shift, lastLines } = passage;
    const { lines } = song.sections[section]!;
    const asked = [...lines.entries()].filter(([, line]) => isPlayed(line, passage));
    const alone = lastLines === null ? {} : { alone: true as const };
    const where = shift === 0 ? alone : { ...alone, shift };
    asked.slice(lastLines === null ? 0 : -lastLines).forEach(([lineIndex, line]) => {
      const played = line.bars.map((bar) => ({
        content: inKey(substituted(bar, passage), shift),
        ...barLength(bar, song.meter),
      }));
      for (let time = 0; time < line.times; time += 1) {
        played.forEach(({ content, meter, ticks, lead }, bar) => {
          const place = { section, line: lineIndex, bar };
          const round = (came.get(placeOf(place)) ?? 0) + 1;
          if (lastLines === null) came.set(placeOf(place), round);
          bars.push({
            index: bars.length,
            passage: index,
            ...place,
            ...where,
            time: round,
            times: round,
            tick,
            ticks,
            meter,
            lead,
            content,
          });
          tick += ticks;
        });
      }
    });
  });
  for (const bar of bars) {
    bar.times = came.get(placeOf(bar)) ?? 1;
    if (bar.alone) bar.time = Math.min(bar.time, bar.times);
    bar.content = inItsTime(bar.content, bar.time, bar.times);
  }
  return bars;
}

/**
 * How players number the bars: in place of the one they count which bar of the chord it is, so that a
 * chord over three bars goes "1 2 3 4, 2 2 3 4, 3 2 3 4".
 * @returns the number of each bar; 1 for one that a chord lands in or for
 * @example barNumbers(bars, landings(bars)) // [1, 2, 1, 1]
 */
export function barNumbers(bars: PlayedBar[], changes: Landing[]): number[] {
  let number = 0;
  let next = 0;
  return bars.map(({ tick, ticks }) => {
    const before = next;
    while (next < changes.length && changes[next]!.tick + changes[next]!.push < tick + ticks)
      next += 1;
    number = next > before ? 1 : number + 1;
    return number;
  });
}

/**
 * A time that something comes, in words.
 * @example timeWords(2) // 'the second time'
 */
export function timeWords(time: TimeRound): string {
  return `the ${time === 'last' ? time : ordinal(time)} time`;
}

/**
 * Times round as a chart has them over an ending.
 * @param only times from 1, or the last
 * @param isShort no word of time, where there is little room
 * @example roundWords([1, 3]) // '1st and 3rd time'
 */
export function roundWords(only: TimeRound | number[], isShort = false): string {
  const nth = (time: number) => `${time}${ordinalEnding(time)}`;
  const which =
    only === 'last'
      ? only
      : [only]
          .flat()
          .map(nth)
          .join(isShort ? ' ' : ' and ');
  return isShort ? which : `${which} time`;
}

/**
 * The rhythms that a bar has some of the times that it comes, in words.
 * @example timedWords(bar) // ['the second time “Em, picked”']
 */
export function timedWords({ rules }: Bar): string[] {
  return (rules?.timed ?? []).map(({ time, pattern }) => `${timeWords(time)} “${pattern.name}”`);
}

/** Length of the song in ticks. */
export function songTicks(bars: PlayedBar[]): Ticks {
  const last = bars.at(-1);
  return last ? last.tick + last.ticks : 0;
}

/** A change of chord: from its tick on, `symbol` is under the hand. */
export interface Landing {
  /** Where the chord lands, a push already taken off. */
  tick: Ticks;
  symbol: string;
  /** How much earlier than its written place, in ticks. */
  push: Ticks;
  /** As it is written, and the end of the bar that it is written in. */
  placement: Placement;
  barEnd: Ticks;
}

/**
 * Every change of chord in the order of playing. A chord that is written again while it is already
 * held does not land anew, but where a fermata asks for its one stroke.
 * @example landings(playedBars(song))[1] // { tick: 3360, symbol: 'E7', push: 480, ... }
 */
export function landings(bars: PlayedBar[]): Landing[] {
  const changes: Landing[] = [];
  for (const bar of bars) {
    for (const placement of bar.content.chords) {
      const { at, push, symbol } = placement;
      const tick = Math.max(0, bar.tick + at - push);
      // A later chord that lands no later than the one before it takes its place.
      while (changes.length > 0 && changes.at(-1)!.tick >= tick) changes.pop();
      const struckAnew = placement.fermata === true;
      if (struckAnew || changes.at(-1)?.symbol !== symbol)
        changes.push({ tick, symbol, push, placement, barEnd: bar.tick + bar.ticks });
    }
  }
  return changes;
}

/** The last item that begins at or before a tick, by bisection; undefined before the first. */
export function itemAt<T extends { tick: Ticks }>(items: T[], tick: Ticks): T | undefined {
  return items[firstFrom(items, Math.floor(tick) + 1) - 1];
}

/** Index of the first item at or after a tick; the length where there is none. */
export function firstFrom(items: { tick: Ticks }[], tick: Ticks): number {
  let low = 0;
  let high = items.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (items[middle]!.tick < tick) low = middle + 1;
    else high = middle;
  }
  return low;
}
