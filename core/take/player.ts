import type { Milliseconds, Seconds } from '../plain';
import type { Performance, Strike } from '../arrange';
import { noise } from '../random';
import type { Family, Meter } from '../schema';
import { dryMix, USUAL_LEVELS } from '../sound';
import { secondsPerTick } from '../time';
import { isAfterMiss, isLanding, type KindOfStroke, kindOfStroke } from './kinds';

/** What a made-up player leaves out: strokes of a kind, of a place of the pattern, those that land, or any. */
export type Omitted = KindOfStroke | 'landings' | 'any' | { slot: number };

/** How a made-up player plays: nothing said is played as written. */
export interface Habits {
  seed: number;
  /** Milliseconds of scatter: the standard deviation of each stroke. */
  jitter?: Milliseconds;
  /** Per cent by which the tempo has risen (rushing) or fallen at the end. */
  drift?: number;
  /** Times as fast as was asked, from first to last. */
  pace?: number;
  /** Milliseconds that strokes come late at landings; of one change only, if it is named. */
  landingsLate?: Milliseconds;
  change?: { from: string; to: string };
  /** After a late landing: the next stroke is in time, the player hurries to be back within a bar, or goes on from there. */
  afterLate?: 'in time' | 'hurries' | 'goes on';
  /** Milliseconds of a stop before each bar from the second on, from which the player goes on. */
  stops?: Milliseconds;
  /** A place of the pattern that comes late each time, or early below zero. */
  slotLate?: { slot: number; by: Milliseconds };
  /** What is left out, and of it which share. */
  leavesOut?: { what: Omitted; share: number };
  /** Strokes that are added, as a share of those there are, each between two strokes. */
  adds?: number;
  /** How loud the ups are beside what was meant. */
  upsLoud?: number;
  /** Milliseconds that a stroke comes late after the arm has stopped on a miss. */
  stopsAfterMiss?: Milliseconds;
  /** The old chord still sounds in the stroke that lands. */
  chordLate?: boolean;
  /** Of each time a chord is held, whether the one before is held all through it. */
  holdsOn?: (symbol: string) => boolean;
  /** Chucks that ring as strums of the chord. */
  chucksRing?: number;
  /** Share of bass strikes and of picked notes on another string, and of strokes played the other way. */
  wrongBass?: number;
  wrongPicks?: number;
  turned?: number;
  /** Bars, from 0, in which the arm has turned round: every strum goes the other way. */
  turnedIn?: { first: number; last: number };
}

/** Where a stroke that was added lies between its neighbours. */
const BETWEEN = 0.5;

function isLeftOut(strike: Strike, before: Strike | undefined, what: Omitted): boolean {
  if (what === 'any') return true;
  if (what === 'landings') return isLanding(strike, before);
  if (typeof what === 'object') return strike.slot === what.slot && !strike.run;
  return kindOfStroke(strike) === what;
}

/** Seconds that each stroke is late, or early, and those that are lost for good. */
function delays(
  { strikes, seconds: total, bars }: Performance,
  habits: Habits,
): { late: Seconds[]; lost: Seconds[] } {
  const by = (habits.landingsLate ?? 0) / 1000;
  const late = strikes.map(() => 0);
  const lost = strikes.map(() => 0);
  let [gone, behind, until] = [0, 0, 0];
  strikes.forEach((strike, index) => {
    const before = strikes[index - 1];
    const { seconds } = strike;
    const lands = isLanding(strike, before) && isMeant(habits, before!.chord!, strike.chord);
    if (before && habits.stops && strike.bar !== before.bar) gone += habits.stops / 1000;
    if (lands && by > 0) {
      if (habits.afterLate === 'goes on') gone += by;
      else if (habits.afterLate === 'hurries') {
        const bar = bars[strike.bar];
        const length = bar ? (bar.ticks / 960) * (60 / 80) : 2;
        const next = strikes.find((one, at) => at > index && isLanding(one, strikes[at - 1]));
        behind = by;
        until = Math.min(seconds + length, next?.seconds ?? Infinity);
        late[index] = by;
      } else late[index] = by;
    }
    if (behind > 0 && until > 0 && !lands) {
      const from = strikes.findLast((one) => one.seconds < seconds && one.landing)?.seconds ?? 0;
      late[index] = Math.max(0, behind * (1 - (seconds - from) / Math.max(0.01, until - from)));
    }
    if (before && isAfterMiss(strike, before)) late[index]! += (habits.stopsAfterMiss ?? 0) / 1000;
    if (habits.slotLate?.slot === strike.slot && !strike.run) {
      late[index]! += habits.slotLate.by / 1000;
    }
    late[index]! -= ((habits.drift ?? 0) / 100) * (seconds ** 2 / (2 * (total || 1)));
    lost[index] = gone;
  });
  return { late, lost };
}

