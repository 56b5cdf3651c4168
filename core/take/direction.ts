import { median } from 'simple-statistics';
import type { Direction } from '../schema';
import { hertz } from '../sound';
import { leastSquares } from './leastSquares';
import type { Recording } from './wav';

/** Samples a second of the basses: the tones of the low strings, and little of the others. */
export const BASS_RATE = 900;

/** Seconds before a stroke from which it is told what rings already, and after it. */
const PAST = 0.1;
const LEAST_PAST = 0.045;
const GUARD = 0.006;
const COMING = 0.035;
/** Two ways of a rake are told apart where the low strings come at times so far apart, in seconds. */
const LEAST_APART = 0.01;
/** Of the way between the two, what has to be clear on one side. */
const MARGIN = 0.3;

/** When so much of what is new has come, the low strings have been struck. */
const SHARE = 0.2;
/** Seconds by which that much of a low tone has come after its string was struck. */
const LATER = 0.0085;

/** Of the samples of a stretch: tones that cannot be told apart in so short a time share their weight. */
const RIDGE = 0.02;

/** The weights of some tones, two for each, that come nearest to a stretch of samples. */
function toneWeights(
  samples: Float32Array,
  first: number,
  last: number,
  steps: number[],
): number[] | null {
  const parts = new Float64Array(2 * steps.length);
  function* seen() {
    for (let at = first; at < last; at += 1) {
      steps.forEach((step, index) => {
        parts[2 * index] = Math.cos(step * (at - last));
        parts[2 * index + 1] = Math.sin(step * (at - last));
      });
      yield { parts, value: samples[at]! };
    }
  }
  return leastSquares(parts.length, seen(), RIDGE * (last - first));
}

/**
 * Where in its rake a stroke reached the low strings: about 0 for a down-stroke, about 1 for an up. What rings
 * already is taken off, and it is asked when what is new in the basses comes. Null where the low strings are not
 * at one end, or where the rake is too quick.
 * @param bass the recording brought down to `BASS_RATE`
 * @param onset seconds at which the stroke begins, and at which the one before it began
 * @param notes the strings that were meant, each with its delay in the direction that was meant
 * @param ringing pitches that may still ring from before
 */
export function rakePlace(
  { samples, sampleRate }: Recording,
  onset: number,
  before: number,
  notes: { string: number; midi: number; delay: number }[],
  ringing: number[],
): number | null {
  const byString = [...notes].sort((a, b) => a.string - b.string);
  const rake = Math.max(...notes.map(({ delay }) => delay));
  const lowest = [...byString].sort((a, b) => a.midi - b.midi).slice(0, 2);
  const orders = lowest.map((note) => byString.indexOf(note) / Math.max(1, byString.length - 1));
  const middle = orders.reduce((sum, one) => sum + one, 0) / orders.length;
  // Where the lowest strings are in the middle, both ways sound alike.
  if (byString.length < 4 || middle > 0.3) return null;
  const [down, up] = [middle * rake, (1 - middle) * rake];
  if (up - down < LEAST_APART) return null;

  const origin = onset * sampleRate;
  const last = Math.round(origin - GUARD * sampleRate);
  const from = Math.round(Math.max(onset - PAST, before + 0.03) * sampleRate);
  const long = last - from >= LEAST_PAST * sampleRate;
  const pitches = [...new Set([...ringing, ...notes.map(({ midi }) => midi)])];
  const steps = [...new Set(pitches.flatMap((midi) => [hertz(midi), 2 * hertz(midi)]))]
    .filter((frequency) => frequency < 0.46 * sampleRate)
    .sort((a, b) => a - b)
    .slice(0, 9)
    .map((frequency) => (2 * Math.PI * frequency) / sampleRate);
  const weights = long && from >= 0 ? toneWeights(samples, from, last, steps) : null;
  const end = Math.min(samples.length, Math.round(origin + (rake + COMING) * sampleRate));
  const fresh: number[] = [];
  for (let at = last; at < end; at += 1) {
    let known = 0;
    steps.forEach((step, index) => {
      if (!weights) return;
      known +=
        weights[2 * index]! * Math.cos(step * (at - last)) +
        weights[2 * index + 1]! * Math.sin(step * (at - last));
    });
    fresh.push(samples[at]! - known);
  }
  // The mean over a period of the third string takes it out, and most of those above it.
  const third = [...byString].sort((a, b) => a.midi - b.midi)[2]!;
  const length = Math.max(1, Math.round(sampleRate / hertz(third.midi)));
  const energies = fresh.map((_, index) => {
    let sum = 0;
    for (let at = index - length + 1; at <= index; at += 1) sum += fresh[at] ?? 0;
    const middle = last + index - (length - 1) / 2;
    return { at: middle / sampleRate - onset, energy: (sum / length) ** 2 };
  });
  const total = energies.reduce((sum, { energy }) => sum + energy, 0);
  if (total === 0) return null;
  // When a fifth of what is new by the end has come.
  let sum = 0;
  const come = energies.find(({ energy }) => (sum += energy) >= SHARE * total);
  if (!come) return null;
  return (come.at - LATER - down) / (up - down);
}

