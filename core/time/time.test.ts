import { describe, expect, it } from 'vitest';
import type { Meter } from '../schema';
import {
  barTicks,
  beatTicks,
  beatWeights,
  count,
  METERS,
  placeName,
  pulseNote,
  pulseTicks,
  secondsPerTick,
  spokenPlace,
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
    expect(count([1, 2, 3, 4], 4)).toEqual(['1', '2', '&', '3', 'trip', 'let', '4', 'e', '&', 'a']);
  });

  it('starts the numbers again in each bar', () => {
    expect(count([1, 1, 1, 1], 3)).toEqual(['1', '2', '3', '1']);
  });

  it('puts the number of the bar in place of the one', () => {
    expect(count([1, 1, 1, 1], 4, 3)).toEqual(['3', '2', '3', '4']);
  });

  it('names places as players do', () => {
    expect(placeName([2, 4], 4, 1)).toBe('the & of 1');
    expect(placeName([2, 4], 4, 5)).toBe('the a of 2');
    expect(placeName([2, 4], 4, 2)).toBe('2');
    expect(spokenPlace([2, 2], 4, 3)).toBe('beat 2, and');
    expect(spokenPlace([2, 2], 4, 2)).toBe('beat 2');
    expect(() => placeName([2], 4, 2)).toThrow(RangeError);
  });
});
