import type { Seconds } from '../plain';
import { BAND, bandEdges, PEAK } from './flux';
import { downsample, spectrometer } from './signal';
import type { Recording } from './wav';

/** One stroke, tap or click as it was heard. */
export interface Heard {
  /** Where it begins, in seconds of the recording. */
  seconds: Seconds;
  /** How much louder than the moment before, over all bands: what tells it from noise. */
  strength: number;
  /** Decibels below the loudest of the take. */
  loudness: number;
  /** How much of it is left after a tenth of a second, 0 to 1: damped strokes die at once. */
  rings: number;
}

/** Strokes are never nearer than this; what is, is one rake. */
const NEAREST = 0.058;
/** Of two that are nearer, the later one is the stroke where no rake takes so long and it is so many times as strong. */
const LONGEST_RAKE = 0.026;
const BY_FAR = 1.5;

/** Energies of the bands over time, in decibels above the noise of the recording. */
interface Bands {
  rows: Float32Array[];
  frames: number;
  /** Seconds of the middle of a frame. */
  at: (frame: number) => number;
}

function bandsOf({ samples, sampleRate }: Recording): Bands {
  const { size, hop, edges } = bandEdges(sampleRate);
  const measure = spectrometer(size);
  const frames = Math.max(0, Math.floor((samples.length + size) / hop));
  const rows = edges.slice(1).map(() => new Float32Array(frames));
  const energies = new Float32Array(size / 2);
  for (let frame = 0; frame < frames; frame += 1) {
    measure(samples, frame * hop - size / 2, energies);
    rows.forEach((row, band) => {
      let energy = 0;
      for (let bin = edges[band]!; bin < edges[band + 1]!; bin += 1) energy += energies[bin]!;
      row[frame] = energy;
    });
  }
  const loudest = Math.max(1e-12, ...rows.map(highest));
  for (const row of rows) {
    // What is always there is noise; a rise counts from a little above it, and from 60 dB below the top.
    const noise = Math.max(quantile(row, 0.15) * 2.5, loudest * 1e-6);
    for (let frame = 0; frame < frames; frame += 1) {
      row[frame] = 10 * Math.log10(Math.max(1, row[frame]! / noise));
    }
  }
  return { rows, frames, at: (frame) => (frame * hop) / sampleRate };
}

function highest(row: Float32Array): number {
  let most = 0;
  for (const value of row) if (value > most) most = value;
  return most;
}

function quantile(row: ArrayLike<number>, share: number): number {
  const sorted = Float32Array.from(row).sort();
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
}

/** How much the bands rise at each frame: all of them, or the upper half where that is more. */
function fluxOf({ rows, frames }: Bands): Float32Array {
  const whole = new Float32Array(frames);
  const high = new Float32Array(frames);
  const half = Math.floor(rows.length / 2);
  rows.forEach((row, band) => {
    for (let frame = BAND.riseFrames; frame < frames; frame += 1) {
      const before = Math.max(row[frame - BAND.riseFrames]!, row[frame - BAND.riseFrames + 1]!);
      const rise = Math.min(BAND.mostRise, row[frame]! - before);
      if (rise <= 0) continue;
      whole[frame] = whole[frame]! + rise;
      if (band >= half) high[frame] = high[frame]! + rise;
    }
  });
  for (let frame = 0; frame < frames; frame += 1) {
    whole[frame] = Math.max(
      whole[frame]! / rows.length,
      (PEAK.highShare * high[frame]!) / (rows.length - half),
    );
  }
  return whole;
}

/** @param share of what a rise has to be for a stroke: below 1 for those that may be one */
function peaks(flux: Float32Array, share = 1): number[] {
  const reach = Math.round(PEAK.around / BAND.hopSeconds);
  const near = Math.round(PEAK.near / BAND.hopSeconds);
  const loud = quantile(flux, 0.985);
  const found: number[] = [];
  const medians = new Float32Array(Math.ceil(flux.length / near) + 1);
  for (let block = 0; block < medians.length; block += 1) {
    const middle = block * near;
    medians[block] = quantile(flux.subarray(Math.max(0, middle - reach), middle + reach), 0.5);
  }
  for (let frame = 1; frame < flux.length - 1; frame += 1) {
    const value = flux[frame]!;
    const median = medians[Math.round(frame / near)]!;
    if (value < share * (PEAK.standsOut + PEAK.overMedian * median)) continue;
    if (value < share * PEAK.shareOfLoud * loud) continue;
    let most = true;
    for (let other = Math.max(0, frame - near); most && other <= frame + near; other += 1) {
      if (other !== frame && (flux[other] ?? 0) > value) most = false;
    }
    if (most && flux[frame - 1] !== value) found.push(frame);
  }
  return found;
}

