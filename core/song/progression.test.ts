import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { progressions } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { type Meter, sectionSchema, type Song, songSchema } from '../schema';
import { parsePattern } from '../stroke';
import { METER_NAMES, METERS } from '../time';
import { arrange } from '../arrange';
import { newSong, playedBars, printProgression, readProgression, songChords, songKey } from '.';
import { commands } from '../edit';
import { parseChord } from '../neck';

const four: Meter = METERS['4/4'];
const three: Meter = METERS['3/4'];

/** Chords of each bar of the first line as "at:symbol", a push after a minus. */
function bars(text: string, meter = four): string[] {
  return readProgression(text, meter).sections[0]!.lines[0]!.bars.map((bar) =>
    bar.unread !== undefined
      ? `?${bar.unread}`
      : bar.chords
          .map(({ at, push, symbol }) => `${at}${push ? `-${push}` : ''}:${symbol}`)
          .join(' '),
  );
}

/** The underlined words and what is said of them. */
function problems(text: string, meter = four): [string, string][] {
  return readProgression(text, meter).problems.map(({ from, to, message }) => [
    text.slice(from, to),
    message,
  ]);
}

describe('reading a progression', () => {
  it('reads bars, shared bars, dots and the bar before', () => {
    expect(bars('A | F#m | D . E7 . | %')).toEqual(['0:A', '0:F#m', '0:D 1920:E7', '0:D 1920:E7']);
    expect(bars('A D')).toEqual(['0:A 1920:D']);
    expect(bars('A . . D | A B C D')).toEqual(['0:A 2880:D', '0:A 960:B 1920:C 2880:D']);
    expect(bars('A D', three)).toEqual(['0:A 1440:D']);
    expect(bars('C . . G . .', METERS['6/8'])).toEqual(['0:C 1440:G']);
  });

  it('reads chords that land early, and a chord held over the bar', () => {
    expect(bars('A | <E7 | D . <<G .')).toEqual(['0:A', '0-480:E7', '0:D 1920-240:G']);
    expect(bars('A | . | . . E7 .')).toEqual(['0:A', '', '1920:E7']);
  });

  it('reads sections, repeats and outer bar lines', () => {
    const { sections, problems: none } = readProgression(
      'Verse:\n| A | D | x2\nE7\n\nChorus:\nA',
      four,
    );
    expect(none).toEqual([]);
    expect(sections.map(({ name, lines }) => [name, lines.map((line) => line.times)])).toEqual([
      ['Verse', [2, 1]],
      ['Chorus', [1]],
    ]);
    expect(sections[0]!.lines[0]!.bars).toHaveLength(2);
  });

  it('underlines a chord it does not know and keeps it in its place', () => {
    expect(problems('A | Hm7 | D')).toEqual([
      ['Hm7', expect.stringContaining('not a chord we know')],
    ]);
    expect(bars('A | Hm7 | D')).toEqual(['0:A', '0:Hm7', '0:D']);
    expect(problems('A | <Q')).toEqual([['Q', expect.any(String)]]);
  });

  it.each([
    ['A B C', 'A B C', '3 chords cannot share 4 beats equally'],
    ['A | D . E7 | A', 'D . E7', 'fills 3 of 4 beats: add a dot'],
    ['A | D . . . E7', 'D . . . E7', 'fills 5 of 4 beats: take some out'],
    ['% | A', '%', 'no bar before'],
    ['<A | D', '<A', 'first chord of all'],
    ['A | <<<D', '<<<D', 'no more'],
    ['A | x2 D', 'x2', 'end of its line'],
    ['A | D x40', 'x40', '1 to 32 times'],
    [':\nA', ':', 'section needs a name'],
    ['A | <. D', '<.', 'cannot be read as a chord'],
  ])('says what is wrong with %j, and where', (text, place, message) => {
    expect(problems(text)).toEqual([[place, expect.stringContaining(message)]]);
  });

  it('underlines an empty bar between its bar lines', () => {
    const [[place, message]] = problems('A | | D') as [[string, string]];
    expect(place.trim()).toBe('');
    expect(message).toContain('This bar is empty');
    expect(bars('A | | D')).toEqual(['0:A', '?', '0:D']);
  });

  it('waits with a repeat until the bar before it can be read', () => {
    expect(bars('A B C | %')).toEqual(['?A B C', '?%']);
    expect(problems('A B C | %')).toHaveLength(1);
  });

  it('loses nothing of a bar it cannot read, and reads the rest', () => {
    expect(bars('A | B C D | E7')).toEqual(['0:A', '?B C D', '0:E7']);
  });
});

