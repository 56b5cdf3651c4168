import type { Meter } from '../schema';
import { isNoChord, parseChord } from '../neck';
import { cleanWord } from '../song';
import { METERS, type MeterName } from '../time';
import type { ChartAnswer, ChartLine, ChartPiece, ChartReading, ChartWish } from './chart';
import { expanded, readHead, readTitle, timesOf } from './chartRows';
import type { TabRows } from './readTab';
import { TabReader } from './tabReader';
import { meterOfBeats } from './written';
import { readOwnMeter, readOwnWords } from './own';

/**
 * ChordPro, the text format of chords over words, and plain charts as people type them: chords with the words
 * under them.
 */

const DIRECTIVE = /^\s*\{([^}]*)\}\s*$/;
/** How directives of our own begin, which other readers pass over; `own.ts` says what they hold. */
export const OWN_DIRECTIVE = 'x_plucky_';
const SECTION_NAMES: Record<string, string> = {
  verse: 'Verse',
  chorus: 'Chorus',
  bridge: 'Bridge',
  grid: 'Grid',
  v: 'Verse',
  c: 'Chorus',
  b: 'Bridge',
  g: 'Grid',
};

function meterOf(text: string): Meter | null {
  return text in METERS ? METERS[text as MeterName] : null;
}

/** H stands for B in some countries. */
const GERMAN = /^H(?![a-z]*[n-z])/;
const asB = (word: string) => (GERMAN.test(word) ? `B${word.slice(1)}` : word);
const isChord = (word: string) => parseChord(asB(word)) !== null || isNoChord(word);
/** What may stand between the chords of a chart. */
const isFiller = (word: string) => /^(\||\|\||\|:|:\||%|\.|-|\/)$/.test(word);
const wordsOf = (text: string) =>
  text
    .replaceAll(/:?\|+[:.]?/g, ' | ')
    .split(/\s+/)
    .filter(Boolean);

/**
 * True for a line of chords, as in a chart over words: at least half of what is in it, so that a remark among
 * them does not lose the others, and more than a line of words would have by chance ("A day").
 */
function isChordLine(text: string): boolean {
  const words = wordsOf(text).filter((word) => !isFiller(word));
  const chords = words.filter(isChord).length;
  if (chords === 0) return false;
  if (chords === words.length) return true;
  return text.includes('|') || (chords >= 2 && chords * 2 >= words.length);
}

/** The names of the strings: what tablature says by its own rows. */
const TUNING = /^tuning\b/i;

/** Reads the directives and lines of a file, gathering sections as they come. */
class ChartReader {
  readonly chart: ChartReading = {
    title: null,
    tempo: null,
    meter: null,
    capo: null,
    sections: [],
    order: [],
    progression: null,
    ownWords: [],
    pattern: null,
    shapes: [],
    strings: 0,
    left: [],
    german: false,
  };
  private open: { name: string; lines: ChartLine[]; times: number } | null = null;

  private begin(name: string, times = 1): void {
    this.end();
    this.open = { name, lines: [], times };
  }

  /** True before anything of the song itself was read: what stands there is of the song as a whole. */
  get isAtHead(): boolean {
    return this.open === null && this.chart.sections.length === 0;
  }

