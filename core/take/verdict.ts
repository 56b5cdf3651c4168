import { median, wilcoxonRankSum } from 'simple-statistics';
import type { Arrangement } from '../arrange';
import { type Milliseconds, plural } from '../plain';
import type { TakeJudgement, Trouble } from '../schema';
import type { Judged } from './groups';

/** What the verdict is drawn from, beside the strokes. */
export interface Evidence {
  drift: number;
  added: number;
  slips: TakeJudgement['slips'];
  tolerance: Milliseconds;
  byChange: TakeJudgement['byChange'];
}

/** How the thresholds are meant: a trouble has to be clear to the ear, and beyond what chance would give. */
const LIMITS = {
  /** Milliseconds that landings, or strokes after a miss, are later than their slots elsewhere. */
  late: 22,
  /** Deviations from chance of a rank sum: one in two thousand. */
  chance: 3.3,
  /** Milliseconds of scatter, as a standard deviation, beyond which strumming is uneven. */
  uneven: 21,
  /** Per cent of tempo. */
  drift: 1.4,
  /** Share of strokes. */
  upsMissed: 0.32,
  missed: 0.25,
  chordLate: 0.34,
  wrongBass: 0.28,
  turned: 0.28,
  /** Decibels that ups are softer than downs, beyond what the pattern asks for. */
  upsSoft: 10,
} as const;

/** Velocity below which a stroke may go unheard in a room. */
const SOFT = 0.45;

interface Found {
  trouble: Trouble;
  hand: TakeJudgement['verdict']['hand'];
  sentence: string;
  /** How far beyond its limit, 1 at the limit. */
  weight: number;
  /** The bar that it is heard in, from 1. */
  bar?: number;
}

const heardOf = (strokes: Judged[]) => strokes.filter((one) => one.heard !== null);
const offs = (strokes: Judged[]) => strokes.flatMap(({ heard }) => (heard ? [heard.off] : []));
const deviation = (values: number[]) => {
  if (values.length < 2) return 0;
  const middle = median(values);
  return 1.4826 * median(values.map((value) => Math.abs(value - middle)));
};

/**
 * How far apart two groups are, in deviations from chance: the rank-sum test of Wilcoxon, Mann and Whitney
 * with its normal approximation.
 */
function apart(one: number[], other: number[]): number {
  const [m, n] = [one.length, other.length];
  if (m < 2 || n < 4) return 0;
  const sum = wilcoxonRankSum(one, other);
  const mean = (m * (m + n + 1)) / 2;
  return (sum - mean) / Math.sqrt((m * n * (m + n + 1)) / 12);
}

/** How late each stroke is beside its own slot elsewhere. */
function besideItsSlot(played: Judged[], special: (one: Judged) => boolean): Map<Judged, number> {
  const plain = heardOf(played).filter((one) => !special(one));
  const all = plain.length > 0 ? median(offs(plain)) : 0;
  const slots = new Map<number, number[]>();
  for (const one of plain) {
    slots.set(one.strike.slot, [...(slots.get(one.strike.slot) ?? []), one.heard!.off]);
  }
  return new Map(
    heardOf(played).map((one) => {
      const same = slots.get(one.strike.slot);
      return [one, one.heard!.off - (same && same.length >= 3 ? median(same) : all)];
    }),
  );
}

/** With fewer strokes than this to compare with, nothing is told apart. */
const FEW = 4;

const isLanding = ({ strike, before }: Judged) => strike.landing && before !== null;
/** After a miss: the slot before it was left out. */
const isAfterMiss = ({ strike, before }: Judged) =>
  before !== null && strike.tick - before.tick > before.ticks;
const isUp = ({ strike }: Judged) => strike.dir === 'up' && strike.kind !== 'bass';

