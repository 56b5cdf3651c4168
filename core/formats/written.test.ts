import { describe, expect, it } from 'vitest';
import { METERS } from '../time';
import { chartProgression } from './chordpro';
import { chartOfBars, meterOfBeats, type ReadBar } from './written';

const bar = (chords: ReadBar['chords'], rest: Partial<ReadBar> = {}): ReadBar => ({
  meter: METERS['4/4'],
  chords,
  section: null,
  ...rest,
});
const about = { title: null, tempo: null };
const line = (bars: ReadBar[]) => chartProgression(chartOfBars(bars, about), 'bar');

describe('bars of another program as a chart', () => {
  it('has chords on their beats, four bars to a line', () => {
    const g = bar([{ at: 0, symbol: 'G' }]);
    const split = bar([
      { at: 0, symbol: 'C' },
      { at: 1920, symbol: 'D' },
    ]);
    expect(line([g, split, bar([]), g, g])).toBe('Song:\nG | C . D . | . | G\nG');
  });

  it('writes an eighth before a beat as a push, over the bar line as well', () => {
    const pushes = bar([
      { at: 0, symbol: 'G' },
      { at: 1440, symbol: 'C' },
      { at: 3360, symbol: 'D' },
    ]);
    expect(line([pushes, bar([])])).toBe('Song:\nG . <C . | <D');
  });

  it('takes what lies elsewhere to its beat, and lists it', () => {
    const chart = chartOfBars([bar([{ at: 1200, symbol: 'Am' }])], about);
    expect(chartProgression(chart, 'bar')).toBe('Song:\n. Am . .');
    expect(chart.left).toEqual([{ line: 1, text: 'Am between the beats' }]);
  });

  it('says another meter, and sections by name, told apart', () => {
    const g = [{ at: 0, symbol: 'G' }];
    const bars = [
      bar(g, { section: 'Verse' }),
      bar(g, { meter: METERS['2/4'] }),
      bar(g, { section: 'Verse' }),
    ];
    expect(line(bars)).toBe('Verse:\nG | (2/4) G\nVerse 2:\nG');
    expect(meterOfBeats(6, 8)).toEqual(METERS['6/8']);
    expect(meterOfBeats(13, 16)).toEqual({ beats: 13, unit: 16, groups: [13] });
    expect(meterOfBeats(9, 8)?.groups).toEqual([3, 3, 3]);
    expect(meterOfBeats(0, 4)).toBeNull();
    expect(meterOfBeats(4, 3)).toBeNull();
  });
});
