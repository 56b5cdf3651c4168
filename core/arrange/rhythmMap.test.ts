import { describe, expect, it } from 'vitest';
import { said } from '../pattern/said.test-kit';
import type { Pattern, Song } from '../schema';
import { newSong } from '../song';
import { arrangement, rhythmMap } from '.';

const rocking: Pattern = { ...said('down up, down up, down up, down up'), name: 'Rocking' };
const start = newSong({
  title: 'Weir',
  instrument: 'guitar',
  progression: 'Verse:\nG | C | D . G . | G\nReach:\nEm | C',
});
const of = (song: Song) => rhythmMap(song.pattern, arrangement(song).rhythms);

describe('the map of rhythms', () => {
  it('has one mark where all bars are alike', () => {
    expect(of(start).marks).toEqual(['A', 'A', 'A', 'A', 'A', 'A']);
    expect(of(start).rhythms[0]!.bars).toEqual([1, 2, 3, 4, 5, 6]);
  });

  it('marks what a section and a bar have of their own, the nearest on top', () => {
    const [verse, reach] = start.sections as [Song['sections'][0], Song['sections'][0]];
    const [line] = verse.lines as [Song['sections'][0]['lines'][0]];
    const bars = line.bars.with(1, { ...line.bars[1]!, rules: { pattern: rocking } });
    const waltzing: Pattern = {
      ...rocking,
      name: 'Waltzing',
      beats: said('down, up, down, up').beats,
    };
    const sections = [
      { ...verse, lines: [{ ...line, bars }] },
      { ...reach, rules: { pattern: waltzing } },
    ];
    const map = of({ ...start, sections });
    expect(map.marks).toEqual(['A', 'B', 'A', 'A', 'C', 'C']);
    expect(map.rhythms.map(({ pattern }) => pattern.name)).toEqual([
      start.pattern.name,
      'Rocking',
      'Waltzing',
    ]);
  });

  it('knows a rhythm again that is squeezed into a bar that chords share', () => {
    const squeezed = of({ ...start, pattern: rocking, split: 'squeeze' });
    expect(squeezed.marks).toEqual(['A', 'A', 'A', 'A', 'A', 'A']);
  });

  it('knows a rhythm again in a bar of another meter', () => {
    const short = newSong({
      title: 'Weir',
      instrument: 'guitar',
      progression: 'G | (2/4) C | G',
    });
    expect(of(short).marks).toEqual(['A', 'A', 'A']);
  });
});
