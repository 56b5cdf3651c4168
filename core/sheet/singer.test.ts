import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documents } from '../arbitraries.test-kit';
import { arrangement } from '../arrange';
import { newSong, readWords, songTicks } from '../song';
import { rhythmCommands } from '../edit';
import { tries } from '../properties.test-kit';
import { METERS } from '../time';
import { cuesOf } from './cues';
import { songSheet, USUAL_SHEET } from './layout';
import { textWidth } from './paper';
import { sungLines } from './singer';

const FOUR = Array.from({ length: 4 }, () => ({ ticks: 3840, meter: METERS['4/4'] }));

/** A verse that comes twice, with other words the second time, and a line without any. */
function lanterns() {
  const song = newSong({
    title: 'Lanterns',
    instrument: 'guitar',
    progression: 'Verse:\nA | Bm | D . <E7 . | A x2\nTurn:\nD | A',
  });
  const verse = (number: number, text: string) => {
    const reading = readWords(text, FOUR);
    if ('problem' in reading) throw new Error(reading.problem.message);
    return rhythmCommands.setWords(0, 0, number, reading.bars);
  };
  return [
    verse(1, 'Loose the ropes at | first light, | let the wa- ter | go.'),
    verse(2, 'Smoke is on the | lan- tern | low and the ket- | tle.'),
  ].reduce((now, { apply }) => apply(now), song);
}
const wish = { ...USUAL_SHEET, audience: 'singer' as const };
const textsOf = (song: ReturnType<typeof lanterns>) =>
  songSheet(song, wish).pages.flatMap(({ items }) =>
    items.flatMap((item) => (item.kind === 'text' ? [item] : [])),
  );

describe('a singer’s sheet', () => {
  it('has the words as they are sung, verse after verse, chords over their syllables', () => {
    const lines = sungLines(arrangement(lanterns()));
    expect(lines.map(({ section, opens }) => [section, opens])).toEqual([
      ['Verse', true],
      ['Verse', false],
      ['Turn', true],
    ]);
    // What no chord parts is one word.
    expect(lines[0]!.row).toEqual([
      { chord: 'A', text: 'Loose' },
      { chord: null, text: 'the' },
      { chord: null, text: 'ropes' },
      { chord: null, text: 'at' },
      { chord: 'Bm', text: 'first' },
      { chord: null, text: 'light,' },
      { chord: 'D', text: 'let' },
      { chord: null, text: 'the' },
      { chord: 'E7', text: 'water' },
      { chord: 'A', text: 'go.' },
    ]);
    expect(lines[1]!.row.map(({ text }) => text).join(' ')).toMatch(/^Smoke is on the lantern low/);
    // A word that a chord parts stays in two.
    expect(lines[1]!.row.slice(-2)).toEqual([
      { chord: null, text: 'ket-' },
      { chord: 'A', text: 'tle.' },
    ]);
    // Where nobody sings the chords stand by themselves.
    expect(lines[2]!.row).toEqual([
      { chord: 'D', text: '' },
      { chord: 'A', text: '' },
    ]);
  });

  it('has nothing else, larger than a player’s', () => {
    const texts = textsOf(lanterns());
    expect(texts.some(({ text }) => /wrist|Bass|Chords|down/i.test(text))).toBe(false);
    expect(texts.find(({ text }) => text === 'Loose')!.size).toBeGreaterThan(12);
  });

  it('names every chord of any song, inside the margins', () => {
    fc.assert(
      fc.property(documents, (song) => {
        const lines = sungLines(arrangement(song));
        const named = lines.flatMap(({ row }) => row.flatMap(({ chord }) => chord ?? []));
        const { performance, bars } = arrangement(song);
        // What is written beyond the end of the last bar is not heard.
        const inside = performance.landings.filter(({ tick }) => tick < songTicks(bars));
        for (const { symbol } of inside) expect(named).toContain(symbol);
        for (const { items, width } of songSheet(song, wish).pages) {
          for (const item of items) {
            if (item.kind !== 'text') continue;
            const wide = textWidth(item.text, item.size, item.weight);
            const from = item.anchor === 'end' ? item.x - wide : item.x;
            expect(from).toBeGreaterThan(20);
            expect(from + wide).toBeLessThan(width - 20);
          }
        }
      }),
      tries(30),
    );
  });
});

describe('a leader’s sheet', () => {
  it('has the order with its bars, and what each part opens and ends on', () => {
    const song = lanterns();
    expect(cuesOf(arrangement(song))).toEqual([
      { section: 'Verse', first: 1, last: 8, opens: 'A', ends: 'A' },
      { section: 'Turn', first: 9, last: 10, opens: 'D', ends: 'A' },
    ]);
    const texts = songSheet(song, { ...USUAL_SHEET, audience: 'leader' }).pages[0]!.items;
    const words = texts.flatMap((item) => (item.kind === 'text' ? [item.text] : []));
    expect(words).toContain('2. Turn: bars 9 to 10 · 2 bars · from D to A');
  });

  it('says for whom it is, by name where there is one', () => {
    const { items } = songSheet(lanterns(), { ...wish, reader: 'Moss' }).pages[0]!;
    const words = items.flatMap((item) => (item.kind === 'text' ? [item.text] : []));
    expect(words.some((text) => text.endsWith('for Moss'))).toBe(true);
  });
});