function landingsLate(played: Judged[], { byChange }: Evidence, stops: boolean): Found | null {
  const beside = besideItsSlot(played, isLanding);
  // Where the arm stops after each miss, a landing after a miss says nothing of the other hand.
  const late = heardOf(played).filter((one) => isLanding(one) && !(stops && isAfterMiss(one)));
  const elsewhere = [...beside].filter(([one]) => !isLanding(one));
  // A pattern that passes before every stroke has no others than those after a miss.
  const inStride = elsewhere.filter(([one]) => !isAfterMiss(one));
  const others = (inStride.length >= FEW ? inStride : elsewhere).map(([, off]) => off);
  const found: Found[] = [];
  const all = late.map((one) => beside.get(one)!);
  if (all.length >= 3) {
    const by = median(all);
    if (by > LIMITS.late && apart(all, others) > LIMITS.chance) {
      found.push({
        trouble: 'landings',
        hand: 'fretting',
        sentence: `Landings come ${Math.round(by)} ms late, the other strokes are in time: the fretting hand is waited for${worst(byChange)}.`,
        weight: by / LIMITS.late,
      });
    }
  }
  for (const change of byChange) {
    const own = late.filter(
      ({ strike, before, heard }) =>
        before!.chord === change.from && strike.chord === change.to && !heard!.faint,
    );
    const values = own.map((one) => beside.get(one)!);
    if (values.length === 0) continue;
    const by = median(values);
    const spread = Math.max(6, deviation(others));
    const clear =
      values.length >= 2 ? apart(values, others) > 2.2 && by > 4 * spread : by > 6 * spread;
    if (by > LIMITS.late * 1.3 && clear) {
      found.push({
        trouble: 'landings',
        hand: 'fretting',
        sentence: `${change.from} to ${change.to} lands ${Math.round(by)} ms late; the strokes around it are in time, so it is the fretting hand.`,
        weight: (by / LIMITS.late) * (all.length > values.length ? 0.98 : 0.9),
        bar: change.bars[0]!,
      });
    }
  }
  const whole = found.find(({ bar }) => bar === undefined);
  const single = found.filter(({ bar }) => bar !== undefined).sort((a, b) => b.weight - a.weight);
  // One change that is late by itself is named; several together are landings on the whole.
  if (single.length > 0 && (single.length <= 1 || !whole)) return single[0]!;
  return whole ? { ...whole, ...(single[0]?.bar !== undefined && { bar: single[0].bar }) } : null;
}

function worst(byChange: TakeJudgement['byChange']): string {
  const late = byChange
    .filter(({ median: by }) => by !== null)
    .sort((a, b) => b.median! - a.median!)[0];
  return late ? `, most of all at ${late.from} to ${late.to}` : '';
}

function afterMisses(played: Judged[]): Found | null {
  const special = (one: Judged) => isAfterMiss(one);
  const groups = played.filter((one) => isAfterMiss(one) && !isLanding(one));
  const late = heardOf(groups);
  if (groups.length < 4) return null;
  const plain = heardOf(played).filter((one) => !special(one) && !isLanding(one));
  if (plain.length < 4) return null;
  const by = late.length > 0 ? median(offs(late)) - median(offs(plain)) : 0;
  const missed = 1 - late.length / groups.length;
  const otherMissed =
    1 - plain.length / Math.max(1, played.filter((one) => !special(one) && !isLanding(one)).length);
  const isLate = by > LIMITS.late && apart(offs(late), offs(plain)) > LIMITS.chance;
  const isGone = missed > 0.3 && missed > otherMissed + 0.25;
  if (!isLate && !isGone) return null;
  return {
    trouble: 'after-miss',
    hand: 'strumming',
    sentence: isLate
      ? `The stroke after a miss comes ${Math.round(by)} ms late: the arm stops where it should only pass.`
      : 'Strokes after a miss are often left out: the arm stops where it should only pass.',
    weight: isLate ? by / LIMITS.late : missed / 0.3,
  };
}

