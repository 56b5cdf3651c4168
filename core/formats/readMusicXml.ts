import { XMLParser, XMLValidator } from 'fast-xml-parser';
import type { Meter } from '../schema';
import { guessKey, parseChord, transposeChord, usesFlats } from '../neck';
import { cleanWord } from '../song';
import { METERS, TICKS_PER_QUARTER } from '../time';
import { OWN_FIELD, readOwn } from './own';
import type { ChartAnswer } from './chart';
import {
  chartOfBars,
  type Measure,
  meterOfBeats,
  pickupOf,
  type PlacedChord,
  unrolled,
  tempoOfQuarters,
} from './written';
import type { ReadStroke } from './readRhythm';

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
  return value === undefined ? null : unescaped(String(value));
};
function textOf(node: Node | undefined): string {
  const words = childrenOf(node).map((child) => child['#text'] ?? '');
  return unescaped(words.join('')).trim();
}

/** The entities that XML itself knows; those of a document's own are left as they are. */
const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };
const unescaped = (text: string) =>
  text.replaceAll(/&(?:#(\d{1,7})|#x([\da-f]{1,6})|(\w+));/gi, (whole, decimal, hex, name) => {
    if (name !== undefined) return ENTITIES[name as string] ?? whole;
    const code = decimal !== undefined ? Number(decimal) : parseInt(hex as string, 16);
    return code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : whole;
  });
const numberOf = (nodes: Node[], name: string) => {
  const text = textOf(first(nodes, name));
  return text === '' ? null : Number(text);
};

/** The highest fret that a capo lies on. */
const MAX_CAPO = 12;

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

/** A note that is struck, with the sign of its stroke; none for rests, notes of a chord, and what rings on. */
function strokeOf(note: Node[]): Omit<ReadStroke, 'at'>[] {
  if (['chord', 'grace', 'rest', 'cue'].some((name) => first(note, name))) return [];
  if (all(note, 'tie').some((tie) => attribute(tie, 'type') === 'stop')) return [];
  const marks = all(note, 'notations').flatMap(childrenOf);
  const signs = all(marks, 'technical').flatMap(childrenOf).map(nameOf);
  // What the fretting hand sounds is no stroke of the arm.
  const joined = all(marks, 'technical').flatMap(childrenOf);
  const goesOn = ['hammer-on', 'pull-off'].some((name) =>
    all(joined, name).some((one) => attribute(one, 'type') === 'stop'),
  );
  if (goesOn) return [];
  const dir = signs.includes('down-bow') ? 'down' : signs.includes('up-bow') ? 'up' : null;
  const accents = all(marks, 'articulations').flatMap(childrenOf).map(nameOf);
  const accent = accents.some((name) => name === 'accent' || name === 'strong-accent');
  return [{ dir, accent, damped: textOf(first(note, 'notehead')) === 'x' }];
}

/** The string and the fret of a note, where it is tablature. */
function fretOf(note: Node[]): { string: number; fret: number } | null {
  const technical = all(note, 'notations')
    .flatMap(childrenOf)
    .filter((one) => nameOf(one) === 'technical')
    .flatMap(childrenOf);
  const [string, fret] = [numberOf(technical, 'string'), numberOf(technical, 'fret')];
  return string !== null && fret !== null && string >= 1 ? { string, fret } : null;
}

/** Strokes of tablature with the chord that sounds in each: the fullest of a chord says how it is held. */
class ShapeReader {
  private readonly fullest = new Map<string, Map<number, number>>();
  private sounding: string | null = null;
  private groups: { at: number; frets: Map<number, number> }[] = [];

  /** Strings of the staff, as it says, or as many as there are frets on. */
  strings = 0;

  /** The fret of a capo. */
  capo = 0;

  staff(lines: number | null, capo: number | null): void {
    this.strings = Math.max(this.strings, lines ?? 0);
    this.capo = capo ?? this.capo;
  }

  note(note: Node[], at: number): void {
    const place = fretOf(note);
    if (!place || first(note, 'grace')) return;
    this.strings = Math.max(this.strings, place.string);
    if (!first(note, 'chord') || this.groups.length === 0) {
      this.groups.push({ at, frets: new Map() });
    }
    this.groups.at(-1)?.frets.set(place.string, place.fret);
  }

  /** @param chords of the bar, with their places */
  endBar(chords: PlacedChord[]): void {
    const inOrder = [...chords].sort((a, b) => a.at - b.at);
    for (const { at, frets } of this.groups) {
      const symbol = inOrder.findLast((chord) => chord.at <= at)?.symbol ?? this.sounding;
      if (symbol === null) continue;
      if (frets.size > (this.fullest.get(symbol)?.size ?? 0)) this.fullest.set(symbol, frets);
    }
    this.sounding = inOrder.at(-1)?.symbol ?? this.sounding;
    this.groups = [];
  }

