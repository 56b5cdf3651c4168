import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { toWav } from '../formats';
import { said } from '../pattern/said.test-kit';
import { tries } from '../properties.test-kit';
import type { Song } from '../schema';
import { newSong } from '../song';
import {
  checkWav,
  type Habits,
  judgeOnsets,
  judgeSound,
  onsets,
  playTake,
  readWav,
  takeSound,
} from '.';
import { align } from './align';

const RATE = 22_050;
const song = (progression: string, words: string, tempo = 96): Song => ({
  ...newSong({ title: 'Weir', instrument: 'guitar', progression, tempo }),
  pattern: said(words),
});
const CIRCLE = song('G | Em | C | D | G | Em | C | D', 'down miss, down up, miss up, down up');
const BASSES = song('G | Em | C | D | G | Em | C | D', 'bass miss, down up, bass miss, down up');
const arranged = arrangement(CIRCLE);

const recorded = (of: Song, habits: Habits, room = {}) => {
  const { performance } = arrangement(of);
  const played = playTake(performance, of.meter, habits);
  const samples = takeSound(played, of.meter, of.instrument.family, RATE, { noise: 32, ...room });
  return { played, recording: { samples, sampleRate: RATE } };
};
const verdict = (of: Song, habits: Habits, room = {}) =>
  judgeSound(arrangement(of), recorded(of, habits, room).recording).verdict;

describe('what is heard', () => {
  it('are the strokes, each at the start of its rake', () => {
    const { played, recording } = recorded(CIRCLE, { seed: 3, jitter: 10 });
    const heard = onsets(recording);
    const off = played.strikes.map(({ seconds }) =>
      Math.min(...heard.map((one) => Math.abs(one.seconds - seconds - 0.4))),
    );
    off.sort((a, b) => a - b);
    expect(Math.abs(heard.length - played.strikes.length)).toBeLessThanOrEqual(3);
    expect(off[off.length >> 1]!).toBeLessThan(0.004);
    expect(off[Math.floor(off.length * 0.95)]!).toBeLessThan(0.013);
  });

  it('is nothing in silence, in noise, and in nothing', () => {
    expect(onsets({ samples: new Float32Array(RATE), sampleRate: RATE })).toEqual([]);
    expect(onsets({ samples: new Float32Array(0), sampleRate: RATE })).toEqual([]);
    expect(onsets({ samples: new Float32Array(10), sampleRate: 8000 })).toEqual([]);
  });
});

describe('the verdict', () => {
  it('is clean for an even player, with and without a count-in', () => {
    expect(verdict(CIRCLE, { seed: 1, jitter: 11 })).toMatchObject({
      trouble: 'clean',
      advice: 'up',
    });
    expect(verdict(BASSES, { seed: 2, jitter: 5 }).trouble).toBe('clean');
  });

  it.each<[string, Song, Omit<Habits, 'seed'>, 'strumming' | 'fretting']>([
    ['landings', CIRCLE, { jitter: 7, landingsLate: 60 }, 'fretting'],
    ['uneven', CIRCLE, { jitter: 40 }, 'strumming'],
    ['rushing', CIRCLE, { jitter: 7, drift: 4 }, 'strumming'],
    ['dragging', CIRCLE, { jitter: 7, drift: -4 }, 'strumming'],
    ['ups', CIRCLE, { jitter: 7, leavesOut: { what: 'ups', share: 0.5 } }, 'strumming'],
    ['after-miss', CIRCLE, { jitter: 7, stopsAfterMiss: 60 }, 'strumming'],
    ['chord-late', CIRCLE, { jitter: 7, chordLate: true }, 'fretting'],
    ['bass', BASSES, { jitter: 7, wrongBass: 0.5 }, 'strumming'],
  ])('is %s for a player with that habit', (trouble, of, habits, hand) => {
    expect(verdict(of, { seed: 21, ...habits })).toMatchObject({ trouble, hand });
  });

  it('names the one change that comes late', () => {
    const habits = { seed: 4, jitter: 6, landingsLate: 90, change: { from: 'C', to: 'D' } };
    const found = verdict(CIRCLE, habits);
    expect(found.sentence).toMatch(/^C to D lands \d+ ms late/);
    expect(found.loop).toEqual({ from: 3, to: 5 });
  });

  it('is none for silence and for another song', () => {
    const silence = { samples: new Float32Array(5 * RATE), sampleRate: RATE };
    expect(judgeSound(arranged, silence).verdict).toMatchObject({ trouble: 'unjudged', sure: 0 });
    const other = song('A | A | A | A', 'down miss down, miss down miss, down down miss', 63);
    const { recording } = recorded(other, { seed: 9 });
    expect(judgeSound(arranged, recording).verdict.trouble).toBe('unjudged');
  });
});

