import { describe, expect, it } from 'vitest';
import { chuck, click, hertz, palmed, pluck, spokenTone, STRING_VOICES, tap } from '.';

const RATE = 44100;

/**
 * The pitch of a sound by the peak of its autocorrelation, read to a fraction of a sample with a
 * parabola. Made for this test; it shares nothing with the synthesis.
 */
function pitchOf(samples: Float32Array, around: number): number {
  const from = Math.round(RATE * 0.25);
  const length = 8192;
  const correlation = (lag: number) => {
    let sum = 0;
    for (let index = from; index < from + length; index += 1)
      sum += samples[index]! * samples[index + lag]!;
    return sum;
  };
  // Many periods on, the fraction of a sample that the parabola may err counts for little.
  const periods = Math.max(1, Math.floor((around * 2000) / RATE));
  const guess = Math.round((RATE / around) * periods);
  let best = guess;
  for (let lag = guess - 8; lag <= guess + 8; lag += 1) {
    if (correlation(lag) > correlation(best)) best = lag;
  }
  const [left, middle, right] = [correlation(best - 1), correlation(best), correlation(best + 1)];
  const shift = (left - right) / (2 * (left - 2 * middle + right));
  return (RATE * periods) / (best + shift);
}

const cents = (a: number, b: number) => Math.abs(1200 * Math.log2(a / b));
const energy = (samples: Float32Array, from: number, to: number) =>
  samples.slice(Math.round(from * RATE), Math.round(to * RATE)).reduce((sum, x) => sum + x * x, 0) /
  (to - from);

describe('a plucked string', () => {
  it('is in tune on every string and fret in use', () => {
    for (const [id, low, high] of [
      ['guitar', 40, 76],
      ['ukulele', 60, 81],
    ] as const) {
      for (let midi = low; midi <= high; midi += 4) {
        const samples = pluck(midi, 1.2, RATE, STRING_VOICES[id]);
        expect(cents(pitchOf(samples, hertz(midi)), hertz(midi)), `${id} ${midi}`).toBeLessThan(3);
      }
    }
  });

  it('sounds the same each time, dies away and ends in silence without a step', () => {
    const samples = pluck(52, 2, RATE, STRING_VOICES.guitar);
    expect(pluck(52, 2, RATE, STRING_VOICES.guitar)).toEqual(samples);
    expect(energy(samples, 0.05, 0.25)).toBeGreaterThan(2 * energy(samples, 1, 1.5));
    expect(Math.abs(samples.at(-1)!)).toBeLessThan(1e-4);
    expect(Math.abs(samples[0]!)).toBeLessThan(0.02);
  });

  it('is even in level from string to string and never clips', () => {
    for (const midi of [40, 52, 64, 76]) {
      const samples = pluck(midi, 1, RATE, STRING_VOICES.guitar);
      expect(Math.sqrt(energy(samples, 0, 0.1) / RATE)).toBeCloseTo(0.1, 2);
      expect(samples.every((sample) => Number.isFinite(sample) && Math.abs(sample) <= 1)).toBe(
        true,
      );
    }
  });
});

describe('a string under the palm', () => {
  it('is still at its pitch, darker, and soon gone', () => {
    const voice = STRING_VOICES.guitar;
    for (const midi of [40, 52]) {
      const open = pluck(midi, 1.2, RATE, voice);
      const muted = pluck(midi, 1.2, RATE, palmed(voice));
      expect(energy(muted, 0.3, 0.5) / energy(muted, 0, 0.05)).toBeLessThan(
        0.2 * (energy(open, 0.3, 0.5) / energy(open, 0, 0.05)),
      );
      // How often it crosses zero tells how much of it is high.
      const crossings = (samples: Float32Array) =>
        samples.slice(500, 3000).filter((x, at, all) => at > 0 && x * all[at - 1]! < 0).length;
      expect(crossings(muted)).toBeLessThan(crossings(open));
      const early = muted.slice(0, Math.round(RATE * 0.25));
      const period = RATE / hertz(midi);
      let best = Math.round(period * 0.8);
      const correlation = (lag: number) =>
        early.reduce((sum, x, at) => sum + x * (early[at + lag] ?? 0), 0);
      for (let lag = best; lag < period * 1.2; lag += 1) {
        if (correlation(lag) > correlation(best)) best = lag;
      }
      expect(cents(RATE / best, hertz(midi))).toBeLessThan(25);
    }
  });
});

