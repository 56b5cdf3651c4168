import type { PickedString, PluckingFinger } from '../schema';

/**
 * How the strings of a pick are written. A bare number is the number of a string, as everyone counts them from the
 * one farthest from the thumb: `3`, or `s3`; a string on the chord is counted from its root: `R`, `R+1`, `R+2`. With a
 * fret of its own `s3f2`, or counted from the shape `3^2`, `R+1^-2`; with a finger of the striking hand `R.p`, and of
 * the fretting hand `s3f2.1`. Strings at once are joined: `1+2`, `R+s2`, `R.p+1.a`.
 */
const PICKED =
  /(r(?:\+[1-7]|(?!\+\d))|s?[1-8])(?:f(\d{1,2})|\^(-?\d{1,2}))?(?:\.([pimac]))?(?:\.([1-4]))?(?:\+|$)/iy;
/** Bare numbers and the root take no `f`: `1f3` is a pick, a fifth and a pick. */
const BARE_FRET = /^(?:r(?:\+[1-7])?|[1-8])f/i;
const MAX_STRINGS = 8;
const HIGHEST_FRET = 24;
const FARTHEST = 12;

/**
 * The string that a name of the document means: the strings that the shape sounds above its root, 0 for the root
 * itself; or the number of the string, from 1, whatever is held.
 */
export type StringPlace = { above: number } | { number: number };

/**
 * Reads the name of a string in a document.
 * @example stringPlace('2') // { above: 2 }
 * @example stringPlace('s3') // { number: 3 }
 */
export function stringPlace(name: string): StringPlace {
  if (name === 'R') return { above: 0 };
  return name.startsWith('s') ? { number: Number(name.slice(1)) } : { above: Number(name) };
}

/**
 * The name of a string in a document: the inverse of `stringPlace`.
 * @example stringName({ above: 0 }) // 'R'
 */
export function stringName(place: StringPlace): string {
  if ('number' in place) return `s${place.number}`;
  return place.above === 0 ? 'R' : String(place.above);
}

/**
 * A string as it is written for players: by its number, or from the root of the chord.
 * @example ['R', '2', 's3'].map(sayString) // ['R', 'R+2', '3']
 */
export function sayString(name: string): string {
  const place = stringPlace(name);
  if ('number' in place) return String(place.number);
  return place.above === 0 ? 'R' : `R+${place.above}`;
}

/**
 * Reads a string as players write it; null where it is none.
 * @example ['R', 'R+2', '3', 's3'].map(readString) // ['R', '2', 's3', 's3']
 */
export function readString(word: string): string | null {
  const found = /^(?:(r)(?:\+([1-7]))?|s?([1-8]))$/i.exec(word);
  if (!found) return null;
  return found[1]
    ? stringName({ above: Number(found[2] ?? 0) })
    : stringName({ number: Number(found[3]) });
}

/**
 * Reads the strings of a pick, joined by `+`; null where they are none.
 * @example readPicked('R.p+2.m') // [{ string: 'R', finger: 'p' }, { string: 's2', finger: 'm' }]
 * @example readPicked('R+2') // [{ string: '2' }], the second string above the root
 */
export function readPicked(word: string): PickedString[] | null {
  const strings: PickedString[] = [];
  let next = 0;
  while (next < word.length) {
    if (BARE_FRET.test(word.slice(next)) || strings.length === MAX_STRINGS) return null;
    PICKED.lastIndex = next;
    const found = PICKED.exec(word);
    if (!found) return null;
    next = PICKED.lastIndex;
    const fret = found[2] === undefined ? undefined : Number(found[2]);
    const above = found[3] === undefined ? undefined : Number(found[3]);
    if ((fret ?? 0) > HIGHEST_FRET || Math.abs(above ?? 0) > FARTHEST) return null;
    const finger = found[4]?.toLowerCase() as PluckingFinger | undefined;
    strings.push({
      string: readString(found[1]!)!,
      ...(fret !== undefined && { fret }),
      ...(above !== undefined && { above: above + 0 }),
      ...(finger && { finger }),
      ...(found[5] && { held: Number(found[5]) }),
    });
  }
  return strings.length === 0 || word.endsWith('+') ? null : strings;
}

/** One string with its fret, without fingers: `s3f2`. */
export function pickedPlace({ string, fret, above }: PickedString): string {
  if (fret !== undefined) {
    const place = stringPlace(string);
    return `${'number' in place ? string : sayString(string)}f${fret}`;
  }
  return above === undefined ? sayString(string) : `${sayString(string)}^${above}`;
}

/**
 * The strings of a pick as `readPicked` reads them.
 * @example sayPicked([{ string: 's2', fret: 8, held: 1 }]) // 's2f8.1'
 * @example sayPicked([{ string: 'R' }, { string: 's2' }]) // 'R+s2'
 */
export function sayPicked(strings: PickedString[]): string {
  return strings.reduce((said, one) => {
    const word = [pickedPlace(one), one.finger, one.held]
      .filter((part) => part !== undefined)
      .join('.');
    if (said === '') return word;
    // After a bare root a bare number would count from it.
    const apart = said.endsWith('R') && /^\d/.test(word) ? 's' : '';
    return `${said}+${apart}${word}`;
  }, '');
}
