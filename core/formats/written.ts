import { type Meter, meterSchema } from '../schema';
import { barTicks, beatTicks, METERS, pulseTicks, sameMeter, TICKS_PER_QUARTER } from '../time';
import { type OwnReading, withOwn } from './own';
import type { ChartReading } from './chart';
import { commonRhythm, type ReadStroke } from './readRhythm';

/** A chord where another program has it: ticks from the bar line. */
export interface PlacedChord {
  at: number;
  symbol: string;
}

/** A bar as another program has it. */
export interface ReadBar {
  meter: Meter;
  chords: PlacedChord[];
  /** A pick-up: only so many beats are played, the last ones of the bar; its ticks are counted from its first stroke. */
  pickup?: number;
  /** A section that begins here. */
  section: string | null;
  /** What is sung in it, in ticks from the bar line. */
  words?: { at: number; text: string }[];
  /** What is struck in it. */
  strokes?: ReadStroke[];
}

/** A bar as a file with repeats has it. */
export interface Measure extends ReadBar {
  /** A repeat begins, or ends after so many times; an ending for those times. */
  begins: boolean;
  times: number | null;
  only: number[] | null;
  endsEnding: boolean;
}

/** Bars that are read. */
const MAX_BARS = 4000;

/** Bars in the order in which they are played: repeats and their endings written out. */
export function unrolled(measures: Measure[]): Measure[] {
  const played: Measure[] = [];
  let start = 0;
  let time = 1;
  for (let at = 0; at < measures.length && played.length < MAX_BARS;) {
    const measure = measures[at]!;
    if (measure.begins && at !== start) {
      start = at;
      time = 1;
    }
    const isPlayed = measure.only === null || measure.only.includes(time);
    if (isPlayed) played.push(measure);
    if (measure.times !== null && isPlayed && time < measure.times) {
      time += 1;
      at = start;
      continue;
    }
    // After the last ending, what follows is a stretch of its own.
    if (
      (measure.times !== null || (measure.endsEnding && isPlayed)) &&
      measures[at + 1]?.only == null
    ) {
      start = at + 1;
      time = 1;
    }
    at += 1;
  }
  return played;
}

/** The meter of those beats, its groups as they usually are; null where none can be. */
export function meterOfBeats(beats: number, unit: number): Meter | null {
  const known: Meter[] = Object.values(METERS);
  const built = known.find((meter) => meter.beats === beats && meter.unit === unit);
  if (built) return built;
  const threes = unit >= 8 && beats % 3 === 0;
  const groups = threes ? Array.from({ length: beats / 3 }, () => 3) : [beats];
  const read = meterSchema.safeParse({ beats, unit, groups });
  return read.success ? read.data : null;
}

/** Bars of one line of text. */
const IN_LINE = 4;
/** Chords come so much before a beat as a push, with its sign. */
const PUSHES = [
  [480, '<'],
  [240, '<<'],
] as const;

/**
 * The tempo of a song whose file counts quarters a minute: a song counts its pulses.
 * @returns null where no song has it
 * @example tempoOfQuarters(90, METERS['6/8']) // 60
 */
export function tempoOfQuarters(quarters: number, meter: Meter): number | null {
  const tempo = Math.round((quarters * TICKS_PER_QUARTER) / pulseTicks(meter));
  return tempo >= 20 && tempo <= 300 ? tempo : null;
}

/** How many beats a bar plays that is shorter than its meter says; undefined where it is whole. */
export function pickupOf(meter: Meter, ticks: number): number | undefined {
  const beats = ticks / beatTicks(meter);
  return Number.isInteger(beats) && beats >= 1 && beats < meter.beats ? beats : undefined;
}

/**
 * Bars as the line of text has them: chords on their beats, an eighth before one as a push; what lies elsewhere goes to
 * the beat it is nearest to, and is listed.
 * @param meter of the song: another one is said
 * @example barWords([{ meter, chords: [{ at: 0, symbol: 'G' }], section: null }], meter).words // ['G']
 */
export function barWords(
  bars: Pick<ReadBar, 'meter' | 'chords' | 'pickup'>[],
  meter: Meter,
): { words: string[]; left: ChartReading['left'] } {
  const left: ChartReading['left'] = [];
  /** Chords that land an eighth before the next bar line. */
  let pushed: string | null = null;
  const words = bars.map((bar, index) => {
    const beat = beatTicks(bar.meter);
    const cells = Array.from({ length: bar.pickup ?? bar.meter.beats }, () => '.');
    if (pushed !== null) cells[0] = pushed;
    pushed = null;
    for (const { at, symbol } of bar.chords) {
      const next = Math.ceil(at / beat);
      const early = next * beat - at;
      const sign = PUSHES.find(([ticks]) => ticks === early && beat > ticks)?.[1];
      if (sign && next >= cells.length) pushed = sign + symbol;
      else if (sign) cells[next] = sign + symbol;
      else {
        const place = Math.min(cells.length - 1, Math.round(at / beat));
        if (at % beat !== 0) left.push({ line: index + 1, text: `${symbol} between the beats` });
        cells[place] = symbol;
      }
    }
    const rests = cells.slice(1).every((cell) => cell === '.');
    const other = bar.pickup
      ? `(pickup ${bar.pickup}) `
      : sameMeter(bar.meter, meter)
        ? ''
        : `(${bar.meter.beats}/${bar.meter.unit}) `;
    return other + (rests ? cells[0]! : cells.join(' '));
  });
  return { words, left };
}

/** Bars of another program as a chart; see `barWords` for how they are written. */
export function chartOfBars(
  bars: ReadBar[],
  about: { title: string | null; tempo: number | null; own?: OwnReading | null },
): ChartReading {
  const meter = bars[0]?.meter ?? METERS['4/4'];
  const { words, left } = barWords(bars, meter);
  const sections: ChartReading['sections'] = [];
  for (const [index, { section, words: sung = [] }] of bars.entries()) {
    const word = words[index]!;
    if (section !== null || sections.length === 0) {
      const name = section ?? 'Song';
      const alike = sections.filter((one) => one.name.replace(/ \d+$/, '') === name).length;
      sections.push({ name: alike > 0 ? `${name} ${alike + 1}` : name, lines: [] });
    }
    const { lines } = sections.at(-1)!;
    const last = lines.at(-1);
    const goesOn = last && 'bars' in last && last.bars.split(' | ').length < IN_LINE;
    if (goesOn) last.bars += ` | ${word}`;
    else lines.push({ bars: word, times: 1 });
    const line = lines.at(-1)!;
    const bar = 'bars' in line ? line.bars.split(' | ').length - 1 : 0;
    const pieces = sung.map(({ at, text }) => ({ bar, at, text }));
    if (pieces.length > 0) line.verses = [[...(line.verses?.[0] ?? []), ...pieces]];
  }
  const lengths = bars.map(({ meter: own, pickup }) =>
    pickup ? pickup * beatTicks(own) : barTicks(own),
  );
  let tick = 0;
  const read = bars.flatMap(({ chords }, index) => {
    const from = tick;
    tick += lengths[index]!;
    return chords.map(({ at, symbol }) => ({ tick: from + at, symbol }));
  });
  const chart: ChartReading = {
    title: about.title,
    tempo: about.tempo,
    meter,
    capo: null,
    sections,
    order: sections.map(({ name }) => name),
    progression: null,
    ownWords: [],
    pattern: commonRhythm(bars, meter),
    shapes: [],
    strings: 0,
    left,
    german: false,
  };
  return withOwn(chart, about.own ?? null, read, lengths);
}