  /** A section that says the same as one before it is that one again. */
  end(): void {
    const { open, chart } = this;
    this.open = null;
    if (!open || open.lines.length === 0) return;
    const chordsOf = (lines: ChartLine[]) =>
      JSON.stringify(lines.map(({ verses: _, ...line }) => line));
    const says = chordsOf(open.lines);
    const same = chart.sections.find(
      ({ name, lines }) => name.replace(/ \d+$/, '') === open.name && chordsOf(lines) === says,
    );
    // The same chords with other words are its next verse.
    if (same && JSON.stringify(versesIn(open.lines)) !== JSON.stringify(versesIn(same.lines))) {
      const verse = Math.max(...same.lines.map(({ verses = [] }) => verses.length));
      open.lines.forEach(({ verses }, index) => {
        const line = same.lines[index]!;
        const before = line.verses ?? [];
        const padded = Array.from({ length: verse }, (_, at) => before[at] ?? []);
        line.verses = [...padded, ...(verses ?? [[]])];
      });
    }
    if (!same) {
      const alike = chart.sections.filter(
        ({ name }) => name.replace(/ \d+$/, '') === open.name,
      ).length;
      const name = alike > 0 ? `${open.name} ${alike + 1}` : open.name;
      chart.sections.push({ name, lines: open.lines });
    }
    const { name } = same ?? chart.sections.at(-1)!;
    for (let time = 0; time < open.times; time += 1) chart.order.push(name);
  }

  /** Words under the line of chords that was read last, by their columns. */
  wordsUnder(row: string, columns: number[]): void {
    const line = this.open?.lines.at(-1);
    if (!line || !('chords' in line)) return;
    const verse = cutAt(row, columns).flatMap((piece, index) =>
      piece === '' ? [] : [{ chord: index - 1, text: piece }],
    );
    if (verse.length > 0) line.verses = [verse];
  }

  add(line: ChartLine): void {
    if ('chords' in line ? line.chords.length === 0 : line.bars === '') return;
    this.open ??= { name: 'Song', lines: [], times: 1 };
    this.open.lines.push(line);
  }

  /** Takes a line of chords, whatever stands between them. */
  line(row: string, number: number): void {
    const { rest, times } = timesOf(row);
    const unknown = wordsOf(rest).filter((word) => !isChord(word) && !isFiller(word));
    for (const text of unknown) this.leave(number, text);
    const known = rest.split(/(\s+|\|)/).map((word) => (unknown.includes(word) ? '' : word));
    const kept = known.join('');
    this.chart.german ||= wordsOf(kept).some((word) => GERMAN.test(word));
    if (rest.includes('|')) this.add({ bars: barsOf(kept), times });
    else this.add({ chords: wordsOf(kept).filter(isChord), times });
  }

  leave(line: number, text: string): void {
    this.chart.left.push({ line, text: text.slice(0, 60) });
  }

  header(name: string, times = 1): void {
    this.begin(name.slice(0, 40), times);
  }

  /** What a row says of the song before it begins; a second title is none, and is told. */
  titled(row: string, number: number): void {
    const { title, capo, tempo, meter } = readTitle(row);
    const isSilent = title === null && capo === null && tempo === null && meter === null;
    if (isSilent || (title && this.chart.title)) {
      this.leave(number, row);
    }
    this.chart.title ??= title;
    this.chart.capo ??= capo;
    this.chart.tempo ??= tempo;
    this.chart.meter ??= meter;
  }

  directive(body: string): void {
    const [, key = '', value = ''] = /^\s*([\w-]+)\s*:?\s*(.*)$/s.exec(body) ?? [];
    const name = key.toLowerCase();
    const text = value.trim();
    const starts = /^(?:start_of_|so)(verse|chorus|bridge|grid|v|c|b|g)$/.exec(name);
    if (starts) return this.begin(label(text) || SECTION_NAMES[starts[1]!]!);
    if (/^(end_of_|eo)/.test(name)) return this.end();
    switch (name) {
      case 'title':
      case 't':
        this.chart.title = text.slice(0, 120) || null;
        break;
      case 'tempo':
        this.chart.tempo = Number(text) >= 20 && Number(text) <= 300 ? Number(text) : null;
        break;
      case 'time':
        this.chart.meter = meterOf(text);
        break;
      case 'capo':
        this.chart.capo = Number(text) >= 0 && Number(text) <= 20 ? Math.round(Number(text)) : null;
        break;
      case 'comment':
      case 'c':
        if (/^[\w ]{1,40}:?$/.test(text)) this.begin(text.replace(/:$/, ''));
        break;
      case 'chorus': {
        this.end();
        const again = this.chart.sections.find((section) => section.name.startsWith('Chorus'));
        if (again) this.chart.order.push(again.name);
        break;
      }
      case `${OWN_DIRECTIVE}words`: {
        const own = readOwnWords(value);
        if (own) this.chart.ownWords.push(own);
        break;
      }
      case `${OWN_DIRECTIVE}meter`:
        this.chart.meter = readOwnMeter(text) ?? this.chart.meter;
        break;
      case `${OWN_DIRECTIVE}progression`:
        this.chart.progression = [this.chart.progression, value.trimEnd()]
          .filter((part) => part !== null)
          .join('\n');
    }
  }
}

