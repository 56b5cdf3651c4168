import { median } from 'simple-statistics';
import type { Seconds } from '../plain';
import { leastSquares } from './leastSquares';

/** Something that was heard, as far as its place matters. */
export interface HeardMoment {
  seconds: Seconds;
  /** How much it stands out; what is far weaker than the others may be a click. */
  strength: number;
  /** How much of it is left after a tenth of a second, 0 to 1: what rings is no click; where nobody knows, it may be one. */
  rings?: number | undefined;
}

/** A stroke that was heard, and the one that was meant. */
export interface Match {
  /** Index of what was heard, and of what was expected. */
  heard: number;
  expected: number;
}

/** Heard strokes laid on expected ones. */
export interface Alignment {
  matches: Match[];
  /** Expected strokes between the first and the last match that were not heard. */
  missed: number[];
  /** What was heard in that stretch and not expected. */
  added: number[];
  /** Seconds of the first bar line in the recording. */
  barLine: Seconds;
  /** True where a count-in said where it is. */
  countedIn: boolean;
  /** Places where the player lost the thread: expected strokes before which time was lost or gained. */
  slips: { expected: number; seconds: Seconds }[];
  /** Seconds of the recording at which an expected stroke would lie without its own unevenness. */
  at: (expected: number) => Seconds;
  /** Per cent by which the tempo at the end is above the one that was asked for. */
  drift: number;
}

/** Seconds, and at least so many strokes, that decide where a take begins. */
const OPENING = 7;
const OPENING_STROKES = 14;
/** Tempos beside the one asked for at which a take may begin, in per cent. */
const TEMPOS = Array.from(
  { length: 33 },
  (_, step) => (step % 2 ? -1 : 1) * Math.ceil(step / 2) * 0.5,
);
const NEAR = 0.035;
/** What a missed stroke, and an added one, cost beside a match. */
const [MISS, EXTRA] = [1, 0.8];
const FAINT = 1.4;
/** What is left out before the first stroke costs as an added one, if it is as full as a stroke; a count-in is thin. */
const BEFORE = 0.9;
const THIN = 0.15;
/** What rings costs so much more: a stroke that is left out is a stroke that was played. */
const RINGING = 2;
/** So many of the first strokes may be the first that is heard. */
const ANCHORS = 4;
/** Clicks that make a count-in, how even they are, and what speaks for a start right after them. */
const CLICKS = 3;
const EVEN = 0.09;
const FIRST = 0.22;
const COUNT_IN = 3;
/** A click, or a knock, is gone by then but for the noise of the room. */
const RINGS = 0.62;
/** The most that one step may cost: the player has slipped, and goes on from elsewhere. */
const SLIP = 5;
const STEPS = 6;
/** Seconds around the expected place within which strokes are looked for. */
const BAND = 6;

/** The index of the first moment not before a time. */
function firstAt(heard: HeardMoment[], seconds: Seconds): number {
  let [low, high] = [0, heard.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (heard[middle]!.seconds < seconds) low = middle + 1;
    else high = middle;
  }
  return low;
}

function nearest(heard: HeardMoment[], seconds: Seconds): number {
  const next = firstAt(heard, seconds);
  const after = heard[next] ? heard[next].seconds - seconds : Infinity;
  const before = next > 0 ? seconds - heard[next - 1]!.seconds : Infinity;
  return Math.min(after, before);
}

const clicks = ({ rings = 0 }: HeardMoment) => rings <= RINGS;

/** How many moments right before one lie a beat apart, up to it, with nothing between them. */
function evenBefore(heard: HeardMoment[], index: number, beat: Seconds): number {
  let count = 0;
  for (let at = index; at > 0 && count < 8; at -= 1) {
    const gap = heard[at]!.seconds - heard[at - 1]!.seconds;
    if (!clicks(heard[at - 1]!)) break;
    // The first stroke itself may be late or early; clicks are not.
    if (Math.abs(gap - beat) > (at === index ? FIRST : EVEN) * beat) break;
    count += 1;
  }
  return count;
}

/** Share of a beat within which a player comes in where it is known where the first bar line is. */
const IN_PLACE = 0.6;
/** At least so many seconds: presses and devices have delays of their own. */
const DELAY = 0.35;

