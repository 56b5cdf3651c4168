import { voices } from '../sound';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { patterns, progressions } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { fretChord } from '../neck';
import type { Arrival, Pattern, Song, Stroke } from '../schema';
import { rhythmCommands } from '../edit';
import { said } from '../pattern/said.test-kit';
import { divideBeat, newPattern, placeStroke, strum } from '../pattern';
import { sounds } from '../stroke';
import { barTicks, beatTicks, METERS } from '../time';
import {
  arrange,
  arrangement,
  asPlayed,
  clickBeats,
  evenBars,
  performanceSchema,
  rhythms,
  slotsOfBars,
} from '.';
import { landings, newSong, playedBars, songChanges, songChords, songTicks } from '../song';

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
    expect(changes.map(({ tick, symbol, push }) => ({ tick, symbol, push }))).toEqual([
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
      { from: 'A', to: 'D', times: 2, available: 3840 },
      { from: 'D', to: 'E7', times: 2, available: 1440 },
      { from: 'E7', to: 'A', times: 1, available: 2400 },
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

  const notesOf = (stroke: Stroke, chord = 'D') =>
    arrange(song(chord, stroke, miss, miss, miss, miss, miss, miss, miss)).strikes[0]!.notes.map(
      ({ string, fret }) => [string, fret],
    );

  it('reaches the side, or the strings, that a strum asks for', () => {
    const reach = (value: 'bass' | 'treble' | number[]) =>
      notesOf({ kind: 'strum', dir: 'down', accent: 'normal', reach: value }).map(
        ([string]) => string,
      );
    expect(reach('bass')).toEqual([2, 3]);
    expect(reach('treble')).toEqual([4, 5]);
    // The sixth string is not in the shape of D.
    expect(reach([6, 3, 1])).toEqual([3, 5]);
  });

  it('picks strings by number or from the root, a left-out one open', () => {
    const pick = (...strings: string[]) =>
      notesOf({
        kind: 'pick',
        dir: 'down',
        accent: 'normal',
        strings: strings.map((string) => ({ string })),
      });
    expect(pick('R', '2')).toEqual([
      [2, 0],
      [4, 3],
    ]);
    expect(pick('s1')).toEqual([[5, 2]]);
    expect(pick('s6')).toEqual([[0, 0]]);
    expect(pick('s8')).toEqual([]);
  });

  it('strikes root, fifth and explicit basses, and alternates with whichever was last', () => {
    const fifth: Stroke = { kind: 'bass', accent: 'normal', note: 'fifth' };
    const alternate: Stroke = { kind: 'bass', accent: 'normal', note: 'alternate' };
    expect(notesOf({ kind: 'bass', accent: 'normal', note: { string: 6, fret: 2 } })).toEqual([
      [0, 2],
    ]);
    expect(notesOf(fifth)).toEqual([[1, 0]]);
    const turns = arrange(
      song('D | A', bass, miss, alternate, miss, alternate, miss, alternate, miss),
    );
    expect(turns.strikes.map(({ notes }) => notes[0]!.string)).toEqual([2, 1, 2, 1, 1, 0, 1, 0]);
  });

  it('plays open strings in a transition, fans a roll, and taps with or without a stroke', () => {
    const open = arrange(song('F#m', { kind: 'strum', dir: 'up', accent: 'normal', open: true }));
    expect(open.strikes[0]).toMatchObject({ transition: true });
    expect(open.strikes[0]!.notes.map((note) => note.fret)).toEqual([0, 0, 0, 0, 0, 0]);

    const roll = arrange(song('D', { kind: 'roll', dir: 'down', accent: 'normal', hits: 3 }))
      .strikes[0]!;
    expect(roll.notes.map((note) => note.string)).toEqual([2, 3, 4, 5, 2, 3, 4, 5, 2, 3, 4, 5]);
    const delays = roll.notes.map((note) => note.delay);
    expect(delays).toEqual([...delays].sort((a, b) => a - b));
    expect(delays.at(-1)!).toBeLessThan(0.25);

    const taps = arrange(
      song('D', { kind: 'tap', accent: 'normal', on: 'strings' }, { ...bass, tap: 'body' }),
    );
    expect(taps.strikes[0]).toMatchObject({ kind: 'tap', tap: 'strings', notes: [] });
    expect(taps.strikes[0]!.damps).toHaveLength(6);
    expect(taps.strikes[1]).toMatchObject({ kind: 'bass', tap: 'body' });
  });

  it('swings the &s in time and not in ticks, but not a beat in three', () => {
    const straight = song('D', strum('down'), strum('up'), strum('down'), strum('up'));
    const feel = { on: 'eighths', percent: 75 } as const;
    const triplets = divideBeat({ ...straight.pattern, feel }, 1, 3);
    const { strikes } = arrange({ ...straight, pattern: placeStroke(triplets, 3, strum('up')) });
    expect(strikes.slice(0, 4).map(({ tick }) => tick)).toEqual([0, 480, 960, 1280]);
    expect(strikes.slice(0, 4).map(({ seconds }) => Number(seconds.toFixed(4)))).toEqual([
      0, 0.375, 0.5, 0.6667,
    ]);
  });

  it('builds from one loudness to another, with accents standing out', () => {
    const all = song('D', ...Array.from({ length: 8 }, () => strum('down')));
    const builds = [{ beat: 0, beats: 4, from: 'ghost', to: 'strong' } as const];
    const levels = arrange({ ...all, pattern: { ...all.pattern, builds } }).strikes.map(
      (strike) => strike.velocity,
    );
    expect(levels[0]).toBeCloseTo(0.32, 6);
    expect(levels.at(-1)).toBeCloseTo(1, 6);
    expect(levels).toEqual([...levels].sort((a, b) => a - b));
  });

  it('varies a loose pattern from turn to turn, but lands every chord', () => {
    const eighths = song(
      'D | A | <D | E7 x8',
      ...Array.from({ length: 8 }, (_, slot) => (slot % 2 ? miss : strum('down'))),
    );
    const loose = { ...eighths, pattern: { ...eighths.pattern, loose: { density: 0.5, seed: 3 } } };
    const performance = arrange(loose);
    const bars = new Set(
      Array.from({ length: 32 }, (_, bar) =>
        performance.strikes
          .filter((strike) => strike.bar === bar)
          .map((strike) => strike.slot)
          .join(),
      ),
    );
    expect(bars.size).toBeGreaterThan(5);
    const struck = new Set(performance.strikes.map((strike) => strike.tick));
    for (const { tick } of performance.landings) expect(struck).toContain(tick);
    expect(arrange(loose)).toEqual(performance);
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

        // The length is the sum of the bars' meters, and the slots fill every bar without gap or overlap.
        const lengths = bars.map(({ content, meter }) =>
          content.pickup ? content.pickup * beatTicks(meter) : barTicks(content.meter ?? any.meter),
        );
        expect(songTicks(bars)).toBe(lengths.reduce((sum, length) => sum + length, 0));
        const placed = [...slotsOfBars(bars, rhythms(any, bars))];
        let end = 0;
        for (const { slot, tick } of placed) {
          expect(tick).toBe(end);
          end = tick + slot.ticks;
        }
        expect(end).toBe(songTicks(bars));

        // Every slot that is struck is a strike, and no string sounds outside its chord.
        const sounding = placed.filter(
          ({ slot: { stroke } }) => sounds(stroke) && stroke.kind !== 'legato',
        );
        const struck = performance.strikes.filter(({ kind }) => kind !== 'legato');
        if (!progression.includes('~')) {
          expect(struck.map((strike) => strike.tick)).toEqual(sounding.map(({ tick }) => tick));
        }
        for (const strike of performance.strikes) {
          const held = strike.chord === null ? null : fretChord(strike.chord, any);
          const plain = strike.notes.every(({ legato }) => !legato) && !strike.transition;
          const onChord = ['strum', 'roll'].includes(strike.kind) && plain;
          if (!onChord) continue;
          for (const note of strike.notes) expect(held!.pitches[note.string]).toBe(note.midi);
        }

        // Swing moves seconds and never ticks, and no strike past the next.
        const moments = performance.strikes.map((strike) => strike.seconds);
        expect(moments).toEqual([...moments].sort((a, b) => a - b));
        const arrivals = performance.strikes.filter((strike) => strike.landing);
        expect(arrivals.length).toBeLessThanOrEqual(performance.landings.length);
      }),
      tries(40),
    );
    // Every strike of every one goes through the schema: on a busy machine that takes a while.
  }, 60_000);
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
        const wrong = voices(arrange(any), any.meter).filter(({ string, start, end }) => {
          const overlaps = start < (last.get(string) ?? 0) - 1e-9 || end <= start;
          last.set(string, end);
          return overlaps;
        });
        expect(wrong).toEqual([]);
      }),
      tries(60),
    );
  });
});

