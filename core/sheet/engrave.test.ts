import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documents } from '../arbitraries.test-kit';
import { arrangement } from '../arrange';
import { said } from '../pattern/said.test-kit';
import { tries } from '../properties.test-kit';
import type { Song } from '../schema';
import { newSong } from '../song';
import { engrave } from './engrave';
import { type EngravedRow, type Notation, songSheet, USUAL_SHEET } from '.';

const start = newSong({ title: 'Weir', instrument: 'guitar', progression: 'G | C' });
const song = (words: string): Song => ({ ...start, pattern: said(words) });

/** The bars of a song as one row, a point wide for every ten ticks. */
function rowOf(of: Song, kind: EngravedRow['kind']): EngravedRow {
  const { bars, performance } = arrangement(of);
  return {
    kind,
    each: 400,
    size: 10,
    strings: of.instrument.strings.length,
    bars: bars.map((bar) => ({
      bar,
      strikes: performance.strikes.filter((strike) => strike.bar === bar.index),
      xOf: (ticks) => 10 + ticks / 10,
      fingers: new Map(),
    })),
  };
}
const letters = (row: EngravedRow) =>
  engrave(row).items.flatMap((item) => (item.kind === 'text' ? [item] : []));
const paths = (row: EngravedRow) =>
  engrave(row).items.flatMap((item) => (item.kind === 'path' ? [item.d] : []));

describe('tablature', () => {
  it('has the frets of every stroke on their strings, where the stroke is', () => {
    const frets = letters(rowOf(song('down, down, down, down'), 'tab'));
    // A G of six strings and a C of five, four times each.
    expect(frets).toHaveLength(4 * 6 + 4 * 5);
    const first = frets.slice(0, 6).sort((a, b) => b.y - a.y);
    expect(first.map(({ text }) => text)).toEqual(['3', '2', '0', '0', '0', '3']);
    // Four columns a bar, a beat apart: a fret stands in the middle of its place.
    frets.slice(0, 24).forEach(({ x }, index) => {
      expect(Math.abs(x - (7 + 96 * Math.floor(index / 6)))).toBeLessThan(3);
    });
  });

  it('has crosses for damped strokes, and letters for what joins two notes', () => {
    const strummed = paths(rowOf(song('down, down, down, down'), 'tab')).length;
    const damped = rowOf(song('chuck, chuck, chuck, chuck'), 'tab');
    expect(letters(damped)).toEqual([]);
    expect(paths(damped).length).toBeGreaterThanOrEqual(strummed + 4);
    const joined = letters(rowOf(song('s2f1 hammer:s2f3, down, down, down'), 'tab'));
    expect(joined.map(({ text }) => text)).toContain('H');
  });
});

describe('a hand without a pick', () => {
  /** The ways of the arrows, in order: from where to where each stem goes. */
  const arrows = (words: string) =>
    paths(rowOf(song(words), 'tab')).flatMap((d) => {
      const stem = /^M([\d.]+),([\d.]+)L\1,([\d.]+)M/.exec(d);
      return stem ? [Number(stem[3]) > Number(stem[2]) ? 'down' : 'up'] : [];
    });

  it('has arrows, and a pick has its signs', () => {
    expect(arrows('down.i up.i, down.p miss, roll miss, down up').slice(0, 4)).toEqual([
      'down',
      'up',
      'down',
      'down',
    ]);
    expect(arrows('down up, down miss, bass miss, down up')).toEqual([]);
    const bare = rowOf(song('down up, down miss, down up, down up'), 'tab');
    expect(paths({ ...bare, withoutPick: true })).not.toEqual(paths(bare));
  });

  it('has neither where letters of its fingers stand', () => {
    const row = rowOf(song('R.p miss, 3.i miss, R.p miss, 3.i miss'), 'tab');
    const bare = paths(row).length;
    const lettered = {
      ...row,
      bars: row.bars.map((bar) => ({
        ...bar,
        fingers: new Map(bar.strikes.map(({ tick }) => [tick, 'p'])),
      })),
    };
    expect(paths(lettered).length).toBe(bare - row.bars.length * 4);
    expect(letters(lettered).filter(({ text }) => text === 'p')).toHaveLength(8);
  });

  it('has strings with names at the head of the row, in the margin', () => {
    const row = { ...rowOf(song('down, down, down, down'), 'tab'), names: [...'EADGBE'] };
    const names = letters(row).filter(({ x }) => x < 0);
    expect(names.sort((a, b) => a.y - b.y).map(({ text }) => text)).toEqual([...'EBGDAE']);
  });
});

describe('the palm, a tap and a slap', () => {
  const words = 'palm-down palm-down, tap+down down, tap slap, palm-down down';
  it.each(['tab', 'slashes'] as const)('are named under the strokes, in %s', (kind) => {
    const row = rowOf(song(words), kind);
    const said = letters({ ...row, bars: row.bars.slice(0, 1) }).filter(({ text }) =>
      /P\.M\.|tap|slap/.test(text),
    );
    // The palm that stays on the strings is named once.
    expect(said.map(({ text, x }) => [text, Math.round((x - 10) / 48)])).toEqual([
      ['P.M.', 0],
      ['tap', 2],
      ['tap', 4],
      ['slap', 5],
      ['P.M.', 6],
    ]);
    const plain = engrave(rowOf(song('down down, down down, down down, down down'), kind));
    expect(engrave(row).height).toBeGreaterThan(plain.height);
  });
});

describe('slashes on a staff', () => {
  it('has a head for each stroke, and beams where they are shorter than a beat', () => {
    const quarters = paths(rowOf(song('down, down, down, down'), 'slashes'));
    const eighths = paths(rowOf(song('down up, down up, down up, down up'), 'slashes'));
    expect(eighths.length).toBeGreaterThan(quarters.length + 8);
    const { items, height } = engrave(rowOf(song('down up, down up, down up, down up'), 'slashes'));
    expect(height).toBeGreaterThan(20);
    expect(items.every(({ x, y }) => Number.isFinite(x) && Number.isFinite(y))).toBe(true);
  });

  it('has a three over triplets', () => {
    const three = letters(rowOf(song('down up down, down, down, down'), 'slashes'));
    const plain = letters(rowOf(song('down, down, down, down'), 'slashes'));
    expect(
      three.length + paths(rowOf(song('down up down, down, down, down'), 'slashes')).length,
    ).toBeGreaterThan(plain.length);
  });
});

describe('any valid song', () => {
  it('is engraved, with every number of its drawing a number', () => {
    const kinds = fc.constantFrom<Notation>('tab', 'slashes', 'path and tab', 'path and slashes');
    fc.assert(
      fc.property(documents, kinds, (document, notation) => {
        const { pages } = songSheet(document, { ...USUAL_SHEET, notation }, engrave);
        for (const item of pages.flatMap(({ items }) => items)) {
          if (item.kind === 'path') expect(item.d).not.toMatch(/NaN|Infinity|undefined/);
        }
      }),
      tries(40),
    );
  });
});