/** Where a take begins and how fast: the place at which most of the first strokes are heard. */
function opening(
  heard: HeardMoment[],
  expected: Seconds[],
  beat: Seconds,
  known: Seconds | null,
): { start: Seconds; rate: number; score: number } {
  const count = expected.findIndex((seconds) => seconds > expected[0]! + OPENING);
  const first = expected.slice(0, Math.max(OPENING_STROKES, count < 0 ? expected.length : count));
  const usual = median(heard.map(({ strength }) => strength));
  const reach = Math.max(DELAY, IN_PLACE * beat);
  const usually = known ?? heard[0]!.seconds - first[0]!;
  let best = { start: usually, rate: 1, score: -Infinity };
  const candidates = heard.slice(0, 120);
  // Where all strokes lie on the beat, a count-in looks like them.
  const offBeat = first.some(
    (seconds) => Math.abs(seconds / beat - Math.round(seconds / beat)) > 0.2,
  );
  for (const per of TEMPOS) {
    const rate = 1 / (1 + per / 100);
    let skipped = 0;
    for (const [index, moment] of candidates.entries()) {
      const { seconds, strength } = moment;
      for (const anchor of first.slice(0, ANCHORS)) {
        const start = seconds - anchor * rate;
        if (known !== null && Math.abs(start - known) > reach) continue;
        const counted = offBeat && anchor < 0.1 * beat ? evenBefore(heard, index, beat * rate) : 0;
        const left = counted >= CLICKS ? skipped - counted * BEFORE - COUNT_IN : skipped;
        let score = -Math.abs(per) * 0.1 - left;
        for (const place of first) {
          const off = nearest(heard, start + place * rate);
          score += off < 3 * NEAR ? Math.exp(-((off / NEAR) ** 2) / 2) : -MISS;
        }
        if (score > best.score) best = { start, rate, score };
      }
      // What comes before a bar line that is known needs no reason.
      if (known !== null && seconds < known - reach) continue;
      const full = Math.max(THIN, Math.min(1, strength / usual)) ** 2;
      skipped += BEFORE * full * (clicks(moment) ? 1 : RINGING);
    }
  }
  return best;
}

/**
 * The cheapest way to lay what was heard on what was expected, in order: steps from match to match cost
 * what they are longer or shorter than expected, and what they leave out.
 */
function lay(
  heard: HeardMoment[],
  expected: Seconds[],
  { start, rate }: { start: Seconds; rate: number },
): { matches: Match[]; slips: Alignment['slips'] } {
  interface Cell {
    cost: number;
    from: Cell | null;
    heard: number;
    expected: number;
    slip: number;
  }
  const rows: Cell[][] = [];
  let best: Cell | null = null;
  const begin = firstAt(heard, start - 0.12);
  const spread = 0.075;
  // What is faint may be no stroke: it costs less to leave it out, and more to take it for one.
  const usual = median(heard.map(({ strength }) => strength));
  const full = heard.map(({ strength }) => Math.min(1, strength / usual));
  const skipped = [0];
  for (const share of full) skipped.push(skipped.at(-1)! + EXTRA * share);
  const between = (from: number, to: number) => skipped[Math.max(from, to)]! - skipped[from]!;
  for (const [at, place] of expected.entries()) {
    const row: Cell[] = [];
    const middle = start + place * rate;
    const last = firstAt(heard, middle + BAND + 0.04 * place);
    for (let index = firstAt(heard, middle - BAND - 0.04 * place); index < last; index += 1) {
      if (index < begin) continue;
      const seconds = heard[index]!.seconds;
      const faint = FAINT * (1 - full[index]!);
      const alone = Math.min(SLIP * 2, ((seconds - middle) / 0.08) ** 2);
      let cell: Cell = {
        cost: at * MISS + between(begin, index) + alone + faint,
        from: null,
        heard: index,
        expected: at,
        slip: 0,
      };
      for (let back = 1; back <= STEPS && at - back >= 0; back += 1) {
        const wanted = (place - expected[at - back]!) * rate;
        for (const before of rows[at - back]!) {
          const left = index - before.heard - 1;
          if (left < 0 || left > STEPS) continue;
          const off = seconds - heard[before.heard]!.seconds - wanted;
          const scaled = (off / (spread + 0.06 * wanted)) ** 2;
          const step = Math.min(SLIP, scaled);
          const cost =
            before.cost + step + (back - 1) * MISS + between(before.heard + 1, index) + faint - 1;
          if (cost < cell.cost) {
            const slip = scaled > SLIP ? off : 0;
            cell = { cost, from: before, heard: index, expected: at, slip };
          }
        }
      }
      row.push(cell);
      const rest = (heard.length - 1 - index) * 0.25;
      const total = cell.cost + rest;
      if (!best || total < best.cost + (heard.length - 1 - best.heard) * 0.25) best = cell;
    }
    rows.push(row);
  }
  const matches: Match[] = [];
  const slips: Alignment['slips'] = [];
  for (let cell: Cell | null = best; cell; cell = cell.from) {
    matches.unshift({ heard: cell.heard, expected: cell.expected });
    if (cell.slip !== 0) slips.unshift({ expected: cell.expected, seconds: cell.slip });
  }
  return { matches, slips };
}

