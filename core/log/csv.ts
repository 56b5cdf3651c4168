import Papa from 'papaparse';
import { type Entry, MAX_ROWS_AT_ONCE, newEntrySchema, type NewEntry } from '../schema';

/** The columns of the log as a file, in this order. */
export const LOG_COLUMNS = [
  'madeAt',
  'kind',
  'song',
  'instrument',
  'rung',
  'hands',
  'from',
  'to',
  'tempo',
  'seconds',
  'source',
  'trouble',
  'within',
  'median',
  'spread',
  'change',
  'text',
  'songId',
  'id',
] as const;

/**
 * What begins a formula in a spreadsheet, in the wide forms of East Asian keyboards too, also behind what nobody sees.
 */
const FORMULA =
  /^[\s\p{Cf}\p{Cc}]*[=+@\-\u2212\uFE62\uFE63\uFE66\uFE6B\uFF0B\uFF0D\uFF1D\uFF20]|^[\t\r]/u;
/** A cell that a spreadsheet would take for a formula is given a sign before it, so that it is text. */
const safe = (value: unknown) =>
  typeof value === 'string' && FORMULA.test(value) ? `'${value}` : value;

/**
 * The log as CSV (RFC 4180), a row a line.
 * @example logCsv([]).split('\r\n')[0].startsWith('madeAt,kind,song') // true
 */
export function logCsv(entries: Entry[]): string {
  return Papa.unparse({ fields: [...LOG_COLUMNS], data: cellsOf(entries) }, { newline: '\r\n' });
}

const cellsOf = (entries: Entry[]) =>
  entries.map((entry) => LOG_COLUMNS.map((column) => safe(entry[column]) ?? ''));

/**
 * More rows of the same file, without its header: each line begins with the end of the one before.
 * @example moreCsv([]) // ''
 */
export const moreCsv = (entries: Entry[]): string =>
  entries.length > 0 ? `\r\n${Papa.unparse(cellsOf(entries), { newline: '\r\n' })}` : '';

/** What a column of a player's own file may be. */
export const CSV_FIELDS = ['date', 'song', 'tempo', 'minutes', 'went', 'note'] as const;
export type CsvField = (typeof CSV_FIELDS)[number];

export interface CsvTable {
  header: string[];
  rows: string[][];
}

/**
 * A CSV file as a table: commas, semicolons or tabs, with or without quotes.
 * @throws RangeError where it has no rows, or more than can be taken
 * @example readTable('date,song\n2031-05-08,Weir').rows.length // 1
 */
export function readTable(text: string): CsvTable {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const [header, ...rows] = data;
  if (!header || rows.length === 0) throw new RangeError('There are no rows in this file.');
  if (rows.length > MAX_ROWS_AT_ONCE) {
    throw new RangeError(`This file has ${rows.length} rows; ${MAX_ROWS_AT_ONCE} is the most.`);
  }
  return { header: header.map((name) => name.trim()), rows };
}

const NAMES: Record<CsvField, RegExp> = {
  date: /^(date|day|when|madeat)$/i,
  song: /^(song|title|piece|what)$/i,
  tempo: /^(tempo|bpm|speed)$/i,
  minutes: /^(minutes|min|mins|time|how long)$/i,
  went: /^(went|how|verdict|trouble|result)$/i,
  note: /^(note|notes|text|comment)$/i,
};

/**
 * Which column is likely what, by its name; to be put right by the player.
 * @example guessColumns(['Day', 'Piece', 'BPM']) // { date: 0, song: 1, tempo: 2 }
 */
export function guessColumns(header: string[]): Partial<Record<CsvField, number>> {
  const found = CSV_FIELDS.flatMap((field) => {
    const at = header.findIndex((name) => NAMES[field].test(name.trim()));
    return at < 0 ? [] : [[field, at] as const];
  });
  return Object.fromEntries(found);
}

/** A day as it is written in files: 2031-05-08, 8.5.2031 or 8/5/2031 (the day first), with or without a time. */
function readDay(text: string): Date | null {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ](\d{1,2}):(\d{2}))?/.exec(text);
  const own = /^(\d{1,2})[./](\d{1,2})[./](\d{4})(?: (\d{1,2}):(\d{2}))?$/.exec(text);
  const parts = iso
    ? [iso[1], iso[2], iso[3], iso[4], iso[5]]
    : own
      ? [own[3], own[2], own[1], own[4], own[5]]
      : null;
  if (!parts) return null;
  const [year, month, day, hour = 19, minute = 0] = parts.map((part) =>
    part === undefined ? undefined : Number(part),
  );
  const date = new Date(Date.UTC(year!, month! - 1, day, hour, minute));
  const same = date.getUTCMonth() === month! - 1 && date.getUTCDate() === day;
  return same ? date : null;
}

const WENT: [RegExp, NewEntry['trouble']][] = [
  [/^(clean|good|yes|ok)$/i, 'clean'],
  [/^(so-so|so so|fair|medium)$/i, 'so-so'],
  [/^(not yet|no|bad|trouble)$/i, 'not yet'],
];

/**
 * The rows of a table as rows of the log, and what is wrong with those that cannot be read. Nothing is taken
 * while there are problems.
 * @param columns which column is what, by its place from 0
 * @returns problems by their line in the file, from 1
 * @example readRows({ header: ['date', 'song'], rows: [['2031-05-08', 'Weir']] }, { date: 0, song: 1 }).entries.length // 1
 */
export function readRows(
  { rows }: CsvTable,
  columns: Partial<Record<CsvField, number>>,
): { entries: NewEntry[]; problems: { line: number; message: string }[] } {
  const entries: NewEntry[] = [];
  const problems: { line: number; message: string }[] = [];
  rows.forEach((row, index) => {
    const line = index + 2;
    const cell = (field: CsvField) => {
      const at = columns[field];
      return at === undefined ? '' : (row[at] ?? '').trim();
    };
    const tell = (message: string) => problems.push({ line, message });
    const day = readDay(cell('date'));
    if (!day) return tell(`“${cell('date').slice(0, 40)}” is no date such as 2031-05-08`);
    const number = (field: CsvField) => {
      const text = cell(field).replace(',', '.');
      return text === '' ? undefined : Number(text);
    };
    const [tempo, minutes] = [number('tempo'), number('minutes')];
    if (tempo !== undefined && !Number.isFinite(tempo))
      return tell(`“${cell('tempo').slice(0, 40)}” is no tempo`);
    if (minutes !== undefined && !Number.isFinite(minutes)) {
      return tell(`“${cell('minutes').slice(0, 40)}” is no number of minutes`);
    }
    const went = cell('went');
    const trouble = WENT.find(([pattern]) => pattern.test(went))?.[1];
    if (went !== '' && !trouble)
      return tell(`“${went.slice(0, 40)}” is none of clean, so-so, not yet`);
    const [song, text] = [cell('song'), cell('note')];
    const read = newEntrySchema.safeParse({
      kind: trouble && tempo !== undefined ? 'take' : 'practice',
      madeAt: day.toISOString(),
      ...(song && { song }),
      ...(tempo !== undefined && { tempo }),
      ...(minutes !== undefined && { seconds: minutes * 60 }),
      ...(trouble && { trouble }),
      ...(text && { text }),
    });
    if (read.success) entries.push(read.data);
    else tell(`${read.error.issues[0]!.path.join('.')}: ${read.error.issues[0]!.message}`);
  });
  return { entries, problems };
}
