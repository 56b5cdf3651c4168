import { LONGEST_ROW } from './chartRows';
import type { Ticks } from '../plain';
import type { LegatoHow, Meter } from '../schema';
import { barTicks, beatTicks } from '../time';
import { meterOfBeats, pickupOf, type PlacedChord } from './written';

/** One note of tablature, on a string from 1, the highest line. */
export interface TabNote {
  string: number;
  fret: number;
  /** Sounded by the fretting hand, from what rang on its string. */
  how?: LegatoHow;
  /** Struck at this fret and at once joined to its own. */
  from?: number;
  /** In brackets: barely heard. */
  soft: boolean;
}

/** What stands in one column: notes at once, or damped strings. */
export interface TabEvent {
  /** Ticks from the bar line. */
  at: Ticks;
  notes: TabNote[];
  damped: boolean;
}

export interface TabBar {
  meter: Meter;
  /** A pick-up: only so many beats are played, the last ones of the bar. */
  pickup?: number;
  /** In ticks from its first beat that is played. */
  chords: PlacedChord[];
  events: TabEvent[];
  /** False where neither counts nor spacing say when its notes come: then they come one after another. */
  sure: boolean;
}

/** Strings in rows under each other, cut at their bar lines. */
export interface TabSystem {
  /** Names of its strings, the highest first; empty where they have none. */
  names: string[];
  bars: TabBar[];
  times: number;
  /** Signs that were passed over, each once. */
  left: string[];
}

/** Rows of a system, with what stands right over and under it. */
export interface TabRows {
  rows: string[];
  /** Names of chords, with their columns; and where a bar says its meter, that. */
  chords: { column: number; symbol: string | null; meter?: Meter }[];
  counts: string | null;
}

/** How a system is read where it leaves it open. */
export interface TabWish {
  meter: Meter;
  /** Ticks of each note where nothing says when it comes. */
  noteTicks: Ticks;
}

