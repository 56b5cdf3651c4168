import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { said } from '../pattern/said.test-kit';
import { tries } from '../properties.test-kit';
import { patterns, progressions } from '../arbitraries.test-kit';
import type { Feel, Pattern, Song } from '../schema';
import { METERS } from '../time';
import { arrange, drumHits, evenBars, lateIn, type Performance, writtenTick } from '.';
import { newSong, playedBars } from '../song';
import { onRhythm, rhythmCommands, commands } from '../edit';

const swing = (percent: number): Feel => ({ on: 'eighths', percent });

function song(progression: string, pattern: Pattern): Song {
  return { ...newSong({ title: 'Paddle Gear', instrument: 'guitar', progression }), pattern };
}

const heard = ({ strikes }: Performance) => strikes.map(({ tick, late }) => tick + late);
const swung = { ...said('down, down up, down up, down up'), feel: swing(75) };

describe('swing', () => {
  it('delays a stop, and a run, as it delays the pattern', () => {
    const stopped = rhythmCommands
      .setBarRules({ section: 0, line: 0, bar: 0 }, { stop: 1440 })
      .apply(
        song('A | D', { ...said('down miss, down miss, down miss, down miss'), feel: swing(75) }),
      );
    expect(heard(arrange(stopped)).slice(0, 3)).toEqual([0, 960, 1680]);

    const run = rhythmCommands
      .setRun({ section: 0, line: 0, bar: 1 }, 0, {
        count: 2,
        noteTicks: 480,
        kind: 'in the key',
        direction: 'up',
      })
      .apply(song('A | D', swung));
    const notes = arrange(run).strikes.filter((strike) => strike.run);
    expect(notes.map(({ tick, late }) => [tick, late])).toEqual([
      [2880, 0],
      [3360, 240],
    ]);
    expect(notes[1]!.seconds).toBeCloseTo((3600 / 960) * 0.75, 9);
  });

  it('is that of the section’s own pattern, also for its landings and drums', () => {
    const section = { of: 'section', section: 1 } as const;
    const start = song(
      'Verse:\nA | D\nChorus:\nA . . <D | A',
      said('down, down up, down up, down up'),
    );
    const two = rhythmCommands.setRhythm(section, swung).apply(start);
    const performance = arrange(two);
    expect(performance.feels).toEqual([{ tick: 7680, feel: swing(75) }]);
    const hats = drumHits(performance, 'eighths', 0, performance.ticks)
      .filter(({ piece }) => piece === 'hat')
      .map(({ tick }) => tick);
    expect(hats.slice(0, 3)).toEqual([0, 480, 960]);
    expect(hats.filter((tick) => tick >= 7680).slice(0, 3)).toEqual([7680, 8400, 8640]);
    const pushed = performance.landings.find(({ push }) => push > 0)!;
    expect([pushed.tick, pushed.late]).toEqual([7680 + 2400, 240]);

    const straight = onRhythm(section, commands.setFeel(undefined)).apply(two);
    expect(arrange(straight).feels).toEqual([]);
  });

  it('is counted from the bar line where a pattern starts again off the beat', () => {
    const restart = rhythmCommands.setSplit('restart').apply(song('A . . D . . . .', swung));
    const { strikes } = arrange(restart);
    for (const { tick, late } of strikes) expect(late).toBe(tick % 960 === 480 ? 240 : 0);
    expect(strikes.some(({ tick, landing }) => landing && tick % 960 === 480)).toBe(true);
  });

  it('never lets a straight stroke overtake a swung one', () => {
    fc.assert(
      fc.property(patterns, patterns, progressions, (one, other, progression) => {
        const start = newSong({
          title: 'Any',
          instrument: 'ukulele',
          meter: one.meter,
          progression,
        });
        const any = rhythmCommands
          .setRhythm({ of: 'chord', symbol: 'D' }, other)
          .apply({ ...start, pattern: one, split: 'restart' });
        const times = heard(arrange(any));
        expect(times).toEqual([...times].sort((a, b) => a - b));
      }),
      tries(60),
    );
  });

  it('is taken off again to find the place that is heard', () => {
    const bars = evenBars(METERS['4/4'], 7680);
    const feels = [
      { tick: 0, feel: swing(67) },
      { tick: 3840, feel: null },
    ];
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 7679 }), (tick) => {
        const late = tick < 3840 ? lateIn(bars[0]!, tick, swing(67)) : 0;
        expect(writtenTick({ bars, feels }, tick + late)).toBeCloseTo(tick, 6);
      }),
    );
    const pickup = arrange(song('(pickup 1) A | D', swung));
    expect(writtenTick(pickup, 720)).toBe(480);
    expect(playedBars(song('(pickup 1) A | D', swung))[0]!.lead).toBe(2880);
  });
});
