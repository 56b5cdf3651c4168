import type { Strike } from '../arrange';
import type { Direction } from '../schema';
import { hertz } from '../sound';
import { rakePlace } from './direction';
import { toneAt } from './signal';
import type { Recording } from './wav';

/** Whether the chord that lands was there in time. */
export type ChordHeard = 'on-time' | 'late' | 'wrong' | 'unknown';
/** What kind of stroke was heard. */
export type HeardKind = 'full' | 'few' | 'bass' | 'damped';

/** What can be told of one stroke from its sound, knowing what was meant. */
export interface StrokeSound {
  kind: HeardKind;
  /** The way the strings came in; null where that cannot be told. */
  direction: Direction | null;
  chord: ChordHeard;
  /** False where another string sounds in place of the bass note; null where there is none or it is not clear. */
  bass: boolean | null;
  /** Whether it rings, where a chuck was meant; null where that cannot be told. */
  rings: boolean | null;
  /** The chord that sounds in its place, or null where it is the one that was meant; left out where that cannot be told. */
  other?: string | null;
}

/** Seconds after a stroke's start from which its tones are listened to, and for how long at most. */
const SETTLED = 0.05;
const LISTEN = 0.22;
const SHORTEST = 0.06;

/** So much stronger one of two chords has to be than the other to be told. */
const CLEARLY = 1.6;
/** A chord stands out from the notes that are not in it by at least this. */
const STANDS_OUT = 1.5;

function chordOf(
  recording: Recording,
  onset: number,
  until: number,
  expected: number[],
  before: number[],
): ChordHeard {
  const length = Math.round(Math.min(LISTEN, until - onset - SETTLED) * recording.sampleRate);
  if (length < SHORTEST * recording.sampleRate) return 'unknown';
  const first = Math.round((onset + SETTLED) * recording.sampleRate);
  const classes = (pitches: number[]) => new Set(pitches.map((midi) => midi % 12));
  const [now, old] = [classes(expected), classes(before)];
  const partials = (pitches: number[], midi: number) =>
    pitches.some((other) => [12, 19, 24].includes(midi - other));
  const onlyNow = expected.filter((midi) => !old.has(midi % 12) && !partials(before, midi));
  const onlyOld = before.filter((midi) => !now.has(midi % 12) && !partials(expected, midi));
  // The same tones are asked for in several sets.
  const tones = new Map<number, number>();
  const tone = (midi: number) => {
    const known =
      tones.get(midi) ??
      toneAt(recording.samples, recording.sampleRate, hertz(midi), first, length);
    tones.set(midi, known);
    return known;
  };
  const of = (pitches: number[]) =>
    pitches.length === 0 ? 0 : pitches.reduce((all, midi) => all + tone(midi), 0) / pitches.length;
  const foreign = Array.from({ length: 12 }, (_, step) => 52 + step).filter(
    (midi) => !now.has(midi % 12) && !old.has(midi % 12),
  );
  const floor = of(foreign);
  // One tone alone, however strong, is no chord.
  const there = [...new Set([...expected, ...before])].filter(
    (midi) => tone(midi) > STANDS_OUT * floor,
  ).length;
  if (there < 2) return 'wrong';
  const whole = of(expected);
  if (onlyNow.length > 0 && onlyOld.length > 0) {
    const [is, was] = [of(onlyNow), of(onlyOld)];
    if (is > CLEARLY * was && is > STANDS_OUT * floor) return 'on-time';
    if (was > CLEARLY * is && was > STANDS_OUT * floor) return 'late';
    if (is < STANDS_OUT * floor && was < STANDS_OUT * floor)
      return whole > 0 && floor > whole ? 'wrong' : 'unknown';
    return 'unknown';
  }
  if (whole > 2 * STANDS_OUT * floor) return 'on-time';
  return floor > 1.2 * whole ? 'wrong' : 'unknown';
}

