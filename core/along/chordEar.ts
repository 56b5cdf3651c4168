import { modulo, type Seconds } from '../plain';
import type { BeatMap } from '../schema';
import { type Key, noteName, scaleOf, usesFlats } from '../neck';
import { downsample, type Recording, spectrometer } from '../take';

/** What chord a stretch of sound may be: offered, never known. */

const RATE = 5_500;
const SIZE = 2048;
const HOP_SECONDS = 0.09;
const LOWEST = 75;
const HIGHEST = 1_600;
const LOW_BASS = 75;
const HIGH_BASS = 235;

/** How much of each pitch class is in a stretch, the whole and the low strings alone; each sums to 1. */
export interface Chroma {
  whole: Float32Array;
  bass: Float32Array;
}

/**
 * Pitch classes of a stretch of a recording.
 * @param from seconds, where the chord lands; its pluck is passed over
 */
export function chromaOf(recording: Recording, from: Seconds, to: Seconds): Chroma {
  const { samples, sampleRate } = downsample(
    {
      samples: recording.samples.subarray(
        Math.max(0, Math.floor(from * recording.sampleRate)),
        Math.max(0, Math.ceil(to * recording.sampleRate)),
      ),
      sampleRate: recording.sampleRate,
    },
    RATE,
  );
  const measure = spectrometer(SIZE);
  const energies = new Float32Array(SIZE / 2);
  const hop = Math.round(HOP_SECONDS * sampleRate);
  const whole = new Float32Array(12);
  const bass = new Float32Array(12);
  const frames = Math.max(1, Math.floor((samples.length - SIZE / 2) / hop) + 1);
  for (let frame = 0; frame < frames; frame += 1) {
    measure(samples, frame * hop - SIZE / 8, energies);
    for (let bin = 2; bin < SIZE / 2 - 1; bin += 1) {
      const [left, here, right] = [energies[bin - 1]!, energies[bin]!, energies[bin + 1]!];
      if (here < left || here < right) continue;
      // A peak between bins: by the parabola through the three.
      const [a, b, c] = [left, here, right].map((value) => Math.log(value + 1e-12));
      const shift = (0.5 * (a! - c!)) / (a! - 2 * b! + c! || -1);
      const hertz = ((bin + shift) * sampleRate) / SIZE;
      if (hertz < LOWEST || hertz > HIGHEST) continue;
      const pitch = 69 + 12 * Math.log2(hertz / 440);
      const off = Math.abs(pitch - Math.round(pitch));
      const weight = Math.sqrt(Math.sqrt(here)) * Math.max(0, 1 - 2.2 * off);
      const tone = modulo(Math.round(pitch), 12);
      whole[tone] = whole[tone]! + weight * Math.min(1, 500 / hertz);
      if (hertz >= LOW_BASS && hertz <= HIGH_BASS) bass[tone] = bass[tone]! + weight;
    }
  }
  return { whole: shares(whole), bass: shares(bass) };
}

/** Pitch classes of every pulse of a recording; the last is as long as the one before it. */
export function chromasOf(recording: Recording, { pulses }: BeatMap): Chroma[] {
  const gap = pulses.at(-1)! - pulses.at(-2)!;
  return pulses.map((from, at) => chromaOf(recording, from, pulses[at + 1] ?? from + gap));
}

function shares(row: Float32Array): Float32Array {
  const sum = row.reduce((all, value) => all + value, 0);
  return sum > 0 ? row.map((value) => value / sum) : row;
}

/** The kinds of chord that are looked for, with what is taken off for being rarer. */
const KINDS: { suffix: string; tones: number[]; rarer: number }[] = [
  { suffix: '', tones: [0, 4, 7], rarer: 0 },
  { suffix: 'm', tones: [0, 3, 7], rarer: 0 },
  { suffix: '7', tones: [0, 4, 7, 10], rarer: 0.02 },
  { suffix: 'm7', tones: [0, 3, 7, 10], rarer: 0.025 },
  { suffix: 'maj7', tones: [0, 4, 7, 11], rarer: 0.03 },
];
/** Overtones of a string, as semitones above it, with how loud they are. */
const OVERTONES = [
  [0, 1],
  [7, 0.18],
  [4, 0.07],
] as const;

const templates = KINDS.map(({ tones }) => {
  const row = new Float32Array(12);
  for (const tone of tones) {
    for (const [above, loud] of OVERTONES) {
      const at = (tone + above) % 12;
      row[at] = row[at]! + loud;
    }
  }
  const size = Math.hypot(...row);
  return row.map((value) => value / size);
});

/** A chord that a stretch may be. */
export interface ChordGuess {
  symbol: string;
  /** 0 to 1 over the guesses. */
  sure: number;
}

const IN_KEY = 0.025;
const ON_BASS = 0.16;
const SAME_AS_BEFORE = 0.03;
const SHARP = 28;
/** Among triads, for a single pulse: less, since a pulse is short. */
const SHARP_TRIADS = 14;

/**
 * Readings of a stretch, likeliest first: its pitch classes against those of chords, with the key, the lowest
 * strings and the chord before.
 * @param key that the song is in, where it is known
 * @param before the chord that sounded until then: another is looked for
 */
export function suggestChords(
  { whole, bass }: Chroma,
  { key, before, count = 3 }: { key?: Key; before?: string; count?: number } = {},
): ChordGuess[] {
  const size = Math.hypot(...whole) || 1;
  const scale = key && new Set(scaleOf(key));
  const flats = key ? usesFlats(key) : false;
  const all = Array.from({ length: 12 }, (_, root) =>
    KINDS.map(({ suffix, tones, rarer }, kind) => {
      const row = templates[kind]!;
      let match = 0;
      for (let tone = 0; tone < 12; tone += 1) {
        match += (whole[(tone + root) % 12]! / size) * row[tone]!;
      }
      const outside = scale ? tones.filter((tone) => !scale.has((tone + root) % 12)).length : 0;
      const symbol = noteName(root, flats) + suffix;
      return {
        symbol,
        score:
          match -
          rarer -
          outside * IN_KEY +
          ON_BASS * bass[root]! -
          (symbol === before ? SAME_AS_BEFORE : 0),
      };
    }),
  ).flat();
  const best = all.sort((a, b) => b.score - a.score).slice(0, count);
  const weights = best.map(({ score }) => Math.exp(SHARP * (score - best[0]!.score)));
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return best.map(({ symbol }, index) => ({ symbol, sure: weights[index]! / sum }));
}

/**
 * What a stretch may be among the twelve major and then the twelve minor triads, from C on.
 * @returns the logarithm of the odds of each; they sum to 1
 */
export function triadOdds({ whole, bass }: Chroma): Float32Array {
  const size = Math.hypot(...whole) || 1;
  const scores = new Float32Array(24);
  for (let root = 0; root < 12; root += 1) {
    for (const kind of [0, 1]) {
      const row = templates[kind]!;
      let match = ON_BASS * bass[root]!;
      for (let tone = 0; tone < 12; tone += 1) {
        match += (whole[(tone + root) % 12]! / size) * row[tone]!;
      }
      scores[root + 12 * kind] = match;
    }
  }
  const best = Math.max(...scores);
  const sum = scores.reduce((all, score) => all + Math.exp(SHARP_TRIADS * (score - best)), 0);
  return scores.map((score) => SHARP_TRIADS * (score - best) - Math.log(sum));
}
