import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { patterns, progressions, strokes } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { type OpenStrokes, type Pattern, songSchema, type SplitRule } from '../schema';
import { INSTRUMENT_IDS, INSTRUMENTS } from '../neck';
import { slots } from '../stroke';
import { countCycle, countNumber, groupStarts, METERS } from '../time';
import { builtInPatterns } from '../pattern';
import {
  type Command,
  commands,
  onRhythm,
  perform,
  redo,
  rhythmCommands,
  startHistory,
  undo,
} from '.';
import { newSong, printProgression } from '../song';

const start = newSong({
  title: 'Lock gate',
  instrument: 'guitar',
  progression: 'A | D . E7 . | A',
});

/** A command for a place that the song's pattern has when the command is carried out. */
const withPattern = (name: string, commandFor: (pattern: Pattern) => Command): Command => ({
  name,
  apply: (song) => commandFor(song.pattern).apply(song),
});

const anyCommand: fc.Arbitrary<Command> = fc.oneof(
  fc
    .tuple(fc.nat(), strokes)
    .map(([place, stroke]) =>
      withPattern('place a stroke', (pattern) =>
        commands.setStroke(place % slots(pattern).length, stroke),
      ),
    ),
  fc
    .tuple(fc.nat(), fc.constantFrom<1 | 2 | 3 | 4>(1, 2, 3, 4))
    .map(([place, division]) =>
      withPattern('divide a beat', ({ beats }) =>
        commands.divideBeat(place % beats.length, division),
      ),
    ),
  fc.constantFrom(...Object.values(METERS)).map((meter) => commands.setMeter(meter)),
  progressions.map((text) => commands.setProgression(text)),
  patterns.map((pattern) => commands.takePattern(pattern)),
  fc.integer({ min: 20, max: 300 }).map((tempo) => commands.setTempo(tempo)),
  fc.constantFrom(...INSTRUMENT_IDS).map((id) => commands.setInstrument(INSTRUMENTS[id])),
  fc.constantFrom('ghost', 'strong').map((accent) => commands.setAccent(0, accent as 'ghost')),
  fc.constantFrom<SplitRule>('roll', 'restart', 'half', 'squeeze').map(rhythmCommands.setSplit),
  fc.constantFrom<OpenStrokes>(0, 1, 2).map(rhythmCommands.setOpenStrokes),
  fc.nat(2).map((bar) => rhythmCommands.setBarRules({ section: 0, line: 0, bar }, { stop: 1920 })),
  fc
    .tuple(fc.constantFrom('A', 'D', 'E7'), fc.option(patterns))
    .map(([symbol, pattern]) => rhythmCommands.setRhythm({ of: 'chord', symbol }, pattern)),
  fc
    .tuple(fc.nat(2), fc.option(patterns))
    .map(([bar, pattern]) =>
      rhythmCommands.setRhythm({ of: 'bar', section: 0, line: 0, bar }, pattern),
    ),
  fc.tuple(fc.nat(2), fc.nat(3)).map(([bar, count]) =>
    rhythmCommands.setRun({ section: 0, line: 0, bar }, 0, {
      count: count + 1,
      noteTicks: 480,
      kind: 'chromatic',
      direction: 'down',
    }),
  ),
  fc
    .tuple(fc.constantFrom('A', 'D'), strokes)
    .map(([symbol, stroke]) => onRhythm({ of: 'chord', symbol }, commands.setStroke(0, stroke))),
);

describe('commands', () => {
  it('leave every song valid, and undo gives back each one before', () => {
    fc.assert(
      fc.property(fc.array(anyCommand, { maxLength: 10 }), (list) => {
        let history = startHistory(start);
        const seen = [start];
        for (const command of list) {
          const next = perform(history, command);
          if (next !== history) seen.push(next.song);
          history = next;
          expect(songSchema.parse(history.song)).toEqual(history.song);
        }
        for (const before of seen.toReversed()) {
          expect(history.song).toBe(before);
          history = undo(history);
        }
        for (const after of seen) {
          expect(history.song).toBe(after);
          history = redo(history);
        }
      }),
      tries(200),
    );
  });

  it('leave a count cycle as it is played, whichever count it begins on', () => {
    const meter = countCycle(12, [12, 3, 6, 8, 10], 12);
    const cycle = newSong({
      title: 'Lock gate',
      instrument: 'guitar',
      meter,
      progression: 'A | D',
    });
    const said = { ...cycle, pattern: builtInPatterns().at(-1)! };
    const fromOne = commands
      .setMeter({ ...meter, cycle: { ...meter.cycle!, first: 1 } })
      .apply(said);
    expect(countNumber(fromOne.meter, 0)).toBe(1);
    expect(groupStarts(fromOne.meter)).toEqual(groupStarts(meter));
    expect(fromOne.pattern.beats).toEqual(said.pattern.beats);
    expect(fromOne.sections).toEqual(said.sections);
  });

  it('share what they did not change', () => {
    const next = commands.setTempo(100).apply(start);
    expect(next.sections).toBe(start.sections);
    expect(next.pattern).toBe(start.pattern);
    expect(commands.setStroke(0, { kind: 'hold' }).apply(start).pattern.beats[1]).toBe(
      start.pattern.beats[1],
    );
  });

  it('leave no step where nothing changed', () => {
    const history = startHistory(start);
    expect(perform(history, commands.setTempo(start.tempo))).toBe(history);
  });

  it('undo typing in one field as one step', () => {
    let history = startHistory(start);
    for (const tempo of [81, 82, 83]) history = perform(history, commands.setTempo(tempo), true);
    expect(history.past).toHaveLength(1);
    expect(undo(history).song).toBe(start);
  });

  it('keep what the progression says when the meter changes, also where it no longer fits', () => {
    const three = commands.setMeter(METERS['3/4']).apply(start);
    expect(printProgression(three.sections, three.meter)).toBe('A | D E7 | A');
    const dotted = commands.setProgression('A . . D').apply(start);
    const back = commands.setMeter(METERS['3/4']).apply(dotted);
    expect(back.sections[0]!.lines[0]!.bars[0]).toEqual({ chords: [], unread: 'A . . D' });
    const again = commands.setMeter(METERS['4/4']).apply(back);
    expect(again.sections).toEqual(dotted.sections);
  });
});
