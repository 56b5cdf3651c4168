import {
  type Bar,
  chordTextSchema,
  type DegreeStyle,
  isPlayed,
  type Line,
  type Meter,
  type Passage,
  type Placement,
  type Section,
  sectionSchema,
  type Substitute,
  MAX_LINES,
  MAX_PASSAGES,
  MAX_SUBSTITUTES,
  MAX_TIMES,
  MAX_SECTION_LETTERS,
  type TimeRound,
  roundsOf,
  type RoundsOver,
  tooMuch,
  MAX_UNREAD_LETTERS,
} from '../schema';
import {
  isDegree,
  isNoChord,
  type Key,
  nearestChords,
  parseChord,
  readDegree,
  readKey,
  writtenKey,
} from '../neck';
import { EIGHTH, meterByName, SIXTEENTH } from '../time';
import { FINER, HOLD, REPEAT_BAR, type BarGrid, gridOf, shareOf } from './progressionSyntax';

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
  /** The order of passages, where the text names one. */
  order: Passage[] | undefined;
  /** Where the text says that times round are counted over the whole song. */
  endings: RoundsOver;
  /** The key, where the text names one; and how chords are written by its steps, where any is. */
  key: Key | undefined;
  degrees: DegreeStyle | undefined;
  problems: TextProblem[];
  /** True where it would unfold to more than can be worked out: no song takes it (`tooMuch`). */
  tooLong: boolean;
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