/** True where the bass note sounds, false where another string does; null where it is not clear. */
function bassOf(
  { samples, sampleRate }: Recording,
  onset: number,
  until: number,
  expected: number,
  others: number[],
): boolean | null {
  const length = Math.round(Math.min(0.2, until - onset - 0.02) * sampleRate);
  if (length < 0.07 * sampleRate) return null;
  const after = Math.round((onset + 0.02) * sampleRate);
  const earlier = Math.round((onset - 0.012) * sampleRate) - length;
  const rise = (midi: number) => {
    const now = toneAt(samples, sampleRate, hertz(midi), after, length);
    const then = toneAt(samples, sampleRate, hertz(midi), earlier, length);
    return now - 0.8 * then;
  };
  const is = rise(expected);
  const most = Math.max(
    0,
    ...others
      .filter((midi) => Math.abs(midi - expected) > 1 && (midi - expected) % 12 !== 0)
      .map(rise),
  );
  if (is > 1.3 * most) return true;
  return most > 2 * Math.max(0, is) && most > 0 ? false : null;
}

/** A damped stroke is gone after a tenth of a second. */
const DAMPED = 0.34;

/** A stroke where it was heard, between the ones before and after it. */
export interface Place {
  before: number;
  onset: number;
  until: number;
}

/**
 * What can be told of a stroke from its sound, knowing what was meant. The way of the hand is for `directionsOf`
 * to say, from the places in their rakes of all strokes together.
 * @param recording brought down by `downsample`, and its basses at `BASS_RATE`
 * @param strike what was meant
 * @param chord the pitches that the hand holds for it, those that it held before, and what rings
 * @param rings how much is left of it, from `onsets`
 */
export function listenTo(
  recording: { low: Recording; bass: Recording },
  { before, onset, until }: Place,
  strike: Strike,
  chord: {
    now: number[];
    before: number[];
    ringing: number[];
    others: Map<string, number[]>;
    plainer: Plainer | null;
  },
  rings: number,
): Omit<StrokeSound, 'direction'> & {
  place: number | null;
  /** The chord without its seventh, where that seems not to be held. */
  plainer?: string | null;
  /** How strong each string is, beside the mean of them all; none where the stroke is too short. */
  strings?: { string: number; share: number }[];
} {
  const { low, bass } = recording;
  const kind = kindOf(strike, rings);
  const pitches = strike.notes.map(({ midi }) => midi);
  const full = kind !== 'damped' && strike.kind === 'strum' && strike.notes.length >= 4;
  const told = kind !== 'damped' && !strike.transition && pitches.length >= 3;
  const heard = told ? chordOf(low, onset, until, pitches, chord.before) : 'unknown';
  const single = pitches.length === 1 && (strike.kind === 'bass' || strike.kind === 'pick');
  return {
    kind,
    place: full ? rakePlace(bass, onset, before, strike.notes, chord.ringing) : null,
    chord: heard,
    ...(told && {
      other: otherOf(low, onset, until, strike, heard, chord.others),
      plainer: plainerOf(low, onset, until, pitches, chord.plainer),
      strings: stringsOf(low, onset, until, strike),
    }),
    rings: strike.kind === 'chuck' ? ringsOf(rings) : null,
    bass: single ? bassOf(low, onset, until, pitches[0]!, around(pitches[0]!, chord.now)) : null,
  };
}

/** A chuck that is left by so much after a tenth of a second is none; what lies between says nothing. */
const RINGS_ON = 0.62;
const ringsOf = (rings: number) => (rings > RINGS_ON ? true : rings < DAMPED ? false : null);

/**
 * The chord of the song that sounds in place of the one that was meant: its own tones are there, and those of the one
 * that was meant are not. Null where the one that was meant sounds.
 */
