import { isNoChord, parseChord, type PlayedBar } from '#core';
import type { Flag } from './PathFlags.vue';

/** The flag of a chord, planted on a tick of a drawing. */
export function flagAt(tick: number, symbol: string): Flag {
  return { tick, symbol, known: parseChord(symbol) !== null || isNoChord(symbol) };
}

/** The flags of the chords that land in a bar, in ticks from its bar line. */
export function flagsWithin(
  changes: { tick: number; symbol: string }[],
  { tick: from, ticks }: Pick<PlayedBar, 'tick' | 'ticks'>,
): Flag[] {
  return changes
    .filter(({ tick }) => tick >= from && tick < from + ticks)
    .map(({ tick, symbol }) => flagAt(tick - from, symbol));
}
