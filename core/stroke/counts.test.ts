import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { patterns } from '../arbitraries.test-kit';
import { newPattern } from '../pattern';
import { tries } from '../properties.test-kit';
import type { Pattern } from '../schema';
import { countCycle, METERS } from '../time';
import { naturalDirections, readCounts, say, sayCounts, slots, sounds } from '.';

const four = newPattern(METERS['4/4']);

/** What was read, in words, each way; or the words that cannot be read. */
function read(
  text: string,
  on: Pattern = four,
  vocabulary?: 'syllables',
): string[] | string | null {
  const reading = readCounts(text, on, vocabulary);
  if (!reading) return null;
  if ('fits' in reading) return reading.fits.map(({ pattern }) => say(pattern));
  const { from, to, message } = reading.problem;
  return `[${text.slice(from, to)}] ${message}`;
}

describe('a rhythm by its counts', () => {
  it.each([
    ['1 2 & & 4 &', 'down miss, down up, miss up, down up'],
    ['1 a 2', 'down miss miss up, down miss miss miss, miss miss miss miss, miss miss miss miss'],
    [
      '1 2 & a e & 4 e & a',
      'down miss miss miss, down miss down up, miss up down miss, down up down up',
    ],
    [
      'one two and a E and four',
      'down miss miss miss, down miss down up, miss UP down miss, down miss miss miss',
    ],
    ['1! -2 & 3!! AND', 'DOWN miss, miss up, DOWN! UP, miss miss'],
    [
      '1 & | 1 2 &',
      'down up, miss miss, miss miss, miss miss | down miss, down up, miss miss, miss miss',
    ],
    [
      '1 4 1 & 3',
      'down miss, miss miss, miss miss, down miss | down up, miss miss, down miss, miss miss',
    ],
    ['1 trip let 2 & 4', 'down up down, down up, miss miss, down miss'],
  ])('%j', (text, words) => {
    expect((read(text) as string[])[0]).toBe(words);
  });

  it('has two readings where "and a" may be three to a beat', () => {
    expect(read('1 & a 2 & a')).toEqual([
      'down miss down up, down miss down up, miss miss miss miss, miss miss miss miss',
      'down up down, up down up, miss miss, miss miss',
    ]);
    expect(read('1 & 2 &')).toHaveLength(1);
    const triplets = {
      ...four,
      beats: four.beats.map(() => ({ division: 3 as const, slots: [] })),
    };
    expect((read('1 & a', triplets) as string[])[0]).toMatch(/^down up down,/);
  });

  it('goes by the meter: counts of six, cycles that begin on twelve, syllables', () => {
    expect((read('1 3 4 & 6', newPattern(METERS['6/8'])) as string[])[0]).toContain('down');
    const twelve = newPattern(countCycle(12, [12, 3, 6, 8, 10], 12));
    const [first] = (readCounts('12 3 6 8 10', twelve) as { fits: { pattern: Pattern }[] }).fits;
    const struck = slots(first!.pattern).flatMap(({ index, stroke }) =>
      sounds(stroke) ? [index] : [],
    );
    expect(struck).toEqual([0, 3, 6, 8, 10]);
    expect((read('ta di ta ka di mi ta', four, 'syllables') as string[])[0]).toBe(
      'down miss down miss, down up down up, down miss miss miss, miss miss miss miss',
    );
  });

  it('says which count there is not', () => {
    expect(read('1 2 5')).toBe('[5] There is no 5 in a bar of 4.');
    expect(read(Array(9).fill('1').join(' | '))).toMatch('at most eight bars');
    for (const other of ['D DU -UDU', 'down, up', 'R 2 3', 'e & a', 'miss', '', 'a', 'up and down'])
      expect(readCounts(other, four)).toBeNull();
  });

  it('that is said of a pattern has its hits, and what was accented is', () => {
    fc.assert(
      fc.property(patterns, (pattern) => {
        const text = sayCounts(pattern);
        if (text === null) return;
        const reading = readCounts(text, pattern);
        if (!reading || !('fits' in reading)) throw new Error(text);
        const hits = (one: Pattern) =>
          slots(one)
            .filter(({ stroke }) => sounds(stroke))
            .map(({ tick, stroke }) => ({
              tick,
              loud: 'accent' in stroke && stroke.accent !== 'ghost' ? stroke.accent : 'normal',
            }));
        // "& a" may be three to a beat as well: then it is the other of the two.
        const back = reading.fits
          .map((fit) => fit.pattern)
          .find((one) => JSON.stringify(hits(one)) === JSON.stringify(hits(pattern)));
        if (!back) throw new Error(`${text} is not read back`);
        const natural = naturalDirections(back);
        for (const { index, stroke } of slots(back))
          if (stroke.kind === 'strum') expect(stroke.dir).toBe(natural[index]);
      }),
      tries(600),
    );
  });
});
