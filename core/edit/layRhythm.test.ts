import { describe, expect, it } from 'vitest';
import { arrangement, rhythmMap } from '../arrange';
import { said } from '../pattern/said.test-kit';
import type { Pattern, Song } from '../schema';
import { newSong } from '../song';
import { rhythmCommands } from './rhythmCommands';
import type { RhythmTarget } from './rules';

const rocking: Pattern = { ...said('down up, down up, down up, down up'), name: 'Rocking' };
const start = newSong({
  title: 'Weir',
  instrument: 'guitar',
  progression: 'Verse:\nG | C\nReach:\nEm | C',
});
const bar = (section: number, at: number): RhythmTarget => ({
  of: 'bar',
  section,
  line: 0,
  bar: at,
});
const lay = (song: Song, targets: RhythmTarget[], pattern: Pattern | null) =>
  rhythmCommands.layRhythm(targets, pattern).apply(song);
const marks = (song: Song) => rhythmMap(song.pattern, arrangement(song).rhythms).marks.join('');

describe('laying a rhythm', () => {
  it('takes several bars, a section or a chord in one step', () => {
    expect(marks(lay(start, [bar(0, 0), bar(1, 1)], rocking))).toBe('BAAB');
    expect(marks(lay(start, [{ of: 'section', section: 1 }], rocking))).toBe('AABB');
    expect(marks(lay(start, [{ of: 'chord', symbol: 'C' }], rocking))).toBe('ABAB');
  });

  it('leaves nothing behind where it lies there anyway', () => {
    const once = lay(start, [bar(0, 0)], rocking);
    expect(lay(once, [bar(0, 0)], start.pattern)).toEqual(start);
    expect(lay(once, [bar(0, 0)], null)).toEqual(start);
  });

  it('lays the song’s own over a section that has another', () => {
    const reach = lay(start, [{ of: 'section', section: 1 }], rocking);
    const mixed = lay(reach, [bar(1, 0)], start.pattern);
    expect(marks(mixed)).toBe('AAAB');
    expect(lay(mixed, [bar(1, 0)], rocking)).toEqual(reach);
  });
});
