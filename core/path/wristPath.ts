import type { Ticks } from '../plain';
import type { Pattern } from '../schema';
import {
  type ArmPass,
  armPasses,
  judgesDirections,
  patternTicks,
  type Slot,
  slots,
  sounds,
  strokeDirection,
  sweeps,
} from '../stroke';
import { curve, parameterAtRun, type Piece, type Point, pointOn, straight } from './armCurve';
import { type Arc, arcOf, assumedReach, formOf, type Reach, type SlotForm } from './slotForm';

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

export interface DrawnPiece {
  d: string;
  kind: Piece['kind'];
}

export interface DrawnSlot extends SlotForm {
  index: number;
  /** Where the stroke crosses the strings. */
  x: number;
  left: number;
  right: number;
  against: boolean;
}

export interface DrawnPath {
  arm: DrawnPiece[];
  slots: DrawnSlot[];
  /** Brackets under strokes that are one sweep of the hand. */
  sweeps: string[];
  /** Heights of the strings. */
  strings: number[];
  /** Horizontal place of a tick of the pattern. */
  xOf: (tick: Ticks) => number;
  /** Where the hand is at a tick of the pattern. */
  handAt: (tick: Ticks) => Point;
}

/** Shares of a swing's width at which a stroke against the arm turns back, and turns again. */
const KINK = [0.3, 0.7] as const;
/** A bracket lies so far below the strings, and its ends rise so far. */
const [SWEEP_FOOT, SWEEP_RISE] = [12, 6];
/** Share of a held swing that lies flat before the hand gets ready on the other side. */
const REST = 0.6;

interface Drawing {
  swing: ArmPass;
  pieces: Piece[];
  /** The piece that crosses the strings at the stroke's moment. */
  stroke: Piece;
  against: boolean;
}

/** Share of a half-swing that a quick return takes of it. */
const RETURN = 0.2;

/**
 * Between two half-swings of the same direction the arm has to come back: a quick return joins them, and takes
 * a little of either.
 */
function joinReturns(drawings: Drawing[]): void {
  drawings.forEach(({ pieces }, index) => {
    const [first] = pieces;
    const before = drawings[index - 1]?.pieces;
    const last = before?.at(-1);
    if (!first || !before || !last || Math.abs(last.to.y - first.from.y) < 1) return;
    const leave = last.to.x - RETURN * (last.to.x - last.from.x);
    const arrive = first.from.x + RETURN * (first.to.x - first.from.x);
    last.to = { x: leave, y: last.to.y };
    first.from = { x: arrive, y: first.from.y };
    before.push({ from: last.to, to: first.from, kind: 'pass' });
  });
}

/**
 * What the fretting hand sounds, drawn from the note before it, so that it is seen that the arm does not
 * strike: of each slot, in the order of `drawn`.
 */
function legatoArcs(
  drawn: DrawnSlot[],
  grid: Slot[],
  reach: (slot: number) => Reach | null,
  heights: number[],
  scale: number,
): Arc[][] {
  return drawn.map((slot, order) => {
    const { stroke } = grid[slot.index]!;
    if (stroke.kind !== 'legato') return slot.arcs;
    const { touched } = reach(slot.index) ?? assumedReach(stroke, heights.length);
    const before = drawn.slice(0, order).findLast(({ index }) => sounds(grid[index]!.stroke));
    const count = stroke.steps.length;
    const at = (step: number) => slot.x + ((slot.right - slot.x) * step) / count;
    return touched.flatMap((string, row) =>
      stroke.steps.map(({ how, to }, step): Arc => {
        const y = heights[string]!;
        const start = step === 0 ? (before?.x ?? slot.left) : at(step - 1);
        const arc = arcOf(how, { x: start, y }, { x: to ? slot.right : at(step), y }, scale, 1);
        // One letter says it for all the strings of a step.
        return row === 0 ? arc : { ...arc, letter: '' };
      }),
    );
  });
}

/**
 * Lays out a pattern.
 * @param frame sizes, in the units of the drawing
 * @param reach the strings of each slot, or null for the whole band
 * @param scale thickness of the strokes; 1 for the big path
 * @param phase half-swings that went before, where this is a later part of a pattern
 * @example drawPath(pattern, frame, () => null, 1).slots[0].x
 */
