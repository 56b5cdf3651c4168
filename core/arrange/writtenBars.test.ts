import { describe, expect, it } from 'vitest';
import { progressions } from '../arbitraries.test-kit';
import { said } from '../pattern/said.test-kit';
import { newSong } from '../song';
import fc from 'fast-check';
import { arrangement, flagAt, flagsWithin, writtenBars } from '.';

const written = (progression: string, narrow = false) => {
  const start = newSong({ title: 'Weir', instrument: 'guitar', progression });
  const song = { ...start, pattern: said('down, down up, down, down up') };
  return writtenBars(arrangement(song), { narrow });
};
const all = (progression: string, narrow = false) =>
  written(progression, narrow).flatMap(({ lines }) => lines.flat());

describe('bars as they are written', () => {
  it('have their flags, their number, and what they say of themselves', () => {
    const bars = all('G | % | C . D . | Hm7');
    expect(bars.map(({ flags }) => flags.map(({ tick, symbol }) => `${tick} ${symbol}`))).toEqual([
      ['0 G'],
      [],
      ['0 C', '1920 D'],
      ['0 Hm7'],
    ]);
    expect(bars.map(({ label }) => label)).toEqual([
      'Bar 1: G',
      'Bar 2: chord held',
      expect.stringMatching(/^Bar 3: C, D/),
      expect.stringMatching(/^Bar 4: Hm7/),
    ]);
    expect(bars[3]!.flags[0]!.known).toBe(false);
    expect(bars.map(({ counted }) => counted)).toEqual(['', '2 2 3 4', '', '']);
  });

  it('say a chord at the start of a section though the hand holds it', () => {
    const sections = written('Verse:\nG | D\nChorus:\nD | G');
    expect(sections.map(({ name }) => name)).toEqual(['Verse', 'Chorus']);
    expect(sections[1]!.lines[0]![0]!.flags).toEqual([flagAt(0, 'D')]);
  });

  it('say what a line is, in as many words as there is room for', () => {
    expect(all('G | D x2')[0]!.note).toBe('2 times');
    expect(all('G | D x2', true)[0]!.note).toBe('×2');
    expect(all('G | D x2')[1]!.note).toBe('');
    // A flag that stands late reaches under it.
    expect(all('G . D . | D x2')[0]).toMatchObject({ note: '×2', isTight: true });
    expect(all('last) G . . D | C')[0]).toMatchObject({ note: 'last', isTight: true });
    expect(all('last) G | C')[0]).toMatchObject({ note: 'last time', isTight: false });
  });

  it('are as many as are written, each where it is played first', () => {
    fc.assert(
      fc.property(progressions, (progression) => {
        const song = newSong({ title: 'Weir', instrument: 'guitar', progression });
        const arranged = arrangement(song);
        const bars = writtenBars(arranged).flatMap(({ lines }) => lines.flat());
        expect(bars).toHaveLength(
          song.sections.flatMap(({ lines }) => lines.flatMap((line) => line.bars)).length,
        );
        for (const { played, flags } of bars) {
          if (played.index < 0) continue;
          const same = arranged.bars.find(
            ({ section, line, bar }) =>
              section === played.section && line === played.line && bar === played.bar,
          );
          expect(same).toBe(played);
          for (const { tick } of flags) expect(tick).toBeLessThan(played.ticks);
        }
      }),
    );
  });

  it('have flags only of what lands in them', () => {
    const changes = [0, 3840, 4800].map((tick) => ({ tick, symbol: 'G' }));
    expect(flagsWithin(changes, { tick: 3840, ticks: 960 }).map(({ tick }) => tick)).toEqual([0]);
  });
});
