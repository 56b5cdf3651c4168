import type { Milliseconds, Seconds } from '../plain';
import type { Performance, Strike } from '../arrange';
import { noise } from '../random';
import type { Family, Meter } from '../schema';
import { dryMix, USUAL_LEVELS } from '../sound';
import { secondsPerTick } from '../time';

/** How a made-up player plays: nothing said is played as written. */
export interface Habits {
  seed: number;
  /** Milliseconds of scatter: the standard deviation of each stroke. */
  jitter?: Milliseconds;
  /** Per cent by which the tempo has risen (rushing) or fallen at the end. */
  drift?: number;
  /** Milliseconds that strokes come late at landings; of one change only, if it is named. */
  landingsLate?: Milliseconds;
  change?: { from: string; to: string };
  /** Share of the up-strokes that are missed, and how loud the others are. */
  upsMissed?: number;
  upsLoud?: number;
  /** Milliseconds that a stroke comes late after the arm has stopped on a miss. */
  stopsAfterMiss?: Milliseconds;
  /** The old chord still sounds in the stroke that lands. */
  chordLate?: boolean;
  /** Share of bass strikes on another string, and of strokes played the other way. */
  wrongBass?: number;
  turned?: number;
}

/** A performance as a made-up player plays it. */
export function playTake(performance: Performance, meter: Meter, habits: Habits): Performance {
  const random = noise(habits.seed);
  const even = () => (random() + 1) / 2;
  // Twelve even numbers are near enough to normal scatter.
  const normal = () => Array.from({ length: 12 }, even).reduce((sum, one) => sum + one, -6);
  const perTick = secondsPerTick(performance.tempo, meter);
  const { strikes } = performance;
  const total = performance.seconds || 1;
  const shifts = new Map<number, number>();
  const played = strikes.flatMap((strike, index): Strike[] => {
    const before = strikes[index - 1];
    const up = strike.dir === 'up' && strike.kind !== 'bass';
    if (up && even() < (habits.upsMissed ?? 0)) return [];
    let off = (normal() * (habits.jitter ?? 0)) / 1000;
    off -= ((habits.drift ?? 0) / 100) * (strike.seconds ** 2 / (2 * total));
    if (strike.landing && before?.chord && isMeant(habits, before.chord, strike.chord)) {
      off += (habits.landingsLate ?? 0) / 1000;
    }
    const gap = before ? strike.tick - before.tick : 0;
    if (before && gap > before.ticks) off += (habits.stopsAfterMiss ?? 0) / 1000;
    const late = strike.late + off / perTick;
    shifts.set(strike.tick, off / perTick);
    const now = otherwise(strike, before, habits, even);
    const soft = up ? (habits.upsLoud ?? 1) : 1;
    return [
      {
        ...now,
        late,
        seconds: (strike.tick + late) * perTick,
        velocity: now.velocity * soft,
        notes: now.notes.map((note) => ({ ...note, velocity: note.velocity * soft })),
      },
    ];
  });
  return {
    ...performance,
    strikes: played,
    landings: performance.landings.map((landing) => ({
      ...landing,
      late: landing.late + (shifts.get(landing.tick) ?? 0),
    })),
  };
}

function isMeant({ change }: Habits, from: string, to: string | null): boolean {
  return !change || (change.from === from && change.to === to);
}

/** The stroke with another string, direction or chord, where the player has that habit. */
function otherwise(
  strike: Strike,
  before: Strike | undefined,
  { chordLate, wrongBass = 0, turned = 0 }: Habits,
  even: () => number,
): Strike {
  if (strike.kind === 'bass' && even() < wrongBass) {
    const other = strike.notes[0]!.string > 0 ? -1 : 1;
    const notes = strike.notes.map((note) => ({
      ...note,
      string: note.string + other,
      midi: note.midi + 5 * other,
    }));
    return { ...strike, notes };
  }
  if (chordLate && strike.landing && before && before.notes.length > 2 && strike.notes.length > 2) {
    return { ...strike, notes: before.dir === strike.dir ? before.notes : turnedNotes(before) };
  }
  if (strike.kind === 'strum' && even() < turned) {
    return { ...strike, dir: strike.dir === 'down' ? 'up' : 'down', notes: turnedNotes(strike) };
  }
  return strike;
}

/** The same strings in the other order. */
function turnedNotes({ notes }: Strike): Strike['notes'] {
  const delays = notes.map(({ delay }) => delay);
  return [...notes].reverse().map((note, index) => ({ ...note, delay: delays[index]! }));
}

/** What is around the instrument in a made-up recording. */
export interface Room {
  /** Seconds before the first bar. */
  lead?: Seconds;
  /** Decibels of noise below the loudest strums; none where it is left out. */
  noise?: number;
  /** The click as it bleeds into the microphone, 0 to 1. */
  click?: number;
  seed?: number;
}

/**
 * A take as sound: the performance through the app's own strings, in a small room with its noise.
 * @returns mono samples
 */
export function takeSound(
  performance: Performance,
  meter: Meter,
  family: Family,
  sampleRate: number,
  { lead = 0.4, noise: quiet, click = 0, seed = 1 }: Room = {},
): Float32Array<ArrayBuffer> {
  const dry = dryMix({
    performance,
    meter,
    family,
    click: click > 0 ? 'all' : null,
    groove: null,
    levels: { ...USUAL_LEVELS, click },
    sampleRate,
  });
  const out = new Float32Array(dry.length + Math.round(lead * sampleRate));
  out.set(dry, out.length - dry.length);
  const random = noise(seed);
  const level = quiet === undefined ? 0 : 0.3 * 10 ** (-quiet / 20);
  // A few reflections of near walls, each duller than the one before.
  const echoes = [
    [0.011, 0.18],
    [0.019, 0.12],
    [0.031, 0.08],
  ].map(([seconds, gain]) => ({ by: Math.round(seconds! * sampleRate), gain: gain! }));
  for (let at = out.length - 1; at >= 0; at -= 1) {
    let value = out[at]!;
    for (const { by, gain } of echoes) if (at >= by) value += gain * out[at - by]!;
    out[at] = value * 0.75 + level * random();
  }
  return out;
}
