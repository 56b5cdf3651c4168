import { type Arrangement, arrangement } from '../arrange';
import { builtInId, fretChords, INSTRUMENTS, isNoChord, isReentrant, stringNames } from '../neck';
import type { InstrumentId, Pattern, Song } from '../schema';
import { plural } from '../plain';
import { songChords } from '../song';
import { type CountVocabulary, describeMeter, pulseNote } from '../time';
import { bassLine, type Block, chordBlock, pathBlock } from './drawn';
import { barsOf } from './bars';
import { orderOf } from './cues';
import { type Audience, adaptFor } from './adapt';
import type { Engraver, Notation } from './engraving';
import { cut, heading, LARGE, type Frame, SOFT } from './frame';
import { wordsOf } from './singer';
import {
  type SheetItem,
  line,
  MARGIN,
  moved,
  type SheetPage,
  type Paper,
  PAPERS,
  shortened,
  text,
  wrapped,
} from './paper';

export interface SheetWish {
  audience: Audience;
  /** Another instrument than the song's; null for its own. */
  instrument: InstrumentId | null;
  paper: Paper;
  landscape: boolean;
  /** Letters and drawings as large as can be read from a stand two metres away. */
  large: boolean;
  leftHanded: boolean;
  counting: CountVocabulary;
  /** What is drawn for the bars; the path where it is left out. */
  notation?: Notation | undefined;
  /** The name of a person or a place in the circle, which stands on the sheet. */
  reader?: string | undefined;
}

export const USUAL_SHEET: SheetWish = {
  audience: 'player',
  instrument: null,
  paper: 'a4',
  landscape: false,
  large: false,
  leftHanded: false,
  counting: 'numbers',
};

/** A sheet laid out: its pages, and what was left out for whom it is. */
export interface Sheet {
  title: string;
  pages: SheetPage[];
  left: string[];
}

const SIZE = 9.5;
/** Sizes that are tried so that a sheet stays on one page. */
const SMALLER = [0.93, 0.86, 0.8];

/** Bars that are laid out at most: some thirty pages, and seconds of work where staves are drawn. */
const MAX_BARS_ON_PAPER = 500;

/**
 * Why a song has no sheet, in one sentence; null where it has one. It counts what is written and not what is played, and
 * is asked before anything is laid out.
 * @example tooLongForPaper(song) // null, or '“Long” has 4,000 written bars; 500 is the most that go on paper.'
 */
export function tooLongForPaper({
  title,
  sections,
}: Pick<Song, 'title' | 'sections'>): string | null {
  const bars = sections
    .flatMap(({ lines }) => lines)
    .reduce((sum, line) => sum + line.bars.length, 0);
  if (bars <= MAX_BARS_ON_PAPER) return null;
  const [has, most] = [bars, MAX_BARS_ON_PAPER].map((count) => count.toLocaleString('en-GB'));
  return `“${title}” has ${has} written bars; ${most} is the most that go on paper.`;
}

/**
 * Lays a song out for paper.
 * @throws RangeError where the song is too long for it (`tooLongForPaper`)
 * @param engrave draws staves, where the wish asks for them; without it the path is drawn
 * @example songSheet(song, USUAL_SHEET).pages.length // 1
 */
export function songSheet(song: Song, wish: SheetWish, engrave: Engraver | null = null): Sheet {
  const { title, pages, left, size } = songPages(song, wish, engrave);
  return { title, left, pages: numbered(pages.map((page) => ({ page, title, size }))) };
}

/**
 * The pages of a song without their feet, and the size of their letters.
 * @param before a sentence that stands over the song: what has to be retuned for it
 */
export function songPages(
  song: Song,
  wish: SheetWish,
  engrave: Engraver | null,
  before = '',
): Sheet & { size: number } {
  const tooLong = tooLongForPaper(song);
  if (tooLong !== null) throw new RangeError(tooLong);
  const { width, height } = paperOf(wish);
  const { song: put, left, next } = adaptFor(song, wish.audience, wish.instrument);
  const said = [
    left.length > 0 ? `Simplified: left out are ${left.join('; ')}.` : '',
    next ?? '',
  ].filter(Boolean);
  const arranged = arrangement(put);
  const base = sizeOf(wish);
  const laid = (share: number) => {
    const room: Frame = {
      width: width - 2 * MARGIN,
      height: height - 2 * MARGIN,
      size: base * share,
    };
    const lead = before === '' ? [] : [paragraph(before, room)];
    const blocks = [...lead, ...blocksOf(arranged, wish, said, room, engrave)];
    return { pages: flow(blocks, width, height, room.size), size: room.size };
  };
  let made = laid(1);
  // What goes on for pages is not made smaller for one page less.
  const nearly = made.pages.length === 2 && !wish.large;
  for (const share of nearly ? SMALLER : []) {
    if (made.pages.length === 1) break;
    const closer = laid(share);
    if (closer.pages.length === 1) made = closer;
  }
  return { title: put.title, left, ...made };
}

