import type { Shape } from '../schema';

interface Press {
  string: number;
  fret: number;
}

/** How far apart two neighbouring fingers reach beyond a fret each. */
const STRETCH = 1;
/** Strings that a finger other than the first can lie over. */
const WIDEST = 3;
/** What makes a set of fingers unusual: a finger off its fret, a barre that is not needed, the little finger. */
const OFF_ITS_FRET = 1;
const BARRE = 2.5;
const LITTLE = 0.4;

/**
 * Every playable set of fingers for the same frets: the one that the shape has first, then the others,
 * the most usual before the rest. A higher fret takes a higher finger, on one fret the finger nearer the
 * bass is the lower one, no two neighbours reach more than a fret beyond their own, and a finger lies over
 * several strings only where none between them sounds lower; over more than three only the first does.
 * @returns shapes with the same frets; only the given one where no other can be played
 * @example fingerings({ frets: [0, 2, 2, 0, 0, 0], fingers: [0, 2, 3, 0, 0, 0] }).map(({ fingers }) => fingers[1])
 * // [2, 1, 1, 3, 1, 2], say: with second and third, with first and second, ...
 */
export function fingerings(shape: Shape): Shape[] {
  const { frets } = shape;
  const presses = frets
    .flatMap((fret, string): Press[] => (fret ? [{ string, fret }] : []))
    .sort((a, b) => a.fret - b.fret || a.string - b.string);
  if (presses.length === 0) return [shape];
  const lowest = presses[0]!.fret;
  const found: { fingers: number[]; unusual: number }[] = [];
  const used: number[] = [];

  const place = (at: number): void => {
    if (at === presses.length) {
      const fingers = frets.map(() => 0);
      presses.forEach(({ string }, index) => (fingers[string] = used[index]!));
      found.push({ fingers, unusual: unusualness(presses, used, lowest) });
      return;
    }
    const press = presses[at]!;
    const before = presses[at - 1];
    const last = used[at - 1] ?? 0;
    const apart =
      before !== undefined && presses[at - 2]?.fret === before.fret && used[at - 2] !== last;
    const from = presses[used.indexOf(last)]?.string ?? press.string;
    const wide = last > 1 && press.string - from >= WIDEST;
    if (before?.fret === press.fret && !apart && !wide && liesFlat(frets, before, press)) {
      used.push(last);
      place(at + 1);
      used.pop();
    }
    // On one fret either one finger lies flat or each string has its own.
    const flat = before !== undefined && used[at - 2] === last && before.fret === press.fret;
    for (let finger = last + 1; finger <= 4 && !flat; finger += 1) {
      const reached = presses
        .slice(0, at)
        .every(({ fret }, index) => press.fret - fret <= finger - used[index]! + STRETCH);
      if (!reached) continue;
      used.push(finger);
      place(at + 1);
      used.pop();
    }
  };
  place(0);

  const others = found
    .filter(({ fingers }) => fingers.some((finger, string) => finger !== shape.fingers[string]))
    .sort((a, b) => a.unusual - b.unusual)
    .map(({ fingers }): Shape => ({ frets, fingers }));
  return [{ frets, fingers: shape.fingers }, ...others];
}

/**
 * How unusual the fingers of a shape are: fingers off their frets, barres, the little finger.
 * @example unusualFingers({ frets: [null, 3, 2, 0, 1, 0], fingers: [0, 4, 3, 0, 1, 0] }) // 2.4
 */
export function unusualFingers({ frets, fingers }: Shape): number {
  const presses = frets
    .flatMap((fret, string): Press[] => (fret ? [{ string, fret }] : []))
    .sort((a, b) => a.fret - b.fret || a.string - b.string);
  const used = presses.map(({ string }) => fingers[string] ?? 0);
  return presses.length === 0 ? 0 : unusualness(presses, used, presses[0]!.fret);
}

/** True where one finger can lie from one string to another: nothing between them sounds below it. */
function liesFlat(frets: (number | null)[], from: Press, to: Press): boolean {
  return frets
    .slice(from.string + 1, to.string)
    .every((fret) => fret === null || fret >= from.fret);
}

function unusualness(presses: Press[], used: number[], lowest: number): number {
  const fingers = new Set(used);
  const offFret = presses.reduce(
    (sum, { fret }, index) => sum + Math.abs(used[index]! - (fret - lowest + 1)) * OFF_ITS_FRET,
    0,
  );
  const flat = presses.length - fingers.size;
  return offFret + flat * BARRE + (fingers.has(4) ? LITTLE : 0);
}
