import type { Ticks } from '../plain';
import { type Arrangement, type BarPattern, barPatterns, type Strike } from '../arrange';
import { stringNames } from '../neck';
import type { Family } from '../schema';
import {
  firstFrom,
  joinsOn,
  passageName,
  passageWords,
  type PlayedBar,
  piecesOf,
  roundWords,
  timedWords,
  versesOf,
} from '../song';
import { slots } from '../stroke';
import { barBlock, barNote, barSignature, type Block } from './drawn';
import type { EngravedBar, Engraver, Notation } from './engraving';
import { type SheetItem, line, moved, shortened, text, textWidth, wrapped } from './paper';
import { chordsOver } from './names';
import { cut, heading, LARGE, type Frame, SOFT } from './frame';

/** What is played with the hand. */
const WITHOUT_PICK = new Set<Family>(['ukulele', 'baritone']);

/** The bars as they are written, so that it can be played from: sections, lines, repeats, endings. */
export function barsOf(
  arranged: Arrangement,
  room: Frame,
  notation: Notation = 'path',
  engrave: Engraver | null = null,
): Block[] {
  const { song, bars, rhythms } = arranged;
  const { size, width } = room;
  const drawings = barPatterns(rhythms);
  /** A section is written out once in each key that it is played in. */
  const first = new Map<string, PlayedBar>();
  const keys = song.sections.map(() => new Set<number>());
  for (const bar of bars) {
    const { shift = 0 } = bar;
    const key = `${bar.section}/${shift}/${bar.line}/${bar.bar}`;
    // As it comes round, and not as an intro has it.
    if (!first.has(key) || (first.get(key)!.alone && !bar.alone)) first.set(key, bar);
    keys[bar.section]!.add(shift);
  }
  const written = song.sections.flatMap((section, index) =>
    [...keys[index]!].map((shift) => ({ section, index, shift })),
  );
  const isLarge = size > LARGE * 0.9;
  const lengths = song.sections.flatMap(({ lines }) => lines.map((row) => row.bars.length));
  const usual = evenRows(width > 600 ? 6 : isLarge ? 3 : 4, isLarge ? 2 : 3, lengths);
  // Notes of a staff are as wide as they are: bars with many of them have more room.
  const crowded = rhythms
    .flat()
    .some(({ pattern }) => pattern.beats.some(({ division }) => division > 3));
  const inRow =
    notation.includes('slashes') && engrave && crowded ? Math.max(1, Math.floor(usual / 2)) : usual;
  const each = width / inRow;
  const blocks: Block[] = [];
  const kind = notation.includes('tab') ? 'tab' : 'slashes';
  const staff = engrave !== null && notation !== 'path' ? engrave : null;
  const withPath = staff === null || notation.startsWith('path');
  const engraved = (bar: PlayedBar, xOf: (ticks: Ticks) => number): EngravedBar => {
    const { strikes } = arranged.performance;
    const end = bar.tick + bar.ticks;
    const own = strikes.slice(firstFrom(strikes, bar.tick), firstFrom(strikes, end));
    return { bar, strikes: own, xOf, fingers: fingersOf(drawings[bar.index]!, bar, own) };
  };
  /** Rows that say the same are engraved once: a song says the same few bars again and again. */
  const known = new Map<string, ReturnType<Engraver>>();
  const numbers = new Map<BarPattern, number>();
  const engravedOnce = (row: EngravedBar[]) => {
    const key = row.map((one) => {
      const drawing = drawings[one.bar.index]!;
      const number = numbers.get(drawing) ?? numbers.size;
      numbers.set(drawing, number);
      return `${number} ${engravingKey(one)}`;
    });
    const same = known.get(key.join('|'));
    if (same) return same;
    const strings = song.instrument.strings.length;
    const made = staff!({
      kind,
      bars: row,
      each,
      size,
      strings,
      names: stringNames(song.instrument),
      withoutPick: WITHOUT_PICK.has(song.instrument.family),
    });
    known.set(key.join('|'), made);
    return made;
  };
  const alike = new Map<BarPattern, Map<string, ReturnType<typeof barBlock>>>();
  /** A bar, drawn once with all that are played like it; its number is its own. */
  const drawnBar = (bar: PlayedBar, opens: boolean) => {
    const drawing = drawings[bar.index]!;
    const note = noteOf(arranged, bar);
    const over = chordsOver(arranged, bar, opens);
    const key = `${note}|${JSON.stringify(over)}|${barSignature(arranged, bar)}`;
    const known = alike.get(drawing) ?? new Map<string, ReturnType<typeof barBlock>>();
    alike.set(drawing, known);
    const block =
      known.get(key) ?? barBlock(arranged, bar, drawing, each, size, note, over, !withPath);
    known.set(key, block);
    const number = text(each - 2, block.foot + size * 1.45, String(bar.index + 1), size * 0.82, {
      anchor: 'end',
      grey: SOFT,
    });
    return { ...block, items: [...block.items, number] };
  };
  if (song.order) {
    const words = song.order.map(passageWords).join(', ');
    const rows = wrapped(`Order: ${words}`, width, size, 'regular');
    blocks.push({
      height: size * (0.8 + rows.length * 1.3),
      items: rows.map((row, index) => text(0, size * (1.2 + index * 1.3), row, size)),
    });
  }
  written.forEach(({ section, index: sectionIndex, shift }) => {
    const rows = section.lines.flatMap((written, lineIndex) => {
      const played = written.bars.flatMap(
        (_, bar) => first.get(`${sectionIndex}/${shift}/${lineIndex}/${bar}`) ?? [],
      );
      return cut(played, inRow).map((some, part, all) => ({
        some,
        written,
        verses: versesOf(written),
        before: part === 0 && written.only ? roundWords(written.only) : '',
        after: part === all.length - 1 && written.times > 1 ? `×${written.times}` : '',
      }));
    });
    if (rows.length === 0) return;
    blocks.push(heading(passageName(song, { section: sectionIndex, shift }) || 'The song', room));
    for (const { some, written, verses, before, after } of rows) {
      const drawn = some.map((bar) => drawnBar(bar, bar.line === 0 && bar.bar === 0));
      // Names that stand in more than one row have the room for it above.
      const above = Math.max(0, ...drawn.map((one) => one.above));
      const head = (before ? size * 1.2 : 0) + above;
      const items = drawn.flatMap(({ items: own }, index) =>
        own.map((item) => moved(item, index * each, head)),
      );
      if (withPath) items.push(line(0, head + size * 0.3, 0, head + drawn[0]!.foot, 0.9));
      if (before)
        items.push(text(0, size * 0.9, before, size * 0.85, { weight: 'bold', grey: SOFT }));
      if (after) {
        const x = Math.min(width, some.length * each) - textWidth(after, size * 1.2, 'bold') - 3;
        items.push(text(x, head + size * 1.25, after, size * 1.2, { weight: 'bold' }));
      }
      const foot = Math.max(...drawn.map(({ height }) => height)) + head;
      const music =
        staff && engravedOnce(some.map((bar, index) => engraved(bar, drawn[index]!.xOf)));
      if (music) items.push(...music.items.map((item) => moved(item, 0, foot)));
      const under = foot + (music?.height ?? 0);
      const rows = verses.map((verse, row) => {
        const places = some.flatMap((bar, index) =>
          piecesOf(written.bars[bar.bar]!, verse)
            .filter(({ at }) => at < bar.ticks)
            .map(({ at, text: word }) => ({ x: index * each + drawn[index]!.xOf(at), word })),
        );
        const label = verses.length > 1 ? `${verse}.` : '';
        return wordRow(places, label, under + size * (0.9 + row * WORD_STEP), room);
      });
      blocks.push({
        height: under + size * (0.5 + rows.length * WORD_STEP),
        items: [...items, ...rows.flat()],
        section: section.name || 'The song',
      });
    }
  });
  return blocks;
}

