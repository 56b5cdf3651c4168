import type { Grace, LegatoHow, PickedString, Stroke } from '../schema';
import { gracesOf, sayString, type Slot, stringPlace, strokeDirection } from '../stroke';
import { crossing, type Piece, type Point } from './armCurve';
import { brush, fan, hatches } from './strokeForms';

/** The form that a stroke takes on the curve: what of it is drawn, and where. */

/** Which strings a stroke reaches, in drawing order; each that it touches, and its bass note. */
export interface Reach {
  first: number;
  last: number;
  bass: number | null;
  touched: number[];
}

/** A string that is struck alone, with what is written on it. */
export interface Dot extends Point {
  label: string;
  /** Its bass note is the fifth, or changes: drawn as a ring. */
  open: boolean;
}

export interface SlotForm {
  /** Outlines of the brush-strokes: one of a strum, several of a roll. */
  brushes: string[];
  /** The blurred edge of a palm-muted stroke. */
  blur: string | null;
  /** A transition stroke is drawn as an outline. */
  hollow: boolean;
  /** Short strokes across the curve, of a chuck. */
  hatches: string | null;
  /** Struck single strings. */
  dots: Dot[];
  /** A tap; a slap has a second ring. */
  ring: (Point & { slap: boolean }) | null;
  /** Letters of the fingers, beside the stroke. */
  fingers: (Point & { letters: string }) | null;
  /** Above an accented stroke; a driven one has two. */
  accents: Point[];
  /** What the fretting hand sounds, from the note that it comes from: arcs, and slides along their string. */
  arcs: Arc[];
}

/** One string that goes on at another fret: a line without a brush, with its letter over it. */
export interface Arc extends Point {
  d: string;
  letter: string;
}

/** The strings of a stroke on no chord: the whole band, or the part that it names. */
export function assumedReach(stroke: Stroke, strings: number): Reach {
  const all = Array.from({ length: strings }, (_, string) => string);
  const of = (touched: number[], bass: number | null = null): Reach => ({
    first: touched[0] ?? 0,
    last: touched.at(-1) ?? strings - 1,
    bass,
    touched,
  });
  const byNumber = (number: number) => Math.max(0, strings - number);
  const picksOf = (picks: PickedString[]) =>
    picks
      .map(({ string }) => {
        const place = stringPlace(string);
        return 'number' in place ? byNumber(place.number) : 1 + place.above;
      })
      .map((string) => Math.min(strings - 1, string))
      .sort((a, b) => a - b);
  const half = Math.ceil(strings / 2);
  switch (stroke.kind) {
    case 'bass': {
      const { note } = stroke;
      const string = typeof note === 'object' ? byNumber(note.string) : note ? 0 : 1;
      return of([string], string);
    }
    case 'pick': {
      return of(picksOf(stroke.strings));
    }
    case 'legato':
      return of([
        ...new Set(stroke.steps.flatMap((step) => picksOf(step.strings ?? [{ string: '1' }]))),
      ]);
    case 'strum': {
      const { reach } = stroke;
      if (reach === 'bass') return of(all.slice(0, half));
      if (reach === 'treble') return of(all.slice(-half));
      if (reach) return of(reach.map(byNumber).sort((a, b) => a - b));
      return of(all);
    }
    default:
      return of(all);
  }
}

type Pick = Extract<Stroke, { kind: 'pick' }>;

/** The strings of a pick from the thumb side: the root, above it, by number. */
function inOrder({ strings }: Pick): PickedString[] {
  const order = (string: string) => {
    const place = stringPlace(string);
    return 'number' in place ? 100 - place.number : place.above;
  };
  return [...strings].sort((a, b) => order(a.string) - order(b.string));
}

interface PickLabel {
  label: string;
  open: boolean;
  /** The string that is said by its number, from 1 for the one farthest from the thumb. */
  number: number | null;
}

/** The strings of a pick as they are written, from the thumb side; those named by their number are open rings. */
function pickLabels(stroke: Pick): PickLabel[] {
  return inOrder(stroke).map(({ string, fret, above }) => {
    const place = stringPlace(string);
    const number = 'number' in place ? place.number : null;
    if (fret !== undefined) return { label: String(fret), open: false, number };
    if (above !== undefined) {
      return { label: `${above > 0 ? '+' : ''}${above}`, open: false, number };
    }
    return { label: sayString(string), open: number !== null, number };
  });
}

function dotsOf(stroke: Stroke, piece: Piece, reach: Reach, heights: number[]): Dot[] {
  if (stroke.kind === 'bass') {
    const y = heights[reach.bass ?? reach.first]!;
    const letters = { fifth: '5', alternate: 'A' };
    const label =
      typeof stroke.note === 'string' ? letters[stroke.note] : String(stroke.note?.fret ?? 'R');
    return [{ ...crossing(piece, y), label, open: stroke.note !== undefined }];
  }
  if (stroke.kind !== 'pick') return [];
  const labels = labelsOn(stroke, reach.touched, heights.length);
  return reach.touched.map((string, order) => ({
    ...crossing(piece, heights[string]!),
    label: labels[order]?.label ?? '',
    open: labels[order]?.open ?? false,
  }));
}

/** The label of each string that is touched: a string said by its number is that one, the others go from the thumb on. */
function labelsOn(stroke: Pick, touched: number[], strings: number): (PickLabel | undefined)[] {
  const labels = pickLabels(stroke);
  const numbered = new Map(
    labels.flatMap((label) =>
      label.number !== null && touched.includes(strings - label.number)
        ? [[strings - label.number, label] as const]
        : [],
    ),
  );
  const said = new Set(numbered.values());
  const others = labels.filter((label) => !said.has(label));
  return touched.map((string) => numbered.get(string) ?? others.shift());
}

