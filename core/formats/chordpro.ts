import type { Meter, Section, Song } from '../schema';
import { isNoChord, parseChord } from '../neck';
import { landings, playedBars, printProgression } from '../song';
import { beatTicks, METERS, type MeterName } from '../time';

/**
 * ChordPro, the text format of chords over words, and plain charts as people type them. Read for their
 * chords: words are not kept, since a song here is its bars.
 */

/** Where a file cannot be read, counted from 1. */
export interface FileProblem {
  line: number;
  column: number;
  message: string;
}

/** What a file says. Chords have no length yet, but where it draws bars. */
export interface ChartReading {
  title: string | null;
  tempo: number | null;
  meter: Meter | null;
  capo: number | null;
  sections: { name: string; lines: ChartLine[] }[];
  /** Names of sections as they come, those that are only called for again included. */
  order: string[];
  /** The line of text that this app wrote, where it did. */
  progression: string | null;
}

/** The chords of a line; in bars where the file has bar lines. */
type ChartLine = { chords: string[] } | { bars: string };

export type ChartAnswer = { chart: ChartReading } | { problem: FileProblem };

const DIRECTIVE = /^\s*\{([^}]*)\}\s*$/;
/** A directive of our own, which other readers pass over: the progression as it is written here. */
const OWN = 'x_plucky_progression';
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

const isChord = (word: string) => parseChord(word) !== null || isNoChord(word);
/** What may stand between the chords of a chart. */
const isFiller = (word: string) => /^(\||\|\||\|:|:\||%|\.|-|\/|x\d+)$/.test(word);

