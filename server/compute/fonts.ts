import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { SheetFonts } from '#core/pdf';

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
