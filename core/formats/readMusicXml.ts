import { XMLParser, XMLValidator } from 'fast-xml-parser';
import type { Meter } from '../schema';
import { parseChord } from '../neck';
import { METERS, TICKS_PER_QUARTER } from '../time';
import type { ChartAnswer } from './chordpro';
import { chartOfBars, meterOfBeats, type PlacedChord, type ReadBar } from './written';

/** An element as the parser gives it: its name with its children, and its attributes. */
type Node = Record<string, unknown>;
const ATTRIBUTES = ':@';

const nameOf = (node: Node) => Object.keys(node).find((key) => key !== ATTRIBUTES) ?? '';
const childrenOf = (node: Node | undefined): Node[] => {
  const inside = node?.[nameOf(node)];
  return Array.isArray(inside) ? (inside as Node[]) : [];
};
const all = (nodes: Node[], name: string) => nodes.filter((node) => nameOf(node) === name);
const first = (nodes: Node[], name: string) => nodes.find((node) => nameOf(node) === name);
const attribute = (node: Node | undefined, name: string): string | null => {
  const value = (node?.[ATTRIBUTES] as Record<string, unknown> | undefined)?.[`@_${name}`];
  return value === undefined ? null : String(value);
};
function textOf(node: Node | undefined): string {
  const words = childrenOf(node).map((child) => child['#text'] ?? '');
  return words.join('').trim();
}
const numberOf = (nodes: Node[], name: string) => {
  const text = textOf(first(nodes, name));
  return text === '' ? null : Number(text);
};

/** What MusicXML calls its kinds of chords, as they are written. */
const KINDS: Record<string, string> = {
  major: '',
  minor: 'm',
  augmented: 'aug',
  diminished: 'dim',
  dominant: '7',
  'major-seventh': 'maj7',
  'minor-seventh': 'm7',
  'diminished-seventh': 'dim7',
  'augmented-seventh': 'aug7',
  'half-diminished': 'm7b5',
  'major-minor': 'mMaj7',
  'major-sixth': '6',
  'minor-sixth': 'm6',
  'dominant-ninth': '9',
  'major-ninth': 'maj9',
  'minor-ninth': 'm9',
  'dominant-11th': '11',
  'dominant-13th': '13',
  'suspended-second': 'sus2',
  'suspended-fourth': 'sus4',
  power: '5',
};
const sign = (alter: number | null) => (alter === 1 ? '#' : alter === -1 ? 'b' : '');

/** The symbol of a harmony; null where it is none that can be read. */
function symbolOf(harmony: Node): string | null {
  const parts = childrenOf(harmony);
  const kind = first(parts, 'kind');
  if (textOf(kind) === 'none') return 'N.C.';
  const root = childrenOf(first(parts, 'root'));
  const step = textOf(first(root, 'root-step'));
  if (!/^[A-G]$/.test(step)) return null;
  const name = step + sign(numberOf(root, 'root-alter'));
  const bass = childrenOf(first(parts, 'bass'));
  const low = textOf(first(bass, 'bass-step'));
  const over = /^[A-G]$/.test(low) ? `/${low}${sign(numberOf(bass, 'bass-alter'))}` : '';
  const written = attribute(kind, 'text');
  const ways = [written, KINDS[textOf(kind)]].filter((way) => way !== null && way !== undefined);
  return ways.map((way) => name + way + over).find((symbol) => parseChord(symbol) !== null) ?? null;
}

interface Measure extends ReadBar {
  /** A repeat begins, or ends after so many times; an ending for those times. */
  begins: boolean;
  times: number | null;
  only: number[] | null;
  endsEnding: boolean;
}

