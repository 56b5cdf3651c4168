import type { Seconds } from '../plain';
import type { Family } from '../schema';
import { noise } from '../random';
import { addBand, type Band } from './band';

/** How the strings of an instrument sound. */
export interface StringVoice {
  /** Seconds until a string at 220 Hz has fallen by 60 dB; lower strings ring longer. */
  ring: number;
  /** Seconds until what sounds at 2 kHz has fallen by 60 dB: highs go before the tone does. */
  highRing: number;
  /** Up to which harmonic a medium stroke is full; above it falls by 6 dB an octave. */
  harmonics: number;
  /** Where the pick strikes, as a share of the string's length from the bridge. */
  pickPosition: number;
  /** Resonances of the body, which colour every string a little. */
  body: Resonance[];
}

/** One resonance of a body: a band that it adds to what the string gives. */
interface Resonance extends Band {
  level: number;
}

/** What strikes the string, and how hard. */
export interface PluckTouch {
  /** Harder is brighter; loudness is for the mix. */
  force: 'soft' | 'medium' | 'hard';
  /** A pick, or the flesh of a thumb or finger, which is rounder. */
  by: 'pick' | 'flesh';
}

const MEDIUM_PICK: PluckTouch = { force: 'medium', by: 'pick' };
/** How far up the harmonics of a stroke reach, against a medium one by a pick. */
const FORCE_LIGHT: Record<PluckTouch['force'], number> = { soft: 0.5, medium: 1, hard: 2.2 };
const FLESH_LIGHT = 0.4;
/** A pulse reaches no farther up than this share of the sample rate, however high the string: 4.4 kHz. */
const MAX_PULSE = 0.1;
/** Noise of the pick on the string, against the stroke itself. */
const PICK_NOISE = 0.05;
const FLESH_NOISE = 0.02;
/** Flesh plays this much farther from the bridge, as a share of the string. */
const FLESH_FARTHER = 0.12;

export const STRING_VOICES: Record<Family, StringVoice> = {
  guitar: {
    ring: 4,
    highRing: 1.3,
    harmonics: 4.5,
    pickPosition: 0.17,
    body: [
      { hertz: 104, q: 7, level: 0.35 },
      { hertz: 205, q: 8, level: 0.3 },
      { hertz: 390, q: 6, level: 0.15 },
    ],
  },
  nylon: {
    ring: 2.8,
    highRing: 0.55,
    harmonics: 2.6,
    pickPosition: 0.22,
    body: [
      { hertz: 98, q: 6, level: 0.45 },
      { hertz: 190, q: 7, level: 0.4 },
      { hertz: 330, q: 5, level: 0.2 },
    ],
  },
  ukulele: {
    ring: 2.8,
    highRing: 0.65,
    harmonics: 2.4,
    pickPosition: 0.28,
    body: [
      { hertz: 215, q: 5, level: 0.45 },
      { hertz: 430, q: 6, level: 0.35 },
    ],
  },
  baritone: {
    ring: 2.9,
    highRing: 0.7,
    harmonics: 2.6,
    pickPosition: 0.26,
    body: [
      { hertz: 150, q: 5, level: 0.45 },
      { hertz: 310, q: 6, level: 0.35 },
    ],
  },
  mandolin: {
    ring: 1.9,
    highRing: 0.8,
    harmonics: 4,
    pickPosition: 0.15,
    body: [
      { hertz: 240, q: 6, level: 0.3 },
      { hertz: 620, q: 6, level: 0.25 },
    ],
  },
  banjo: {
    ring: 1.1,
    highRing: 0.6,
    harmonics: 5,
    pickPosition: 0.12,
    body: [
      { hertz: 290, q: 4, level: 0.5 },
      { hertz: 700, q: 4, level: 0.35 },
    ],
  },
};

/**
 * The same string under the heel of the hand: short and dark, still at its pitch.
 * @example palmed(STRING_VOICES.guitar).ring // 0.24
 */
export function palmed(voice: StringVoice): StringVoice {
  return { ...voice, ring: voice.ring * 0.06, highRing: voice.highRing * 0.08 };
}

/**
 * Decibels by which a string is louder than another that is struck alike, from the thumb side: wound and thick strings
 * move the top more, plain trebles less. Estimates by ear.
 */