describe('clicks', () => {
  it('counts a bar before the first in the same way as the first', () => {
    expect(
      clickBeats(evenBars(METERS['3/4'], 5760), -2880, 960).map((beat) => [
        beat.number,
        beat.weight,
      ]),
    ).toEqual([
      [1, 'bar'],
      [2, 'beat'],
      [3, 'beat'],
      [1, 'bar'],
    ]);
  });

  it('takes the beats from the window alone, so that none comes twice', () => {
    const all = [
      ...clickBeats(evenBars(METERS['4/4'], 3840), 0, 1000.5),
      ...clickBeats(evenBars(METERS['4/4'], 3840), 1000.5, 1920),
      ...clickBeats(evenBars(METERS['4/4'], 3840), 1920, 3840),
    ];
    expect(all.map((beat) => beat.tick)).toEqual([0, 960, 1920, 2880]);
  });
});

describe('an alternate bass that a finger has to move to', () => {
  const basses = (chord: string) => {
    const made = newSong({ title: 'Weir', instrument: 'guitar', progression: chord });
    const pattern = said('bass miss, down miss, alternate miss, down miss');
    return arrange({ ...made, pattern }).strikes.filter(({ kind }) => kind === 'bass');
  };

  it('stops the string that the finger left', () => {
    // B7, x21202: the second finger goes from the A string to the low E.
    const [root, other] = basses('B7');
    expect([root!.notes[0]!.string, root!.damps]).toEqual([1, []]);
    expect([other!.notes[0]!.string, other!.damps]).toEqual([0, [1]]);
    // Of G the fifth is an open string: nothing stops.
    expect(basses('G')[1]!.damps).toEqual([]);
  });
});

