import type { Ticks } from '../plain';
import type { Direction, Division, Pattern, Stroke } from '../schema';
import { beatTicks, groupStarts } from '../time';

/** One movement of the arm through the strings, whether it touches them or not. */
export interface ArmPass {
  /** The moment it crosses the strings, in ticks from the start of the pattern. */
  tick: Ticks;
  /** How long it takes, in ticks. */
  ticks: Ticks;
  dir: Direction;
  /** The slot that falls on it, or null where the arm only returns. */
  slot: number | null;
  /** The arm does not pass at all: it waits for its next half-swing. */
  rests?: true;
}

/**
 * Half-swings that the arm makes in one beat: its own rate, or the beat's division where that is
 * finer or of another kind (sixteenths under an arm of eighths double it for that beat).
 */
function halfSwingsInBeat(division: Division, pattern: Pattern): number {
  if (pattern.arm.school === 'all-downs') return division * 2;
  const { halfSwings } = pattern.arm;
  return halfSwings % division === 0 ? halfSwings : division;
}

/** Where each beat lies in a group of three counts that a shuffle goes by: 0 to 2, or null elsewhere. */
function countOfThree(pattern: Pattern): (number | null)[] {
  const starts = groupStarts(pattern.meter);
  const first = pattern.beats.map((_, beat) => starts[beat % starts.length] === true);
  return pattern.beats.map(({ division }, beat) => {
    if (pattern.meter.unit < 8 || division !== 1) return null;
    const start = first.lastIndexOf(true, beat);
    const next = first.indexOf(true, beat + 1);
    const length = (next < 0 ? pattern.beats.length : next) - start;
    const plain = pattern.beats.slice(start, start + length).every((one) => one.division === 1);
    return length === 3 && plain ? beat - start : null;
  });
}

/** Down, and the last third up; what is struck in between is another down. */
const SHUFFLE: Direction[] = ['down', 'down', 'up'];

/** Where nothing is struck in the middle of three, the arm waits below for its up. */
function waits(stroke: Stroke | undefined): boolean {
  return stroke?.kind === 'miss' || stroke?.kind === 'hold' || stroke?.kind === 'legato';
}

/**
 * The arm as a clock: every half-swing of the pattern, in order. By school:
 *
 * - *alternate* and *free*: down and up in turn, from a down at the start of the pattern; after a beat in three
 *   an even arm comes back to its clock, so that the beats beside it stay as they are;
 * - *restart*: in turn, from a down on each beat (on each group where the count is in eighths, as in 6/8);
 * - *shuffle*: of each three a down on the first and an up on the last; elsewhere in turn;
 * - *all-downs*: a down on every slot and a return after it.
 *
 * @param phase half-swings that went before, where the pattern is a later part of a longer one
 * @example armPasses(newPattern(METERS['4/4'])).length // 8
 */
export function armPasses(pattern: Pattern, phase = 0): ArmPass[] {
  const beat = beatTicks(pattern.meter);
  const starts = groupStarts(pattern.meter);
  const byGroup = pattern.meter.unit >= 8;
  const { school, halfSwings } = pattern.arm;
  const shuffles = school === 'shuffle';
  const thirds = shuffles ? countOfThree(pattern) : [];
  const swings: ArmPass[] = [];
  let turn = phase;
  let slot = 0;
  pattern.beats.forEach(({ division, slots: strokes }, index) => {
    const third = thirds[index] ?? null;
    if (shuffles && (third !== null || (!byGroup && division === 3))) {
      const ticks = beat / division;
      for (let position = 0; position < division; position += 1) {
        const at = third ?? position;
        const rests = at === 1 && waits(strokes[position]);
        const tick = index * beat + position * ticks;
        const pass: ArmPass = { tick, ticks, dir: SHUFFLE[at]!, slot: slot++ };
        swings.push(rests ? { ...pass, rests: true } : pass);
      }
      turn = 0;
      return;
    }
    const restarts = !byGroup || starts[index % starts.length];
    if (school === 'restart' && restarts) turn = 0;
    const swingsHere = halfSwingsInBeat(division, pattern);
    const clocked = school === 'alternate' || school === 'free';
    if (clocked && halfSwings % 2 === 0 && swingsHere % 2 === 0) turn = phase;
    const ticks = beat / swingsHere;
    for (let position = 0; position < swingsHere; position += 1) {
      const onSlot = (position * division) % swingsHere === 0;
      swings.push({
        tick: index * beat + position * ticks,
        ticks,
        dir: turn % 2 === 0 ? 'down' : 'up',
        slot: onSlot ? slot++ : null,
      });
      turn += 1;
    }
  });
  return swings;
}

/**
 * The natural direction of every slot.
 * @example naturalDirections(newPattern(METERS['4/4'])) // ['down', 'up', 'down', 'up', ...]
 */
export function naturalDirections(pattern: Pattern, phase = 0): Direction[] {
  return armPasses(pattern, phase).flatMap((swing) => (swing.slot === null ? [] : [swing.dir]));
}
