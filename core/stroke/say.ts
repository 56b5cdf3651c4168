import {
  type Division,
  DIVISIONS,
  MAX_BEATS,
  type Pattern,
  type PatternBeat,
  type Stroke,
} from '../schema';
import { type CountVocabulary, isCompound } from '../time';
import { naturalDirections } from './arm';
import { onlyNumbers, readCounts } from './counts';
import {
  asked,
  asMeant,
  divisionOf,
  emptyBeats,
  type NearFit,
  type SayChoice,
  toLength,
} from './sayChoices';
import { divisions, slots } from './grid';
import { isJoiner, isModifier, readStrokes, sayStroke, type SpokenStroke } from './notation';

/**
 * The pattern in words, as players speak it: the strokes of a beat together, beats set apart by
 * commas, bars by strokes of the pen. `parsePattern` reads it back.
 * @example say(pattern) // 'bass miss, DOWN up, miss up, chuck up'
 */
export function say(pattern: Pattern): string {
  const natural = naturalDirections(pattern);
  const words = slots(pattern).map(({ index, stroke }) => sayStroke(stroke, natural[index]!));
  const { beats } = pattern.meter;
  let next = 0;
  return divisions(pattern)
    .map((division, beat) => {
      const apart = beat === 0 ? '' : beat % beats === 0 ? ' | ' : ', ';
      return apart + words.slice(next, (next += division)).join(' ');
    })
    .join('');
}

/** What could not be read, and where in the text. */
export interface SayProblem {
  from: number;
  to: number;
  message: string;
  fits: NearFit[];
}

export type { NearFit, SayChoice } from './sayChoices';
export type SayReading = { pattern: Pattern } | { choice: SayChoice } | { problem: SayProblem };

export interface SayOptions {
  /** How the player counts; syllables are read only where they are chosen. */
  vocabulary?: CountVocabulary | undefined;
}

/** A stroke as it was said, and where in the text. */
interface SaidStroke {
  from: number;
  to: number;
  spoken: SpokenStroke;
}

/** More than one ornament on a stroke. */
const ORNAMENTS = /(:<?(hammer|pull|slide)-?\d.*){2}/i;
/** A token: a word or run of letters with its loudness. */
const TOKEN = /\(?[^\s,|()!]+\)?!{0,2}/g;

/** The strokes of a text: by bars, by groups between commas. */
function readGroups(text: string): SaidStroke[][][] | Omit<SayProblem, 'fits'> {
  const bars: SaidStroke[][][] = [];
  for (const bar of text.matchAll(/[^|]+/g)) {
    const groups: SaidStroke[][] = [];
    for (const part of bar[0].matchAll(/[^,]+/g)) {
      const group: SaidStroke[] = [];
      let modifiers: { word: string; from: number }[] = [];
      for (const token of part[0].matchAll(TOKEN)) {
        const from = bar.index + part.index + token.index;
        if (isJoiner(token[0])) continue;
        if (isModifier(token[0])) {
          modifiers.push({ word: token[0], from });
          continue;
        }
        const words = modifiers.map(({ word }) => word);
        const strokes = readStrokes(token[0], words);
        if (!strokes) {
          const to = from + token[0].length;
          const word = text.slice(from, to);
          if (readStrokes(token[0])) {
            return {
              from: modifiers[0]!.from,
              to,
              message: `“${words.join(' ')}” says nothing about “${word}”.`,
            };
          }
          if (/^\(?slide\)?!*$/i.test(word)) {
            const message = `“${word}” wants a place: slide:s3f2, slide:next, slide:away, or slide:shape.`;
            return { from, to, message };
          }
          if (ORNAMENTS.test(word)) {
            return {
              from,
              to,
              message: `“${word}” has two ornaments: each wants a string of its own, as in “5+2:hammer2@5:pull1@2”.`,
            };
          }
          const message = `“${word}” is no stroke: say down, up, miss, hold, chuck, bass, roll, tap, or the strings of a pick.`;
          return { from, to, message };
        }
        modifiers = [];
        group.push(
          ...strokes.map((stroke) => ({
            ...stroke,
            from: from + stroke.from,
            to: from + stroke.to,
          })),
        );
      }
      const [left] = modifiers;
      if (left) {
        const to = left.from + left.word.length;
        return { from: left.from, to, message: `“${left.word}” wants a stroke after it.` };
      }
      if (group.length > 0) groups.push(group);
    }
    if (groups.length > 0) bars.push(groups);
  }
  if (bars.length > 0) return bars;
  return { from: 0, to: Math.max(1, text.length), message: 'Say at least one stroke.' };
}

