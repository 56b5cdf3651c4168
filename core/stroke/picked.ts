import type { PickedString, PluckingFinger } from '../schema';

/**
 * How the strings of a pick are written: `R`, `2`, `s3`; with a fret of its own `s3f2`, or counted from the
 * shape `1^2`, `1^-2`; with a finger of the striking hand `R.p`, and of the fretting hand `s3f2.1`.
 */
const PICKED = /^(r|[1-7]|s[1-8])(?:f(\d{1,2})|\^(-?\d{1,2}))?(?:\.([pimac]))?(?:\.([1-4]))?$/i;
/** A relative string takes no `f`: `1f3` is a pick, a fifth and a pick. */
const RELATIVE_FRET = /^(?:r|[1-7])f/i;
const MOST_STRINGS = 8;
const HIGHEST_FRET = 24;
const FARTHEST = 12;

/**
 * Reads the strings of a pick, joined by `+`; null where they are none.
 * @example readPicked('R.p+2.m') // [{ string: 'R', finger: 'p' }, { string: '2', finger: 'm' }]
 */
export function readPicked(word: string): PickedString[] | null {
  const strings: PickedString[] = [];
  for (const part of word.split('+')) {
    const found = RELATIVE_FRET.test(part) ? null : PICKED.exec(part);
    if (!found || strings.length === MOST_STRINGS) return null;
    const string = found[1]!.toLowerCase();
    const fret = found[2] === undefined ? undefined : Number(found[2]);
    const above = found[3] === undefined ? undefined : Number(found[3]);
    if ((fret ?? 0) > HIGHEST_FRET || Math.abs(above ?? 0) > FARTHEST) return null;
    const finger = found[4]?.toLowerCase() as PluckingFinger | undefined;
    strings.push({
      string: string === 'r' ? 'R' : string,
      ...(fret !== undefined && { fret }),
      ...(above !== undefined && { above: above + 0 }),
      ...(finger && { finger }),
      ...(found[5] && { held: Number(found[5]) }),
    });
  }
  return strings;
}

/** One string with its fret, without fingers: `s3f2`. */
export function pickedPlace({ string, fret, above }: PickedString): string {
  if (fret !== undefined) return `${string}f${fret}`;
  return above === undefined ? string : `${string}^${above}`;
}

/**
 * The strings of a pick as `readPicked` reads them.
 * @example sayPicked([{ string: 's2', fret: 8, held: 1 }]) // 's2f8.1'
 */
export function sayPicked(strings: PickedString[]): string {
  return strings
    .map((one) =>
      [pickedPlace(one), one.finger, one.held].filter((part) => part !== undefined).join('.'),
    )
    .join('+');
}