function upsWeak(played: Judged[]): Found | null {
  const ups = played.filter(isUp);
  const downs = played.filter((one) => !isUp(one));
  if (ups.length < 4 || downs.length < 4) return null;
  const share = (strokes: Judged[]) =>
    strokes.filter(({ heard }) => !heard).length / strokes.length;
  const [missed, others] = [share(ups), share(downs)];
  if (missed > LIMITS.upsMissed && missed > others + 0.12) {
    return {
      trouble: 'ups',
      hand: 'strumming',
      sentence: `${Math.round(missed * 100)} of 100 ups are missing; the downs are there. Let the hand brush the strings on its way back.`,
      weight: missed / LIMITS.upsMissed,
    };
  }
  // What the pattern itself asks for is taken off: a soft up that is meant soft is none.
  const level = (strokes: Judged[]) =>
    heardOf(strokes).map(
      ({ heard, strike }) => heard!.loudness - 20 * Math.log10(Math.max(0.05, strike.velocity)),
    );
  const plain = (strokes: Judged[]) =>
    strokes.filter(
      ({ strike }) => strike.kind === 'strum' && !strike.palm && strike.notes.length >= 3,
    );
  const [up, down] = [level(plain(ups)), level(plain(downs))];
  if (up.length < 4 || down.length < 4) return null;
  const softer = median(down) - median(up);
  if (softer < LIMITS.upsSoft || apart(down, up) < LIMITS.chance) return null;
  return {
    trouble: 'ups',
    hand: 'strumming',
    sentence: `The ups are ${Math.round(softer)} dB softer than the downs: hardly to be heard.`,
    weight: softer / LIMITS.upsSoft,
  };
}

function chordsLate(played: Judged[]): Found | null {
  const told = played.filter(
    (one) =>
      isLanding(one) && one.heard && one.heard.chord !== 'unknown' && one.heard.chord !== 'wrong',
  );
  const late = told.filter(({ heard }) => heard!.chord === 'late');
  if (told.length < 3 || late.length < 2 || late.length / told.length < LIMITS.chordLate)
    return null;
  const first = late[0]!;
  return {
    trouble: 'chord-late',
    hand: 'fretting',
    sentence: `At ${late.length} of ${told.length} landings the old chord still sounds, as at ${first.before!.chord} to ${first.strike.chord}: the hand arrives after the stroke.`,
    weight: 1.5 + late.length / told.length / LIMITS.chordLate,
    bar: first.strike.bar + 1,
  };
}

function bassWrong(played: Judged[]): Found | null {
  const told = played.filter(({ heard }) => heard !== null && heard.bass !== null);
  const wrong = told.filter(({ heard }) => heard!.bass === false);
  if (told.length < 4 || wrong.length < 3 || wrong.length / told.length < LIMITS.wrongBass)
    return null;
  return {
    trouble: 'bass',
    hand: 'strumming',
    sentence: `${wrong.length} of ${told.length} bass strikes hit another string than the one that was meant.`,
    weight: wrong.length / told.length / LIMITS.wrongBass,
  };
}

function turnedRound(played: Judged[]): Found | null {
  const told = played.filter(({ heard }) => heard !== null && heard.direction !== null);
  const turned = told.filter(({ heard, strike }) => heard!.direction !== strike.dir);
  if (told.length < 8 || turned.length < 4 || turned.length / told.length < LIMITS.turned)
    return null;
  return {
    trouble: 'direction',
    hand: 'strumming',
    sentence: `${turned.length} of ${told.length} strums go the other way than the pattern: the arm has turned round.`,
    weight: turned.length / told.length / LIMITS.turned,
  };
}

function drifting({ drift }: Evidence): Found | null {
  if (Math.abs(drift) < LIMITS.drift) return null;
  const by = Math.abs(drift).toFixed(1);
  return drift > 0
    ? {
        trouble: 'rushing',
        hand: 'strumming',
        sentence: `You rush: at the end the tempo is ${by} % above the song's.`,
        weight: drift / LIMITS.drift,
      }
    : {
        trouble: 'dragging',
        hand: 'strumming',
        sentence: `You drag: at the end the tempo is ${by} % below the song's.`,
        weight: -drift / LIMITS.drift,
      };
}

