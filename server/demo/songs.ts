import {
  type Arm,
  type Division,
  type InstrumentId,
  METERS,
  type MeterName,
  newSong,
  type Pattern,
  type PatternBeat,
  type Song,
  type Stroke,
  songSchema,
} from '#core';

const D: Stroke = { kind: 'strum', dir: 'down', accent: 'normal' };
const DD: Stroke = { ...D, accent: 'accent' };
const d: Stroke = { ...D, accent: 'ghost' };
const U: Stroke = { kind: 'strum', dir: 'up', accent: 'normal' };
const UU: Stroke = { ...U, accent: 'accent' };
const X: Stroke = { kind: 'chuck', dir: 'down', accent: 'normal' };
const B: Stroke = { kind: 'bass', accent: 'normal' };
const BB: Stroke = { kind: 'bass', accent: 'accent' };
const o: Stroke = { kind: 'miss' };

function beats(...strokes: Stroke[][]): PatternBeat[] {
  return strokes.map((slots) => ({ division: slots.length as Division, slots }));
}

function pattern(name: string, meter: MeterName, arm: Arm, rows: PatternBeat[]): Pattern {
  return { schema: 1, name, meter: METERS[meter], beats: rows, arm };
}

function song(
  title: string,
  instrument: InstrumentId,
  tempo: number,
  played: Pattern,
  lines: string[],
): Song {
  const start = newSong({
    title,
    instrument,
    tempo,
    meter: played.meter,
    progression: lines.join('\n'),
  });
  return songSchema.parse({ ...start, pattern: played });
}

const eighths: Arm = { school: 'alternate', halfSwings: 2 };
const counts: Arm = { school: 'alternate', halfSwings: 1 };

/** The songs of the Thursday strum circle at Kettle Lock, getting ready for its lantern evening. */
export const demoSongs: Song[] = [
  song(
    'Ropes at First Light',
    'guitar',
    92,
    pattern('Towpath eighths', '4/4', eighths, beats([D, o], [DD, U], [o, U], [DD, U])),
    [
      'Verse:',
      'A | Bm | D . E7 . | A x2',
      'F#m | C#m | D . A . | E7',
      'Chorus:',
      'D | A | C#m . E7 . | F#m',
      'Bm | D | A . <E7 . | A',
    ],
  ),
  song(
    'The Lamplighter’s Round',
    'ukulele',
    104,
    pattern('Bass and lift waltz', '3/4', eighths, beats([BB, o], [D, o], [D, U])),
    ['Round:', 'F | Am | Bb | F x2', 'Gm | C7 | Dm | Bb', 'Home:', 'Gm | F | Bb . C7 | F'],
  ),
  song(
    'Sluice Gate Sixteens',
    'guitar',
    84,
    pattern(
      'Gate sixteenths',
      '4/4',
      { school: 'alternate', halfSwings: 4 },
      beats([DD, o, d, U], [X, o, o, UU], [o, U, D, U], [X, o, D, U]),
    ),
    [
      'Groove:',
      'Em7 | G . <<Am7 . | Cmaj7 | D . <<Bm7 . x2',
      'Lift:',
      'Am7 | <Bm7 | Cmaj7 . <D . | G',
      'Am7 | <Bm7 | Em7 . . <<D | Em7',
    ],
  ),
  song(
    'Slow Water Under Willows',
    'guitar',
    58,
    pattern('Rocking six', '6/8', counts, beats([B], [U], [D], [UU], [D], [U])),
    [
      'Verse:',
      'C | Em | Dm . . F . . | C',
      'F | Am | Dm . . G7 . . | C',
      'Bridge:',
      'Am | F | Em . . G7 . . | C',
      'Dm | G7 | C | %',
    ],
  ),
];
