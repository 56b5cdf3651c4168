import { arrangement } from '../arrange';
import { stringNames } from '../neck';
import type { Ticks } from '../plain';
import type { LegatoHow, Song } from '../schema';
import { type Landing, passageName, type PlayedBar } from '../song';
import { beatTicks, countNumber, meterName, sameMeter } from '../time';
import { joinedStrikes, type WrittenStrike } from './musicxmlNotes';

/** Letters of a row, and what ends a bar in it. */
const WIDTH = 76;
const LINE = '-|';
/** Parts of a beat that have columns of their own: the coarsest on which everything lies. */
const PARTS = [1, 2, 3, 4, 6, 8, 12, 24];
/** What is counted on the parts of a beat after its number; a dot where nothing usual is said. */
const COUNTED: Record<number, string[]> = { 2: ['&'], 4: ['e', '&', 'a'] };

/** What stands before a fret that the fretting hand sounds. */
function joinOf(how: LegatoHow, from: number, to: number): string {
  if (how === 'slide') return to < from ? '\\' : '/';
  return how === 'hammer' ? 'h' : 'p';
}

/** A column of a bar. */
interface Column {
  /** What stands on each string, the highest first: what joins it to the one before, and the rest. */
  strings: Map<number, { join: string; text: string }>;
  count: string;
  chord: string;
}

/** What one stroke puts on its strings. */
function tokensOf(
  strike: WrittenStrike,
  strings: number,
  held: boolean,
): Map<number, { join: string; text: string }> {
  const tokens = new Map<number, { join: string; text: string }>();
  if (strike.kind === 'chuck') {
    for (let string = 0; string < strings; string += 1) tokens.set(string, { join: '', text: 'x' });
  }
  for (const { string, fret, legato } of strike.notes) {
    const grace = strike.graces.find((note) => note.string === string);
    const join = legato && joinOf(legato.how, grace?.fret ?? legato.from, fret);
    const soft = strike.accent === 'ghost' ? `(${fret})` : String(fret);
    const text = (grace ? `${grace.fret}${join ?? ''}` : '') + soft + (held ? '~' : '');
    tokens.set(strings - 1 - string, { join: grace ? '' : (join ?? ''), text });
  }
  return tokens;
}

/** Columns that a bar has at most where all its beats are as wide as the finest. */
const MAX_EVEN = 32;

/** The columns of a bar: every beat in as many as the finest, or each in its own where that is too wide or does not fit. */
function columnsOf(
  bar: PlayedBar,
  strikes: WrittenStrike[],
  chords: Landing[],
  strings: number,
): Column[] {
  const beat = beatTicks(bar.meter);
  const into = (tick: Ticks) => tick - bar.tick + bar.lead;
  const fermata = bar.content.chords.find((chord) => chord.fermata);
  const first = bar.lead / beat;
  const beats = Array.from({ length: bar.meter.beats - first }, (_, index) => {
    const from = (first + index) * beat;
    const here = <T extends { tick: Ticks }>(some: T[]) =>
      some.filter(({ tick }) => into(tick) >= from && into(tick) < from + beat);
    const [struck, named] = [here(strikes), here(chords)];
    const ticks = [...struck, ...named].map(({ tick }) => into(tick) - from);
    const fits = (parts: number) => ticks.every((tick) => Number.isInteger((tick * parts) / beat));
    const number = countNumber(bar.meter, first + index);
    return { from, struck, named, number, parts: PARTS.find(fits) ?? PARTS.at(-1)! };
  });
  const finest = Math.max(...beats.map(({ parts }) => parts));
  const isEven = finest * beats.length <= MAX_EVEN;
  return beats.flatMap(({ from, struck, named, number, parts: own }) => {
    const parts = isEven && finest % own === 0 ? finest : own;
    const columns = Array.from({ length: parts }, (_, part): Column => ({
      strings: new Map(),
      count: part === 0 ? String(number) : (COUNTED[parts]?.[part - 1] ?? '.'),
      chord: '',
    }));
    const columnAt = (tick: Ticks) =>
      columns[Math.min(parts - 1, Math.round(((into(tick) - from) * parts) / beat))]!;
    for (const strike of struck) {
      const isHeld = fermata !== undefined && strike.tick === bar.tick + fermata.at;
      for (const [string, token] of tokensOf(strike, strings, isHeld))
        columnAt(strike.tick).strings.set(string, token);
    }
    for (const { tick, symbol } of named) columnAt(tick).chord = symbol;
    return columns;
  });
}

