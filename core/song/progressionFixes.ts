import type { TextProblem } from './progression';

/** A stretch of a progression as it was typed, and whether it has a problem. */
export interface TextPart {
  text: string;
  bad: boolean;
}

/**
 * The text of a progression cut at its problems, in order; what overlaps one before it belongs to that.
 * @example progressionParts('A | Xy', [{ from: 4, to: 6, message: '' }]) // 'A | ', and 'Xy' as bad
 */
export function progressionParts(text: string, problems: TextProblem[]): TextPart[] {
  const found: TextPart[] = [];
  let at = 0;
  for (const { from, to } of [...problems].sort((a, b) => a.from - b.from)) {
    if (from < at) continue;
    found.push({ text: text.slice(at, from), bad: false });
    // Where something is missing there is nothing to underline: a space stands for it.
    found.push({ text: text.slice(from, to) || ' ', bad: true });
    at = to;
  }
  return [...found, { text: text.slice(at), bad: false }];
}

/** The text with another reading in the place of a problem. */
export const withReading = (text: string, { from, to }: TextProblem, reading: string): string =>
  text.slice(0, from) + reading + text.slice(to);

/** A line of so many chords without a bar line: they share one bar, where one bar each may be meant. */
const SEVERAL = 3;
const TIMES = /^x\d+$/;
const isCrowded = (line: string) =>
  !/[|:%.)]/.test(line) &&
  line
    .trim()
    .split(/\s+/)
    .filter((word) => !TIMES.test(word)).length >= SEVERAL;

/** Whether a line has several chords and no bar line. @example hasCrowdedLine('C Am F G7') // true */
export const hasCrowdedLine = (text: string): boolean => text.split('\n').some(isCrowded);

/** The text with one bar for each chord of such lines. @example oneBarEach('C Am F x2') // 'C | Am | F x2' */
export const oneBarEach = (text: string): string =>
  text
    .split('\n')
    .map((line) => (isCrowded(line) ? line.trim().replaceAll(/\s+(?!x\d+$)/g, ' | ') : line))
    .join('\n');
