import type { Pattern } from '../schema';
import { noise } from '../random';
import { isLoud, MISS, naturalDirections, slots, slotWeight, sounds } from '../stroke';
import { strum } from './pattern';

/** How much likelier a stroke of the pattern sounds than one that it misses. */
const WRITTEN = 1.5;
const UNWRITTEN = 0.45;
const HITS = { down: strum('down'), up: strum('up') };

/**
 * One turn of a loose pattern: a constant arm whose hits vary. What is accented stays, and so does
 * whatever a chord lands on; the other strokes sound or pass by chance, the heavier places of the meter
 * more often. A hold is left as it is. The same seed and turn give the same strokes.
 *
 * @param turn which time round, from 0
 * @param landings slots on which a chord lands
 * @returns the pattern itself where it is not loose
 * @example loosePass({ ...pattern, loose: { density: 0.5, seed: 7 } }, 0, new Set([0]))
 */
export function loosePass(pattern: Pattern, turn: number, landings: ReadonlySet<number>): Pattern {
  if (!pattern.loose) return pattern;
  const { density, seed } = pattern.loose;
  const random = noise(seed * 7919 + turn * 104729 + 1);
  const natural = naturalDirections(pattern);
  const grid = slots(pattern);
  let next = 0;
  const beats = pattern.beats.map(({ division, slots: strokes }) => ({
    division,
    slots: strokes.map((stroke) => {
      const slot = grid[next++]!;
      const chance = (random() + 1) / 2;
      const lands = landings.has(slot.index);
      if (stroke.kind === 'hold' && !lands) return stroke;
      if (sounds(stroke)) {
        return lands || isLoud(stroke) || chance < density * WRITTEN ? stroke : MISS;
      }
      const weight = 0.5 + 0.25 * slotWeight(pattern, slot);
      return lands || chance < density * UNWRITTEN * weight ? HITS[natural[slot.index]!] : stroke;
    }),
  }));
  return { ...pattern, beats };
}