/** The bars of a part, in the order in which they are written. */
function measuresOf(part: Node, fail: (message: string) => void): Measure[] {
  let divisions = 1;
  let meter: Meter = METERS['4/4'];
  let open: number[] | null = null;
  return all(childrenOf(part), 'measure').map((measure): Measure => {
    const found: Measure = {
      meter,
      chords: [],
      section: null,
      begins: false,
      times: null,
      only: open,
      endsEnding: false,
    };
    let at = 0;
    const placed: PlacedChord[] = [];
    for (const item of childrenOf(measure)) {
      const inside = childrenOf(item);
      switch (nameOf(item)) {
        case 'attributes': {
          divisions = numberOf(inside, 'divisions') ?? divisions;
          const time = childrenOf(first(inside, 'time'));
          const [beats, unit] = [numberOf(time, 'beats'), numberOf(time, 'beat-type')];
          if (beats !== null && unit !== null) {
            const known = meterOfBeats(beats, unit);
            if (known) meter = known;
            else fail(`the meter ${beats}/${unit}`);
            found.meter = meter;
          }
          break;
        }
        case 'harmony': {
          const symbol = symbolOf(item);
          const offset = numberOf(inside, 'offset') ?? 0;
          if (symbol === null) fail('a harmony that names no chord');
          else placed.push({ at: at + offset, symbol });
          break;
        }
        case 'note':
          if (!first(inside, 'chord') && !first(inside, 'grace'))
            at += numberOf(inside, 'duration') ?? 0;
          break;
        case 'backup':
          at -= numberOf(inside, 'duration') ?? 0;
          break;
        case 'forward':
          at += numberOf(inside, 'duration') ?? 0;
          break;
        case 'direction':
          for (const type of all(inside, 'direction-type')) {
            const mark = textOf(first(childrenOf(type), 'rehearsal'));
            if (mark)
              found.section =
                mark
                  .replace(/[:|\n]/g, ' ')
                  .slice(0, 40)
                  .trim() || null;
          }
          break;
        case 'barline': {
          const repeat = first(inside, 'repeat');
          if (attribute(repeat, 'direction') === 'forward') found.begins = true;
          if (attribute(repeat, 'direction') === 'backward') {
            found.times = Math.min(32, Math.max(2, Number(attribute(repeat, 'times') ?? 2) || 2));
          }
          const ending = first(inside, 'ending');
          if (attribute(ending, 'type') === 'start') {
            const numbers = (attribute(ending, 'number') ?? '').split(/[ ,]+/).map(Number);
            open = numbers.filter((one) => one > 0);
            found.only = open;
          } else if (ending) {
            open = null;
            found.endsEnding = true;
          }
        }
      }
    }
    const perQuarter = TICKS_PER_QUARTER / Math.max(1, divisions);
    const length = (4 * TICKS_PER_QUARTER * found.meter.beats) / found.meter.unit;
    found.chords = placed
      .map((chord) => ({ ...chord, at: Math.round(chord.at * perQuarter) }))
      .filter((chord) => chord.at >= 0 && chord.at < length)
      .sort((a, b) => a.at - b.at);
    return found;
  });
}

const MOST_BARS = 4000;

/** Bars in the order in which they are played: repeats and their endings written out. */
function unrolled(measures: Measure[]): Measure[] {
  const played: Measure[] = [];
  let start = 0;
  let time = 1;
  for (let at = 0; at < measures.length && played.length < MOST_BARS;) {
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

/**
 * The chords of a MusicXML file, bar by bar as they are played: repeats and endings are written out. Notes are not
 * read.
 * @returns what it says; or the first place that cannot be read
 * @example readMusicXml('<score-partwise/>') // { problem: { line: 1, column: 1, message: 'This score has no bars.' } }
 */
export function readMusicXml(text: string): ChartAnswer {
  const valid = XMLValidator.validate(text);
  if (valid !== true) {
    const { line, col, msg } = valid.err;
    return { problem: { line, column: col, message: `This is not whole XML: ${msg}` } };
  }
  const parser = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    parseTagValue: false,
    // Entities of a document's own are not unfolded: a short file could fill the memory.
    processEntities: false,
    htmlEntities: true,
  });
  const root = first(parser.parse(text) as Node[], 'score-partwise');
  const left: { line: number; text: string }[] = [];
  const inside = childrenOf(root);
  const [part] = all(inside, 'part')
    .map((one) => ({ one, harmonies: JSON.stringify(one).split('"harmony"').length }))
    .sort((a, b) => b.harmonies - a.harmonies);
  const measures = part ? measuresOf(part.one, (what) => left.push({ line: 1, text: what })) : [];
  if (measures.length === 0) {
    return { problem: { line: 1, column: 1, message: 'This score has no bars.' } };
  }
  const bars = unrolled(measures);
  if (bars.every(({ chords }) => chords.length === 0)) {
    return {
      problem: { line: 1, column: 1, message: 'This score names no chords over its bars.' },
    };
  }
  const work = childrenOf(first(inside, 'work'));
  const title =
    textOf(first(work, 'work-title')) || textOf(first(inside, 'movement-title')) || null;
  const tempo = Number(/<sound[^>]*tempo="([\d.]+)"/.exec(text)?.[1] ?? NaN);
  const chart = chartOfBars(bars, {
    title: title?.slice(0, 120) ?? null,
    tempo: tempo >= 20 && tempo <= 300 ? Math.round(tempo) : null,
  });
  return { chart: { ...chart, left: [...left, ...chart.left] } };
}