const fillBeats = (groups: SaidStroke[][], beats: number) =>
  groups.length === beats && groups.every((group) => divisionOf(group.length));

/**
 * Reads a pattern from words, letters or arrows, see `notation.ts` for the words; or from counts, see `counts.ts`.
 *
 * Commas set beats apart, and bars may be set apart by `|`. Without commas the strokes are fitted to the arm: downs fall
 * on the numbers, ups on the &s, and what is passed over is missed; the coarsest grid that holds them is taken. What is
 * shorter than the pattern, or may be meant in more than one way, is asked and not guessed.
 *
 * @param base gives the meter, the length, the arm and the name
 * @returns the pattern; or what it may mean, the likeliest first; or the place that cannot be read, why, and what would fit
 * @example parsePattern('D DU -UDU', newPattern(METERS['4/4'])) // down on 1, down up on 2, up after 3, down up on 4
 */
export function parsePattern(text: string, base: Pattern, options: SayOptions = {}): SayReading {
  const counted = readCounts(text, base, options.vocabulary);
  if (!counted) return parseWords(text, base);
  const bare = onlyNumbers(text);
  // Beats go up, and begin again on the first; strings go any way.
  if (bare && !risesAsBeats(text)) return parseWords(text, base);
  const words = bare ? fitsOf(parseWords(text, base)) : [];
  if ('problem' in counted) {
    return words.length > 0 ? asked(words, base) : { problem: { ...counted.problem, fits: [] } };
  }
  const counts = counted.fits.flatMap(({ label, pattern }) =>
    toLength(pattern, base).map((fit) => ({
      label: counted.fits.length > 1 ? both(label, fit.label) : fit.label,
      pattern: fit.pattern,
    })),
  );
  if (words.length === 0) return asked(counts, base);
  // A line of bare numbers may be beats or strings.
  const picks = slots(base).some(({ stroke }) => stroke.kind === 'pick');
  const beats = counts.map((fit) => ({ ...fit, label: both('On these beats', fit.label) }));
  const strings = words.map((fit) => ({ ...fit, label: both('These strings', fit.label) }));
  return asked(picks ? [...strings, ...beats] : [...beats, ...strings], base);
}

function risesAsBeats(text: string): boolean {
  const numbers = (text.match(/\d+/g) ?? []).map(Number);
  return numbers.every((one, at) => at === 0 || one > numbers[at - 1]! || one === 1);
}

const both = (one: string, other: string) =>
  other === '' ? one : `${one}, ${other[0]!.toLowerCase()}${other.slice(1)}`;

const fitsOf = (reading: SayReading): NearFit[] => {
  if ('pattern' in reading) return [{ label: '', pattern: reading.pattern }];
  return 'choice' in reading ? reading.choice.fits : [];
};

/** Reads strokes by their words, letters or arrows. */
function parseWords(text: string, base: Pattern): SayReading {
  const bars = readGroups(text);
  if (!Array.isArray(bars)) return { problem: { ...bars, fits: [] } };
  const all = bars.flat();
  if (fillBeats(all, base.beats.length)) return asMeant(byBeats(all, base), base);
  if (bars.length === 1) {
    const [groups] = bars;
    const reading = groups!.length > 1 ? byCommas(groups!, base) : inOneLine(groups!.flat(), base);
    return 'pattern' in reading ? asMeant(reading.pattern, base) : reading;
  }
  const beats: PatternBeat[] = [];
  for (const bar of bars) {
    if (beats.length + base.meter.beats > Math.min(MAX_BEATS, base.meter.beats * 8)) {
      const { from, to } = bar[0]![0]!;
      return { problem: { from, to, message: 'A pattern has at most eight bars.', fits: [] } };
    }
    const place = { ...base, beats: emptyBeats(base.meter.beats, 1) };
    const reading = fillBeats(bar, base.meter.beats)
      ? { pattern: byBeats(bar, place) }
      : (inThrees(bar.flat(), place) ?? byArm(bar.flat(), place));
    if ('problem' in reading) return reading;
    beats.push(...reading.pattern.beats);
  }
  return asMeant({ ...base, beats }, base);
}