const NAME = /^\s*([A-Ga-g][#b]?)?\s*/;
const TOKEN = /(\()?(\d{1,2}|[xX])(\))?/g;
const HIGHEST_FRET = 36;
const COUNT = /\d{1,2}|&|\+|\band\b|[ea]|\./g;
const COUNT_ROW = /^[\s|]*(?:1?\d|&|\+|[ea]|\.)(?:[\s|]+(?:\d{1,2}|&|\+|and|[ea]|\.))*[\s|]*$/;

/**
 * True for a row of counts, as they stand under tablature.
 * @example isCountRow('  1 & 2 & 3 & 4 &') // true
 */
export const isCountRow = (row: string): boolean =>
  row.length <= LONGEST_ROW && COUNT_ROW.test(row);

/** Beats that the bars of a row of counts have most often; null where it has none. */
export function countedBeats({ rows, counts }: TabRows): number | null {
  if (counts === null) return null;
  const beats = segments(rows).map(
    ([from, to]) => countsIn(counts, from, to).filter(isNumber).length,
  );
  const some = beats.filter((count) => count > 0);
  const often = (count: number) => some.filter((other) => other === count).length;
  return [...some].sort((a, b) => often(b) - often(a) || b - a)[0] ?? null;
}

/** The counts that stand from one column to before another: numbers and what is between them. */
const countsIn = (counts: string, from: number, to: number) =>
  [...counts.matchAll(COUNT)]
    .map(({ index, 0: text }) => ({ column: index, text }))
    .filter(({ column }) => column >= from && column < to);
const isNumber = ({ text }: { text: string }) => /\d/.test(text);

/** The columns of each bar: from the one after its bar line to the next bar line. */
function segments(rows: string[]): [from: number, to: number][] {
  const start = Math.max(...rows.map((row) => NAME.exec(row)![0].length));
  const length = Math.max(...rows.map((row) => row.trimEnd().length));
  const isLine = (column: number) =>
    rows.every((row) => (row[column] ?? '|') === '|' || row[column] === ':');
  const edges = [start - 1];
  for (let column = start; column < length; column += 1) if (isLine(column)) edges.push(column);
  if (edges.at(-1)! < length - 1) edges.push(length);
  return edges.slice(1).flatMap((to, index): [number, number][] => {
    const from = edges[index]! + 1;
    const holds = to - from > 1 && rows.some((row) => /[-–]/.test(row.slice(from, to)));
    return holds ? [[from, to]] : [];
  });
}

/** A token on a string, where it stands. */
interface Token {
  string: number;
  column: number;
  end: number;
  /** Null for a damped string. */
  fret: number | null;
  soft: boolean;
  /** What joins it to the one before on its string, and whether nothing else lies between. */
  how?: LegatoHow;
  before?: Token;
  tight: boolean;
}

const JOINS: [RegExp, LegatoHow][] = [
  [/h/i, 'hammer'],
  [/p/i, 'pull'],
  [/[/\\s]/, 'slide'],
];
/** Signs that are known and have no place here. */
const OTHERS: [RegExp, string][] = [
  [/[br^]/, 'bends'],
  [/t/i, 'taps of the right hand'],
  [/[<>*=.]/, 'signs among the notes'],
];

/** The tokens of a row, each with what joins it to the one before. */
function tokensOf(row: string, string: number, left: Set<string>): Token[] {
  const found: Token[] = [];
  const start = NAME.exec(row)![0].length;
  const body = row.slice(start);
  const add = (column: number, text: string, soft: boolean, end: number) => {
    const before = found.at(-1);
    const between = row.slice(before?.end ?? start, column);
    const signs = between.replaceAll(/[-–|:~\s]/g, '');
    const how = before && JOINS.find(([sign]) => sign.test(signs))?.[1];
    if (!before && /[hp/\\s]/i.test(signs)) left.add('joins from nowhere');
    for (const [sign, name] of OTHERS) if (sign.test(signs)) left.add(name);
    const fret = /x/i.test(text) ? null : Number(text);
    const joins = how && before.fret !== null && fret !== null ? { how, before } : {};
    found.push({ string, column, end, fret, soft, tight: between.length === 1, ...joins });
  };
  for (const match of body.matchAll(TOKEN)) {
    const [all, open, text = '', close] = match;
    const column = start + match.index;
    const isTwo = text.length === 2 && Number(text) > HIGHEST_FRET;
    if (isTwo) {
      const first = column + (open ? 1 : 0);
      add(first, text[0]!, false, first + 1);
      add(first + 1, text[1]!, false, first + 2);
    } else add(column, text, Boolean(open && close), column + all.length);
  }
  return found;
}

/** Tokens that stand over each other: one event each. */
function columnsOf(tokens: Token[]): Token[][] {
  const sorted = [...tokens].sort((a, b) => a.column - b.column);
  const groups: { end: number; tokens: Token[] }[] = [];
  for (const token of sorted) {
    const last = groups.at(-1);
    const free = last?.tokens.every(({ string }) => string !== token.string);
    if (last && free && token.column < last.end) {
      last.tokens.push(token);
      last.end = Math.max(last.end, token.end);
    } else groups.push({ end: token.end, tokens: [token] });
  }
  return groups.map((group) => group.tokens);
}

/** Parts of a beat that notes may lie on, the coarsest first, and how many columns from them they may stand. */
const PARTS = [1, 2, 3, 4, 6, 8, 12, 24];
const OFF = 0.5;

/** Where the columns of a bar lie in time: in beats from its first. */
type Clock = (columns: number[]) => number[];

/** By the counts under a bar: between two numbers by the columns. */
function byCounts(
  counts: string,
  from: number,
  to: number,
): { beats: number; first: number; clock: Clock } | null {
  const all = countsIn(counts, from, to);
  const numbers = all.filter(isNumber);
  if (numbers.length === 0) return null;
  const widths = numbers.map(({ column }, beat) => {
    const next = numbers[beat + 1];
    if (next) return next.column - column;
    const after = all.filter((one) => one.column > column);
    const last = after.at(-1);
    if (last) return ((last.column - column) / after.length) * (after.length + 1);
    const before = numbers[beat - 1];
    return before ? column - before.column : Math.max(1, to - column);
  });
  const clock: Clock = (columns) => {
    const places = columns.map((column) => {
      const beat = Math.max(
        0,
        numbers.findLastIndex((one) => one.column <= column),
      );
      const into = Math.max(0, column - numbers[beat]!.column) / widths[beat]!;
      return { beat, into: Math.min(into, 1 - 1 / PARTS.at(-1)!) };
    });
    const partsOf = (beat: number) => {
      const own = places.filter((place) => place.beat === beat);
      const fits = (parts: number) =>
        own.every(
          ({ into }) => Math.abs(into - Math.round(into * parts) / parts) * widths[beat]! <= OFF,
        );
      return PARTS.find(fits) ?? PARTS.at(-1)!;
    };
    return places.map(({ beat, into }) => {
      const parts = partsOf(beat);
      return beat + Math.min(parts - 1, Math.round(into * parts)) / parts;
    });
  };
  return { beats: numbers.length, first: Number(numbers[0]!.text), clock };
}

/** Letters before the first note of a bar and after its last place, at most. */
const MAX_LEAD = 3;
/** Notes of a beat that spacing may mean. */
const SPACED = [1, 2, 3, 4];

/**
 * By spacing: the coarsest grid on which all columns lie that fills the bar; null where none does, or where one note
 * alone could lie anywhere.
 */
function bySpacing(columns: number[], from: number, to: number, beats: number): Clock | null {
  const width = to - from;
  for (const parts of SPACED) {
    const places = beats * parts;
    for (let lead = 0; lead <= MAX_LEAD; lead += 1) {
      for (let each = 1; lead + (places - 1) * each < width; each += 1) {
        const rest = width - lead - places * each;
        if (rest < -1 || rest > MAX_LEAD) continue;
        const at = columns.map((column) => (column - from - lead) / each);
        if (at.every((place) => Number.isInteger(place) && place >= 0 && place < places))
          return (some) => some.map((column) => (column - from - lead) / each / parts);
      }
    }
  }
  return null;
}

/** One after another, as long as asked; shorter where the bar has no room for all. */
function oneByOne(count: number, meter: Meter, noteTicks: Ticks): number[] {
  const whole = barTicks(meter);
  let each = noteTicks;
  while (count * each > whole && each > 120) each /= 2;
  return Array.from({ length: count }, (_, index) => Math.min(whole - 120, index * each));
}

/**
 * Reads a system of tablature: its notes, when they come by the counts under it, else by how they are spaced, else one
 * after another.
 * @param wish the meter, and how long notes are where nothing says it
 * @example readTabSystem({ rows: ['e|-0---2-|', 'B|-------|', 'G|-------|'], chords: [], counts: null }, wish).bars.length // 1
 */
export function readTabSystem({ rows, chords, counts }: TabRows, wish: TabWish): TabSystem {
  const left = new Set<string>();
  const tokens = rows.flatMap((row, index) => tokensOf(row, index + 1, left));
  const cuts = segments(rows);
  const lastEdge = cuts.at(-1)?.[1] ?? 0;
  const repeats = rows.some((row) => /^\s*(?:[A-Ga-g][#b]?)?\s*\|*[:*]/.test(row));
  const again = rows.some((row) => /[:*]\|*\s*$/.test(row));
  const times = /x\s?(\d{1,2})|(\d{1,2})\s?x/i.exec(
    rows.map((row) => row.slice(lastEdge + 1)).join(' '),
  );
  if (repeats !== again) left.add('repeat signs');
  const names = rows.map((row) => NAME.exec(row)![1] ?? '');
  const bars = cuts.map(([from, to]): TabBar => {
    const inside = tokens.filter(({ column }) => column >= from && column < to);
    const counted = counts === null ? null : byCounts(counts, from, to);
    const isOnCount = (column: number) => counts !== null && /\S/.test(counts[column] ?? ' ');
    const isOrnament = ({ before, tight, column }: Token) =>
      counted !== null &&
      before !== undefined &&
      tight &&
      !isOnCount(column) &&
      isOnCount(before.column);
    const ornaments = inside.filter(isOrnament);
    const struck = new Map(ornaments.map((token) => [token.before!, token]));
    const columns = columnsOf(inside.filter((token) => !ornaments.includes(token)));
    const said = chords.find((chord) => chord.meter && chord.column >= from && chord.column < to);
    const meter = meterOf(counted, said?.meter ?? wish.meter);
    const clock =
      counted?.clock ??
      bySpacing(
        columns.map(([token]) => token!.column),
        from,
        to,
        meter.meter.beats,
      );
    const lead = meter.pickup ? meter.meter.beats - meter.pickup : 0;
    const beat = beatTicks(meter.meter);
    const starts = columns.map((group) => Math.min(...group.map(({ column }) => column)));
    const ats = clock
      ? clock(starts).map((at) => Math.round((lead + at) * beat))
      : oneByOne(columns.length, meter.meter, wish.noteTicks);
    const events = columns.map((group, at) => eventOf(group, ats[at]!, struck));
    // A name that stands right before a bar line, over no note, is of the bar after it.
    const isOver = (column: number) => starts.includes(column);
    const named = chords
      .flatMap(({ column, symbol }) => (symbol === null ? [] : [{ column, symbol }]))
      .filter(({ column }) =>
        column < from
          ? column >= from - BEFORE_LINE && !tokens.some((token) => token.column === column)
          : column < to && (column < to - BEFORE_LINE || isOver(column)),
      );
    const places = placesOf(named, { clock, starts, ats, from, lead, beat });
    return {
      ...meter,
      chords: named.map(({ symbol }, at) => ({ at: places[at]!, symbol })),
      events,
      sure: clock !== null || columns.length === 0,
    };
  });
  return {
    names: names.every((name) => name !== '') ? names : [],
    bars,
    times: Number(times?.[1] ?? times?.[2] ?? (repeats && again ? 2 : 1)),
    left: [...left],
  };
}

/** Letters before a bar line from which on a name over no note is of the next bar. */
const BEFORE_LINE = 2;

/** The meter of a bar by the beats that are counted in it; the one that is said where none are. */
function meterOf(
  counted: { beats: number; first: number } | null,
  meter: Meter,
): { meter: Meter; pickup?: number } {
  if (!counted || counted.beats === meter.beats) return { meter };
  const pickup = pickupOf(meter, counted.beats * beatTicks(meter));
  if (pickup && counted.first + counted.beats - 1 === meter.beats) return { meter, pickup };
  return { meter: meterOfBeats(counted.beats, meter.unit) ?? meter };
}

/** Where chords lie, in ticks from the first beat that is played: with the note that they stand over, or by the clock. */
function placesOf(
  named: { column: number }[],
  {
    clock,
    starts,
    ats,
    from,
    lead,
    beat,
  }: {
    clock: Clock | null;
    starts: number[];
    ats: Ticks[];
    from: number;
    lead: number;
    beat: Ticks;
  },
): Ticks[] {
  const over = named.map(({ column }) =>
    starts.findIndex((start) => Math.abs(start - column) <= 1),
  );
  return named.map(({ column }, index) => {
    const at = over[index]!;
    if (at >= 0) return ats[at]! - lead * beat;
    if (index === 0 && column <= from + 1) return 0;
    const beats = clock?.([column])[0] ?? 0;
    return Math.max(0, Math.round(beats * beat));
  });
}

/** Notes of a column; damped where it has none. */
function eventOf(group: Token[], at: Ticks, ornaments: Map<Token, Token>): TabEvent {
  const notes = group.flatMap((token): TabNote[] => {
    const { string, fret, soft } = token;
    if (fret === null) return [];
    const ornament = ornaments.get(token);
    if (ornament)
      return [
        { string, fret: ornament.fret!, how: ornament.how!, from: fret, soft: ornament.soft },
      ];
    const joined = token.how && group.length === 1 ? { how: token.how } : {};
    return [{ string, fret, soft, ...joined }];
  });
  return { at, notes, damped: notes.length === 0 };
}
