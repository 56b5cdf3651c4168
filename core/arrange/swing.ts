import type { Ticks } from '../plain';
import type { Feel } from '../schema';
import { straightTick, swungTick } from '../time';
import type { CountedBar, Performance } from './performance';
import type { RhythmPart } from './rhythm';
import { itemAt } from '../song';

/**
 * When a place in the song is heard. Swing is counted from the bar line, by the feel of the pattern that
 * carries the bar there, so that strikes, landings, runs, drums and the riding hand agree.
 */

/**
 * Where the feel changes, in the order of playing: straight before the first, and where it is null.
 * @example feelsOf(rhythms(song, playedBars(song))) // [{ tick: 0, feel: { on: 'eighths', percent: 67 } }]
 */
export function feelsOf(parts: RhythmPart[][]): Performance['feels'] {
  const feels: Performance['feels'] = [];
  for (const { tick, pattern } of parts.flat()) {
    const feel = pattern.feel ?? null;
    const last = feels.at(-1);
    if (!sameFeel(last?.feel ?? null, feel)) feels.push({ tick, feel });
  }
  return feels;
}

function sameFeel(one: Feel | null, other: Feel | null): boolean {
  return one?.on === other?.on && one?.percent === other?.percent;
}

/**
 * Ticks by which a feel delays a place in a bar; a fraction where it falls so.
 * @param tick from the start of the song
 * @example lateIn(bar, bar.tick + 480, { on: 'eighths', percent: 75 }) // 240
 */
export function lateIn(
  { tick: line, lead, meter }: Omit<CountedBar, 'ticks'>,
  tick: Ticks,
  feel: Feel | null | undefined,
): Ticks {
  const inBar = tick - line + lead;
  return swungTick(inBar, feel ?? undefined, meter) - inBar;
}

/**
 * The feel at a place of a performance; null where it is straight.
 * @param tick from the start of the song
 */
export function feelAt({ feels }: Pick<Performance, 'feels'>, tick: Ticks): Feel | null {
  return itemAt(feels, tick)?.feel ?? null;
}

/**
 * The place that is heard at a tick of the clock: swing taken off.
 * @param heard from the start of the song
 * @example writtenTick(arrange(song), 720) // 480 where eighths are swung by 75 %
 */
export function writtenTick(performance: Pick<Performance, 'bars' | 'feels'>, heard: Ticks): Ticks {
  const bar = itemAt(performance.bars, heard);
  if (!bar) return heard;
  const inBar = heard - bar.tick + bar.lead;
  const feel = feelAt(performance, heard) ?? undefined;
  return bar.tick - bar.lead + straightTick(inBar, feel, bar.meter);
}
