import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { patterns, progressions } from '../arbitraries.test-kit';
import { holdChord } from '../neck';
import type { Pattern, Song, Stroke } from '../schema';
import { newPattern, placeStroke, slots, sounds, strum } from '../stroke';
import { barTicks, METERS } from '../time';
import {
  arrange,
  clickBeats,
  landings,
  newSong,
  performanceSchema,
  playedBars,
  slotsOfBars,
  songChanges,
  songChords,
  songTicks,
  voices,
} from '.';

function song(progression: string, ...strokes: Stroke[]): Song {
  const start = newSong({ title: 'Mooring', instrument: 'guitar', progression, tempo: 120 });
  const pattern = strokes.reduce<Pattern>(
    (now, stroke, slot) => placeStroke(now, slot, stroke),
    newPattern(METERS['4/4']),
  );
  return { ...start, pattern };
}

const miss: Stroke = { kind: 'miss' };
const bass: Stroke = { kind: 'bass', accent: 'normal' };
const chuck: Stroke = { kind: 'chuck', dir: 'down', accent: 'normal' };

describe('the order of bars and chords', () => {
  it('writes repeats out', () => {
    expect(playedBars(song('A | D x2\nE7')).map((bar) => [bar.line, bar.bar, bar.tick])).toEqual([
      [0, 0, 0],
      [0, 1, 3840],
      [0, 0, 7680],
      [0, 1, 11520],
      [1, 0, 15360],
    ]);
  });

  it('lands pushes before their place, and nothing where the chord is already held', () => {
    const changes = landings(playedBars(song('A | A | <D | E7 . <<A .')));
    expect(changes).toEqual([
      { tick: 0, symbol: 'A', push: 0 },
      { tick: 7200, symbol: 'D', push: 480 },
      { tick: 11520, symbol: 'E7', push: 0 },
      { tick: 13200, symbol: 'A', push: 240 },
    ]);
  });

  it('lists each kind of change once, with how often it comes and the room it has', () => {
    const { sequence, changes } = songChanges(song('A | D . <E7 . | A | D E7'));
    expect(sequence).toEqual(['A', 'D', 'E7', 'A', 'D', 'E7']);
    expect(changes).toEqual([
      { from: 'A', to: 'D', times: 2, room: 3840 },
      { from: 'D', to: 'E7', times: 2, room: 1440 },
      { from: 'E7', to: 'A', times: 1, room: 2400 },
    ]);
    expect(songChanges(song('')).changes).toEqual([]);
  });

  it('lists each chord once', () => {
    expect(songChords(song('A D | A | E7'))).toEqual(['A', 'D', 'E7']);
  });
});

