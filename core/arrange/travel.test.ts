import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { progressions } from '../arbitraries.test-kit';
import { rhythmCommands } from '../edit';
import { said } from '../pattern/said.test-kit';
import { tries } from '../properties.test-kit';
import type { Song } from '../schema';
import { newSong, playedBars } from '../song';
import { say } from '../stroke';
import { arrange, arrangement, asPlayed, excerptStrikes, previewBars, voicingsOf } from '.';

const EIGHTHS = said('down up, down up, down up, down up');
const start = (progression: string): Song => ({
  ...newSong({ title: 'Weir', instrument: 'guitar', progression, tempo: 120 }),
  pattern: EIGHTHS,
});
const BAR = 3840;
const place = { section: 0, line: 0, bar: 1, at: 0 };
/** The first bar as it is played, in words. */
const firstBar = (song: Song) => {
  const { bars, performance } = arrangement(song);
  const strikes = performance.strikes.filter(({ bar }) => bar === 0);
  return say(asPlayed(EIGHTHS, strikes, bars[0]!, 6, performance.leftOut));
};
const before = (song: Song) => arrange(song).strikes.filter(({ tick }) => tick < BAR);

describe('strokes while the hand travels', () => {
  it('are open, as many as are asked for, within two beats where they are three', () => {
    const open = (count: 1 | 2 | 3) =>
      before(rhythmCommands.setOpenStrokes(count).apply(start('G | C')))
        .filter(({ transition }) => transition)
        .map(({ tick }) => tick);
    expect(open(1)).toEqual([3360]);
    expect(open(2)).toEqual([2880, 3360]);
    expect(open(3)).toEqual([2400, 2880, 3360]);
  });

  it('are damped: no note, all strings, as loud as they were', () => {
    const song = rhythmCommands.setTravel([place], 2, 'damped').apply(start('G | C'));
    const [third, last] = before(song).slice(-2);
    for (const strike of [third!, last!]) {
      expect(strike).toMatchObject({ kind: 'chuck', transition: true, notes: [], palm: false });
      expect(strike.damps).toHaveLength(6);
    }
    expect(last!.dir).toBe('up');
    expect(firstBar(song)).toBe('down up, down up, down up, chuck chuck');
  });

  it('are left out, told where, and the arm goes on', () => {
    const song = rhythmCommands.setTravel([place], 1, 'left out').apply(start('G | C'));
    expect(before(song)).toHaveLength(7);
    expect(arrange(song).leftOut).toEqual([3360]);
    expect(firstBar(song)).toBe('down up, down up, down up, down miss');
  });

  it('never take the stroke that the chord before lands with, but where they are open', () => {
    const quick = start('G . . C');
    const left = rhythmCommands.setOpenStrokes(3, 'left out').apply(quick);
    expect(arrange(left).strikes.filter(({ landing }) => landing)).toHaveLength(2);
  });

  it('follow the song, and one landing says otherwise', () => {
    const song = rhythmCommands.setOpenStrokes(1, 'damped').apply(start('G | C | D'));
    const one = rhythmCommands
      .setOpenStrokesOf({ section: 0, line: 0, bar: 1 }, 0, 1, 'open')
      .apply(song);
    const kinds = arrange(one)
      .strikes.filter(({ transition }) => transition)
      .map(({ kind }) => kind);
    expect(kinds).toEqual(['strum', 'chuck']);
    const none = rhythmCommands.setOpenStrokes(0).apply(one);
    expect(none).not.toHaveProperty('travel');
    expect(none).not.toHaveProperty('openStrokes');
  });
});

