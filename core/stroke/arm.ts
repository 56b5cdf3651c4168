import type { Direction, Division, Pattern } from '../schema';
import { beatTicks, groupStarts } from '../time';

/** One movement of the arm through the strings, whether it touches them or not. */
export interface ArmPass {
  /** The moment it crosses the strings, in ticks from the start of the pattern. */
  tick: number;
  /** How long it takes, in ticks. */
  ticks: number;
  dir: Direction;
  /** The slot that falls on it, or null where the arm only returns. */
  slot: number | null;
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

/**
 * The arm as a clock: every half-swing of the pattern, in order. By school:
 *
 * - *alternate* and *free*: down and up in turn, from a down at the start of the pattern;
 * - *restart*: in turn, from a down on each beat (on each group where the count is in eighths, as in 6/8);
 * - *all-downs*: a down on every slot and a return after it.
 *
 * @param phase half-swings that went before, where the pattern is a later part of a longer one
 * @example armPasses(newPattern(METERS['4/4'])).length // 8
 */
export function armPasses(pattern: Pattern, phase = 0): ArmPass[] {
  const beat = beatTicks(pattern.meter);
  const starts = groupStarts(pattern.meter);
  const byGroup = pattern.meter.unit >= 8;
  const swings: ArmPass[] = [];
  let turn = phase;
  let slot = 0;
  pattern.beats.forEach(({ division }, index) => {
    const restarts = !byGroup || starts[index % starts.length];
    if (pattern.arm.school === 'restart' && restarts) turn = 0;
    const swingsHere = halfSwingsInBeat(division, pattern);
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
