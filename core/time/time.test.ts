import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Division, Feel, Meter } from '../schema';
import {
  backBeats,
  barTicks,
  canSwing,
  countCycle,
  describeMeter,
  meterName,
  straightTick,
  strongBeats,
  swungTick,
  beatTicks,
  beatWeights,
  count,
  METERS,
  placeName,
  pulseNote,
  pulseTicks,
  secondsPerTick,
  spokenPlace,
  meterByName,
  tappedLatency,
} from '.';

const SEVEN: Meter = { beats: 7, unit: 8, groups: [2, 2, 3] };

describe('meters', () => {
  it('measures beats, bars and the pulse in ticks', () => {
    expect(beatTicks(METERS['4/4'])).toBe(960);
    expect(barTicks(METERS['3/4'])).toBe(2880);
    expect(beatTicks(METERS['6/8'])).toBe(480);
    expect(barTicks(METERS['6/8'])).toBe(2880);
    expect(pulseTicks(METERS['6/8'])).toBe(1440);
    expect(pulseTicks(SEVEN)).toBe(480);
  });

  it('lets the tempo count the pulse: 60 in 6/8 is a dotted quarter a second', () => {
    expect(secondsPerTick(60, METERS['6/8']) * 1440).toBeCloseTo(1, 12);
    expect(secondsPerTick(90, METERS['4/4']) * 960).toBeCloseTo(2 / 3, 12);
    expect(pulseNote(METERS['6/8'])).toBe('dotted quarter');
    expect(pulseNote(METERS['3/4'])).toBe('quarter');
  });

  it('weighs beats by the grouping', () => {
    expect(beatWeights(METERS['6/8'])).toEqual(['bar', 'beat', 'beat', 'group', 'beat', 'beat']);
    expect(beatWeights(SEVEN)).toEqual(['bar', 'beat', 'group', 'beat', 'group', 'beat', 'beat']);
  });
});

describe('counting', () => {
  it('says a syllable for every slot, each beat in its own division', () => {
    expect(count([1, 2, 3, 4], METERS['4/4'])).toEqual([
      '1',
      '2',
      '&',
      '3',
      'trip',
      'let',
      '4',
      'e',
      '&',
      'a',
    ]);
  });

  it('starts the numbers again in each bar', () => {
    expect(count([1, 1, 1, 1], METERS['3/4'])).toEqual(['1', '2', '3', '1']);
  });

  it('puts the number of the bar in place of the one', () => {
    expect(count([1, 1, 1, 1], METERS['4/4'], { first: 3 })).toEqual(['3', '2', '3', '4']);
  });

  it('names places as players do', () => {
    expect(placeName([2, 4], METERS['4/4'], 1)).toBe('the & of 1');
    expect(placeName([2, 4], METERS['4/4'], 5)).toBe('the a of 2');
    expect(placeName([2, 4], METERS['4/4'], 2)).toBe('2');
    expect(spokenPlace([2, 2], METERS['4/4'], 3)).toBe('beat 2, and');
    expect(spokenPlace([2, 2], METERS['4/4'], 2)).toBe('beat 2');
    expect(() => placeName([2], METERS['4/4'], 2)).toThrow(RangeError);
  });
});

