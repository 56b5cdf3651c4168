import type { Shape } from '../schema';

/** A note of a line on the neck, strings from the thumb on. */
export interface LineNote {
  string: number;
  fret: number;
  /** The finger that the player says. */
  held?: number | undefined;
}

/** Which finger plays a note, and which fingers of the chord have to leave for it. */
export interface NoteFinger {
  /** 1 index to 4 little finger, 0 for an open string. */
  finger: number;
  lifts: number[];
}

/** A finger of the chord that leaves, a finger out of its place by a fret, one that jumps from string to string. */
const LIFTED = 3;
const OUT_OF_PLACE = 1.2;
const JUMPED = 1.5;
const CROSSED = 4;

const FINGERS = [1, 2, 3, 4];

/** Where the index finger lies by nature: the lowest fret that the shape holds, or that of the note. */
function positionOf(shape: Shape | null, { fret }: LineNote): number {
  const held = (shape?.frets ?? []).filter((one): one is number => one !== null && one > 0);
  return held.length > 0 ? Math.min(...held) : Math.max(1, fret - 1);
}

/** What a finger costs for one note, and which fingers of the shape it takes away. */
function choose(
  note: LineNote,
  finger: number,
  shape: Shape | null,
): { cost: number; lifts: number[] } {
  const away = Math.abs(note.fret - (positionOf(shape, note) + finger - 1));
  const busy = shape?.fingers.includes(finger) ?? false;
  const inWay = (shape?.fingers ?? []).filter((other, string) => {
    const fret = shape!.frets[string];
    if (other === 0 || fret === null || fret === undefined || other === finger) return false;
    // A finger on the same string above the note stops it; one that would have to cross another leaves too.
    if (string === note.string && fret > note.fret) return true;
    return other < finger ? fret > note.fret : fret < note.fret;
  });
  const lifts = [...new Set([...(busy ? [finger] : []), ...inWay])].sort();
  return { cost: away * OUT_OF_PLACE + lifts.length * LIFTED, lifts };
}

function step(before: { note: LineNote; finger: number }, note: LineNote, finger: number): number {
  if (before.finger === 0 || finger === 0) return 0;
  const way = note.fret - before.note.fret;
  if (before.finger === finger) {
    if (before.note.string === note.string) return Math.abs(way) * 0.4;
    return way === 0 ? 0.6 : JUMPED;
  }
  return Math.sign(way) !== 0 && Math.sign(way) !== Math.sign(finger - before.finger) ? CROSSED : 0;
}

/**
 * Fingers for a line of notes while as much of the chord as possible stays down: the shortest path over its
 * notes. An open string needs none, and a note of the shape keeps all.
 * @param shapes the shape under the hand at each note; null where there is none
 * @example lineFingers([{ string: 3, fret: 2 }], [{ frets: [null, 0, 2, 2, 2, 0], fingers: [0, 0, 1, 2, 3, 0] }])
 */
export function lineFingers(notes: LineNote[], shapes: (Shape | null)[]): NoteFinger[] {
  interface State {
    cost: number;
    finger: number;
    lifts: number[];
    from: State | null;
  }
  let states: State[] = [];
  notes.forEach((note, index) => {
    const shape = shapes[index] ?? null;
    const inShape = shape?.frets[note.string] === note.fret;
    const own = shape?.fingers[note.string];
    const open = note.fret === 0;
    const options = open
      ? [{ finger: 0, cost: 0, lifts: stoppedBy(shape, note.string) }]
      : inShape && own
        ? [{ finger: own, cost: 0, lifts: [] }]
        : (note.held ? [note.held] : FINGERS).map((finger) => ({
            finger,
            ...choose(note, finger, shape),
          }));
    states = options.map(({ finger, cost, lifts }): State => {
      const best = states.reduce<{ cost: number; from: State | null }>(
        (least, state) => {
          const all =
            state.cost + step({ note: notes[index - 1]!, finger: state.finger }, note, finger);
          return all < least.cost || least.from === null ? { cost: all, from: state } : least;
        },
        { cost: 0, from: null },
      );
      return { cost: best.cost + cost, finger, lifts, from: best.from };
    });
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
