import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { progressions } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { newSong, printProgression, readProgression } from '../song';
import { METERS } from '../time';
import { chartProgression, readChart, toChordPro } from '.';

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

  it.each([
    ['{title: Open\n[G]', 1, 1, 'brace'],
    ['[G]fine\nand [C broken', 2, 5, 'bracket'],
    ['[G]fine [Hx]wrong', 1, 10, '“Hx” is not a chord'],
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
});
