import { INSTRUMENTS } from '../neck';
import type { Meter, Pattern } from '../schema';
import { METERS } from '../time';
import type { ChartBar, ChartLine, ChartReading, ChartWish } from './chart';
import { tabBlocks } from './chartRows';
import { commonRhythm, rhythmOf } from './readRhythm';
import { countedBeats, isCountRow, readTabSystem, type TabRows } from './readTab';
import { type PlayedBarOfTab, tabBars, tabInstrument } from './tabBars';
import { meterOfBeats } from './written';

/** Meters that tablature without counts may be in, the likeliest first. */
const LIKELY: Meter[] = [
  METERS['4/4'],
  METERS['3/4'],
  METERS['6/8'],
  METERS['2/4'],
  METERS['12/8'],
];
const EIGHTH = 480;

/** Where the strings of a system begin, after their names. */
const lengthOfName = (row: string) => /^\s*(?:[A-Ga-g][#b]?)?\s*/.exec(row)![0].length;

/** True for a system whose first bar is the last one of the system before, which had no room for all of it. */
function goesOn(before: TabRows, { rows, counts }: TabRows): boolean {
  return (
    counts !== null &&
    before.counts !== null &&
    before.rows.length === rows.length &&
    before.rows.every((row) => !row.trimEnd().endsWith('|')) &&
    rows.every((row) => row[lengthOfName(row)] !== '|')
  );
}

/** Puts a system behind the one that it goes on from. */
function append(before: TabRows, { rows, chords, counts }: TabRows): void {
  const width = Math.max(...before.rows.map((row) => row.trimEnd().length));
  const skipped = Math.max(...rows.map(lengthOfName));
  before.rows = before.rows.map(
    (row, at) => row.trimEnd().padEnd(width, '-') + rows[at]!.slice(skipped),
  );
  before.chords.push(
    ...chords.map((chord) => ({ ...chord, column: chord.column - skipped + width })),
  );
  before.counts = (before.counts ?? '').padEnd(width) + (counts ?? '').slice(skipped);
}

/** The tablature among the rows of a chart. */
export class TabReader {
  private readonly blocks = new Map<number, TabRows>();
  private readonly rows = new Set<number>();
  /** What is played in the bars of each line, and their meter. */
  private readonly lines: { line: ChartLine; played: PlayedBarOfTab[]; meters: Meter[] }[] = [];
  private unsure = 0;
  private isGuessed = false;

  /**
   * @param rows of the chart
   * @param chordsOf a row, where it has nothing else
   * @param wish how it is to be read where it leaves that open
   */
  constructor(
    rows: string[],
    chordsOf: (row: string) => TabRows['chords'],
    private readonly wish: ChartWish,
  ) {
    let last: TabRows | null = null;
    for (const { row, strings } of tabBlocks(rows)) {
      const chords = row > 0 ? chordsOf(rows[row - 1]!) : [];
      const below = rows[row + strings];
      const counts = below !== undefined && isCountRow(below) ? below : null;
      const from = chords.length > 0 ? row - 1 : row;
      const to = row + strings + (counts === null ? 0 : 1);
      for (let at = from; at < to; at += 1) this.rows.add(at);
      const block = { rows: rows.slice(row, row + strings), chords, counts };
      if (last && goesOn(last, block)) append(last, block);
      else this.blocks.set(from, (last = block));
    }
  }

  /** What there is of it, in order. */
  get systems(): TabRows[] {
    return [...this.blocks.values()];
  }

  /** True for a row that belongs to tablature. */
  holds(row: number): boolean {
    return this.rows.has(row);
  }

  /**
   * The tablature that begins in a row, as a line of the chart; null where none does.
   * @param chart what is known of the song; how its chords are held is added to it
   */
  at(row: number, chart: ChartReading): { line: ChartLine | null; left: string[] } | null {
    const block = this.blocks.get(row);
    if (!block) return null;
    const meter = this.meterFor(block, chart);
    const read = readTabSystem(block, { meter, noteTicks: this.wish.noteTicks ?? EIGHTH });
    const strings = block.rows.length;
    if (chart.strings !== 0 && chart.strings !== strings) {
      return {
        line: null,
        left: [`tablature on ${strings} strings, beside one on ${chart.strings}`],
      };
    }
    chart.strings = strings;
    const id = chart.instrument ?? tabInstrument(read.names, strings);
    if (id) chart.instrument = id;
    const instrument = id ? INSTRUMENTS[id] : null;
    const { words, played, shapes, left } = tabBars(read.bars, meter, instrument);
    for (const shape of shapes) {
      if (!chart.shapes.some(({ symbol }) => symbol === shape.symbol)) chart.shapes.push(shape);
    }
    this.unsure += read.bars.filter(({ sure }) => !sure).length;
    const all = [...read.left, ...left];
    if (words.length === 0) return { line: null, left: [...all, 'tablature without a bar'] };
    const line: ChartLine = { bars: words.join(' | '), times: Math.max(1, read.times) };
    this.lines.push({ line, played, meters: read.bars.map((bar) => bar.meter) });
    return { line, left: all };
  }

  /** The meter that the chart says, the one that is asked for, the one that is counted, or the usual. */
  private meterFor(block: TabRows, chart: ChartReading): Meter {
    if (chart.meter) return chart.meter;
    const beats = countedBeats(block);
    const counted = beats === null ? null : meterOfBeats(beats, beats > 5 ? 8 : 4);
    this.isGuessed ||= counted === null;
    chart.meter = counted ?? this.wish.meter ?? METERS['4/4'];
    return chart.meter;
  }

  /** Says of the chart what all its tablature says together: its rhythm, what is otherwise in each bar, what is open. */
  finish(chart: ChartReading): void {
    if (this.lines.length === 0 || !chart.meter) return;
    const { meter } = chart;
    const bars = this.lines.flatMap(({ played, meters }) =>
      played.map(({ strokes }, at) => ({ meter: meters[at]!, strokes })),
    );
    const inTab = new Set(this.lines.map(({ line }) => line));
    const isWhole = chart.sections.every(({ lines }) => lines.every((line) => inTab.has(line)));
    chart.pattern = isWhole ? commonRhythm(bars, meter) : null;
    const usual = JSON.stringify(chart.pattern);
    for (const { line, played, meters } of this.lines) {
      line.played = played.map(({ strokes, tune }, at): ChartBar => {
        const own: Pattern = rhythmOf(strokes, meters[at]!);
        const isUsual = JSON.stringify(own) === usual;
        // Under notes that stand alone no rhythm is heard.
        return { pattern: isUsual || tune?.meets === 'alone' ? null : own, tune };
      });
    }
    if (this.isGuessed) chart.likelyMeters = LIKELY;
    if (this.unsure > 0) chart.unsureBars = this.unsure;
  }
}
