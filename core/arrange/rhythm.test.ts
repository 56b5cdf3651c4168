import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { said } from '../pattern/said.test-kit';
import { patterns, progressions } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { fretChord } from '../neck';
import { type Song, songSchema, type SplitRule, type Stroke, tooMuch } from '../schema';
import { newPattern, placeStroke } from '../pattern';
import { say, slots } from '../stroke';
import { METERS } from '../time';
import { arrange, asPlayed, barPatterns, barRhythm, rhythms, slotsOfBars, whyDifferent } from '.';
import { commands, onRhythm, patternOf, perform, rhythmCommands, startHistory } from '../edit';
import { newSong, playedBars, printProgression } from '../song';

const CIRCLE = said('down miss, down up, miss up, down up');
const CHUCKS = said('chuck miss, chuck miss, chuck miss, chuck miss');
const BASSES = said('bass miss, down miss, bass miss, down miss');

const start = (progression: string): Song => ({
  ...newSong({ title: 'Weir', instrument: 'guitar', progression, tempo: 120 }),
  pattern: CIRCLE,
});
const run = (song: Song, ...list: Parameters<typeof perform>[1][]) =>
  list.reduce((history, command) => perform(history, command), startHistory(song)).song;
const BAR = 3840;

/** The ticks struck in a bar, from its bar line. */
const struck = (song: Song, bar: number) =>
  arrange(song)
    .strikes.filter((strike) => strike.bar === bar)
    .map((strike) => strike.tick - bar * BAR);
const EIGHTHS = [0, 960, 1440, 2400, 2880, 3360];

