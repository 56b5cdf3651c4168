import type { Direction, Division, Pattern } from '../schema';
import { beatTicks, groupStarts, isCompound, placeName, secondsPerTick } from '../time';
import { divisions, patternTicks, slots, sounds, strokeDirection } from './grid';

/** One movement of the arm through the strings, whether it touches them or not. */
export interface Swing {
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
 * - *restart*: in turn, from a down on each beat (each group of three in 6/8);
 * - *all-downs*: a down on every slot and a return after it.
 *
 * @example armSwings(newPattern(METERS['4/4'])).length // 8
 */
export function armSwings(pattern: Pattern): Swing[] {
  const beat = beatTicks(pattern.meter);
  const starts = groupStarts(pattern.meter);
  const compound = isCompound(pattern.meter);
  const swings: Swing[] = [];
  let turn = 0;
  let slot = 0;
  pattern.beats.forEach(({ division }, index) => {
    const restarts = !compound || starts[index % starts.length];
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
export function naturalDirections(pattern: Pattern): Direction[] {
  return armSwings(pattern).flatMap((swing) => (swing.slot === null ? [] : [swing.dir]));
}

export interface ArmFinding {
  /** The slot where the stroke stands. */
  slot: number;
  /** One sentence for the player. */
  reason: string;
}

export interface ArmReport {
  /** Strokes that go against the arm. */
  against: ArmFinding[];
  /** Half-swings a second that the arm makes all the time, at the fastest beat. */
  rate: number;
  /** Half-swings a second at the busiest moment. */
  busiest: number;
}

/**
 * Half-swings needed between two sounding strokes: as many as the clock makes, unless they end in
 * the wrong direction; then one less where the arm can wait, one more where it cannot.
 */
function swingsBetween(natural: number, same: boolean): number {
  if ((natural % 2 === 0) === same) return natural;
  return natural === 1 ? 2 : natural - 1;
}

/**
 * What the arm has to do for this pattern.
 *
 * Worked: straight eighths at 90 make 2 half-swings a beat, 3.0 a second. Two downs in neighbouring
 * eighths are down, return, down: 2 half-swings in one slot, 6.0 a second at that moment.
 *
 * @param tempo pulses a minute
 */
export function armReport(pattern: Pattern, tempo: number): ArmReport {
  const swings = armSwings(pattern);
  const grid = slots(pattern);
  const perTick = secondsPerTick(tempo, pattern.meter);
  const rate = 1 / (Math.min(...swings.map((swing) => swing.ticks)) * perTick);

  const struck = swings.flatMap((swing, order) => {
    const slot = swing.slot === null ? undefined : grid[swing.slot];
    return slot && sounds(slot.stroke)
      ? [{ order, slot, natural: swing.dir, dir: strokeDirection(slot.stroke)! }]
      : [];
  });

  const total = patternTicks(pattern);
  const pace = struck.map((stroke, index) => {
    const next = struck[(index + 1) % struck.length]!;
    const wraps = index === struck.length - 1;
    const natural = next.order - stroke.order + (wraps ? swings.length : 0);
    const ticks = next.slot.tick - stroke.slot.tick + (wraps ? total : 0);
    return swingsBetween(natural, stroke.dir === next.dir) / (ticks * perTick);
  });

  const against =
    pattern.arm.school === 'free'
      ? []
      : struck.flatMap((stroke, index) => {
          if (stroke.dir === stroke.natural) return [];
          const place = placeName(divisions(pattern), pattern.meter.beats, stroke.slot.index);
          const worst = Math.max(pace[index]!, pace.at(index - 1)!);
          const cost =
            worst > rate * 1.01
              ? `it has to double back, ${worst.toFixed(1)} half-swings a second instead of ${rate.toFixed(1)}`
              : 'it has to stop and start again, out of step with the beat';
          const what = stroke.slot.stroke.kind === 'strum' ? stroke.dir : stroke.slot.stroke.kind;
          return [
            {
              slot: stroke.slot.index,
              reason: `The ${what} on ${place} goes against the arm, which is ${
                stroke.natural === 'down' ? 'coming down' : 'going up'
              } there: ${cost}.`,
            },
          ];
        });

  return { against, rate, busiest: Math.max(rate, ...pace) };
}