/** Below this the lows are taken off where the start of a stroke is looked for: they beat and swell by themselves. */
const FROM_HERTZ = 500;
/** In a quiet room more of them is, which is surer; in noise that would leave nothing but the noise. */
const SHARPER = 0.7;

/** The envelopes of a recording in steps of a millisecond, the highs brought out: where the pick is heard. */
interface Envelopes {
  plain: Float32Array;
  sharp: Float32Array;
}

function envelopesOf({ samples, sampleRate }: Recording): Envelopes {
  const step = sampleRate / 1000;
  const keeps = Math.exp((-2 * Math.PI * FROM_HERTZ) / sampleRate);
  const length = Math.floor(samples.length / step);
  const plain = new Float32Array(length);
  const sharp = new Float32Array(length);
  for (let index = 0; index < length; index += 1) {
    const first = Math.max(2, Math.floor((index - 0.5) * step));
    const last = Math.min(samples.length, Math.ceil((index + 1) * step));
    let [energy, sharper] = [0, 0];
    for (let at = first; at < last; at += 1) {
      const [now, before, earlier] = [samples[at]!, samples[at - 1]!, samples[at - 2]!];
      energy += (now - keeps * before) ** 2;
      sharper += (now - before - SHARPER * (before - earlier)) ** 2;
    }
    const count = Math.max(1, last - first);
    plain[index] = energy / count;
    sharp[index] = sharper / count;
  }
  return { plain, sharp };
}

const BEFORE_PEAK = 62;
const AFTER_PEAK = 14;
/**
 * Milliseconds before and after a moment that are compared: about a period of the lowest string, so that its
 * pulses are no rises.
 */
const [PAST, COMING] = [14, 9];
/** Decibels by which a stroke is above the moment before it, at least. */
const STRUCK = 2.5;
/** From here on the sharper envelope is trusted. */
const CLEAR_RISE = 3;
/** What rises by less is no stroke, whatever the bands say. */
const LEAST_RISE = 0.8;
/** The first string of a rake rises by at least this share of the greatest rise. */
const SHARE_OF_RISE = 0.45;

/** The millisecond at which a stroke begins: the first of the sharp rises that lead to its top. */
function startOf(
  envelope: Float32Array,
  peak: number,
): { start: number; top: number; before: number } {
  const from = Math.max(PAST, peak - BEFORE_PEAK);
  const to = Math.min(envelope.length - 1 - COMING, peak + AFTER_PEAK);
  const rises: number[] = [];
  let [top, greatest] = [-Infinity, 0];
  for (let at = from; at <= to; at += 1) {
    const before = meanOf(envelope, at - PAST, at);
    const after = meanOf(envelope, at, at + COMING);
    rises.push(10 * Math.log10((after + 1e-12) / (before + 1e-12)));
    top = Math.max(top, 10 * Math.log10(after + 1e-12));
    if (at > peak - 45) greatest = Math.max(greatest, rises.at(-1)!);
  }
  const needed = Math.max(STRUCK, SHARE_OF_RISE * greatest);
  let start = rises.findIndex(
    (rise, index) =>
      rise >= needed && rise >= (rises[index - 1] ?? 0) && rise >= (rises[index + 1] ?? -1),
  );
  if (start < 0) start = rises.indexOf(Math.max(...rises));
  const at = from + Math.max(0, start);
  const before = 10 * Math.log10(meanOf(envelope, at - PAST, at) + 1e-12);
  return { start: at, top, before };
}

