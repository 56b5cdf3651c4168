import type { LegatoHow, Shape } from '../schema';

/** A note of a line on the neck, strings from the thumb on. */
export interface LineNote {
  string: number;
  fret: number;
  /** Sounded by the fretting hand, from the note before on its string. */
  how?: LegatoHow | undefined;
  /** It sounds at once with the note before. */
  together?: boolean | undefined;
  /** The finger that the player says. */
  held?: number | undefined;
}

/** Which finger plays a note, and which fingers of the chord have to leave for it. */
export interface NoteFinger {
  /** 1 index to 4 little finger, 0 for an open string. */
  finger: number;
  lifts: number[];
}

/** A finger of the chord that leaves. */
const LIFTED = 3;
/** A finger a fret above where it lies by nature; and below, where fingers crowd. */
const STRETCHED = 1.2;
const CROWDED = 0.6;
/** The hand goes along the neck: once, for each fret, and over an open string, when it is free. */
const SHIFTED = 1;
const EACH_FRET = 0.3;
const SHIFTED_OPEN = 0.4;
/** A finger that jumps from string to string, rolls over to the next, or goes along its string. */
const JUMPED = 1.5;
const ROLLED = 0.6;
const ALONG = 2;
const CROSSED = 4;
/** What no hand does: a hammer with the finger that is there, a slide from one finger to another. */
const IMPOSSIBLE = 50;

const FINGERS = [1, 2, 3, 4];

/** Where the index finger lies by nature: the lowest fret that the shape holds; null where it holds none. */
function positionOf(shape: Shape | null): number | null {
  const held = (shape?.frets ?? []).filter((one): one is number => one !== null && one > 0);
  return held.length > 0 ? Math.min(...held) : null;
}

/** What a finger costs for one note from a place of the hand, and which fingers of the shape it takes away. */
function choose(
  note: LineNote,
  finger: number,
  position: number,
  shape: Shape | null,
): { cost: number; lifts: number[] } {
  const over = note.fret - (position + finger - 1);
  const reach = over > 0 ? over * over * STRETCHED : -over * CROWDED;
  const held = [...new Set((shape?.fingers ?? []).filter((one) => one > 0))].sort();
  // From elsewhere on the neck nothing of the chord can stay.
  if (position !== (positionOf(shape) ?? position)) {
    return { cost: reach + held.length * LIFTED, lifts: held };
  }
  const busy = held.includes(finger);
  const inWay = (shape?.fingers ?? []).filter((other, string) => {
    const fret = shape!.frets[string];
    if (other === 0 || fret === null || fret === undefined || other === finger) return false;
    // A finger on the same string above the note stops it; one that would have to cross another leaves too.
    if (string === note.string && fret > note.fret) return true;
    return other < finger ? fret > note.fret : fret < note.fret;
  });
  const lifts = [...new Set([...(busy ? [finger] : []), ...inWay])].sort();
  return { cost: reach + lifts.length * LIFTED, lifts };
}

/** A note under a finger, with the hand at a place of the neck. */
interface Held {
  note: LineNote;
  finger: number;
  /** The fret at which the index finger lies by nature. */
  position: number;
}

/** What it costs to go from one note to the next. */
function step(before: Held, now: Held, sameChord: boolean): number {
  const { note, finger } = now;
  const way = note.fret - before.note.fret;
  const shift = Math.abs(now.position - before.position);
  const open = before.finger === 0 || finger === 0;
  if (note.together && !open) {
    // One hand holds both: fingers in their order, or one finger flat over both.
    if (shift > 0) return IMPOSSIBLE;
    if (finger === before.finger) return way === 0 ? ROLLED : IMPOSSIBLE;
    return way !== 0 && Math.sign(way) !== Math.sign(finger - before.finger) ? IMPOSSIBLE : 0;
  }
  if (note.how !== undefined && !open && before.note.string === note.string) {
    if (note.how === 'slide') {
      // The hand goes along with the finger that slides.
      const along = now.position - before.position === way ? 0 : shift + Math.abs(way);
      return finger === before.finger ? along * EACH_FRET : IMPOSSIBLE;
    }
    const other = note.how === 'hammer' ? finger > before.finger : finger < before.finger;
    if (!other) return IMPOSSIBLE;
  }
  // With another chord the hand has gone there already.
  const moved = shift === 0 || !sameChord ? 0 : (open ? SHIFTED_OPEN : SHIFTED) + shift * EACH_FRET;
  if (open) return moved;
  if (before.finger === finger) {
    if (before.note.string === note.string) return moved + (way === 0 ? 0 : ALONG);
    return moved + (way === 0 ? ROLLED : JUMPED);
  }
  // Fingers lie on the frets in their order, wherever the hand is.
  const turned = Math.sign(way) !== 0 && Math.sign(way) !== Math.sign(finger - before.finger);
  return moved + (turned && shift === 0 ? CROSSED : 0);
}