function fingersOf(stroke: Stroke): string {
  if (stroke.kind === 'pick') return stroke.strings.map(({ finger }) => finger ?? '').join('');
  if (stroke.kind === 'roll') return (stroke.fingers ?? []).join('');
  return 'finger' in stroke ? (stroke.finger ?? '') : '';
}

/** A chuck is as wide as it is loud. */
const HATCH_SIZES = { ghost: 4.5, normal: 7.5, accent: 9.5, strong: 12 };
const BRUSH_WIDTHS = { ghost: 2.6, normal: 6.5, accent: 10.5, strong: 13.5 };

const NOTHING: SlotForm = {
  brushes: [],
  blur: null,
  hollow: false,
  hatches: null,
  dots: [],
  ring: null,
  fingers: null,
  accents: [],
  arcs: [],
};

/** Under the palm a stroke ends early: the share of its way that it keeps. */
const PALMED = 0.66;

/** The form of a stroke on the piece of the curve that crosses the strings at its moment. */
export function formOf(
  { stroke }: Slot,
  piece: Piece,
  reached: Reach,
  heights: number[],
  edge: number,
  scale: number,
  natural: 'down' | 'up',
): SlotForm {
  if (stroke.kind === 'miss' || stroke.kind === 'hold' || stroke.kind === 'legato') return NOTHING;
  const down = (strokeDirection(stroke) ?? natural) === 'down';
  const upper = heights[reached.first]! - edge;
  const lower = heights[reached.last]! + edge;
  const [enter, end] = down ? [upper, lower] : [lower, upper];
  const palm = 'palm' in stroke && stroke.palm === true;
  const leave = palm ? enter + (end - enter) * PALMED : end;
  const hollow = 'open' in stroke && stroke.open === true;
  // An outline needs room for what it leaves free.
  const width = BRUSH_WIDTHS[stroke.accent] * scale * (hollow ? 1.7 : 1);
  const dots = dotsOf(stroke, piece, reached, heights);
  const bandFoot = Math.max(heights[0]!, heights.at(-1)!);
  const tapped = stroke.kind === 'tap' ? stroke.on : 'tap' in stroke ? stroke.tap : undefined;
  const middle = crossing(piece, (heights[0]! + heights.at(-1)!) / 2);

  let brushes: string[] = [];
  if (stroke.kind === 'strum') brushes = [brush(piece, enter, leave, width)];
  if (stroke.kind === 'bass') brushes = [brush(piece, piece.from.y, dots[0]!.y, width * 0.8)];
  if (stroke.kind === 'roll')
    brushes = fan(piece, enter, leave, width * 0.5, stroke.hits, 9 * scale);
  const struck = stroke.kind === 'tap' ? middle : (dots[0] ?? crossing(piece, enter));
  const loud = stroke.accent === 'strong' ? 2 : stroke.accent === 'accent' ? 1 : 0;
  const away = (down ? 1 : -1) * scale * Math.sign(heights.at(-1)! - heights[0]!);
  const letters = fingersOf(stroke);
  return {
    brushes,
    blur: palm && brushes.length > 0 ? brush(piece, enter, leave, width * 2.6) : null,
    hollow,
    hatches:
      stroke.kind === 'chuck'
        ? hatches(piece, upper, lower, HATCH_SIZES[stroke.accent] * scale)
        : null,
    dots,
    ring: tapped ? { x: middle.x, y: bandFoot + 22 * scale, slap: tapped === 'strings' } : null,
    fingers: letters
      ? { x: struck.x + 15 * scale, y: struck.y - 9 * away + 4 * scale, letters }
      : null,
    accents: Array.from({ length: loud }, (_, order) => ({
      x: struck.x + (order - (loud - 1) / 2) * 11 * scale,
      y: struck.y - (dots.length > 0 ? 17 : 9) * away,
    })),
    arcs: gracesOf(stroke).map((grace) => {
      const dot =
        stroke.kind === 'pick'
          ? dots[inOrder(stroke).findIndex(({ string }) => string === grace.string)]
          : undefined;
      return graceArc(grace, dot ?? struck, scale, away);
    }),
  };
}

/** How far beside its stroke an ornament is drawn. */
const GRACE_WIDTH = 17;

/** The small arc of an ornament: before its stroke, or after it. */
function graceArc({ how, before }: Grace, at: Point, scale: number, away: number): Arc {
  const reach = GRACE_WIDTH * scale;
  const from = { x: before ? at.x - 1.6 * reach : at.x + 0.5 * reach, y: at.y };
  return arcOf(how, from, { x: from.x + 1.1 * reach, y: at.y }, scale, away);
}

/** Part of a string's way that an arc rises over it. */
const RISE = 15;

/**
 * An arc from one note to the next on its string; a slide is a line along it.
 * @param up -1 where the arc goes towards smaller heights
 */
export function arcOf(how: LegatoHow, from: Point, to: Point, scale: number, up: number): Arc {
  const middle = (from.x + to.x) / 2;
  const rise = how === 'slide' ? 4 * scale : RISE * scale;
  const y = from.y - up * Math.sign(scale) * rise;
  const letter = { hammer: 'h', pull: 'p', slide: 's' }[how];
  const d =
    how === 'slide'
      ? `M${from.x},${from.y + 3 * scale}L${to.x},${to.y - 3 * scale}`
      : `M${from.x},${from.y}Q${middle},${from.y - 2 * (from.y - y)} ${to.x},${to.y}`;
  return { d, letter, x: middle, y: y - 4 * scale };
}