const TIMES = /^x(\d+)$/;
const SECTION = /^(.*):$/;
/** `Order: Verse, Chorus x2, Verse`. */
const ORDER = /^(\s*order\s*:)(.*\S.*)$/i;
/** `Key: G`. */
const KEY = /^(\s*key\s*:)(.*\S.*)$/i;
/** `Endings: over the song`. */
const ENDINGS = /^(\s*endings\s*:)(.*\S.*)$/i;
const OVER_THE_SONG = /^(?:over|of|in) the (?:whole )?song$/i;
/** `1) A | E7`, `1,3) A`, `last) A`: an ending, for those times round. */
const ENDING = /^\s*(last|\d+(?:\s*,\s*\d+)*)\)/i;
/** `(2/4) A`: a bar of another meter; `(pickup 1) E7`: only its last beat. */
const OF_ITS_OWN = /^\s*\((?:(\d+\/\d+)|pick-?up\s+(\d+))\)/i;
const IN_BRACKETS = /^\s*\(/;
/** `A[2=Am7,last=A6]~`: what the chord is, what stands in for it, and whether it is held. */
const CHORD_WORD = /^(<*)([^[\]~]*)(?:\[([^[\]]*)\])?(~)?$/;

const PUSHES: Record<string, Placement['push'] | undefined> = {
  '': 0,
  '<': EIGHTH,
  '<<': SIXTEENTH,
};

/** In 6/8, 9/8 and 12/8 a dot may hold for an eighth, or for a beat of three. */
const EIGHTHS = 3;

/** Reads the words of one bar; the bar before stands ready for `%`. */
class BarReader {
  readonly problems: TextProblem[] = [];

  constructor(
    private readonly meter: Meter,
    /** True for the first bar of all, which nothing can land before. */
    private readonly opening: boolean,
    private readonly key: Key | undefined,
  ) {}

  /** How chords were written by steps of the key; undefined where none was. */
  style: DegreeStyle | undefined;

  /** The chord that a word names, by its step of the key where one is named. */
  private named(word: string): string {
    if (!this.key || !isDegree(word)) return word;
    const symbol = readDegree(word, this.key);
    if (!symbol) return word;
    this.style ??= /\d/.test(word[0]!) || /^[b#]\d/.test(word) ? 'numbers' : 'roman';
    return symbol;
  }

  private problem(at: Piece, message: string, readings?: string[]): void {
    const to = at.from + Math.max(1, at.text.length);
    this.problems.push({ from: at.from, to, message, ...(readings?.length ? { readings } : {}) });
  }

  read(cell: Piece, previous: Bar | undefined): Bar {
    const all = words(cell);
    if (all.length === 0) {
      this.problem(cell, 'This bar is empty: write a chord, % for the bar before, or . to hold.');
      return { chords: [], unread: '' };
    }
    if (all.length === 1 && all[0]!.text === REPEAT_BAR) {
      // A bar that cannot be read is not repeated: its words are mended in one place.
      if (previous?.unread !== undefined) return { chords: [], unread: REPEAT_BAR };
      if (previous) return previous;
      this.problem(all[0]!, 'There is no bar before this one that % could repeat.');
      return { chords: [], unread: REPEAT_BAR };
    }
    const kept = all.map((token) => token.text).join(' ');
    const unread = { chords: [], unread: kept.slice(0, MAX_UNREAD_LETTERS) };
    const begun = this.ownMeter(cell);
    if (!begun) return unread;
    const { own, rest } = begun;
    const tokens = words(rest);
    if (tokens.length === 0) {
      const message = 'This bar has a meter but no chord: write one, or . to hold.';
      this.problem({ ...cell, text: cell.text.trimEnd() }, message);
      return unread;
    }
    const starts = this.starts(tokens, rest, gridOf(own, this.meter));
    if (starts === null) return unread;
    const placements = tokens.map((token, index) =>
      token.text === HOLD ? null : this.placement(token, starts[index]!),
    );
    if (placements.includes(undefined)) return unread;
    return { chords: placements.filter((placement) => placement != null), ...own };
  }

  /** The meter or the pick-up that a bar begins with; null (and a problem) where it cannot be. */
  private ownMeter(cell: Piece): { own: Pick<Bar, 'meter' | 'pickup'>; rest: Piece } | null {
    if (!IN_BRACKETS.test(cell.text)) return { own: {}, rest: cell };
    const found = OF_ITS_OWN.exec(cell.text);
    const skipped = found?.[0].length ?? 0;
    const rest = { text: cell.text.slice(skipped), from: cell.from + skipped };
    const meter = found?.[1] ? meterByName(found[1]) : null;
    const pickup = Number(found?.[2] ?? 0);
    if (meter) return { own: { meter }, rest };
    if (pickup >= 1 && pickup < this.meter.beats) return { own: { pickup }, rest };
    const from = cell.from + cell.text.indexOf('(');
    const text = /^\([^)\s]*(?:\s+[^)\s]*)?\)?/.exec(cell.text.trimStart())![0];
    this.problem(
      { text, from },
      `“${text}” is no meter and no pick-up: write (2/4) or (pickup 1), of 1 to ${Math.max(1, this.meter.beats - 1)} beats.`,
    );
    return null;
  }

  /** Ticks at which each word of the bar begins, or null (and a problem) where they do not fit. */
  private starts(tokens: Piece[], bar: Piece, grid: BarGrid): number[] | null {
    const { beats, beat } = grid;
    const dotted = tokens.some((token) => token.text === HOLD) && tokens.length > 1;
    const finer =
      FINER.find((count) => tokens.length === beats * count) ??
      (beat === EIGHTH && tokens.length * EIGHTHS === beats ? 1 / EIGHTHS : undefined);
    const step = dotted ? beat / (finer ?? 1) : shareOf(grid, tokens.length);
    const trimmed = { text: bar.text.trim(), from: tokens[0]!.from };
    if (step === null) {
      this.problem(
        trimmed,
        `${tokens.length} chords cannot share ${beats} beats equally: hold some longer with dots.`,
      );
      return null;
    }
    if (dotted && finer === undefined) {
      const fill =
        tokens.length < beats ? 'add a dot for each beat that is missing' : 'take some out';
      this.problem(trimmed, `This bar fills ${tokens.length} of ${beats} beats: ${fill}.`);
      return null;
    }
    return tokens.map((_, index) => index * step);
  }

  /** Undefined (and a problem) where the word cannot be kept as a chord at all. */
  private placement(token: Piece, at: number): Placement | undefined {
    const read = CHORD_WORD.exec(token.text);
    if (!read) {
      const message = `“${token.text}” cannot be read: a chord for another time goes in brackets, “A[2=Am7]”.`;
      this.problem(token, message);
      return undefined;
    }
    const [, marks = '', written = '', others, fermata] = read;
    const symbol = this.named(written);
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
    this.judge(symbol, token.from + marks.length, written.length);
    const substitutes = others === undefined ? [] : this.substitutes(others, token);
    if (substitutes === null) return undefined;
    return {
      at,
      push,
      symbol,
      ...(substitutes.length > 0 && { substitutes }),
      ...(fermata && { fermata: true }),
    };
  }

  /** Tells where a symbol is no chord that we know. */
  private judge(symbol: string, from: number, letters: number): void {
    if (parseChord(symbol) || isNoChord(symbol)) return;
    if (isDegree(symbol)) {
      const message = this.key
        ? `“${symbol}” is no chord of a key that we know; this place stays silent until it is.`
        : `“${symbol}” is a step of a key: name the key in a line of its own, as in “Key: G”.`;
      this.problem({ text: 'x'.repeat(letters), from }, message);
      return;
    }
    const message = `“${symbol}” is not a chord we know; this place stays silent until it is.`;
    this.problem({ text: symbol, from }, message, nearestChords(symbol));
  }

  /** `2=Am7,last=A6`; null (and a problem) where it cannot be read. */
  private substitutes(text: string, token: Piece): Substitute[] | null {
    const start = token.from + token.text.indexOf('[') + 1;
    const found: Substitute[] = [];
    for (const piece of pieces(text, start, /,/g)) {
      const [, when = '', written = ''] = /^(\d+|last)=(.+)$/i.exec(piece.text) ?? [];
      const symbol = this.named(written);
      const time: TimeRound = when.toLowerCase() === 'last' ? 'last' : Number(when);
      const inRange = time === 'last' || (time >= 1 && time <= MAX_TIMES);
      if (!inRange || when === '' || !chordTextSchema.safeParse(symbol).success) {
        const message = `“${piece.text}” cannot be read: write the time and the chord, “2=Am7” or “last=A6”.`;
        this.problem(piece, message);
        return null;
      }
      this.judge(symbol, piece.from + when.length + 1, written.length);
      found.push({ time, symbol });
    }
    return found.slice(0, MAX_SUBSTITUTES);
  }
}