/** Places at which the hand may be for a note, the index finger's fret. */
function positionsFor({ fret }: LineNote, shape: Shape | null): number[] {
  const near = FINGERS.map((finger) => Math.max(1, fret - finger + 1));
  return [...new Set([...(shape ? [positionOf(shape) ?? 1] : []), ...near])];
}

/**
 * Fingers for a line of notes while as much of the chord as possible stays down: the cheapest way over its notes,
 * with the finger and the place of the hand for each. An open string needs none, and a note of the shape keeps all;
 * a hammer or a pull-off takes another finger than the note before, a slide the same.
 * @param shapes the shape under the hand at each note; null where there is none
 * @example lineFingers([{ string: 3, fret: 2 }], [{ frets: [null, 0, 2, 2, 2, 0], fingers: [0, 0, 1, 2, 3, 0] }])
 */
export function lineFingers(notes: LineNote[], shapes: (Shape | null)[]): NoteFinger[] {
  interface State extends Held {
    cost: number;
    lifts: number[];
    from: State | null;
  }
  let states: State[] = [];
  notes.forEach((note, index) => {
    const shape = shapes[index] ?? null;
    const inShape = shape?.frets[note.string] === note.fret;
    const own = shape?.fingers[note.string];
    const home = positionOf(shape);
    const option = (finger: number, position: number) => {
      if (finger === 0) return { cost: 0, lifts: stoppedBy(shape, note.string) };
      if (inShape && own === finger && position === home) return { cost: 0, lifts: [] };
      return choose(note, finger, position, shape);
    };
    const fingers = note.fret === 0 ? [0] : note.held ? [note.held] : FINGERS;
    const places =
      note.fret === 0
        ? [...new Set([...(home === null ? [] : [home]), ...states.map((one) => one.position), 1])]
        : positionsFor(note, shape);
    const sameChord = index > 0 && shapes[index - 1] === shapes[index];
    states = fingers.flatMap((finger) =>
      places.map((position): State => {
        const { cost, lifts } = option(finger, position);
        const now: Held = { note, finger, position };
        let [least, from] = [index === 0 ? 0 : Infinity, null as State | null];
        for (const state of states) {
          const all = state.cost + step(state, now, sameChord);
          if (all < least) [least, from] = [all, state];
        }
        return { ...now, cost: least + cost, lifts, from };
      }),
    );
  });
  const path: NoteFinger[] = [];
  let at: State | null = states.sort((a, b) => a.cost - b.cost)[0] ?? null;
  for (; at; at = at.from) path.unshift({ finger: at.finger, lifts: at.lifts });
  return path;
}

/** The finger that holds a string which is to ring open. */
function stoppedBy(shape: Shape | null, string: number): number[] {
  const finger = shape?.fingers[string];
  return finger && (shape.frets[string] ?? 0) > 0 ? [finger] : [];
}

const NAMES = ['', 'first', 'second', 'third', 'little'];

/**
 * In words, which fingers of the chord stay down while a line is played.
 * @example lineWords([{ finger: 1, lifts: [] }], { frets: [0, 2], fingers: [0, 1] }) // 'Play these without lifting: all fingers stay.'
 */
export function lineWords(path: NoteFinger[], shape: Shape | null): string {
  if (!shape) return '';
  const all = [...new Set(shape.fingers.filter((finger) => finger > 0))].sort();
  const lifted = new Set(path.flatMap(({ lifts }) => lifts));
  const stay = all.filter((finger) => !lifted.has(finger)).map((finger) => NAMES[finger]!);
  if (all.length === 0) return 'Nothing is held: all fingers are free.';
  if (stay.length === all.length) return 'Play these without lifting: all fingers stay.';
  if (stay.length === 0) return 'All fingers have to leave for these.';
  const [last, ...others] = [...stay].reverse();
  const list = others.length > 0 ? `${others.reverse().join(', ')} and ${last}` : last;
  return `Play these without lifting: ${list} ${stay.length > 1 ? 'stay' : 'stays'}.`;
}
