import { downsample, type Recording, spectrometer } from '../take';

/** How much begins at each moment of a recording. */
export interface Strength {
  /** One value every `hop` seconds, 0 where nothing begins; its mean is 1. */
  rises: Float32Array;
  hop: number;
}

const RATE = 11_000;
const SIZE = 512;
const HOP_SECONDS = 0.01;
const LOWEST_BIN = 2;
const BANDS = 20;
/** Energy is compressed before its rises are taken, so that soft strokes count beside loud ones. */
const COMPRESSION = 1000;
/** Seconds over which what is usual is taken off. */
const USUAL = 0.5;

/**
 * Spectral flux over bands that widen upwards, in hundredths of a second.
 * @example onsetStrength({ samples: new Float32Array(44100), sampleRate: 44100 }).hop // 0.01
 */
export function onsetStrength(recording: Recording): Strength {
  const { samples, sampleRate } = downsample(recording, RATE);
  const hop = Math.round(sampleRate * HOP_SECONDS);
  const frames = Math.max(0, Math.floor(samples.length / hop));
  const measure = spectrometer(SIZE);
  const energies = new Float32Array(SIZE / 2);
  const edges = Array.from({ length: BANDS + 1 }, (_, band) =>
    Math.round(LOWEST_BIN * (SIZE / 2 / LOWEST_BIN) ** (band / BANDS)),
  );
  let loudest = 1e-9;
  for (const sample of samples) loudest = Math.max(loudest, Math.abs(sample));
  const scale = COMPRESSION / (loudest * loudest * SIZE);
  let before = new Float32Array(BANDS);
  const rises = new Float32Array(frames);
  for (let frame = 0; frame < frames; frame += 1) {
    measure(samples, frame * hop - SIZE / 2, energies);
    const now = new Float32Array(BANDS);
    let rise = 0;
    for (let band = 0; band < BANDS; band += 1) {
      let energy = 0;
      const last = Math.max(edges[band]! + 1, edges[band + 1]!);
      for (let bin = edges[band]!; bin < last; bin += 1) energy += energies[bin]!;
      now[band] = Math.log1p(energy * scale);
      rise += Math.max(0, now[band]! - before[band]!);
    }
    rises[frame] = rise;
    before = now;
  }
  return { rises: overUsual(rises, Math.round(USUAL / HOP_SECONDS)), hop: hop / sampleRate };
}

/** What stands out over the mean around it, with a mean of 1. */
function overUsual(rises: Float32Array, reach: number): Float32Array {
  const sums = new Float64Array(rises.length + 1);
  rises.forEach((value, index) => (sums[index + 1] = sums[index]! + value));
  const out = rises.map((value, index) => {
    const [from, to] = [Math.max(0, index - reach), Math.min(rises.length, index + reach)];
    return Math.max(0, value - (sums[to]! - sums[from]!) / Math.max(1, to - from));
  });
  const mean = out.reduce((sum, value) => sum + value, 0) / Math.max(1, out.length) || 1;
  return out.map((value) => value / mean);
}
