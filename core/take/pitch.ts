import type { Recording } from './wav';

/** A pitch that was heard. */
export interface HeardPitch {
  hertz: number;
  /** As a MIDI number with its fraction: 57.1 is an A, ten cents sharp. */
  midi: number;
  /** How sure it is that there is a pitch at all, 0 to 1. */
  clear: number;
}

/** From the lowest string of any instrument to the highest fret. */
const LOWEST = 60;
const HIGHEST = 1400;
/** Below this the first dip counts, and not a deeper one an octave lower. */
const DEEP_ENOUGH = 0.16;

/**
 * The pitch of a stretch of sound, by the YIN method (de Cheveigné and Kawahara, 2002): the lag at which it is most
 * like itself, by differences that are set against their mean so far, and a parabola through the dip.
 * @param first the sample to begin with
 * @param length samples that are looked at; twice the longest period at least
 * @returns null where nothing is heard, or no lag is like any other
 * @example pitchAt({ samples: new Float32Array(4096), sampleRate: 22050 }, 0, 4096) // null
 */
export function pitchAt(
  { samples, sampleRate }: Recording,
  first: number,
  length: number,
): HeardPitch | null {
  const most = Math.min(Math.floor(sampleRate / LOWEST), Math.floor(length / 2));
  const least = Math.max(2, Math.floor(sampleRate / HIGHEST));
  if (first < 0 || first + length > samples.length || most <= least + 2) return null;
  const window = length - most;
  let energy = 0;
  for (let at = first; at < first + length; at += 1) energy += samples[at]! ** 2;
  if (energy / length < 1e-9) return null;
  const dips = new Float64Array(most + 1);
  let sum = 0;
  dips[0] = 1;
  for (let lag = 1; lag <= most; lag += 1) {
    let difference = 0;
    for (let at = first; at < first + window; at += 1) {
      difference += (samples[at]! - samples[at + lag]!) ** 2;
    }
    sum += difference;
    dips[lag] = sum === 0 ? 1 : (difference * lag) / sum;
  }
  let best = -1;
  for (let lag = least; lag < most; lag += 1) {
    const isDip = dips[lag]! < dips[lag - 1]! && dips[lag]! <= dips[lag + 1]!;
    if (!isDip) continue;
    if (best < 0 || dips[lag]! < dips[best]! - 1e-4) best = lag;
    if (dips[lag]! < DEEP_ENOUGH) {
      best = lag;
      break;
    }
  }
  if (best < 0) return null;
  const [a, b, c] = [dips[best - 1]!, dips[best]!, dips[best + 1]!];
  const bend = a - 2 * b + c;
  const lag = best + (bend > 0 ? (0.5 * (a - c)) / bend : 0);
  const hertz = sampleRate / lag;
  return { hertz, midi: 69 + 12 * Math.log2(hertz / 440), clear: Math.max(0, 1 - b) };
}
