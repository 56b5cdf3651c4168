import { median } from 'simple-statistics';
import { fingerName, stringLabel } from '../neck';
import { plural, type Seconds } from '../plain';
import type { Instrument, Shape } from '../schema';
import { onsets } from './onsets';
import { hertz } from '../sound';
import { downsample, toneAt } from './signal';
import type { Recording } from './wav';

/** How a string of a shape sounds. */
export interface StringRing {
  /** From the thumb, from 0. */
  string: number;
  sounds: 'rings' | 'damped' | 'buzzes' | 'wrong' | 'out of tune' | 'not heard';
  /** Cents above what it should be; null where that is not known. */
  cents: number | null;
  /** What it is, and what usually mends it, in a sentence. */
  says: string;
}

export interface RingReport {
  sentence: string;
  strings: StringRing[];
}

const RATE = 11_025;
/** Seconds around a pluck in which it is compared with what rang before it. */
const BEFORE = 0.02;
const SETTLED = 0.05;
const LOOKED_AT = 0.22;
const FALL_FROM = 0.08;
const FALL_TO = 0.42;
const HARMONICS = 5;
/** Semitones to either side that a string may be off, looked through in steps. */
const REACH = 3.5;
const STEP = 0.1;

/** What rose at a pluck, near the pitch that was wanted. */
interface Rise {
  /** Semitones above the wanted pitch at which most rose. */
  off: number;
  /** How much that stands out from what rose beside it, 0 to 1: a thud rises everywhere. */
  clear: number;
  /** How strong it is, to be set against the other strings. */
  strength: number;
  /** Decibels a second that it then falls. */
  fall: number;
}

/**
 * What rose at a pluck against the moment before it, along a row of pitches: the strings that were plucked before
 * still ring, so only what is new counts.
 */
function riseAt(low: Recording, seconds: Seconds, until: number, wanted: number): Rise {
  const { samples, sampleRate } = low;
  const length = Math.round(
    Math.min(LOOKED_AT, Math.max(0.08, until - seconds - SETTLED)) * sampleRate,
  );
  const at = (second: number) => Math.round(second * sampleRate);
  const tone = (hertz: number, first: number) =>
    hertz < sampleRate / 2.2 && first + length > 0
      ? toneAt(samples, sampleRate, hertz, first, length)
      : 0;
  const before = at(seconds - BEFORE) - length;
  const after = at(seconds + SETTLED);
  const count = Math.round((2 * REACH) / STEP) + 1;
  const rises = Array.from({ length: count }, (_, step) => {
    const base = hertz(wanted - REACH + step * STEP);
    let sum = 0;
    for (let harmonic = 1; harmonic <= HARMONICS; harmonic += 1) {
      const rise = tone(base * harmonic, after) - tone(base * harmonic, before);
      sum += Math.max(0, rise) / Math.sqrt(harmonic);
    }
    return sum;
  });
  const best = rises.reduce((most, rise, index) => (rise > rises[most]! ? index : most), 0);
  const [a, b, c] = [
    rises[best - 1] ?? rises[best]!,
    rises[best]!,
    rises[best + 1] ?? rises[best]!,
  ];
  const bend = a - 2 * b + c;
  const shift = bend < 0 ? (0.5 * (a - c)) / bend : 0;
  const off = -REACH + (best + shift) * STEP;
  const level = (from: number) => {
    const size = Math.round(0.09 * sampleRate);
    let sum = 0;
    for (let harmonic = 1; harmonic <= 3; harmonic += 1) {
      sum += toneAt(samples, sampleRate, hertz(wanted + off) * harmonic, at(from), size) ** 2;
    }
    return 10 * Math.log10(Math.max(1e-12, sum));
  };
  const to = Math.min(FALL_TO, until - seconds - 0.1);
  const fall =
    to > FALL_FROM + 0.08
      ? (level(seconds + FALL_FROM) - level(seconds + to)) / (to - FALL_FROM)
      : 0;
  return { off, clear: b > 0 ? 1 - median(rises) / b : 0, strength: b, fall };
}

/** Loudness below which a sound is no pluck, in decibels; as strong as the others it is, and apart from them. */
const FAINT = -34;
const WEAK = 0.35;
const APART = 0.25;

/** A string that falls faster than this, and than the others do, is damped: decibels a second. */
const DAMPED = 45;
const DAMPED_AGAINST = 2.4;
/** Below this it is a thud and no note, or a note with much beside it. */
const THUD = 0.55;
const BUZZ = 0.8;
/** So much of what the other strings give, and no more, is a string that hardly sounds. */
const HARDLY = 0.025;
/** Cents beyond which it is another note, and beyond which an ear hears it out of tune. */
const OTHER_NOTE = 70;
const OUT_OF_TUNE = 12;

/**
 * Whether a shape rings: its strings plucked one by one from the thumb's side, slowly.
 * @param pitches MIDI pitch of each string, null for one that is left out, from `FrettedChord.pitches`
 * @returns every string that should sound, with what usually mends it
 * @example ringOf({ samples: new Float32Array(22050), sampleRate: 22050 }, guitar, shapeOf('C'), held('C').pitches).sentence
 * // 'Nothing was heard: pluck the strings one by one, slowly.'
 */