const STRING_LEVELS: Record<Family, number[]> = {
  guitar: [0.5, 0.8, 0.3, -0.8, -0.6, 0],
  nylon: [0.6, 0.8, 0.4, -1, -0.4, 0],
  ukulele: [-0.8, 0.9, 0, -0.3],
  baritone: [0.6, 0.2, -0.6, 0],
  mandolin: [0.6, 0.2, -0.4, 0],
  banjo: [-0.6, 0.5, 0, -0.3, 0.2],
};

/**
 * What the loudness of a stroke is multiplied by on a string of an instrument.
 * @param string from the thumb side, 0 first; one beyond those that are known is as the mean of them
 * @example stringGain('ukulele', 1) > stringGain('ukulele', 0) // true: the C string, beside the re-entrant g
 */
export function stringGain(family: Family, string: number): number {
  return 10 ** ((STRING_LEVELS[family][string] ?? 0) / 20);
}

/** Loudness of a rendered pluck: root mean square over its first tenth of a second. */
const LEVEL = 0.1;

/** Frequency of a MIDI pitch in hertz, with A4 = 440. */
export function hertz(midi: number): number {
  return 440 * 2 ** ((midi - 69) / 12);
}

/**
 * The second-order allpass of Thiran that delays by so many samples, 1.5 to 2.5, exactly at a frequency
 * and most nearly alike at all others (Laakso and others, IEEE Signal Processing Magazine 13:1, 1996).
 * @returns its coefficients a1 and a2
 */
function fractionalDelay(samples: number, w: number): [number, number] {
  const of = (delay: number): [number, number] => [
    (-2 * (delay - 2)) / (delay + 1),
    ((delay - 1) * (delay - 2)) / ((delay + 1) * (delay + 2)),
  ];
  const [b1, b2] = of(samples);
  const real = 1 + b1 * Math.cos(w) + b2 * Math.cos(2 * w);
  const imaginary = -b1 * Math.sin(w) - b2 * Math.sin(2 * w);
  const delay = 2 + (2 * Math.atan2(imaginary, real)) / w;
  return of(samples + (samples - delay));
}

/** Where the loss of the highs is given, in hertz. */
const HIGH = 2000;

/** Phase delay in samples, at angular frequency `w`, of the filter y = (1 - a) x + a y z^-1. */
function lossDelay(a: number, w: number): number {
  return Math.atan2(a * Math.sin(w), 1 - a * Math.cos(w)) / w;
}

/** Gain of the same filter. */
function lossGain(a: number, w: number): number {
  return (1 - a) / Math.sqrt(1 - 2 * a * Math.cos(w) + a * a);
}

/** The coefficient at which that filter has a gain (below 1) at a frequency. */
function lossFor(gain: number, w: number): number {
  const square = gain * gain;
  const half = 1 - square * Math.cos(w);
  const rest = 1 - square;
  return rest < 1e-9 ? 0 : (half - Math.sqrt(Math.max(0, half * half - rest * rest))) / rest;
}

/**
 * One plucked string: a delay line that feeds back through a filter that loses the highs first, the model of
 * Karplus and Strong with the tuning of Jaffe and Smith (Computer Music Journal 7:2, 1983): an
 * allpass makes up the fraction of a sample, so that every fret is in tune.
 *
 * @param midi pitch
 * @param seconds length of the result
 * @param sampleRate samples a second
 * @param voice how the string sounds
 * @param touch what strikes it, and how hard
 * @returns mono samples, faded to silence at the end
 * @example pluck(45, 2.5, 48000, STRING_VOICES.guitar).length // 120000
 */
export function pluck(
  midi: number,
  seconds: Seconds,
  sampleRate: number,
  voice: StringVoice,
  touch: PluckTouch = MEDIUM_PICK,
): Float32Array<ArrayBuffer> {
  const frequency = hertz(midi);
  const w = (2 * Math.PI * frequency) / sampleRate;
  const ring = voice.ring * Math.sqrt(220 / frequency);
  const turn = (seconds: Seconds) => 10 ** (-3 / (frequency * seconds));
  const high = (2 * Math.PI * Math.max(HIGH, 2.5 * frequency)) / sampleRate;
  const damping = lossFor(Math.min(1, turn(Math.min(voice.highRing, ring)) / turn(ring)), high);
  const period = sampleRate / frequency;
  const rest = period - lossDelay(damping, w);
  const whole = Math.floor(rest - 1.5);
  const [a1, a2] = fractionalDelay(rest - whole, w);
  const loss = Math.min(0.99999, turn(ring) / lossGain(damping, w));

  const length = Math.round(seconds * sampleRate);
  const out = new Float32Array(length);
  const line = excitation(whole, Math.round(midi * 7919), voice, touch);
  let read = 0;
  let damped = 0;
  let [in1, in2, out1, out2] = [0, 0, 0, 0];
  for (let index = 0; index < length; index += 1) {
    const sample = line[read]!;
    out[index] = sample;
    damped = (1 - damping) * sample + damping * damped;
    const delayed = a2 * damped + a1 * in1 + in2 - a1 * out1 - a2 * out2;
    in2 = in1;
    in1 = damped;
    out2 = out1;
    out1 = delayed;
    line[read] = loss * delayed;
    read = read + 1 === whole ? 0 : read + 1;
  }
  return level(inBody(out, sampleRate, voice.body), sampleRate);
}

