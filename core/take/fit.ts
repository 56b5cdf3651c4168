import { median } from 'simple-statistics';
import type { Seconds } from '../plain';
import { leastSquares } from './leastSquares';

/** The line, or curve, that the clock of a take follows: seconds heard over seconds meant. */
export interface Curve {
  start: Seconds;
  /** Seconds heard for a second meant, and by how much that changes a second. */
  rate: number;
  bend: number;
}

/** Below this scatter, in seconds, nothing is taken for unevenness. */
const LEAST_SPREAD = 0.004;
/** Tukey's biweight: what lies farther off than so many deviations counts nothing. */
const BEYOND = 4.685;

/**
 * Straight line or curve through points, those far off counted less and less (Tukey's biweight).
 * @param weights how much each point is trusted to begin with
 */
export function fitCurve(
  points: { x: Seconds; y: Seconds }[],
  weights: number[],
  curved: boolean,
): Curve {
  const scale = Math.max(1e-6, ...points.map(({ x }) => Math.abs(x)));
  let found: Curve = { start: 0, rate: 1, bend: 0 };
  let now = weights;
  for (let round = 0; round < 10; round += 1) {
    const seen = points.map(({ x, y }, index) => ({
      parts: [1, x / scale, (x / scale) ** 2],
      value: y,
      weight: now[index]!,
    }));
    const [start = 0, rate = 0, bend = 0] = leastSquares(curved ? 3 : 2, seen, 1e-9) ?? [];
    found = { start, rate: rate / scale, bend: bend / scale ** 2 };
    const off = points.map(({ x, y }) => y - curveAt(found, x));
    const trusted = off.filter((_, index) => now[index]! > 0.1);
    const middle = median(trusted.length > 0 ? trusted : off);
    const spread = Math.max(
      LEAST_SPREAD,
      1.4826 * median((trusted.length > 0 ? trusted : off).map((one) => Math.abs(one - middle))),
    );
    now = off.map((one) => {
      const share = (one - middle) / (BEYOND * spread);
      return Math.abs(share) < 1 ? (1 - share ** 2) ** 2 : 0;
    });
  }
  return found;
}

export const curveAt = ({ start, rate, bend }: Curve, x: Seconds): Seconds =>
  start + rate * x + bend * x * x;
