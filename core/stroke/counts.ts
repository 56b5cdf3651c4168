import {
  type Accent,
  type Division,
  DIVISIONS,
  MAX_BEATS,
  type Pattern,
  type PatternBeat,
  type Stroke,
} from '../schema';
import { countNumber, type CountVocabulary } from '../time';
import { naturalDirections } from './arm';
import { divisions, slots, sounds } from './grid';

/**
 * A rhythm said by its counts: `1 2 & a e & 4 e & a`, `one two and a E and four`. Every count is a hit, and takes the
 * direction that the arm has there. A count without its number belongs to the beat that was said last, or to the next
 * one where it can no longer come in that; `-3 &` counts the 3 and does not strike it. Capital letters and `!` are
 * accents; bars are set apart by `|`, or begin where the numbers begin again.
 */

/** A count as it was said: where in its bar, and where in the text. */
interface Count {
  from: number;
  to: number;
  bar: number;
  beat: number;
  /** Twenty-fourths of a beat. */
  at: number;
  accent: Accent;
}

/** How counts may be meant, each with the divisions of a beat that it goes with. */
export interface CountWay {
  label: string;
  /** Where each syllable lies, in twenty-fourths of a beat. */
  places: Record<string, number>;
}

const BEAT = 24;
const NUMBERS = [
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
];
const AND = ['&', 'and', '+', 'n'];
const syllables = (words: Record<string, number>) => ({
  ...words,
  ...(words['&'] !== undefined && Object.fromEntries(AND.map((word) => [word, words['&']!]))),
});
const IN_FOURS: CountWay = {
  label: 'In sixteenths',
  places: syllables({ e: 6, '&': 12, a: 18, trip: 8, let: 16, la: 8, li: 16 }),
};
/** Many say three to a beat as "1 & a". */
const IN_THREES: CountWay = {
  label: 'Three to a beat',
  places: syllables({ '&': 8, a: 16, trip: 8, let: 16, la: 8, li: 16 }),
};
const BY_SYLLABLES: CountWay = {
  label: 'By syllables',
  places: { ka: 6, di: 12, mi: 18, ki: 8, da: 16 },
};

const TOKEN = /\||[^\s,|]+/g;
const WORD = /^(-?)(\d{1,2}|[a-z&+]+)(!{0,2})$/i;

/** Whether a text is made of counts, and names at least one place beside the numbers. */
export function saysCounts(text: string, vocabulary: CountVocabulary = 'numbers'): boolean {
  const words = [...text.matchAll(TOKEN)].map(([word]) => word).filter((word) => word !== '|');
  const known = (word: string) => {
    const found = WORD.exec(word);
    if (!found) return false;
    const lower = found[2]!.toLowerCase();
    if (isNumber(lower)) return true;
    if (found[1] !== '') return lower === 'ta' && vocabulary === 'syllables';
    return waysFor(vocabulary).some(
      ({ places }) => Object.hasOwn(places, lower) || (lower === 'ta' && 'di' in places),
    );
  };
  const beats = (word: string) => {
    const lower = (WORD.exec(word)?.[2] ?? '').toLowerCase();
    return isNumber(lower) || lower === 'ta';
  };
  return words.length > 0 && words.every(known) && words.some(beats);
}

const isNumber = (word: string) => /^\d+$/.test(word) || NUMBERS.includes(word);
const waysFor = (vocabulary: CountVocabulary): CountWay[] =>
  vocabulary === 'syllables' ? [BY_SYLLABLES, IN_FOURS] : [IN_FOURS, IN_THREES];

/** Whether nothing but numbers was said: those may be strings as well. */
export const onlyNumbers = (text: string): boolean => /^[\d\s,|!]+$/.test(text);

export type CountReading =
  | { fits: { label: string; pattern: Pattern }[] }
  | { problem: { from: number; to: number; message: string } };

/**
 * Reads a rhythm from its counts, in each way that it may be meant, the usual one first.
 * @returns null where the text is not made of counts; the place that cannot be read, and why
 * @example readCounts('1 2 & 4', newPattern(METERS['4/4'])) // down on 1, 2 and 4, up after 2
 */
export function readCounts(
  text: string,
  base: Pattern,
  vocabulary: CountVocabulary = 'numbers',
): CountReading | null {
  if (!saysCounts(text, vocabulary)) return null;
  let problem: { from: number; to: number; message: string } | null = null;
  const fits: { label: string; pattern: Pattern }[] = [];
  const said = text.toLowerCase().split(/[\s,|!]+/);
  // Without an "a" there is nothing that three to a beat would be told by; an "e" is of four.
  const maybeThrees = said.includes('a') && !said.includes('e');
  const inThrees = base.beats.some(({ division }) => division === 3);
  const ways = waysFor(vocabulary).filter((way) => way !== IN_THREES || maybeThrees);
  for (const way of inThrees ? ways.toReversed() : ways) {
    const read = countsBy(text, base, way);
    if ('problem' in read) {
      problem ??= read.problem;
      continue;
    }
    const pattern = laid(read.counts, base);
    if (!fits.some((fit) => sameBeats(fit.pattern, pattern)))
      fits.push({ label: way.label, pattern });
  }
  return fits.length > 0 ? { fits } : { problem: problem! };
}

/** Whether two patterns have the same strokes on the same grid. */
export const sameBeats = (one: Pattern, other: Pattern) =>
  JSON.stringify(one.beats) === JSON.stringify(other.beats);

function accentOf(word: string, bangs: number): Accent {
  const shouted = /[a-z]/i.test(word) && word === word.toUpperCase();
  if (shouted) return bangs > 0 ? 'strong' : 'accent';
  return bangs > 1 ? 'strong' : bangs === 1 ? 'accent' : 'normal';
}