/** Of each way at least so many strokes have to be told. */
const OF_EACH = 5;
/** The two kinds lie so many of their own spreads apart, or they are not two. */
const LEAST_SPREADS = 2.4;
/** What was meant agrees with at least this share: else it is not the ways of the hand that come apart. */
const AGREES = 0.62;

/** The border that parts some values best in two: with the least scatter inside the two (Otsu). */
function border(values: number[]): { middle: number; apart: number } | null {
  const sorted = [...values].sort((a, b) => a - b);
  const sums = [0];
  const squares = [0];
  for (const value of sorted) {
    sums.push(sums.at(-1)! + value);
    squares.push(squares.at(-1)! + value * value);
  }
  const count = sorted.length;
  let best: { middle: number; apart: number } | null = null;
  let least = Infinity;
  for (let cut = OF_EACH; cut <= count - OF_EACH; cut += 1) {
    const [low, high] = [sums[cut]! / cut, (sums[count]! - sums[cut]!) / (count - cut)];
    const inside =
      squares[cut]! -
      cut * low ** 2 +
      (squares[count]! - squares[cut]! - (count - cut) * high ** 2);
    if (inside >= least) continue;
    least = inside;
    const spread = Math.max(1e-6, Math.sqrt(Math.max(0, inside) / count));
    best = { middle: (low + high) / 2, apart: (high - low) / spread };
  }
  return best;
}

/**
 * The ways of a take's strokes from their places in their rakes. They are claimed only where the take itself shows two
 * kinds that come apart, and where what was meant agrees with most of them: strings that nobody has heard may reach the
 * ear in another order than it knows, and silence is right there.
 * @param strokes in order, with the way that was meant
 * @example directionsOf([]) // []
 */
export function directionsOf(
  strokes: { place: number | null; meant: Direction }[],
): (Direction | null)[] {
  const silent = strokes.map(() => null);
  const told = strokes.flatMap(({ place, meant }) => (place === null ? [] : [{ place, meant }]));
  const of = (way: Direction) => told.filter(({ meant }) => meant === way);
  const [downs, ups] = [of('down'), of('up')];
  if (downs.length < OF_EACH || ups.length < OF_EACH) return silent;
  const found = border(told.map(({ place }) => place));
  if (!found || found.apart < LEAST_SPREADS) return silent;
  const { middle } = found;
  // Of either kind most have to agree: a take that is all one way says nothing of the other.
  const agree = (some: typeof told) =>
    some.filter(({ place, meant }) => (place < middle ? 'down' : 'up') === meant).length /
    some.length;
  if (agree(downs) < AGREES || agree(ups) < AGREES) return silent;
  const below = median(told.filter(({ place }) => place < middle).map(({ place }) => place));
  const above = median(told.filter(({ place }) => place >= middle).map(({ place }) => place));
  const margin = MARGIN * Math.min(1, above - below);
  return strokes.map(({ place }) => {
    if (place === null || Math.abs(place - middle) < margin) return null;
    return place < middle ? 'down' : 'up';
  });
}
