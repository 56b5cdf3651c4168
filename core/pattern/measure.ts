import { plural } from '../plain';
import { MAX_BEATS, type Pattern, type Stroke } from '../schema';
import { beatTicks, describeMeter, placeName, secondsPerTick } from '../time';
import {
  describeStroke,
  divisions,
  patternTicks,
  type Slot,
  slots,
  sounds,
  strokeDirection,
  gracesOf,
} from '../stroke';
import { setLength } from './pattern';
import { armReport, USUAL_ARM_LIMIT } from './report';

/**
 * How busy a pattern is: sounding strokes a beat.
 * @example busyness(newPattern(METERS['4/4'])) // 1
 */
export function busyness(pattern: Pattern): number {
  return slots(pattern).filter(({ stroke }) => sounds(stroke)).length / pattern.beats.length;
}

export interface Difficulty {
  /** 0 to 100. */
  score: number;
  /** What it is made of, the largest part first; parts without points are left out. */
  parts: { what: string; points: number }[];
}

/** The most that each part can give. Estimates, to put patterns in an order and not to grade players. */
const MOST = {
  rate: 40,
  offBeats: 20,
  doubleUps: 12,
  jumps: 10,
  mixed: 10,
  against: 8,
  legato: 12,
};
/** A bass strike and a strum closer than this are a jump of the hand. */
const JUMP_WITHIN_SECONDS = 0.4;

/**
 * How hard a pattern is at a tempo, and why: how fast the arm swings, how much falls off the beat, ups
 * in a row with the down between them missed, jumps from a bass string to a strum, beats divided in
 * different ways, strokes against the arm, what the fretting hand sounds by itself.
 * @param tempo pulses a minute
 * @example difficulty(pattern, 90).parts[0] // { what: '3.0 moves a second', points: 13 }
 */
export function difficulty(pattern: Pattern, tempo: number): Difficulty {
  const { busiest, findings } = armReport(pattern, tempo);
  const sounding = slots(pattern).filter(({ stroke }) => sounds(stroke));
  // What the fretting hand sounds is no stroke of the arm.
  const struck = sounding.filter(({ stroke }) => stroke.kind !== 'legato');
  const legato = sounding.filter(
    ({ stroke }) => stroke.kind === 'legato' || gracesOf(stroke).length > 0,
  ).length;
  const perTick = secondsPerTick(tempo, pattern.meter);
  const total = patternTicks(pattern);
  const pairs = struck.map((slot, index) => ({ slot, next: struck[(index + 1) % struck.length]! }));
  const gap = (one: Slot, two: Slot) =>
    (two.tick > one.tick ? two.tick - one.tick : two.tick - one.tick + total) * perTick;

  const offBeats = struck.filter(({ position }) => position > 0).length;
  const isUp = ({ stroke }: Slot) => strokeDirection(stroke) === 'up';
  const doubleUps = pairs.filter(
    ({ slot, next }) => slot !== next && isUp(slot) && isUp(next),
  ).length;
  const jumps = pairs.filter(
    ({ slot, next }) =>
      slot.stroke.kind === 'bass' &&
      next.stroke.kind === 'strum' &&
      gap(slot, next) < JUMP_WITHIN_SECONDS,
  ).length;
  const kinds = new Set(divisions(pattern)).size;
  const against = findings.filter(({ kind }) => kind === 'against').length;

  const parts = [
    {
      what: `${busiest.toFixed(1)} moves a second`,
      points: Math.min(1, busiest / (USUAL_ARM_LIMIT * 1.2)) * MOST.rate,
    },
    {
      what: plural(offBeats, 'stroke off the beat', 'strokes off the beat'),
      points: (offBeats / Math.max(1, struck.length)) * MOST.offBeats,
    },
    { what: plural(doubleUps, 'double up'), points: Math.min(MOST.doubleUps, doubleUps * 3) },
    { what: plural(jumps, 'bass jump'), points: Math.min(MOST.jumps, jumps * 2) },
    { what: `beats divided in ${kinds} ways`, points: Math.min(MOST.mixed, (kinds - 1) * 5) },
    {
      what: `${plural(against, 'stroke')} against the arm`,
      points: Math.min(MOST.against, against * 4),
    },
    {
      what: plural(legato, 'hammer-on, pull-off or slide', 'hammer-ons, pull-offs and slides'),
      points: Math.min(MOST.legato, legato * 3),
    },
  ].map(({ what, points }) => ({ what, points: Math.round(points) }));
  return {
    score: Math.min(
      100,
      parts.reduce((sum, { points }) => sum + points, 0),
    ),
    parts: parts.filter(({ points }) => points > 0).sort((a, b) => b.points - a.points),
  };
}

