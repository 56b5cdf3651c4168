import { describe, expect, it } from 'vitest';
import { INSTRUMENTS } from '../neck';
import { said } from '../pattern/said.test-kit';
import { type Song, songSchema } from '../schema';
import { newSong, printProgression } from '../song';
import { METERS } from '../time';
import { type Command, commands, perform, startHistory, undo } from '.';

/** Every command does the one thing it is called, leaves a whole song, and is undone in one step. */

const shape = { frets: [null, 0, 2, 2, 2, 0], fingers: [0, 0, 1, 2, 3, 0] };
const start: Song = newSong({
  title: 'Lock gate',
  instrument: 'guitar',
  progression: 'Verse:\nA | D . E7[last=E] . | A',
});

const CASES: [name: string, command: Command, changes: (song: Song) => unknown, to: unknown][] = [
  ['title', commands.setTitle('Sill'), ({ title }) => title, 'Sill'],
  ['tempo', commands.setTempo(101), ({ tempo }) => tempo, 101],
  ['count-in', commands.setCountIn(2), ({ countIn }) => countIn, 2],
  ['capo', commands.setCapo(3), ({ capo }) => capo, 3],
  ['bass', commands.setBassRule('lowest'), ({ bassSchool }) => bassSchool, 'lowest'],
  ['arm', commands.setArmStyle('all-downs'), ({ pattern }) => pattern.arm.school, 'all-downs'],
  ['rate', commands.setArmRate(4), ({ pattern }) => pattern.arm.halfSwings, 4],
  [
    'feel',
    commands.setFeel({ on: 'eighths', percent: 60 }),
    ({ pattern }) => pattern.feel?.percent,
    60,
  ],
  ['loose', commands.setLoose({ density: 0.5, seed: 7 }), ({ pattern }) => pattern.loose?.seed, 7],
  ['tags', commands.setTags(['towpath']), ({ pattern }) => pattern.tags, ['towpath']],
  ['name', commands.renamePattern('Sluice'), ({ pattern }) => pattern.name, 'Sluice'],
  [
    'accent',
    commands.setAccent(0, 'strong'),
    ({ pattern }) => (pattern.beats[0]!.slots[0] as { accent: string }).accent,
    'strong',
  ],
  ['division', commands.divideBeat(1, 3), ({ pattern }) => pattern.beats[1]!.division, 3],
  [
    'said',
    commands.sayPattern(said('down, up, down, up')),
    ({ pattern }) => pattern.beats[0]!.division,
    1,
  ],
  [
    'another pattern',
    commands.takePattern(said('chuck, chuck, chuck, chuck')),
    ({ pattern }) => pattern.beats[3]!.slots[0]!.kind,
    'chuck',
  ],
  ['meter', commands.setMeter(METERS['3/4']), ({ meter }) => meter.beats, 3],
  [
    'instrument',
    commands.setInstrument(INSTRUMENTS.ukulele),
    ({ instrument }) => instrument.name,
    INSTRUMENTS.ukulele.name,
  ],
  [
    'shape',
    commands.chooseShape('A', shape),
    ({ chosenShapes }) => chosenShapes.map(({ symbol }) => symbol),
    ['A'],
  ],
  [
    'progression',
    commands.setProgression('Verse:\nG | C'),
    ({ sections }) => sections[0]!.lines[0]!.bars.length,
    2,
  ],
];

describe('transposing', () => {
  it('moves chords, those that stand in for them and their rhythms, and comes back', () => {
    const pattern = said('chuck, chuck, chuck, chuck');
    const dressed: Song = { ...start, chordPatterns: [{ symbol: 'D', pattern }] };
    const up = commands.transpose(2, false).apply(dressed);
    expect(printProgression(up.sections, up.meter)).toBe('Verse:\nB | E F#7[last=F#] | B');
    expect(up.chordPatterns![0]!.symbol).toBe('E');
    expect(commands.transpose(-2, false).apply(up)).toEqual(dressed);
    expect(commands.transpose(0, true).apply(dressed)).toBe(dressed);
  });

  it('writes sharps or flats as the key has them', () => {
    const minor = newSong({ title: 'x', instrument: 'guitar', progression: 'C#m | A | E | B' });
    const same = commands.transpose(12, false).apply(minor);
    expect(printProgression(same.sections, same.meter)).toBe('C#m | A | E | B');
  });
});

describe('a command', () => {
  it.each(CASES)('on the %s', (_name, command, read, to) => {
    expect(read(start)).not.toEqual(to);
    const before = startHistory(start);
    const after = perform(before, command);
    expect(read(after.song)).toEqual(to);
    expect(songSchema.safeParse(after.song).success).toBe(true);
    expect(command.name).toMatch(/^[a-z]/);
    expect(undo(after).song).toBe(start);
    const again = perform(after, { ...command, name: 'another' });
    expect(read(again.song)).toEqual(to);
  });

  it('that would unfold too far leaves the song as it is', () => {
    const order = Array.from({ length: 40 }, () => 'Verse x32').join(', ');
    const command = commands.setProgression(`Verse:\nA | D | E7 | A\nOrder: ${order}`);
    expect(command.apply(start)).toBe(start);
  });

  it('takes off a feel, looseness and tags again', () => {
    const dressed = [
      commands.setFeel({ on: 'eighths', percent: 60 }),
      commands.setLoose({ density: 0.5, seed: 7 }),
      commands.setTags(['towpath']),
      commands.setFeel(undefined),
      commands.setLoose(undefined),
      commands.setTags([]),
    ].reduce((song, command) => command.apply(song), start);
    expect(dressed).toEqual(start);
  });
});
