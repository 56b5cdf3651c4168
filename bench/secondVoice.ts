/**
 * A second way to make strings sound, for takes that the ear is tried on: delay lines that are plucked
 * (after Karplus and Strong), a wooden body, a room, noise, hum and a click that bleeds. It shares nothing with
 * the sound of the app.
 */

import type { Seconds } from '#core/plain';

/** A stroke as it is played: what a performance says, and nothing else. */
export interface PlayedStroke {
  seconds: Seconds;
  kind: string;
  dir: string;
  velocity: number;
  notes: { string: number; midi: number; delay: number; velocity: number }[];
  damps: number[];
}

export interface Surroundings {
  sampleRate: number;
  /** Seconds before the first stroke. */
  lead: number;
  /** Decibels of hiss below the strums, and of a hum of the mains. */
  noise?: number;
  hum?: number;
  /** Seconds of clicks from the headphones or a count-in, and how loud, 0 to 1. */
  clicks?: number[];
  clickLevel?: number;
  seed?: number;
}

function generator(seed: number): () => number {
  let state = (seed * 2_654_435_761 + 1) >>> 0;
  return () => {
    state ^= state << 13;
    state >>>= 0;
    state ^= state >>> 17;
    state ^= state << 5;
    state >>>= 0;
    return state / 2 ** 31 - 1;
  };
}

/** Adds a plucked delay line to the sound, from one moment to another. */
function pluckInto(
  out: Float32Array,
  rate: number,
  midi: number,
  from: number,
  until: number,
  velocity: number,
  random: () => number,
): void {
  const hertz = 440 * 2 ** ((midi - 69) / 12);
  const period = rate / hertz;
  const size = Math.floor(period);
  const line = new Float64Array(size + 1);
  // A pick displaces the string over a part of its length; a harder one is brighter.
  let smooth = 0;
  const bright = 0.35 + 0.5 * velocity;
  for (let at = 0; at < size; at += 1) {
    smooth += bright * (random() - smooth);
    line[at] = smooth;
  }
  const place = Math.max(1, Math.floor(size * 0.17));
  const comb = Float64Array.from(
    line,
    (value, at) => value - 0.8 * line[(at + size - place) % size]!,
  );
  const loss = 0.994 ** (220 / hertz) * 0.999;
  const share = period - size;
  const begin = Math.round(from * rate);
  const end = Math.min(out.length, Math.round((until + 0.02) * rate));
  const choke = Math.round(until * rate);
  let previous = 0;
  let gain = velocity * 0.55;
  for (let at = begin, index = 0; at < end; at += 1, index += 1) {
    const slot = index % size;
    const now = comb[slot]!;
    const next = loss * (0.5 * now + 0.5 * ((1 - share) * previous + share * now));
    comb[slot] = next;
    previous = now;
    if (at > choke) gain *= 0.985;
    out[at] = out[at]! + now * gain;
  }
}

/** A stroke of damped strings: noise with a bit of wood, gone in a few hundredths. */
function chuckInto(
  out: Float32Array,
  rate: number,
  from: number,
  velocity: number,
  random: () => number,
): void {
  const begin = Math.round(from * rate);
  const length = Math.min(out.length - begin, Math.round(0.09 * rate));
  let low = 0;
  for (let at = 0; at < length; at += 1) {
    const time = at / rate;
    low += 0.5 * (random() - low);
    const thump = Math.sin(2 * Math.PI * 190 * time) * Math.exp(-time / 0.02);
    out[begin + at] =
      out[begin + at]! + velocity * 0.5 * (low * Math.exp(-time / 0.013) + 0.5 * thump);
  }
}

/** A resonance of the body: two poles. */
function resonate(
  out: Float32Array,
  rate: number,
  hertz: number,
  width: number,
  gain: number,
): void {
  const radius = Math.exp((-Math.PI * width) / rate);
  const turn = 2 * radius * Math.cos((2 * Math.PI * hertz) / rate);
  let [one, two] = [0, 0];
  for (let at = 0; at < out.length; at += 1) {
    const value = out[at]! * (1 - radius) + turn * one - radius * radius * two;
    two = one;
    one = value;
    out[at] = out[at]! + gain * value;
  }
}

/**
 * The strokes as sound.
 * @returns mono samples below full scale
 */
