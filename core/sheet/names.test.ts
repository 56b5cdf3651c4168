import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { documents } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import type { Song } from '../schema';
import { newSong } from '../song';
import { songSheet, USUAL_SHEET } from './layout';
import { chordsOver, drawNames } from './names';
import { type SheetItem, textWidth } from './paper';
import { SOFT } from './frame';

const song = (progression: string): Song =>
  newSong({ title: 'Weir', instrument: 'guitar', progression, tempo: 92 });
type Text = Extract<SheetItem, { kind: 'text' }>;
const texts = (items: SheetItem[]) => items.filter((item): item is Text => item.kind === 'text');

/** The box of a text: from its left to its right, and the height of a small letter. */
function box({ text, x, y, size, weight, anchor }: Text) {
  const wide = textWidth(text, size, weight);
  const left = x - (anchor === 'end' ? wide : anchor === 'middle' ? wide / 2 : 0);
  return { text, left, right: left + wide, top: y - size * 0.5, bottom: y };
}
/**
 * Texts that lie over one another by more than a hair: of those over and under the bars, names of chords, counts and
 * numbers. Labels on the dots of a path may touch where many strings are struck in little room.
 */
function overlaps(items: SheetItem[], names?: Set<string>): string[] {
  const boxes = texts(items)
    .filter(({ text }) => text.trim() !== '')
    .filter(
      ({ text, grey }) =>
        !names ||
        names.has(text) ||
        /^×\d+$|^(last|\d+\w\w( and \d+\w\w)*) time/.test(text) ||
        (/^\d+$/.test(text) && grey === SOFT),
    )
    .map(box);
  return boxes.flatMap((one, index) =>
    boxes.slice(index + 1).flatMap((other) => {
      const across = Math.min(one.right, other.right) - Math.max(one.left, other.left);
      const down = Math.min(one.bottom, other.bottom) - Math.max(one.top, other.top);
      return across > 0.5 && down > 0.5 ? [`${one.text} / ${other.text}`] : [];
    }),
  );
}
const over = (progression: string, bar: number) => {
  const arranged = arrangement(song(progression));
  return chordsOver(arranged, arranged.bars[bar]!, bar === 0);
};

describe('chords over a bar', () => {
  it('one that is pushed over the bar line is named over its own bar, and has its foot before', () => {
    expect(over('G | <D | G', 0)).toEqual({
      names: [{ at: 0, words: 'G' }],
      feet: [
        { at: 0, over: false },
        { at: 3360, over: true },
      ],
    });
    expect(over('G | <D | G', 1).names).toEqual([{ at: 0, words: '<D' }]);
    expect(over('G | C . <D .', 1).names).toEqual([
      { at: 0, words: 'C' },
      { at: 1440, words: '<D' },
    ]);
  });

  it('a section that opens on the chord that is held names it', () => {
    const arranged = arrangement(song('Verse:\nG | D\nReach:\nD | G'));
    expect(chordsOver(arranged, arranged.bars[2]!, true).names).toEqual([{ at: 0, words: 'D' }]);
    expect(chordsOver(arranged, arranged.bars[2]!, false).names).toEqual([]);
  });

  it('stand in a row, smaller where they have to, or above one another, and are never cut', () => {
    const names = ['C', 'F#dim7', 'Bbmaj7/D', 'Dsus4'].map((words, at) => ({ x: at * 24, words }));
    const { items, above } = drawNames(names, 96, 9.5);
    expect(texts(items).map(({ text }) => text)).toEqual(names.map(({ words }) => words));
    expect(above).toBeGreaterThan(0);
    expect(overlaps(items)).toEqual([]);
    expect(drawNames(names.slice(0, 1), 96, 9.5).above).toBe(0);
    const [wide] = texts(drawNames([{ x: 40, words: 'Bbmaj13#11/D' }], 60, 9.5).items);
    expect(box(wide!).left).toBeGreaterThanOrEqual(0);
    expect(box(wide!).right).toBeLessThanOrEqual(60);
  });

  it('are on the sheet of any song, each whole, and no two texts lie over one another', () => {
    const wishes = fc.record({
      audience: fc.constantFrom('player' as const, 'leader' as const),
      large: fc.boolean(),
      landscape: fc.boolean(),
    });
    fc.assert(
      fc.property(documents, wishes, (document, wish) => {
        const { pages } = songSheet(document, { ...USUAL_SHEET, ...wish });
        const all = pages.flatMap(({ items }) => texts(items).map(({ text }) => text));
        const arranged = arrangement(document);
        const seen = new Set<string>();
        const named = new Set<string>();
        for (const bar of arranged.bars) {
          const key = `${bar.section}/${bar.line}/${bar.bar}`;
          if (seen.has(key)) continue;
          seen.add(key);
          const opens = bar.line === 0 && bar.bar === 0;
          for (const { words } of chordsOver(arranged, bar, opens).names)
            expect(all).toContain(words);
        }
        for (const { items } of pages) expect(overlaps(items, named)).toEqual([]);
      }),
      tries(30),
    );
  });
});