describe('other ways to count', () => {
  const six: Division[] = [1, 1, 1, 1, 1, 1];
  it.each([
    ['triplets', six, METERS['6/8'], '1 trip let 2 trip let'],
    ['triplets', [3, 2], METERS['4/4'], '1 trip let 2 &'],
    ['syllables', [4, 2, 3], METERS['3/4'], 'ta ka di mi ta di ta ki da'],
    ['beats', [2, 4], METERS['4/4'], '1 · 2 · · ·'],
    ['cycle', [2, 2], METERS['2/4'], '1 2 3 4'],
    ['numbers', [6, 8], METERS['4/4'], '1 ti trip ti let ti 2 ti e ti & ti a ti'],
  ] as const)('counts %s', (vocabulary, divisions, meter, counted) => {
    expect(count([...divisions], meter, { vocabulary }).join(' ')).toBe(counted);
  });

  it('counts a cycle from any of its counts, with its own accents', () => {
    const cycle = countCycle(12, [12, 3, 6, 8, 10], 12);
    const all: Division[] = Array.from({ length: 12 }, () => 1);
    expect(count(all, cycle).join(' ')).toBe('12 1 2 3 4 5 6 7 8 9 10 11');
    expect(
      beatWeights(cycle)
        .map((weight) => weight[0])
        .join(''),
    ).toBe('bbbgbbgbgbgb');
    expect(placeName(all, cycle, 3)).toBe('3');
    expect(meterName(cycle)).toBe('12 counts');
    expect(describeMeter(cycle)).toBe('12 counts from 12, accents on 12 3 6 8 10');
    expect(describeMeter(METERS['7/8'])).toBe('7/8 as 2+2+3');
    expect(() => countCycle(12, [13])).toThrow('no count 13');
  });

  it('names the bar in a pattern of several', () => {
    expect(placeName([2, 2, 2, 2, 2], METERS['4/4'], 9)).toBe('the & of 1 of bar 2');
    expect(spokenPlace([2, 2, 2, 2, 2], METERS['4/4'], 8)).toBe('bar 2, beat 1');
    expect(placeName([8], METERS['4/4'], 5)).toBe('the third ti of 1');
  });

  it('knows strong beats and back-beats', () => {
    expect(strongBeats(METERS['4/4'])).toEqual([0, 2]);
    expect(backBeats(METERS['4/4'])).toEqual([1, 3]);
    expect(backBeats(METERS['3/4'])).toEqual([1, 2]);
    expect(backBeats(METERS['6/8'])).toEqual([3]);
    expect(strongBeats(METERS['5/4'])).toEqual([0, 3]);
  });
});

describe('swing', () => {
  const feels = fc.record({
    on: fc.constantFrom('eighths', 'sixteenths'),
    percent: fc.integer({ min: 50, max: 75 }),
  }) as fc.Arbitrary<Feel>;

  it('moves the second of a pair, and nothing on the beat', () => {
    const feel: Feel = { on: 'eighths', percent: 67 };
    expect(swungTick(480, feel, METERS['4/4'])).toBeCloseTo(643.2, 6);
    expect(swungTick(960, feel, METERS['4/4'])).toBe(960);
    expect(swungTick(480, { ...feel, percent: 50 }, METERS['4/4'])).toBe(480);
    expect(canSwing(feel, METERS['6/8'])).toBe(false);
    expect(swungTick(480, feel, METERS['6/8'])).toBe(480);
    expect(swungTick(240, { on: 'sixteenths', percent: 60 }, METERS['6/8'])).toBeCloseTo(288, 6);
  });

  it('never moves a place earlier, keeps their order, and has a way back', () => {
    fc.assert(
      fc.property(feels, fc.integer({ min: -4000, max: 9000 }), (feel, tick) => {
        const heard = swungTick(tick, feel, METERS['4/4']);
        expect(heard).toBeGreaterThanOrEqual(tick);
        expect(swungTick(tick + 1, feel, METERS['4/4'])).toBeGreaterThan(heard);
        expect(straightTick(heard, feel, METERS['4/4'])).toBeCloseTo(tick, 6);
      }),
    );
  });
});

describe('a meter by its name', () => {
  it('is one on offer, or so many quarters', () => {
    expect(meterByName('6/8')).toBe(METERS['6/8']);
    expect(meterByName('1/4')).toEqual({ beats: 1, unit: 4, groups: [1] });
    expect(meterByName('16/4')!.beats).toBe(16);
    for (const name of ['0/4', '17/4', '3/5', '4', 'waltz', '6/8 ']) {
      expect(meterByName(name), name).toBeNull();
    }
  });
});

describe('how late a player hears', () => {
  const clicks = [1, 2, 3, 4, 5, 6, 7, 8];

  it('is the middle of what was tapped, whatever single taps went astray', () => {
    const taps = clicks.map((click, index) => click + 0.08 + (index % 2 ? 0.01 : -0.01));
    taps[3] = 4.35;
    const { delay, spread } = tappedLatency(taps, clicks)!;
    expect(delay).toBeCloseTo(0.09, 6);
    expect(spread).toBeLessThan(0.02);
    expect(tappedLatency([1.1, 2.1], clicks)).toBeNull();
    expect(
      tappedLatency(
        clicks.map((click) => click - 0.05),
        clicks,
      )!.delay,
    ).toBe(0);
  });
});