export function secondVoice(
  strokes: PlayedStroke[],
  { sampleRate: rate, lead, noise, hum, clicks = [], clickLevel = 0.2, seed = 7 }: Surroundings,
): Float32Array<ArrayBuffer> {
  const random = generator(seed);
  const last = strokes.at(-1)?.seconds ?? 0;
  const out = new Float32Array(Math.ceil((last + lead + 2) * rate));
  // When each string is struck again, or damped: until then it rings.
  const ends = new Map<number, number>();
  const plucks: { midi: number; from: number; until: number; velocity: number }[] = [];
  for (const stroke of [...strokes].reverse()) {
    const at = stroke.seconds + lead;
    for (const { string, midi, delay, velocity } of stroke.notes) {
      plucks.push({ midi, from: at + delay, until: ends.get(string) ?? at + 4, velocity });
    }
    for (const { string, delay } of stroke.notes) ends.set(string, at + delay);
    for (const string of stroke.damps) ends.set(string, at);
  }
  for (const { midi, from, until, velocity } of plucks) {
    pluckInto(out, rate, midi, from, until, velocity, random);
  }
  for (const { kind, seconds, velocity } of strokes) {
    if (kind === 'chuck' || kind === 'tap') chuckInto(out, rate, seconds + lead, velocity, random);
  }
  resonate(out, rate, 105, 30, 0.9);
  resonate(out, rate, 215, 45, 0.7);
  // The room: a tail of scattered reflections.
  const taps = Array.from({ length: 26 }, () => {
    const seconds = 0.006 + 0.16 * Math.abs(random());
    return { by: Math.round(seconds * rate), gain: 0.22 * random() * Math.exp(-seconds / 0.06) };
  });
  const wet = new Float32Array(out.length);
  for (let at = 0; at < out.length; at += 1) {
    let value = out[at]!;
    for (const { by, gain } of taps) if (at >= by) value += gain * out[at - by]!;
    wet[at] = value;
  }
  for (const click of clicks) {
    const begin = Math.round(click * rate);
    for (let at = 0; at < 0.03 * rate && begin + at < wet.length; at += 1) {
      const time = at / rate;
      wet[begin + at] =
        wet[begin + at]! +
        clickLevel * Math.sin(2 * Math.PI * 1500 * time) * Math.exp(-time / 0.006);
    }
  }
  let loudest = 0;
  for (const value of wet) loudest = Math.max(loudest, Math.abs(value));
  const scale = loudest > 0 ? 0.7 / loudest : 1;
  // Noise is measured against the strums: the loud fifth of all stretches of a twentieth of a second.
  const stretch = Math.round(rate / 20);
  const levels = Array.from({ length: Math.floor(wet.length / stretch) }, (_, index) => {
    let energy = 0;
    for (let at = index * stretch; at < (index + 1) * stretch; at += 1) energy += wet[at]! ** 2;
    return Math.sqrt(energy / stretch) * scale;
  }).sort((a, b) => a - b);
  const strums = levels[Math.floor(0.8 * levels.length)] ?? 0;
  const hiss = noise === undefined ? 0 : strums * 10 ** (-noise / 20) * Math.sqrt(3);
  const mains = hum === undefined ? 0 : strums * 10 ** (-hum / 20);
  for (let at = 0; at < wet.length; at += 1) {
    const time = at / rate;
    wet[at] =
      wet[at]! * scale +
      hiss * random() +
      mains * (Math.sin(2 * Math.PI * 50 * time) + 0.4 * Math.sin(2 * Math.PI * 150 * time));
  }
  return wet;
}

/** Samples as a WAV file of 16 bits. */
export function wavOf(samples: Float32Array, rate: number): Uint8Array {
  const view = new DataView(new ArrayBuffer(44 + 2 * samples.length));
  const word = (at: number, text: string) =>
    [...text].forEach((letter, index) => view.setUint8(at + index, letter.charCodeAt(0)));
  word(0, 'RIFF');
  view.setUint32(4, 36 + 2 * samples.length, true);
  word(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, 2 * rate, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  word(36, 'data');
  view.setUint32(40, 2 * samples.length, true);
  samples.forEach((value, index) =>
    view.setInt16(44 + 2 * index, Math.max(-1, Math.min(1, value)) * 32_767, true),
  );
  return new Uint8Array(view.buffer);
}