/**
 * Reads a progression as players type it.
 *
 * Bars are set apart by `|`; chords in a bar share it equally, or a dot holds one more beat (or a half, a
 * third, a quarter of one, where a bar has twice, three or four times as many words as beats); `%`
 * repeats the bar before it; `<E7` lands an eighth early, `<<E7` a sixteenth; `x2` at the end of a
 * line repeats it; a line that ends in `:` names a section; a line that begins with `1)` or `last)` is an
 * ending; `Order: Verse, Chorus x2` says in which order sections are played, `Verse +2` a whole step up, `last line of Verse`
 * as an intro; endings are counted in each passage, or with `Endings: over the song` over all; a bar that begins with
 * `(2/4)` is in another meter, with `(pickup 1)` a pick-up of one beat; `A[2=Am7]` is another chord the
 * second time round; `A~` is struck once and held; after `Key: G` chords may be written by their steps, `1 5 6m 4` or
 * `I V vi IV`. What cannot be read keeps its bar and its words (`Bar.unread`), and the rest still works.
 *
 * @example readProgression('A | F#m | D . E7 . | %', METERS['4/4']).sections[0].lines[0].bars.length // 4
 */
export function readProgression(text: string, meter: Meter): ProgressionReading {
  const sections: Section[] = [];
  const problems: TextProblem[] = [];
  let opening = true;
  let previous: Bar | undefined;
  let ordered: Piece | undefined;
  let degrees: DegreeStyle | undefined;
  let endings: RoundsOver;
  /** The lines that are endings, where they are written. */
  const written: { line: Line; at: Piece }[] = [];
  const key = keyIn(text);

  for (const row of pieces(text, 0, /\r?\n/g)) {
    const trimmed = row.text.trim();
    if (trimmed === '') continue;
    const order = ORDER.exec(row.text);
    if (order) {
      ordered = { text: order[2]!, from: row.from + order[1]!.length };
      continue;
    }
    const counted = ENDINGS.exec(row.text);
    if (counted) {
      const words = counted[2]!.trim();
      if (OVER_THE_SONG.test(words)) endings = 'song';
      else {
        const from = row.from + row.text.indexOf(words, counted[1]!.length);
        const message =
          'Endings are counted in each passage; or write “Endings: over the song”, and leave this line out otherwise.';
        problems.push({ from, to: from + words.length, message });
      }
      continue;
    }
    const named = KEY.exec(row.text);
    if (named) {
      const word = named[2]!.trim();
      const read = readKey(word);
      const from = row.from + row.text.indexOf(word, named[1]!.length);
      const tell = (message: string) => problems.push({ from, to: from + word.length, message });
      if (!read) tell(`“${word}” is no key: write G, Em, Bb major.`);
      else if (key && writtenKey(read) !== writtenKey(key)) {
        tell(`The key is ${writtenKey(key)} already: a song names one.`);
      }
      continue;
    }
    const header = SECTION.exec(trimmed);
    if (header) {
      const name = sectionSchema.shape.name.safeParse(header[1]!.replaceAll('|', ' '));
      if (!name.success || name.data === '') {
        const from = row.from + row.text.indexOf(trimmed);
        const message = 'A section needs a name of 1 to 40 letters before the colon.';
        problems.push({ from, to: from + trimmed.length, message });
      }
      sections.push({
        name: header[1]!.replaceAll('|', ' ').trim().slice(0, MAX_SECTION_LETTERS).trim(),
        lines: [],
      });
      previous = undefined;
      continue;
    }
    const { line, found, style } = readLine(row, { meter, key }, opening, previous);
    degrees ??= style;
    problems.push(...found);
    if (sections.length === 0) sections.push({ name: '', lines: [] });
    sections.at(-1)!.lines.push(line);
    if (line.only !== undefined) written.push({ line, at: row });
    previous = line.bars.at(-1);
    opening = false;
  }
  const order = ordered && readOrder(ordered, sections, problems);
  problems.push(...neverPlayed({ sections, order, endings }, written));
  const much = tooMuch({ sections, order, endings, meter });
  if (much) {
    const at = ordered ?? { text, from: 0 };
    const message = `This ${much}. What you had is kept until it is shorter.`;
    problems.unshift({ from: at.from, to: at.from + at.text.length, message });
  }
  return { sections, order, endings, key, degrees, problems, tooLong: much !== null };
}

