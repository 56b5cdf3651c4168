import { fretChord } from '../neck';
import type { Pattern, Song } from '../schema';
import type { CountVocabulary } from '../time';
import { chordBlock, pathBlock } from './drawn';
import { type SheetItem, moved, type SheetPage } from './paper';

/** One thing of a song as a picture of its own, for a poster or a message. */

const SIZE = 12;
const EDGE = 14;
/** Points that a bar of a path is wide. */
const BAR = 420;

const onPaper = (items: SheetItem[], width: number, height: number): SheetPage => ({
  width: width + 2 * EDGE,
  height: height + 2 * EDGE,
  items: items.map((item) => moved(item, EDGE, EDGE)),
});

/**
 * A rhythm as its wrist path, with count and words.
 * @example pathPicture(song.pattern, 6, 'numbers').width // 448
 */
export function pathPicture(
  pattern: Pattern,
  strings: number,
  counting: CountVocabulary,
): SheetPage {
  const bars = Math.max(1, Math.ceil(pattern.beats.length / pattern.meter.beats));
  const { items, height } = pathBlock(pattern, BAR * bars, SIZE, strings, counting);
  return onPaper(items, BAR * bars, height);
}

/**
 * The diagram of a chord as the song holds it; null where the symbol cannot be read.
 * @example chordPicture(song, 'G', false)?.height // 118, say
 */
export function chordPicture(song: Song, symbol: string, leftHanded: boolean): SheetPage | null {
  const held = fretChord(symbol, song);
  if (!held) return null;
  const { items, width, height } = chordBlock(
    held,
    song.instrument,
    song.capo,
    SIZE * 1.4,
    leftHanded,
    { own: song.ownAlternates },
  );
  return onPaper(items, width, height);
}

/** Letters of a picture as they are written into it, in base64. */
export interface PictureFonts {
  regular: string;
  bold: string;
}

const FAMILY = 'Atkinson Hyperlegible Next';
const escaped = (text: string) =>
  text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;');
const grey = (value: number | null) =>
  value === null ? 'none' : `hsl(0,0%,${Math.round(value * 100)}%)`;

/**
 * A page as SVG, whole in itself.
 * @param fonts are written into it, so that its letters look the same everywhere
 * @example pageSvg({ width: 10, height: 10, items: [] }).startsWith('<svg ') // true
 */
export function pageSvg({ width, height, items }: SheetPage, fonts?: PictureFonts): string {
  const face = (weight: number, data: string) =>
    `@font-face{font-family:'${FAMILY}';font-weight:${weight};src:url(data:font/woff;base64,${data})}`;
  const style = fonts ? `<style>${face(400, fonts.regular)}${face(700, fonts.bold)}</style>` : '';
  const drawn = items.map((item) => {
    if (item.kind === 'text') {
      const { x, y, size, weight, anchor } = item;
      return `<text x="${x}" y="${y}" font-size="${size}" font-weight="${weight === 'bold' ? 700 : 400}" text-anchor="${anchor}" fill="${grey(item.grey)}">${escaped(item.text)}</text>`;
    }
    const dash = item.dash ? ` stroke-dasharray="${item.dash.join(' ')}"` : '';
    const place = item.x || item.y ? ` transform="translate(${item.x} ${item.y})"` : '';
    return `<path d="${escaped(item.d)}"${place} fill="${grey(item.fill)}" stroke="${grey(item.stroke)}" stroke-width="${item.width}"${dash}/>`;
  });
  const box = `viewBox="0 0 ${width} ${height}" width="${width}" height="${height}"`;
  return `<svg xmlns="http://www.w3.org/2000/svg" ${box} font-family="'${FAMILY}',sans-serif">${style}<rect width="${width}" height="${height}" fill="white"/>${drawn.join('')}</svg>`;
}
