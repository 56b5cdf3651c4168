import { plural, type SecondsPerTick, type Ticks } from '../plain';
import type { Direction, Division, FindingKind, Pattern, Stroke } from '../schema';
import { beatTicks, placeName, pulseTicks, secondsPerTick } from '../time';
import {
  type ArmPass,
  armPasses,
  divisions,
  patternTicks,
  type Slot,
  slots,
  sounds,
  strokeDirection,
  strokeWord,
  sweeps,
} from '../stroke';
import { placeStroke } from './pattern';

/** Half-swings a second that most arms can keep up; an estimate, until the player has measured. */
export const USUAL_ARM_LIMIT = 9;

/**
 * Seconds that the hand wants between a bass strike and a strum: to come back above the strings for
 * a down, or to go on through them for an up. Estimates.
 */
const JUMP_SECONDS: Record<Direction, number> = { down: 0.17, up: 0.11 };

/** A hold that is longer than this many pulses is a gap in which the beat is easily lost. */
const LONG_GAP_PULSES = 2;

/** What would fix a finding, as an edit that `applyFix` applies; a tempo is the song's to take. */
export type Fix = { label: string } & (
  | { does: 'place'; strokes: { slot: number; stroke: Stroke }[] }
  | { does: 'arm'; halfSwings: Division }
  | { does: 'tempo'; tempo: number }
);

export interface ArmFinding {
  kind: FindingKind;
  /** The slots it stands on, in order. */
  slots: number[];
  /** One sentence for the player. */
  reason: string;
  fix: Fix;
  /** The pattern says that it is meant that way. */
  quiet: boolean;
}

export interface ArmReport {
  findings: ArmFinding[];
  /** Half-swings a second that the arm makes all the time, at the fastest beat. */
  rate: number;
  /** Half-swings a second at the busiest moment, and the slot it leads to. */
  busiest: number;
  busiestSlot: number;
  /** The tempo at which the busiest moment reaches the player's limit. */
  tempoAtLimit: number;
}

/**
 * Half-swings needed between two sounding strokes: as many as the clock makes, unless they end in
 * the wrong direction; then one less where the arm can wait, one more where it cannot.
 */
function swingsBetween(natural: number, same: boolean): number {
  if ((natural % 2 === 0) === same) return natural;
  return natural === 1 ? 2 : natural - 1;
}

interface Struck {
  order: number;
  slot: Slot;
  natural: Direction;
  dir: Direction;
  /** From the stroke before to this one, in moves a second, and in seconds. */
  pace: number;
  gap: number;
  before: Slot;
  /** It is part of the movement that the stroke before it began. */
  swept: boolean;
}

function struckOf(
  pattern: Pattern,
  grid: Slot[],
  swept: Map<number, number>,
  swings: ArmPass[],
  perTick: SecondsPerTick,
): Struck[] {
  const struck: Struck[] = [];
  swings.forEach((swing, order) => {
    const slot = swing.slot === null ? undefined : grid[swing.slot];
    // In a slot of the fretting hand the arm passes, as in a miss.
    if (!slot || !sounds(slot.stroke) || slot.stroke.kind === 'legato') return;
    const dir = strokeDirection(slot.stroke) ?? swing.dir;
    const isSwept = swept.has(slot.index);
    struck.push({
      order,
      slot,
      natural: swing.dir,
      dir,
      pace: 0,
      gap: 0,
      before: slot,
      swept: isSwept,
    });
  });
  const total = patternTicks(pattern);
  struck.forEach((stroke, index) => {
    // The arm goes on from where the movement before it began, whatever the fingers did in it.
    let back = 1;
    while (back < struck.length && struck.at(index - back)!.swept) back += 1;
    const before = struck.at(index - back)!;
    const wraps = back > index;
    const natural = stroke.order - before.order + (wraps ? swings.length : 0);
    const ticks = stroke.slot.tick - before.slot.tick + (wraps ? total : 0);
    stroke.before = before.slot;
    stroke.gap = ticks * perTick;
    // One movement of the hand is no swing of the arm.
    stroke.pace = stroke.swept ? 0 : swingsBetween(natural, stroke.dir === before.dir) / stroke.gap;
  });
  return struck;
}

/** The stroke that goes with the arm in its place: turned, or a bass string struck upwards. */
function turned(stroke: Stroke, dir: Direction): { label: string; stroke: Stroke } {
  if (stroke.kind !== 'bass') {
    const label = `Flip it to ${dir === 'down' ? 'down' : 'up'}`;
    return { label, stroke: { ...stroke, dir } as Stroke };
  }
  const { accent, palm, open, tap, finger } = stroke;
  const touch = { ...(palm && { palm }), ...(open && { open }), ...(tap && { tap }) };
  const string = { string: 'R', ...(finger && { finger }) };
  return {
    label: 'Pick it upwards',
    stroke: { kind: 'pick', dir, accent, strings: [string], ...touch },
  };
}