/** Tells of endings that never come; those of a section that is left out are not meant now. */
function neverPlayed(
  { sections, order, endings }: Pick<ProgressionReading, 'sections' | 'order' | 'endings'>,
  written: { line: Line; at: Piece }[],
): TextProblem[] {
  if (written.length === 0) return [];
  const names = order
    ? order.flatMap(({ name, times, lastLines }) =>
        lastLines === undefined ? Array<string>(times).fill(name) : [],
      )
    : sections.map(({ name }) => name);
  const rounds = roundsOf(names, endings);
  return written.flatMap(({ line, at }) => {
    const { name } = sections.find(({ lines }) => lines.includes(line))!;
    const here = rounds.filter((_, index) => names[index] === name);
    if (here.length === 0 || here.some((round) => isPlayed(line, round))) return [];
    const label = /^\s*([^)]*\))/.exec(at.text)![1]!;
    const from = at.from + at.text.indexOf(label);
    const often = Math.max(...here.map(({ time }) => time));
    const needed = Math.max(...(line.only as number[]));
    const called = name === '' ? 'this section' : name;
    const message =
      `“${label}” is never played: ${called} comes ${often === 1 ? 'only once' : `only ${often} times in a row`}. ` +
      (name === ''
        ? 'Give it a name and an order, “Order: Verse x2”.'
        : `Write “Order: ${name} x${needed}”.`);
    return [{ from, to: from + label.length, message }];
  });
}

/** The key that a text names, wherever it does; the first that can be read. */
function keyIn(text: string): Key | undefined {
  const lines = text.split(/\r?\n/);
  const keys = lines.flatMap((row) => {
    const named = KEY.exec(row);
    return (named && readKey(named[2]!)) ?? [];
  });
  return keys[0];
}

/** Half steps to the farthest key. */
const FARTHEST_KEY = 11;

/**
 * What the words of a passage ask for: a section by its name, in another key where they end in `+2` or `-3`, and only its
 * end after `last line of`. Where a section is called just so, it is meant.
 */
function readPassage(
  words: string,
  names: Set<string>,
): { word: string; shift: number; lastLines: number } {
  if (names.has(words)) return { word: words, shift: 0, lastLines: 0 };
  const [, before = words, sign, steps] = /^(.*\S)\s*([+−-])\s?(\d{1,2})$/.exec(words) ?? [];
  const shift = sign === undefined ? 0 : (sign === '+' ? 1 : -1) * Number(steps);
  if (names.has(before)) return { word: before, shift, lastLines: 0 };
  const [, lines, name] = /^last\s+(?:line|(\d{1,2})\s+lines)\s+of\s+(.+)$/i.exec(before) ?? [];
  if (name === undefined) {
    // “Verse-2” with no such section is a name that is not known, in no other key.
    return sign === undefined || !/\s[+−-]\s?\d+$/.test(words)
      ? { word: words, shift: 0, lastLines: 0 }
      : { word: before, shift, lastLines: 0 };
  }
  const lastLines = Math.min(MAX_LINES, Math.max(1, Number(lines ?? 1)));
  return { word: name, shift, lastLines };
}