/** The label of a section: its text, or the one in `label="..."`. */
function label(text: string): string {
  const quoted = /label\s*=\s*"([^"]*)"/.exec(text);
  return (quoted ? quoted[1]! : text).slice(0, 40).trim();
}

const versesIn = (lines: ChartLine[]) => lines.map(({ verses }) => verses?.[0] ?? []);

/** Letters within which a chord that stands over the middle of a word was meant for the beginning of it, or of the next. */
const NEAR_EDGE = 2;

/** The column, or the edge of the word that it is near to: chords are seldom put to the letter. */
function wordEdge(row: string, column: number): number {
  const inWord = (at: number) => /[\p{L}\p{N}’']/u.test(row[at] ?? ' ');
  if (!inWord(column) || !inWord(column - 1)) return column;
  for (let by = 1; by <= NEAR_EDGE; by += 1) if (!inWord(column - by - 1)) return column - by;
  return inWord(column + 1) ? column : column + 1;
}

/** A row of words cut at columns; what is cut within a word gets a hyphen. The first piece lies before the first. */
function cutAt(row: string, columns: number[]): string[] {
  const places = columns.map((column) => wordEdge(row, column));
  const ends = [...places, row.length];
  return [0, ...places].map((from, index) => {
    const to = Math.max(from, Math.min(row.length, ends[index]!));
    const piece = cleanWord(row.slice(from, to));
    const within = /\S/.test(row[to - 1] ?? ' ') && /\S/.test(row[to] ?? ' ');
    return piece !== '' && within && !piece.endsWith('-') ? `${piece}-` : piece;
  });
}

/** Chords in brackets, with the words that follow each; or where a bracket is not closed, its column. */
function bracketed(text: string): { chords: string[]; words: string[] } | number {
  const chords: string[] = [];
  /** What stands before the first chord, and after each. */
  const words = [''];
  let at = 0;
  for (;;) {
    const from = text.indexOf('[', at);
    words[words.length - 1] += text.slice(at, from < 0 ? undefined : from);
    if (from < 0) return { chords, words };
    const to = text.indexOf(']', from);
    if (to < 0) return from + 1;
    const chord = text.slice(from + 1, to).trim();
    // A star marks a remark in place of a chord.
    if (chord && !chord.startsWith('*')) {
      chords.push(chord.replaceAll(/\s+/g, ''));
      words.push('');
    }
    at = to + 1;
  }
}

/** Words between chords as pieces: a word that a chord parts gets a hyphen. */
function piecesBetween(words: string[], isKept: (chord: number) => boolean): ChartPiece[] {
  const texts = words.map((text, index) => {
    const clean = cleanWord(text);
    const goesOn = /\S$/.test(text) && /^\S/.test(words[index + 1] ?? ' ');
    return clean !== '' && goesOn && !clean.endsWith('-') ? `${clean}-` : clean;
  });
  const pieces: { chord: number; text: string }[] = [];
  let chord = -1;
  texts.forEach((text, index) => {
    if (index > 0 && isKept(index - 1)) chord += 1;
    const last = pieces.at(-1);
    if (text === '') return;
    if (last?.chord === chord) last.text = cleanWord(`${last.text} ${text}`);
    else pieces.push({ chord, text });
  });
  return pieces;
}

/** A song is kept in no more than a megabyte. */
const MAX_CHART_LETTERS = 1_000_000;

/**
 * Reads ChordPro, or a plain chart: lines of chords alone over words, with `Verse:` or `[Verse]` as headers.
 * Tablature among them is read into what is played in its bars.
 * @param wish how it is to be read where it leaves that open
 * @returns what it says; or the first place that cannot be read, with line and column
 * @example readChart('{title: Towpath}\n[G]Down the [C]towpath').chart.sections[0].lines // [{ chords: ['G', 'C'] }]
 */
export function readChart(text: string, wish: ChartWish = {}): ChartAnswer {
  if (text.length > MAX_CHART_LETTERS) {
    const line = text.slice(0, MAX_CHART_LETTERS).split('\n').length;
    const message = `This chart is longer than a song can be: ${MAX_CHART_LETTERS / 1e6} million letters are the most.`;
    return { problem: { line, column: 1, message } };
  }
  const reader = new ChartReader();
  const rows = text
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)
    .map(expanded);
  const tabs = new TabReader(rows, chordsInRow, wish);
  /** Columns of the chords of the row before, where words may stand under them. */
  let columns: number[] | null = null;
  for (const [index, row] of rows.entries()) {
    const over = columns;
    columns = null;
    const fail = (column: number, message: string): ChartAnswer => ({
      problem: { line: index + 1, column, message },
    });
    const trimmed = row.trim();
    if (trimmed === '' || trimmed.startsWith('#')) continue;
    const tab = tabs.at(index, reader.chart);
    if (tab) {
      for (const text of tab.left) reader.leave(index + 1, text);
      if (tab.line) reader.add(tab.line);
    }
    if (tabs.holds(index)) continue;
    const directive = DIRECTIVE.exec(row);
    if (directive) {
      reader.directive(directive[1]!);
      continue;
    }
    if (trimmed.startsWith('{')) return fail(row.indexOf('{') + 1, 'This brace is not closed.');
    const head = readHead(trimmed);
    if (head && !isChord(head.name)) {
      reader.header(head.name, head.times);
      continue;
    }
    if (reader.isAtHead && TUNING.test(trimmed)) continue;
    const lead = /^\[?([A-Za-z][\w ]{0,38})\]?:\s+(\S.*)$/.exec(trimmed);
    if (lead && isChordLine(timesOf(lead[2]!).rest)) {
      reader.header(lead[1]!.trim());
      reader.line(lead[2]!, index + 1);
      continue;
    }
    if (isChordLine(timesOf(trimmed).rest)) {
      reader.line(trimmed, index + 1);
      if (!trimmed.includes('|')) columns = columnsOf(row);
      continue;
    }
    if (over && !row.includes('[')) {
      reader.wordsUnder(row, over);
      continue;
    }
    const found = bracketed(row);
    if (typeof found === 'number') return fail(found, 'This bracket is not closed.');
    if (found.chords.length === 0) {
      if (reader.isAtHead) reader.titled(trimmed, index + 1);
      else reader.leave(index + 1, trimmed);
      continue;
    }
    const chords = found.chords.filter(isChord);
    for (const other of found.chords) if (!isChord(other)) reader.leave(index + 1, other);
    reader.chart.german ||= chords.some((chord) => GERMAN.test(chord));
    const verse = piecesBetween(found.words, (at) => isChord(found.chords[at]!));
    reader.add({ chords, times: 1, ...(verse.length > 0 && { verses: [verse] }) });
  }
  reader.end();
  const { chart } = reader;
  tabs.finish(chart);
  if (chart.sections.length === 0 && chart.progression === null) {
    return { problem: { line: 1, column: 1, message: 'There is no chord in this file.' } };
  }
  return { chart };
}

