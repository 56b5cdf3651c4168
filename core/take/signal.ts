import FFT from 'fft.js';
import type { Recording } from './wav';

/** Periods of the lower rate that the filter reaches to either side. */
const PERIODS = 6;

/** What recordings are brought to: high enough for the noise of a pick, low enough to be quick. */
const WANTED_RATE = 14_000;

/**
 * A recording at a lower rate, with what lies above half of it taken off first (a windowed sinc).
 * @param wanted samples a second that are still kept
 * @returns itself where it is low enough
 */
export function downsample({ samples, sampleRate }: Recording, wanted = WANTED_RATE): Recording {
  const by = Math.floor(sampleRate / wanted);
  if (by < 2) return { samples, sampleRate };
  const half = PERIODS * by;
  const taps = Float32Array.from({ length: 2 * half + 1 }, (_, index) => {
    const x = (index - half) / by;
    const sinc = x === 0 ? 1 : Math.sin(Math.PI * x * 0.92) / (Math.PI * x * 0.92);
    return sinc * (0.5 + 0.5 * Math.cos((Math.PI * (index - half)) / (half + 1)));
  });
  const sum = taps.reduce((all, tap) => all + tap, 0);
  const out = new Float32Array(Math.floor(samples.length / by));
  for (let index = 0; index < taps.length; index += 1) taps[index] = taps[index]! / sum;
  for (let index = 0; index < out.length; index += 1) {
    const start = index * by - half;
    const first = Math.max(0, -start);
    const last = Math.min(taps.length, samples.length - start);
    let value = 0;
    for (let tap = first; tap < last; tap += 1) value += taps[tap]! * samples[start + tap]!;
    out[index] = value;
  }
  return { samples: out, sampleRate: sampleRate / by };
}

/** A window that lets the ends fade, of a length. */
export function hann(length: number): Float32Array {
  return Float32Array.from(
    { length },
    (_, index) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (index + 0.5)) / length),
  );
}

/** Energies of a stretch of samples, bin by bin, through a Hann window. */
export function spectrometer(
  size: number,
): (samples: Float32Array, first: number, out: Float32Array) => void {
  const fft = new FFT(size);
  const window = hann(size);
  const input = new Float64Array(size);
  const found = new Float64Array(2 * size);
  return (samples, first, out) => {
    for (let index = 0; index < size; index += 1) {
      const at = first + index;
      input[index] = at >= 0 && at < samples.length ? samples[at]! * window[index]! : 0;
    }
    fft.realTransform(found, input);
    for (let bin = 0; bin < out.length; bin += 1) {
      out[bin] = found[2 * bin]! ** 2 + found[2 * bin + 1]! ** 2;
    }
  };
}

/** A tone in a stretch of samples, as the two parts of a phasor that stands still while the tone goes on. */
export interface Phasor {
  re: number;
  im: number;
}

/**
 * A frequency in a stretch of samples, through a Hann window (a single bin of a Fourier transform, by turning
 * the samples against it).
 */
export function phasorAt(
  samples: Float32Array,
  sampleRate: number,
  hertz: number,
  first: number,
  length: number,
): Phasor {
  const start = Math.max(0, first);
  const end = Math.min(samples.length, first + length);
  const step = (2 * Math.PI * hertz) / sampleRate;
  const [turnRe, turnIm] = [Math.cos(step), Math.sin(step)];
  const fade = (2 * Math.PI) / length;
  const [fadeRe, fadeIm] = [Math.cos(fade), Math.sin(fade)];
  let [atRe, atIm] = [Math.cos(step * start), Math.sin(step * start)];
  let [winRe, winIm] = [Math.cos(fade * (start - first)), Math.sin(fade * (start - first))];
  let re = 0;
  let im = 0;
  for (let at = start; at < end; at += 1) {
    const value = samples[at]! * (0.5 - 0.5 * winRe);
    re += value * atRe;
    im -= value * atIm;
    const nextRe = atRe * turnRe - atIm * turnIm;
    atIm = atRe * turnIm + atIm * turnRe;
    atRe = nextRe;
    const nextWin = winRe * fadeRe - winIm * fadeIm;
    winIm = winRe * fadeIm + winIm * fadeRe;
    winRe = nextWin;
  }
  const scale = 4 / length;
  return { re: re * scale, im: im * scale };
}

/** How strong a frequency is in a stretch of samples. */
export function toneAt(
  samples: Float32Array,
  sampleRate: number,
  hertz: number,
  first: number,
  length: number,
): number {
  const { re, im } = phasorAt(samples, sampleRate, hertz, first, length);
  return Math.hypot(re, im);
}