function otherOf(
  recording: Recording,
  onset: number,
  until: number,
  strike: Strike,
  heard: ChordHeard,
  others: Map<string, number[]>,
): string | null {
  if (heard === 'on-time') return null;
  const pitches = strike.notes.map(({ midi }) => midi);
  // Of several that it may be, the one whose tones are all there: chords share some.
  let best: { symbol: string; tones: number } | null = null;
  for (const [symbol, held] of others) {
    if (symbol === strike.chord || chordOf(recording, onset, until, pitches, held) !== 'late') {
      continue;
    }
    const tones = meanTone(recording, onset, until, held);
    if (!best || tones > best.tones) best = { symbol, tones };
  }
  return best?.symbol ?? null;
}

/** How strong some pitches are in the mean, once the stroke has settled. */
function meanTone(
  { samples, sampleRate }: Recording,
  onset: number,
  until: number,
  pitches: number[],
): number {
  const first = Math.round((onset + SETTLED) * sampleRate);
  const length = Math.round(Math.min(LISTEN, until - onset - SETTLED) * sampleRate);
  const sum = pitches.reduce(
    (all, midi) => all + toneAt(samples, sampleRate, hertz(midi), first, length),
    0,
  );
  return sum / Math.max(1, pitches.length);
}

/** How strong each string of a stroke is, beside the mean of them all. */
function stringsOf(
  recording: Recording,
  onset: number,
  until: number,
  { notes }: Strike,
): { string: number; share: number }[] {
  if (Math.min(LISTEN, until - onset - SETTLED) < SHORTEST) return [];
  const each = notes.map(({ string, midi }) => ({
    string,
    tone: meanTone(recording, onset, until, [midi]),
  }));
  const mean = each.reduce((sum, { tone }) => sum + tone, 0) / Math.max(1, each.length);
  return mean > 0 ? each.map(({ string, tone }) => ({ string, share: tone / mean })) : [];
}

/** The chord that is left of one when its seventh is not held: G of G7. */
export interface Plainer {
  symbol: string;
  /** The pitch class of the seventh. */
  without: number;
}

/** A chord is there where its tones stand out from those beside them by so much. */
const SURELY_THERE = 3;
/** A seventh is not there where it is below this share of the other tones: held, it is a third of them at least. */
const HARDLY_THERE = 0.1;

/** The plainer chord that sounds where the seventh is not there, and everything else surely is; else null. */
function plainerOf(
  recording: Recording,
  onset: number,
  until: number,
  expected: number[],
  plainer: Plainer | null,
): string | null {
  if (!plainer) return null;
  if (Math.min(LISTEN, until - onset - SETTLED) < SHORTEST) return null;
  const classes = new Set(expected.map((midi) => midi % 12));
  const foreign = expected
    .flatMap((midi) => [midi - 1, midi + 1])
    .filter((midi) => !classes.has(midi % 12));
  const mean = (pitches: number[]) => meanTone(recording, onset, until, pitches);
  const [sevenths, rest] = [
    expected.filter((midi) => midi % 12 === plainer.without),
    expected.filter((midi) => midi % 12 !== plainer.without),
  ];
  if (sevenths.length === 0 || rest.length < 2 || foreign.length === 0) return null;
  const floor = mean(foreign);
  const whole = mean(rest);
  const isPlainer = whole > SURELY_THERE * floor && mean(sevenths) < HARDLY_THERE * whole;
  return isPlainer ? plainer.symbol : null;
}

/** What a bass strike may hit in place of its note: the other low strings of the hand, and those beside them. */
function around(expected: number, now: number[]): number[] {
  const low = now.filter((midi) => midi <= expected + 14);
  return [...new Set([...low, expected - 7, expected - 5, expected + 5, expected + 7])].filter(
    (midi) => midi > 20,
  );
}

function kindOf(strike: Strike, rings: number): HeardKind {
  if (rings < DAMPED && strike.notes.length === 0) return 'damped';
  if (rings < DAMPED * 0.6) return 'damped';
  if (strike.kind === 'bass') return 'bass';
  return strike.notes.length >= 4 || strike.notes.length === 0 ? 'full' : 'few';
}
