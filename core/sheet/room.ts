import type { Block } from './drawn';
import { line, shortened, text } from './paper';

/** The room that there is on a page, and how large its letters are. */
export interface Room {
  width: number;
  height: number;
  size: number;
}

/** Size of the letters of large print. */
export const LARGE = 14;
/** How grey is what may be passed over. */
export const SOFT = 0.4;

/** A heading with its line, which stays with what follows it. */
export const heading = (words: string, { size, width }: Room): Block => ({
  height: size * 2.3,
  leads: true,
  items: [
    text(0, size * 1.5, shortened(words, width, size * 1.2, 'bold'), size * 1.2, {
      weight: 'bold',
    }),
    line(0, size * 1.9, width, size * 1.9, 0.5, 0.6),
  ],
});

/** A list in parts of a length. */
export function cut<T>(list: T[], size: number): T[][] {
  return Array.from({ length: Math.ceil(list.length / size) }, (_, row) =>
    list.slice(row * size, (row + 1) * size),
  );
}
