import type { Meter } from '../schema';
import { meterOfBeats } from './written';

/** What the rows of a plain chart are, before anybody asks what they say. */

/** Columns from one tabulator to the next, as editors have them. */
const TAB_WIDTH = 8;

/**
 * A row with spaces for its tabulators, so that what stands over each other has the same columns.
 * @example expanded('A\tB') // 'A       B'
 */
export function expanded(row: string): string {
  let out = '';
  for (const letter of row) {
    out += letter === '\t' ? ' '.repeat(TAB_WIDTH - (out.length % TAB_WIDTH)) : letter;
  }
  return out;
}

/** A string of tablature: its name, if it has one, and dashes with frets and signs among them. */
const TAB_ROW = /^\s*(?:[A-Ga-g][#b]?\s*)?[|:]?[-–\d\shpbrtxX/\\~()<>|*=.^]+$/;
/** No row of tablature, no head and no title is longer: what is longer is not looked through by patterns that go back. */
export const LONGEST_ROW = 400;
const isTabRow = (row: string): boolean =>
  row.length <= LONGEST_ROW && /[-–].*[-–]/.test(row) && TAB_ROW.test(row);
/** So many strings at least, and at most. */
const [FEWEST_STRINGS, MAX_STRINGS] = [3, 8];

/**
 * Blocks of tablature: rows in a row that are strings.
 * @returns the first row of each, from 0, and how many strings it has
 * @example tabBlocks(['e|--0--|', 'B|--1--|', 'G|--0--|']) // [{ row: 0, strings: 3 }]
 */
export function tabBlocks(rows: string[]): { row: number; strings: number }[] {
  const blocks: { row: number; strings: number }[] = [];
  let from = 0;
  for (let row = 0; row <= rows.length; row += 1) {
    if (row < rows.length && isTabRow(rows[row]!)) continue;
    const strings = row - from;
    if (strings >= FEWEST_STRINGS && strings <= MAX_STRINGS) blocks.push({ row: from, strings });
    from = row + 1;
  }
  return blocks;
}

/** What parts of a song are called by nearly everyone: such a row alone is a head. */
const PARTS =
  'intro|verse|pre-?\\s?chorus|chorus|refrain|bridge|middle 8|interlude|instrumental|solo|break|tag|outro|ending|coda|turnaround';
const HEAD = new RegExp(`^(?:${PARTS})(?: ?\\d{1,2})?$`, 'i');
/** How often a line or a section is played, as it is written at its end: `x2`, `(x2)`, `2x`. */
const TIMES = /(?:^|\s|(?=[([]))[([]?(?:x\s?(\d{1,2})|(\d{1,2})\s?x)[)\]]?\s*$/i;
const MAX_TIMES = 32;

/**
 * A row without how often it is played, and that.
 * @example timesOf('G D (x2)') // { rest: 'G D', times: 2 }
 */
export function timesOf(text: string): { rest: string; times: number } {
  const found = TIMES.exec(text);
  const times = Number(found?.[1] ?? found?.[2] ?? 1);
  if (!found || times < 1 || times > MAX_TIMES) return { rest: text, times: 1 };
  return { rest: text.slice(0, found.index).trim(), times };
}

/**
 * A head and how often its section is played: `[Chorus] (2x)`, `Verse 1:`, or a bare `Bridge`.
 * @returns null where the row is no head
 * @example readHead('[Chorus] (2x)') // { name: 'Chorus', times: 2 }
 */
export function readHead(row: string): { name: string; times: number } | null {
  if (row.length > LONGEST_ROW) return null;
  const body = row.trim().replace(/:$/, '');
  const { rest: named, times } = timesOf(body);
  const rest = named.replace(/:$/, '');
  const [, bracketed, plain] =
    /^\[([A-Za-z][\w -]{0,38})\]$|^([A-Za-z][\w -]{0,38})$/.exec(rest) ?? [];
  const name = (bracketed ?? plain)?.trim();
  if (name === undefined) return null;
  const isNamed = bracketed !== undefined || HEAD.test(name);
  const isHead = isNamed || row.trim().endsWith(':') || /:\s*\S*$/.test(body);
  return isHead ? { name, times } : null;
}

/** `3/4`, or a cycle of `12 counts`. */
function readMeter(text: string): Meter | null {
  const [beats, unit] = text.split(/\/| /).map(Number);
  return meterOfBeats(beats!, unit || 4);
}

/**
 * What a row before the first chord says of the song: its capo, tempo, or its title with a capo in brackets.
 * @example readTitle('Lantern Evening (capo 2)') // { title: 'Lantern Evening', capo: 2, tempo: null, meter: null }
 */
export function readTitle(row: string): {
  title: string | null;
  capo: number | null;
  tempo: number | null;
  meter: Meter | null;
} {
  if (row.length > LONGEST_ROW) return { title: null, capo: null, tempo: null, meter: null };
  const capo =
    /[([]?\bcapo\b\s*:?\s*(?:on\s+|at\s+)?(?:fret\s+)?(\d{1,2})(?:st|nd|rd|th)?(?:\s+fret)?[)\]]?/i.exec(
      row,
    );
  const tempo = /\b(?:tempo|bpm)\b\s*:?\s*(\d{2,3})\b/i.exec(row);
  const meter = /\b(?:meter|time)\b\s*:?\s*(\d{1,2}\/\d{1,2}|\d{1,2} counts)/i.exec(row);
  const tuning = /^\s*tuning\b.*$/i.exec(row);
  let title = row;
  for (const said of [capo, tempo, meter, tuning]) if (said) title = title.replace(said[0], '');
  title = title.replace(/[\s,;–-]+$/, '').trim();
  return {
    title: title === '' ? null : title.slice(0, 120),
    capo: capo && Number(capo[1]) <= 12 ? Number(capo[1]) : null,
    tempo: tempo && Number(tempo[1]) >= 20 && Number(tempo[1]) <= 300 ? Number(tempo[1]) : null,
    meter: meter && readMeter(meter[1]!),
  };
}