/** The size of the paper as it lies, in points. */
export function paperOf({ paper, landscape }: SheetWish): { width: number; height: number } {
  const { width: across, height: down } = PAPERS[paper];
  return landscape ? { width: down, height: across } : { width: across, height: down };
}

/** Words are sung from farther off than chords are read. */
const SUNG = 1.35;

export const sizeOf = ({ large, audience }: SheetWish): number =>
  (large ? LARGE : SIZE) * (audience === 'singer' ? SUNG : 1);

/** Words over as many lines as they need. */
export function paragraph(words: string, { size, width }: Frame): Block {
  const rows = wrapped(words, width, size, 'regular');
  return {
    height: size * (0.6 + rows.length * 1.3),
    items: rows.map((row, index) => text(0, size * (1 + index * 1.3), row, size)),
  };
}

/** What a line that says that a section goes on takes, by the size of the letters. */
const CONTINUED = 1.9;

/** Blocks one below the other; one that has no room goes to the next page, with the heading that leads it. */
export function flow(blocks: Block[], width: number, height: number, size: number): SheetPage[] {
  const pages: SheetItem[][] = [[]];
  const end = height - MARGIN - size * 1.6;
  let y = MARGIN;
  blocks.forEach((block, index) => {
    const following = block.leads ? (blocks[index + 1]?.height ?? 0) : 0;
    if (y > MARGIN && y + block.height + following > end) {
      pages.push([]);
      y = MARGIN;
      if (block.section !== undefined) {
        const words = shortened(`${block.section}, continued`, width - 2 * MARGIN, size, 'bold');
        pages.at(-1)!.push(text(MARGIN, y + size, words, size, { weight: 'bold', grey: SOFT }));
        y += size * CONTINUED;
      }
    }
    pages.at(-1)!.push(...block.items.map((item) => moved(item, MARGIN, y)));
    y += block.height;
  });
  return pages.map((items) => ({ width, height, items }));
}

/** Pages with their feet: the title of each, and its number among them all. */
export function numbered(pages: { page: SheetPage; title: string; size: number }[]): SheetPage[] {
  return pages.map(({ page: { width, height, items }, title, size }, index) => ({
    width,
    height,
    items: [
      ...items,
      text(
        MARGIN,
        height - MARGIN,
        shortened(title, width / 2, size * 0.8, 'regular'),
        size * 0.8,
        { grey: SOFT },
      ),
      text(width - MARGIN, height - MARGIN, `${index + 1} of ${pages.length}`, size * 0.8, {
        anchor: 'end',
        grey: SOFT,
      }),
    ],
  }));
}

function blocksOf(
  arranged: Arrangement,
  wish: SheetWish,
  said: string[],
  room: Frame,
  engrave: Engraver | null,
): Block[] {
  const all = wish.audience === 'leader';
  const head = headOf(arranged, wish, said, room);
  if (wish.audience === 'singer') return [head, ...wordsOf(arranged, room)];
  return [
    head,
    ...(all ? orderOf(arranged, room) : []),
    ...rhythmsOf(arranged, wish, room),
    ...chordsOf(arranged, wish, room),
    ...barsOf(arranged, room, wish.notation, engrave),
    ...(all ? bassesOf(arranged, room) : []),
    ...(all ? [notes(room)] : []),
  ];
}

const FOR: Record<Audience, string> = {
  player: '',
  leader: 'for the leader',
  beginner: 'for a beginner',
  singer: 'for the singer',
};

/** An instrument by its name, and by its strings where a player has tuned them otherwise. */
function tunedAs(instrument: Song['instrument']): string {
  const { name, offset } = instrument;
  const id = builtInId({ ...instrument, offset: 0 });
  const usual = id !== null && INSTRUMENTS[id].name === name;
  const strings = usual ? '' : ` tuned ${stringNames(instrument).join(' ')}`;
  const lower = offset < 0 ? `, ${plural(-offset, 'semitone')} lower` : '';
  const higher = offset > 0 ? `, ${plural(offset, 'semitone')} higher` : '';
  return `${name}${strings}${lower}${higher}`;
}

