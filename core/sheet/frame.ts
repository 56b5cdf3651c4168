import type { Block } from './drawn';
import { line, text, wrapped } from './paper';

/** The room that there is on a page, and how large its letters are. */
export interface Frame {
  width: number;
  height: number;
  size: number;
}

/** Size of the letters of large print. */
export const LARGE = 14;
/** How grey is what may be passed over. */
export const SOFT = 0.4;

/** A heading with its line, which stays with what follows it. */
export function heading(words: string, { size, width }: Frame): Block {
  const rows = wrapped(words, width, size * 1.2, 'bold');
  const more = Math.max(0, rows.length - 1) * size * 1.4;
  return {
    height: size * 2.3 + more,
    leads: true,
    items: [
      ...rows.map((row, index) =>
        text(0, size * (1.5 + index * 1.4), row, size * 1.2, { weight: 'bold' }),
      ),
      line(0, size * 1.9 + more, width, size * 1.9 + more, 0.5, 0.6),
    ],
  };
}

/** A list in parts of a length. */
export function cut<T>(list: T[], size: number): T[][] {
  return Array.from({ length: Math.ceil(list.length / size) }, (_, row) =>
    list.slice(row * size, (row + 1) * size),
  );
}