function meanOf(envelope: Float32Array, from: number, to: number): number {
  let sum = 0;
  for (let at = from; at < to; at += 1) sum += envelope[at]!;
  return sum / (to - from);
}

/** What stands out by less of what is usual is a string let go, or a knock. */
const LEAST_SHARE = 0.37;
/** Decibels by which a stroke may have died away in a tenth of a second. */
const DIES = 30;

/** What a rise has to be for what may be a stroke, where one was meant: a share of what it has to be for one. */
const MAY_BE = 0.4;
const MAY_RISE = 0.35;

/**
 * The strokes of a recording, in order: spectral flux over logarithmic bands with a threshold that follows
 * the recording, each brought back to the start of its rake. A rake is one stroke.
 * @example onsets(readWav(bytes))[0].seconds // 0.512
 */
export function onsets(recording: Recording): Heard[] {
  return soundsOf(recording).strokes;
}

/**
 * The strokes of a recording, and what may be one: a rise that is too little to be told by itself, and tells where a
 * stroke was meant.
 */
export function soundsOf(recording: Recording): { strokes: Heard[]; maybe: Heard[] } {
  const low = downsample(recording);
  const bands = bandsOf(low);
  if (bands.frames < 2 * BAND.riseFrames) return { strokes: [], maybe: [] };
  const flux = fluxOf(bands);
  const envelopes = envelopesOf(low);
  const envelope = envelopes.plain;
  const always = ALWAYS.times * quantile(envelope, ALWAYS.share);
  const ringsAt = (start: number, top: number) => {
    const after = levelAfter(envelope, start, always);
    return Math.max(0, Math.min(1, 1 - (top - after) / DIES));
  };
  const momentsAt = (frames: number[], least: number) => {
    const found: (Heard & { top: number })[] = [];
    for (const frame of frames) {
      const peak = Math.round(bands.at(frame) * 1000);
      const near = Math.min(envelope.length - 2, peak);
      const { top, before, ...plain } = startOf(envelope, near);
      const sharp = startOf(envelopes.sharp, near);
      const { start } = sharp.top - sharp.before > CLEAR_RISE ? sharp : plain;
      if (top - before < least) continue;
      const seconds = start / 1000;
      const last = found.at(-1);
      const strength = flux[frame]!;
      if (last && seconds - last.seconds < NEAREST) {
        // A string that beats just before a stroke is not its start.
        if (seconds - last.seconds > LONGEST_RAKE && strength > BY_FAR * last.strength) {
          last.seconds = seconds;
          last.rings = ringsAt(start, top);
        }
        last.strength = Math.max(last.strength, strength);
        last.top = Math.max(last.top, top);
        continue;
      }
      found.push({ seconds, strength, loudness: 0, rings: ringsAt(start, top), top });
    }
    return found;
  };
  const found = momentsAt(peaks(flux), LEAST_RISE);
  const loudest = Math.max(-120, ...found.map(({ top }) => top));
  const usual = quantile(
    found.map(({ strength }) => strength),
    0.5,
  );
  const plain = (some: typeof found): Heard[] =>
    some.map(({ top, ...heard }) => ({ ...heard, loudness: top - loudest }));
  const strokes = plain(found.filter(({ strength }) => strength >= LEAST_SHARE * usual));
  const apart = (one: Heard) =>
    strokes.every(({ seconds }) => Math.abs(seconds - one.seconds) >= NEAREST);
  return { strokes, maybe: plain(momentsAt(peaks(flux, MAY_BE), MAY_RISE)).filter(apart) };
}

/** Milliseconds after a stroke in which it is asked what is left of it: before the next one, however quick. */
const [LEFT_FROM, LEFT_TO] = [66, 90];
/** What is always there: the quiet share of the recording, and how much more its mean may be. */
const ALWAYS = { share: 0.08, times: 2.2 };

/** How much of a stroke is left, in decibels, with what is always there taken off. */
function levelAfter(envelope: Float32Array, start: number, always: number): number {
  const to = Math.min(envelope.length, start + LEFT_TO);
  const left = to > start + LEFT_FROM ? meanOf(envelope, start + LEFT_FROM, to) - always : 0;
  return 10 * Math.log10(Math.max(0, left) + 1e-12);
}