/** Rows of a bar, or of a part of one that is wider than a page: chords, strings from the highest, counts. */
interface TabPiece {
  rows: string[];
  /** It begins a row of its own; it goes on from the piece before; it ends with a bar line. */
  isFirst: boolean;
  goesOn: boolean;
  ends: boolean;
}

/** A bar as rows that are as wide as each other, in pieces where it is wider than a page. */
function piecesOf(columns: Column[], strings: number, isFirst: boolean, room: number): TabPiece[] {
  const texts = columns.flatMap((column) => [...column.strings.values()]);
  const widest = Math.max(1, ...texts.map(({ text }) => text.length));
  const named = columns.flatMap(({ chord }, index) => (chord ? [index] : []));
  /** Letters that a column needs so that chords do not run into each other, nor into the next bar. */
  const forChords = named.map((index, at) => {
    const free = (named[at + 1] ?? columns.length) - index;
    return Math.ceil((columns[index]!.chord.length + 1) / free);
  });
  const forCounts = columns.map(({ count }) => count.length + 1);
  const width = Math.max(widest + (columns.length === 1 ? 3 : 1), ...forChords, ...forCounts);
  const most = Math.max(1, Math.floor(room / width));
  const pieces: TabPiece[] = [];
  for (let from = 0; from < columns.length;) {
    let to = Math.min(columns.length, from + most);
    // A piece ends before a beat, where one begins in it, and before a name that would not end in it.
    const ends = (at: number) => at === columns.length || /\d/.test(columns[at]!.count);
    if (!ends(to)) {
      const before = columns.findLastIndex(
        ({ count }, at) => at > from && at < to && /\d/.test(count),
      );
      if (before > from + 1) to = before;
    }
    const last = columns.findLastIndex(({ chord }, at) => at > from && at < to && chord !== '');
    if (
      to < columns.length &&
      last > from + 1 &&
      columns[last]!.chord.length >= (to - last) * width
    )
      to = last;
    const some = columns.slice(from, to);
    const isLast = to === columns.length;
    pieces.push({
      rows: rowsOf(some, strings, width, isLast),
      isFirst: from > 0 || isFirst,
      goesOn: from > 0,
      ends: isLast,
    });
    from = to;
  }
  return pieces;
}

/** Columns as rows; with a bar line after them where their bar ends. */
function rowsOf(columns: Column[], strings: number, width: number, ends: boolean): string[] {
  // What is longer than its column goes on over those after it.
  const row = (cell: (column: Column) => string) =>
    columns
      .reduce((line, column, at) => line.padEnd(at * width) + cell(column), '')
      .padEnd(columns.length * width + (ends ? 1 : 0));
  const onString = (string: number) =>
    columns
      .map(({ strings: own }) => {
        const token = own.get(string);
        return `${token?.join || '-'}${token?.text ?? ''}`.padEnd(width, '-');
      })
      .join('');
  return [
    ` ${row(({ chord }) => chord)}`,
    ...Array.from({ length: strings }, (_, string) => `${onString(string)}${ends ? LINE : ''}`),
    ` ${row(({ count }) => count)}`,
  ];
}

/** Names of the strings, the highest first: of two alike the higher one is small, as is usual. */
function labelsOf(song: Song): string[] {
  const names = stringNames(song.instrument).reverse();
  const labels = names.map((name, at) =>
    names.indexOf(name, at + 1) > 0 ? name.toLowerCase() : name,
  );
  const width = Math.max(...labels.map((label) => label.length));
  return labels.map((label) => `${label.padEnd(width)}|`);
}

