import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { commands, rhythmCommands } from '../edit';
import { fills, fretChord, guessKey, INSTRUMENTS, lineFingers, lineWords, moveLine } from '../neck';
import { newPattern } from '../pattern';
import { said } from '../pattern/said.test-kit';
import { type Song, tooMuch, type TuneMeets, tuneSchema } from '../schema';
import { newSong, readTune, sayTune } from '../song';
import { METERS } from '../time';
import { tries } from '../properties.test-kit';
import { arrange, tuneTurns } from '.';

/** Lines of single notes: written, met by the pattern, fingered, moved. */

const four = METERS['4/4'];
const place = { section: 0, line: 0, bar: 0 };

function notesOf(text: string) {
  const reading = readTune(text, four, 6);
  if ('problem' in reading) throw new Error(reading.problem.message);
  return reading.notes;
}

function songOf(words: string, text: string, meets?: TuneMeets): Song {
  const song = { ...newSong({ title: 'Sluice', instrument: 'guitar', progression: 'C | G' }) };
  const tune = { notes: notesOf(text), ...(meets && { meets }) };
  return rhythmCommands
    .setTune(place, tune)
    .apply({ ...song, pattern: said(words, newPattern(four)) });
}

/** The strikes of the first bar: beat, kind, and strings with frets. */
const firstBar = (song: Song) =>
  arrange(song)
    .strikes.filter(({ bar }) => bar === 0)
    .map(({ tick, kind, dir, notes }) => [
      tick / 960 + 1,
      kind,
      dir,
      notes
        .filter(({ passing }) => !passing)
        .map(({ string, fret }) => `s${6 - string}f${fret}`)
        .join(' '),
    ]);

describe('a line of notes in words', () => {
  it('is read with its counts', () => {
    expect(notesOf('1 s3f0 & hammer s3f2 3 pull s3f0 s4f2! 4 let (s5f3.3)')).toEqual([
      { at: 0, string: 3, fret: 0 },
      { at: 480, string: 3, fret: 2, how: 'hammer' },
      { at: 1920, string: 3, fret: 0, how: 'pull' },
      { at: 2400, string: 4, fret: 2, accent: 'accent' },
      { at: 3520, string: 5, fret: 3, accent: 'ghost', held: 3 },
    ]);
  });

  it('has notes at once, each on its string, from the lowest string', () => {
    expect(notesOf('1 s2f0+s5f3 & s3f0 2 (s4f2)+s1f0!')).toEqual([
      { at: 0, string: 5, fret: 3 },
      { at: 0, string: 2, fret: 0 },
      { at: 480, string: 3, fret: 0 },
      { at: 960, string: 4, fret: 2, accent: 'ghost' },
      { at: 960, string: 1, fret: 0, accent: 'accent' },
    ]);
    const refused = (text: string) => {
      const reading = readTune(text, four, 6);
      return 'problem' in reading ? reading.problem.message : null;
    };
    expect(refused('1 s5f3+s5f2')).toBe('Notes at once need a string each.');
    expect(refused('1 hammer s5f3+s2f1')).toMatch(/^Notes at once are struck/);
    expect(refused('1 s5f3+boom')).toMatch(/is no note/);
    const invalid = (notes: object[]) => tuneSchema.safeParse({ notes }).success;
    expect(
      invalid([
        { at: 0, string: 5, fret: 3 },
        { at: 0, string: 5, fret: 2 },
      ]),
    ).toBe(false);
    expect(
      invalid([
        { at: 0, string: 5, fret: 3 },
        { at: 0, string: 2, fret: 2, how: 'pull' },
      ]),
    ).toBe(false);
  });

  it('names what it cannot read', () => {
    const said = (text: string) => {
      const reading = readTune(text, four, 4);
      return 'problem' in reading
        ? [text.slice(reading.problem.from, reading.problem.to), reading.problem.message]
        : null;
    };
    expect(said('1 s3f0 boom')).toEqual([
      'boom',
      '“boom” is no note: say a string and a fret, as s3f2, or a count.',
    ]);
    expect(said('5 s3f0')).toEqual(['5', 'The bar has 4 beats.']);
    expect(said('1 s5f0')).toEqual(['s5f0', 'There are 4 strings.']);
    expect(said('2 s1f0 1 s1f2')).toEqual(['s1f2', 'A note comes after the one before it.']);
    expect(said('1 s1f0 hammer')).toEqual(['hammer', '“hammer” wants a note after it.']);
    expect(said('4 s1f0 s1f0 s1f0')).toEqual(['s1f0', 'The bar is full.']);
  });

  it('is said as it is read, whatever it is', () => {
    const note = fc.record(
      {
        at: fc.integer({ min: 0, max: 3839 }),
        string: fc.integer({ min: 1, max: 6 }),
        fret: fc.integer({ min: 0, max: 24 }),
        how: fc.constantFrom('hammer' as const, 'pull' as const, 'slide' as const),
        accent: fc.constantFrom('ghost' as const, 'accent' as const, 'strong' as const),
        held: fc.integer({ min: 1, max: 4 }),
        grace: fc.constant({ how: 'slide' as const, frets: 2, above: true as const }),
      },
      { requiredKeys: ['at', 'string', 'fret'] },
    );
    fc.assert(
      fc.property(fc.uniqueArray(note, { selector: ({ at }) => at, maxLength: 12 }), (notes) => {
        const line = notes
          .sort((a, b) => a.at - b.at)
          // Every second note that is struck has another beside it.
          .flatMap((one, index) =>
            one.how || one.string === 1 || index % 2
              ? [one]
              : [one, { at: one.at, string: one.string - 1, fret: 5 }],
          );
        expect(readTune(sayTune(line, four), four, 6)).toEqual({ notes: line });
      }),
      tries(100),
    );
  });
});

