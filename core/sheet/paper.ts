import { BOLD, FIRST_LETTER, OTHER_WIDTH, REGULAR } from './widths';

/** A sheet of paper as data: what lies where on each page. All measures are points, 72 to the inch, from the top left. */

export interface SheetPage {
  width: number;
  height: number;
  items: SheetItem[];
}

export type Weight = 'regular' | 'bold';
export type SheetItem =
  | {
      kind: 'text';
      x: number;
      /** Of the line that the letters stand on. */
      y: number;
      text: string;
      size: number;
      weight: Weight;
      anchor: 'start' | 'middle' | 'end';
      /** 0 black to 1 white. */
      grey: number;
    }
  | {
      kind: 'path';
      /** Where its own 0, 0 lies. */
      x: number;
      y: number;
      /** As in SVG. */
      d: string;
      fill: number | null;
      stroke: number | null;
      width: number;
      dash: number[] | null;
    };

export const PAPERS = {
  a4: { width: 595.28, height: 841.89 },
  letter: { width: 612, height: 792 },
} as const;
export type Paper = keyof typeof PAPERS;

/** Space at the edges, which a printer may not reach. */
export const MARGIN = 42;

/**
 * How wide a text is.
 * @param size of the letters, in points
 * @example textWidth('', 12, 'regular') // 0
 */
export function textWidth(text: string, size: number, weight: Weight): number {
  const table = weight === 'bold' ? BOLD : REGULAR;
  let thousandths = 0;
  for (const letter of text) {
    thousandths += table[letter.codePointAt(0)! - FIRST_LETTER] || OTHER_WIDTH;
  }
  return (thousandths * size) / 1000;
}

/** The text with its end left out where it is wider than that. */
export function shortened(text: string, width: number, size: number, weight: Weight): string {
  if (textWidth(text, size, weight) <= width) return text;
  const letters = [...text];
  while (letters.length > 1 && textWidth(`${letters.join('')}…`, size, weight) > width)
    letters.pop();
  return `${letters.join('').trimEnd()}…`;
}

/**
 * The size at which a text is no wider than that: its own, or as much smaller as it has to be.
 * @example fitting('C', 100, 12, 'bold') // 12
 */
export function fitting(text: string, width: number, size: number, weight: Weight): number {
  return size * Math.min(1, width / Math.max(1e-6, textWidth(text, size, weight)));
}

/** A word in pieces no wider than that. */
function broken(word: string, width: number, size: number, weight: Weight): string[] {
  const pieces: string[] = [];
  for (const letter of word) {
    const last = pieces.at(-1);
    if (last !== undefined && textWidth(last + letter, size, weight) <= width) {
      pieces[pieces.length - 1] = last + letter;
    } else pieces.push(letter);
  }
  return pieces;
}

/** The text in lines no wider than that, nothing left out; a word that is wider goes on in the next line. */
export function wrapped(text: string, width: number, size: number, weight: Weight): string[] {
  const lines: string[] = [];
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const last = lines.at(-1);
    const longer = last === undefined ? word : `${last} ${word}`;
    if (last !== undefined && textWidth(longer, size, weight) <= width)
      lines[lines.length - 1] = longer;
    else if (textWidth(word, size, weight) <= width) lines.push(word);
    else lines.push(...broken(word, width, size, weight));
  }
  return lines;
}

const round = (value: number) => Number(value.toFixed(2));

export function text(
  x: number,
  y: number,
  words: string,
  size: number,
  rest: Partial<Extract<SheetItem, { kind: 'text' }>> = {},
): SheetItem {
  return {
    kind: 'text',
    x,
    y,
    text: words,
    size,
    weight: 'regular',
    anchor: 'start',
    grey: 0,
    ...rest,
  };
}

export function line(
  x1: number,
  y1: number,
  x2: number,
  y2: number,
  width = 0.6,
  grey = 0,
  dash: number[] | null = null,
): SheetItem {
  const d = `M${round(x1)} ${round(y1)}L${round(x2)} ${round(y2)}`;
  return { kind: 'path', x: 0, y: 0, d, fill: null, stroke: grey, width, dash };
}

export function shape(
  d: string,
  fill: number | null,
  stroke: number | null = null,
  width = 0,
): SheetItem {
  return { kind: 'path', x: 0, y: 0, d, fill, stroke, width, dash: null };
}

/** A circle as a path, so that everything that draws a sheet knows two kinds of items only. */
export function circle(
  x: number,
  y: number,
  r: number,
  fill: number | null,
  stroke: number | null = null,
): SheetItem {
  const [left, right] = [round(x - r), round(x + r)];
  const d = `M${left} ${round(y)}A${r} ${r} 0 1 0 ${right} ${round(y)}A${r} ${r} 0 1 0 ${left} ${round(y)}Z`;
  return { kind: 'path', x: 0, y: 0, d, fill, stroke, width: 0.9, dash: null };
}

/** Coordinates of a path, moved and made larger or smaller; arcs are only moved and scaled evenly. */
export function placed(d: string, x: number, y: number, scale: number): string {
  return d.replace(/([A-Za-z])([^A-Za-z]*)/g, (_, letter: string, rest: string) => {
    const numbers = (rest.match(/-?\d*\.?\d+(?:e-?\d+)?/gi) ?? []).map(Number);
    const relative = letter === letter.toLowerCase();
    const at = (value: number, index: number) => {
      if (letter === 'H') return value * scale + x;
      if (letter === 'V') return value * scale + y;
      if (letter === 'A') {
        const place = index % 7;
        if (place === 2 || place === 3 || place === 4) return value;
        if (place < 2) return value * scale;
        return value * scale + (place === 5 ? x : y);
      }
      return relative ? value * scale : value * scale + (index % 2 === 0 ? x : y);
    };
    return letter + numbers.map((value, index) => round(at(value, index))).join(' ');
  });
}

/** An item moved down and to the right. */
export const moved = (item: SheetItem, x: number, y: number): SheetItem => ({
  ...item,
  x: item.x + x,
  y: item.y + y,
});

/** Names of strings stand in the margin, so far from the drawing and no larger than it has room for. */
export const NAME_GAP = 2;
export const nameSize = (size: number): number => Math.min(7.5, size * 0.6);