function inBeats(ticks: Ticks, pattern: Pattern): string {
  const beats = ticks / beatTicks(pattern.meter);
  if (beats === 0.5) return 'half a beat';
  if (beats === 0.25) return 'a quarter of a beat';
  return beats === 1 ? 'a beat' : plural(beats, 'beat');
}

/** Runs of held slots, the last joined to the first where the pattern goes round. */
function heldRuns(grid: Slot[]): Slot[][] {
  const runs: Slot[][] = [];
  grid.forEach((slot, index) => {
    if (slot.stroke.kind !== 'hold') return;
    if (index > 0 && grid[index - 1]!.stroke.kind === 'hold') runs.at(-1)!.push(slot);
    else runs.push([slot]);
  });
  const first = runs[0];
  const wraps =
    runs.length > 1 && first![0]!.index === 0 && runs.at(-1)!.at(-1)!.index === grid.length - 1;
  if (wraps) runs.at(-1)!.push(...runs.shift()!);
  return runs.filter((run) => run.length < grid.length);
}

/** Divisions of the beat that an arm of half the rate would still carry. */
function halvedArm(pattern: Pattern): Division | null {
  const { school, halfSwings } = pattern.arm;
  if (school === 'all-downs' || halfSwings % 2 !== 0) return null;
  const half = halfSwings / 2;
  const carries = pattern.beats.every(({ division }) => half % division === 0);
  return carries ? (half as Division) : null;
}

/**
 * What the arm has to do for this pattern, and what it says to that. In a free arm no stroke is
 * against it and no rest is wrong; speed and jumps are told in every school.
 *
 * Worked: straight eighths at 90 make 2 half-swings a beat, 3.0 a second. Two downs in neighbouring
 * eighths are down, return, down: 2 half-swings in one slot, 6.0 a second at that moment.
 *
 * @param tempo pulses a minute
 * @param limit moves a second that the player can keep up
 * @example armReport(pattern, 90).findings[0]?.reason
 */
export function armReport(pattern: Pattern, tempo: number, limit = USUAL_ARM_LIMIT): ArmReport {
  const swings = armPasses(pattern).filter(({ rests }) => !rests);
  const grid = slots(pattern);
  const perTick = secondsPerTick(tempo, pattern.meter);
  const swept = sweeps(grid);
  const inside = new Set([...swept].flat());
  const swung = swings.filter(({ slot }) => slot === null || !inside.has(slot));
  let shortest = Infinity;
  for (const { ticks } of swung.length > 0 ? swung : swings) shortest = Math.min(shortest, ticks);
  const rate = 1 / (shortest * perTick);
  const struck = struckOf(pattern, grid, swept, swings, perTick);

  let busiest = rate;
  let busiestSlot =
    swings.find(({ ticks, slot }) => ticks === shortest && slot !== null)?.slot ?? 0;
  for (const { pace, slot } of struck) {
    if (pace <= busiest * 1.0001) continue;
    busiest = pace;
    busiestSlot = slot.index;
  }

  const rows = divisions(pattern);
  const place = (slot: Slot) => placeName(rows, pattern.meter, slot.index);
  const free = pattern.arm.school === 'free';
  const findings: Omit<ArmFinding, 'quiet'>[] = [
    ...(free ? [] : againstTheArm(pattern, struck, rate, place)),
    ...(free ? [] : stoppedArm(pattern, grid, place)),
    ...jumps(struck, place),
  ];
  const tempoAtLimit = (tempo * limit) / busiest;
  if (busiest > limit * 1.0001) {
    const slower = Math.max(20, Math.floor(tempoAtLimit));
    const half = halvedArm(pattern);
    findings.push({
      kind: 'fast',
      slots: [busiestSlot],
      reason:
        `At ${tempo} the arm needs ${busiest.toFixed(1)} moves a second at ${place(grid[busiestSlot]!)}, ` +
        `and yours makes ${limit.toFixed(1)}: that is reached at ${slower}.`,
      fix: half
        ? { label: 'Swing half as fast', does: 'arm', halfSwings: half }
        : { label: `Slow to ${slower}`, does: 'tempo', tempo: slower },
    });
  }
  const meant = pattern.meant ?? [];
  return {
    findings: findings.map((finding) => ({ ...finding, quiet: meant.includes(finding.kind) })),
    rate,
    busiest,
    busiestSlot,
    tempoAtLimit,
  };
}

type Found = Omit<ArmFinding, 'quiet'>;
type PlaceOf = (slot: Slot) => string;

