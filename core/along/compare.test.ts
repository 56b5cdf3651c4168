import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { INSTRUMENTS, parseChord, transposeChord } from '../neck';
import type { BeatMap, Song } from '../schema';
import { newSong } from '../song';
import { METERS } from '../time';
import {
  differences,
  type Laid,
  layOn,
  namedAsShapes,
  passagesOn,
  readFrom,
  shapeShift,
  stretchesOn,
} from '.';

const PROGRESSION = 'Verse:\nG | C | D | G\nReach:\nEm | C';
const song: Song = newSong({ title: 'Towpath', instrument: 'guitar', progression: PROGRESSION });
const twice = arrangement({
  ...song,
  order: ['Verse', 'Reach', 'Verse'].map((name) => ({ name, times: 1 })),
});
/** A pulse each half second, so a bar lasts two seconds. */
const map = (bars: number): Laid => {
  const pulses = Array.from({ length: bars * 4 + 1 }, (_, pulse) => 1 + pulse / 2);
  const all: BeatMap = { meter: METERS['4/4'], pulses, sure: pulses.map(() => 1), one: 0, set: [] };
  return layOn(all, [], twice.bars);
};

describe('a recording against the bars of a song', () => {
  it('says where each passage lies, as far as it goes', () => {
    expect(passagesOn(map(10), twice)).toEqual([
      { section: 'Verse', time: 1, first: 1, last: 4, from: 1, to: 9 },
      { section: 'Reach', time: 1, first: 5, last: 6, from: 9, to: 13 },
      { section: 'Verse', time: 2, first: 7, last: 10, from: 13, to: 21 },
    ]);
    expect(passagesOn(map(5), twice).at(-1)).toMatchObject({ section: 'Reach', last: 5, to: 11 });
  });

  it('has every chord where it sounds', () => {
    const [first, second] = stretchesOn(map(10), twice);
    expect(first).toMatchObject({ symbol: 'G', bar: 1, from: 1, to: 3, time: 1 });
    expect(second).toMatchObject({ symbol: 'C', bar: 2, from: 3, to: 5 });
    expect(stretchesOn(map(3), twice)).toHaveLength(3);
  });

  it('names what differs, by the time that a part comes round', () => {
    const stretches = stretchesOn(map(10), twice);
    const agree = stretches.map(({ symbol }) => [{ symbol, sure: 0.8 }]);
    expect(differences(stretches, agree)).toEqual([]);
    const at = stretches.findIndex(({ time, symbol }) => time === 2 && symbol === 'C');
    const other = agree.with(at, [
      { symbol: 'Am', sure: 0.82 },
      { symbol: 'F', sure: 0.1 },
    ]);
    expect(differences(stretches, other).map(({ says }) => says)).toEqual([
      'Bar 8, the second time of Verse: Am was heard (82 % sure), the song has C.',
    ]);
  });

  it('is silent where it is unsure, and where only what lies over the triad differs', () => {
    const stretches = stretchesOn(map(10), twice);
    const unsure = stretches.map(() => [{ symbol: 'F#m', sure: 0.4 }]);
    expect(differences(stretches, unsure)).toEqual([]);
    // Em and G have two tones in common, Em and F none.
    const other = (symbol: string) =>
      stretches.map((stretch) => [
        { symbol: stretch.symbol === 'Em' ? symbol : stretch.symbol, sure: 0.7 },
      ]);
    expect(differences(stretches, other('G'))).toEqual([]);
    expect(differences(stretches, other('F')).map(({ bar }) => bar)).toEqual([5]);
    expect(readFrom({ from: 2, to: 4 })).toEqual({ from: 2.7, to: 4 });
    expect(readFrom({ from: 2, to: 10 })).toEqual({ from: 3, to: 10 });
    const sevenths = stretches.map(({ symbol }) => [{ symbol: `${symbol}7`, sure: 0.9 }]);
    expect(differences(stretches, sevenths)).toEqual([]);
  });
});

describe('names of shapes for what sounds', () => {
  it('goes down by the capo, and up where the strings are lower', () => {
    expect(shapeShift({ capo: 2, instrument: INSTRUMENTS.guitar })).toBe(-2);
    expect(shapeShift({ capo: 0, instrument: INSTRUMENTS['guitar-half-down'] })).toBe(1);
    expect(shapeShift({ capo: 3, instrument: INSTRUMENTS.guitar }, 1)).toBe(-2);
  });

  it('calls an A that is played with a capo in the second fret a G', () => {
    expect(namedAsShapes([{ symbol: 'A', sure: 0.7 }], -2)).toEqual([{ symbol: 'G', sure: 0.7 }]);
    for (let capo = 0; capo < 12; capo += 1) {
      const [named] = namedAsShapes([{ symbol: 'C#m7', sure: 1 }], -capo);
      const back = transposeChord(named!.symbol, capo, false);
      expect(parseChord(back)!.tones).toEqual(parseChord('C#m7')!.tones);
    }
  });
});
