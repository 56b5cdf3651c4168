import type { Accent, Build, Pattern, PatternBeat, Stroke } from '../schema';
import {
  RELATIVE_MISS,
  type RelativeBeat,
  type RelativeStroke,
  relativeStrokes,
  slots,
  sounds,
  toRelative,
  withStrokes,
} from '../stroke';
import { placeStroke, withBeats } from './pattern';

/** Slots `from` (included) to `to` (excluded) of a pattern. */
export interface SlotSpan {
  from: number;
  to: number;
}

/** Strokes that were copied; as whole beats too, where the span covered them. */
export interface Clip {
  strokes: RelativeStroke[];
  beats: RelativeBeat[] | null;
}

/** The beats that a span touches: first, and the one after the last. */
function beatsOf(
  pattern: Pattern,
  { from, to }: SlotSpan,
): { first: number; end: number; whole: boolean } {
  const grid = slots(pattern);
  const first = grid[from]!;
  const last = grid[to - 1]!;
  const endsBeat = last.position === pattern.beats[last.beat]!.division - 1;
  return { first: first.beat, end: last.beat + 1, whole: first.position === 0 && endsBeat };
}

function within(pattern: Pattern, { from, to }: SlotSpan): SlotSpan {
  const length = slots(pattern).length;
  const start = Math.min(Math.max(0, from), length - 1);
  return { from: start, to: Math.min(length, Math.max(start + 1, to)) };
}

/**
 * Copies a span, for `pasteClip`.
 * @example copySpan(pattern, { from: 0, to: 2 }).beats?.length // 1 where the first beat has two slots
 */
export function copySpan(pattern: Pattern, asked: SlotSpan): Clip {
  const span = within(pattern, asked);
  const { first, end, whole } = beatsOf(pattern, span);
  return {
    strokes: relativeStrokes(pattern).slice(span.from, span.to),
    beats: whole ? toRelative(pattern).slice(first, end) : null,
  };
}

/**
 * Puts copied strokes from a slot on, over what was there, to the end of the pattern at most. Whole
 * beats keep their division where they are put on a beat.
 * @returns the pattern, and the slot after the last that was put
 */
export function pasteClip(
  pattern: Pattern,
  at: number,
  clip: Clip,
): { pattern: Pattern; next: number } {
  const grid = slots(pattern);
  const place = grid[at];
  if (!place) return { pattern, next: at };
  if (clip.beats && place.position === 0) {
    const beats = toRelative(pattern);
    const fitting = clip.beats.slice(0, beats.length - place.beat);
    beats.splice(place.beat, fitting.length, ...fitting);
    const put = fitting.reduce((sum, { division }) => sum + division, 0);
    return { pattern: withBeats(pattern, beats), next: at + put };
  }
  const strokes = relativeStrokes(pattern);
  const fitting = clip.strokes.slice(0, strokes.length - at);
  strokes.splice(at, fitting.length, ...fitting);
  return { pattern: withStrokes(pattern, strokes), next: at + fitting.length };
}

/** Says a span again right after itself. */
export function repeatSpan(pattern: Pattern, asked: SlotSpan): { pattern: Pattern; next: number } {
  const span = within(pattern, asked);
  return pasteClip(pattern, span.to, copySpan(pattern, span));
}

/**
 * Moves a span one slot later or earlier; the stroke it changes places with comes to its other side.
 * The whole pattern goes round. Nothing is lost: the way back is the opposite shift.
 * @param by 1 later, -1 earlier
 * @returns the pattern and where the span is now
 */
export function shiftSpan(
  pattern: Pattern,
  asked: SlotSpan,
  by: 1 | -1,
): { pattern: Pattern; span: SlotSpan } {
  const span = within(pattern, asked);
  const strokes = relativeStrokes(pattern);
  const { length } = strokes;
  if (span.to - span.from === length) {
    const turned = strokes.map((_, slot) => strokes[(slot - by + length) % length]!);
    return { pattern: withStrokes(pattern, turned), span };
  }
  const neighbour = by === 1 ? span.to : span.from - 1;
  if (neighbour < 0 || neighbour >= length) return { pattern, span };
  const [stroke] = strokes.splice(neighbour, 1);
  strokes.splice(by === 1 ? span.from : span.to - 1, 0, stroke!);
  return {
    pattern: withStrokes(pattern, strokes),
    span: { from: span.from + by, to: span.to + by },
  };
}

