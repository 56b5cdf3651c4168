import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { SheetFonts } from '#core/sheet/pdf';

const { resolve } = createRequire(import.meta.url);
const FILES = '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin';
let read: SheetFonts | null = null;

/** The fonts of a sheet, read once. */
export function sheetFonts(): SheetFonts {
  const font = (weight: number) =>
    new Uint8Array(readFileSync(resolve(`${FILES}-${weight}-normal.woff`)));
  read ??= { regular: font(400), bold: font(700) };
  return read;
}

/** The same, as they are written into a picture. */
export function pictureFonts(): { regular: string; bold: string } {
  const { regular, bold } = sheetFonts();
  const base64 = (font: Uint8Array) => Buffer.from(font).toString('base64');
  return { regular: base64(regular as Uint8Array), bold: base64(bold as Uint8Array) };
}
