import {
  type Division,
  DIVISIONS,
  MOST_BEATS,
  type Pattern,
  type PatternBeat,
  type Stroke,
} from '../schema';
import { isCompound } from '../time';
import { naturalDirections } from './arm';
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

/** A pattern near to what was said, where it does not fit as it is. */
export interface NearFit {
  label: string;
  pattern: Pattern;
}

/** What could not be read, and where in the text. */
export interface SayProblem {
  from: number;
  to: number;
  message: string;
  fits: NearFit[];
}

export type SayReading = { pattern: Pattern } | { problem: SayProblem };

/** A stroke as it was said, and where in the text. */
interface SaidStroke {
  from: number;
  to: number;
  spoken: SpokenStroke;
}

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

const divisionOf = (slotCount: number): Division | undefined =>
  DIVISIONS.find((division) => division === slotCount);

const fillBeats = (groups: SaidStroke[][], beats: number) =>
  groups.length === beats && groups.every((group) => divisionOf(group.length));

/**
 * Reads a pattern from words, letters or arrows; see `notation.ts` for the words.
 *
 * Where there are as many groups between commas as beats, each group fills its beat. Otherwise the
 * strokes are fitted to the arm: downs fall on the numbers, ups on the &s, and what is passed over is
 * missed; the coarsest grid that holds them is taken. Bars may be set apart by `|`.
 *
 * @param base gives the meter, the length, the arm and the name
 * @returns the pattern; or the place that cannot be read, why, and what would fit
 * @example parsePattern('D DU -UDU', newPattern(METERS['4/4'])) // down on 1, down up on 2, up after 3, down up on 4
 */
export function parsePattern(text: string, base: Pattern): SayReading {
  const bars = readGroups(text);
  if (!Array.isArray(bars)) return { problem: { ...bars, fits: [] } };
  const all = bars.flat();
  if (fillBeats(all, base.beats.length)) return { pattern: byBeats(all, base) };
  if (bars.length === 1) return inThrees(all.flat(), base) ?? byArm(all.flat(), base);

  const beats: PatternBeat[] = [];
  for (const bar of bars) {
    if (beats.length + base.meter.beats > Math.min(MOST_BEATS, base.meter.beats * 8)) {
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
  return { pattern: { ...base, beats } };
}

function emptyBeats(beats: number, division: Division): PatternBeat[] {
  const slotsOfBeat = Array.from({ length: division }, (): Stroke => ({ kind: 'miss' }));
  return Array.from({ length: beats }, () => ({ division, slots: slotsOfBeat }));
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

function byArm(strokes: SaidStroke[], base: Pattern): SayReading {
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
  // One stroke a slot, whichever way it goes.
  const room = DIVISIONS.find((division) => division * base.beats.length >= strokes.length);
  if (room) {
    const natural = naturalDirections({ ...base, beats: emptyBeats(base.beats.length, room) });
    const placed = natural.map(
      (dir, slot): Stroke => strokes[slot]?.spoken.make(dir) ?? { kind: 'miss' },
    );
    fits.push({
      label: 'One stroke a slot, against the arm',
      pattern: { ...base, beats: regroup(placed, room) },
    });
  }
  const bar = base.meter.beats;
  for (
    let bars = Math.floor(base.beats.length / bar) + 1;
    bars <= 8 && bars * bar <= MOST_BEATS;
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