describe('how a chord is first struck', () => {
  const landing = (song: Song) => arrange(song).strikes.find(({ tick }) => tick === BAR)!;

  it('is its bass note, or one side of its strings, and only there', () => {
    const song = start('G | C');
    const arriving = (how: 'bass' | 'bass side' | 'treble side' | null) =>
      landing(rhythmCommands.setArrival([place], how).apply(song)).notes.map(
        ({ string }) => string,
      );
    expect(arriving('bass')).toEqual([1]);
    expect(arriving('bass side')).toEqual([1, 2, 3]);
    expect(arriving('treble side')).toEqual([3, 4, 5]);
    expect(arriving(null)).toEqual([1, 2, 3, 4, 5]);
    const bass = arrange(rhythmCommands.setArrival([place], 'bass').apply(song)).strikes;
    expect(bass.filter(({ kind }) => kind === 'bass')).toHaveLength(1);
  });

  it('stays a strum on an up: a bass note is struck downwards', () => {
    const pushed = rhythmCommands.setPush([place], 480).apply(start('G | C'));
    const song = rhythmCommands.setArrival([place], 'bass').apply(pushed);
    const up = arrange(song).strikes.find(({ tick }) => tick === BAR - 480)!;
    expect(up).toMatchObject({ kind: 'strum', dir: 'up', landing: true });
  });

  it('is drawn as the bass that it is', () => {
    const song = rhythmCommands.setArrival([place], 'bass').apply(start('G | C'));
    const { bars, performance } = arrangement(song);
    const strikes = performance.strikes.filter(({ bar }) => bar === 1);
    expect(say(asPlayed(EIGHTHS, strikes, bars[1]!, 6))).toBe('bass up, down up, down up, down up');
  });
});

describe('commands on landings', () => {
  it('move several chords at once, and leave one that finds its place taken', () => {
    const song = start('G . C . | D');
    const places = [
      { section: 0, line: 0, bar: 0, at: 0 },
      { section: 0, line: 0, bar: 1, at: 0 },
    ];
    const moved = rhythmCommands.moveChords(places, 1920).apply(song);
    const bars = playedBars(moved).map(({ content }) => content.chords.map(({ at }) => at));
    expect(bars).toEqual([[0, 1920], [1920]]);
  });

  it('carry what they say through an edit of the line', () => {
    const song = rhythmCommands.setTravel([place], 2, 'damped').apply(start('G | C'));
    const arrived = rhythmCommands.setArrival([place], 'treble side').apply(song);
    const chord = arrived.sections[0]!.lines[0]!.bars[1]!.chords[0]!;
    expect(chord).toMatchObject({ openStrokes: 2, travel: 'damped', arrive: 'treble side' });
  });
});

describe('some bars alone', () => {
  it('have the strikes that the whole song has there', () => {
    fc.assert(
      fc.property(progressions, fc.nat(30), (text, pick) => {
        const song = start(text);
        const whole = arrangement(song);
        fc.pre(whole.bars.length > 0 && whole.changes.length > 2);
        const { tick } = whole.changes[pick % whole.changes.length]!;
        const index = whole.bars.findLastIndex((bar) => bar.tick <= tick);
        // A run into a later change may begin in these bars: all changes are given.
        const first = Math.max(0, index - 1);
        const strikes = excerptStrikes(whole, song, voicingsOf(song), {
          first,
          last: index,
          changes: whole.changes,
        }).filter(({ bar, run }) => bar === index && !run);
        const same = whole.performance.strikes.filter(({ bar, run }) => bar === index && !run);
        expect(strikes.map(({ tick: at, kind }) => [at, kind])).toEqual(
          same.map(({ tick: at, kind }) => [at, kind]),
        );
      }),
      tries(60),
    );
  });

  it('begin at nothing and last as long as they are, for hearing them', () => {
    const arranged = arrangement(start('G | C | D | G'));
    const alone = previewBars(arranged, 1, 2);
    expect(alone.ticks).toBe(2 * BAR);
    expect(alone.seconds).toBeCloseTo(4, 9);
    expect(alone.bars.map(({ tick }) => tick)).toEqual([0, BAR]);
    expect(alone.landings.map(({ tick, symbol }) => [tick, symbol])).toEqual([
      [0, 'C'],
      [BAR, 'D'],
    ]);
    expect(alone.strikes).toHaveLength(16);
    expect(alone.strikes[0]).toMatchObject({ tick: 0, seconds: 0, bar: 0, chord: 'C' });
  });

  it('keep the feel that they are in', () => {
    const feel = { on: 'eighths' as const, percent: 67 };
    const swung = { ...start('G | C | D'), pattern: { ...EIGHTHS, feel } };
    const alone = previewBars(arrangement(swung), 1, 1);
    expect(alone.feels).toEqual([{ tick: 0, feel }]);
  });
});