describe('which rhythm carries a bar', () => {
  it('is another one of the times that the bar comes, repeats of its line counted', () => {
    const bar = { of: 'bar', section: 0, line: 0, bar: 1 } as const;
    const twice = start('A | D x2');
    const second = run(twice, rhythmCommands.setRhythm({ ...bar, time: 2 }, CHUCKS));
    expect(struck(second, 1)).toEqual(EIGHTHS);
    expect(struck(second, 3)).toEqual([0, 960, 1920, 2880]);
    expect(playedBars(second).map(({ time, times }) => `${time}/${times}`)).toEqual([
      '1/2',
      '1/2',
      '2/2',
      '2/2',
    ]);
    const last = run(
      start('Verse:\nA | D x2\nChorus:\nE7\n'),
      commands.setProgression('Verse:\nA | D x2\nChorus:\nE7'),
      rhythmCommands.setRhythm({ ...bar, time: 'last' }, CHUCKS),
    );
    const played = arrange({ ...last, order: [{ name: 'Verse', times: 2 }] });
    const at = (index: number) => played.strikes.filter((strike) => strike.bar === index).length;
    expect([1, 3, 5, 7].map(at)).toEqual([6, 6, 6, 4]);
    expect(patternOf(second, { ...bar, time: 2 })).toEqual(CHUCKS);
    expect(run(second, rhythmCommands.setRhythm({ ...bar, time: 2 }, null))).toEqual(twice);
  });

  it('begins, for a bar’s own, as the beats that fall on it', () => {
    const long = said('down miss, down up | chuck, bass', newPattern(METERS['2/4']));
    const song = { ...newSong({ title: 'Weir', instrument: 'guitar', progression: 'A | D | E7' }) };
    const two = { ...song, meter: METERS['2/4'], pattern: long };
    const bars = playedBars(two);
    const words = rhythms(two, bars).map(([part], index) => say(barRhythm(part!, bars[index]!)));
    expect(words).toEqual(['down miss, down up', 'chuck, bass', 'down miss, down up']);
  });

  it('is the nearest: the bar’s, the chord’s, the section’s, the song’s', () => {
    const song = run(
      start('Verse:\nA | D | A | E7\nChorus:\nA | D'),
      rhythmCommands.setRhythm({ of: 'section', section: 1 }, CHUCKS),
      rhythmCommands.setRhythm({ of: 'chord', symbol: 'D' }, BASSES),
      rhythmCommands.setRhythm({ of: 'bar', section: 0, line: 0, bar: 3 }, CHUCKS),
    );
    const parts = rhythms(song, playedBars(song));
    expect(parts.map((row) => row.map(({ source }) => source).join())).toEqual([
      'song',
      'chord',
      'song',
      'bar',
      'section',
      'chord',
    ]);
    expect(arrange(song).strikes.filter(({ bar }) => bar === 1)[0]!.kind).toBe('bass');
    expect(arrange(song).strikes.filter(({ bar }) => bar === 4)[0]!.kind).toBe('chuck');
    const bars = playedBars(song);
    expect(bars.map((bar) => whyDifferent(bar, parts[bar.index]!))).toEqual([
      null,
      `bar 2: a strum of its chord, “${BASSES.name}”`,
      null,
      'bar 4: a strum of its own',
      null,
      `bar 6: a strum of its chord, “${BASSES.name}”`,
    ]);
    expect(
      run(song, rhythmCommands.setRhythm({ of: 'chord', symbol: 'D' }, null)),
    ).not.toHaveProperty('chordPatterns');
  });

  it('rolls a pattern of two bars on through a section, and starts it again with the next', () => {
    const two = said('down, down, down, down | chuck, chuck, chuck, chuck');
    const song = { ...start('A | A | A\nB:\nA | A'), pattern: two };
    const kinds = arrange(song).strikes.map(({ kind, bar }) => `${bar}${kind[0]}`);
    expect([...new Set(kinds)]).toEqual(['0s', '1c', '2s', '3s', '4c']);
    const drawn = barPatterns(rhythms(song, playedBars(song)));
    expect(drawn.map(({ pattern }) => say(pattern).split(',')[0])).toEqual([
      'down',
      'chuck',
      'down',
      'down',
      'chuck',
    ]);
    expect(drawn[2]).toBe(drawn[0]);
  });

  it.each([
    ['roll', EIGHTHS],
    ['restart', [0, 960, 1440, 1920, 2880, 3360]],
    ['half', [0, 960, 1440, 1920, 2880, 3360]],
    ['squeeze', [0, 480, 720, 1200, 1440, 1680, 1920, 2400, 2640, 3120, 3360, 3600]],
  ] as [SplitRule, number[]][])('lets a shared bar %s', (rule, ticks) => {
    const song = run(start('A | D E7 | A'), rhythmCommands.setSplit(rule));
    expect(struck(song, 1)).toEqual(ticks);
    expect(struck(song, 2)).toEqual(EIGHTHS);
  });

  it('takes the rule of the bar before its section’s and the song’s', () => {
    const song = run(
      start('A | D E7 | A | D E7'),
      rhythmCommands.setSplit('restart'),
      rhythmCommands.setSectionRules(0, { split: 'roll' }),
      rhythmCommands.setBarRules({ section: 0, line: 0, bar: 3 }, { split: 'squeeze' }),
    );
    expect(struck(song, 1)).toEqual(EIGHTHS);
    expect(struck(song, 3)).toHaveLength(12);
    const parts = rhythms(song, playedBars(song));
    expect(whyDifferent(playedBars(song)[3]!, parts[3]!)).toBe('bar 4: split, squeezed');
  });

  it('starts again, and says so, where a share cannot be squeezed', () => {
    const song = run(start('A . . D'), rhythmCommands.setSplit('squeeze'));
    expect(whyDifferent(playedBars(song)[0]!, rhythms(song, playedBars(song))[0]!)).toBe(
      'bar 1: split, starts again with each chord (too fine to be squeezed)',
    );
  });

  it('covers every bar from line to line, each slot once, under any rules', () => {
    fc.assert(
      fc.property(
        patterns,
        progressions,
        fc.constantFrom<SplitRule>('roll', 'restart', 'half', 'squeeze'),
        fc.constantFrom('A', 'D', 'E7'),
        (pattern, progression, rule, symbol) => {
          const { meter } = pattern;
          const song = run(
            { ...newSong({ title: 'Any', instrument: 'ukulele', meter, progression }), pattern },
            rhythmCommands.setSplit(rule),
            rhythmCommands.setRhythm({ of: 'chord', symbol }, newPattern(meter)),
          );
          fc.pre(tooMuch(song) === null);
          expect(songSchema.parse(song)).toEqual(song);
          const bars = playedBars(song);
          const parts = rhythms(song, bars);
          for (const bar of bars) {
            let tick = bar.tick;
            for (const part of parts[bar.index]!) {
              expect(part.tick).toBe(tick);
              tick += part.ticks;
            }
            expect(tick).toBe(bar.tick + bar.ticks);
            expect(bars[bar.index + 1]?.tick ?? tick).toBe(tick);
          }
          const placed = [...slotsOfBars(bars, parts)].map(({ tick }) => tick);
          expect(placed).toEqual([...new Set(placed)].sort((a, b) => a - b));
          expect(barPatterns(parts)).toHaveLength(bars.length);
        },
      ),
      tries(80),
    );
  });
});