function againstTheArm(pattern: Pattern, struck: Struck[], rate: number, place: PlaceOf): Found[] {
  return struck.flatMap((stroke, index): Found[] => {
    if (stroke.dir === stroke.natural || stroke.swept) return [];
    const worst = Math.max(stroke.pace, struck[(index + 1) % struck.length]!.pace);
    const cost =
      worst > rate * 1.01
        ? `it has to double back, ${worst.toFixed(1)} moves a second instead of ${rate.toFixed(1)}`
        : 'it has to stop and start again, out of step with the beat';
    const what = strokeWord(stroke.slot.stroke);
    const swinging =
      pattern.arm.school === 'all-downs'
        ? 'breaks the row of downs'
        : `goes against the arm, which is ${stroke.natural === 'down' ? 'coming down' : 'going up'} there`;
    const mended = turned(stroke.slot.stroke, stroke.natural);
    const slot = stroke.slot.index;
    return [
      {
        kind: 'against',
        slots: [slot],
        reason: `The ${what} on ${place(stroke.slot)} ${swinging}: ${cost}.`,
        fix: { label: mended.label, does: 'place', strokes: [{ slot, stroke: mended.stroke }] },
      },
    ];
  });
}

function stoppedArm(pattern: Pattern, grid: Slot[], place: PlaceOf): Found[] {
  const pulse = pulseTicks(pattern.meter);
  return heldRuns(grid).flatMap((run): Found[] => {
    const ticks = run.reduce((sum, slot) => sum + slot.ticks, 0);
    const short = ticks < pulse;
    if (!short && ticks <= LONG_GAP_PULSES * pulse) return [];
    const rests = `The arm rests on ${place(run[0]!)} for ${inBeats(ticks, pattern)}`;
    return [
      {
        kind: 'stopped',
        slots: run.map((slot) => slot.index),
        reason: short
          ? `${rests} and has to start again: a miss there keeps it swinging.`
          : `${rests}: in a gap that long the beat is easily lost, unless it swings on.`,
        fix: {
          label: run.length === 1 ? 'Make it a miss' : 'Make them misses',
          does: 'place',
          strokes: run.map(({ index }) => ({ slot: index, stroke: { kind: 'miss' } })),
        },
      },
    ];
  });
}

function jumps(struck: Struck[], place: PlaceOf): Found[] {
  return struck.flatMap(({ slot, before, dir, gap }): Found[] => {
    const across = slot.stroke.kind === 'strum' || slot.stroke.kind === 'roll';
    if (before.stroke.kind !== 'bass' || !across || gap >= JUMP_SECONDS[dir]) return [];
    const word = strokeWord(slot.stroke);
    return [
      {
        kind: 'jump',
        slots: [before.index, slot.index],
        reason:
          `From the bass on ${place(before)} to the ${word} on ${place(slot)} the hand has ` +
          `${gap.toFixed(2)} seconds: it would like ${JUMP_SECONDS[dir].toFixed(2)}.`,
        fix: {
          label: `Leave out the ${word}`,
          does: 'place',
          strokes: [{ slot: slot.index, stroke: { kind: 'miss' } }],
        },
      },
    ];
  });
}

/**
 * The pattern with a finding mended; a fix that is a tempo leaves it as it is.
 * @example armReport(pattern, 90).findings.map(({ fix }) => applyFix(pattern, fix))
 */
export function applyFix(pattern: Pattern, fix: Fix): Pattern {
  if (fix.does === 'tempo') return pattern;
  if (fix.does === 'arm') {
    return { ...pattern, arm: { ...pattern.arm, halfSwings: fix.halfSwings } };
  }
  return fix.strokes.reduce(
    (mended, { slot, stroke }) => placeStroke(mended, slot, stroke),
    pattern,
  );
}

/** Says that findings of a kind are meant that way, or takes it back. */
export function setIntended(pattern: Pattern, kind: FindingKind, meant: boolean): Pattern {
  const kinds = (pattern.meant ?? []).filter((other) => other !== kind);
  if (meant) kinds.push(kind);
  const { meant: _, ...rest } = pattern;
  return kinds.length > 0 ? { ...rest, meant: kinds } : rest;
}

/** Seconds of the wrist test, and of the stretch in it that counts. */
export const WRIST_TEST_SECONDS = 20;
const HELD_SECONDS = 5;

/**
 * The player's own limit from a wrist test: a key is tapped on every down-swing, as fast as stays
 * loose, for 20 seconds. What counts is the slowest stretch of five seconds, since that can be kept up.
 * @param onsets moments of the taps, in seconds from the first, in order
 * @returns moves a second, two for each tap; null where there are too few taps to tell
 * @example wristLimit(Array.from({ length: 81 }, (_, tap) => tap / 4)) // 8
 */
export function wristLimit(onsets: number[]): number | null {
  const last = onsets.at(-1) ?? 0;
  if (onsets.length < 10 || last - onsets[0]! < HELD_SECONDS * 2) return null;
  let slowest = Infinity;
  for (const [first, from] of onsets.entries()) {
    const end = onsets.findIndex((time) => time - from >= HELD_SECONDS);
    if (end < 0) break;
    slowest = Math.min(slowest, (2 * (end - first)) / (onsets[end]! - from));
  }
  return Math.round(slowest * 10) / 10;
}