function uneven(played: Judged[], { added }: Evidence): Found | null {
  const values = offs(played.filter((one) => !isLanding(one)));
  if (values.length < 8) return null;
  const scatter = deviation(values);
  // A soft stroke that is not heard may have been played.
  const sure = played.filter(({ strike }) => strike.velocity >= SOFT);
  const missed = sure.filter(({ heard }) => !heard).length / Math.max(1, sure.length);
  // What was added may have been a knock or a finger; it counts half.
  const extra = added / (2 * played.length);
  if (scatter > LIMITS.uneven) {
    return {
      trouble: 'uneven',
      hand: 'strumming',
      sentence: `The strumming is uneven: strokes lie ${Math.round(scatter)} ms around their places.`,
      weight: scatter / LIMITS.uneven,
    };
  }
  if (missed + extra > LIMITS.missed) {
    return {
      trouble: 'uneven',
      hand: 'strumming',
      sentence: `Of ${plural(played.length, 'stroke')} ${Math.round(missed * played.length)} are missing and ${added} were added.`,
      weight: (missed + extra) / LIMITS.missed,
    };
  }
  return null;
}

/** Beats a minute to go up or down by, as a share of the tempo. */
const STEP = 0.06;
const TEMPO_STEP = (tempo: number) => Math.max(2, Math.round(tempo * STEP));

/** One verdict from all that was found: the clearest trouble, what to do next, and how sure that is. */
export function verdictOf(
  arranged: Arrangement,
  played: Judged[],
  evidence: Evidence,
): TakeJudgement['verdict'] {
  const { song, bars } = arranged;
  const stops = afterMisses(played);
  const found = [
    landingsLate(played, evidence, stops !== null),
    stops,
    upsWeak(played),
    chordsLate(played),
    bassWrong(played),
    turnedRound(played),
    drifting(evidence),
    uneven(played, evidence),
  ].filter((one) => one !== null);
  found.sort((a, b) => b.weight - a.weight);
  const first = found[0];
  const heard = heardOf(played).length;
  const enough = Math.min(1, heard / 40) * (heard / Math.max(1, played.length));
  const slipped = evidence.slips.map(({ bar }) => `bar ${bar}`);
  const lost =
    slipped.length > 0
      ? ` The thread was lost at ${slipped.join(' and ')}, and taken up again.`
      : '';
  if (!first) {
    const within =
      offs(played).filter((off) => Math.abs(off) <= evidence.tolerance).length / Math.max(1, heard);
    const good = within > 0.9;
    return {
      trouble: 'clean',
      hand: null,
      sentence: `Clean: ${Math.round(within * 100)} of 100 strokes within ${evidence.tolerance} ms at ${song.tempo}.${lost}`,
      advice: good && slipped.length === 0 ? 'up' : 'stay',
      tempo: good && slipped.length === 0 ? song.tempo + TEMPO_STEP(song.tempo) : song.tempo,
      loop: null,
      sure: Number((0.55 + 0.4 * enough).toFixed(2)),
    };
  }
  const hands = new Set(found.slice(0, 2).map(({ hand }) => hand));
  const bad = first.weight > 1.8;
  const loop = first.bar
    ? { from: Math.max(1, first.bar - 1), to: Math.min(bars.length, first.bar + 1) }
    : null;
  return {
    trouble: first.trouble,
    hand: hands.size > 1 && found[1]!.weight > 0.8 * first.weight ? 'both' : first.hand,
    sentence: first.sentence + lost,
    advice: bad ? 'down' : 'stay',
    tempo: bad ? Math.max(20, song.tempo - TEMPO_STEP(song.tempo)) : song.tempo,
    loop,
    sure: Number(Math.min(0.98, 0.4 + 0.35 * enough + 0.12 * (first.weight - 1)).toFixed(2)),
  };
}

/** Too little to say anything: with the reason, and nothing invented. */
export function unjudged({ song }: Arrangement, reason: string): TakeJudgement {
  return {
    lag: 0,
    drift: 0,
    tolerance: 0,
    strokes: [],
    missed: [],
    added: [],
    slips: [],
    bySlot: [],
    byChange: [],
    verdict: {
      trouble: 'unjudged',
      hand: null,
      sentence: `This take cannot be judged: ${reason}.`,
      advice: 'stay',
      tempo: song.tempo,
      loop: null,
      sure: 0,
    },
  };
}
