import { expose } from 'comlink';
import type { Song } from '#core/schema';
import {
  booklet,
  pageSvg,
  type Sheet,
  type SheetPage,
  songSheet,
  type SheetWish,
} from '#core/sheet';
import { engrave } from '#core/sheet/engrave';
import { type SheetFonts, sheetPdf } from '#core/sheet/pdf';
import bold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url';
import regular from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url';

let read: Promise<SheetFonts> | null = null;

/** The fonts of a sheet, which ship with the app. */
function fonts(): Promise<SheetFonts> {
  const font = async (url: string) => new Uint8Array(await (await fetch(url)).arrayBuffer());
  read ??= Promise.all([font(regular), font(bold)]).then(([one, other]) => ({
    regular: one,
    bold: other,
  }));
  return read;
}

/** Bytes as text, in parts: a call takes only so many arguments. */
function base64(bytes: Uint8Array): string {
  let text = '';
  for (let at = 0; at < bytes.length; at += PART) {
    text += String.fromCharCode(...bytes.subarray(at, at + PART));
  }
  return btoa(text);
}
const PART = 8192;

/** What lays sheets out and writes them, away from the page. */
const press = {
  sheet: (song: Song, wish: SheetWish): Sheet => songSheet(song, wish, engrave),
  pdf: async (songs: Song[], wishes: SheetWish[], title: string): Promise<Uint8Array> => {
    const sheets = songs.flatMap((song) => wishes.map((wish) => songSheet(song, wish, engrave)));
    return sheetPdf(sheets, title, await fonts());
  },
  /** A page as SVG, with its letters in it. */
  svg: async (page: SheetPage): Promise<string> => {
    const { regular: one, bold: other } = await fonts();
    const text = (font: Uint8Array | ArrayBuffer) => base64(new Uint8Array(font));
    return pageSvg(page, { regular: text(one), bold: text(other) });
  },
  /** Songs of an evening in one file, with contents and what is done between them. */
  booklet: async (songs: Song[], wish: SheetWish, title: string): Promise<Uint8Array> =>
    sheetPdf([booklet(songs, wish, title, engrave)], title, await fonts()),
};
export type Press = typeof press;

expose(press);
