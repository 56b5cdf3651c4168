import { expose } from 'comlink';
import { type Sheet, songSheet, type SheetWish, type Song } from '#core';
import { type SheetFonts, sheetPdf } from '#core/pdf';
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

/** What lays sheets out and writes them, away from the page. */
const press = {
  sheet: (song: Song, wish: SheetWish): Sheet => songSheet(song, wish),
  pdf: async (songs: Song[], wishes: SheetWish[], title: string): Promise<Uint8Array> => {
    const sheets = songs.flatMap((song) => wishes.map((wish) => songSheet(song, wish)));
    return sheetPdf(sheets, title, await fonts());
  },
};
export type Press = typeof press;

expose(press);
