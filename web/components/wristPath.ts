import { area, curveBumpX, line } from 'd3-shape';
import { armSwings, type Pattern, patternTicks, slots, strokeDirection, type Swing } from '#core';

/**
 * The wrist path: the strumming arm as one unbroken curve that swings down through the band of
 * strings and up through it again. This file computes where everything lies; the component draws it.
 */

export interface PathFrame {
  width: number;
  /** Where the hand turns, above and below the band. */
  top: number;
  bottom: number;
  bandTop: number;
  bandBottom: number;
  strings: number;
  /** Free space at both ends. */
  pad: number;
}

/** Which strings a stroke reaches, in drawing order; and where its bass note lies. */
export interface Reach {
  first: number;
  last: number;
  bass: number | null;
}

export interface Point {
  x: number;
  y: number;
}

/** A piece of the arm's curve. `pass` sounds nothing, `kink` turns against the arm, `rest` holds. */
interface Piece {
  from: Point;
  to: Point;
  kind: 'arm' | 'pass' | 'kink' | 'rest';
}

export interface DrawnPiece {
  d: string;
  kind: Piece['kind'];
}

export interface DrawnSlot {
  index: number;
  /** Where the stroke crosses the strings. */
  x: number;
  left: number;
  right: number;
  against: boolean;
  /** Outline of the brush-stroke of a strum. */
  brush: string | null;
  /** Short strokes across the curve, of a chuck. */
  hatches: string | null;
  /** The struck bass string. */
  dot: Point | null;
  /** Above an accented stroke. */
  accent: Point | null;
}

export interface DrawnPath {
  arm: DrawnPiece[];
  slots: DrawnSlot[];
  /** Heights of the strings. */
  strings: number[];
  /** Horizontal place of a tick of the pattern. */
  xOf: (tick: number) => number;
  /** Where the hand is at a tick of the pattern. */
  handAt: (tick: number) => Point;
}

const curve = line<Point>()
  .x((point) => point.x)
  .y((point) => point.y)
  .curve(curveBumpX);

