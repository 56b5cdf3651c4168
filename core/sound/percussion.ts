import type { TapPlace } from '../schema';
import type { BeatWeight } from '../time';
import { noise } from '../random';
import { addBand } from './band';

/** Damped strings as the pick crosses them: bands too wide to have a pitch, one after the other. */
const DAMPED = [290, 420, 610, 880, 1280, 1850].map((hertz, string) => ({
  hertz,
  seconds: 0.0018 * string,
}));
const DAMPED_Q = 1.3;
const DAMPED_LEVEL = 0.16;
/** The hand that comes down on them, felt in the body more than heard. */
const HAND = { hertz: 105, seconds: 0.016, level: 0.11 };

/**
 * The sound of damped strings under the pick: short bursts without pitch, string after string, with the
 * scrape of the pick over them and the hand under them. A heavy one is brighter and longer, a
 * faint one hardly more than the touch.
 * @param sampleRate samples a second
 * @param heavy 0 to 1
 * @returns mono samples, about a tenth of a second
 */
export function chuck(sampleRate: number, heavy = 0.6): Float32Array<ArrayBuffer> {
  const random = noise(4711);
  const fall = 0.009 + 0.017 * heavy;
  const out = new Float32Array(Math.round(sampleRate * 0.11));
  DAMPED.forEach(({ hertz, seconds }, string) => {
    const burst = new Float32Array(out.length);
    for (let index = Math.round(seconds * sampleRate); index < burst.length; index += 1) {
      const time = index / sampleRate - seconds;
      burst[index] = random() * Math.min(1, time / 0.001) * Math.exp(-time / fall);
    }
    // Noise through a band is as loud as the band is wide.
    const level = DAMPED_LEVEL * (0.6 + 0.4 * heavy) ** string;
    addBand(
      out,
      burst,
      { hertz, q: DAMPED_Q },
      sampleRate,
      (radius) => level * (1 - radius) ** 0.5,
    );
  });
  return out.map((strings, index) => {
    const time = index / sampleRate;
    const scrape = 0.2 * heavy * random() * Math.exp(-time / 0.006);
    const hand =
      HAND.level *
      heavy *
      Math.sin(2 * Math.PI * HAND.hertz * time) *
      Math.exp(-time / HAND.seconds);
    const ends = Math.min(1, time / 0.0005, (out.length - 1 - index) / (0.01 * sampleRate));
    return (strings + scrape + hand) * ends;
  });
}

/** The knock of a fingertip on wood: a few short modes of the top and a soft thud. */
const KNOCK_MODES = [
  { hertz: 118, seconds: 0.05, level: 0.8 },
  { hertz: 236, seconds: 0.03, level: 0.5 },
  { hertz: 415, seconds: 0.018, level: 0.3 },
];

/**
 * The sound of a tap: on the body a wooden knock; on the strings a slap, with their rattle on the frets.
 * @param sampleRate samples a second
 * @returns mono samples, about a sixth of a second
 */
export function tap(on: TapPlace, sampleRate: number): Float32Array<ArrayBuffer> {
  const random = noise(on === 'body' ? 1207 : 2311);
  const out = new Float32Array(Math.round(sampleRate * 0.16));
  let low = 0;
  for (let index = 0; index < out.length; index += 1) {
    const time = index / sampleRate;
    const attack = Math.min(1, time / 0.0008);
    const hiss = random();
    low += 0.2 * (hiss - low);
    const knock = KNOCK_MODES.reduce(
      (sum, { hertz, seconds, level }) =>
        sum + level * Math.sin(2 * Math.PI * hertz * time) * Math.exp(-time / seconds),
      0,
    );
    const rattle =
      on === 'body'
        ? 0.25 * low * Math.exp(-time / 0.008)
        : 0.8 * (hiss - low) * Math.exp(-time / 0.02);
    out[index] = (on === 'body' ? 0.55 : 0.3) * knock * attack + rattle * attack;
  }
  return out;
}

/** Seconds that a syllable is given when words are clicked in place of being spoken. */
const SYLLABLE_SECONDS = 0.07;

/**
 * A word as a tone of its spoken length, for browsers without a voice: longer words hum longer.
 * @param syllables 1 to 3
 * @param sampleRate samples a second
 */
export function spokenTone(syllables: number, sampleRate: number): Float32Array<ArrayBuffer> {
  const length = SYLLABLE_SECONDS * (syllables + 0.5);
  const out = new Float32Array(Math.round(sampleRate * length));
  return out.map((_, index) => {
    const time = index / sampleRate;
    const syllable = Math.abs(Math.sin((Math.PI * time) / SYLLABLE_SECONDS));
    const ends = Math.min(1, time / 0.004, (length - time) / 0.01);
    return 0.35 * Math.sin(2 * Math.PI * 440 * time) * (0.4 + 0.6 * syllable) * ends;
  });
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