describe('line and pattern', () => {
  const words = 'bass miss, down up, bass miss, down up';
  const text = '1 s2f1 3 s2f3';

  it('a note takes the place of the stroke at its time, and the rest goes on', () => {
    expect(firstBar(songOf(words, text))).toEqual([
      [1, 'pick', 'down', 's2f1'],
      [2, 'strum', 'down', 's5f3 s4f2 s3f0 s2f1 s1f0'],
      [2.5, 'strum', 'up', 's1f0 s2f1 s3f0 s4f2 s5f3'],
      [3, 'pick', 'down', 's2f3'],
      [4, 'strum', 'down', 's5f3 s4f2 s3f0 s2f1 s1f0'],
      [4.5, 'strum', 'up', 's1f0 s2f1 s3f0 s4f2 s5f3'],
    ]);
  });

  it('only the bass makes way: a strum goes on with the note in it', () => {
    const song = songOf(words, '1 s2f1 2 s1f3', 'without the bass');
    expect(firstBar(song).slice(0, 2)).toEqual([
      [1, 'pick', 'down', 's2f1'],
      [2, 'strum', 'down', 's5f3 s4f2 s3f0 s2f1 s1f3'],
    ]);
  });

  it('a stroke becomes a rake that ends on the note, where the chord holds it', () => {
    const song = songOf('down up, down up, down up, down up', '1 s2f1 2 s2f3', 'rake');
    const bar = firstBar(song);
    expect(bar[0]).toEqual([1, 'strum', 'down', 's5f3 s4f2 s3f0 s2f1']);
    expect(bar[2]).toEqual([2, 'pick', 'down', 's2f3']);
    const { strikes } = arrange(song);
    expect(strikes[0]!.accent).toBe('accent');
  });

  it('without the bass the note comes when its string is reached, on a down and on an up', () => {
    const song = songOf('down up, down up, down up, down up', '1 s3f2 & s3f2', 'without the bass');
    for (const strike of arrange(song).strikes.slice(0, 2)) {
      const delays = strike.notes.map(({ delay }) => delay);
      expect(delays).toEqual([...delays].sort((a, b) => a - b));
      const strings = strike.notes.map(({ string }) => string);
      const order = [...strings].sort((a, b) => (strike.dir === 'down' ? a - b : b - a));
      expect(strings).toEqual(order);
    }
  });

  it('a bass stroke becomes a rake from the bass to the note', () => {
    const song = songOf('bass up, down up, bass up, down up', '1 s2f1', 'rake');
    expect(firstBar(song)[0]).toEqual([1, 'strum', 'down', 's5f3 s4f2 s3f0 s2f1']);
  });

  it('notes at once are one strike, however they meet the pattern', () => {
    const bar = firstBar(songOf(words, '1 s5f3+s2f1 3 s4f2+s1f3'));
    expect(bar[0]).toEqual([1, 'pick', 'down', 's5f3 s2f1']);
    expect(bar[3]).toEqual([3, 'pick', 'down', 's4f2 s1f3']);
    const strummed = firstBar(songOf(words, '2 s2f3+s1f3', 'without the bass'));
    expect(strummed[1]).toEqual([2, 'strum', 'down', 's5f3 s4f2 s3f0 s2f3 s1f3']);
    // A string that a ukulele has not is told, and the other note sounds.
    const small = { ...songOf(words, '1 s5f3+s2f1'), instrument: INSTRUMENTS.ukulele };
    const { strikes, silent } = arrange(small);
    expect(strikes[0]!.notes.map(({ string }) => string)).toEqual([2]);
    expect(silent.map(({ message }) => message)).toContain(
      'This instrument has no string 5 for these notes.',
    );
  });

  it('a walk rests the strum from its first note to its last', () => {
    const strummed = 'down up, down up, down up, down up';
    const bar = firstBar(songOf(strummed, '2 s5f0 3 s5f2', 'from first to last'));
    expect(bar.map(([beat, kind]) => [beat, kind])).toEqual([
      [1, 'strum'],
      [1.5, 'strum'],
      [2, 'pick'],
      [3, 'pick'],
      [3.5, 'strum'],
      [4, 'strum'],
      [4.5, 'strum'],
    ]);
  });

  it('alone it is all that sounds, and the landing is its', () => {
    const song = songOf(words, '1 s2f1 & s2f3', 'alone');
    expect(firstBar(song)).toEqual([
      [1, 'pick', 'down', 's2f1'],
      [1.5, 'pick', 'up', 's2f3'],
    ]);
    expect(arrange(song).strikes[0]!.landing).toBe(true);
  });

  it('the fretting hand sounds what it is asked to', () => {
    const song = songOf(words, '1 s3f0 & hammer s3f2 2 pull s3f0', 'alone');
    expect(firstBar(song).map(([, kind, , frets]) => [kind, frets])).toEqual([
      ['pick', 's3f0'],
      ['legato', 's3f2'],
      ['legato', 's3f0'],
    ]);
    expect(arrange(song).silent).toEqual([]);
  });
});