/** A bar as it is drawn where it is played, in words. */
function drawn(song: Song, index: number): string {
  const strikes = arrange(song).strikes.filter(({ bar }) => bar === index);
  return say(asPlayed(CIRCLE, strikes, playedBars(song)[index]!, 6));
}

describe('bars and sections that are played otherwise', () => {
  const first = { section: 0, line: 0, bar: 0 };

  it('leave out the first stroke, or stop on a count and hold', () => {
    const skipped = run(start('A | A'), rhythmCommands.setBarRules(first, { skipFirst: true }));
    expect(struck(skipped, 0)).toEqual(EIGHTHS.slice(1));
    const stopped = run(start('A | A'), rhythmCommands.setBarRules(first, { stop: 1920 }));
    expect(struck(stopped, 0)).toEqual([0, 960, 1440, 1920]);
    expect(arrange(stopped).strikes[3]).toMatchObject({
      kind: 'strum',
      dir: 'down',
      accent: 'accent',
    });
    const undone = run(stopped, rhythmCommands.setBarRules(first, { stop: undefined }));
    expect(undone.sections).toEqual(start('A | A').sections);
  });

  it('are softer, or build to loud downs', () => {
    const soft = run(start('A\nB:\nA'), rhythmCommands.setSectionRules(0, { level: 'ghost' }));
    const [verse, next] = [0, 1].map((bar) =>
      arrange(soft).strikes.find((strike) => strike.bar === bar)!,
    );
    expect(verse!.velocity).toBeLessThan(next!.velocity * 0.6);
    const build = { from: 'ghost', to: 'strong', downs: true } as const;
    const built = arrange(
      run(start('A | A | A | A'), rhythmCommands.setSectionRules(0, { build })),
    ).strikes;
    const levels = built.map((strike) => strike.velocity);
    expect(levels).toEqual([...levels].sort((a, b) => a - b));
    expect(built.every((strike) => strike.dir === 'down')).toBe(true);
  });
});