function headOf(
  { song }: Arrangement,
  wish: SheetWish,
  said: string[],
  { size, width }: Frame,
): Block {
  const { instrument, capo, tempo, meter, countIn } = song;
  const facts = [
    tunedAs(instrument),
    capo > 0 ? `capo ${capo}` : null,
    `${pulseNote(meter)} = ${tempo}`,
    describeMeter(meter),
    countIn > 0 ? `${plural(countIn, 'bar')} counted in` : null,
    wish.leftHanded && wish.audience !== 'singer' ? 'drawn for the left hand' : null,
    wish.reader ? `for ${wish.reader}` : FOR[wish.audience] || null,
  ].filter((fact) => fact !== null);
  const words = said.length > 0 ? wrapped(said.join(' '), width, size, 'regular') : [];
  const title = wrapped(song.title, width, size * 2.2, 'bold');
  const facted = wrapped(facts.join(' · '), width, size, 'regular');
  const under = 2 + (title.length - 1) * 2.4;
  const below = under + 1.6 + (facted.length - 1) * 1.3;
  const items: SheetItem[] = [
    ...title.map((row, index) =>
      text(0, size * (2 + index * 2.4), row, size * 2.2, { weight: 'bold' }),
    ),
    ...facted.map((row, index) =>
      text(0, size * (under + 1.6 + index * 1.3), row, size, { grey: SOFT }),
    ),
    ...words.map((row, index) => text(0, size * (below + 1.4 + index * 1.3), row, size)),
  ];
  return { height: size * (below + 1 + words.length * 1.3), items };
}

/** Every rhythm of the song once, with the bars that it carries. */
function rhythmsOf({ rhythms, song }: Arrangement, wish: SheetWish, room: Frame): Block[] {
  const { width } = room;
  const carried = new Map<Pattern, number[]>();
  // Strums that are the same are one, whatever carries them.
  const alike = new Map<string, Pattern>();
  const once = (pattern: Pattern) => {
    const { name: _, ...strum } = pattern;
    const key = JSON.stringify(strum);
    const known = alike.get(key) ?? pattern;
    alike.set(key, known);
    return known;
  };
  rhythms.forEach((row, bar) => {
    for (const { pattern: strum, split } of row) {
      // What is halved or squeezed for a split bar is said at the bar.
      if (split === 'half' || split === 'squeeze') continue;
      const pattern = once(strum);
      const bars = carried.get(pattern) ?? [];
      if (bars.at(-1) !== bar + 1) bars.push(bar + 1);
      carried.set(pattern, bars);
    }
  });
  if (carried.size === 0) carried.set(song.pattern, []);
  const short = [...carried.keys()].every(({ beats, meter }) => beats.length <= meter.beats);
  const beside = carried.size > 1 && short;
  const own: Frame = beside ? { ...room, width: width * 0.48 } : room;
  const each = [...carried].map(([pattern, bars]) => {
    const which = carried.size > 1 && bars.length > 0 ? `, ${ranges(bars)}` : '';
    const swing = pattern.feel ? `, swung ${pattern.feel.percent} %` : '';
    return rhythmBlocks(pattern, `${pattern.name}${which}${swing}`, song, wish, own, beside);
  });
  if (!beside) return each.flat();
  // Two short rhythms stand side by side.
  return cut(each.map(stacked), 2).map((pair) => ({
    height: Math.max(...pair.map(({ height }) => height)),
    items: pair.flatMap(({ items }, index) =>
      items.map((item) => moved(item, index * width * 0.52, 0)),
    ),
  }));
}

/** Blocks as one. */
function stacked(blocks: Block[]): Block {
  let height = 0;
  const items = blocks.flatMap((block) => {
    const placed = block.items.map((item) => moved(item, 0, height));
    height += block.height;
    return placed;
  });
  return { height, items };
}

function rhythmBlocks(
  pattern: Pattern,
  name: string,
  song: Song,
  wish: SheetWish,
  room: Frame,
  beside: boolean,
): Block[] {
  const { size, width } = room;
  const strings = song.instrument.strings.length;
  const inRow = beside ? 1 : width > 600 ? 3 : 2;
  const beats = pattern.meter.beats * inRow;
  const { builds: _, ...rest } = pattern;
  const rows = cut(pattern.beats, beats).map((part) => {
    const wide = Math.max((width * part.length) / beats, beside ? width : width * 0.7);
    return pathBlock({ ...rest, beats: part }, wide, size, strings, wish.counting, song.instrument);
  });
  return [heading(name, room), ...rows, { height: size * 0.6, items: [] }];
}

