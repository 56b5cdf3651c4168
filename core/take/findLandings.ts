import { median } from 'simple-statistics';
import { plural } from '../plain';
import {
  afterMiss,
  apart,
  CHANCE,
  deviation,
  type Evidence,
  FEWEST_OF,
  type Found,
  gathered,
  heardOf,
  isMissing,
  landed,
  MAX_MISSING,
  offsOf,
} from './findings';
import { changeKey, type Judged } from './groups';

/** With fewer strokes than this to compare with, nothing is told apart. */
const FEW = 4;
/** A change that comes but once is late by so many scatters of the others, one that comes again by so many. */
const [ONCE, AGAIN] = [6, 4];
/** Of the landings, so many from which the player hurries back need no others beside them. */
const HURRIED = 0.4;
/** And by this much more than what is in time. */
const CLEARLY = 1.15;
/** A change by itself is apart from the others by so much: it was looked for among all. */
const APART = 2.2;

/** How late each stroke is beside its own place elsewhere, where it is not special. */
function besideItsPlace(
  { played, place }: Evidence,
  special: (one: Judged) => boolean,
): Map<Judged, number> {
  const plain = heardOf(played).filter((one) => !special(one) && !one.hurried);
  const all = plain.length > 0 ? median(offsOf(plain)) : 0;
  const places = gathered(plain, place);
  const middles = new Map(
    [...places].map(([name, some]) => [
      name,
      some.length >= FEWEST_OF ? median(offsOf(some)) : all,
    ]),
  );
  return new Map(
    heardOf(played).map((one) => [one, one.heard!.off - (middles.get(place(one)) ?? all)]),
  );
}

/** Landings that come late while the other strokes are in time: the fretting hand is waited for. */
export function landingsLate(evidence: Evidence, armStops: boolean): Found | null {
  const { played, tolerance } = evidence;
  const beside = besideItsPlace(evidence, landed);
  // Where the arm stops after each miss, a landing after a miss says nothing of the other hand.
  const landings = heardOf(played).filter((one) => landed(one) && !(armStops && afterMiss(one)));
  const elsewhere = [...beside].filter(([one]) => !landed(one) && !one.hurried);
  // A pattern that passes before every stroke has no others than those after a miss.
  const inStride = elsewhere.filter(([one]) => !afterMiss(one));
  const others = (inStride.length >= FEW ? inStride : elsewhere).map(([, off]) => off);
  const late = landings.filter((one) => beside.get(one)! > tolerance);
  const all = landings.map((one) => beside.get(one)!);
  const wayBack = landings.filter(({ hurried }) => hurried).length;
  const isAll =
    all.length >= FEWEST_OF &&
    median(all) > tolerance &&
    (apart(all, others) > CHANCE || wayBack >= HURRIED * all.length);
  const single = changesLate(landings, beside, others, tolerance);
  // One change that is late by itself is named; several together are landings on the whole.
  if (single.length > 0 && (single.length === 1 || !isAll)) return single[0]!;
  if (!isAll) return null;
  const by = median(all);
  const hurries = late.filter(({ hurried }) => hurried).length > late.length / 2;
  const what = hurries
    ? 'You wait for the fretting hand at the changes, then hurry to catch up'
    : 'the other strokes are in time, so your strumming waits for the fretting hand';
  const count = `${late.length} of ${plural(all.length, 'landing')} ${late.length === 1 ? 'comes' : 'come'} late, by ${Math.round(by)} ms in the middle`;
  const first = single[0];
  const worst = first?.change ? ` ${first.change.from} to ${first.change.to} is the worst.` : '';
  return {
    trouble: 'landings',
    hand: 'fretting',
    sentence: hurries ? `${what}: ${count}.${worst}` : `${count}; ${what}.${worst}`,
    weight: by / tolerance,
    strokes: late,
    ...(first?.bar !== undefined && { bar: first.bar }),
    ...(first?.change && { change: first.change }),
  };
}

function changesLate(
  landings: Judged[],
  beside: Map<Judged, number>,
  others: number[],
  tolerance: number,
): Found[] {
  const found: Found[] = [];
  const spread = Math.max(6, deviation(others));
  for (const strokes of gathered(
    landings.filter(({ heard }) => !heard!.faint),
    changeKey,
  ).values()) {
    const values = strokes.map((one) => beside.get(one)!);
    const by = median(values);
    const clear =
      values.length >= 2
        ? apart(values, others) > APART && by > AGAIN * spread
        : by > ONCE * spread;
    if (by <= CLEARLY * tolerance || !clear) continue;
    const [first] = strokes;
    const [from, to] = [first!.before!.chord!, first!.strike.chord!];
    found.push({
      trouble: 'landings',
      hand: 'fretting',
      sentence: `${from} to ${to} lands ${Math.round(by)} ms late; the strokes around it are in time, so it is the fretting hand.`,
      weight: by / tolerance,
      strokes,
      bar: first!.strike.bar + 1,
      change: { from, to },
    });
  }
  return found.sort((a, b) => b.weight - a.weight);
}

/** Landings that are left out, while most of the other strokes are there. */
export function landingsOut({ played }: Evidence): Found | null {
  const landings = played.filter(landed);
  const out = landings.filter(isMissing);
  const rest = played.filter((one) => !landed(one) && one.counts);
  const share = out.length / Math.max(1, landings.length);
  const elsewhere = rest.filter(isMissing).length / Math.max(1, rest.length);
  if (out.length < FEWEST_OF || share <= MAX_MISSING || share < 2 * elsewhere + 0.1) return null;
  const [first] = out;
  const all = out.length === landings.length ? 'All' : `${out.length} of`;
  return {
    trouble: 'landings-out',
    hand: 'fretting',
    sentence: `${all} ${plural(landings.length, 'landing')} ${out.length === 1 ? 'is' : 'are'} left out: the chord changes, and its first stroke is not there.`,
    weight: share / MAX_MISSING,
    strokes: out,
    bar: first!.strike.bar + 1,
    change: { from: first!.before!.chord!, to: first!.strike.chord! },
  };
}

/** Strokes after a miss that come late or not at all: the arm stops where it should only pass. */
export function afterMisses({ played, tolerance }: Evidence): Found | null {
  const groups = played.filter((one) => afterMiss(one) && !landed(one));
  const plain = played.filter((one) => !afterMiss(one) && !landed(one) && !one.hurried);
  const [late, others] = [heardOf(groups), heardOf(plain)];
  if (late.length < FEW || others.length < FEW) return null;
  const by = median(offsOf(late)) - median(offsOf(others));
  if (by <= tolerance || apart(offsOf(late), offsOf(others)) <= CHANCE) return null;
  // Where it is the others that are early, they are what stands out.
  if (median(offsOf(late)) < -median(offsOf(others))) return null;
  return {
    trouble: 'after-miss',
    hand: 'strumming',
    sentence: `The stroke after a miss comes ${Math.round(by)} ms late: the arm stops where it should only pass.`,
    weight: by / tolerance,
    strokes: late,
  };
}
