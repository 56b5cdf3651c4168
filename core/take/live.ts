import type { Seconds } from '../plain';
import { BAND, bandEdges, PEAK } from './flux';
import { spectrometer } from './signal';

/** A stroke that was heard while the recording still runs. */
export interface LiveStroke {
  /** Where it begins, in seconds of the recording. */
  seconds: Seconds;
  /** How much louder than the moment before, in mean decibels over all bands. */
  strength: number;
}

/** What is above this is not asked: the whole recording is brought down to about as much. */
const HIGHEST_HERTZ = 7000;
/** Of the frames so far, the share that is noise. */
const QUIET_SHARE = 0.15;
/** Decibels above what is quiet from which a rise counts. */
const ABOVE_QUIET = 2;
/** So much clearer than in a whole recording a rise has to be: there is no second look. */
const CLEARLY = 1.4;
/** Decibels by which what is taken for quiet follows in a frame at most, at first and later. */
const [FOLLOWS_FIRST, FOLLOWS] = [2, 0.25];
/** Frames after which it follows slowly: half a second. */
const SETTLED = 125;
/** Decibels below the loudest at which nothing is heard at all. */
const FLOOR = -60;
/** The great rises are forgotten by this share in a frame: half in three seconds. */
const FORGETS = 0.5 ** (BAND.hopSeconds / 3);
/** Seconds after a stroke in which there is no other: a rake is one stroke. */
const NEAREST = 0.07;
/** Seconds from the start of a stroke to where the rise that it makes is greatest. */
const LATER = 0.006;

/** The value below which a share of what came lies, followed as it comes. */
function quietOf(bands: number): (band: number, value: number, frame: number) => number {
  const quiet = new Float64Array(bands).fill(NaN);
  return (band, value, frame) => {
    const now = quiet[band]!;
    if (Number.isNaN(now)) return (quiet[band] = value);
    const by = frame < SETTLED ? FOLLOWS_FIRST : FOLLOWS;
    return (quiet[band] = now + (value < now ? -by * (1 - QUIET_SHARE) : by * QUIET_SHARE));
  };
}

/** The middle of some values. */
function middleOf(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1] ?? 0;
}

/**
 * Strokes as they come, each known some 50 ms after it begins: the rule of `onsets` with what is known so far. It is
 * quicker and less sure, for marks while the player plays; a take is judged from the whole of it.
 * @param sampleRate samples a second
 * @param found called with each stroke
 * @returns takes the next samples, as many as there are
 * @example liveOnsets(44_100, ({ seconds }) => console.log(seconds))(new Float32Array(1024)) // undefined
 */
export function liveOnsets(
  sampleRate: number,
  found: (stroke: LiveStroke) => void,
): (block: Float32Array) => void {
  const { size, hop, edges } = bandEdges(sampleRate, HIGHEST_HERTZ);
  const measure = spectrometer(size);
  const bands = edges.length - 1;
  const half = Math.floor(bands / 2);
  const energies = new Float32Array(size / 2);
  const follow = quietOf(bands);
  const waiting = new Float32Array(size);
  let filled = 0;
  let frame = 0;
  /** Levels of the bands in the last frames, and how much the last frames rose; the newest last. */
  const levels: Float32Array[] = [];
  const flux: number[] = [];
  const near = Math.round(PEAK.near / BAND.hopSeconds);
  const reach = 2 * Math.round(PEAK.around / BAND.hopSeconds);
  let [loudest, great, last] = [-120, 0, -Infinity];

  function riseOf(row: Float32Array): number {
    const [one, other] = [levels[0]!, levels[1]!];
    let [all, high] = [0, 0];
    for (let band = 0; band < bands; band += 1) {
      const before = Math.max(one[band]!, other[band]!);
      const rise = Math.min(BAND.mostRise, row[band]! - before);
      if (rise <= 0) continue;
      all += rise;
      if (band >= half) high += rise;
    }
    return Math.max(all / bands, (PEAK.highShare * high) / (bands - half));
  }

  /** The levels of a frame in decibels above what is quiet. */
  function levelsOf(): Float32Array {
    const row = new Float32Array(bands);
    for (let band = 0; band < bands; band += 1) {
      let energy = 0;
      for (let bin = edges[band]!; bin < edges[band + 1]!; bin += 1) energy += energies[bin]!;
      // What is no number is silence.
      const level = 10 * Math.log10((energy || 0) + 1e-12);
      loudest = Math.max(loudest, level);
      const quiet = follow(band, level, frame);
      row[band] = Math.max(0, level - Math.max(quiet + ABOVE_QUIET, loudest + FLOOR));
    }
    return row;
  }

  function look(): void {
    measure(waiting, 0, energies);
    const row = levelsOf();
    if (levels.length === BAND.riseFrames) flux.push(riseOf(row));
    levels.push(row);
    if (levels.length > BAND.riseFrames) levels.shift();
    if (flux.length > reach) flux.shift();
    great *= FORGETS;
    const at = flux.length - 1 - near;
    const value = flux[at];
    if (value === undefined) return;
    great = Math.max(great, value);
    if (value < CLEARLY * PEAK.standsOut + PEAK.overMedian * middleOf(flux)) return;
    if (value < CLEARLY * PEAK.shareOfLoud * great) return;
    for (let other = Math.max(0, at - near); other < flux.length; other += 1) {
      if (flux[other]! > value || (other < at && flux[other] === value)) return;
    }
    const seconds = ((frame - near) * hop + size / 2) / sampleRate - LATER;
    if (seconds - last < NEAREST) return;
    last = seconds;
    found({ seconds: Math.max(0, seconds), strength: value });
  }

  return (block) => {
    for (let from = 0; from < block.length;) {
      const some = Math.min(size - filled, block.length - from);
      waiting.set(block.subarray(from, from + some), filled);
      filled += some;
      from += some;
      if (filled < size) return;
      look();
      frame += 1;
      waiting.copyWithin(0, hop);
      filled = size - hop;
    }
  };
}