/**
 * Bars in a row: as few as take no more rows than the most do, so that four bars are two and two and not three and one.
 * @example evenRows(3, 2, [4, 4]) // 2
 */
export function evenRows(most: number, least: number, lengths: number[]): number {
  const rows = (inRow: number) =>
    lengths.reduce((sum, length) => sum + Math.ceil(length / inRow), 0);
  let inRow = most;
  while (inRow > least && rows(inRow - 1) <= rows(most)) inRow -= 1;
  return inRow;
}

/** What tells the engraving of a bar from that of another on the same pattern. */
function engravingKey({ bar, strikes, fingers }: EngravedBar): string {
  const struck = strikes.map(({ tick, kind, dir, accent, palm, tap, notes }) => {
    const frets = notes.map(
      ({ string, fret, legato, passing }) =>
        `${string}.${fret}${legato?.how ?? ''}${passing ?? ''}`,
    );
    return `${tick - bar.tick}${kind}${dir}${accent}${palm ? 'palm' : ''}${tap ?? ''}${frets.join()}${fingers.get(tick) ?? ''}`;
  });
  return `${bar.ticks} ${bar.meter.beats}/${bar.meter.unit} ${struck.join(' ')}`;
}

/** Height of a row of words, and the size of its letters, by the size of the sheet. */
const WORD_STEP = 1.25;
const WORD_SIZE = 1.02;

