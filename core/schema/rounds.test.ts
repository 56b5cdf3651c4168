import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { roundsOf } from './rounds';

const said = (played: string, over?: 'song') =>
  roundsOf([...played], over)
    .map(({ time, last }) => `${time}${last ? '!' : ''}`)
    .join(' ');

describe('times round', () => {
  it('are counted in each passage that comes several times in a row', () => {
    expect(said('VVCVVC')).toBe('1 2! 1 1 2! 2!');
    expect(said('VVVCVVV')).toBe('1 2 3! 1! 1 2 3!');
  });

  it('end on the last one in a shorter passage too', () => {
    expect(said('VVVCVVCV')).toBe('1 2 3! 1 1 3! 2! 3!');
  });

  it('are counted over the song where nothing comes twice in a row, or where that is asked for', () => {
    expect(said('VCVCV')).toBe('1 1 2 2! 3!');
    expect(said('VVCVVC', 'song')).toBe('1 2 1 3 4! 2!');
  });

  it('begin with the first and end with the last of every passage, with none left out of the longest', () => {
    const sections = fc.array(fc.constantFrom('A', 'B', 'C'), { maxLength: 24 });
    fc.assert(
      fc.property(sections, fc.constantFrom(undefined, 'song' as const), (played, over) => {
        const rounds = roundsOf(played, over);
        expect(rounds).toHaveLength(played.length);
        for (const one of new Set(played)) {
          const own = rounds.filter((_, at) => played[at] === one);
          const most = Math.max(...own.map(({ time }) => time));
          expect(new Set(own.map(({ time }) => time)).size).toBe(most);
          expect(own.every(({ time, last }) => last === (time === most))).toBe(true);
        }
      }),
    );
  });
});
