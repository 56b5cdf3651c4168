import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { patterns, progressions } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { METERS } from '../time';
import { arrange, clickBeats, evenBars, type Strike } from '../arrange';
import { newSong } from '../song';
import {
  type Cue,
  cueClick,
  cueDrum,
  cueSilence,
  cueStrike,
  cueWord,
  type RingingStrings,
  limit,
  LIMITER_RANGE,
  limiterCurve,
  mixCues,
  NOTHING_RINGS,
  soundKey,
  soundsOf,
  USUAL_LEVELS,
} from '.';

const strike = (notes: [number, number][], change: Partial<Strike> = {}): Strike => ({
  kind: 'strum',
  dir: 'down',
  accent: 'normal',
  tick: 0,
  ticks: 480,
  late: 0,
  seconds: 0,
  bar: 0,
  slot: 0,
  chord: 'A',
  landing: false,
  transition: false,
  run: false,
  palm: false,
  flesh: false,
  tap: null,
  velocity: 0.6,
  notes: notes.map(([string, midi], order) => ({
    string,
    fret: 0,
    midi,
    delay: order * 0.01,
    velocity: 0.6,
  })),
  damps: [],
  ...change,
});
const chucked = (damps: number[], velocity = 0.6) => strike([], { kind: 'chuck', damps, velocity });

const starts = (cues: Cue[]) => cues.flatMap((cue) => (cue.act === 'start' ? [cue] : []));
const stops = (cues: Cue[]) => cues.flatMap((cue) => (cue.act === 'stop' ? [cue] : []));

/** The cues of several strikes, one after the other. */
function play(...list: [Strike, number][]): { rings: RingingStrings; cues: Cue[] } {
  return list.reduce<{ rings: RingingStrings; cues: Cue[] }>(
    ({ rings, cues }, [one, time]) => {
      const next = cueStrike(rings, one, 'guitar', time);
      return { rings: next.rings, cues: [...cues, ...next.cues] };
    },
    { rings: NOTHING_RINGS, cues: [] },
  );
}

describe('the rings', () => {
  const two = strike([
    [0, 45],
    [1, 52],
  ]);

  it('rakes a strum string by string', () => {
    const { cues } = play([two, 2]);
    expect(starts(cues).map(({ time }) => Number(time.toFixed(3)))).toEqual([2, 2.01]);
    expect(starts(cues)[0]!.sound).toMatchObject({ kind: 'pluck', midi: 45, family: 'guitar' });
  });

  it('has one voice a string: a new pluck stops the old, and only that string', () => {
    const { cues } = play([two, 1], [strike([[1, 54]]), 2]);
    expect(stops(cues)).toEqual([{ act: 'stop', id: 1, time: 2 }]);
  });

  it('stops strings by a chuck, which sounds without a pitch, and by the hand that leaves', () => {
    const { rings, cues } = play([two, 1], [chucked([0, 1]), 1.5]);
    expect(stops(cues).map(({ id, time }) => [id, time])).toEqual([
      [0, 1.5],
      [1, 1.5],
    ]);
    expect(starts(cues).at(-1)!.sound).toEqual({ kind: 'chuck', weight: 'plain' });
    expect(cueSilence(rings, 3).cues).toEqual([]);
    const left = cueSilence(play([two, 1]).rings, 3);
    expect(stops(left.cues).map(({ id }) => id)).toEqual([0, 1]);
    expect(left.rings.ringing.size).toBe(0);
  });

  it('fans a roll on the same strings: each hit stops the one before', () => {
    const roll = strike(
      [
        [0, 45],
        [1, 52],
        [0, 45],
        [1, 52],
      ],
      { kind: 'roll' },
    );
    expect(stops(play([roll, 1]).cues).map(({ id }) => id)).toEqual([0, 1]);
  });

  it('is louder and brighter for harder strikes, and rounder for flesh', () => {
    const at = (velocity: number, change: Partial<Strike> = {}) => {
      const one = strike([[0, 45]], { velocity, ...change });
      const notes = one.notes.map((note) => ({ ...note, velocity }));
      return starts(cueStrike(NOTHING_RINGS, { ...one, notes }, 'guitar', 0).cues)[0]!;
    };
    expect(at(0.9).gain).toBeGreaterThan(2 * at(0.3).gain);
    expect([at(0.3), at(0.6), at(0.9)].map(({ sound }) => 'force' in sound && sound.force)).toEqual(
      ['soft', 'medium', 'hard'],
    );
    expect(at(0.6, { flesh: true }).sound).toMatchObject({ by: 'flesh' });
    expect(at(0.6, { palm: true }).sound).toMatchObject({ palm: true });
    expect(at(0.6, { kind: 'bass' }).channel).toBe('bass');
    expect(at(0.6).channel).toBe('strings');
  });

  it('weighs chucks from faint to heavy, and knocks with or without a stroke', () => {
    const weights = [0.3, 0.6, 0.9].map((velocity) => {
      const { sound } = starts(play([chucked([0], velocity), 0]).cues)[0]!;
      return 'weight' in sound && sound.weight;
    });
    expect(weights).toEqual(['faint', 'plain', 'heavy']);
    const tapped = play([strike([[0, 45]], { tap: 'body' }), 0]).cues;
    expect(starts(tapped).map(({ sound }) => sound.kind)).toEqual(['tap', 'pluck']);
  });

  it('clicks, drums and says words on channels of their own, numbered on', () => {
    const [beat] = clickBeats(evenBars(METERS['4/4'], 3840), 0, 1);
    const clicked = cueClick(NOTHING_RINGS, beat!, 5, 0.5);
    const drummed = cueDrum(clicked.rings, { tick: 0, piece: 'kick', velocity: 1 }, 6);
    const said = cueWord(drummed.rings, 3, 7);
    const all = starts([...clicked.cues, ...drummed.cues, ...said.cues]);
    expect(all.map(({ id, channel, time }) => [id, channel, time])).toEqual([
      [0, 'click', 5],
      [1, 'drums', 6],
      [2, 'click', 7],
    ]);
    expect(all[2]!.sound).toEqual({ kind: 'word', syllables: 2 });
    expect(new Set(all.map(({ sound }) => soundKey(sound))).size).toBe(3);
  });
});

