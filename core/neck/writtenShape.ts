import type { Instrument, Shape } from '../schema';
import { assignFingers } from './fingering';

/**
 * A shape as players write it: a fret or `x` for every string from the thumb on, close together or apart, and the fingers
 * behind a stroke where they are not the usual ones.
 *
 *   x35500     0 7 6 6 7 x     10-12-12-11-10-10     x13400/-13---
 *   3x0003/22---3     a finger on a string that does not sound touches it and does not press
 */
const APART = /[\s,-]+/;

/** What could not be read, in one sentence. */
export type ShapeReading = { shape: Shape } | { problem: string };

/** The frets of a text; null for one that names none. */
function fretsIn(text: string, strings: number): string[] {
  const words = text.split(APART).filter((word) => word !== '');
  // Written close together every sign is a string; frets from ten on have to stand apart.
  return words.length === 1 && strings > 1 ? [...words[0]!] : words;
}

/**
 * Reads a shape from how it is written.
 * @returns the shape, with the usual fingers where none are written; or what is wrong with it
 * @example readShape('x32010', INSTRUMENTS.guitar) // { shape: { frets: [null, 3, 2, 0, 1, 0], fingers: [0, 3, 2, 0, 1, 0] } }
 */
export function readShape(text: string, { strings, frets: most }: Instrument): ShapeReading {
  const [written = '', fingered, more] = text.trim().split('/');
  if (more !== undefined) return { problem: 'There is one stroke between frets and fingers.' };
  const words = fretsIn(written, strings.length);
  if (words.length !== strings.length) {
    return {
      problem: `There are ${strings.length} strings, and ${words.length} of them are written.`,
    };
  }
  const frets: (number | null)[] = [];
  for (const word of words) {
    if (/^x$/i.test(word)) frets.push(null);
    else if (/^\d{1,2}$/.test(word) && Number(word) <= most) frets.push(Number(word));
    else if (/^\d+$/.test(word))
      return { problem: `${word} is beyond the neck: it has ${most} frets.` };
    else return { problem: `“${word}” is no fret: a number, or x where a string does not sound.` };
  }
  if (frets.every((fret) => fret === null)) return { problem: 'No string sounds.' };
  if (fingered === undefined || fingered.trim() === '') {
    return { shape: { frets, fingers: assignFingers(frets, true) ?? frets.map(() => 0) } };
  }
  const signs = [...fingered.replaceAll(/[\s,]/g, '')];
  if (signs.length !== strings.length) {
    return {
      problem: `There are ${strings.length} strings, and ${signs.length} fingers are written.`,
    };
  }
  const wrong = signs.find((sign) => !/[-0-4x]/i.test(sign));
  if (wrong !== undefined) {
    return { problem: `“${wrong}” is no finger: 1 index to 4 little finger, or - for none.` };
  }
  const fingers = signs.map((sign) => (/[1-4]/.test(sign) ? Number(sign) : 0));
  const idle = frets.findIndex((fret, string) => fingers[string] !== 0 && fret === 0);
  if (idle >= 0) return { problem: `Finger ${fingers[idle]} is on a string that is open.` };
  // A finger that leans on a string is one that presses another: by itself it would have no place.
  const leans = frets.findIndex(
    (fret, string) =>
      fret === null &&
      fingers[string] !== 0 &&
      !frets.some((other, at) => other && fingers[at] === fingers[string]),
  );
  if (leans >= 0) {
    return { problem: `Finger ${fingers[leans]} touches a string but presses none beside it.` };
  }
  return { shape: { frets, fingers } };
}

/**
 * A shape as `readShape` reads it: close together where every fret is one sign; with its fingers where they are not the
 * usual ones.
 * @example writeShape({ frets: [null, 3, 2, 0, 1, 0], fingers: [0, 3, 2, 0, 1, 0] }) // 'x32010'
 */
export function writeShape({ frets, fingers }: Shape): string {
  const words = frets.map((fret) => (fret === null ? 'x' : String(fret)));
  const text = words.join(words.every((word) => word.length === 1) ? '' : ' ');
  const usual = assignFingers(frets, true) ?? frets.map(() => 0);
  if (fingers.every((finger, string) => finger === usual[string])) return text;
  return `${text}/${fingers.map((finger) => finger || '-').join('')}`;
}