/** Bars in a row as ranges: 'bars 1 to 4, 7'. */
function ranges(numbers: number[]): string {
  const spans: [number, number][] = [];
  for (const number of numbers) {
    const last = spans.at(-1);
    if (last && last[1] === number - 1) last[1] = number;
    else spans.push([number, number]);
  }
  const words = spans.map(([from, to]) => (from === to ? String(from) : `${from} to ${to}`));
  return `${numbers.length === 1 ? 'bar' : 'bars'} ${words.join(', ')}`;
}

/** Rows of chord diagrams, as many beside each other as there is room for. */
function chordsOf(arranged: Arrangement, wish: SheetWish, room: Frame): Block[] {
  const { song } = arranged;
  const hold = fretChords(song);
  const symbols = songChords(song).filter((symbol) => !isNoChord(symbol));
  const drawn = symbols.flatMap((symbol) => {
    const held = hold(symbol);
    return held
      ? [
          chordBlock(
            held,
            song.instrument,
            song.capo,
            room.size,
            wish.leftHanded,
            asksForBass(arranged) ? { own: song.ownAlternates } : null,
          ),
        ]
      : [];
  });
  if (drawn.length === 0) return [];
  const rows: Block[] = [];
  let x = 0;
  for (const diagram of drawn) {
    if (rows.length === 0 || x + diagram.width > room.width) {
      rows.push({ height: 0, items: [] });
      x = 0;
    }
    const row = rows.at(-1)!;
    row.items.push(...diagram.items.map((item) => moved(item, x, 0)));
    row.height = Math.max(row.height, diagram.height);
    x += diagram.width;
  }
  const legend = 'Black arrow: the bass string. Ring below: the alternate bass.';
  const explained: Block = {
    height: room.size * 1.4,
    items: [text(0, room.size * 0.8, legend, room.size * 0.8, { grey: SOFT })],
  };
  return [heading('Chords', room), ...rows, ...(asksForBass(arranged) ? [explained] : [])];
}

/** Whether bass notes belong on a song's sheet: on a re-entrant instrument only where its strum strikes them. */
function asksForBass({ song, performance }: Arrangement): boolean {
  return (
    !isReentrant(song.instrument) ||
    performance.strikes.some(({ kind, run }) => kind === 'bass' && !run)
  );
}

/** The bass notes of every chord, as a table. */
function bassesOf(arranged: Arrangement, room: Frame): Block[] {
  if (!asksForBass(arranged)) return [];
  const { song } = arranged;
  const { size, width } = room;
  const hold = fretChords(song);
  const columns = [0, width * 0.13, width * 0.38];
  const row = (cells: string[], weight: 'regular' | 'bold'): Block => {
    const lines = cells.map((cell, index) => {
      const end = columns[index + 1] ?? width;
      return wrapped(cell, end - columns[index]! - 4, size, weight);
    });
    return {
      height: size * (0.2 + 1.25 * Math.max(1, ...lines.map(({ length }) => length))),
      items: lines.flatMap((rows, index) =>
        rows.map((words, at) =>
          text(columns[index]!, size * (1 + at * 1.25), words, size, { weight }),
        ),
      ),
    };
  };
  const lines = songChords(song).flatMap((symbol) => {
    const held = hold(symbol);
    if (!held) return [];
    const { bass, alternate, strings } = bassLine(
      held,
      song.instrument,
      song.capo,
      song.ownAlternates,
    );
    return [row([symbol, bass, `${alternate} · ${strings}`], 'regular')];
  });
  if (lines.length === 0) return [];
  return [
    heading('Bass notes', room),
    { ...row(['Chord', 'Bass', 'Alternate · strings to sound'], 'bold'), leads: true },
    ...lines,
  ];
}

function notes({ size, width }: Frame): Block {
  const rows = 4;
  const top = size * 2.4;
  return {
    height: top + rows * size * 2,
    items: [
      text(0, size * 1.5, 'Notes', size * 1.2, { weight: 'bold' }),
      ...Array.from({ length: rows }, (_, row) =>
        line(0, top + (row + 1) * size * 1.9, width, top + (row + 1) * size * 1.9, 0.4, 0.7),
      ),
    ],
  };
}
