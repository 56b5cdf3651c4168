import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documents } from '../arbitraries.test-kit';
import { commands, rhythmCommands } from '../edit';
import { tries } from '../properties.test-kit';
import { type Song, songSchema, wordsSchema } from '../schema';
import { METERS } from '../time';
import { barLength, playedBars } from './timeline';
import { newSong } from './song';
import { joinedWords, piecesOf, printWords, readWords, lyricsByBar, versesOf } from './words';

const four = barLength({}, METERS['4/4']);
const three = barLength({}, METERS['3/4']);
const pieces = (text: string, bars = [four, four]) => {
  const read = readWords(text, bars);
  if ('problem' in read) throw new Error(read.problem.message);
  return read.bars;
};

describe('the words of a line', () => {
  it('lie on beats, and on parts of them where they are more', () => {
    expect(pieces('Low- er the_lan- terns')[0]).toEqual([
      { at: 0, text: 'Low-' },
      { at: 960, text: 'er' },
      { at: 1920, text: 'the lan-' },
      { at: 2880, text: 'terns' },
    ]);
    expect(pieces('a b c d e . g')[0]!.map(({ at }) => at)).toEqual([
      0, 480, 960, 1440, 1920, 2880,
    ]);
    expect(pieces('. . now | | ', [three, three])).toEqual([[{ at: 1920, text: 'now' }], []]);
  });

  it('say what they cannot be', () => {
    expect(readWords('a | b | c', [four, four])).toEqual({
      problem: { from: 7, to: 9, message: 'The line has 2 bars.' },
    });
    const much = Array.from({ length: 17 }, () => 'la').join(' ');
    expect(readWords(`go | ${much}`, [four, four])).toMatchObject({
      problem: { from: 4, message: 'More words than bar 2 of the line has places.' },
    });
    expect(readWords('/0 a', [four])).toHaveProperty('problem');
  });

  it('are printed so that they are read back, wherever they lie on a grid that can be said', () => {
    const grid = fc
      .constantFrom(1, 2, 3, 4, 6, 8)
      .chain((parts) =>
        fc
          .uniqueArray(fc.integer({ min: 0, max: 4 * parts - 1 }), { minLength: 1, maxLength: 9 })
          .map((places) =>
            places
              .sort((a, b) => a - b)
              .map((place) => ({ at: (place * 960) / parts, text: `la${place}-` })),
          ),
      );
    fc.assert(
      fc.property(fc.array(grid, { minLength: 1, maxLength: 4 }), (rows) => {
        const bars = rows.map((row) => ({
          chords: [],
          rules: { words: row.map((piece) => ({ ...piece, verse: 2 })) },
        }));
        const text = printWords({ bars, times: 1 }, METERS['4/4'], 2);
        expect(
          pieces(
            text,
            rows.map(() => four),
          ),
        ).toEqual(rows);
      }),
      tries(150),
    );
  });

  it('of any document are printed as something that can be read', () => {
    fc.assert(
      fc.property(documents, (song) => {
        for (const line of song.sections.flatMap(({ lines }) => lines)) {
          const lengths = line.bars.map((bar) => barLength(bar, song.meter));
          for (const verse of versesOf(line)) {
            const inside = line.bars.every((bar, index) =>
              piecesOf(bar, verse).every(({ at }) => at < lengths[index]!.ticks),
            );
            const read = readWords(printWords(line, song.meter, verse), lengths);
            if (inside) expect(read).toHaveProperty('bars');
          }
        }
      }),
      tries(60),
    );
  });

  it('are refused by a document where they come out of order, or with signs of the line', () => {
    const one = { verse: 1, at: 0, text: 'now' };
    expect(wordsSchema.safeParse([one, { ...one, at: 960 }, { ...one, verse: 2 }]).success).toBe(
      true,
    );
    for (const words of [
      [one, one],
      [{ ...one, verse: 2 }, one],
      [{ ...one, text: 'a|b' }],
      [{ ...one, text: 'a_b' }],
      [{ ...one, text: '..' }],
    ]) {
      expect(wordsSchema.safeParse(words).success).toBe(false);
    }
  });

  it('are joined at their hyphens', () => {
    expect(joinedWords(['Low-', 'er', 'the lan-', 'terns,', 'slow-'])).toBe(
      'Lower the lanterns, slow-',
    );
  });
});

describe('words in a song', () => {
  const base = newSong({
    title: 'Lanterns',
    instrument: 'guitar',
    progression: 'Verse:\nG | C\nReach:\nD | G\nOrder: Verse, Reach, Verse, Reach',
  });
  const write = (song: Song, section: number, verse: number, text: string) =>
    rhythmCommands.setWords(section, 0, verse, pieces(text)).apply(song);
  const song = write(
    write(write(base, 0, 1, 'Low- er | down'), 0, 2, 'Lift . it | up'),
    1,
    1,
    'All of us | home',
  );

  it('are sung verse by verse as a part comes round, and the last again', () => {
    const sung = lyricsByBar(song, playedBars(song)).map((row) =>
      joinedWords(row.map(({ text }) => text)),
    );
    expect(sung).toEqual([
      'Lower',
      'down',
      'All of us',
      'home',
      'Lift it',
      'up',
      'All of us',
      'home',
    ]);
    expect(songSchema.safeParse(song).success).toBe(true);
  });

  it('stay with their bars while the line is typed again', () => {
    const line = 'Verse:\nG | Am\nReach:\nD7 | G | G\nOrder: Verse, Reach, Verse, Reach';
    const retyped = commands.setProgression(line).apply(song);
    const texts = (at: number) => printWords(retyped.sections[at]!.lines[0]!, song.meter, 1);
    expect(texts(0)).toBe('Low- er | down');
    expect(texts(1)).toContain('home');
  });

  it('are let go where the bar is shorter than they lie', () => {
    const waltz = commands.setMeter(METERS['2/4']).apply(write(base, 0, 1, 'a b c d'));
    expect(printWords(waltz.sections[0]!.lines[0]!, METERS['2/4'], 1)).toBe('a b');
  });

  it('are taken away verse by verse, and leave nothing behind', () => {
    const none = write(write(song, 0, 1, ''), 0, 2, '');
    expect(none.sections[0]).toEqual(base.sections[0]);
    expect(write(song, 0, 2, '').sections[0]!.lines[0]!.bars[0]!.rules!.words).toHaveLength(2);
  });
});
