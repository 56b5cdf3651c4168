import type { Arrangement } from '../arrange';
import type { Ticks } from '../plain';
import { joinsOn, passageName, type PlayedBar, songTicks, lyricsByBar } from '../song';
import { beatTicks } from '../time';
import type { Block } from './drawn';
import { type SheetItem, text, textWidth, wrapped } from './paper';
import { heading, type Frame } from './frame';

/** Words as they are sung, chords over their syllables: the sheet of who sings. */

/** A syllable, or a place without one, and the chord that comes with it. */
export interface Sung {
  chord: string | null;
  text: string;
}

/** Of a beat, so much later a syllable may come and still carry the chord. */
const NEAR = 0.5;

/** Bars of one line of the song, each time that it comes round, in the order of playing. */
function rowsOf(bars: PlayedBar[]): PlayedBar[][] {
  const rows: PlayedBar[][] = [];
  for (const bar of bars) {
    const last = rows.at(-1)?.at(-1);
    const goesOn =
      last?.passage === bar.passage && last.line === bar.line && last.bar + 1 === bar.bar;
    if (goesOn) rows.at(-1)!.push(bar);
    else rows.push([bar]);
  }
  return rows;
}

/**
 * The lines of a song as they are sung, in the order of playing: each a list of syllables with the chords that come with
 * them. A chord that no syllable is near to stands by itself.
 * @example sungLines(arranged)[0].row[0] // { chord: 'A', text: 'Loose' }
 */
export function sungLines(
  arranged: Pick<Arrangement, 'song' | 'bars' | 'performance'>,
): { section: string; opens: boolean; row: Sung[] }[] {
  const { song, bars, performance } = arranged;
  const words = lyricsByBar(song, bars);
  const end = songTicks(bars);
  /** Where a chord that lands early is written; one before the first bar line is not. */
  const written = (tick: Ticks, push: Ticks) =>
    tick === 0 || tick + push >= end ? tick : tick + push;
  let passage = -1;
  return rowsOf(bars).map((row) => {
    const [first] = row;
    const opens = first!.passage !== passage;
    passage = first!.passage;
    const from = first!.tick;
    const to = row.at(-1)!.tick + row.at(-1)!.ticks;
    const near = NEAR * beatTicks(first!.meter);
    // A chord that is pushed over the bar line belongs to the line that it is written in.
    const chords = performance.landings
      .map(({ tick, push, symbol }) => ({ tick: written(tick, push), lands: tick, symbol }))
      .filter(({ tick }) => tick >= from && tick < to);
    const held = performance.landings.findLast(({ tick }) => tick <= from)?.symbol;
    if (held !== undefined && chords[0]?.tick !== from) {
      chords.unshift({ tick: from, lands: from, symbol: held });
    }
    return {
      section: passageName(song, first!),
      opens,
      row: laidTogether(
        row.flatMap(({ index }) => words[index] ?? []),
        chords,
        near,
      ),
    };
  });
}

function laidTogether(
  syllables: { tick: Ticks; text: string }[],
  chords: { tick: Ticks; lands: Ticks; symbol: string }[],
  near: Ticks,
): Sung[] {
  const taken = new Map<number, string>();
  const alone: { tick: Ticks; symbol: string }[] = [];
  for (const { tick, lands, symbol } of chords) {
    const at = syllables.findIndex(
      (one, index) => !taken.has(index) && one.tick >= lands && one.tick <= tick + near,
    );
    if (at >= 0) taken.set(at, symbol);
    else alone.push({ tick, symbol });
  }
  const all = [
    ...syllables.map(({ tick, text: sung }, index) => ({
      tick,
      sung: { chord: taken.get(index) ?? null, text: sung },
    })),
    ...alone.map(({ tick, symbol }) => ({ tick, sung: { chord: symbol, text: '' } })),
  ].sort((a, b) => a.tick - b.tick);
  // What no chord parts is one word.
  return all.reduce<Sung[]>((list, { sung }) => {
    const last = list.at(-1);
    if (last && joinsOn(last.text) && sung.chord === null) {
      list[list.length - 1] = { ...last, text: last.text.slice(0, -1) + sung.text };
    } else list.push(sung);
    return list;
  }, []);
}

/** How far letters of chords are above those of words, and lines from each other, by the size of the letters. */
const [CHORD_STEP, WORD_STEP, LINE_STEP] = [1, 1.25, 0.55];

/** One line, over as many rows as it needs. */
function lineBlock(row: Sung[], { width, size }: Frame): Block {
  const items: SheetItem[] = [];
  const gap = textWidth(' ', size, 'regular');
  const hasChords = row.some(({ chord }) => chord !== null);
  const hasLyrics = row.some((one) => one.text !== '');
  const step = size * ((hasChords ? CHORD_STEP : 0) + (hasLyrics ? WORD_STEP : 0) + LINE_STEP);
  let [x, top] = [0, 0];
  for (const { chord, text: sung } of row) {
    const name = chord ? textWidth(chord, size, 'bold') + size * 0.6 : 0;
    const space = sung === '' ? size * 0.8 : joinsOn(sung) ? 0 : gap;
    const wide = Math.max(name, textWidth(sung, size, 'regular') + space);
    if (x > 0 && x + wide > width) {
      x = 0;
      top += step;
    }
    const under = top + (hasChords ? size * CHORD_STEP : 0);
    if (chord) items.push(text(x, top + size * 0.9, chord, size, { weight: 'bold' }));
    if (sung) {
      // A word longer than the paper is wide goes on below.
      const pieces = wrapped(sung, width, size, 'regular');
      pieces.forEach((piece, index) => {
        items.push(text(index === 0 ? x : 0, under + size * (1 + index * WORD_STEP), piece, size));
      });
      top += (pieces.length - 1) * size * WORD_STEP;
    }
    x += wide;
  }
  return { height: top + step, items };
}

/** The song as it is sung, section by section. */
export function wordsOf(arranged: Arrangement, room: Frame): Block[] {
  return sungLines(arranged).flatMap(({ section, opens, row }) => {
    if (row.length === 0) return [];
    const block = { ...lineBlock(row, room), section: section || 'The song' };
    return opens ? [heading(section || 'The song', room), block] : [block];
  });
}
