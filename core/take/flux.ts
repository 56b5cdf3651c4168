/** What spectral flux over logarithmic bands is measured with, of a whole recording or while it runs. */
export const BAND = {
  frameSeconds: 0.032,
  hopSeconds: 0.004,
  lowestHertz: 90,
  bandsAnOctave: 4,
  /** A band that rises by more decibels counts no more: one string must not outweigh the others. */
  mostRise: 14,
  /** Frames that a rise is looked for over. */
  riseFrames: 4,
} as const;

/** When a rise is a stroke, in mean decibels a band. */
export const PEAK = {
  /** It stands out by this much, and by this much over the median around it. */
  standsOut: 1.0,
  overMedian: 1.4,
  /** It is at least this share of the great ones. */
  shareOfLoud: 0.12,
  /** Seconds that the median is of, to either side, and that it is the greatest of. */
  around: 0.35,
  near: 0.024,
  /** The upper bands alone, where a pick is heard when the strings below ring on, count by this share. */
  highShare: 0.75,
} as const;

/**
 * How a recording is cut into frames and bands.
 * @param sampleRate samples a second
 * @param highest hertz above which nothing is asked
 * @returns samples of a frame and from one to the next, and the first bin of each band and of what is above the last
 */
export function bandEdges(
  sampleRate: number,
  highest = sampleRate / 2,
): { size: number; hop: number; edges: number[] } {
  const size = 2 ** Math.round(Math.log2(sampleRate * BAND.frameSeconds));
  const hop = Math.round(sampleRate * BAND.hopSeconds);
  const top = highest - sampleRate / size;
  const bins: number[] = [];
  for (let hertz: number = BAND.lowestHertz; hertz < top; hertz *= 2 ** (1 / BAND.bandsAnOctave)) {
    bins.push(Math.round((hertz * size) / sampleRate));
  }
  return { size, hop, edges: [...new Set(bins)] };
}
