import { METERS } from '../time';
import { describe, expect, it } from 'vitest';
import { expanded, readHead, readTitle, tabBlocks } from './chartRows';
import { chartProgression, readChart } from './chordpro';

const TAB = [
  'e|-----0-----0-|-----0-------|',
  'B|---1---1-----|---1---1-----|',
  'G|-0---0---0---|-0---0-------|',
  'D|-------------|-------------|',
  'A|-3-----------|-3---h5------|',
  'E|-------------|-------------|',
];

describe('rows of a plain chart', () => {
  it('have the columns that tabulators give them', () => {
    expect(expanded('C\tG\t\tAm')).toBe('C       G               Am');
    expect(expanded('12345678\t9')).toBe('12345678        9');
  });

  it('are tablature where three to eight of them are strings', () => {
    expect(tabBlocks(['Intro', '', ...TAB, '', 'C G'])).toEqual([{ row: 2, strings: 6 }]);
    expect(tabBlocks([...TAB.slice(0, 4), '', ...TAB.slice(0, 3)])).toEqual([
      { row: 0, strings: 4 },
      { row: 5, strings: 3 },
    ]);
    expect(tabBlocks(TAB.slice(0, 2))).toEqual([]);
    expect(tabBlocks(['C - G - ', '| A | D |', 'Am - - -'])).toEqual([]);
    // Without names, as some are written.
    expect(tabBlocks(TAB.map((row) => row.slice(2)))).toEqual([{ row: 0, strings: 6 }]);
  });

  it.each([
    ['[Chorus] (2x)', { name: 'Chorus', times: 2 }],
    ['Chorus x3:', { name: 'Chorus', times: 3 }],
    ['Reach: x2', { name: 'Reach', times: 2 }],
    ['Verse 1:', { name: 'Verse 1', times: 1 }],
    ['Pre-Chorus', { name: 'Pre-Chorus', times: 1 }],
    ['bridge x2', { name: 'bridge', times: 2 }],
    ['Reach:', { name: 'Reach', times: 1 }],
    ['[Weir]', { name: 'Weir', times: 1 }],
    ['Reach', null],
    ['The chorus of the lock', null],
  ])('%s', (row, head) => {
    expect(readHead(row)).toEqual(head);
  });

  it.each([
    ['Lantern Evening (capo 2)', { title: 'Lantern Evening', capo: 2, tempo: null, meter: null }],
    ['Capo: 3rd fret', { title: null, capo: 3, tempo: null, meter: null }],
    ['Tempo 92', { title: null, capo: null, tempo: 92, meter: null }],
    ['Slow Water', { title: 'Slow Water', capo: null, tempo: null, meter: null }],
    ['Meter 6/8', { title: null, capo: null, tempo: null, meter: METERS['6/8'] }],
    ['capo 40', { title: null, capo: null, tempo: null, meter: null }],
  ])('say of the song: %s', (row, says) => {
    expect(readTitle(row)).toEqual(says);
  });
});

describe('a chart as it is found', () => {
  const text = [
    'Lantern Evening (capo 2)',
    '',
    'Intro',
    ...TAB,
    '',
    'Verse 1',
    '\tC\t\tG',
    '\tBoats on the\twater now',
    'and nothing over this',
    '[Chorus] (2x)',
    'F       G      C',
    'Light the lanterns all',
  ].join('\n');
  const read = readChart(text);
  if ('problem' in read) throw new Error(read.problem.message);
  const { chart } = read;

  it('has title, capo, heads and how often', () => {
    expect([chart.title, chart.capo]).toEqual(['Lantern Evening', 2]);
    expect(chartProgression(chart, 'bar')).toBe(
      'Intro:\nC | .\nVerse 1:\nC | G\nChorus:\nF | G | C\nOrder: Intro, Verse 1, Chorus, Chorus',
    );
  });

  it('tells all that is left out, with its line, and nothing else', () => {
    expect(chart.left).toEqual([{ line: 14, text: 'and nothing over this' }]);
  });

  it('tells a second title, and reads rows of any length without going back over them', () => {
    const two = readChart('Weir\nas the circle plays it\nC G');
    if ('problem' in two) throw new Error(two.problem.message);
    expect(two.chart.title).toBe('Weir');
    expect(two.chart.left).toEqual([{ line: 2, text: 'as the circle plays it' }]);
    const wide = ' '.repeat(200_000);
    for (const row of [
      `${wide}q`,
      `capo${wide}q`,
      `-${wide}-${wide}q`,
      `last${wide}(q`,
      'a'.repeat(200_000),
    ]) {
      expect(readChart(`C G\n${row}\nC\n${row}`)).toBeDefined();
    }
  });

  it('keeps words whole where a chord stands over their edge', () => {
    const verses = chart.sections
      .slice(1)
      .map(({ lines }) => lines[0]!.verses![0]!.map((piece) => piece.text));
    expect(verses).toEqual([
      ['Boats on the', 'water now'],
      ['Light', 'the lante-', 'rns all'],
    ]);
  });
});