/** Reads the names of passages. One that no section has is kept, and told; undefined for no names. */
function readOrder(
  text: Piece,
  sections: Section[],
  problems: TextProblem[],
): Passage[] | undefined {
  const names = new Set(sections.map(({ name }) => name));
  const passages = pieces(text.text, text.from, /,/g).flatMap((piece): Passage[] => {
    const [, words = '', count = '1'] = /^\s*(.*?)(?:\s+x(\d+))?\s*$/.exec(piece.text) ?? [];
    const from = piece.from + Math.max(0, piece.text.search(/\S/));
    const to = from + Math.max(1, piece.text.trim().length);
    const { word, shift, lastLines } = readPassage(words, names);
    const name = word.slice(0, MAX_SECTION_LETTERS).trim();
    const times = Math.min(MAX_TIMES, Math.max(1, Number(count)));
    if (Math.abs(shift) > FARTHEST_KEY) {
      const message = `A passage goes up to ${FARTHEST_KEY} half steps up or down: “${name} +2”.`;
      problems.push({ from, to, message });
      return [{ name, times }];
    }
    if (name === '' || times !== Number(count)) {
      const message = `A passage is the name of a section, and how often: “Chorus x2”, up to x${MAX_TIMES}.`;
      problems.push({ from, to, message });
    } else if (!names.has(name)) {
      const message = `No section is called “${name}”: it is passed over until one is.`;
      problems.push({ from, to, message, readings: [...names].filter(Boolean).slice(0, 4) });
    }
    const other = { ...(shift !== 0 && { shift }), ...(lastLines > 0 && { lastLines }) };
    return name === '' ? [] : [{ name, times, ...other }];
  });
  return passages.length > 0 ? passages.slice(0, MAX_PASSAGES) : undefined;
}

function readLine(
  row: Piece,
  { meter, key }: { meter: Meter; key: Key | undefined },
  opening: boolean,
  before: Bar | undefined,
): { line: Line; found: TextProblem[]; style: DegreeStyle | undefined } {
  const found: TextProblem[] = [];
  const ending = ENDING.exec(row.text);
  const only = ending ? readEnding(ending[1]!) : undefined;
  const skipped = ending?.[0].length ?? 0;
  const start = row.from + skipped;
  let body = row.text.slice(skipped);
  let times = 1;
  const repeat = /(?:^|\s|\|)(x(\d+))\s*$/.exec(body);
  if (repeat && body.slice(0, body.lastIndexOf(repeat[1]!)).trim() !== '') {
    const at = body.lastIndexOf(repeat[1]!);
    times = Number(repeat[2]);
    if (times < 1 || times > MAX_TIMES) {
      const message = `A line can be played 1 to ${MAX_TIMES} times.`;
      found.push({ from: start + at, to: start + at + repeat[1]!.length, message });
      times = Math.min(MAX_TIMES, Math.max(1, times));
    }
    body = body.slice(0, at);
  }
  const cells = pieces(body, start, /\|/g);
  if (cells.length > 1 && cells[0]!.text.trim() === '') cells.shift();
  if (cells.length > 1 && cells.at(-1)!.text.trim() === '') cells.pop();

  const bars: Bar[] = [];
  let style: DegreeStyle | undefined;
  for (const cell of cells) {
    const reader = new BarReader(meter, opening && bars.length === 0, key);
    bars.push(reader.read(cell, bars.at(-1) ?? before));
    found.push(...reader.problems);
    style ??= reader.style;
  }
  return { line: { bars, times, ...(only && { only }) }, found, style };
}

/** The times round of an ending; undefined where they are no times. */
function readEnding(text: string): Line['only'] {
  if (text.toLowerCase() === 'last') return 'last';
  const times = [...new Set(text.split(',').map(Number))].sort((a, b) => a - b);
  return times.every((time) => time >= 1 && time <= MAX_TIMES) ? times.slice(0, 8) : undefined;
}
