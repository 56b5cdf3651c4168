import {
  type Arm,
  type Division,
  type InstrumentId,
  type Meter,
  type Pattern,
  type PatternBeat,
  type Song,
  type Stroke,
  songSchema,
  type TuneMeets,
} from '#core/schema';
import { countCycle, METERS, type MeterName } from '#core/time';
import { barLength, newSong, readTune, readWords } from '#core/song';
import { type BarPlace, type Command, commands, rhythmCommands } from '#core/edit';

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

function pattern(name: string, meter: MeterName | Meter, arm: Arm, rows: PatternBeat[]): Pattern {
  const full = typeof meter === 'string' ? METERS[meter] : meter;
  return { schema: 9, name, meter: full, beats: rows, arm };
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

/** The song with commands done on it, as a player would. */
function withRules(start: Song, ...list: Command[]): Song {
  return songSchema.parse(list.reduce((song, { apply }) => apply(song), start));
}

/** A line of notes in a bar, as it is typed. */
function tune(place: BarPlace, text: string, meets: TuneMeets): Command {
  const reading = readTune(text, METERS['4/4'], 6);
  if ('problem' in reading) throw new Error(reading.problem.message);
  return rhythmCommands.setTune(place, { notes: reading.notes, meets });
}

/** Words of the lines of a song, as they are typed: by section, line and verse. */
function withWords(
  start: Song,
  ...rows: [section: number, line: number, verse: number, text: string][]
) {
  const list = rows.map(([section, line, verse, text]): Command => {
    const { bars } = start.sections[section]!.lines[line]!;
    const reading = readWords(
      text,
      bars.map((bar) => barLength(bar, start.meter)),
    );
    if ('problem' in reading) throw new Error(reading.problem.message);
    return rhythmCommands.setWords(section, line, verse, reading.bars);
  });
  return withRules(start, ...list);
}

const eighths: Arm = { school: 'alternate', halfSwings: 2 };
const counted: Arm = { school: 'alternate', halfSwings: 2 };
const R: Stroke = { kind: 'roll', dir: 'down', accent: 'accent', hits: 4 };
const T: Stroke = { kind: 'tap', accent: 'normal', on: 'body' };
const said = {
  level: beats([DD], [D], [U], [DD], [D], [T], [X], [D], [X], [D], [X], [D, U]),
  sill: beats([R], [D], [D], [R], [D, U], [T], [DD], [D], [R], [D], [DD], [T, U]),
};
const counts: Arm = { school: 'alternate', halfSwings: 1 };

/** The songs of the Thursday strum circle at Kettle Lock, getting ready for its lantern evening. */
export const demoSongs: Song[] = [
  withWords(
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
    [0, 0, 1, 'Loose the ropes at | first light, | let the boat go | slow.'],
    [0, 0, 2, 'Smoke is on the | wa- ter, | and the ket- tle | low.'],
    [0, 1, 1, 'Lift the gate and | let her through, | hand . by hand_we | go.'],
    [1, 0, 1, 'O- ver the | still and_the | dark of the | lock,'],
    [1, 1, 1, 'one more | lan- tern | lit on the | rope.'],
  ),
  withWords(
    song(
      'The Lamplighter’s Round',
      'ukulele',
      104,
      pattern('Bass and lift waltz', '3/4', eighths, beats([BB, o], [D, o], [D, U])),
      ['Round:', 'F | Am | Bb | F x2', 'Gm | C7 | Dm | Bb', 'Home:', 'Gm | F | Bb . C7 | F'],
    ),
    [0, 0, 1, 'Light one | lan- tern, | light . two | more,'],
    [0, 0, 2, 'round the | ba- sin | by . the | shore.'],
    [0, 1, 1, 'Hang them | high where_the | wind can | find,'],
    [1, 0, 1, 'home we | go with_the | flames be- | hind.'],
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
  withRules(
    song(
      'Twelve Steps to the Sill',
      'guitar',
      132,
      pattern('Sill round', countCycle(12, [12, 3, 6, 8, 10], 12), counted, said.sill),
      [
        'Climb:',
        'Am | G . . F . . . . . . . . | F . . E . . . . . . . . | E',
        'Level:',
        'Am | E . . Am . . . . . . . .',
        'last) Am | E . . Am . . . . . . . .',
        'Order: Climb, Level x2, Climb, Level',
      ],
    ),
    rhythmCommands.setRhythm(
      { of: 'section', section: 1 },
      pattern('Level round', countCycle(12, [12, 3, 6, 8, 10], 12), counted, said.level),
    ),
    rhythmCommands.setSectionRules(1, { level: 'accent' }),
    rhythmCommands.setOpenStrokes(1),
    rhythmCommands.setRun({ section: 0, line: 0, bar: 1 }, 0, {
      count: 2,
      noteTicks: 960,
      kind: 'in the key',
      direction: 'down',
    }),
  ),
  withRules(
    song(
      'Lanterns Along the Cut',
      'guitar',
      88,
      pattern('Lantern walk', '4/4', eighths, beats([DD, o], [D, U], [o, U], [DD, U])),
      [
        'Intro:',
        '(pickup 1) D7 | G | Bm7 | C | D7',
        'Verse:',
        'G | . | Em . <C . | D7',
        'G[2=Gmaj7] | Bm7 | C D7 | G',
        'Em | Bm7 | C | . ',
        'Chorus:',
        'C | G | Am7 . <D7 . | Em',
        'C | (2/4) D7 | G | .',
        'last) Am7 | Bm7 | Cm6 | D7',
        'Tag:',
        'G | C . Cm6 . | G~',
        'Order: Intro, Verse, Chorus, Verse, Chorus, Tag',
      ],
    ),
    rhythmCommands.setRhythm(
      { of: 'section', section: 1 },
      pattern('Bass and brush', '4/4', eighths, beats([BB, o], [D, U], [B, o], [D, U])),
    ),
    rhythmCommands.setRhythm(
      { of: 'chord', symbol: 'Am7' },
      pattern('Am7 with chucks', '4/4', eighths, beats([DD, o], [X, U], [o, U], [X, U])),
    ),
    rhythmCommands.setSplit('half'),
    rhythmCommands.setSectionRules(2, { level: 'accent' }),
    rhythmCommands.setSectionRules(3, { build: { from: 'strong', to: 'normal' } }),
    rhythmCommands.setBarRules({ section: 1, line: 2, bar: 3 }, { stop: 1920 }),
    rhythmCommands.setBarRules({ section: 1, line: 0, bar: 0 }, { skipFirst: true }),
    rhythmCommands.setRhythm(
      { of: 'bar', section: 2, line: 2, bar: 3 },
      pattern(
        'All downs',
        '4/4',
        { school: 'all-downs', halfSwings: 2 },
        beats([DD, D], [DD, D], [DD, D], [DD, D]),
      ),
    ),
    rhythmCommands.setOpenStrokesOf({ section: 1, line: 1, bar: 3 }, 0, 1),
    rhythmCommands.setRun({ section: 1, line: 0, bar: 0 }, 0, {
      count: 2,
      noteTicks: 480,
      kind: 'in the key',
      direction: 'up',
    }),
    rhythmCommands.setRun({ section: 2, line: 1, bar: 0 }, 0, {
      count: 3,
      noteTicks: 480,
      kind: 'in the key',
      direction: 'down',
    }),
  ),
  withRules(
    song(
      'Mooring Pins',
      'guitar',
      80,
      pattern('Pin and brush', '4/4', eighths, beats([BB, o], [D, U], [B, o], [D, U])),
      [
        'Verse:',
        'C | G | Am | F x2',
        'Lift:',
        "Em . <Em' . | D . <D' . | C | G",
        'Tag:',
        'G | C~',
        'Order: Verse, Lift, Verse, Lift, Tag',
      ],
    ),
    // The tune between the strums: its first notes take the place of the bass.
    tune({ section: 0, line: 0, bar: 0 }, '1 s2f1 3 s3f0', 'without the bass'),
    tune({ section: 0, line: 0, bar: 1 }, '1 s2f0 3 s3f0', 'without the bass'),
    tune({ section: 0, line: 0, bar: 2 }, '1 s2f1 & s2f3 3 s2f1', 'without the bass'),
    // Two chords that go up the neck on their strings, on the & of 2.
    commands.chooseShape("Em'", { frets: [0, 7, 5, 0, 0, 0], fingers: [0, 3, 1, 0, 0, 0] }),
    commands.chooseShape("D'", { frets: [null, null, 0, 7, 7, 5], fingers: [0, 0, 0, 3, 4, 1] }),
    rhythmCommands.setArrival([{ section: 1, line: 0, bar: 0, at: 1920 }], 'slide'),
    rhythmCommands.setArrival([{ section: 1, line: 0, bar: 1, at: 1920 }], 'slide'),
    tune(
      { section: 2, line: 0, bar: 0 },
      '1 s3f0 & hammer s3f2 2 pull s3f0 & s4f2 3 s4f0 & hammer s4f2 4 s3f0',
      'alone',
    ),
  ),
];
