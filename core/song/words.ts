import type { Ticks } from '../plain';
import {
  type Bar,
  type Line,
  type Meter,
  MAX_VERSES,
  MAX_WORDS,
  type Song,
  type Word,
  MAX_WORD_LETTERS,
} from '../schema';
import { beatTicks } from '../time';
import { barLength, type PlayedBar } from './timeline';

/**
 * The words of a line as they are typed under its bars:
 *
 *   Low- er the | lan- terns to the | . wa- ter
 *
 * Bars are divided as in the line of chords. In a bar the pieces lie on its beats; where there are more of them than
 * beats, on halves of beats, or quarters. A dot is a place without a word, `_` a space within a piece, and a hyphen
 * at the end goes on into the next. `/3` at the start of a bar says into how many parts its beats go.
 */

/** Words of a bar in one verse: where they lie, and what they are. */
export type Piece = Pick<Word, 'at' | 'text'>;
type Lasting = Pick<PlayedBar, 'meter' | 'ticks'>;

/** Parts of a beat that need no saying. */
const USUAL_PARTS = [1, 2, 4];
const MAX_PARTS = 64;

export interface WordsProblem {
  /** Letters from the start of the text. */
  from: number;
  to: number;
  message: string;
}

const beatsOf = ({ ticks, meter }: Lasting) => Math.max(1, Math.ceil(ticks / beatTicks(meter)));
/** Into how many parts beats go for so many pieces; null where they are too many. */
const partsFor = (pieces: number, bar: Lasting) =>
  USUAL_PARTS.find((parts) => pieces <= parts * beatsOf(bar)) ?? null;

/** A text that can be kept as a word; empty where nothing of it can. */
export function cleanWord(text: string): string {
  const clean = text
    .replaceAll(/[|_\s]+/g, ' ')
    .trim()
    .slice(0, MAX_WORD_LETTERS)
    .trim();
  return /^\.+$|^\/\d{1,2}$/.test(clean) ? '' : clean;
}

/**
 * Reads the words of one verse of a line.
 * @param bars of the line, with their lengths
 * @returns the pieces of each bar, ticks from its start; or the first place that cannot be read, and why
 * @example readWords('Low- er the | lan- terns', [bar, bar]) // { bars: [[{ at: 0, text: 'Low-' }, ...], ...] }
 */
export function readWords(
  text: string,
  bars: Lasting[],
): { bars: Piece[][] } | { problem: WordsProblem } {
  const read: Piece[][] = [];
  let from = 0;
  for (const [index, cell] of text.split('|').entries()) {
    const start = from;
    from += cell.length + 1;
    const fail = (message: string) => ({
      problem: { from: start, to: Math.max(start + 1, start + cell.length), message },
    });
    const all = cell.split(/\s+/).filter(Boolean);
    const bar = bars[index];
    if (!bar) {
      if (all.length === 0) continue;
      return fail(`The line has ${bars.length} ${bars.length === 1 ? 'bar' : 'bars'}.`);
    }
    const said = /^\/(\d{1,2})$/.exec(all[0] ?? '');
    const words = said ? all.slice(1) : all;
    const parts = said ? Number(said[1]) : partsFor(words.length, bar);
    if (parts === null || parts < 1 || parts > MAX_PARTS || words.length > parts * beatsOf(bar)) {
      return fail(`More words than bar ${index + 1} of the line has places.`);
    }
    const each = beatTicks(bar.meter) / parts;
    const pieces = words.flatMap((word, place) => {
      const clean = word === '.' ? '' : cleanWord(word);
      return clean === '' ? [] : [{ at: Math.round(place * each), text: clean }];
    });
    if (pieces.length > MAX_WORDS / 2) return fail(`More words than bar ${index + 1} can hold.`);
    read.push(pieces);
  }
  while (read.length < bars.length) read.push([]);
  return { bars: read };
}