/** The chords over tablature, each with its column from 0, and the meter before one, `(2/4)D`; none where the row has more. */
export function chordsInRow(row: string): TabRows['chords'] {
  const words = [...row.matchAll(/(?:\((\d{1,2})\/(\d{1,2})\))?(\S*)/g)].filter(([all]) => all);
  const known = words.filter(([, beats, , chord]) => beats || isChord(chord!));
  const saysMeter = words.some(([, beats]) => beats);
  if (known.length === 0 || (!saysMeter && known.length * 2 < words.length)) return [];
  return words.map(({ index, 1: beats, 2: unit, 3: chord }) => {
    const meter = beats ? meterOfBeats(Number(beats), Number(unit)) : null;
    const symbol = chord && isChord(chord) ? asB(chord) : null;
    return { column: index, symbol, ...(meter && { meter }) };
  });
}

/** Where the chords of a row stand, from 0. */
const columnsOf = (row: string): number[] =>
  [...row.matchAll(/\S+/g)].flatMap(({ index, 0: word }) => (isChord(word) ? [index] : []));

/** Bars as they are written here: repeats of a grid and its slashes are dots; so is a bar of which nothing is left. */
function barsOf(row: string): string {
  const cells = row.replaceAll(/:?\|+[:.]?/g, '|').split('|');
  // What stands before the first bar line and after the last is only a bar if there is something in it.
  const inner = cells.filter(
    (cell, index) => cell.trim() !== '' || (index > 0 && index < cells.length - 1),
  );
  const bars = inner.map((cell) => cell.trim().replaceAll(/(^|\s)[-/](?=\s|$)/g, '$1.'));
  return bars.map((cell) => (/^[.\s]*$/.test(cell) ? '.' : cell)).join(' | ');
}