const straight = line<Point>()
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
function parameterAtRun(share: number): number {
  let low = 0;
  let high = 1;
  for (let step = 0; step < 24; step += 1) {
    const middle = (low + high) / 2;
    if (run(middle) < share) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

function pointOn(piece: Piece, t: number): Point {
  const { from, to } = piece;
  return { x: from.x + (to.x - from.x) * run(t), y: from.y + (to.y - from.y) * rise(t) };
}

/** Where a piece crosses a height. */
function crossing(piece: Piece, y: number): Point {
  return pointOn(piece, parameterAt((y - piece.from.y) / (piece.to.y - piece.from.y)));
}

const BRUSH_WIDTHS = { ghost: 2.6, normal: 6.5, accent: 10.5, strong: 13.5 };
const BRUSH_STEPS = 14;

const tapered = area<{ y: number; left: number; right: number }>()
  .y((edge) => edge.y)
  .x0((edge) => edge.left)
  .x1((edge) => edge.right);

/** The brush-stroke of a strum: broad where it enters the strings, thin where it leaves them. */
function brush(piece: Piece, from: number, to: number, width: number): string {
  const edges = Array.from({ length: BRUSH_STEPS + 1 }, (_, step) => {
    const share = step / BRUSH_STEPS;
    const y = from + (to - from) * share;
    const half = (width / 2) * (1 - 0.72 * share);
    const { x } = crossing(piece, y);
    return { y, left: x - half, right: x + half };
  });
  return tapered(edges) ?? '';
}

function hatches(piece: Piece, from: number, to: number, size: number): string {
  const count = 7;
  return Array.from({ length: count }, (_, index) => {
    const { x, y } = crossing(piece, from + ((to - from) * index) / (count - 1));
    const tilt = Math.sign(piece.to.y - piece.from.y);
    return `M${x - size},${y + size * 0.6 * tilt}L${x + size},${y - size * 0.6 * tilt}`;
  }).join('');
}

/** Shares of a swing's width at which a stroke against the arm turns back, and turns again. */
const KINK = [0.3, 0.7] as const;
/** Share of a held swing that lies flat before the hand gets ready on the other side. */
const REST = 0.6;

interface Drawing {
  swing: Swing;
  pieces: Piece[];
  /** The piece that crosses the strings at the stroke's moment. */
  stroke: Piece;
  against: boolean;
}

/**
 * Lays out a pattern.
 * @param frame sizes, in the units of the drawing
 * @param reach the strings of each slot, or null for the whole band
 * @param scale thickness of the strokes; 1 for the big path
 * @example drawPath(pattern, frame, () => null, 1).slots[0].x
 */
export function drawPath(
  pattern: Pattern,
  frame: PathFrame,
  reach: (slot: number) => Reach | null,
  scale: number,
): DrawnPath {
  const swings = armSwings(pattern);
  const grid = slots(pattern);
  const total = patternTicks(pattern);
  const lead = swings.at(-1)!.ticks / 2;
  const inner = frame.width - 2 * frame.pad;
  const xOf = (tick: number) => frame.pad + ((tick + lead) / total) * inner;
  const judged = pattern.arm.school !== 'free';

  const turnX = (index: number) =>
    index === 0 ? xOf(-lead) : xOf((swings[index - 1]!.tick + (swings[index]?.tick ?? total)) / 2);
  const startY = (swing: Swing) => (swing.dir === 'down' ? frame.top : frame.bottom);

  const drawings: Drawing[] = [];
  let restY: number | null = null;
  swings.forEach((swing, index) => {
    const stroke = swing.slot === null ? null : grid[swing.slot]!.stroke;
    const from = { x: turnX(index), y: restY ?? startY(swing) };
    const end = startY(swing) === frame.top ? frame.bottom : frame.top;
    const to = { x: turnX(index + 1), y: end };
    restY = null;
    if (stroke?.kind === 'hold') {
      const next = swings[index + 1];
      const nextHolds = next?.slot != null && grid[next.slot]!.stroke.kind === 'hold';
      const flatTo = nextHolds ? to.x : from.x + (to.x - from.x) * REST;
      const flat: Piece = { from, to: { x: flatTo, y: from.y }, kind: 'rest' };
      const ready: Piece = { from: flat.to, to, kind: 'pass' };
      if (nextHolds) restY = from.y;
      const pieces =
        nextHolds || from.y === to.y ? [{ ...flat, to: { x: to.x, y: from.y } }] : [flat, ready];
      drawings.push({ swing, pieces, stroke: flat, against: false });
      return;
    }
    const dir = stroke && strokeDirection(stroke);
    if (dir && dir !== swing.dir) {
      const at = KINK.map((share) => from.x + (to.x - from.x) * share) as [number, number];
      const back = { x: at[0], y: to.y };
      const again = { x: at[1], y: from.y };
      const main: Piece = { from: back, to: again, kind: 'arm' };
      const kind = judged ? 'kink' : 'pass';
      const pieces: Piece[] = [{ from, to: back, kind }, main, { from: again, to, kind }];
      drawings.push({ swing, pieces, stroke: main, against: judged });
      return;
    }
    const piece: Piece = { from, to, kind: dir ? 'arm' : 'pass' };
    drawings.push({ swing, pieces: [piece], stroke: piece, against: false });
  });

  const gap = (frame.bandBottom - frame.bandTop) / (frame.strings - 1);
  const strings = Array.from(
    { length: frame.strings },
    (_, string) => frame.bandTop + string * gap,
  );
  const edge = gap * 0.4;

  const drawnSlots = drawings.flatMap(({ swing, pieces, stroke: piece, against }): DrawnSlot[] => {
    if (swing.slot === null) return [];
    const { stroke } = grid[swing.slot]!;
    const reached = reach(swing.slot) ?? { first: 0, last: frame.strings - 1, bass: null };
    const down = strokeDirection(stroke) !== 'up';
    const upper = strings[reached.first]! - edge;
    const lower = strings[reached.last]! + edge;
    const [enter, leave] = down ? [upper, lower] : [lower, upper];
    const loud = 'accent' in stroke && (stroke.accent === 'accent' || stroke.accent === 'strong');
    const bassY = strings[reached.bass ?? reached.first]!;
    const dot = stroke.kind === 'bass' ? crossing(piece, bassY) : null;
    const begin = stroke.kind === 'strum' || stroke.kind === 'chuck' ? crossing(piece, enter) : dot;
    return [
      {
        index: swing.slot,
        x: xOf(swing.tick),
        left: pieces[0]!.from.x,
        right: pieces.at(-1)!.to.x,
        against,
        brush:
          stroke.kind === 'strum'
            ? brush(piece, enter, leave, BRUSH_WIDTHS[stroke.accent] * scale)
            : stroke.kind === 'bass'
              ? brush(piece, piece.from.y, bassY, BRUSH_WIDTHS[stroke.accent] * scale * 0.8)
              : null,
        hatches: stroke.kind === 'chuck' ? hatches(piece, upper, lower, 8 * scale) : null,
        dot,
        accent: loud && begin ? { x: begin.x, y: begin.y - (down ? 1 : -1) * 9 * scale } : null,
      },
    ];
  });

  const arm = drawings.flatMap(({ pieces }) =>
    pieces.map((piece) => ({
      kind: piece.kind,
      d: (piece.kind === 'kink' ? straight : curve)([piece.from, piece.to]) ?? '',
    })),
  );

  const allPieces = drawings.flatMap(({ pieces }) => pieces);
  const handAt = (tick: number): Point => {
    const x = xOf(tick >= total - lead ? tick - total : tick);
    const piece = allPieces.find((candidate) => x <= candidate.to.x) ?? allPieces.at(-1)!;
    const share = (x - piece.from.x) / (piece.to.x - piece.from.x);
    if (piece.kind !== 'kink') return { x, y: pointOn(piece, parameterAtRun(share)).y };
    return { x, y: piece.from.y + (piece.to.y - piece.from.y) * share };
  };

  return { arm, slots: drawnSlots, strings, xOf, handAt };
}