/** Straight line and curve through points, those far off counted less and less (Tukey's biweight). */
function fit(points: { x: number; y: number }[], curved: boolean): [number, number, number] {
  let weights = points.map(() => 1);
  let found: [number, number, number] = [0, 1, 0];
  const scale = Math.max(1e-6, ...points.map(({ x }) => Math.abs(x)));
  for (let round = 0; round < 8; round += 1) {
    found = least(points, weights, curved, scale);
    const off = points.map(({ x, y }) => y - found[0] - found[1] * x - found[2] * x * x);
    const middle = median(off);
    const spread = Math.max(0.004, 1.4826 * median(off.map((one) => Math.abs(one - middle))));
    weights = off.map((one) => {
      const share = (one - middle) / (4.685 * spread);
      return Math.abs(share) < 1 ? (1 - share ** 2) ** 2 : 0;
    });
  }
  return found;
}

function least(
  points: { x: number; y: number }[],
  weights: number[],
  curved: boolean,
  scale: number,
): [number, number, number] {
  const seen = points.map(({ x, y }, index) => ({
    parts: [1, x / scale, (x / scale) ** 2],
    value: y,
    weight: weights[index]!,
  }));
  const found = leastSquares(curved ? 3 : 2, seen, 1e-9) ?? [];
  return [found[0] ?? 0, (found[1] ?? 0) / scale, (found[2] ?? 0) / scale ** 2];
}

/** Matches that a curve needs; with fewer the tempo is taken as even. */
const FOR_A_CURVE = 16;

/** The bar line that a count-in leads to: moments a beat apart, the last of them a beat before the first stroke. */
function countedIn(heard: HeardMoment[], first: number, beat: Seconds): number | null {
  const before = heard.filter((one) => one.seconds < first - 0.4 * beat && clicks(one));
  const chain: number[] = [];
  let wanted = first - beat;
  for (let index = before.length - 1; index >= 0; index -= 1) {
    const { seconds } = before[index]!;
    if (Math.abs(seconds - wanted) < (chain.length === 0 ? FIRST : EVEN) * beat) {
      chain.push(seconds);
      wanted = seconds - beat;
    }
  }
  if (chain.length < CLICKS) return null;
  const line = fit(
    chain.map((y, index) => ({ x: -1 - index, y })),
    false,
  );
  return line[0];
}

/**
 * Lays what was heard on what was expected: where the take begins is found by itself, with or without a
 * count-in; the tempo may drift, strokes may be missed or added, and a player who slips is met again where
 * the thread is taken up.
 * @param heard in order of time
 * @param expected seconds from the first bar line, in order
 * @param beat seconds of a beat
 * @param known the second at which the first bar line was heard, where a clock or a recording said so
 * @returns null where too little fits to say that this is what was played
 */
export function align(
  heard: HeardMoment[],
  expected: Seconds[],
  beat: Seconds,
  known: Seconds | null = null,
): Alignment | null {
  if (heard.length < 4 || expected.length < 4) return null;
  const begins = opening(heard, expected, beat, known);
  const { matches, slips } = lay(heard, expected, begins);
  if (matches.length < 4) return null;
  // Time lost in slips is taken off before the tempo is fitted.
  const jumps = slips.filter(({ seconds }) => Math.abs(seconds) > 0.12);
  const lost = (at: number) =>
    jumps.reduce((sum, { expected: from, seconds }) => (at >= from ? sum + seconds : sum), 0);
  const points = matches.map(({ heard: index, expected: at }) => ({
    x: expected[at]!,
    y: heard[index]!.seconds - lost(at),
  }));
  const [start, rate, bend] = fit(points, matches.length >= FOR_A_CURVE);
  const at = (index: number) => {
    const x = expected[index]!;
    return start + rate * x + bend * x * x + lost(index);
  };
  const [first, last] = [matches[0]!, matches.at(-1)!];
  const end = expected[last.expected]!;
  const counted = countedIn(
    heard,
    heard[first.heard]!.seconds - expected[first.expected]! * rate,
    beat * rate,
  );
  const found = new Set(matches.map((match) => match.expected));
  const used = new Set(matches.map((match) => match.heard));
  const missed: number[] = [];
  for (let index = 0; index < last.expected; index += 1) if (!found.has(index)) missed.push(index);
  const added: number[] = [];
  for (let index = first.heard; index < last.heard; index += 1) {
    if (!used.has(index)) added.push(index);
  }
  return {
    matches,
    missed,
    added,
    barLine: counted ?? heard[first.heard]!.seconds - expected[first.expected]! * rate,
    countedIn: counted !== null,
    slips: jumps,
    at,
    drift: (1 / (rate + 2 * bend * end) - 1) * 100,
  };
}