function printBar(pieces: Piece[], bar: Lasting): string {
  if (pieces.length === 0) return '';
  const beat = beatTicks(bar.meter);
  const fits = (parts: number) => pieces.every(({ at }) => Number.isInteger((at * parts) / beat));
  const parts =
    [...USUAL_PARTS, 3, 6, 8, 12, 16, 32, 64].find(fits) ??
    // On no grid that can be said: to the nearest place of the finest.
    MAX_PARTS;
  const places = pieces.map(({ at }) => Math.round((at * parts) / beat));
  const cells = Array.from({ length: places.at(-1)! + 1 }, () => '.');
  pieces.forEach(({ text }, index) => (cells[places[index]!] = text.replaceAll(' ', '_')));
  if (partsFor(cells.length, bar) === parts) return cells.join(' ');
  if (!USUAL_PARTS.includes(parts)) return `/${parts} ${cells.join(' ')}`;
  // So many places that they are read as parts of that size.
  const coarser = USUAL_PARTS[USUAL_PARTS.indexOf(parts) - 1] ?? 0;
  const least = coarser * beatsOf(bar) + 1;
  while (cells.length < least) cells.push('.');
  return partsFor(cells.length, bar) === parts ? cells.join(' ') : `/${parts} ${cells.join(' ')}`;
}

/** The words of a bar in one verse. */
export const piecesOf = ({ rules }: Bar, verse: number): Piece[] =>
  (rules?.words ?? []).filter((word) => word.verse === verse).map(({ at, text }) => ({ at, text }));

/**
 * The words of one verse of a line as they are typed.
 * @param meter the song's, for bars without one of their own
 * @example printWords(song.sections[0].lines[0], song.meter, 1) // ''
 */
export function printWords({ bars }: Line, meter: Meter, verse: number): string {
  const cells = bars.map((bar) => printBar(piecesOf(bar, verse), barLength(bar, meter)));
  const last = cells.findLastIndex((cell) => cell !== '');
  return cells.slice(0, last + 1).join(' | ');
}

/** The bars of a line with other words for one of its verses. */
export function withWords(bars: Bar[], verse: number, pieces: Piece[][]): Bar[] {
  return bars.map((bar, index) => {
    const others = (bar.rules?.words ?? []).filter((word) => word.verse !== verse);
    const own = (pieces[index] ?? []).map(({ at, text }) => ({ verse, at, text }));
    const words = [...others, ...own].sort((a, b) => a.verse - b.verse || a.at - b.at);
    if (words.length === 0 && !bar.rules?.words) return bar;
    const { words: _, ...rest } = bar.rules ?? {};
    if (words.length > 0) return { ...bar, rules: { ...rest, words } };
    const { rules: __, ...bare } = bar;
    return Object.keys(rest).length > 0 ? { ...bare, rules: rest } : bare;
  });
}

/** Verses that a line has words for, from 1. */
export function versesOf({ bars }: Line): number[] {
  const all = bars.flatMap(({ rules }) => (rules?.words ?? []).map(({ verse }) => verse));
  return [...new Set(all)].sort((a, b) => a - b);
}

export const hasLyrics = ({ sections }: Pick<Song, 'sections'>): boolean =>
  sections.some(({ lines }) => lines.some((line) => versesOf(line).length > 0));

/** A piece as it is sung: in ticks of the song. */
export interface SungPiece {
  tick: Ticks;
  text: string;
}

/**
 * What is sung in every bar as it is played: each time that a line comes round its next verse; where it has no
 * further one, the last that it has.
 * @example lyricsByBar(song, playedBars(song))[0] // [{ tick: 0, text: 'Low-' }, ...]
 */
export function lyricsByBar(song: Pick<Song, 'sections'>, bars: PlayedBar[]): SungPiece[][] {
  const times = new Map<string, number>();
  const verses = new Map<Line, number[]>();
  return bars.map(({ section, line, bar, tick, ticks, alone }) => {
    if (alone) return [];
    const written = song.sections[section]!.lines[line]!;
    const known = verses.get(written) ?? versesOf(written);
    verses.set(written, known);
    const key = `${section}/${line}/${bar}`;
    const time = (times.get(key) ?? 0) + 1;
    times.set(key, time);
    const verse = known.findLast((one) => one <= Math.min(time, MAX_VERSES)) ?? 0;
    return piecesOf(written.bars[bar]!, verse)
      .filter(({ at }) => at < ticks)
      .map(({ at, text }) => ({ tick: tick + at, text }));
  });
}

/** True for a piece that goes on into the next. */
export const joinsOn = (text: string): boolean => text.endsWith('-');

/**
 * Pieces as they are read: one after another, a hyphen joining what belongs together.
 * @example joinedWords(['Low-', 'er the', 'lan-', 'tern']) // 'Lower the lantern'
 */
export function joinedWords(texts: string[]): string {
  return texts.reduce(
    (line, text) =>
      joinsOn(line) ? line.slice(0, -1) + text : line === '' ? text : `${line} ${text}`,
    '',
  );
}
