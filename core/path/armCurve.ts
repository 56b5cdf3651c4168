import { curveBumpX, line } from 'd3-shape';

/** The curve of the arm, piece by piece: half a swing from turn to turn. */

export interface Point {
  x: number;
  y: number;
}

/** A piece of the arm's curve. `pass` sounds nothing, `kink` turns against the arm, `rest` holds. */
export interface Piece {
  from: Point;
  to: Point;
  kind: 'arm' | 'pass' | 'kink' | 'rest';
}

export const curve = line<Point>()
  .x((point) => point.x)
  .y((point) => point.y)
  .curve(curveBumpX);

export const straight = line<Point>()
  .x((point) => point.x)
  .y((point) => point.y);

/** Share of its way, 0 to 1, that the curve has gone downwards or upwards at parameter t. */
const rise = (t: number) => t * t * (3 - 2 * t);

/** The parameter at which the curve has gone a share of its way: the inverse of `rise`. */
function parameterAt(share: number): number {
  return 0.5 - Math.sin(Math.asin(1 - 2 * Math.min(1, Math.max(0, share))) / 3);
}

/** Share of the horizontal way at parameter t, for the control points that `curveBumpX` sets. */
const run = (t: number) => 1.5 * t * (1 - t) + t ** 3;

/** The parameter at a share of the horizontal way, by bisection. */
export function parameterAtRun(share: number): number {
  let low = 0;
  let high = 1;
  for (let step = 0; step < 24; step += 1) {
    const middle = (low + high) / 2;
    if (run(middle) < share) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

export function pointOn(piece: Piece, t: number): Point {
  const { from, to } = piece;
  return { x: from.x + (to.x - from.x) * run(t), y: from.y + (to.y - from.y) * rise(t) };
}

/** Where a piece crosses a height. */
export function crossing(piece: Piece, y: number): Point {
  const way = piece.to.y - piece.from.y;
  return way === 0 ? pointOn(piece, 0.5) : pointOn(piece, parameterAt((y - piece.from.y) / way));
}
