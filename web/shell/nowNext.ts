import type { Ticks } from '#core/plain';
import type { Span } from '#core/time';
import { itemAt } from '#core/song';

interface Change {
  tick: Ticks;
  symbol: string;
}

/** The chord under the hand, the one that comes, and how long it takes to come, in ticks. */
export interface NowNext {
  now: string | null;
  next: string | null;
  wait: number;
}

/**
 * What is played at a tick and what comes next; the end of a loop leads back to its beginning.
 * @param changes in order, as they are heard
 * @example nowNext([{ tick: 0, symbol: 'A' }, { tick: 3840, symbol: 'D' }], 2880, null)
 * // { now: 'A', next: 'D', wait: 960 }
 */
export function nowNext(changes: Change[], tick: Ticks, loop: Span | null): NowNext {
  const now = itemAt(changes, tick)?.symbol ?? null;
  const inside = loop !== null && tick >= loop.from && tick < loop.to;
  const next = changes.find((change) => change.tick > tick);
  if (next && (!inside || next.tick < loop.to)) {
    return { now, next: next.symbol, wait: next.tick - tick };
  }
  if (!inside) return { now, next: null, wait: 0 };
  const back = itemAt(changes, loop.from) ?? changes[0];
  if (back && back.symbol !== now) return { now, next: back.symbol, wait: loop.to - tick };
  const after = changes.find((change) => change.tick > loop.from && change.tick < loop.to);
  if (!after || after.symbol === now) return { now, next: null, wait: 0 };
  return { now, next: after.symbol, wait: loop.to - tick + after.tick - loop.from };
}