it('a song of more notes than can be worked out is refused, as one of strokes is', () => {
  const song = songOf('down miss, down miss, down miss, down miss', '1 s3f0');
  const notes = Array.from({ length: 60 }, (_, at) => ({ at: at * 60, string: 3, fret: 0 }));
  const full = rhythmCommands.setTune(place, { notes }).apply(song);
  const [section] = full.sections;
  const bars = Array.from({ length: 100 }, () => section!.lines[0]!.bars[0]!);
  const lines = [{ bars, times: 20 }];
  expect(tooMuch({ ...full, sections: [{ ...section!, lines }] })).toMatch(/strokes; 100,000 is/);
});

describe('a line that is moved', () => {
  it('keeps its intervals, on the same instrument and on another', () => {
    const note = fc.record({
      string: fc.integer({ min: 1, max: 6 }),
      fret: fc.integer({ min: 0, max: 9 }),
    });
    const pitch = (
      { string, fret }: { string: number; fret: number },
      name: 'guitar' | 'ukulele',
    ) => INSTRUMENTS[name].strings.at(-string)! + fret;
    fc.assert(
      fc.property(
        fc.array(note, { minLength: 2, maxLength: 8 }),
        fc.integer({ min: -11, max: 11 }),
        (notes, semitones) => {
          for (const name of ['guitar', 'ukulele'] as const) {
            const moved = moveLine(notes, semitones, INSTRUMENTS.guitar, INSTRUMENTS[name]);
            if (!moved) continue;
            const steps = moved.map(
              (one, index) => pitch(one, name) - pitch(notes[index]!, 'guitar'),
            );
            expect(new Set(steps).size).toBe(1);
            expect(((steps[0]! - semitones) % 12) | 0).toBe(0);
          }
        },
      ),
      tries(80),
    );
  });

  it('goes with the song', () => {
    const song = songOf('down up, down up, down up, down up', '1 s3f0 & hammer s3f2');
    const up = commands.transpose(2, false).apply(song);
    const tune = up.sections[0]!.lines[0]!.bars[0]!.rules!.tune!;
    expect(tune.notes.map(({ string, fret, how }) => [string, fret, how])).toEqual([
      [3, 2, undefined],
      [3, 4, 'hammer'],
    ]);
  });
});

