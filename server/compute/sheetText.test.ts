import fc from 'fast-check';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { describe, expect, it } from 'vitest';
import type { Song } from '#core/schema';
import { METERS } from '#core/time';
import { newSong } from '#core/song';
import { type Notation, type Sheet, type SheetWish, songSheet, USUAL_SHEET } from '#core/sheet';
import { engrave } from '#core/sheet/engrave';
import { sheetPdf } from '#core/sheet/pdf';
import { documents } from '../../core/arbitraries.test-kit';
import { tries } from '../../core/properties.test-kit';
import { demoSongs } from '../demo/songs';
import { sheetFonts } from './fonts';

/** A text of a PDF file with its box, in points from the lower left of its page. */
interface Box {
  text: string;
  left: number;
  right: number;
  bottom: number;
  top: number;
}

/** What a PDF file says by its own text, page by page, as another reader finds it. */
async function textOf(bytes: Uint8Array): Promise<Box[][]> {
  const task = getDocument({ data: bytes, verbosity: 0 });
  const document = await task.promise;
  const pages: Box[][] = [];
  for (let number = 1; number <= document.numPages; number += 1) {
    const { items } = await (await document.getPage(number)).getTextContent();
    pages.push(
      items.flatMap((item) => {
        if (!('str' in item) || item.str.trim() === '') return [];
        const [size, , , , left, bottom] = item.transform as number[];
        // Half of a letter's height: what a small one has.
        return [
          {
            text: item.str,
            left: left!,
            right: left! + item.width,
            bottom: bottom!,
            top: bottom! + size! / 2,
          },
        ];
      }),
    );
  }
  await task.destroy();
  return pages;
}

function overlaps(boxes: Box[]): string[] {
  return boxes.flatMap((one, index) =>
    boxes.slice(index + 1).flatMap((other) => {
      const across = Math.min(one.right, other.right) - Math.max(one.left, other.left);
      const up = Math.min(one.top, other.top) - Math.max(one.bottom, other.bottom);
      return across > 0.5 && up > 0.5 ? [`${one.text} / ${other.text}`] : [];
    }),
  );
}

/** Space that has to stay free at the edges. */
const EDGE = 20;
const NOTATIONS: Notation[] = ['path', 'tab', 'slashes'];
const FORMS: Partial<SheetWish>[] = [
  ...NOTATIONS.map((notation) => ({ notation })),
  { notation: 'path', large: true },
  { notation: 'path', landscape: true },
  { notation: 'tab', large: true, landscape: true },
  { notation: 'slashes', large: true },
];
const sheetOf = (song: Song, wish: Partial<SheetWish>): Sheet =>
  songSheet(song, { ...USUAL_SHEET, ...wish }, engrave);
const printed = async (sheet: Sheet) => textOf(await sheetPdf([sheet], sheet.title, sheetFonts()));

/** A twelve, a slow twelve-eight with pushes, and many chords with long names. */
const CROWDED: Song[] = [
  newSong({
    title: 'Slow Twelve',
    instrument: 'guitar',
    meter: METERS['12/8'],
    progression: 'Bm7 . <E7 . | A <D F#m <Bm7 | <E7 | A',
  }),
  newSong({
    title: 'All the Locks of the Long Flight at Kettle Lock, from the Bottom to the Top and Back',
    instrument: 'guitar',
    progression: [
      'F#dim7 Bbmaj7/D Dsus4 Ebm7b5 | Abmaj7/C G#m7b5 C#7sus4 F#m11',
      'C Dsus4 | Amaj7/C# Bbmaj13 | <Ebmaj9/G . <Cm7b5 . | B7sus4 E7#9',
    ].join('\n'),
  }),
];

describe('the text of a sheet, as another reader finds it', () => {
  it.each([...demoSongs, ...CROWDED].map((song) => [song.title, song] as const))(
    'has no text over another, in any form: %s',
    async (_, song) => {
      for (const form of FORMS) {
        const pages = await printed(sheetOf(song, form));
        expect(pages.map(overlaps), JSON.stringify(form)).toEqual(pages.map(() => []));
      }
    },
    60_000,
  );

  it('is what was laid out, whole and inside the page, for any song', async () => {
    await fc.assert(
      fc.asyncProperty(documents, fc.constantFrom(...NOTATIONS), async (song, notation) => {
        const sheet = sheetOf(song, { notation });
        const pages = await printed(sheet);
        pages.forEach((boxes, at) => {
          const { width, height, items } = sheet.pages[at]!;
          for (const { text, left, right, bottom, top } of boxes) {
            expect(left, text).toBeGreaterThan(EDGE);
            expect(right, text).toBeLessThan(width - EDGE);
            expect(bottom, text).toBeGreaterThan(EDGE / 2);
            expect(top, text).toBeLessThan(height - EDGE);
          }
          // Letters only: readers put spaces where they like, and what has no letter stands as a question mark.
          const letters = (text: string) => text.replaceAll(/[^\w#&/<()×+-]/g, '');
          const laid = items.flatMap((item) => (item.kind === 'text' ? [item.text] : []));
          expect(letters(boxes.map(({ text }) => text).join(''))).toBe(letters(laid.join('')));
        });
      }),
      tries(25),
    );
  }, 60_000);
});
