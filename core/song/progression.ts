import {
  type Bar,
  chordTextSchema,
  type Line,
  type Meter,
  type Placement,
  type Section,
  sectionSchema,
} from '../schema';
import { isNoChord, nearestChords, parseChord } from '../neck';
import { barTicks, beatTicks, EIGHTH, SIXTEENTH } from '../time';

/** A place in the typed text that needs the player, with one sentence. Offsets count characters. */
export interface TextProblem {
  from: number;
  to: number;
  message: string;
  /** What may have been meant instead; the nearest first. */
  readings?: string[];
}

export interface ProgressionReading {
  sections: Section[];
  problems: TextProblem[];
}

interface Piece {
  text: string;
  from: number;
}

function pieces(text: string, from: number, separator: RegExp): Piece[] {
  const found: Piece[] = [];
  let start = 0;
  for (const match of [...text.matchAll(separator), null]) {
    const end = match ? match.index : text.length;
    found.push({ text: text.slice(start, end), from: from + start });
    start = end + (match?.[0].length ?? 0);
  }
  return found;
}

function words(piece: Piece): Piece[] {
  return [...piece.text.matchAll(/\S+/g)].map((match) => ({
    text: match[0],
    from: piece.from + match.index,
  }));
}

const HOLD = '.';
const REPEAT_BAR = '%';
const TIMES = /^x(\d+)$/;
const SECTION = /^(.*):$/;
const MAX_TIMES = 32;
/** Letters of a bar that cannot be read which are kept. */
const MAX_UNREAD = 4000;

/** Chords share a bar equally where each share is a whole number of half beats. */
function shareOf(meter: Meter, chords: number): number | null {
  const share = barTicks(meter) / chords;
  return share % (beatTicks(meter) / 2) === 0 ? share : null;
}

const PUSHES: Record<string, Placement['push'] | undefined> = {
  '': 0,
  '<': EIGHTH,
  '<<': SIXTEENTH,
};
const PUSH_MARKS: Record<Placement['push'], string> = { 0: '', [EIGHTH]: '<', [SIXTEENTH]: '<<' };

/** Reads the words of one bar; the bar before stands ready for `%`. */
class BarReader {
  readonly problems: TextProblem[] = [];

  constructor(
    private readonly meter: Meter,
    /** True for the first bar of all, which nothing can land before. */
    private readonly opening: boolean,
  ) {}

  private problem(at: Piece, message: string, readings?: string[]): void {
    const to = at.from + Math.max(1, at.text.length);
    this.problems.push({ from: at.from, to, message, ...(readings?.length ? { readings } : {}) });
  }

  read(bar: Piece, previous: Bar | undefined): Bar {
    const tokens = words(bar);
    if (tokens.length === 0) {
      this.problem(bar, 'This bar is empty: write a chord, % for the bar before, or . to hold.');
      return { chords: [], unread: '' };
    }
    if (tokens.length === 1 && tokens[0]!.text === REPEAT_BAR) {
      // A bar that cannot be read is not repeated: its words are mended in one place.
      if (previous?.unread !== undefined) return { chords: [], unread: REPEAT_BAR };
      if (previous) return previous;
      this.problem(tokens[0]!, 'There is no bar before this one that % could repeat.');
      return { chords: [], unread: REPEAT_BAR };
    }
    const kept = tokens.map((token) => token.text).join(' ');
    const unread = { chords: [], unread: kept.slice(0, MAX_UNREAD) };
    const starts = this.starts(tokens, bar);
    if (starts === null) return unread;
    const placements = tokens.map((token, index) =>
      token.text === HOLD ? null : this.placement(token, starts[index]!),
    );
    if (placements.includes(undefined)) return unread;
    return { chords: placements.filter((placement) => placement != null) };
  }

  /** Ticks at which each word of the bar begins, or null (and a problem) where they do not fit. */
  private starts(tokens: Piece[], bar: Piece): number[] | null {
    const { beats } = this.meter;
    const dotted = tokens.some((token) => token.text === HOLD) && tokens.length > 1;
    const step = dotted ? beatTicks(this.meter) : shareOf(this.meter, tokens.length);
    const trimmed = { text: bar.text.trim(), from: tokens[0]!.from };
    if (step === null) {
      this.problem(
        trimmed,
        `${tokens.length} chords cannot share ${beats} beats equally: hold some longer with dots.`,
      );
      return null;
    }
    if (dotted && tokens.length !== beats) {
      const fill =
        tokens.length < beats ? 'add a dot for each beat that is missing' : 'take some out';
      this.problem(trimmed, `This bar fills ${tokens.length} of ${beats} beats: ${fill}.`);
      return null;
    }
    return tokens.map((_, index) => index * step);
  }

  /** Undefined (and a problem) where the word cannot be kept as a chord at all. */
  private placement(token: Piece, at: number): Placement | undefined {
    const [, marks, symbol] = /^(<*)(.*)$/.exec(token.text) as unknown as [string, string, string];
    const push = PUSHES[marks];
    if (push === undefined) {
      this.problem(token, 'A chord can land early by < (an eighth) or << (a sixteenth), no more.');
      return undefined;
    }
    if (push > 0 && at === 0 && this.opening) {
      this.problem(token, 'The first chord of all cannot land early: no bar comes before it.');
      return undefined;
    }
    if (!chordTextSchema.safeParse(symbol).success) {
      const message = TIMES.test(symbol)
        ? 'A repeat like x2 belongs at the end of its line.'
        : `“${token.text}” cannot be read as a chord.`;
      this.problem(token, message);
      return undefined;
    }
    if (!parseChord(symbol) && !isNoChord(symbol)) {
      const name = { text: symbol, from: token.from + marks.length };
      const message = `“${symbol}” is not a chord we know; this place stays silent until it is.`;
      this.problem(name, message, nearestChords(symbol));
    }
    return { at, push, symbol };
  }
}