/** The string with what the body adds: resonators beside it. */
function inBody(
  dry: Float32Array<ArrayBuffer>,
  sampleRate: number,
  body: Resonance[],
): Float32Array<ArrayBuffer> {
  const out = dry.slice();
  for (const { level: amount, ...band } of body) {
    // As loud as the string at its centre, times its level.
    addBand(out, dry, band, sampleRate, (radius) => ((1 - radius * radius) / 2) * amount);
  }
  return out;
}

/**
 * One period of what the pick puts on the string: a pulse whose harmonics fall off, a little noise, and
 * the notch of the place where it strikes.
 */
function excitation(
  length: number,
  seed: number,
  voice: StringVoice,
  { force, by }: PluckTouch,
): Float32Array {
  const random = noise(seed);
  const flesh = by === 'flesh';
  const asked = voice.harmonics * FORCE_LIGHT[force] * (flesh ? FLESH_LIGHT : 1);
  const reach = Math.min(asked, MAX_PULSE * length);
  // A one-pole filter whose corner lies at so many times the fundamental.
  const keeps = 1 - Math.exp((-2 * Math.PI * reach) / length);
  const amount = flesh ? FLESH_NOISE : PICK_NOISE;
  const source = new Float32Array(length).map((_, index) => (index === 0 ? 1 : amount * random()));
  const raw = new Float32Array(length);
  let soft = 0;
  // Twice round, so that the end of the period goes over into its beginning.
  for (let index = 0; index < 2 * length; index += 1) {
    soft += keeps * (source[index % length]! - soft);
    raw[index % length] = soft;
  }
  spread(raw);
  const mean = raw.reduce((sum, sample) => sum + sample, 0) / length;
  const place = voice.pickPosition + (flesh ? FLESH_FARTHER : 0);
  const notch = Math.max(1, Math.round(length * place));
  return raw.map(
    (sample, index) => sample - mean - 0.9 * (raw[(index + length - notch) % length]! - mean),
  );
}

/** Allpasses for each hundred samples of the period, and their coefficient. */
const SPREAD_STAGES = 2;
const SPREAD = -0.85;

/**
 * Spreads the pulse in time and leaves its spectrum as it is: allpasses, round and round the period. Highs
 * come first, as on a stiff string, and the lows within a fifth of the period after them: a bare pulse
 * would buzz.
 */
function spread(period: Float32Array): void {
  const stages = Math.max(1, Math.round((SPREAD_STAGES * period.length) / 100));
  for (let stage = 0; stage < stages; stage += 1) {
    let [before, after] = [0, 0];
    for (let index = 0; index < 2 * period.length; index += 1) {
      const at = index % period.length;
      const sample = period[at]!;
      after = SPREAD * (sample - after) + before;
      before = sample;
      if (index >= period.length) period[at] = after;
    }
  }
}

function level(samples: Float32Array<ArrayBuffer>, sampleRate: number): Float32Array<ArrayBuffer> {
  const head = Math.min(samples.length, Math.round(sampleRate / 10));
  let energy = 0;
  for (let index = 0; index < head; index += 1) energy += samples[index]! ** 2;
  const gain = energy === 0 ? 0 : LEVEL / Math.sqrt(energy / head);
  const fade = Math.min(samples.length, Math.round(sampleRate / 20));
  const attack = Math.round(sampleRate / 1000);
  for (let index = 0; index < samples.length; index += 1) samples[index] = samples[index]! * gain;
  for (let index = 0; index < Math.min(attack, samples.length); index += 1) {
    samples[index] = (samples[index]! * (index + 1)) / attack;
  }
  for (let left = 0; left < fade; left += 1) {
    const index = samples.length - 1 - left;
    samples[index] = (samples[index]! * left) / fade;
  }
  return samples;
}
