import type { Ticks } from '../plain';
import type { Landing } from '../song';
import type { BarLoop } from './steps';
import type { Rung } from './ladder';

/**
 * What to do now, in a sentence for a player with both hands full.
 * @param listen the change to listen for; null where none stands out
 * @example describeRung(rung, 62, null, { from: 'D7', to: 'G' })
 * // 'Landings only, at 62. Listen for D7 to G.'
 */
export function describeRung(
  { id, name }: Rung,
  tempo: number,
  loop: BarLoop | null,
  listen: { from: string; to: string } | null,
): string {
  const bars = loop
    ? loop.from === loop.to
      ? `, bar ${loop.from}`
      : `, bars ${loop.from} to ${loop.to}`
    : '';
  const still = ['arm', 'damped', 'one chord', 'thumb', 'fingers'].includes(id);
  const ear = listen && !still ? ` Listen for ${listen.from} to ${listen.to}.` : '';
  return `${name}${bars}, at ${tempo}.${ear}`;
}

/**
 * The next landing from a tick on, as it is called out ahead of time.
 * @param ahead ticks ahead that it is called at the earliest
 * @returns the chord and how many ticks off it is; null where none is near
 * @example nextCall(changes, 0, 3840) // { symbol: 'Bm', ticks: 1920 }
 */
export function nextCall(
  changes: Pick<Landing, 'tick' | 'symbol'>[],
  tick: Ticks,
  ahead: number,
): { symbol: string; ticks: Ticks } | null {
  const next = changes.find((change) => change.tick > tick);
  if (!next || next.tick - tick > ahead) return null;
  return { symbol: next.symbol, ticks: next.tick - tick };
}
