import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { progressions } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { newSong, printProgression, readProgression } from '../song';
import { METERS } from '../time';
import { chartProgression, readChart } from '.';
import { toChordPro } from './writeChordPro';

function chart(text: string) {
  const answer = readChart(text);
  if (!('chart' in answer)) throw new Error(answer.problem.message);
  return answer.chart;
}

const SHEET = `{title: Lamps on the Cut}
{tempo: 96}
{time: 3/4}
{capo: 2}
# a remark
{start_of_verse}
[G]Here is a [Em]line of words
and [C]one more [D7]line
{end_of_verse}
{soc}
[G] [C]
{eoc}
{start_of_verse}
[Em]Other [D]words
{end_of_verse}
{chorus}`;

describe('reading ChordPro', () => {
  it('takes title, tempo, meter and capo, and the chords of each section', () => {
    const sheet = chart(SHEET);
    expect(sheet).toMatchObject({
      title: 'Lamps on the Cut',
      tempo: 96,
      capo: 2,
      meter: METERS['3/4'],
    });
    expect(chartProgression(sheet, 'bar')).toBe(
      'Verse:\nG | Em\nC | D7\nChorus:\nG | C\nVerse 2:\nEm | D\nOrder: Verse, Chorus, Verse 2, Chorus',
    );
    expect(chartProgression(sheet, 'half')).toMatch(/^Verse:\nG Em\nC D7\n/);
    expect(chartProgression(sheet, 'two')).toMatch(/^Verse:\nG \| \. \| Em \| \./);
  });

  it('keeps the bars of a grid', () => {
    expect(
      chartProgression(
        chart('{sog: Intro}\n| G . . . | C . D . |\n||: Em / / / :||\n{eog}'),
        'bar',
      ),
    ).toBe('Intro:\nG . . . | C . D .\nEm . . .');
  });

  it('reads a plain chart, and passes over its words', () => {
    const plain = 'Verse:\nG     Em\nnothing but words\nC  D7\n[Chorus]\n| G | C D |\n';
    expect(chartProgression(chart(plain), 'bar')).toBe('Verse:\nG | Em\nC | D7\nChorus:\nG | C D');
  });

  it('loses no line for a word among its chords, and lists what was left', () => {
    const read = chart(
      '[Verse]\nG   riff  D\nnothing but words\n| G | D | riff | Em |\n[G]fine [Lx]wrong',
    );
    expect(chartProgression(read, 'bar')).toBe('Verse:\nG | D\nG | D | . | Em\nG');
    expect(read.left).toEqual([
      { line: 2, text: 'riff' },
      { line: 4, text: 'riff' },
      { line: 5, text: 'Lx' },
    ]);
    // Words that happen to be chords are no line of chords.
    expect(readChart('A day on the cut\nAm I late')).toHaveProperty('problem');
  });

  it.each([
    ['Intro: G D Em C\nVerse:\nG', 'Intro:\nG | D | Em | C\nVerse:\nG'],
    ['Intro: | G | D | (x2)', 'Intro:\nG | D x2'],
    ['G D Em C (x2)\nC D x3\nG 2x', 'Song:\nG | D | Em | C x2\nC | D x3\nG x2'],
    ['B7(b9) | E', 'Song:\nB7(b9) | E'],
    ['G | D  | (x2)\nEm | C', 'Song:\nG | D x2\nEm | C'],
  ])('reads %j as it is written in the wild', (text, line) => {
    expect(chartProgression(chart(text), 'bar')).toBe(line);
  });

  it('takes H for B where a chart writes it, and asks about its B', () => {
    const read = chart('H7 | E | B\nHm A');
    expect(read.german).toBe(true);
    expect(chartProgression(read, 'bar')).toBe('Song:\nB7 | E | Bb\nBm | A');
    expect(chartProgression(read, 'bar', false)).toBe('Song:\nB7 | E | B\nBm | A');
    expect(chart('B | E').german).toBe(false);
  });

  it.each([
    ['{title: Open\n[G]', 1, 1, 'brace'],
    ['[G]fine\nand [C broken', 2, 5, 'bracket'],
    ['just words', 1, 1, 'no chord in this file'],
    ['', 1, 1, 'no chord'],
  ])('says where %j cannot be read', (text, line, column, message) => {
    const answer = readChart(text);
    expect(answer).toMatchObject({
      problem: { line, column, message: expect.stringContaining(message) },
    });
  });

  it('takes any text without failing', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 120 }), (text) => {
        const answer = readChart(text);
        expect('chart' in answer || answer.problem.line > 0).toBe(true);
      }),
    );
  });
});

describe('writing ChordPro', () => {
  it('says the chord that sounds where a section begins without one', () => {
    const song = newSong({
      title: 'Weir',
      instrument: 'guitar',
      progression: 'Verse:\nA | D\nTag:\n. | A',
    });
    expect(toChordPro(song)).toContain('{start_of_grid: Tag}\n| D . . . | A . . . |');
  });

  it('writes grids that any reader can show', () => {
    const song = newSong({
      title: 'Weir',
      instrument: 'guitar',
      progression: 'Verse:\nA | D <E7 | A',
    });
    const text = toChordPro(song);
    expect(text).toContain('{title: Weir}');
    expect(text).toContain(
      '{start_of_grid: Verse}\n| A . . . | D . E7 . | A . . . |\n{end_of_grid}',
    );
  });

  it('reads back what it wrote, whatever the song', () => {
    fc.assert(
      fc.property(progressions, fc.constantFrom('4/4', '3/4', '6/8'), (progression, name) => {
        const meter = METERS[name as '4/4'];
        const song = newSong({ title: 'Any', instrument: 'ukulele', meter, progression });
        if (song.sections.length === 0) return;
        const back = readProgression(chartProgression(chart(toChordPro(song)), 'bar'), meter);
        const plain = (text: string) => text.replaceAll(/[{}]/g, '');
        expect(printProgression(back.sections, meter, back.order)).toBe(
          plain(printProgression(song.sections, meter, song.order)),
        );
      }),
      tries(200),
    );
  });
});

describe('what grids cannot say', () => {
  it('comes back by the line of text: meters, pick-ups, other chords, held ones, the order', () => {
    const progression = [
      'Verse:',
      '(pickup 1) E7 | A[2=Am7,last=A6] | (2/4) D | <E7',
      'Tag:',
      'last) A~',
      'Order: Verse x2, Tag',
    ].join('\n');
    const song = newSong({ title: 'Bollard', instrument: 'guitar', progression });
    const text = toChordPro(song);
    expect(text).toContain('| E7 | A . . . | D . | E7 . . . |');
    expect(chartProgression(chart(text), 'bar')).toBe(progression);
  });

  it('that is longer than a song can be is refused at once, with the place', () => {
    const line = 'Row the [C]boat to the [G7]lock\n';
    const answer = readChart(line.repeat(300_000));
    if (!('problem' in answer)) throw new Error('it was read');
    expect(answer.problem.message).toContain('longer than a song can be');
    expect(answer.problem.line).toBe(1 + Math.floor(1_000_000 / line.length));
  });
});
