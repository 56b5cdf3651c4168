import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { said } from '../pattern/said.test-kit';
import { newSong } from '../song';
import { judgeOnsets, playTake } from '.';
import { align } from './align';
import { directionsOf } from './direction';
import { leastSquares } from './leastSquares';
import { downsample, spectrometer, toneAt } from './signal';

const RATE = 44_100;
const tone = (hertz: number, seconds: number, rate = RATE) =>
  Float32Array.from({ length: Math.round(seconds * rate) }, (_, at) =>
    Math.sin((2 * Math.PI * hertz * at) / rate),
  );
const loudest = (samples: Float32Array) =>
  samples.reduce((most, one) => Math.max(most, Math.abs(one)), 0);

describe('sound at a lower rate', () => {
  it('keeps what it can and takes off what would fold back', () => {
    const low = downsample({ samples: tone(440, 0.5), sampleRate: RATE });
    expect(low.sampleRate).toBe(RATE / 3);
    expect(loudest(low.samples)).toBeGreaterThan(0.97);
    const high = downsample({ samples: tone(11_000, 0.5), sampleRate: RATE });
    expect(loudest(high.samples.subarray(50, -50))).toBeLessThan(0.02);
  });

  it('is itself where it is low enough', () => {
    const recording = { samples: tone(440, 0.1, 16_000), sampleRate: 16_000 };
    expect(downsample(recording).samples).toBe(recording.samples);
  });
});

describe('tones', () => {
  it('are as strong as they are, and others are not there', () => {
    const samples = tone(220, 0.3);
    expect(toneAt(samples, RATE, 220, 1000, 8000)).toBeCloseTo(1, 1);
    expect(toneAt(samples, RATE, 330, 1000, 8000)).toBeLessThan(0.02);
    expect(toneAt(samples, RATE, 220, -20_000, 8000)).toBe(0);
  });

  it('lie in their bin', () => {
    const energies = new Float32Array(256);
    spectrometer(512)(tone(3000, 0.1, 16_000), 200, energies);
    expect(energies.indexOf(loudest(energies))).toBe(96);
  });
});

describe('least squares', () => {
  it('find the line that points lie on, whatever it is', () => {
    const number = fc.double({ min: -50, max: 50, noNaN: true });
    fc.assert(
      fc.property(
        number,
        number,
        fc.uniqueArray(fc.integer({ min: -20, max: 20 }), { minLength: 3 }),
        (a, b, xs) => {
          const seen = xs.map((x) => ({ parts: [1, x], value: a + b * x }));
          const [first, second] = leastSquares(2, seen, 1e-12)!;
          expect(first).toBeCloseTo(a, 4);
          expect(second).toBeCloseTo(b, 4);
        },
      ),
    );
  });

  it('count by weight, and say where there is no answer', () => {
    const seen = [
      { parts: [1], value: 0, weight: 3 },
      { parts: [1], value: 4, weight: 1 },
    ];
    expect(leastSquares(1, seen, 0)![0]).toBeCloseTo(1, 9);
    expect(leastSquares(2, [{ parts: [1, 1], value: 1 }], 0)).toBeNull();
  });
});

describe('the way of the hand', () => {
  const stroke = (meant: 'down' | 'up', place: number | null) => ({ meant, place });
  const clear = Array.from({ length: 24 }, (_, at) =>
    at % 2 ? stroke('up', 0.9 + 0.01 * (at % 5)) : stroke('down', 0.05 + 0.01 * (at % 7)),
  );

  it('is told where downs and ups come apart', () => {
    expect(directionsOf(clear)).toEqual(clear.map(({ meant }) => meant));
  });

  it('is told for a stretch that is turned round, and not where most of a take seems to be', () => {
    const turned = clear.map(({ meant, place }) => stroke(meant === 'down' ? 'up' : 'down', place));
    const ways = directionsOf([...clear, ...clear, ...turned]);
    expect(ways.slice(0, 24)).toEqual(clear.map(({ meant }) => meant));
    expect(ways.slice(48)).toEqual(clear.map(({ meant }) => meant));
    expect(directionsOf([...turned, ...turned, ...clear]).every((way) => way === null)).toBe(true);
  });

  it('is not told where they lie alike, where few are heard, or where none is', () => {
    const alike = clear.map(({ meant }, at) => stroke(meant, (at * 7) % 10 > 4 ? 0.4 : 0.6));
    expect(directionsOf(alike).every((way) => way === null)).toBe(true);
    expect(directionsOf(clear.slice(0, 4)).every((way) => way === null)).toBe(true);
    expect(directionsOf(clear.map(({ meant }) => stroke(meant, null)))).toEqual(
      clear.map(() => null),
    );
  });

  it('is not told where all are meant one way: there is nothing to tell it from', () => {
    const downs = Array.from({ length: 12 }, (_, at) => stroke('down', at < 10 ? 0.02 : 0.98));
    expect(directionsOf(downs)).toEqual(downs.map(() => null));
  });
});