/** Groups between commas: each is a beat, in a pattern of any length. */
function byCommas(groups: SaidStroke[][], base: Pattern): SayReading {
  const beats = base.beats.length;
  const strokes = groups.flat();
  if (!groups.every((group) => divisionOf(group.length))) return fitted(strokes, base);
  if (groups.length > beats) {
    const isWhole = groups.length % base.meter.beats === 0;
    const most = Math.min(MAX_BEATS, 8 * base.meter.beats);
    if (!isWhole || groups.length > most) return fitted(strokes, base);
    return { pattern: byBeats(groups, base) };
  }
  const spread = byArm(strokes, base);
  const whole =
    'pattern' in spread && lastBeatOf(spread.pattern) === beats - 1
      ? [{ label: 'Over the whole pattern', pattern: spread.pattern }]
      : [];
  const once = toLength(byBeats(groups, base), base);
  // Beats alike are beats; halves of a bar that differ were likely meant to fill it.
  const alike = groups.every((group) => group.length === groups[0]!.length);
  return asked(
    alike && beats % groups.length === 0 ? [...once, ...whole] : [...whole, ...once],
    base,
  );
}

/** Strokes in a row without commas. */
function inOneLine(strokes: SaidStroke[], base: Pattern): SayReading {
  return inThrees(strokes, base) ?? fitted(strokes, base);
}

/** Strokes fitted to the arm; asked where they end before the pattern does, or go with it only in sixteenths. */
function fitted(strokes: SaidStroke[], base: Pattern): SayReading {
  const reading = byArm(strokes, base);
  if (!('pattern' in reading)) return reading;
  const { pattern } = reading;
  const last = lastBeatOf(pattern);
  if (last < base.beats.length - 1) {
    return asked(toLength({ ...pattern, beats: pattern.beats.slice(0, last + 1) }, base), base);
  }
  const [usual] = gridsFor(base);
  const passes = strokes.length < slots(pattern).length - 1;
  if (pattern.beats[0]!.division === usual || !passes) return { pattern };
  const near = nearFits(strokes, base, gridsFor(base), pattern).slice(0, -1);
  return asked([{ label: 'In sixteenths', pattern }, ...near], base);
}

/** The last beat in which anything is struck, from 0. */
function lastBeatOf(pattern: Pattern): number {
  return Math.max(
    0,
    pattern.beats.findLastIndex(({ slots: strokes }) =>
      strokes.some(({ kind }) => kind !== 'miss'),
    ),
  );
}

function byBeats(groups: SaidStroke[][], base: Pattern): Pattern {
  const rows = groups.map((group) => divisionOf(group.length)!);
  const empty = rows.flatMap((division) => emptyBeats(1, division));
  const natural = naturalDirections({ ...base, beats: empty });
  let slot = 0;
  const beats = groups.map((group, beat): PatternBeat => ({
    division: rows[beat]!,
    slots: group.map(({ spoken }) => spoken.make(natural[slot++]!)),
  }));
  return { ...base, beats };
}

/**
 * Three strokes to each beat, misses said too: a triple feel. It takes the arm that it goes with, the shuffle's, or its
 * own where all beats are alike; null where it goes with neither.
 */
