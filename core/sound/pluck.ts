import type { Family } from '../schema';
import { noise } from '../random';

/** How the strings of an instrument sound. */
export interface StringVoice {
  /** Seconds until a string at 220 Hz has fallen by 60 dB; lower strings ring longer. */
  ring: number;
  /** 0 dull to 1 bright: how much of the highs each turn of the loop keeps. */
  brightness: number;
  /** Where the pick strikes, as a share of the string's length from the bridge. */
  pickPosition: number;
}

export const STRING_VOICES: Record<Family, StringVoice> = {
  guitar: { ring: 4, brightness: 0.78, pickPosition: 0.17 },
  ukulele: { ring: 1.6, brightness: 0.55, pickPosition: 0.28 },
  baritone: { ring: 2.1, brightness: 0.5, pickPosition: 0.26 },
  mandolin: { ring: 1.9, brightness: 0.86, pickPosition: 0.15 },
  banjo: { ring: 1.1, brightness: 0.9, pickPosition: 0.12 },
};

/** Loudness of a rendered pluck: root mean square over its first tenth of a second. */
const LEVEL = 0.16;

/** Frequency of a MIDI pitch in hertz, with A4 = 440. */
export function hertz(midi: number): number {
  return 440 * 2 ** ((midi - 69) / 12);
}

/** Phase delay in samples, at angular frequency `w`, of the filter (1 - s) + s z^-1. */
function smoothingDelay(s: number, w: number): number {
  return Math.atan2(s * Math.sin(w), 1 - s + s * Math.cos(w)) / w;
}

/**
 * One plucked string: a delay line that feeds back through a smoothing filter, the model of
 * Karplus and Strong with the tuning of Jaffe and Smith (Computer Music Journal 7:2, 1983): a
 * first-order allpass makes up the fraction of a sample, so that every fret is in tune.
 *
 * @param midi pitch
 * @param seconds length of the result
 * @param sampleRate samples a second
 * @param voice how the string sounds
 * @returns mono samples, faded to silence at the end
 * @example pluck(45, 2.5, 48000, STRING_VOICES.guitar).length // 120000
 */
export function pluck(
  midi: number,
  seconds: number,
  sampleRate: number,
  voice: StringVoice,
): Float32Array<ArrayBuffer> {
  const frequency = hertz(midi);
  const w = (2 * Math.PI * frequency) / sampleRate;
  const smoothing = 0.5 * (1 - voice.brightness);
  const period = sampleRate / frequency;
  const rest = period - smoothingDelay(smoothing, w);
  const whole = Math.floor(rest - 0.2);
  const fraction = rest - whole;
  const allpass = Math.sin(((1 - fraction) * w) / 2) / Math.sin(((1 + fraction) * w) / 2);
  const ring = voice.ring * Math.sqrt(220 / frequency);
  const loss = 10 ** (-3 / (frequency * ring));

  const length = Math.round(seconds * sampleRate);
  const out = new Float32Array(length);
  const line = excitation(whole, Math.round(midi * 7919), voice);
  let read = 0;
  let smoothed = 0;
  let allpassIn = 0;
  let allpassOut = 0;
  for (let index = 0; index < length; index += 1) {
    const sample = line[read]!;
    out[index] = sample;
    const kept = (1 - smoothing) * sample + smoothing * smoothed;
    smoothed = sample;
    allpassOut = allpass * (kept - allpassOut) + allpassIn;
    allpassIn = kept;
    line[read] = loss * allpassOut;
    read = read + 1 === whole ? 0 : read + 1;
  }
  return level(out, sampleRate);
}

/** What the pick puts on the string: softened noise, with the notch of the place it strikes. */
function excitation(length: number, seed: number, voice: StringVoice): Float32Array {
  const random = noise(seed);
  const raw = new Float32Array(length);
  let soft = 0;
  for (let index = 0; index < length; index += 1) {
    soft += (0.25 + 0.5 * voice.brightness) * (random() - soft);
    raw[index] = soft;
  }
  const mean = raw.reduce((sum, sample) => sum + sample, 0) / length;
  const notch = Math.max(1, Math.round(length * voice.pickPosition));
  return raw.map(
    (sample, index) => sample - mean - 0.9 * (raw[(index + length - notch) % length]! - mean),
  );
}

function level(samples: Float32Array<ArrayBuffer>, sampleRate: number): Float32Array<ArrayBuffer> {
  const head = Math.min(samples.length, Math.round(sampleRate / 10));
  let energy = 0;
  for (let index = 0; index < head; index += 1) energy += samples[index]! ** 2;
  const gain = energy === 0 ? 0 : LEVEL / Math.sqrt(energy / head);
  const fade = Math.min(samples.length, Math.round(sampleRate / 20));
  const attack = Math.round(sampleRate / 1000);
  return samples.map((sample, index) => {
    const out = Math.min(1, (samples.length - 1 - index) / fade);
    return sample * gain * out * Math.min(1, (index + 1) / attack);
  });
}