/** Makes every stroke of a span a miss. */
export function clearSpan(pattern: Pattern, asked: SlotSpan): Pattern {
  const span = within(pattern, asked);
  const strokes = relativeStrokes(pattern).map((marked, slot) =>
    slot >= span.from && slot < span.to ? RELATIVE_MISS : marked,
  );
  return withStrokes(pattern, strokes);
}

/** Changes every sounding stroke of a span. */
export function changeSpan(
  pattern: Pattern,
  asked: SlotSpan,
  change: (stroke: Stroke) => Stroke,
): Pattern {
  const span = within(pattern, asked);
  return slots(pattern)
    .slice(span.from, span.to)
    .reduce((changed, { index, stroke }) => {
      const after = sounds(stroke) ? change(stroke) : stroke;
      return after === stroke ? changed : placeStroke(changed, index, after);
    }, pattern);
}

/**
 * Lets the loudness go from one level to another over the beats of a span, in place of what was there.
 * @example buildSpan(pattern, { from: 0, to: 8 }, 'ghost', 'strong').builds // over four beats of eighths
 */
export function buildSpan(pattern: Pattern, asked: SlotSpan, from: Accent, to: Accent): Pattern {
  const { first, end } = beatsOf(pattern, within(pattern, asked));
  const build: Build = { beat: first, beats: end - first, from, to };
  return { ...pattern, builds: [...otherBuilds(pattern, first, end), build].slice(-16) };
}

function otherBuilds(pattern: Pattern, first: number, end: number): Build[] {
  return (pattern.builds ?? []).filter(({ beat, beats }) => beat + beats <= first || beat >= end);
}

/** Takes the builds away that touch a span. */
export function clearBuilds(pattern: Pattern, asked: SlotSpan): Pattern {
  const { first, end } = beatsOf(pattern, within(pattern, asked));
  const left = otherBuilds(pattern, first, end);
  const { builds: _, ...rest } = pattern;
  return left.length > 0 ? { ...rest, builds: left } : rest;
}

/** The pattern cut into rows, for drawing: each with where it starts and which way the arm is going. */
export interface PatternRow {
  beats: PatternBeat[];
  firstBeat: number;
  firstSlot: number;
}

/**
 * Cuts a pattern into rows of whole bars, as many as fit; a bar that is too long alone is cut at beats.
 * @param most slots in a row
 * @example patternRows(eightBarsOfSixteenths, 24).length // 8
 */
export function patternRows(pattern: Pattern, most: number): PatternRow[] {
  const perBar = pattern.meter.beats;
  const pieces: PatternBeat[][] = [];
  for (let beat = 0; beat < pattern.beats.length; beat += perBar) {
    const bar = pattern.beats.slice(beat, beat + perBar);
    const size = slotsIn(bar);
    if (size <= most) pieces.push(bar);
    else pieces.push(...cutBar(bar, Math.ceil(size / Math.ceil(size / most)) + 2, most));
  }
  const rows: PatternBeat[][] = [];
  for (const piece of pieces) {
    const last = rows.at(-1);
    const whole = last && last.length % perBar === 0 && piece.length === perBar;
    if (whole && slotsIn(last) + slotsIn(piece) <= most) last.push(...piece);
    else rows.push([...piece]);
  }
  let firstBeat = 0;
  let firstSlot = 0;
  return rows.map((beats) => {
    const row = { beats, firstBeat, firstSlot };
    firstBeat += beats.length;
    firstSlot += slotsIn(beats);
    return row;
  });
}

const slotsIn = (beats: PatternBeat[]) => beats.reduce((sum, { division }) => sum + division, 0);

function cutBar(bar: PatternBeat[], aim: number, most: number): PatternBeat[][] {
  const pieces: PatternBeat[][] = [[]];
  for (const beat of bar) {
    const piece = pieces.at(-1)!;
    const full = slotsIn(piece) + beat.division > Math.min(aim, most);
    if (full && piece.length > 0) pieces.push([beat]);
    else piece.push(beat);
  }
  return pieces;
}
