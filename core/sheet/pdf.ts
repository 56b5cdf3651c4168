import fontkit from '@pdf-lib/fontkit';
import { grayscale, PDFDocument, type PDFFont, type PDFPage } from 'pdf-lib';
import type { Sheet } from './layout';
import type { SheetItem, SheetPage, Weight } from './paper';

/** The fonts of a sheet, as the bytes of their files. */
export type SheetFonts = Record<Weight, Uint8Array>;

/**
 * Sheets as one PDF file: vectors, with the letters of its fonts that it uses, its title and its language.
 * @throws Error where a font cannot be read
 */
export async function sheetPdf(
  sheets: Sheet[],
  title: string,
  fonts: SheetFonts,
): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  document.registerFontkit(fontkit);
  document.setTitle(title, { showInWindowTitleBar: true });
  document.setLanguage('en');
  document.setProducer('Plucky Wrist');
  document.setCreator('Plucky Wrist');
  const embedded: Record<Weight, PDFFont> = {
    regular: await document.embedFont(fonts.regular, { subset: true }),
    bold: await document.embedFont(fonts.bold, { subset: true }),
  };
  for (const { pages } of sheets) {
    for (const { width, height, items } of pages) {
      const page = document.addPage([width, height]);
      for (const item of items) draw(page, height, item, embedded);
    }
  }
  return document.save();
}

const letters = new WeakMap<PDFFont, Set<number>>();

/** What a font has no letter for stands as a question mark. */
function printable(text: string, font: PDFFont): string {
  const known = letters.get(font) ?? new Set(font.getCharacterSet());
  letters.set(font, known);
  return [...text].map((letter) => (known.has(letter.codePointAt(0)!) ? letter : '?')).join('');
}

function draw(
  page: PDFPage,
  height: SheetPage['height'],
  item: SheetItem,
  fonts: Record<Weight, PDFFont>,
): void {
  if (item.kind === 'text') {
    const font = fonts[item.weight];
    const words = printable(item.text, font);
    if (words === '') return;
    const wide = item.anchor === 'start' ? 0 : font.widthOfTextAtSize(words, item.size);
    const x = item.x - (item.anchor === 'end' ? wide : wide / 2);
    page.drawText(words, {
      x,
      y: height - item.y,
      size: item.size,
      font,
      color: grayscale(item.grey),
    });
    return;
  }
  page.drawSvgPath(item.d, {
    x: item.x,
    y: height - item.y,
    ...(item.fill !== null && { color: grayscale(item.fill) }),
    ...(item.stroke !== null && {
      borderColor: grayscale(item.stroke),
      borderWidth: item.width,
      ...(item.dash && { borderDashArray: item.dash }),
    }),
  });
}
