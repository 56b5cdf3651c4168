import type { Meter } from '../schema';
import { beatTicks, METERS, sameMeter } from '../time';
import type { ChartReading } from './chordpro';

/** A chord where another program has it: ticks from the bar line. */
export interface PlacedChord {
  at: number;
  symbol: string;
}

/** A bar as another program has it. */
export interface ReadBar {
  meter: Meter;
  chords: PlacedChord[];
  /** A section that begins here. */
  section: string | null;
}

/** The built-in meter of those beats; null where there is none. */
export function meterOfBeats(beats: number, unit: number): Meter | null {
  const known: Meter[] = Object.values(METERS);
  return known.find((meter) => meter.beats === beats && meter.unit === unit) ?? null;
}

/** Bars of one line of text. */
const IN_LINE = 4;
const EIGHTH = 480;

/**
 * Bars of another program as a chart: chords on their beats, an eighth before one as a push; what lies elsewhere
 * goes to the beat it is nearest to, and is listed.
 */
export function chartOfBars(
  bars: ReadBar[],
  about: { title: string | null; tempo: number | null },
): ChartReading {
  const meter = bars[0]?.meter ?? METERS['4/4'];
  const left: ChartReading['left'] = [];
  /** Chords that land an eighth before the next bar line. */
  let pushed: string | null = null;
  const words = bars.map((bar, index): { section: string | null; word: string } => {
    const beat = beatTicks(bar.meter);
    const cells = Array.from({ length: bar.meter.beats }, () => '.');
    if (pushed !== null) cells[0] = `<${pushed}`;
    pushed = null;
    for (const { at, symbol } of bar.chords) {
      const next = Math.ceil(at / beat);
      const isPush = at % beat !== 0 && next * beat - at === EIGHTH && beat > EIGHTH;
      if (isPush && next >= bar.meter.beats) pushed = symbol;
      else if (isPush) cells[next] = `<${symbol}`;
      else {
        const place = Math.min(bar.meter.beats - 1, Math.round(at / beat));
        if (at % beat !== 0) left.push({ line: index + 1, text: `${symbol} between the beats` });
        cells[place] = symbol;
      }
    }
    const rests = cells.slice(1).every((cell) => cell === '.');
    const other = sameMeter(bar.meter, meter) ? '' : `(${bar.meter.beats}/${bar.meter.unit}) `;
    return { section: bar.section, word: other + (rests ? cells[0]! : cells.join(' ')) };
  });
  const sections: ChartReading['sections'] = [];
  for (const { section, word } of words) {
    if (section !== null || sections.length === 0) {
      const name = section ?? 'Song';
      const alike = sections.filter((one) => one.name.replace(/ \d+$/, '') === name).length;
      sections.push({ name: alike > 0 ? `${name} ${alike + 1}` : name, lines: [] });
    }
    const { lines } = sections.at(-1)!;
    const last = lines.at(-1);
    if (last && 'bars' in last && last.bars.split(' | ').length < IN_LINE)
      last.bars += ` | ${word}`;
    else lines.push({ bars: word, times: 1 });
  }
  return {
    title: about.title,
    tempo: about.tempo,
    meter,
    capo: null,
    sections,
    order: sections.map(({ name }) => name),
    progression: null,
    left,
    german: false,
  };
}