describe('what a take is gathered into', () => {
  const song = {
    ...newSong({ title: 'Weir', instrument: 'guitar', progression: 'G | C | G | C', tempo: 100 }),
    pattern: said('down miss, down up, miss up, down up'),
  };
  const arranged = arrangement(song);
  const taken = (habits: object) =>
    playTake(arranged.performance, song.meter, { seed: 3, ...habits }).strikes.map(
      ({ seconds, dir }) => ({ seconds, direction: dir }),
    );

  it('are slots by their place in the bar, and changes by their chords', () => {
    const { bySlot, byChange } = judgeOnsets(arranged, taken({}));
    expect(bySlot.map(({ place, count }) => [place, count])).toEqual([
      ['1', 4],
      ['2', 4],
      ['the & of 2', 4],
      ['the & of 3', 4],
      ['4', 4],
      ['the & of 4', 4],
    ]);
    expect(byChange.map(({ from, to, count, bars }) => [from, to, count, bars])).toEqual([
      ['G', 'C', 2, [2, 4]],
      ['C', 'G', 1, [3]],
    ]);
    expect(bySlot.every(({ within, missed }) => within === 1 && missed === 0)).toBe(true);
  });

  it('take off lag and drift before they say how late', () => {
    const late = taken({}).map((onset) => ({ ...onset, seconds: 5 + onset.seconds * 0.98 }));
    const { strokes, drift } = judgeOnsets(arranged, late);
    expect(drift).toBeCloseTo(2.04, 1);
    for (const { off } of strokes) expect(Math.abs(off)).toBeLessThan(1);
  });

  it('are the same in whatever order the onsets come', () => {
    const onsets = taken({ jitter: 12 });
    expect(judgeOnsets(arranged, [...onsets].reverse())).toEqual(judgeOnsets(arranged, onsets));
  });

  it('tell of a player whose arm has turned round', () => {
    const turned = taken({}).map(({ seconds, direction }) => ({
      seconds,
      direction: direction === 'down' ? ('up' as const) : ('down' as const),
    }));
    expect(judgeOnsets(arranged, turned).verdict).toMatchObject({
      trouble: 'direction',
      hand: 'strumming',
    });
  });
});

describe('a take whose first bar line is known', () => {
  const heard = (times: number[]) => times.map((seconds) => ({ seconds, strength: 1 }));
  /** Three even beats of four, and no other sign of where a bar begins. */
  const expected = Array.from({ length: 24 }, (_, beat) => beat * 0.6).filter(
    (_, beat) => beat % 4 !== 2,
  );
  const meant = expected.map((seconds) => ({ seconds }));

  it('is laid on that bar, though a bar later it would fit as well', () => {
    const late = expected.slice(3).map((seconds) => seconds + 1);
    const found = align(heard(late), meant, 0.6, 1)!;
    expect(found.matches[0]).toEqual({ heard: 0, expected: 3 });
    expect(found.missed.slice(0, 3)).toEqual([0, 1, 2]);
    expect(align(heard(late), meant, 0.6)!.matches[0]).toEqual({ heard: 0, expected: 0 });
  });

  it('bears a player who is late by a constant, and what was tapped before', () => {
    const late = [0.1, 0.45, ...expected.map((seconds) => seconds + 2.2)];
    const { matches, added } = align(heard(late), meant, 0.6, 2)!;
    expect(matches).toHaveLength(expected.length);
    expect(matches[0]).toEqual({ heard: 2, expected: 0 });
    expect(added).toEqual([]);
  });
});