describe('just before a landing', () => {
  it('plays one or two strokes on open strings, by the song or by the change', () => {
    const all = said('down up, down up, down up, down up');
    const song = { ...start('A | D | E7'), pattern: all };
    const open = (of: Song) =>
      arrange(of)
        .strikes.filter(({ transition }) => transition)
        .map(({ tick }) => tick);
    expect(open(song)).toEqual([]);
    const one = run(song, rhythmCommands.setOpenStrokes(1));
    expect(open(one)).toEqual([BAR - 480, 2 * BAR - 480]);
    expect(
      arrange(one)
        .strikes.find(({ transition }) => transition)!
        .notes.map(({ fret }) => fret),
    ).toEqual([0, 0, 0, 0, 0, 0]);
    const place = { section: 0, line: 0, bar: 2 };
    const mixed = run(one, rhythmCommands.setOpenStrokesOf(place, 0, 2));
    expect(open(mixed)).toEqual([BAR - 480, 2 * BAR - 960, 2 * BAR - 480]);
    expect(open(run(mixed, rhythmCommands.setOpenStrokesOf(place, 0, 0)))).toEqual([BAR - 480]);
  });

  const place = { section: 0, line: 0, bar: 1 };
  const wish = { count: 2, noteTicks: 960, kind: 'in the key', direction: 'up' } as const;

  it('is done with a roll before a chord that is pushed into its slot', () => {
    const roll: Stroke = { kind: 'roll', dir: 'down', accent: 'normal', hits: 4 };
    const base = said('down miss, down miss, down miss, down miss');
    const song = {
      ...start('A | <<D'),
      pattern: placeStroke(base, slots(base).length - 1, roll),
    };
    const { strikes, landings } = arrange(song);
    const landing = landings[1]!.tick * (0.5 / 960);
    const rolled = strikes.filter(({ kind, bar }) => kind === 'roll' && bar === 0);
    expect(rolled).toHaveLength(1);
    for (const { seconds, notes } of rolled) {
      expect(notes.length).toBeGreaterThan(4);
      for (const { delay } of notes) expect(seconds + delay).toBeLessThan(landing);
      expect(notes.at(-1)!.delay).toBeGreaterThan(0.05);
    }
  });

  it('runs into the next root in time, and the pattern makes way', () => {
    const song = run(start('G | C | G'), rhythmCommands.setRun(place, 0, wish));
    const { strikes, lostRuns } = arrange(song);
    const notes = strikes.filter((strike) => strike.run);
    expect(lostRuns).toEqual([]);
    expect(notes.map(({ tick, notes: [note] }) => [tick, note!.string, note!.fret])).toEqual([
      [1920, 1, 0],
      [2880, 1, 2],
    ]);
    expect(strikes.filter(({ tick, run: part }) => tick >= 1920 && tick < BAR && !part)).toEqual(
      [],
    );
    expect(arrange(run(song, rhythmCommands.setRun(place, 0, null)))).toEqual(
      arrange(start('G | C | G')),
    );
  });

  it('is drawn in the bar it is played in', () => {
    const song = run(
      start('G | C | G'),
      rhythmCommands.setRun(place, 0, { ...wish, noteTicks: 480 }),
    );
    expect(drawn(song, 0)).toBe('down miss, down up, miss up, bass:s5f0 bass:s5f2');
    const [, second] = playedBars(song);
    const strikes = arrange(song).strikes.filter(({ bar }) => bar === 1);
    expect(asPlayed(CIRCLE, strikes, second!, 6)).toBe(CIRCLE);
    const open = run(start('G | C'), rhythmCommands.setOpenStrokes(2));
    expect(drawn(open, 0)).toBe('down miss, down up, miss up, open-down open-up');
  });

  it('is drawn without what a stop, a held chord or a first stroke left out silences', () => {
    const first = { section: 0, line: 0, bar: 0 };
    const stopped = run(start('A | A'), rhythmCommands.setBarRules(first, { stop: 1440 }));
    expect(drawn(stopped, 0)).toBe('down miss, down up, hold hold, hold hold');
    const skipped = run(start('A | A'), rhythmCommands.setBarRules(first, { skipFirst: true }));
    expect(drawn(skipped, 0)).toBe('miss miss, down up, miss up, down up');
    expect(drawn(start('A | D~'), 1)).toBe('down hold, hold hold, hold hold, hold hold');
    const driven = run(start('A | A'), rhythmCommands.setBarRules(first, { stop: 480 }));
    expect(drawn(driven, 0)).toMatch(/^down DOWN, hold/);
  });

  it('arrives on the bass string of the shapes, whatever they become', () => {
    const song = run(start('G | C | G'), rhythmCommands.setRun(place, 0, wish));
    for (const capo of [0, 3]) {
      const moved = run(song, commands.setCapo(capo));
      const notes = arrange(moved).strikes.filter((strike) => strike.run);
      const target = fretChord('C', moved)!.bass.midi;
      expect(target - notes.at(-1)!.notes[0]!.midi).toBeGreaterThan(0);
      expect(target - notes.at(-1)!.notes[0]!.midi).toBeLessThanOrEqual(2);
    }
  });

  it('says where a run no longer fits, and keeps the wish', () => {
    const song = run(start('G | C | G'), rhythmCommands.setRun(place, 0, { ...wish, count: 4 }));
    expect(arrange(song).lostRuns).toEqual([
      { tick: BAR, symbol: 'C', message: 'G is too short for 4 notes before C.' },
    ]);
    expect(arrange(song).strikes.some((strike) => strike.run)).toBe(false);
    expect(song.sections[0]!.lines[0]!.bars[1]!.chords[0]!.run?.count).toBe(4);
  });
});