/**
 * The song as tablature in plain text, written out as it is played: the names of chords above, counts below, rows of
 * 76 letters that end with a bar, where a bar is no wider. `h` is a hammer-on, `p` a pull-off, `/` and `\` slides, `x` a damped stroke, `( )`
 * barely heard, `~` held. A passage that comes again at once says so. Directions, loudness and taps are not in it.
 * @example toTabText(song).split('\n')[0] // 'Towpath'
 */
export function toTabText(song: Song): string {
  const { bars, changes, performance } = arrangement(song);
  const strings = song.instrument.strings.length;
  const labels = labelsOf(song);
  const strikes = joinedStrikes(performance.strikes);
  const head = [
    song.title,
    `Tempo ${song.tempo}`,
    `Meter ${meterName(song.meter)}`,
    ...(song.capo > 0 ? [`Capo ${song.capo}`] : []),
    `Tuning ${stringNames(song.instrument).join(' ')}`,
  ];
  const passages: { name: string; text: string; times: number }[] = [];
  let from = 0;
  while (from < bars.length) {
    let to = from + 1;
    while (to < bars.length && bars[to]!.passage === bars[from]!.passage) to += 1;
    const written = bars.slice(from, to).flatMap((bar, index, all) => {
      const inside = ({ tick }: { tick: Ticks }) => tick >= bar.tick && tick < bar.tick + bar.ticks;
      const own = strikes.filter(inside);
      const landing = changes.filter(inside);
      // A passage says the chord that it opens on, though the hand may be there already.
      const held = index === 0 && changes.findLast(({ tick }) => tick <= bar.tick);
      const chords =
        held && held.tick < bar.tick ? [{ ...held, tick: bar.tick }, ...landing] : landing;
      const before = all[index - 1];
      const isFirst = before !== undefined && (before.line !== bar.line || bar.bar === 0);
      const room = WIDTH - labels[0]!.length - LINE.length;
      const columns = columnsOf(bar, own, chords, strings);
      // A bar of another meter says so, before its chord.
      if (!sameMeter(bar.meter, song.meter) && columns[0])
        columns[0].chord = `(${bar.meter.beats}/${bar.meter.unit})${columns[0].chord}`;
      return piecesOf(columns, strings, isFirst, room);
    });
    const name = passageName(song, bars[from]!);
    const text = blocksOf(written, labels).join('\n');
    const last = passages.at(-1);
    if (last?.name === name && last.text === text && name !== '') last.times += 1;
    else passages.push({ name, text, times: 1 });
    from = to;
  }
  const parts = passages.map(({ name, text, times }) => {
    const again = times > 1 ? ` (x${times})` : '';
    return name === '' ? text : `[${name}]${again}\n\n${text}`;
  });
  return `${[head.join('\n'), ...parts].join('\n\n')}\n`;
}

/**
 * Bars side by side: those of a line, as many as a row takes. A bar that is wider than a row goes on in the next one,
 * without a bar line between.
 */
function blocksOf(pieces: TabPiece[], labels: string[]): string[] {
  const blocks: string[] = [];
  const indent = ' '.repeat(labels[0]!.length);
  let open: string[] = [];
  let isOpen = false;
  const close = () => {
    const [chords, ...rest] = open.map((row) => row.trimEnd());
    if (chords === undefined) return;
    if (blocks.length > 0) blocks.push('');
    blocks.push(...(chords === '' ? rest : [chords, ...rest]));
    open = [];
  };
  for (const { rows, isFirst, goesOn, ends } of pieces) {
    const isFull = open.length > 0 && open[1]!.length + rows[1]!.length > WIDTH;
    if (isOpen || isFirst || isFull) close();
    const names = goesOn ? labels.map((label) => label.replace('|', ' ')) : labels;
    if (open.length === 0) open = [indent, ...names, indent];
    open = open.map((row, index) => row + rows[index]!);
    isOpen = !ends;
  }
  close();
  return blocks;
}
