import type { BeatWeight } from '../time';
import { noise } from '../random';

/**
 * The sound of damped strings under the pick: a short burst of noise without pitch.
 * @param sampleRate samples a second
 * @returns mono samples, about a tenth of a second
 */
export function chuck(sampleRate: number): Float32Array<ArrayBuffer> {
  const random = noise(4711);
  const out = new Float32Array(Math.round(sampleRate * 0.11));
  let low = 0;
  let lower = 0;
  for (let index = 0; index < out.length; index += 1) {
    const time = index / sampleRate;
    // Two smoothings, one taken from the other, leave a band around 1 kHz.
    const hiss = random();
    low += 0.3 * (hiss - low);
    lower += 0.06 * (hiss - lower);
    const envelope = Math.min(1, time / 0.001) * Math.exp(-time / 0.022);
    out[index] = (low - lower) * envelope * 0.9;
  }
  return out;
}

const CLICK_HERTZ: Record<BeatWeight, number> = { bar: 1760, group: 1320, beat: 990 };

/**
 * A click of the metronome; the bar's first beat is the highest.
 * @param sampleRate samples a second
 */
export function click(weight: BeatWeight, sampleRate: number): Float32Array<ArrayBuffer> {
  const out = new Float32Array(Math.round(sampleRate * 0.05));
  const w = (2 * Math.PI * CLICK_HERTZ[weight]) / sampleRate;
  return out.map((_, index) => {
    const time = index / sampleRate;
    return 0.5 * Math.sin(w * index) * Math.min(1, time / 0.0008) * Math.exp(-time / 0.009);
  });
}