  /** Those with so many strings that they are chords. */
  shapes(): { symbol: string; frets: Map<number, number> }[] {
    return [...this.fullest]
      .filter(([, { size }]) => size >= STRINGS)
      .map(([symbol, frets]) => ({ symbol, frets }));
  }
}
const STRINGS = 3;

/** Words under a note, those of its first verse: a syllable that goes on ends with a hyphen. */
function lyricsOf(note: Node[]): string[] {
  return all(note, 'lyric').flatMap((lyric) => {
    const parts = childrenOf(lyric);
    const text = cleanWord(textOf(first(parts, 'text')));
    const goesOn = /^(begin|middle)$/.test(textOf(first(parts, 'syllabic')));
    return text === '' ? [] : [goesOn && !text.endsWith('-') ? `${text}-` : text];
  });
}

/** The bars of a part, in the order in which they are written. */
function measuresOf(part: Node, fail: (message: string) => void, shapes: ShapeReader): Measure[] {
  let divisions = 1;
  let meter: Meter = METERS['4/4'];
  let open: number[] | null = null;
  return all(childrenOf(part), 'measure').map((measure, index): Measure => {
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
    /** The farthest that its notes and rests go. */
    let reached = 0;
    const placed: PlacedChord[] = [];
    const sung: { at: number; text: string }[] = [];
    const struck: ReadStroke[] = [];
    for (const item of childrenOf(measure)) {
      const inside = childrenOf(item);
      switch (nameOf(item)) {
        case 'attributes': {
          divisions = numberOf(inside, 'divisions') ?? divisions;
          const staff = childrenOf(first(inside, 'staff-details'));
          shapes.staff(numberOf(staff, 'staff-lines'), numberOf(staff, 'capo'));
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
          sung.push(...lyricsOf(inside).map((text) => ({ at, text })));
          struck.push(...strokeOf(inside).map((stroke) => ({ ...stroke, at })));
          shapes.note(inside, at);
          if (!first(inside, 'chord') && !first(inside, 'grace'))
            at += numberOf(inside, 'duration') ?? 0;
          reached = Math.max(reached, at);
          break;
        case 'backup':
          at -= numberOf(inside, 'duration') ?? 0;
          break;
        case 'forward':
          at += numberOf(inside, 'duration') ?? 0;
          reached = Math.max(reached, at);
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
    shapes.endBar(placed);
    const perQuarter = TICKS_PER_QUARTER / Math.max(1, divisions);
    const length = (4 * TICKS_PER_QUARTER * found.meter.beats) / found.meter.unit;
    const pickup = pickupOf(found.meter, reached * perQuarter);
    if (pickup !== undefined && (index === 0 || attribute(measure, 'implicit') === 'yes')) {
      found.pickup = pickup;
    }
    found.chords = placed
      .map((chord) => ({ ...chord, at: Math.round(chord.at * perQuarter) }))
      .filter((chord) => chord.at >= 0 && chord.at < length)
      .sort((a, b) => a.at - b.at);
    found.strokes = struck
      .map((stroke) => ({ ...stroke, at: Math.round(stroke.at * perQuarter) }))
      .filter(({ at: place }) => place < length);
    found.words = sung
      .map(({ at: place, text }) => ({ at: Math.round(place * perQuarter), text }))
      .filter(({ at: place }) => place >= 0 && place < length);
    return found;
  });
}

/**
 * The chords of a MusicXML file, bar by bar as they are played: repeats and endings are written out. Of its
 * notes the rhythm is read, with the signs of the strokes, and the words under them.
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
  const shapes = new ShapeReader();
  const leave = (what: string) => left.push({ line: 1, text: what });
  const measures = part ? measuresOf(part.one, leave, shapes) : [];
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
  const quarters = Number(/<sound[^>]*tempo="([\d.]+)"/.exec(text)?.[1] ?? NaN);
  // Chords are named as they sound, and held that much lower.
  const capo = Math.min(MAX_CAPO, Math.max(0, Math.round(shapes.capo)));
  const flats = usesFlats(guessKey(bars.flatMap(({ chords }) => chords.map((one) => one.symbol))));
  const held = (symbol: string) => transposeChord(symbol, -capo, flats);
  const fields = all(
    childrenOf(first(childrenOf(first(inside, 'identification')), 'miscellaneous')),
    'miscellaneous-field',
  );
  const rows = fields.filter((one) => attribute(one, 'name') === OWN_FIELD).map(textOf);
  const chart = chartOfBars(
    bars.map((bar) => ({
      ...bar,
      chords: bar.chords.map((one) => ({ ...one, symbol: held(one.symbol) })),
    })),
    {
      title: title?.slice(0, 120) ?? null,
      tempo: null,
      own: readOwn(rows),
    },
  );
  return {
    chart: {
      ...chart,
      tempo: tempoOfQuarters(quarters, chart.meter!),
      capo: capo > 0 ? capo : null,
      shapes: shapes.shapes().map((one) => ({ ...one, symbol: held(one.symbol) })),
      strings: shapes.strings,
      left: [...left, ...chart.left],
    },
  };
}