describe('arranging', () => {
  it('strikes the strings of the chord, a down from the bass side, an up from the other', () => {
    const { strikes } = arrange(song('D', strum('down'), strum('up')));
    expect(strikes[0]).toMatchObject({
      kind: 'strum',
      dir: 'down',
      tick: 0,
      chord: 'D',
      landing: true,
    });
    expect(strikes[0]!.notes.map((note) => note.string)).toEqual([2, 3, 4, 5]);
    expect(strikes[0]!.notes.map((note) => note.midi)).toEqual([50, 57, 62, 66]);
    expect(strikes[1]!.notes.map((note) => note.string)).toEqual([5, 4, 3, 2]);
    const delays = strikes[1]!.notes.map((note) => note.delay);
    expect(delays[0]).toBe(0);
    expect([...delays].sort((a, b) => a - b)).toEqual(delays);
  });

  it('hits the bass string of each chord, and damps without pitch in a chuck', () => {
    const { strikes } = arrange(song('A | D', bass, miss, chuck, miss, miss, miss, miss, miss));
    expect(strikes.map(({ kind, notes }) => [kind, notes.map((note) => note.midi)])).toEqual([
      ['bass', [45]],
      ['chuck', []],
      ['bass', [50]],
      ['chuck', []],
    ]);
    expect(strikes[1]!.damps).toEqual([0, 1, 2, 3, 4, 5]);
  });

  it('is louder by accent', () => {
    const levels = (['ghost', 'normal', 'accent', 'strong'] as const).map(
      (accent) => arrange(song('A', strum('down', accent))).strikes[0]!.velocity,
    );
    expect([...levels].sort((a, b) => a - b)).toEqual(levels);
    expect(new Set(levels).size).toBe(4);
  });

  it('changes chord exactly where the flag stands', () => {
    const { strikes } = arrange(song('A | <D', strum('down'), strum('up')));
    const pushed = song('A | <D', ...Array.from({ length: 8 }, () => strum('down')));
    expect(strikes.find((strike) => strike.landing && strike.chord === 'D')!.tick).toBe(3840);
    expect(arrange(pushed).strikes.find((strike) => strike.landing && strike.tick > 0)!.tick).toBe(
      3360,
    );
  });

  it('is silent on a chord it cannot read, but for the chucks', () => {
    const { strikes } = arrange(song('Hx', strum('down'), miss, chuck));
    expect(strikes[0]).toMatchObject({ chord: 'Hx', notes: [] });
    expect(strikes[1]!.damps).toHaveLength(6);
  });

  it('times strikes by the tempo of the pulse', () => {
    const base = newSong({
      title: 'Six',
      instrument: 'ukulele',
      meter: METERS['6/8'],
      tempo: 60,
      progression: 'C',
    });
    const { strikes, seconds } = arrange(base);
    expect(strikes[3]!.seconds).toBeCloseTo(1, 9);
    expect(seconds).toBeCloseTo(2, 9);
  });

  it('holds its laws for any song', () => {
    fc.assert(
      fc.property(patterns, progressions, (pattern, progression) => {
        const any: Song = {
          ...newSong({ title: 'Any', instrument: 'guitar', meter: pattern.meter, progression }),
          pattern,
        };
        const bars = playedBars(any);
        const performance = arrange(any);
        expect(performanceSchema.parse(performance)).toEqual(performance);

        // The length is the sum of the bars, and every slot comes exactly once a bar.
        expect(songTicks(bars)).toBe(bars.length * barTicks(any.meter));
        const placed = [...slotsOfBars(any, bars)];
        expect(placed).toHaveLength(bars.length * slots(pattern).length);
        expect(new Set(placed.map(({ tick }) => tick)).size).toBe(placed.length);

        // Every sounding slot is a strike, and no string sounds outside its chord.
        const sounding = placed.filter(({ slot }) => sounds(slot.stroke));
        expect(performance.strikes.map((strike) => strike.tick)).toEqual(
          sounding.map(({ tick }) => tick),
        );
        for (const strike of performance.strikes) {
          const held = strike.chord === null ? null : holdChord(strike.chord, any);
          for (const note of strike.notes) expect(held!.pitches[note.string]).toBe(note.midi);
        }
        const arrivals = performance.strikes.filter((strike) => strike.landing);
        expect(arrivals.length).toBeLessThanOrEqual(performance.landings.length);
      }),
      { numRuns: 200 },
    );
  });
});

describe('voices', () => {
  it('rings until the string is struck again, damped, or left', () => {
    const ringing = voices(
      arrange(song('A | D', bass, miss, bass, miss, chuck, miss, bass, miss)),
      METERS['4/4'],
    );
    const rounded = ringing.map(({ start, end, midi }) => [midi, start, Number(end.toFixed(3))]);
    expect(rounded).toEqual([
      [45, 0, 0.5],
      [45, 0.5, 1],
      [45, 1.5, 2],
      [50, 2, 2.5],
      [50, 2.5, 3],
      [50, 3.5, 4],
    ]);
  });

  it('never sounds two notes on one string at once', () => {
    fc.assert(
      fc.property(patterns, progressions, (pattern, progression) => {
        const any: Song = {
          ...newSong({ title: 'Any', instrument: 'ukulele', meter: pattern.meter, progression }),
          pattern,
        };
        const last = new Map<number, number>();
        for (const { string, start, end } of voices(arrange(any), any.meter)) {
          expect(start).toBeGreaterThanOrEqual((last.get(string) ?? 0) - 1e-9);
          expect(end).toBeGreaterThan(start);
          last.set(string, end);
        }
      }),
      { numRuns: 150 },
    );
  });
});

describe('clicks', () => {
  it('counts a bar before the first in the same way as the first', () => {
    expect(clickBeats(METERS['3/4'], -2880, 960).map((beat) => [beat.number, beat.weight])).toEqual(
      [
        [1, 'bar'],
        [2, 'beat'],
        [3, 'beat'],
        [1, 'bar'],
      ],
    );
  });

  it('takes the beats from the window alone, so that none comes twice', () => {
    const all = [
      ...clickBeats(METERS['4/4'], 0, 1000.5),
      ...clickBeats(METERS['4/4'], 1000.5, 1920),
      ...clickBeats(METERS['4/4'], 1920, 3840),
    ];
    expect(all.map((beat) => beat.tick)).toEqual([0, 960, 1920, 2880]);
  });
});
