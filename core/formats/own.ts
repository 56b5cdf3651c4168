import { plainSymbol, spellChord } from '../neck';
import type { Ticks } from '../plain';
import { type Meter, meterSchema, type Song } from '../schema';
import {
  landings,
  playedBars,
  printProgression,
  printWords,
  readProgression,
  versesOf,
} from '../song';
import type { ChartReading } from './chart';

/**
 * What a file of another format says of this app's own, where other programs pass it over: the progression as it is
 * written here, its words, and a meter that the format has no sign for. It is believed only where the file still has
 * the same chords at the same times, so that a file which another program has changed says what that program wrote.
 */

/** What rows are found by in a file: the name of a field, or the beginning of a comment. */
export const OWN_FIELD = 'plucky-wrist';

const PROGRESSION = 'progression';
const METER = 'meter';
const WORDS = 'words';

/** Rows of what is a song's own: a name, a space, and a text without line breaks. */
export function ownRows(song: Song): string[] {
  const rows = printProgression(song.sections, song.meter, song.order, {
    endings: song.endings,
  })
    .split('\n')
    .map((row) => `${PROGRESSION} ${row}`);
  const words = song.sections.flatMap(({ lines }, section) =>
    lines.flatMap((line, index) =>
      versesOf(line).map(
        (verse) =>
          `${WORDS} ${section + 1}/${index + 1}/${verse} ${printWords(line, song.meter, verse)}`,
      ),
    ),
  );
  return [`${METER} ${sayOwnMeter(song.meter)}`, ...rows, ...words];
}

/** What the rows of a file say; null where they say no progression. */
export interface OwnReading {
  progression: string;
  meter: Meter | null;
  words: ChartReading['ownWords'];
}

const MAX_ROWS = 2000;
const WORDS_ROW = /^(\d+)\/(\d+)\/(\d+)\s(.*)$/;

/**
 * A meter in a row: its groups, and the accents of a cycle.
 * @example sayOwnMeter(METERS['6/8']) // '6/8 groups 3 3'
 */
export function sayOwnMeter({ beats, unit, groups, cycle }: Meter): string {
  const round = cycle ? ` accents ${cycle.accents.join(' ')} first ${cycle.first}` : '';
  return `${beats}/${unit} groups ${groups.join(' ')}${round}`;
}

const METER_ROW = /^(\d+)\/(\d+) groups ([\d ]+?)(?: accents ([\d ]+) first (\d+))?$/;
const numbers = (text: string) => text.trim().split(' ').map(Number);

/** A meter as `sayOwnMeter` writes it; null where it is none. */
export function readOwnMeter(text: string): Meter | null {
  const [, beats, unit, groups, accents, first] = METER_ROW.exec(text.trim()) ?? [];
  if (groups === undefined) return null;
  const cycle =
    accents === undefined ? {} : { cycle: { accents: numbers(accents), first: Number(first) } };
  const read = meterSchema.safeParse({
    beats: Number(beats),
    unit: Number(unit),
    groups: numbers(groups),
    ...cycle,
  });
  return read.success ? read.data : null;
}

/** Words of a line and a verse as they are written in a row; null where it is none. */
export function readOwnWords(text: string): ChartReading['ownWords'][number] | null {
  const own = WORDS_ROW.exec(text.trimEnd());
  if (!own) return null;
  const [section, line, verse] = own.slice(1, 4).map((number) => Number(number) - 1);
  return { section: section!, line: line!, verse: verse! + 1, text: own[4]! };
}

/**
 * Reads the rows that `ownRows` wrote.
 * @example readOwn(['progression G | C'])?.progression // 'G | C'
 */
export function readOwn(rows: string[]): OwnReading | null {
  const progression: string[] = [];
  const words: OwnReading['words'] = [];
  let meter: Meter | null = null;
  for (const row of rows.slice(0, MAX_ROWS)) {
    const [name] = row.split(' ', 1);
    const text = row.slice((name ?? '').length + 1);
    if (name === PROGRESSION) progression.push(text);
    else if (name === METER) meter = readOwnMeter(text);
    else if (name === WORDS) {
      const read = readOwnWords(text);
      if (read) words.push(read);
    }
  }
  return progression.length > 0 ? { progression: progression.join('\n'), meter, words } : null;
}

/** Chords lie at the same place where they are written to the nearest 64th. */
const NEAR: Ticks = 60;

/**
 * A chart with what is this app's own in its file, where that says the same chords at the same times; else the chart
 * as it was read.
 * @param read the chords of the file in the order of playing, in ticks from the first bar
 * @param lengths of its bars, in ticks
 */
export function withOwn(
  chart: ChartReading,
  own: OwnReading | null,
  read: { tick: Ticks; symbol: string }[],
  lengths: Ticks[],
): ChartReading {
  if (!own) return chart;
  const meter = own.meter ?? chart.meter;
  if (!meter) return chart;
  const { sections, order, endings, tooLong } = readProgression(own.progression, meter);
  if (tooLong) return chart;
  const played = playedBars({
    sections,
    meter,
    ...(order && { order }),
    ...(endings && { endings }),
  });
  if (played.map(({ ticks }) => ticks).join() !== lengths.join()) return chart;
  const meant = landings(played);
  const changes = read.filter(({ symbol }, at) => symbol !== read[at - 1]?.symbol);
  const plain = meant
    .map(({ tick, symbol }) => ({ tick, symbol: plainSymbol(symbol) }))
    .filter(({ symbol }, at, all) => symbol !== all[at - 1]?.symbol);
  const same =
    plain.length === changes.length &&
    plain.every(
      ({ tick, symbol }, at) =>
        spellChord(symbol, true) === spellChord(changes[at]!.symbol, true) &&
        Math.abs(tick - changes[at]!.tick) <= NEAR,
    );
  if (!same) return chart;
  return { ...chart, meter, progression: own.progression, ownWords: own.words, left: [] };
}