function inThrees(strokes: SaidStroke[], base: Pattern): { pattern: Pattern } | null {
  const beats = base.beats.length;
  if (strokes.length !== 3 * beats || base.meter.unit >= 8 || base.meter.cycle) return null;
  const sides = strokes.map(({ spoken }) => spoken.dir ?? '-');
  if (!sides.includes('-')) return null;
  const alike = sides.every((side, at) => side === sides[at % 3]);
  const groups = Array.from({ length: beats }, (_, beat) => strokes.slice(3 * beat, 3 * beat + 3));
  const shuffle = { ...base.arm, school: 'shuffle' as const };
  const arms = alike ? [base.arm, shuffle] : [shuffle];
  for (const arm of arms) {
    const pattern = byBeats(groups, { ...base, arm });
    const natural = naturalDirections(pattern);
    const goes = strokes.every(
      ({ spoken }, slot) => (spoken.dir ?? natural[slot]) === natural[slot],
    );
    if (goes) return { pattern };
  }
  return null;
}

/** Divisions that a line without beats is fitted to, in turn. */
function gridsFor(base: Pattern): Division[] {
  const counted = isCompound(base.meter) || base.meter.unit >= 8 || base.meter.cycle !== undefined;
  return counted ? [1, 2, 4] : [2, 4];
}

/** Fits strokes to the arm on one grid; `left` is the first that found no place. */
function fitOn(
  strokes: SaidStroke[],
  base: Pattern,
  division: Division,
): { pattern: Pattern; left: number } {
  const grid: Pattern = { ...base, beats: emptyBeats(base.beats.length, division) };
  const natural = naturalDirections(grid);
  const placed: Stroke[] = natural.map(() => ({ kind: 'miss' }));
  let slot = 0;
  const left = strokes.findIndex(({ spoken }) => {
    while (spoken.dir !== null && slot < natural.length && natural[slot] !== spoken.dir) slot += 1;
    if (slot >= natural.length) return true;
    placed[slot] = spoken.make(natural[slot]!);
    slot += 1;
    return false;
  });
  return { pattern: { ...base, beats: regroup(placed, division) }, left };
}

function regroup(strokes: Stroke[], division: Division): PatternBeat[] {
  return Array.from({ length: Math.ceil(strokes.length / division) }, (_, beat) => ({
    division,
    slots: strokes.slice(beat * division, (beat + 1) * division),
  }));
}

function byArm(
  strokes: SaidStroke[],
  base: Pattern,
): { pattern: Pattern } | { problem: SayProblem } {
  const grids = gridsFor(base);
  let best = fitOn(strokes, base, grids[0]!);
  for (const division of grids) {
    const fit = fitOn(strokes, base, division);
    if (fit.left < 0) return { pattern: fit.pattern };
    if (fit.left >= best.left) best = fit;
  }
  const { from, to } = strokes[best.left]!;
  const message = `From here on it does not fit into ${base.beats.length} beats, in eighths or in sixteenths.`;
  return { problem: { from, to, message, fits: nearFits(strokes, base, grids, best.pattern) } };
}

function nearFits(
  strokes: SaidStroke[],
  base: Pattern,
  grids: Division[],
  cut: Pattern,
): NearFit[] {
  const fits: NearFit[] = [];
  // One stroke a place, whichever way it goes.
  const room = DIVISIONS.find((division) => division * base.beats.length >= strokes.length);
  if (room) {
    const natural = naturalDirections({ ...base, beats: emptyBeats(base.beats.length, room) });
    const placed = natural.map(
      (dir, slot): Stroke => strokes[slot]?.spoken.make(dir) ?? { kind: 'miss' },
    );
    fits.push({
      label: 'One stroke a place, against the arm',
      pattern: { ...base, beats: regroup(placed, room) },
    });
  }
  const bar = base.meter.beats;
  for (
    let bars = Math.floor(base.beats.length / bar) + 1;
    bars <= 8 && bars * bar <= MAX_BEATS;
    bars += 1
  ) {
    const longer = { ...base, beats: emptyBeats(bars * bar, 1) };
    const fit = fitOn(strokes, longer, grids[0]!);
    if (fit.left >= 0) continue;
    fits.push({ label: `Over ${bars} bars`, pattern: fit.pattern });
    break;
  }
  fits.push({ label: 'Only what fits', pattern: cut });
  return fits;
}