describe('the limiter', () => {
  it('leaves what is soft as it is, keeps order, and never reaches full scale', () => {
    expect(limit(0.5)).toBe(0.5);
    expect(limit(-0.5)).toBe(-0.5);
    let before = -2;
    for (const sample of limiterCurve()) {
      expect(sample).toBeGreaterThanOrEqual(before);
      expect(Math.abs(sample)).toBeLessThan(1);
      before = sample;
    }
    const curve = limiterCurve(9);
    expect(curve[4]).toBe(0);
    expect(curve[8]).toBeCloseTo(limit(LIMITER_RANGE), 6);
  });
});

describe('cues of any song', () => {
  it('stop only what began, never twice, and leave one sound to a string', () => {
    fc.assert(
      fc.property(patterns, progressions, (pattern, progression) => {
        const song = {
          ...newSong({ title: 'Any', instrument: 'guitar', meter: pattern.meter, progression }),
          pattern,
        };
        const performance = arrange(song);
        if (performance.strikes.length > 400) return;
        const { cues } = mixCues({
          performance,
          meter: song.meter,
          family: 'guitar',
          click: 'all',
          groove: 'eighths',
          levels: USUAL_LEVELS,
          sampleRate: 44100,
        });
        const begun = new Map(starts(cues).map((cue) => [cue.id, cue]));
        expect(begun.size).toBe(starts(cues).length);
        const ended = stops(cues);
        expect(new Set(ended.map(({ id }) => id)).size).toBe(ended.length);
        for (const { id, time } of ended)
          expect(begun.get(id)!.time).toBeLessThanOrEqual(time + 1e-9);
        // All plucks are stopped in the end, and all that will sound was told before.
        const plucks = starts(cues).filter(({ sound }) => sound.kind === 'pluck');
        expect(plucks.every(({ id }) => ended.some((stop) => stop.id === id))).toBe(true);
        const told = new Set(soundsOf(performance, 'guitar').map(soundKey));
        for (const { sound, gain } of plucks) {
          expect(told).toContain(soundKey(sound));
          expect(gain).toBeGreaterThan(0);
        }
      }),
      tries(25),
    );
  });
});
