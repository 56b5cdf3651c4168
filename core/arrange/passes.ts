import type { Ticks } from '../plain';
import type { Pattern } from '../schema';
import { armPasses, divisions, patternTicks, type Slot, slots } from '../stroke';
import { loosePass } from '../pattern';
import { beatTicks, count, type CountVocabulary } from '../time';
import type { RhythmPart } from './rhythm';
import { firstFrom, type Landing, type PlayedBar } from '../song';

/** One time round of a pattern, where it is played. */
export interface PatternPass {
  pattern: Pattern;
  /** Its first tick, from the start of the song; it may begin before its part and be cut after. */
  start: Ticks;
  /** Counted over the song, so that each is told from every other. */
  number: number;
}

/**
 * The pass of the pattern that is played at a tick.
 * @param part the stretch of rhythm that the tick lies in
 * @example passAt(parts[0], bars[3].tick).start
 */
export function passAt(part: RhythmPart, tick: Ticks): PatternPass {
  const length = patternTicks(part.pattern);
  const first = part.tick - part.offset;
  const start = first + Math.floor((tick - first) / length) * length;
  return { pattern: part.pattern, start, number: start };
}

/** The slots of a pass on which a chord lands. */
export function landingSlots({ pattern, start }: PatternPass, changes: Landing[]): Set<number> {
  const end = start + patternTicks(pattern);
  const inside = changes.slice(firstFrom(changes, start), firstFrom(changes, end));
  const ticks = new Set(inside.map(({ tick }) => tick - start));
  return new Set(slots(pattern).flatMap(({ tick, index }) => (ticks.has(tick) ? [index] : [])));
}

/** The pattern as it is played in a pass: itself, unless it is loose. */
export function passPattern(pass: PatternPass, changes: Landing[]): Pattern {
  if (!pass.pattern.loose) return pass.pattern;
  return loosePass(pass.pattern, pass.number, landingSlots(pass, changes));
}

/** A slot where it is played. */
export interface PlayedSlot {
  slot: Slot;
  tick: Ticks;
  bar: PlayedBar;
  pattern: Pattern;
}

/**
 * Every slot of every bar exactly once, in order: the patterns laid over their parts of the bars.
 * @param parts the rhythm of each bar, from `rhythms`
 */
export function* slotsOfBars(
  bars: PlayedBar[],
  parts: RhythmPart[][],
  changes: Landing[] = [],
): Generator<PlayedSlot> {
  const grids = new Map<Pattern, Slot[]>();
  const gridOf = (pattern: Pattern) => {
    const known = grids.get(pattern) ?? slots(pattern);
    grids.set(pattern, known);
    return known;
  };
  const varied = new Map<Pattern, { number: number; grid: Slot[] }>();
  for (const bar of bars) {
    for (const part of parts[bar.index]!) {
      const end = part.tick + part.ticks;
      const length = patternTicks(part.pattern);
      for (let at = passAt(part, part.tick); at.start < end; at = passAt(part, at.start + length)) {
        const grid = at.pattern.loose ? looseGrid(at, changes, varied) : gridOf(at.pattern);
        for (const slot of grid) {
          const tick = at.start + slot.tick;
          if (tick >= part.tick && tick < end) yield { slot, tick, bar, pattern: at.pattern };
        }
      }
    }
  }
}

/** The slots of a pass of a loose pattern; worked out once for the bars that it goes through. */
function looseGrid(
  pass: PatternPass,
  changes: Landing[],
  known: Map<Pattern, { number: number; grid: Slot[] }>,
): Slot[] {
  const last = known.get(pass.pattern);
  if (last?.number === pass.number) return last.grid;
  const grid = slots(passPattern(pass, changes));
  known.set(pass.pattern, { number: pass.number, grid });
  return grid;
}

/** What a bar is drawn with. */
export interface BarPattern {
  pattern: Pattern;
  /** Half-swings of the arm that went before it, in its pass. */
  phase: number;
}

/**
 * What each bar is played with, in the order of playing, as a pattern of one bar, for drawing. Bars that
 * are played alike share one, and a pattern of one bar is itself. Where parts are not whole beats, the
 * beat in which one begins is drawn as the part before it.
 * @example barPatterns(rhythms(song, bars))[1].pattern.beats // the second half of a pattern of two bars
 */
export function barPatterns(parts: RhythmPart[][]): BarPattern[] {
  const known = new Map<Pattern, Map<string, BarPattern>>();
  return parts.map((row) => {
    const first = row[0]!;
    const key = row
      .map(
        ({ offset, ticks, pattern }) =>
          `${offset}/${ticks}/${row.findIndex((other) => other.pattern === pattern)}`,
      )
      .join();
    const likes = known.get(first.pattern) ?? new Map<string, BarPattern>();
    known.set(first.pattern, likes);
    const same = likes.get(key);
    if (same && row.length === 1) return same;
    const fresh = drawnBar(row);
    likes.set(key, fresh);
    return fresh;
  });
}

/**
 * What is counted on the slots of a bar as it is drawn: the number of the bar in place of the one, and a
 * pick-up from where it comes in.
 * @param number which bar of its chord it is, from `barNumbers`
 * @example barCount(bars[1], pattern, 2) // ['2', '&', '2', '&', '3', '&', '4', '&']
 */
export function barCount(
  { meter, lead }: PlayedBar,
  pattern: Pattern,
  number: number,
  vocabulary?: CountVocabulary,
): string[] {
  const missing = lead / beatTicks(meter);
  const before = Array.from({ length: missing }, () => 1 as const);
  const first = number > 1 && missing === 0 ? { first: number } : {};
  const all = count([...before, ...divisions(pattern)], meter, {
    ...(vocabulary && { vocabulary }),
    ...first,
  });
  return all.slice(missing);
}

function drawnBar(row: RhythmPart[]): BarPattern {
  const first = row[0]!;
  const { pattern, offset } = first;
  const beat = beatTicks(pattern.meter);
  const total = row.reduce((sum, { ticks }) => sum + ticks, 0);
  if (row.length === 1 && offset === 0 && patternTicks(pattern) === total)
    return { pattern, phase: 0 };
  const beats = Array.from({ length: Math.round(total / beat) }, (_, index) => {
    const tick = first.tick + index * beat;
    const part = row.findLast((candidate) => candidate.tick <= tick) ?? first;
    const into = Math.floor((tick - part.tick + part.offset) / beat);
    return part.pattern.beats[into % part.pattern.beats.length]!;
  });
  const { builds: _, ...rest } = pattern;
  const phase = armPasses(pattern).find(({ tick }) => tick >= offset)?.dir === 'up' ? 1 : 0;
  return { pattern: { ...rest, beats }, phase };
}