/** A performance as a made-up player plays it. */
export function playTake(performance: Performance, meter: Meter, habits: Habits): Performance {
  const random = noise(habits.seed);
  const even = () => (random() + 1) / 2;
  // Twelve even numbers are near enough to normal scatter.
  const normal = () => Array.from({ length: 12 }, even).reduce((sum, one) => sum + one, -6);
  const perTick = secondsPerTick(performance.tempo, meter);
  const { strikes } = performance;
  const pace = habits.pace ?? 1;
  const { late: behind, lost } = delays(performance, habits);
  const shifts = new Map<number, number>();
  const fullest = fullestOf(strikes);
  const played = strikes.flatMap((strike, index): Strike[] => {
    const before = strikes[index - 1];
    const { leavesOut } = habits;
    if (leavesOut && isLeftOut(strike, before, leavesOut.what) && even() < leavesOut.share) {
      return [];
    }
    const seconds =
      strike.seconds / pace +
      behind[index]! +
      lost[index]! +
      (normal() * (habits.jitter ?? 0)) / 1000;
    const late = seconds / perTick - strike.tick;
    shifts.set(strike.tick, late - strike.late);
    const now = otherwise(strike, before, habits, even, fullest);
    const soft = strike.dir === 'up' && strike.kind !== 'bass' ? (habits.upsLoud ?? 1) : 1;
    const stroke = {
      ...now,
      late,
      seconds,
      velocity: now.velocity * soft,
      notes: now.notes.map((note) => ({ ...note, velocity: note.velocity * soft })),
    };
    const after = strikes[index + 1];
    if (!after || !habits.adds || even() >= habits.adds) return [stroke];
    const gap = ((after.seconds - strike.seconds) / pace) * BETWEEN;
    return [
      stroke,
      { ...stroke, landing: false, seconds: seconds + gap, late: late + gap / perTick },
    ];
  });
  played.sort((one, other) => one.seconds - other.seconds);
  const end = (played.at(-1)?.seconds ?? 0) + 0.5;
  return {
    ...performance,
    seconds: Math.max(performance.seconds, end),
    ticks: Math.max(performance.ticks, Math.ceil(end / perTick)),
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

/** The fullest strum of each chord: what the hand holds. */
function fullestOf(strikes: Strike[]): Map<string, Strike['notes']> {
  const fullest = new Map<string, Strike['notes']>();
  for (const { chord, notes, transition, run, kind } of strikes) {
    if (!chord || transition || run || kind !== 'strum') continue;
    if (notes.length > (fullest.get(chord)?.length ?? 0)) fullest.set(chord, notes);
  }
  return fullest;
}

/** The same strings as a strike has, as another chord frets them. */
function onChord(strike: Strike, chord: Strike['notes']): Strike {
  const midi = new Map(chord.map((note) => [note.string, note]));
  return {
    ...strike,
    notes: strike.notes.map((note) => ({
      ...note,
      midi: midi.get(note.string)?.midi ?? note.midi,
      fret: midi.get(note.string)?.fret ?? note.fret,
    })),
  };
}

/** The stroke with another string, direction or chord, where the player has that habit. */
function otherwise(
  strike: Strike,
  before: Strike | undefined,
  {
    chordLate,
    holdsOn,
    chucksRing = 0,
    wrongBass = 0,
    wrongPicks = 0,
    turned = 0,
    turnedIn,
  }: Habits,
  even: () => number,
  fullest: Map<string, Strike['notes']>,
): Strike {
  const wrong = strike.kind === 'bass' ? wrongBass : strike.kind === 'pick' ? wrongPicks : 0;
  if (wrong > 0 && strike.notes.length > 0 && even() < wrong) {
    const other = strike.notes[0]!.string > 0 ? -1 : 1;
    const notes = strike.notes.map((note) => ({
      ...note,
      string: note.string + other,
      midi: note.midi + 5 * other,
    }));
    return { ...strike, notes };
  }
  const { chord } = strike;
  if (strike.kind === 'chuck' && chord && even() < chucksRing) {
    return { ...strike, kind: 'strum', notes: fullest.get(chord) ?? [], damps: [] };
  }
  if (holdsOn && chord && holdsOn(chord)) {
    const chords = [...fullest.keys()];
    const held = fullest.get(chords[(chords.indexOf(chord) + 1) % chords.length]!);
    if (held) return onChord(strike, held);
  }
  if (chordLate && strike.landing && before && before.notes.length > 2 && strike.notes.length > 2) {
    return { ...strike, notes: before.dir === strike.dir ? before.notes : turnedNotes(before) };
  }
  const isTurned = ({ bar }: Strike) =>
    turnedIn ? bar >= turnedIn.first && bar <= turnedIn.last : even() < turned;
  if (strike.kind === 'strum' && isTurned(strike)) {
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
