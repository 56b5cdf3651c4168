import type { Shape } from '../schema';

/** One finger lying over several strings, from the first to the last it presses. */
export interface Barre {
  finger: number;
  fret: number;
  first: number;
  last: number;
}

interface Press {
  string: number;
  fret: number;
}

/**
 * Puts fingers on frets: the lowest fret gets the first finger, fingers never cross, and one finger
 * lies flat where there are more notes than fingers. Higher frets may get a second barre of
 * neighbouring strings.
 * @param allowBarre whether a finger may lie over several strings
 * @returns the finger of every string, or null where no hand can hold it
 * @example assignFingers([null, 0, 2, 2, 2, 0], true) // [0, 0, 1, 2, 3, 0]
 */
export function assignFingers(frets: (number | null)[], allowBarre: boolean): number[] | null {
  const presses = frets
    .flatMap((fret, string): Press[] => (fret ? [{ string, fret }] : []))
    .sort((a, b) => a.fret - b.fret || a.string - b.string);
  const fingers = frets.map(() => 0);
  if (presses.length === 0) return fingers;
  if (presses.length <= 4) {
    const lowest = presses[0]!.fret;
    presses.forEach(({ string, fret }, order) => {
      // A finger a fret where there are fingers to spare, so that the hand lies as it falls.
      const before = order === 0 ? 0 : fingers[presses[order - 1]!.string]!;
      const left = presses.length - 1 - order;
      fingers[string] = Math.min(4 - left, Math.max(before + 1, fret - lowest + 1));
    });
    return fingers;
  }
  return allowBarre ? barreFingers(frets, presses, fingers) : null;
}

function barreFingers(
  frets: (number | null)[],
  presses: Press[],
  fingers: number[],
): number[] | null {
  const lowest = presses[0]!.fret;
  const under = presses.filter(({ fret }) => fret === lowest);
  const [first, last] = [under[0]!.string, under.at(-1)!.string];
  // An open string under the finger could not ring.
  if (under.length < 2 || frets.slice(first, last + 1).includes(0)) return null;
  under.forEach(({ string }) => (fingers[string] = 1));

  const groups: Press[][] = [];
  const rest = presses.filter(({ fret }) => fret > lowest);
  for (const press of rest) {
    const group = groups.at(-1);
    const before = group?.at(-1);
    const beside = before && before.fret === press.fret && before.string === press.string - 1;
    if (group && beside && rest.length > 3) group.push(press);
    else groups.push([press]);
  }
  if (groups.length > 3) return null;
  groups.forEach((group, order) => {
    const offset = group[0]!.fret - lowest + 1;
    const left = groups.length - 1 - order;
    const before = order === 0 ? 1 : fingers[groups[order - 1]![0]!.string]!;
    const finger = Math.min(4 - left, Math.max(before + 1, offset));
    group.forEach(({ string }) => (fingers[string] = finger));
  });
  return fingers;
}

/**
 * The barres of a shape: every finger that presses two or more strings at one fret.
 * @example barres({ frets: [1, 3, 3, 2, 1, 1], fingers: [1, 3, 4, 2, 1, 1] })
 * // [{ finger: 1, fret: 1, first: 0, last: 5 }]
 */
export function barres(shape: Shape): Barre[] {
  return [1, 2, 3, 4].flatMap((finger) => {
    const under = shape.fingers.flatMap((used, string) =>
      used === finger && shape.frets[string] ? [string] : [],
    );
    const fret = shape.frets[under[0] ?? -1];
    if (under.length < 2 || !fret) return [];
    return [{ finger, fret, first: under[0]!, last: under.at(-1)! }];
  });
}
