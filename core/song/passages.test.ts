import { describe, expect, it } from 'vitest';
import { arrange, writtenBars, arrangement } from '../arrange';
import { INSTRUMENTS } from '../neck';
import { songSchema } from '../schema';
import { METERS } from '../time';
import { passageName, passageWords } from './passages';
import { toChordPro } from '../formats/writeChordPro';
import { readProgression } from './progression';
import { printProgression } from './progressionPrint';
import { newSong, songChords } from './song';
import { playedBars } from './timeline';
import { lyricsByBar, withWords } from './words';

const VERSE = ['Verse:', 'A | D', '1) E7 | %', 'last) <F#m | A[2=A7]'];
const songOf = (order: string, verse = VERSE) =>
  newSong({
    title: 'Staircase',
    instrument: 'guitar',
    progression: [...verse, `Order: ${order}`].join('\n'),
  });
const chords = (song: ReturnType<typeof songOf>) =>
  playedBars(song)
    .map(({ content }) => content.chords.map(({ symbol }) => symbol).join(' '))
    .join(' | ');

describe('a passage in another key', () => {
  const song = songOf('Verse, Verse +1');

  it('has its chords and what stands in for them there, spelled as that key is', () => {
    expect(chords(song)).toBe('A | D | E7 | E7 | Bb | Eb | Gm | Bb7');
    expect(chords(songOf('Verse, Verse +2'))).toBe('A | D | E7 | E7 | B | E | G#m | B7');
    expect(chords(songOf('Verse -2'))).toBe('G | C | D7 | D7 | Em | G');
    // Pushes and times stay.
    expect(playedBars(song)[6]!.content.chords[0]!.push).toBe(480);
    expect(songSchema.parse(song)).toEqual(song);
  });

  it('is played on shapes of its own, and its chords are chords of the song', () => {
    expect(songChords(song)).toEqual(['A', 'D', 'E7', 'F#m', 'A7', 'Bb', 'Eb', 'F7', 'Gm', 'Bb7']);
    const { strikes } = arrange(song);
    const last = strikes.find(({ bar }) => bar === 4)!;
    expect(last.chord).toBe('Bb');
    expect(last.notes.map(({ fret }) => fret)).toEqual([1, 3, 3, 3, 1]);
  });

  it('takes rhythms of its chords and lines of notes with it', () => {
    const chuck = { ...song.pattern, name: 'Stopped' };
    const own = { ...song, chordPatterns: [{ symbol: 'D', pattern: chuck }] };
    const parts = arrangement(own).rhythms.map((row) => row[0]!.source);
    expect(parts).toEqual(['song', 'chord', 'song', 'song', 'song', 'chord', 'song', 'song']);

    const tune = { notes: [{ at: 0, ticks: 960, string: 3, fret: 0 }] };
    const [verse] = song.sections;
    const [first, ...lines] = verse!.lines;
    const bars = first!.bars.with(0, { ...first!.bars[0]!, rules: { tune } });
    const sung = { ...song, sections: [{ ...verse!, lines: [{ ...first!, bars }, ...lines] }] };
    const noteOf = (bar: number) => playedBars(sung)[bar]!.content.rules?.tune?.notes[0];
    expect(noteOf(0)).toMatchObject({ string: 3, fret: 0 });
    expect(noteOf(4)).toMatchObject({ string: 3, fret: 1 });
    // Nobody knows the strings of a song without an instrument.
    const { instrument: _, ...bare } = sung;
    expect(playedBars(bare)[4]!.content.rules?.tune).toBeUndefined();
  });

  it('is drawn as it is written, and named by how far it is', () => {
    const [section] = writtenBars(arrangement(songOf('Verse +2, Verse')));
    expect(section!.lines[0]!.map(({ flags }) => flags[0]!.symbol)).toEqual(['A', 'D']);
    expect(passageName(song, playedBars(song)[4]!)).toBe('Verse +1');
    expect(passageName(song, playedBars(song)[0]!)).toBe('Verse');
    expect(passageWords({ name: 'Verse', times: 2, shift: -3 })).toBe('Verse −3 ×2');
    expect(passageWords({ name: 'Verse', times: 1, lastLines: 2 })).toBe('last 2 lines of Verse');
  });
});

describe('the end of a section alone', () => {
  it('is no time round: endings and substitutes come as without it, and nobody sings', () => {
    const song = songOf('last line of Verse, Verse, Verse');
    expect(chords(song)).toBe('E7 | E7 | A | D | E7 | E7 | A | D | F#m | A7');
    const [verse] = song.sections;
    const [first, second, third] = verse!.lines;
    const bars = withWords(second!.bars, 1, [[{ at: 0, text: 'Lock' }], []]);
    const sections = [{ ...verse!, lines: [first!, { ...second!, bars }, third!] }];
    const sung = { ...song, sections };
    const words = lyricsByBar(sung, playedBars(sung)).map((row) => row.map(({ text }) => text));
    expect(words.flat()).toEqual(['Lock']);
    expect(words[4]).toEqual(['Lock']);
  });

  it('may be two lines, in another key, twice', () => {
    const song = songOf('last 2 lines of Verse +2 x2', ['Verse:', 'A', 'D', 'E']);
    expect(chords(song)).toBe('E | F# | E | F#');
  });
});

