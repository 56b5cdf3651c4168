/** The middle of some times. */
export function median(times: number[]): number {
  return times.sort((a, b) => a - b)[times.length >> 1]!;
}

/** Milliseconds that some work takes: the median of so many runs, after it has warmed up. */
export function time(runs: number, work: () => unknown): number {
  for (let warm = 0; warm < 3; warm += 1) work();
  return median(
    Array.from({ length: runs }, () => {
      const began = performance.now();
      work();
      return performance.now() - began;
    }),
  );
}
