/** Each on its smallest case and once, to see that all of them still run: `BENCH_ONCE=1`. */
export const ONCE = process.env.BENCH_ONCE === '1';

/** What is measured, or the first of it where it only has to run. @example few([64, 128]) // [64] with BENCH_ONCE */
export const few = <T>(cases: readonly T[]): readonly T[] => (ONCE ? cases.slice(0, 1) : cases);

/** The middle of some times. */
export function median(times: number[]): number {
  return times.sort((a, b) => a - b)[times.length >> 1]!;
}

/** Milliseconds that some work takes: the median of so many runs, after it has warmed up. */
export function time(runs: number, work: () => unknown): number {
  for (let warm = 0; warm < (ONCE ? 0 : 3); warm += 1) work();
  return median(
    Array.from({ length: ONCE ? 1 : runs }, () => {
      const began = performance.now();
      work();
      return performance.now() - began;
    }),
  );
}