describe('the order as text', () => {
  const { sections, meter } = songOf('Verse');
  const read = (order: string, names = ['Verse']) =>
    readProgression(`${names.map((name) => `${name}:\nA`).join('\n')}\nOrder: ${order}`, meter);

  it('reads keys and ends, and prints what reads back', () => {
    for (const [text, passage] of [
      ['Verse +2', { name: 'Verse', times: 1, shift: 2 }],
      ['Verse −1 x3', { name: 'Verse', times: 3, shift: -1 }],
      ['Verse+5', { name: 'Verse', times: 1, shift: 5 }],
      ['last line of Verse', { name: 'Verse', times: 1, lastLines: 1 }],
      ['Last 3 lines of Verse -2 x2', { name: 'Verse', times: 2, shift: -2, lastLines: 3 }],
    ] as const) {
      const { order, problems } = read(text);
      expect(problems).toEqual([]);
      expect(order).toEqual([passage]);
      const printed = printProgression(sections, meter, order);
      expect(readProgression(printed, meter).order).toEqual(order);
    }
  });

  it('means a section that is called just so', () => {
    const names = ['Verse', 'Verse +2', 'last line of Verse'];
    expect(read('Verse +2, last line of Verse', names).order).toEqual([
      { name: 'Verse +2', times: 1 },
      { name: 'last line of Verse', times: 1 },
    ]);
    const order = [
      { name: 'Verse', times: 1, shift: 2 },
      { name: 'Verse', times: 1, lastLines: 1 },
    ];
    const parts = read('Verse', names).sections;
    const printed = printProgression(parts, meter, order);
    expect(readProgression(printed, meter).order).toEqual(order);
  });

  it('says so where a key is too far, or no section has the name', () => {
    const far = read('Verse +12');
    expect(far.problems[0]!.message).toMatch(/up to 11 half steps/);
    expect(far.order).toEqual([{ name: 'Verse', times: 1 }]);
    expect(read('Bridge +2').problems[0]!.message).toMatch(/“Bridge”/);
    expect(read('Verse-two').order).toEqual([{ name: 'Verse-two', times: 1 }]);
  });

  it('is kept by ukuleles too, whose shapes are their own', () => {
    const song = { ...songOf('Verse, Verse +3'), instrument: INSTRUMENTS.ukulele };
    const struck = arrange(song).strikes.find(({ bar }) => bar === 4)!;
    expect(struck.chord).toBe('C');
    expect(struck.notes.map(({ fret }) => fret)).toEqual([0, 0, 0, 3]);
  });
});

describe('a passage in another key in files for others', () => {
  it('has a grid of its own in ChordPro, and comes back from our own line', () => {
    const text = toChordPro(songOf('Verse, Verse +2, Verse +2'));
    expect(text).toMatch(/\{start_of_grid: Verse \+2\}\n\| B/);
    expect(text.match(/start_of_grid: Verse \+2/g)).toHaveLength(1);
    expect(text).toMatch(/Order: Verse, Verse \+2, Verse \+2/);
  });
});

describe('endings', () => {
  it('are counted in each passage that repeats, or over the song where the text says so', () => {
    const order = 'Verse x2, Tag, Verse x2';
    const verse = [...VERSE, 'Tag:', 'N.C.'];
    const twice = 'A | D | E7 | E7 | A | D | F#m | A7';
    expect(chords(songOf(order, verse))).toBe(`${twice} | N.C. | ${twice}`);
    const over = songOf(`${order}\nEndings: over the song`, verse);
    expect(over.endings).toBe('song');
    expect(chords(over)).toBe('A | D | E7 | E7 | A | D | N.C. | A | D | A | D | F#m | A');
    expect(songSchema.parse(over)).toEqual(over);
    expect(printProgression(over.sections, over.meter, over.order, over)).toMatch(
      /\nEndings: over the song$/,
    );
  });

  it('are kept as they were played in a document of an earlier version', () => {
    const earlier = (song: ReturnType<typeof songOf>) =>
      songSchema.parse({ ...song, schema: 8, pattern: { ...song.pattern, schema: 8 } });
    const repeated = songOf('Verse x2, Tag, Verse x2', [...VERSE, 'Tag:', 'N.C.']);
    expect(earlier(repeated).endings).toBe('song');
    for (const order of ['Verse x2', 'Verse, Tag, Verse', 'Tag x2, Verse, Tag x2']) {
      const song = songOf(order, [...VERSE, 'Tag:', 'N.C.']);
      expect(earlier(song)).toEqual(song);
    }
    const only = songOf('Verse x2, Tag, Verse x2', ['Verse:', 'A | D', 'Tag:', 'N.C.']);
    expect(earlier(only).endings).toBeUndefined();
  });

  it('that never come are told, with what to write', () => {
    const problems = (text: string) =>
      readProgression(text, METERS['4/4']).problems.map(({ from, to, message }) => [
        text.slice(from, to),
        message,
      ]);
    expect(problems('Verse:\nA\n1) D\n2) E')).toEqual([
      ['2)', '“2)” is never played: Verse comes only once. Write “Order: Verse x2”.'],
    ]);
    expect(problems('Verse:\nA\n1) D\n3) E\nOrder: Verse x2')[0]![1]).toContain(
      'Verse comes only 2 times in a row. Write “Order: Verse x3”.',
    );
    expect(problems('A\n2) E')[0]![1]).toContain('Give it a name and an order');
    expect(problems('Verse:\nA\n1) D\n2) E\nOrder: Verse x2')).toEqual([]);
    // A section that is left out of the order is not meant now.
    expect(problems('Verse:\nA\n2) E\nTag:\nA\nOrder: Tag')).toEqual([]);
    expect(problems('A\nEndings: somehow')[0]![0]).toBe('somehow');
  });
});