describe('printing a progression', () => {
  it('prints what was typed, in one way', () => {
    const text = 'Verse:\n|A|A|D . E7 .|D . . E7| . |<D x2';
    expect(printProgression(readProgression(text, four).sections, four)).toBe(
      'Verse:\nA | % | D E7 | D . . E7 | . | <D x2',
    );
  });

  it('reads back to the same bars, whatever was typed', () => {
    fc.assert(
      fc.property(progressions, fc.constantFrom(...METER_NAMES), (text, name) => {
        const meter = METERS[name];
        const { sections, order } = readProgression(text, meter);
        const printed = printProgression(sections, meter, order);
        const again = readProgression(printed, meter);
        expect(again.sections).toEqual(sections);
        expect(again.order).toEqual(order);
        expect(printProgression(again.sections, meter, again.order)).toBe(printed);
        sections.forEach((section) => expect(sectionSchema.parse(section)).toEqual(section));
      }),
      tries(600),
    );
  });

  it('takes any text at all without failing, and keeps every problem inside it', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 80 }), (text) => {
        const reading = readProgression(text, four);
        for (const { from, to } of reading.problems) {
          expect(from).toBeGreaterThanOrEqual(0);
          expect(to).toBeGreaterThan(from);
          expect(from).toBeLessThanOrEqual(text.length);
        }
        reading.sections.forEach((section) => sectionSchema.parse(section));
      }),
      tries(600),
    );
  });
});

describe('order and endings', () => {
  const text = [
    'Verse:',
    'A | D',
    '1) E7 | %',
    'last) E7 | A x2',
    'Chorus:',
    'D | A',
    'Order: Verse, Chorus x2, Verse',
  ].join('\n');
  const song = newSong({ title: 'Staircase', instrument: 'guitar', progression: text });
  const chords = (of: Song) =>
    playedBars(of)
      .map(({ content }) => content.chords.map(({ symbol }) => symbol).join(' '))
      .join(' | ');

  it('are read, played and printed', () => {
    expect(chords(song)).toBe('A | D | E7 | E7 | D | A | D | A | A | D | E7 | A | E7 | A');
    expect(
      playedBars(song)
        .map(({ passage }) => passage)
        .join(''),
    ).toBe('00001122333333');
    expect(printProgression(song.sections, song.meter, song.order)).toBe(text);
    expect(songSchema.parse(song)).toEqual(song);
  });

  it('start the pattern again with each passage', () => {
    const two = parsePattern('down, down, down, down | chuck, chuck, chuck, chuck', song.pattern);
    if (!('pattern' in two)) throw new Error('unread');
    const kinds = arrange({ ...song, pattern: two.pattern }).strikes.map(
      ({ bar, kind }) => `${bar}${kind[0]}`,
    );
    expect(kinds).toContain('4s');
    expect(kinds).toContain('6s');
    expect(kinds).toContain('8s');
  });

  it('pass over a name that no section has, and say so in its place', () => {
    const wrong = text.replace('Chorus x2', 'Bridge x2');
    const { order, problems } = readProgression(wrong, song.meter);
    expect(order).toContainEqual({ name: 'Bridge', times: 2 });
    const [{ from, to, message, readings }] = problems as [(typeof problems)[number]];
    expect(wrong.slice(from, to)).toBe('Bridge x2');
    expect(message).toBe('No section is called “Bridge”: it is passed over until one is.');
    expect(readings).toEqual(['Verse', 'Chorus']);
    expect(playedBars({ ...song, order: order! })).toHaveLength(10);
  });

  it('count the times round of each section by itself', () => {
    const twice = newSong({
      title: 'T',
      instrument: 'guitar',
      progression: 'V:\n1) A\n2,3) D\nOrder: V x4',
    });
    expect(chords(twice)).toBe('A | D | D');
  });
});