describe('chords on any slot', () => {
  const place = { section: 0, line: 0, bar: 0 };

  it('are moved, printed and read back', () => {
    const moved = run(start('A E7 | D'), rhythmCommands.moveChord(place, 1920, 2400));
    expect(printProgression(moved.sections, moved.meter)).toBe('A . . . . E7 . . | D');
    expect(run(moved, commands.setProgression('A . . . . E7 . . | D'))).toEqual(moved);
    const finer = run(moved, rhythmCommands.moveChord(place, 2400, 2640));
    expect(printProgression(finer.sections, finer.meter)).toBe(
      'A . . . . . . . . . . E7 . . . . | D',
    );
    const thirds = run(moved, rhythmCommands.moveChord(place, 2400, 3200));
    expect(printProgression(thirds.sections, thirds.meter)).toBe('A . . . . . . . . . E7 . | D');
  });

  it('stay where another stands already, or outside the bar', () => {
    const song = start('A E7 | D');
    expect(run(song, rhythmCommands.moveChord(place, 1920, 0))).toBe(song);
    expect(run(song, rhythmCommands.moveChord(place, 1920, BAR))).toBe(song);
    expect(run(song, rhythmCommands.moveChord(place, 1920, -480))).toBe(song);
  });

  it('land there', () => {
    const moved = run(start('A E7 | D'), rhythmCommands.moveChord(place, 1920, 2400));
    expect(arrange(moved).landings.map(({ tick }) => tick)).toEqual([0, 2400, BAR]);
    expect(
      rhythms(run(moved, rhythmCommands.setSplit('restart')), playedBars(moved))[0],
    ).toMatchObject([{ ticks: 2400 }, { ticks: 1440, offset: 0 }]);
  });
});

describe('rules and the line of text', () => {
  const place = { section: 0, line: 0, bar: 1 };
  const ruled = run(
    start('Verse:\nA | D | A | E7'),
    rhythmCommands.setBarRules(place, { skipFirst: true }),
    rhythmCommands.setSectionRules(0, { level: 'accent' }),
    rhythmCommands.setOpenStrokesOf({ section: 0, line: 0, bar: 3 }, 0, 2),
  );
  const bars = (song: Song) =>
    song.sections.flatMap(({ lines }) => lines.flatMap((line) => line.bars));

  it('stay with their bars when the text changes before, after or inside them', () => {
    const text = printProgression(ruled.sections, ruled.meter);
    expect(run(ruled, commands.setProgression(text)).sections).toEqual(ruled.sections);
    const before = run(ruled, commands.setProgression('Verse:\nG | G | A | D | A | E7'));
    expect(bars(before)[3]!.rules).toEqual({ skipFirst: true });
    expect(bars(before)[5]!.chords[0]!.openStrokes).toBe(2);
    const inside = run(ruled, commands.setProgression('Verse:\nA | D7 | A | E7'));
    expect(bars(inside)[1]!.rules).toEqual({ skipFirst: true });
    expect(inside.sections[0]!.rules).toEqual({ level: 'accent' });
  });

  it('are edited through the Strum station as patterns of their own', () => {
    const target = { of: 'chord', symbol: 'D' } as const;
    const given = run(ruled, rhythmCommands.setRhythm(target, CIRCLE));
    const edited = run(given, onRhythm(target, commands.setStroke(0, { kind: 'miss' })));
    expect(say(patternOf(edited, target)!)).toBe('miss miss, down up, miss up, down up');
    expect(edited.pattern).toBe(given.pattern);
    expect(run(ruled, onRhythm(target, commands.setStroke(0, { kind: 'miss' })))).toBe(ruled);
  });

  it('go into another meter with the song', () => {
    const target = { of: 'bar', ...place } as const;
    const song = run(
      ruled,
      rhythmCommands.setRhythm(target, CIRCLE),
      commands.setMeter(METERS['3/4']),
    );
    expect(patternOf(song, target)!.beats).toHaveLength(3);
    expect(songSchema.parse(song)).toEqual(song);
  });
});