describe('strokes laid on what was meant', () => {
  const expected = arranged.performance.strikes.map(({ seconds }) => seconds);
  const moments = (seconds: number[]) => seconds.map((one) => ({ seconds: one, strength: 10 }));
  const meant = expected.map((seconds) => ({ seconds }));

  it('find their start and their drift, whatever they are', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 20, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.nat(1000),
        (start, drift, seed) => {
          const played = playTake(arranged.performance, CIRCLE.meter, { seed, jitter: 8, drift });
          const found = align(
            moments(played.strikes.map(({ seconds }) => seconds + start)),
            meant,
            0.625,
          )!;
          expect(found.matches).toHaveLength(expected.length);
          expect(found.missed).toEqual([]);
          expect(found.tempo.end).toBeCloseTo(drift, 0);
          expect(Math.abs(found.at(0) - start)).toBeLessThan(0.02);
        },
      ),
      tries(25),
    );
  });

  it('are met again after a slip, and a take may end early', () => {
    const slipped = expected.map((seconds) => (seconds > 8 ? seconds + 1.1 : seconds));
    const found = align(moments(slipped), meant, 0.625)!;
    expect(found.stops).toHaveLength(1);
    expect(found.stops[0]!.seconds).toBeCloseTo(1.1, 1);
    expect(found.matches.length).toBeGreaterThan(0.95 * expected.length);
    const early = align(moments(expected.slice(0, 20)), meant, 0.625)!;
    expect(early.missed).toEqual([]);
    expect(early.matches).toHaveLength(20);
  });

  it('tell missed and added ones', () => {
    const played = expected.filter((_, index) => index !== 10 && index !== 17);
    played.push(expected[12]! + 0.15);
    played.sort((a, b) => a - b);
    const judged = judgeOnsets(
      arranged,
      played.map((seconds) => ({ seconds })),
    );
    expect(judged.missed).toEqual([10, 17]);
    expect(judged.added).toHaveLength(1);
  });

  it('know a count-in, as loud as the strokes and before a landing that is late', () => {
    for (const strength of [2, 10]) {
      const clicks = [0, 0.625, 1.25, 1.875].map((seconds) => ({ seconds, strength }));
      const played = expected.map((seconds, index) => ({
        seconds: seconds + 2.53 + (index === 0 ? 0.065 : 0),
        strength: 10,
      }));
      const found = align([...clicks, ...played], meant, 0.625)!;
      expect(found.countedIn).toBe(true);
      expect(found.matches[0]).toEqual({ heard: 4, expected: 0 });
      expect(found.barLine).toBeCloseTo(2.5, 2);
    }
  });

  it('never fail, whatever was heard', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 40, noNaN: true }), { maxLength: 60 }),
        (seconds) => {
          const judged = judgeOnsets(
            arranged,
            seconds.map((one) => ({ seconds: one })),
          );
          expect(judged.strokes.length + judged.missed.length).toBeLessThanOrEqual(expected.length);
          for (const { off } of judged.strokes) expect(Number.isFinite(off)).toBe(true);
        },
      ),
      tries(60),
    );
  });
});

describe('a WAV file', () => {
  const samples = Float32Array.from({ length: 400 }, (_, index) => Math.sin(index / 9) * 0.8);

  it('is read as it was written', () => {
    const { samples: read, sampleRate } = readWav(toWav(samples, 22_050));
    expect(sampleRate).toBe(22_050);
    expect(read).toHaveLength(400);
    read.forEach((value, index) => expect(value).toBeCloseTo(samples[index]!, 3));
  });

  /** A file by hand: format code, bits and channels, one value a channel. */
  function file(
    code: number,
    bits: number,
    channels: number,
    write: (view: DataView, at: number) => void,
  ) {
    const frame = (bits / 8) * channels;
    const view = new DataView(new ArrayBuffer(44 + frame));
    [...'RIFF'].forEach((letter, at) => view.setUint8(at, letter.charCodeAt(0)));
    [...'WAVEfmt '].forEach((letter, at) => view.setUint8(8 + at, letter.charCodeAt(0)));
    view.setUint32(16, 16, true);
    view.setUint16(20, code, true);
    view.setUint16(22, channels, true);
    view.setUint32(24, 48_000, true);
    view.setUint16(34, bits, true);
    [...'data'].forEach((letter, at) => view.setUint8(36 + at, letter.charCodeAt(0)));
    view.setUint32(40, frame, true);
    for (let channel = 0; channel < channels; channel += 1) write(view, 44 + (channel * bits) / 8);
    return new Uint8Array(view.buffer);
  }

  it.each<[string, Uint8Array, number]>([
    ['8 bits', file(1, 8, 1, (view, at) => view.setUint8(at, 192)), 0.5],
    ['16 bits, two channels', file(1, 16, 2, (view, at) => view.setInt16(at, -16_384, true)), -0.5],
    ['24 bits', file(1, 24, 1, (view, at) => view.setUint8(at + 2, 0x40)), 0.5],
    ['32 bits', file(1, 32, 1, (view, at) => view.setInt32(at, 2 ** 30, true)), 0.5],
    ['floating point', file(3, 32, 1, (view, at) => view.setFloat32(at, 0.5, true)), 0.5],
    ['no number', file(3, 32, 1, (view, at) => view.setFloat32(at, NaN, true)), 0],
  ])('of %s is read', (_, bytes, value) => {
    expect(readWav(bytes).samples[0]).toBeCloseTo(value, 6);
  });

  it('that is none is refused at its byte, however it is broken', () => {
    const good = toWav(samples, 22_050);
    fc.assert(
      fc.property(
        fc.nat(good.length),
        fc.nat(43),
        fc.integer({ min: 0, max: 255 }),
        (length, at, value) => {
          const bytes = good.slice(0, length);
          if (at < bytes.length) bytes[at] = value;
          try {
            expect(checkWav(bytes)).toBeGreaterThan(0);
            expect(readWav(bytes).samples.length).toBeGreaterThan(0);
          } catch (error) {
            expect((error as { byte: number }).byte).toBeGreaterThanOrEqual(0);
          }
        },
      ),
      tries(300),
    );
    expect(() => checkWav(new Uint8Array(0))).toThrow('the file is empty');
  });
});