/** True for a line of nothing but chords, as in a chart over words. */
function isChordLine(text: string): boolean {
  const words = text
    .replaceAll(/:?\|+:?/g, ' | ')
    .split(/\s+/)
    .filter(Boolean);
  return words.some(isChord) && words.every((word) => isChord(word) || isFiller(word));
}

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
  };
  private open: { name: string; lines: ChartLine[] } | null = null;

  private begin(name: string): void {
    this.end();
    this.open = { name, lines: [] };
  }

  /** A section that says the same as one before it is that one again. */
  end(): void {
    const { open, chart } = this;
    this.open = null;
    if (!open || open.lines.length === 0) return;
    const says = JSON.stringify(open.lines);
    const same = chart.sections.find(
      ({ name, lines }) =>
        name.replace(/ \d+$/, '') === open.name && JSON.stringify(lines) === says,
    );
    if (!same) {
      const alike = chart.sections.filter(
        ({ name }) => name.replace(/ \d+$/, '') === open.name,
      ).length;
      chart.sections.push({ ...open, name: alike > 0 ? `${open.name} ${alike + 1}` : open.name });
    }
    chart.order.push((same ?? chart.sections.at(-1)!).name);
  }

  add(line: ChartLine): void {
    if ('chords' in line && line.chords.length === 0) return;
    this.open ??= { name: 'Song', lines: [] };
    this.open.lines.push(line);
  }

  header(name: string): void {
    this.begin(name.slice(0, 40));
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
      case OWN:
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

/** Chords in brackets; or where a bracket is not closed, its column. */
function bracketed(text: string): string[] | number {
  const chords: string[] = [];
  let at = 0;
  for (;;) {
    const from = text.indexOf('[', at);
    if (from < 0) return chords;
    const to = text.indexOf(']', from);
    if (to < 0) return from + 1;
    const chord = text.slice(from + 1, to).trim();
    // A star marks a remark in place of a chord.
    if (chord && !chord.startsWith('*')) chords.push(chord.replaceAll(/\s+/g, ''));
    at = to + 1;
  }
}

/**
 * Reads ChordPro, or a plain chart: lines of chords alone over words, with `Verse:` or `[Verse]` as headers.
 * @returns what it says; or the first place that cannot be read, with line and column
 * @example readChart('{title: Towpath}\n[G]Down the [C]towpath').chart.sections[0].lines // [{ chords: ['G', 'C'] }]
 */
export function readChart(text: string): ChartAnswer {
  const reader = new ChartReader();
  const rows = text.replace(/^\uFEFF/, '').split(/\r?\n/);
  for (const [index, row] of rows.entries()) {
    const fail = (column: number, message: string): ChartAnswer => ({
      problem: { line: index + 1, column, message },
    });
    const trimmed = row.trim();
    if (trimmed === '' || trimmed.startsWith('#')) continue;
    const directive = DIRECTIVE.exec(row);
    if (directive) {
      reader.directive(directive[1]!);
      continue;
    }
    if (trimmed.startsWith('{')) return fail(row.indexOf('{') + 1, 'This brace is not closed.');
    const header = /^\[?([A-Za-z][\w ]{0,38})\]?:?$/.exec(trimmed);
    const named =
      header && (trimmed.endsWith(':') || /^\[.*\]$/.test(trimmed)) && !isChord(header[1]!);
    if (named) {
      reader.header(header[1]!.trim());
      continue;
    }
    if (isChordLine(trimmed)) {
      if (trimmed.includes('|')) reader.add({ bars: barsOf(trimmed) });
      else reader.add({ chords: trimmed.split(/\s+/).filter(isChord) });
      continue;
    }
    const chords = bracketed(row);
    if (typeof chords === 'number') return fail(chords, 'This bracket is not closed.');
    const wrong = chords.find((chord) => !isChord(chord));
    if (wrong) return fail(row.indexOf(wrong) + 1, `“${wrong}” is not a chord we know.`);
    reader.add({ chords });
  }
  reader.end();
  const { chart } = reader;
  if (chart.sections.length === 0 && chart.progression === null) {
    return { problem: { line: 1, column: 1, message: 'There is no chord in this file.' } };
  }
  return { chart };
}

/** Bars as they are written here: repeats of a grid and its slashes are dots. */
function barsOf(row: string): string {
  const cells = row
    .replaceAll(/:?\|+[:.]?/g, '|')
    .split('|')
    .map((cell) => cell.trim().replaceAll(/(^|\s)[-/](?=\s|$)/g, '$1.'))
    .filter(Boolean);
  return cells.map((cell) => (/^[.\s]+$/.test(cell) ? '.' : cell)).join(' | ');
}

/** How long a chord of a chart lasts that has no bar lines. */
export const CHART_RULES = ['bar', 'half', 'two'] as const;
export type ChartRule = (typeof CHART_RULES)[number];

function lineOf(line: ChartLine, rule: ChartRule): string {
  if ('bars' in line) return line.bars;
  const { chords } = line;
  if (rule === 'bar') return chords.join(' | ');
  if (rule === 'two') return chords.map((chord) => `${chord} | .`).join(' | ');
  const bars: string[] = [];
  for (let at = 0; at < chords.length; at += 2) bars.push(chords.slice(at, at + 2).join(' '));
  return bars.join(' | ');
}

/**
 * The progression of a chart, as it is written here.
 * @param rule how long each chord lasts: a bar, half of one, or two
 * @example chartProgression(chart, 'half') // 'Verse:\nG C | D G'
 */
export function chartProgression(chart: ChartReading, rule: ChartRule): string {
  if (chart.progression !== null) return chart.progression;
  const rows = chart.sections.flatMap(({ name, lines }) => [
    `${name}:`,
    ...lines.map((line) => lineOf(line, rule)),
  ]);
  const written = chart.sections.map(({ name }) => name);
  if (chart.order.join('\n') !== written.join('\n')) rows.push(`Order: ${chart.order.join(', ')}`);
  return rows.join('\n');
}

/** A section without the chords that stand in for others: a grid shows one time round. */
function asWritten(section: Section): Section {
  return {
    ...section,
    lines: section.lines.map((line) => ({
      ...line,
      bars: line.bars.map((bar) => ({
        ...bar,
        chords: bar.chords.map(({ substitutes: _, ...chord }) => chord),
      })),
    })),
  };
}

/**
 * The song as ChordPro: a grid for each section, a cell for each beat, and the line of text itself in a
 * directive of our own, from which it is read back as it was.
 * @example toChordPro(song).split('\n')[0] // '{title: Towpath}'
 */
export function toChordPro(song: Song): string {
  const { beats, unit } = song.meter;
  const head = [
    `{title: ${song.title.replaceAll(/[{}]/g, '')}}`,
    `{tempo: ${song.tempo}}`,
    `{time: ${beats}/${unit}}`,
    ...(song.capo > 0 ? [`{capo: ${song.capo}}`] : []),
  ];
  const bars = playedBars({ sections: song.sections.map(asWritten), meter: song.meter });
  const changes = landings(bars);
  const grids = song.sections.flatMap((section, index) => {
    const inside = bars.filter((bar) => bar.section === index);
    const rows: string[] = [];
    for (let at = 0; at < inside.length; at += 4) {
      const cells = inside.slice(at, at + 4).map((bar) => {
        const beat = beatTicks(bar.meter);
        return Array.from({ length: bar.ticks / beat }, (_, count) => {
          const from = bar.tick + count * beat;
          // A push is written in the beat that it belongs to.
          const landing = changes.find(
            ({ tick, push }) => tick + push >= from && tick + push < from + beat,
          );
          return landing?.symbol ?? '.';
        }).join(' ');
      });
      rows.push(`| ${cells.join(' | ')} |`);
    }
    const name = section.name.replaceAll(/["{}]/g, '');
    const start = name ? `{start_of_grid: ${name}}` : '{start_of_grid}';
    return ['', start, ...rows, '{end_of_grid}'];
  });
  const own = printProgression(song.sections, song.meter, song.order)
    .split('\n')
    .map((row) => `{${OWN}: ${row.replaceAll(/[{}]/g, '')}}`);
  return [...head, ...grids, '', ...own, ''].join('\n');
}
