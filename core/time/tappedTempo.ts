/** Taps that count; the last of them. */
const MAX_TAPS = 9;
/** Milliseconds after which a tap begins anew: slower than 20 a minute no one taps. */
const PAUSE = 3000;
const [SLOWEST, FASTEST] = [20, 300];

/**
 * The tempo of a beat that is tapped: the middle of the gaps between the taps, so that one tap that went
 * astray does not count.
 * @param taps those before, in milliseconds
 * @param now the new one
 * @returns the taps that count from now on, and the tempo in beats a minute; null after a single tap
 * @example tappedTempo([0, 500], 1000).tempo // 120
 */
export function tappedTempo(
  taps: readonly number[],
  now: number,
): { taps: number[]; tempo: number | null } {
  const last = taps.at(-1);
  const kept = last === undefined || now - last > PAUSE ? [] : taps.slice(1 - MAX_TAPS);
  const all = [...kept, now];
  const gaps = all
    .slice(1)
    .map((time, index) => time - all[index]!)
    .sort((a, b) => a - b);
  if (gaps.length === 0) return { taps: all, tempo: null };
  const middle = (gaps[(gaps.length - 1) >> 1]! + gaps[gaps.length >> 1]!) / 2;
  return { taps: all, tempo: Math.min(FASTEST, Math.max(SLOWEST, Math.round(60_000 / middle))) };
}
