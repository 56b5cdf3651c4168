import { type Arrangement, type BarPattern, barPatterns } from '../arrange';
import type { Line } from '../schema';
import type { PlayedBar } from '../song';
import { barBlock, barNote, barSignature, type Block } from './drawn';
import { line, moved, text, textWidth, wrapped } from './paper';
import { cut, heading, LARGE, type Room, SOFT } from './room';

/** The bars as they are written, so that it can be played from: sections, lines, repeats, endings. */
export function barsOf(arranged: Arrangement, room: Room): Block[] {
  const { song, bars, rhythms } = arranged;
  const { size, width } = room;
  const drawings = barPatterns(rhythms);
  const first = new Map<string, PlayedBar>();
  for (const bar of bars) {
    const key = `${bar.section}/${bar.line}/${bar.bar}`;
    if (!first.has(key)) first.set(key, bar);
  }
  const inRow = width > 600 ? 6 : size > LARGE * 0.9 ? 3 : 4;
  const each = width / inRow;
  const blocks: Block[] = [];
  const alike = new Map<BarPattern, Map<string, ReturnType<typeof barBlock>>>();
  /** A bar, drawn once with all that are played like it; its number is its own. */
  const drawnBar = (bar: PlayedBar) => {
    const drawing = drawings[bar.index]!;
    const note = noteOf(arranged, bar);
    const key = `${note}|${barSignature(arranged, bar)}`;
    const known = alike.get(drawing) ?? new Map<string, ReturnType<typeof barBlock>>();
    alike.set(drawing, known);
    const block = known.get(key) ?? barBlock(arranged, bar, drawing, each, size, note);
    known.set(key, block);
    const number = text(each - 2, block.foot + size * 0.65, String(bar.index + 1), size * 0.6, {
      anchor: 'end',
      grey: SOFT,
    });
    return { ...block, items: [...block.items, number] };
  };
  if (song.order) {
    const words = song.order
      .map(({ name, times }) => (times > 1 ? `${name} ×${times}` : name))
      .join(', ');
    const rows = wrapped(`Order: ${words}`, width, size, 'regular');
    blocks.push({
      height: size * (0.8 + rows.length * 1.3),
      items: rows.map((row, index) => text(0, size * (1.2 + index * 1.3), row, size)),
    });
  }
  song.sections.forEach((section, sectionIndex) => {
    const rows = section.lines.flatMap((written, lineIndex) => {
      const played = written.bars.flatMap(
        (_, bar) => first.get(`${sectionIndex}/${lineIndex}/${bar}`) ?? [],
      );
      return cut(played, inRow).map((some, part, all) => ({
        some,
        before: part === 0 ? ending(written) : '',
        after: part === all.length - 1 && written.times > 1 ? `×${written.times}` : '',
      }));
    });
    if (rows.length === 0) return;
    blocks.push(heading(section.name || 'The song', room));
    for (const { some, before, after } of rows) {
      const drawn = some.map((bar) => drawnBar(bar));
      const head = before ? size * 1.2 : 0;
      const items = drawn.flatMap(({ items: own }, index) =>
        own.map((item) => moved(item, index * each, head)),
      );
      items.push(line(0, head + size * 0.3, 0, head + drawn[0]!.foot, 0.9));
      if (before)
        items.push(text(0, size * 0.9, before, size * 0.85, { weight: 'bold', grey: SOFT }));
      if (after) {
        const x = Math.min(width, some.length * each) - textWidth(after, size * 1.2, 'bold') - 3;
        items.push(text(x, head + size * 1.25, after, size * 1.2, { weight: 'bold' }));
      }
      blocks.push({
        height: Math.max(...drawn.map(({ height }) => height)) + head + size * 0.5,
        items,
      });
    }
  });
  return blocks;
}

function noteOf({ song, rhythms }: Arrangement, bar: PlayedBar): string {
  const written = song.sections[bar.section]!.lines[bar.line]!.bars[bar.bar]!;
  const others = written.chords.flatMap(({ symbol, substitutes = [] }) =>
    substitutes.map(
      ({ time, symbol: other }) =>
        `${time === 'last' ? 'last time' : `time ${time}`} ${other} for ${symbol}`,
    ),
  );
  return [barNote(bar, rhythms[bar.index]!), ...others].filter(Boolean).join('; ');
}

function ending({ only }: Line): string {
  if (only === undefined) return '';
  return only === 'last' ? 'the last time' : `time ${only.join(' and ')}`;
}