export function drawPath(
  pattern: Pattern,
  frame: PathFrame,
  reach: (slot: number) => Reach | null,
  scale: number,
  phase = 0,
): DrawnPath {
  const swings = armPasses(pattern, phase);
  const grid = slots(pattern);
  const total = patternTicks(pattern);
  const lead = swings.at(-1)!.ticks / 2;
  const inner = frame.width - 2 * frame.pad;
  const xOf = (tick: Ticks) => frame.pad + ((tick + lead) / total) * inner;
  const judged = judgesDirections(pattern);
  const swept = sweeps(grid);

  const turnX = (index: number) =>
    index === 0 ? xOf(-lead) : xOf((swings[index - 1]!.tick + (swings[index]?.tick ?? total)) / 2);
  const startY = (swing: ArmPass) => (swing.dir === 'down' ? frame.top : frame.bottom);

  const drawings: Drawing[] = [];
  let restY: number | null = null;
  swings.forEach((swing, index) => {
    const stroke = swing.slot === null ? null : grid[swing.slot]!.stroke;
    const from = { x: turnX(index), y: restY ?? startY(swing) };
    const end = startY(swing) === frame.top ? frame.bottom : frame.top;
    const to = { x: turnX(index + 1), y: end };
    restY = null;
    if (swing.rests) {
      const y = frame.bottom;
      const still: Piece = { from: { x: from.x, y }, to: { x: to.x, y }, kind: 'pass' };
      drawings.push({ swing, pieces: [still], stroke: still, against: false });
      return;
    }
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
      const against = judged && !swept.has(swing.slot!);
      const kind = against ? 'kink' : 'pass';
      const pieces: Piece[] = [{ from, to: back, kind }, main, { from: again, to, kind }];
      drawings.push({ swing, pieces, stroke: main, against });
      return;
    }
    const piece: Piece = { from, to, kind: dir ? 'arm' : 'pass' };
    drawings.push({ swing, pieces: [piece], stroke: piece, against: false });
  });

  joinReturns(drawings);

  const gap = (frame.bandBottom - frame.bandTop) / (frame.strings - 1);
  const strings = Array.from(
    { length: frame.strings },
    (_, string) => frame.bandTop + string * gap,
  );
  const edge = gap * 0.4;

  const drawnSlots = drawings.flatMap(({ swing, pieces, stroke: piece, against }): DrawnSlot[] => {
    if (swing.slot === null) return [];
    const slot = grid[swing.slot]!;
    const reached = reach(swing.slot) ?? assumedReach(slot.stroke, frame.strings);
    const form = formOf(slot, piece, reached, strings, edge, scale, swing.dir);
    const ends = { left: pieces[0]!.from.x, right: pieces.at(-1)!.to.x };
    return [{ index: swing.slot, x: xOf(swing.tick), ...ends, against, ...form }];
  });
  const arcs = legatoArcs(drawnSlots, grid, reach, strings, scale);
  drawnSlots.forEach((slot, index) => (slot.arcs = arcs[index]!));

  const foot = Math.max(frame.bandTop, frame.bandBottom) + SWEEP_FOOT * scale;
  const brackets = drawnSlots.flatMap(({ index, x }) => {
    const first = swept.get(index);
    if (first === undefined || swept.has(index + 1)) return [];
    const from = drawnSlots.find((slot) => slot.index === first)!.x;
    const rise = SWEEP_RISE * scale;
    return [`M${from},${foot - rise}L${from},${foot}L${x},${foot}L${x},${foot - rise}`];
  });

  const arm = drawings.flatMap(({ pieces }) =>
    pieces.map((piece) => ({
      kind: piece.kind,
      d: (piece.kind === 'kink' ? straight : curve)([piece.from, piece.to]) ?? '',
    })),
  );

  const allPieces = drawings.flatMap(({ pieces }) => pieces);
  const handAt = (tick: Ticks): Point => {
    const x = xOf(tick >= total - lead ? tick - total : tick);
    const piece = allPieces.find((candidate) => x <= candidate.to.x) ?? allPieces.at(-1)!;
    const share = (x - piece.from.x) / (piece.to.x - piece.from.x);
    if (piece.kind !== 'kink') return { x, y: pointOn(piece, parameterAtRun(share)).y };
    return { x, y: piece.from.y + (piece.to.y - piece.from.y) * share };
  };

  return { arm, slots: drawnSlots, sweeps: brackets, strings, xOf, handAt };
}