/**
 * What a pattern sounds like, without its name and tags: two with the same key are the same strokes.
 * @example strokeKey(a) === strokeKey({ ...a, name: 'Another name' }) // true
 */
export function strokeKey(pattern: Pattern): string {
  const { meter, beats, feel, builds } = pattern;
  const parts = (value: object) =>
    Object.entries(value)
      .filter(([, part]) => part !== undefined)
      .sort(([a], [b]) => a.localeCompare(b));
  const strokes = beats.map(({ slots: row }) => row.map(parts));
  const swung = feel && feel.percent > 50 ? feel : null;
  return JSON.stringify([describeMeter(meter), meter.unit, strokes, swung, builds ?? []]);
}

/** A short word for the division of a pattern's beats: the finest that it has. */
export function divisionTag(pattern: Pattern): string {
  const finest = Math.max(...divisions(pattern)) * (pattern.meter.unit / 4);
  const names: Record<number, string> = {
    1: 'quarters',
    2: 'eighths',
    3: 'triplets',
    4: 'sixteenths',
    6: 'sextuplets',
    8: 'thirty-seconds',
  };
  return names[finest] ?? 'fine';
}

/** The tags that follow from the pattern itself: meter, division, feel. */
export function ownTags(pattern: Pattern): string[] {
  const swung = (pattern.feel?.percent ?? 50) > 50;
  return [describeMeter(pattern.meter), divisionTag(pattern), swung ? 'swung' : 'straight'];
}

function sayFeel(pattern: Pattern): string {
  const { feel } = pattern;
  return feel && feel.percent > 50 ? `${feel.on} swung ${feel.percent} %` : 'straight';
}

const SCHOOLS = {
  alternate: 'down and up in turn',
  restart: 'each beat from a down',
  shuffle: 'shuffle, the last of three up',
  'all-downs': 'all downs',
  free: 'free',
};

const same = (one: Stroke, two: Stroke) => describeStroke(one) === describeStroke(two);

/**
 * Two patterns over the time of the longer one: the shorter goes round again, to the last whole beat.
 * @example alongside(oneBar, twoBars)[0].beats.length // 8
 */
export function alongside(one: Pattern, two: Pattern): [Pattern, Pattern] {
  const ticks = Math.max(patternTicks(one), patternTicks(two));
  const over = (pattern: Pattern) => {
    const beats = Math.min(MAX_BEATS, Math.floor(ticks / beatTicks(pattern.meter)));
    return beats === pattern.beats.length ? pattern : setLength(pattern, beats);
  };
  return [over(one), over(two)];
}

/**
 * How two patterns differ, in sentences; empty where they do not. A shorter one is held against a
 * longer one time and again; where their counts are of different lengths, strokes are not told one by one.
 * @example comparePatterns(a, b)[0] // 'On the & of 2: miss, the arm passes → up, all strings.'
 */
export function comparePatterns(one: Pattern, two: Pattern): string[] {
  const differences: string[] = [];
  const note = (what: string, before: string, after: string) => {
    if (before !== after) differences.push(`${what}: ${before} → ${after}.`);
  };
  note('Meter', describeMeter(one.meter), describeMeter(two.meter));
  note('Length', `${one.beats.length} beats`, `${two.beats.length} beats`);
  note('Arm', SCHOOLS[one.arm.school], SCHOOLS[two.arm.school]);
  note('Feel', sayFeel(one), sayFeel(two));
  if (beatTicks(one.meter) !== beatTicks(two.meter)) return differences;

  const [first, second] = alongside(one, two);
  const there = new Map(slots(second).map((slot) => [slot.tick, slot]));
  const rows = { one: divisions(first), two: divisions(second) };
  for (const slot of slots(first)) {
    const other = there.get(slot.tick);
    there.delete(slot.tick);
    const place = placeName(rows.one, one.meter, slot.index);
    if (!other && sounds(slot.stroke)) {
      differences.push(`On ${place}: ${describeStroke(slot.stroke)} → no place.`);
    } else if (other && !same(slot.stroke, other.stroke)) {
      differences.push(
        `On ${place}: ${describeStroke(slot.stroke)} → ${describeStroke(other.stroke)}.`,
      );
    }
  }
  for (const slot of there.values()) {
    if (!sounds(slot.stroke)) continue;
    const place = placeName(rows.two, two.meter, slot.index);
    differences.push(`On ${place}: no place → ${describeStroke(slot.stroke)}.`);
  }
  return differences;
}