function countsBy(
  text: string,
  { meter }: Pattern,
  { places }: CountWay,
): { counts: Count[] } | { problem: { from: number; to: number; message: string } } {
  const numbers = Array.from({ length: meter.beats }, (_, beat) => countNumber(meter, beat));
  const counts: Count[] = [];
  let [bar, beat, last] = [0, -1, -1];
  for (const token of text.matchAll(TOKEN)) {
    const from = token.index;
    const to = from + token[0].length;
    const fail = (message: string) => ({ problem: { from, to, message } });
    if (token[0] === '|') {
      if (beat >= 0) bar += 1;
      [beat, last] = [-1, -1];
      continue;
    }
    const [, passed, word, bangs] = WORD.exec(token[0])!;
    const lower = word!.toLowerCase();
    const number = /^\d+$/.test(lower) ? Number(lower) : NUMBERS.indexOf(lower) + 1;
    if (number > 0) {
      const at = numbers.indexOf(number);
      if (at < 0) return fail(`There is no ${number} in a bar of ${meter.beats}.`);
      // Numbers that begin again begin a bar.
      if (at < beat || (at === beat && last >= 0)) bar += 1;
      [beat, last] = [at, 0];
    } else if (lower === 'ta') {
      beat += 1;
      last = 0;
      if (beat >= meter.beats) [bar, beat] = [bar + 1, 0];
    } else {
      const place = places[lower];
      if (place === undefined) return fail(`“${word}” is no count here.`);
      if (beat < 0) beat = 0;
      // What can no longer come in this beat is of the next one.
      if (place <= last) beat += 1;
      if (beat >= meter.beats) [bar, beat] = [bar + 1, 0];
      last = place;
    }
    if (passed !== '') {
      // It is counted, and not struck: what is said next may come right after it.
      continue;
    }
    if ((bar + 1) * meter.beats > Math.min(MAX_BEATS, 8 * meter.beats)) {
      return fail('A pattern has at most eight bars.');
    }
    counts.push({ from, to, bar, beat, at: last, accent: accentOf(word!, bangs!.length) });
  }
  return { counts };
}

/** The coarsest division that holds some places of a beat. */
const divisionFor = (ats: number[]): Division =>
  DIVISIONS.find((division) => ats.every((at) => at % (BEAT / division) === 0))!;

/** Counts as strokes on the arm: beats in twos, or in fours where any is; those in threes are so by themselves. */
function laid(counts: Count[], base: Pattern): Pattern {
  const bars = Math.max(...counts.map(({ bar }) => bar)) + 1;
  const length = bars * base.meter.beats;
  const needs = Array.from({ length }, (_, index) =>
    divisionFor(
      counts.filter(({ bar, beat }) => bar * base.meter.beats + beat === index).map(({ at }) => at),
    ),
  );
  const even = needs.filter((division) => division !== 3 && division !== 6);
  const usual = base.meter.unit >= 8 || base.meter.cycle ? 1 : 2;
  const common = Math.max(usual, ...even) as Division;
  const rows = needs.map((division) => (division === 3 || division === 6 ? division : common));
  const empty = rows.map((division): PatternBeat => ({
    division,
    slots: Array.from({ length: division }, (): Stroke => ({ kind: 'miss' })),
  }));
  const natural = naturalDirections({ ...base, beats: empty });
  const strokes = empty.map(({ slots: all }) => [...all]);
  const before = rows.map((_, index) =>
    rows.slice(0, index).reduce<number>((sum, one) => sum + one, 0),
  );
  for (const { bar, beat, at, accent } of counts) {
    const index = bar * base.meter.beats + beat;
    const slot = (at * rows[index]!) / BEAT;
    strokes[index]![slot] = { kind: 'strum', dir: natural[before[index]! + slot]!, accent };
  }
  return { ...base, beats: rows.map((division, index) => ({ division, slots: strokes[index]! })) };
}

const SAID: Partial<Record<Division, string[]>> = {
  1: [],
  2: ['&'],
  3: ['trip', 'let'],
  4: ['e', '&', 'a'],
};

/**
 * The hits of a pattern by their counts, which `readCounts` reads back; bars are set apart by `|`.
 * @returns null where the usual counts have no word for a place, six or eight to a beat, or nothing is struck in a bar
 * @example sayCounts(pattern) // '1 2 & -3 & 4!'
 */
export function sayCounts(pattern: Pattern): string | null {
  const { meter } = pattern;
  const rows = divisions(pattern);
  const all = slots(pattern);
  const bars: string[][] = [];
  let slot = 0;
  let last = { beat: -1, at: -1 };
  for (const [beat, division] of rows.entries()) {
    if (beat % meter.beats === 0) {
      bars.push([]);
      last = { beat: -1, at: -1 };
    }
    for (let position = 0; position < division; position += 1) {
      const { stroke } = all[slot++]!;
      if (!sounds(stroke)) continue;
      const after = SAID[division];
      if (!after) return null;
      const at = (position * BEAT) / division;
      const number = String(countNumber(meter, beat));
      const said = bars.at(-1)!;
      const bangs = stroke.accent === 'strong' ? '!!' : stroke.accent === 'accent' ? '!' : '';
      if (position === 0) said.push(number + bangs);
      else {
        const goesOn =
          last.beat === beat || (last.beat === beat - 1 && at <= last.at && last.at > 0);
        if (!goesOn) said.push(`-${number}`);
        said.push(after[position - 1]! + bangs);
      }
      last = { beat, at };
    }
  }
  if (bars.some((said) => said.length === 0)) return null;
  return bars.map((said) => said.join(' ')).join(' | ');
}
