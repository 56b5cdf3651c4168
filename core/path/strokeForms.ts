import { area } from 'd3-shape';
import { crossing, type Piece } from './armCurve';

const BRUSH_STEPS = 14;

const tapered = area<{ y: number; left: number; right: number }>()
  .y((edge) => edge.y)
  .x0((edge) => edge.left)
  .x1((edge) => edge.right);

/** The brush-stroke of a strum: broad where it enters the strings, thin where it leaves them. */
export function brush(piece: Piece, from: number, to: number, width: number, lean = 0): string {
  const edges = Array.from({ length: BRUSH_STEPS + 1 }, (_, step) => {
    const share = step / BRUSH_STEPS;
    const y = from + (to - from) * share;
    const half = (width / 2) * (1 - 0.72 * share);
    const x = crossing(piece, y).x + lean * share;
    return { y, left: x - half, right: x + half };
  });
  return tapered(edges) ?? '';
}

/** The strokes of a roll: thin, from one place, spread as the fingers are. */
export function fan(
  piece: Piece,
  from: number,
  to: number,
  width: number,
  hits: number,
  apart: number,
): string[] {
  return Array.from({ length: hits }, (_, hit) =>
    brush(piece, from, to, width, (hit - (hits - 1) / 2) * apart),
  );
}

/** Short strokes across the curve, of a chuck. */
export function hatches(piece: Piece, from: number, to: number, size: number): string {
  const count = 7;
  return Array.from({ length: count }, (_, index) => {
    const { x, y } = crossing(piece, from + ((to - from) * index) / (count - 1));
    const tilt = Math.sign(piece.to.y - piece.from.y);
    return `M${x - size},${y + size * 0.6 * tilt}L${x + size},${y - size * 0.6 * tilt}`;
  }).join('');
}