/** The smallest that crowded words become, beside their usual size. */
const SMALLEST = 0.55;

/** Words under the places at which they are sung: one that has no room there comes as soon after as it can. */
function wordRow(
  places: { x: number; word: string }[],
  label: string,
  y: number,
  { size, width }: Frame,
): SheetItem[] {
  const laid = (letters: number) => {
    const items: SheetItem[] = [];
    let from = 0;
    if (label !== '') {
      items.push(text(0, y, label, letters, { grey: SOFT }));
      from = textWidth(label, letters, 'regular') + size * 0.5;
    }
    for (const { x, word } of places) {
      const at = Math.max(x, from);
      const room = width - at;
      from = at + textWidth(word, letters, 'regular') + letters * (joinsOn(word) ? 0.15 : 0.4);
      if (room < letters) continue;
      items.push(text(at, y, shortened(word, room, letters, 'regular'), letters));
    }
    return { items, end: from };
  };
  const usual = size * WORD_SIZE;
  const { items, end } = laid(usual);
  // Where they do not go into the row they are written smaller.
  return end <= width + usual ? items : laid(usual * Math.max(SMALLEST, width / end)).items;
}

/** The letters of the picking fingers at the strokes of a bar. */
function fingersOf(
  { pattern, phase }: BarPattern,
  bar: PlayedBar,
  strikes: Strike[],
): Map<number, string> {
  const found = new Map<number, string>();
  if (phase !== 0) return found;
  const struck = new Set(strikes.map(({ tick }) => tick));
  for (const { tick, stroke } of slots(pattern)) {
    if (!struck.has(bar.tick + tick)) continue;
    const letters =
      stroke.kind === 'pick'
        ? stroke.strings.flatMap(({ finger }) => finger ?? []).join('')
        : stroke.kind === 'bass'
          ? (stroke.finger ?? '')
          : '';
    if (letters !== '') found.set(bar.tick + tick, letters);
  }
  return found;
}

function noteOf({ song, rhythms }: Arrangement, bar: PlayedBar): string {
  const written = song.sections[bar.section]!.lines[bar.line]!.bars[bar.bar]!;
  const others = written.chords.flatMap(({ symbol, substitutes = [] }) =>
    substitutes.map(({ time, symbol: other }) => `${roundWords(time)} ${other} for ${symbol}`),
  );
  return [barNote(bar, rhythms[bar.index]!), ...others, ...timedWords(written)]
    .filter(Boolean)
    .join('; ');
}
