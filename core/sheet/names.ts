import type { Arrangement } from '../arrange';
import type { Ticks } from '../plain';
import { firstFrom, type PlayedBar, songTicks } from '../song';
import { type SheetItem, line, shape, text, textWidth } from './paper';

/** The names of chords over the bars: each whole, over the beat that it belongs to. */

/** A chord that is named over a bar. */
export interface BarName {
  /** Ticks from the start of the bar at which its name stands: the push of a chord within the bar is taken off. */
  at: Ticks;
  words: string;
}

/** A chord that lands in a bar. */
export interface BarFoot {
  at: Ticks;
  /** It is pushed over the bar line: its name stands over the next bar. */
  over: boolean;
}

/**
 * The chords that are named over a bar, and where its chords land. One that is pushed over the bar line is named in its
 * own bar, with its push mark before it; the bar before has its foot alone.
 * @param opens the bar opens a section: it names what is held, though nothing changes there
 * @example chordsOver(arranged, bars[3], false).names // [{ at: 0, words: '<D' }]
 */
export function chordsOver(
  { performance, bars }: Pick<Arrangement, 'performance' | 'bars'>,
  bar: Pick<PlayedBar, 'tick' | 'ticks'>,
  opens: boolean,
): { names: BarName[]; feet: BarFoot[] } {
  const { landings } = performance;
  const end = bar.tick + bar.ticks;
  const last = songTicks(bars);
  const names: BarName[] = [];
  const feet: BarFoot[] = [];
  // A push is shorter than a bar.
  const near = landings.slice(firstFrom(landings, bar.tick - bar.ticks), firstFrom(landings, end));
  for (const { tick, symbol, push } of near) {
    // What is pushed out of the last bar has no bar of its own.
    const meant = tick + push >= last ? tick : tick + push;
    const over = tick < end && meant >= end;
    if (tick >= bar.tick) feet.push({ at: tick - bar.tick, over });
    if (meant < bar.tick || meant >= end) continue;
    names.push({ at: Math.max(0, tick - bar.tick), words: push > 0 ? `<${symbol}` : symbol });
  }
  if (opens && !names.some(({ at }) => at === 0)) {
    const held = landings[firstFrom(landings, bar.tick + 1) - 1];
    if (held) names.unshift({ at: 0, words: held.symbol });
  }
  return { names, feet };
}

/** Sizes that are tried so that the names of a bar stand in one row, and the one that stacked names have. */
const IN_A_ROW = [1, 0.9, 0.8, 0.72];
const STACKED = 0.8;
const GAP = 2;

interface PlacedName {
  x: number;
  words: string;
  letters: number;
  /** Rows above the lowest. */
  level: number;
}

/** Names in one row, each where it is or as much before as it has to; null where they have no room. */
function inOneRow(names: { x: number; words: string }[], width: number, letters: number) {
  let from = 0;
  const placed: PlacedName[] = [];
  for (const [index, { x, words }] of names.entries()) {
    const wide = textWidth(words, letters, 'bold');
    const end = names[index + 1]?.x ?? width;
    const at = Math.max(from, Math.min(x + GAP, end - wide - GAP));
    // A name may begin a little before its beat, but not as far as another place of the bar.
    if (at + wide > end - GAP || x + GAP - at > letters) return null;
    placed.push({ x: at, words, letters, level: 0 });
    from = at + wide + GAP;
  }
  return placed;
}

/** Names in as many rows as they need, the first of them lowest. */
function stacked(names: { x: number; words: string }[], width: number, letters: number) {
  const ends: number[] = [];
  return names.map(({ x, words }): PlacedName => {
    const own = letters * Math.min(1, (width - 2 * GAP) / textWidth(words, letters, 'bold'));
    const wide = textWidth(words, own, 'bold');
    const at = Math.max(0, Math.min(x + GAP, width - wide - GAP));
    const free = ends.findIndex((end) => end + GAP <= at);
    const level = free < 0 ? ends.length : free;
    ends[level] = at + wide;
    return { x: at, words, letters: own, level };
  });
}

/**
 * The names over a bar, none cut and none over another.
 * @param names where they belong, in points from the left of the bar, in order
 * @param width of the bar
 * @returns what is drawn, the lowest row on its line, and by how much it is higher than one row
 */
export function drawNames(
  names: { x: number; words: string }[],
  width: number,
  size: number,
): { items: SheetItem[]; above: number } {
  const usual = size * 1.25;
  const rows = IN_A_ROW.map((share) => inOneRow(names, width, usual * share)).find(Boolean);
  const placed = rows ?? stacked(names, width, usual * STACKED);
  const step = usual * 1.02;
  const items = placed.map(({ x, words, letters, level }) =>
    text(x, size * 1.25 - level * step, words, letters, { weight: 'bold' }),
  );
  return { items, above: Math.max(0, ...placed.map(({ level }) => level)) * step };
}

/** Where a chord lands: a line down to the strings, with a small flag where its name stands over the next bar. */
export function drawFoot(x: number, { over }: BarFoot, top: number, foot: number, size: number) {
  const items: SheetItem[] = [line(x, top, x, foot, 0.6, 0.2, [1, 1.5])];
  if (!over) return items;
  const [w, h] = [size * 0.55, size * 0.6];
  return [...items, shape(`M${x} ${top}l${w} ${h / 2}l${-w} ${h / 2}Z`, 0.2)];
}