/**
 * Reads a progression as players type it.
 *
 * Bars are set apart by `|`; chords in a bar share it equally, or a dot holds one more beat; `%`
 * repeats the bar before it; `<E7` lands an eighth early, `<<E7` a sixteenth; `x2` at the end of a
 * line repeats it; a line that ends in `:` names a section. What cannot be read keeps its bar and
 * its words (`Bar.unread`), and the rest still works.
 *
 * @example readProgression('A | F#m | D . E7 . | %', METERS['4/4']).sections[0].lines[0].bars.length // 4
 */
export function readProgression(text: string, meter: Meter): ProgressionReading {
  const sections: Section[] = [];
  const problems: TextProblem[] = [];
  let opening = true;
  let previous: Bar | undefined;

  for (const row of pieces(text, 0, /\r?\n/g)) {
    const trimmed = row.text.trim();
    if (trimmed === '') continue;
    const header = SECTION.exec(trimmed);
    if (header) {
      const name = sectionSchema.shape.name.safeParse(header[1]!.replaceAll('|', ' '));
      if (!name.success || name.data === '') {
        const from = row.from + row.text.indexOf(trimmed);
        const message = 'A section needs a name of 1 to 40 letters before the colon.';
        problems.push({ from, to: from + trimmed.length, message });
      }
      sections.push({
        name: header[1]!.replaceAll('|', ' ').trim().slice(0, 40).trim(),
        lines: [],
      });
      previous = undefined;
      continue;
    }
    const { line, found } = readLine(row, meter, opening, previous);
    problems.push(...found);
    if (sections.length === 0) sections.push({ name: '', lines: [] });
    sections.at(-1)!.lines.push(line);
    previous = line.bars.at(-1);
    opening = false;
  }
  return { sections, problems };
}

function readLine(
  row: Piece,
  meter: Meter,
  opening: boolean,
  before: Bar | undefined,
): { line: Line; found: TextProblem[] } {
  const found: TextProblem[] = [];
  let body = row.text;
  let times = 1;
  const repeat = /(?:^|\s|\|)(x(\d+))\s*$/.exec(body);
  if (repeat && body.slice(0, body.lastIndexOf(repeat[1]!)).trim() !== '') {
    const at = body.lastIndexOf(repeat[1]!);
    times = Number(repeat[2]);
    if (times < 1 || times > MAX_TIMES) {
      const message = `A line can be played 1 to ${MAX_TIMES} times.`;
      found.push({ from: row.from + at, to: row.from + at + repeat[1]!.length, message });
      times = Math.min(MAX_TIMES, Math.max(1, times));
    }
    body = body.slice(0, at);
  }
  const cells = pieces(body, row.from, /\|/g);
  if (cells.length > 1 && cells[0]!.text.trim() === '') cells.shift();
  if (cells.length > 1 && cells.at(-1)!.text.trim() === '') cells.pop();

  const bars: Bar[] = [];
  for (const cell of cells) {
    const reader = new BarReader(meter, opening && bars.length === 0);
    bars.push(reader.read(cell, bars.at(-1) ?? before));
    found.push(...reader.problems);
  }
  return { line: { bars, times }, found };
}

/** The starts that a bar's chords would have if they shared it equally. */
function sharesEqually(bar: Bar, meter: Meter): boolean {
  const share = shareOf(meter, bar.chords.length);
  return share !== null && bar.chords.every((chord, index) => chord.at === index * share);
}

function printBar(bar: Bar, meter: Meter): string {
  if (bar.unread !== undefined) return bar.unread;
  const word = (chord: Placement) => `${PUSH_MARKS[chord.push]}${chord.symbol}`;
  if (bar.chords.length === 0) return HOLD;
  if (sharesEqually(bar, meter)) return bar.chords.map(word).join(' ');
  const beat = beatTicks(meter);
  return Array.from({ length: meter.beats }, (_, index) => {
    const chord = bar.chords.find((candidate) => candidate.at === index * beat);
    return chord ? word(chord) : HOLD;
  }).join(' ');
}

function sameBar(a: Bar, b: Bar): boolean {
  return (
    a.unread === b.unread &&
    a.chords.length === b.chords.length &&
    a.chords.every((chord, index) => {
      const other = b.chords[index]!;
      return chord.at === other.at && chord.push === other.push && chord.symbol === other.symbol;
    })
  );
}

/**
 * Prints sections as the text that reads back to them. A bar that is the same as the one before it
 * in its line is printed `%`.
 * @example printProgression(readProgression('A|A', METERS['4/4']).sections, METERS['4/4']) // 'A | %'
 */
export function printProgression(sections: Section[], meter: Meter): string {
  const rows = sections.flatMap((section, index) => {
    const opens = index === 0 && section.name === '' && section.lines.length > 0;
    const header = opens ? [] : [`${section.name}:`];
    const lines = section.lines.map((line) => {
      const bars = line.bars.map((bar, at) => {
        const before = line.bars[at - 1];
        return before && bar.unread === undefined && sameBar(before, bar)
          ? REPEAT_BAR
          : printBar(bar, meter);
      });
      // An empty first or last cell would pass for an outer bar line, so it is given one.
      const open = bars[0] === '' ? '| ' : '';
      const close = bars.at(-1) === '' ? ' |' : '';
      const repeat = line.times > 1 ? ` x${line.times}` : '';
      return `${open}${bars.join(' | ')}${close}${repeat}`;
    });
    return [...header, ...lines];
  });
  return rows.join('\n');
}