describe('chords by the steps of a key', () => {
  const TEXT = 'Key: G\nVerse:\n1 | 5 | 6m . . <4 | 1[2=1maj7]~';
  const names = (text: string) => songChords({ sections: readProgression(text, four).sections });

  it('are read in a key that is named once, and printed back as they were written', () => {
    const { sections, order, key, degrees, problems } = readProgression(TEXT, four);
    expect(problems).toEqual([]);
    expect([key, degrees]).toEqual([{ tonic: 7, minor: false }, 'numbers']);
    expect(songChords({ sections })).toEqual(['G', 'D', 'Em', 'C', 'Gmaj7']);
    expect(printProgression(sections, four, order, { key, degrees })).toBe(TEXT);
    expect(printProgression(sections, four, order, { key, degrees: 'roman' })).toBe(
      'Key: G\nVerse:\nI | V | vi . . <IV | I[2=Imaj7]~',
    );
    expect(printProgression(sections, four, order)).toBe('Verse:\nG | D | Em . . <C | G[2=Gmaj7]~');
    expect(names('Key: A\nI | V | vi | IV')).toEqual(['A', 'E', 'F#m', 'D']);
  });

  it('ask for the key, and say what is none, in their place', () => {
    const [missing] = readProgression('1 | 5', four).problems;
    expect(missing).toMatchObject({ from: 0, to: 1 });
    expect(missing!.message).toMatch('name the key in a line of its own, as in “Key: G”');
    const [none] = readProgression('Key: H\nG | C', four).problems;
    expect(none).toMatchObject({
      from: 5,
      to: 6,
      message: '“H” is no key: write G, Em, Bb major.',
    });
    const [twice] = readProgression('Key: G\n1 | 4\nKey: D\n1', four).problems;
    expect(twice).toMatchObject({
      from: 18,
      to: 19,
      message: 'The key is G already: a song names one.',
    });
    const [odd] = readProgression('Key: G\n1 | 4add17 | 5', four).problems;
    expect(odd).toMatchObject({ from: 11, to: 17 });
  });

  it('move with the key, and stay the same steps', () => {
    const song = newSong({ title: 'Weir', instrument: 'guitar', progression: TEXT });
    const up = commands.transpose(2, false).apply(song);
    expect(songChords(up)).toEqual(['A', 'E', 'F#m', 'D', 'Amaj7']);
    expect(printProgression(up.sections, four, up.order, up)).toBe(
      TEXT.replace('Key: G', 'Key: A'),
    );
    expect(songKey(up)).toEqual({ tonic: 9, minor: false });
    // The same steps in another key: only its name is written anew.
    const inD = commands.setProgression(TEXT.replace('Key: G', 'Key: D')).apply(song);
    expect(songChords(inD)).toEqual(['D', 'A', 'Bm', 'G', 'Dmaj7']);
    const byName = commands.writeChords(songKey(song), null).apply(song);
    expect(printProgression(byName.sections, four, byName.order, byName)).toMatch(/^Key: G\n/);
  });

  it('of any song are read back as the same bars, whichever way they are written', () => {
    fc.assert(
      fc.property(
        progressions,
        fc.nat(11),
        fc.constantFrom('numbers', 'roman'),
        (text, tonic, degrees) => {
          const { sections, order } = readProgression(text, four);
          const key = { tonic, minor: false };
          const back = readProgression(
            printProgression(sections, four, order, { key, degrees }),
            four,
          );
          const sounds = (symbol: string) => parseChord(symbol)?.tones.join() ?? symbol;
          expect(songChords(back).map(sounds)).toEqual(
            [...new Set(songChords({ sections }))].map(sounds),
          );
        },
      ),
      tries(100),
    );
  });
});

describe('a dot in 6/8 and 12/8', () => {
  const placed = (text: string, meter: Meter) =>
    readProgression(text, meter).sections[0]!.lines[0]!.bars[0]!.chords.map(
      ({ at, push, symbol }) => [at, push, symbol],
    );

  it('holds for a beat of three where there is one for each of them', () => {
    expect(placed('Bm7 . <E7 .', METERS['12/8'])).toEqual([
      [0, 0, 'Bm7'],
      [2880, 480, 'E7'],
    ]);
    expect(placed('A . . D', METERS['12/8'])).toEqual([
      [0, 0, 'A'],
      [4320, 0, 'D'],
    ]);
    expect(placed('A .', METERS['6/8'])).toEqual([[0, 0, 'A']]);
  });

  it('holds for an eighth where there is one for each of those', () => {
    expect(placed('A . . . . D', METERS['6/8'])).toEqual([
      [0, 0, 'A'],
      [2400, 0, 'D'],
    ]);
  });

  it('of any other number is told as before', () => {
    const { problems } = readProgression('A . D . .', METERS['12/8']);
    expect(problems[0]!.message).toMatch(/fills 5 of 12 beats/);
  });
});