describe('how a chord is first struck', () => {
  const song = (arrive: Arrival): Song => {
    const made = newSong({ title: 'Weir', instrument: 'guitar', progression: 'A | D' });
    const place = { section: 0, line: 0, bar: 1, at: 0 };
    const pattern = said('bass miss, down up, bass miss, down up');
    return rhythmCommands.setArrival([place], arrive).apply({ ...made, pattern });
  };
  const landing = (arrive: Arrival) =>
    arrange(song(arrive)).strikes.find(({ tick }) => tick === 3840)!;

  it('is the whole chord or a roll, where the pattern has a bass', () => {
    expect(landing('whole')).toMatchObject({ kind: 'strum', landing: true });
    expect(landing('whole').notes).toHaveLength(4);
    expect(landing('roll')).toMatchObject({ kind: 'roll', landing: true });
    expect(landing('bass').kind).toBe('bass');
  });

  it('is hammered on the strings that ring, without a stroke', () => {
    const { kind, landing: lands, notes } = landing('hammer');
    expect([kind, lands]).toEqual(['legato', true]);
    // Of A that rings, x02220, D has its second string higher: 3 for 2; and its first, 2 for open.
    expect(notes.map(({ fret, legato }) => [legato!.how, legato!.from, fret])).toEqual([
      ['hammer', 2, 3],
      ['hammer', 0, 2],
    ]);
  });

  it('is pulled off where its strings lie lower, and says so where none does', () => {
    const { kind, notes } = landing('pull');
    expect(kind).toBe('legato');
    // D has the fourth string open, where A holds it at the second fret.
    expect(
      notes.map(({ string, fret, legato }) => [string, legato!.how, legato!.from, fret]),
    ).toEqual([[2, 'pull', 2, 0]]);
    const up = newSong({ title: 'Weir', instrument: 'guitar', progression: 'Em | E' });
    const pulled = rhythmCommands
      .setArrival([{ section: 0, line: 0, bar: 1, at: 0 }], 'pull')
      .apply(up);
    expect(arrange(pulled).silent.map(({ message }) => message)).toEqual([
      'Nothing rings that could be pulled off to E.',
    ]);
  });

  it('is drawn so', () => {
    const drawn = (arrive: Arrival) => {
      const { bars, rhythms: parts, performance } = arrangement(song(arrive));
      const here = performance.strikes.filter(({ bar }) => bar === 1);
      return asPlayed(parts[1]![0]!.pattern, here, bars[1]!, 6).beats[0]!.slots[0]!.kind;
    };
    expect([drawn('whole'), drawn('roll'), drawn('bass'), drawn('hammer')]).toEqual([
      'strum',
      'roll',
      'bass',
      'legato',
    ]);
  });

  it('and held to the end is the whole chord, whatever the pattern begins with', () => {
    const held = newSong({ title: 'Weir', instrument: 'guitar', progression: 'A | E~' });
    const { strikes } = arrange({
      ...held,
      pattern: said('bass miss, down up, bass miss, down up'),
    });
    const last = strikes.filter(({ bar }) => bar === 1);
    expect(last.map(({ kind, notes }) => [kind, notes.length])).toEqual([['strum', 6]]);
  });
});