describe('taps and words', () => {
  it('knock low on the body, rattle high on the strings, and are short', () => {
    const crossings = (samples: Float32Array) =>
      samples.slice(0, 1500).filter((x, at, all) => at > 0 && x * all[at - 1]! < 0).length;
    const [body, strings] = [tap('body', RATE), tap('strings', RATE)];
    expect(crossings(strings)).toBeGreaterThan(3 * crossings(body));
    for (const samples of [body, strings]) {
      expect(samples.every((sample) => Math.abs(sample) <= 1)).toBe(true);
      expect(energy(samples, 0, 0.03)).toBeGreaterThan(20 * energy(samples, 0.13, 0.16));
      expect(Math.abs(samples[0]!)).toBeLessThan(0.01);
    }
    expect(tap('body', RATE)).toEqual(body);
  });

  it('hum longer for a longer word, and begin and end without a step', () => {
    const [one, two] = [spokenTone(1, RATE), spokenTone(2, RATE)];
    expect(two.length).toBeGreaterThan(one.length * 1.5);
    for (const samples of [one, two]) {
      expect(Math.abs(samples[0]!)).toBeLessThan(0.01);
      expect(Math.abs(samples.at(-1)!)).toBeLessThan(0.01);
      expect(samples.every((sample) => Math.abs(sample) <= 1)).toBe(true);
    }
  });
});

describe('percussion', () => {
  it('gives a chuck no pitch and a short life', () => {
    const samples = chuck(RATE);
    expect(samples.every((sample) => Math.abs(sample) <= 1)).toBe(true);
    expect(energy(samples, 0, 0.02)).toBeGreaterThan(20 * energy(samples, 0.08, 0.1));
    // A pitch would show as a peak of the autocorrelation somewhere between 80 and 1000 Hz.
    const total = samples.reduce((sum, x) => sum + x * x, 0);
    for (let lag = 44; lag < 551; lag += 1) {
      let sum = 0;
      for (let index = 0; index + lag < samples.length; index += 1)
        sum += samples[index]! * samples[index + lag]!;
      expect(Math.abs(sum / total)).toBeLessThan(0.35);
    }
  });

  it('lets a chuck thud and scrape, not hiss: the heavier, the brighter', () => {
    const centre = (heavy: number) => {
      const samples = chuck(RATE, heavy);
      let [weighted, total] = [0, 0];
      for (let hertz = 50; hertz < RATE / 2; hertz += 50) {
        let [re, im] = [0, 0];
        samples.forEach((x, index) => {
          re += x * Math.cos((2 * Math.PI * hertz * index) / RATE);
          im += x * Math.sin((2 * Math.PI * hertz * index) / RATE);
        });
        weighted += hertz * (re * re + im * im);
        total += re * re + im * im;
      }
      return weighted / total;
    };
    const centres = [0.2, 0.6, 1].map(centre);
    expect(centres).toEqual([...centres].sort((a, b) => a - b));
    expect(centres[0]).toBeGreaterThan(800);
    expect(centres[2]).toBeLessThan(3000);
  });

  it('rounds a bass string: no sample stands far out of the others', () => {
    for (const midi of [40, 45, 50]) {
      const samples = pluck(midi, 0.3, RATE, STRING_VOICES.guitar).slice(0, RATE / 10);
      const root = Math.sqrt(samples.reduce((sum, x) => sum + x * x, 0) / samples.length);
      expect(Math.max(...samples.map(Math.abs)) / root).toBeLessThan(4.2);
    }
  });

  it('clicks higher on the bar than on the beat', () => {
    const crossings = (samples: Float32Array) =>
      samples.slice(0, 882).filter((x, index, all) => index > 0 && x * all[index - 1]! < 0).length;
    expect(crossings(click('bar', RATE))).toBeGreaterThan(crossings(click('group', RATE)));
    expect(crossings(click('group', RATE))).toBeGreaterThan(crossings(click('beat', RATE)));
  });
});