describe('fingers for a line', () => {
  const c = fretChord('C', newSong({ title: 'T', instrument: 'guitar', progression: 'C' }))!;

  it('an open string needs none, a note of the shape keeps all', () => {
    const notes = [
      { string: 5, fret: 0 },
      { string: 4, fret: 1 },
      { string: 1, fret: 3 },
    ];
    const path = lineFingers(notes, [c.shape, c.shape, c.shape]);
    expect(path.map(({ finger }) => finger)).toEqual([0, 1, 3]);
    expect(path.every(({ lifts }) => lifts.length === 0)).toBe(true);
    expect(lineWords(path, c.shape)).toBe('Play these without lifting: all fingers stay.');
  });

  it('a free finger plays what the shape has not, and others stay', () => {
    const path = lineFingers([{ string: 4, fret: 3 }], [c.shape]);
    expect(path[0]!.finger).toBe(4);
    expect(path[0]!.lifts).toEqual([]);
    const open = lineFingers([{ string: 4, fret: 0 }], [c.shape]);
    expect(open[0]!.lifts).toEqual([1]);
    expect(lineWords(open, c.shape)).toBe('Play these without lifting: second and third stay.');
  });
});

describe('fills', () => {
  it('lead step by step in the key to a tone of the next chord', () => {
    const song = newSong({ title: 'T', instrument: 'guitar', progression: 'G | C' });
    const [from, to] = [fretChord('G', song)!, fretChord('C', song)!];
    const offers = fills(from, to, 3, { ...song, key: guessKey(['G', 'C', 'D']) });
    expect(offers.length).toBeGreaterThan(1);
    const midi = ({ string, fret }: { string: number; fret: number }) =>
      INSTRUMENTS.guitar.strings[string]! + fret;
    for (const { notes, direction, into } of offers) {
      const all = [...notes.map(midi), to.pitches[into]!];
      const steps = all.slice(1).map((one, index) => one - all[index]!);
      expect(steps.every((step) => [1, 2].includes(direction === 'up' ? step : -step))).toBe(true);
    }
  });
});

it('a note on a string that the instrument has not is told, and nothing else is lost', () => {
  const ukulele = newSong({ title: 'Reed', instrument: 'ukulele', progression: 'C | G' });
  const notes = [
    { at: 0, string: 1, fret: 3 },
    { at: 960, string: 6, fret: 1 },
  ];
  const { strikes, silent } = arrange(rhythmCommands.setTune(place, { notes }).apply(ukulele));
  expect(silent).toEqual([
    { tick: 960, message: 'This instrument has no string 6 for these notes.' },
  ]);
  expect(strikes.filter(({ tune }) => tune).map(({ tick }) => tick)).toEqual([0]);
});

describe('the arm under a line', () => {
  it('turns back where two strokes that go the same way are too close', () => {
    const bar = (text: string) =>
      arrange(songOf('down miss, down miss, down miss, down miss', text)).strikes.filter(
        (one) => one.bar === 0,
      );
    // On the e the arm of eighths is still on its way down.
    expect(tuneTurns(bar('1 s3f0 e s3f2 2 s4f2'), 480)).toEqual([240]);
    expect(tuneTurns(bar('1 s3f0 & s3f2 2 s4f2'), 480)).toEqual([]);
    // An arm of sixteenths comes round by itself; what the fretting hand sounds turns no arm.
    expect(tuneTurns(bar('1 s3f0 e hammer s3f2 2 s4f2'), 480)).toEqual([]);
    expect(tuneTurns(bar('1 s3f0 2 s3f2'), 480)).toEqual([]);
  });
});