/** How long a chord of a chart lasts that has no bar lines. */
export const CHART_RULES = ['bar', 'half', 'two'] as const;
export type ChartRule = (typeof CHART_RULES)[number];

function lineOf(line: ChartLine, rule: ChartRule): string {
  const times = line.times > 1 ? ` x${line.times}` : '';
  if ('bars' in line) return line.bars + times;
  const { chords } = line;
  if (rule === 'bar') return chords.join(' | ') + times;
  if (rule === 'two') return chords.map((chord) => `${chord} | .`).join(' | ') + times;
  const bars: string[] = [];
  for (let at = 0; at < chords.length; at += 2) bars.push(chords.slice(at, at + 2).join(' '));
  return bars.join(' | ') + times;
}

/** What a chart that writes H means by it, and by B. */
function inEnglish(line: ChartLine, flat: boolean): ChartLine {
  const chord = (word: string) => {
    if (GERMAN.test(word) && isChord(word)) return asB(word);
    return flat && /^B(?![b#♭♯])/.test(word) && isChord(word) ? `Bb${word.slice(1)}` : word;
  };
  if ('chords' in line) return { ...line, chords: line.chords.map(chord) };
  return { ...line, bars: line.bars.split(' ').map(chord).join(' ') };
}

/**
 * The progression of a chart, as it is written here.
 * @param rule how long each chord lasts: a bar, half of one, or two
 * @param flat in a chart that writes H for B: its B is a B flat
 * @example chartProgression(chart, 'half') // 'Verse:\nG C | D G'
 */
export function chartProgression(chart: ChartReading, rule: ChartRule, flat = true): string {
  if (chart.progression !== null) return chart.progression;
  const english = (line: ChartLine) => (chart.german ? inEnglish(line, flat) : line);
  const rows = chart.sections.flatMap(({ name, lines }) => [
    `${name}:`,
    ...lines.map((line) => lineOf(english(line), rule)),
  ]);
  const written = chart.sections.map(({ name }) => name);
  if (chart.order.join('\n') !== written.join('\n')) rows.push(`Order: ${chart.order.join(', ')}`);
  return rows.join('\n');
}