export function ringOf(
  recording: Recording,
  instrument: Instrument,
  shape: Shape,
  pitches: (number | null)[],
): RingReport {
  const low = downsample(recording, RATE);
  const all = onsets(downsample(recording)).filter(({ loudness }) => loudness > FAINT);
  const usualStrength = all.length > 0 ? median(all.map(({ strength }) => strength)) : 0;
  const heard = all.filter(
    ({ seconds, strength }, index) =>
      strength > WEAK * usualStrength && seconds - (all[index - 1]?.seconds ?? -1) > APART,
  );
  const wanted = pitches.flatMap((midi, string) => (midi === null ? [] : [{ midi, string }]));
  if (heard.length === 0) {
    return { sentence: 'Nothing was heard: pluck the strings one by one, slowly.', strings: [] };
  }
  const end = low.samples.length / low.sampleRate;
  const rises = heard.map(({ seconds }, index) => {
    const until = heard[index + 1]?.seconds ?? end;
    return wanted.map(({ midi }) => riseAt(low, seconds, until, midi));
  });
  const taken = assigned(rises);
  const falls = taken.flatMap((rise) => (rise && rise.clear > THUD ? [rise.fall] : []));
  const usual = falls.length > 0 ? median(falls) : 0;
  const strengths = taken.flatMap((rise) => (rise ? [rise.strength] : []));
  const strong = strengths.length > 0 ? median(strengths) : 0;
  const strings = wanted.map(({ string }, index): StringRing => {
    const rise = taken[index] ?? null;
    const name = stringLabel(instrument, string);
    const told = (sounds: StringRing['sounds'], says: string, cents: number | null = null) => ({
      string,
      sounds,
      cents,
      says,
    });
    if (!rise) return told('not heard', `The ${name} string was not heard.`);
    const cents = Math.round(rise.off * 100);
    if (rise.clear < THUD || rise.strength < HARDLY * strong) {
      return told('damped', `The ${name} string is damped: ${fixForDamped(shape, string)}.`);
    }
    if (Math.abs(cents) > OTHER_NOTE) {
      const way = cents > 0 ? 'higher' : 'lower';
      const by = plural(Math.round(Math.abs(cents) / 100), 'semitone');
      return told(
        'wrong',
        `The ${name} string is ${by} ${way} than the chord asks for: another fret.`,
        cents,
      );
    }
    if (rise.fall > DAMPED && rise.fall > DAMPED_AGAINST * Math.max(8, usual)) {
      return told(
        'damped',
        `The ${name} string dies early: ${fixForDamped(shape, string)}.`,
        cents,
      );
    }
    if (rise.clear < BUZZ) {
      return told('buzzes', `The ${name} string buzzes: ${fixForBuzz(shape, string)}.`, cents);
    }
    if (Math.abs(cents) > OUT_OF_TUNE) {
      const way = cents > 0 ? 'sharp' : 'flat';
      return told('out of tune', `The ${name} string is ${Math.abs(cents)} cents ${way}.`, cents);
    }
    return told('rings', `The ${name} string rings.`, cents);
  });
  const good = strings.filter(({ sounds }) => sounds === 'rings').length;
  const worst = strings.find(({ sounds }) => sounds !== 'rings' && sounds !== 'out of tune');
  const off = strings.find(({ sounds }) => sounds === 'out of tune');
  const first =
    good === strings.length
      ? 'Every string rings.'
      : `${good} of ${plural(strings.length, 'string')} ring${good === 1 ? 's' : ''}.`;
  return { sentence: [first, (worst ?? off)?.says].filter(Boolean).join(' '), strings };
}

/** What it costs to pass over a pluck, or a string: less than two that do not fit at all, more than one. */
const SKIP = 1.45;

/**
 * Which pluck was which string: in the same order, by how well each fits.
 * @param rises for each pluck, what rose near the pitch of each string
 */
function assigned(rises: Rise[][]): (Rise | null)[] {
  const columns = rises[0]!.length;
  const cost = ({ off, clear }: Rise) => Math.min(1.2, 0.6 * Math.abs(off)) + 1.4 * (1 - clear);
  const best = Array.from({ length: rises.length + 1 }, () => new Float64Array(columns + 1));
  const kept: (Rise | null)[] = [];
  for (let row = rises.length; row >= 0; row -= 1) {
    for (let column = columns; column >= 0; column -= 1) {
      const left = rises.length - row + columns - column;
      best[row]![column] =
        row === rises.length || column === columns
          ? SKIP * left
          : Math.min(
              cost(rises[row]![column]!) + best[row + 1]![column + 1]!,
              SKIP + best[row + 1]![column]!,
              SKIP + best[row]![column + 1]!,
            );
    }
  }
  for (let row = 0, column = 0; column < columns;) {
    const here = best[row]![column]!;
    const one = rises[row]?.[column];
    if (one && here === cost(one) + best[row + 1]![column + 1]!) {
      kept.push(one);
      row += 1;
      column += 1;
    } else if (one && here === SKIP + best[row + 1]![column]!) row += 1;
    else {
      kept.push(null);
      column += 1;
    }
  }
  return kept;
}

/** What usually lets a string ring again: its own finger, or one beside it that leans on it. */
function fixForDamped({ frets, fingers }: Shape, string: number): string {
  const own = fingers[string] ?? 0;
  const beside = [string - 1, string + 1].find(
    (other) => (fingers[other] ?? 0) > 0 && (frets[other] ?? 0) > 0,
  );
  if (frets[string] === 0 && beside !== undefined) {
    return `arch the ${fingerName(fingers[beside]!)}, which leans on it, and lower the thumb behind the neck`;
  }
  if (own > 0) return `press with the tip of the ${fingerName(own)}, close to the fret`;
  return 'see that no finger touches it';
}

function fixForBuzz({ fingers }: Shape, string: number): string {
  const own = fingers[string] ?? 0;
  return own > 0
    ? `bring the ${fingerName(own)} closer to the fret, and press a little more`
    : 'see that no finger touches it, and pluck less hard';
}
