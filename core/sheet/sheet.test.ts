import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import fontkit from '@pdf-lib/fontkit';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documents } from '../arbitraries.test-kit';
import { commands, rhythmCommands } from '../edit';
import { barres, fretChords, INSTRUMENTS } from '../neck';
import { tries } from '../properties.test-kit';
import type { Shape, Song } from '../schema';
import { newSong } from '../song';
import { METERS } from '../time';
import { onInstrument, onTheBeat, adaptFor, readAudience } from './adapt';
import { songSheet, tooLongForPaper, USUAL_SHEET } from './layout';
import { type SheetItem, MARGIN, placed, shortened, textWidth, wrapped } from './paper';
import { sheetPdf } from './pdf';

const { resolve } = createRequire(import.meta.url);
const fontFile = (weight: number) =>
  new Uint8Array(
    readFileSync(
      resolve(
        `@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
      ),
    ),
  );
const song = newSong({
  title: 'Weir',
  instrument: 'guitar',
  progression: 'Verse:\nG | Bm | C . <D . | G x2\nChorus:\nEm | F | G | D7',
  tempo: 92,
});
const words = (items: SheetItem[]) =>
  items.flatMap((item) => (item.kind === 'text' ? [item.text] : []));

/** Left, right, top and bottom of what is drawn. */
function edges(items: SheetItem[]) {
  const xs: number[] = [];
  const ys: number[] = [];
  for (const item of items) {
    if (item.kind === 'text') {
      const wide = textWidth(item.text, item.size, item.weight);
      const from =
        item.x - (item.anchor === 'end' ? wide : item.anchor === 'middle' ? wide / 2 : 0);
      xs.push(from, from + wide);
      ys.push(item.y - item.size * 0.7, item.y);
    } else {
      // Every other number of lines and curves is an x; arcs have their ends last.
      for (const [, letter, rest] of item.d.matchAll(/([A-Za-z])([^A-Za-z]*)/g)) {
        const numbers = rest!.match(/-?[\d.]+/g)?.map(Number) ?? [];
        if (letter === 'H') xs.push(...numbers.map((value) => value + item.x));
        else if (letter === 'V') ys.push(...numbers.map((value) => value + item.y));
        else {
          const ends = letter === 'A' ? numbers.slice(-2) : numbers;
          ends.forEach((value, index) =>
            index % 2 === 0 ? xs.push(value + item.x) : ys.push(value + item.y),
          );
        }
      }
    }
  }
  return {
    left: Math.min(...xs),
    right: Math.max(...xs),
    top: Math.min(...ys),
    bottom: Math.max(...ys),
  };
}

describe('letters', () => {
  it('are as wide as the font has them', () => {
    for (const [weight, name] of [
      [400, 'regular'],
      [700, 'bold'],
    ] as const) {
      const font = fontkit.create(fontFile(weight)) as unknown as {
        hasGlyphForCodePoint: (code: number) => boolean;
        glyphForCodePoint: (code: number) => { advanceWidth: number };
      };
      for (let code = 33; code < 256; code += 1) {
        if (!font.hasGlyphForCodePoint(code)) continue;
        const own = font.glyphForCodePoint(code).advanceWidth;
        expect(textWidth(String.fromCodePoint(code), 1000, name)).toBeCloseTo(own, -1);
      }
    }
  });

  it('are wrapped and shortened to the room there is', () => {
    const long = 'ropes at first light along the cut';
    for (const row of wrapped(long, 60, 10, 'regular')) {
      expect(textWidth(row, 10, 'regular')).toBeLessThanOrEqual(60);
    }
    expect(wrapped(long, 60, 10, 'regular').join(' ')).toBe(long);
    const short = shortened('W'.repeat(80), 60, 10, 'bold');
    expect(short.endsWith('…')).toBe(true);
    expect(textWidth(short, 10, 'bold')).toBeLessThanOrEqual(60);
  });

  it('paths are moved and scaled, arcs evenly', () => {
    expect(placed('M0 0L10 20', 5, 6, 2)).toBe('M5 6L25 46');
    expect(placed('M0,0h10l-2,4V8H3', 5, 6, 2)).toBe('M5 6h20l-4 8V22H11');
    expect(placed('M1 1A2 2 0 1 0 3 1', 10, 20, 1)).toBe('M11 21A2 2 0 1 0 13 21');
  });
});

describe('for whom', () => {
  it('is read from one word', () => {
    expect(readAudience('leader')).toEqual({ audience: 'leader', instrument: null });
    expect(readAudience('ukulele')).toEqual({ audience: 'player', instrument: 'ukulele' });
    expect(readAudience('ukulele-low-g-beginner')?.audience ?? null).toBe(
      readAudience('ukulele-low-g') ? 'beginner' : null,
    );
    expect(readAudience('trombone')).toBeNull();
  });

  it('one who begins gets easier shapes and beats, and is told what was left out', () => {
    const pattern = commands
      .setStroke(1, { kind: 'strum', dir: 'up', accent: 'normal' })
      .apply(song);
    const withRun = rhythmCommands
      .setRun({ section: 0, line: 0, bar: 3 }, 0, {
        count: 2,
        noteTicks: 480,
        kind: 'in the key',
        direction: 'up',
      })
      .apply(pattern);
    const { song: put, left } = adaptFor(withRun, 'beginner', null);
    expect(left[0]).toBe('bass runs and chords for another time');
    expect(left).toContain('the strum, for one down a beat');
    expect(left.some((one) => one.startsWith('F'))).toBe(true);
    expect(put.chosenShapes.map(({ symbol }) => symbol)).toContain('F');
    expect(put.pattern.beats.map(({ slots }) => slots.map(({ kind }) => kind))).toEqual(
      Array.from({ length: 4 }, () => ['strum']),
    );
    expect(adaptFor(song, 'player', null)).toEqual({ song, left: [] });
  });

  it.each([
    ['4/4', 4],
    ['3/4', 3],
    ['5/4', 5],
    ['6/8', 2],
    ['12/8', 4],
    ['7/8', 3],
  ] as const)('one who begins in %s strums %i times a bar, on every beat', (name, beats) => {
    const plain = newSong({ title: 'T', instrument: 'guitar', meter: METERS[name] });
    const slots = onTheBeat(plain.pattern).beats.flatMap((beat) => beat.slots);
    const bars = plain.pattern.beats.length / plain.meter.beats;
    expect(slots.filter(({ kind }) => kind === 'strum')).toHaveLength(beats * bars);
  });

  it('an own tuning is named with its strings, and the left hand is said', () => {
    const words = (own: Song, leftHanded = false) =>
      songSheet(own, { ...USUAL_SHEET, leftHanded }).pages[0]!.items.flatMap((item) =>
        item.kind === 'text' ? [item.text] : [],
      );
    const open = { ...INSTRUMENTS.guitar, strings: [38, 43, 50, 55, 59, 62], offset: -1 };
    expect(words({ ...song, instrument: open })[1]).toMatch(
      /^Guitar tuned D G D G B D, 1 semitone lower · /,
    );
    expect(words(song)[1]).toMatch(/^Guitar · /);
    expect(words(song, true)[1]).toMatch(/drawn for the left hand/);
  });

  it('another instrument plays in the same key, a capo taken into the chords', () => {
    const put = onInstrument({ ...song, capo: 2 }, 'ukulele');
    expect(put.capo).toBe(0);
    expect(put.instrument).toEqual(INSTRUMENTS.ukulele);
    expect(put.sections[0]!.lines[0]!.bars[0]!.chords[0]!.symbol).toBe('A');
    expect(onInstrument(song, 'ukulele').sections).toBe(song.sections);
  });

  it('guitars keep the capo and the tuning of the song; others sound at its pitch', () => {
    const own = { ...song, capo: 3, instrument: INSTRUMENTS['guitar-half-down'] };
    expect(onInstrument(own, 'guitar')).toBe(own);
    // Half down and a capo on the third fret: what is held as G sounds two semitones higher.
    const uke = onInstrument(own, 'ukulele');
    expect(uke.sections[0]!.lines[0]!.bars[0]!.chords[0]!.symbol).toBe('A');
    const low = onInstrument({ ...own, capo: 0 }, 'ukulele');
    expect(low.sections[0]!.lines[0]!.bars[0]!.chords[0]!.symbol).toBe('F#');
  });

  it('a beginner’s chord is never harder than the one it stands in for', () => {
    const down = ({ fingers }: Shape) => new Set(fingers.filter((finger) => finger > 0)).size;
    for (const id of ['guitar', 'ukulele', 'baritone', 'mandolin'] as const) {
      const all = ['C', 'D', 'E', 'F', 'G', 'A', 'B', 'Bb', 'Eb', 'Ab', 'C#', 'F#'].flatMap(
        (root) => ['', 'm', '7', 'm7', 'maj7'].map((kind) => root + kind),
      );
      const of = newSong({ title: 'T', instrument: id, progression: all.join(' | ') });
      const { song: put } = adaptFor(of, 'beginner', null);
      const usual = fretChords(of);
      for (const { symbol, shape } of put.chosenShapes) {
        const before = usual(symbol)!.shape;
        const flat = barres(before).length > 0 && barres(shape).length === 0;
        expect(down(shape), `${id} ${symbol}`).toBeLessThanOrEqual(down(before) + (flat ? 1 : 0));
      }
    }
  });
});

describe('a sheet', () => {
  it('has title, rhythm, chords, bars with their repeats, on one page', () => {
    const { pages } = songSheet(song, USUAL_SHEET);
    expect(pages).toHaveLength(1);
    const all = words(pages[0]!.items);
    for (const word of ['Weir', 'Chords', 'Verse', 'Chorus', '×2', 'Bm', '<D', '1 of 1']) {
      expect(all).toContain(word);
    }
    expect(all.some((word) => word.includes('quarter = 92'))).toBe(true);
    expect(
      words(
        songSheet(song, { ...USUAL_SHEET, audience: 'leader' }).pages.flatMap(({ items }) => items),
      ),
    ).toContain('Bass notes');
  });

  it('is there for five hundred written bars, and says before it begins where there are more', () => {
    const long = (bars: number) => ({
      ...song,
      sections: [
        {
          ...song.sections[0]!,
          lines: Array.from({ length: bars }, () => song.sections[0]!.lines[0]!).map((line) => ({
            ...line,
            bars: line.bars.slice(0, 1),
          })),
        },
      ],
    });
    expect(tooLongForPaper(long(500))).toBeNull();
    expect(tooLongForPaper(long(501))).toBe(
      '“Weir” has 501 written bars; 500 is the most that go on paper.',
    );
    expect(() => songSheet(long(501), USUAL_SHEET)).toThrow(RangeError);
  });

  it('is larger where it is asked for, on the paper that is asked for', () => {
    const [page] = songSheet(song, { ...USUAL_SHEET, paper: 'letter', landscape: true }).pages;
    expect([page!.width, page!.height]).toEqual([792, 612]);
    const size = (large: boolean) =>
      songSheet(song, { ...USUAL_SHEET, large }).pages[0]!.items.find(
        (item) => item.kind === 'text' && item.text === 'Weir',
      );
    expect((size(true) as { size: number }).size).toBeGreaterThan(
      1.3 * (size(false) as { size: number }).size,
    );
  });

  it('nothing of any song lies outside the margins, or is cut by a page', () => {
    const wishes = fc.record({
      audience: fc.constantFrom('player' as const, 'leader' as const, 'beginner' as const),
      large: fc.boolean(),
      landscape: fc.boolean(),
    });
    fc.assert(
      fc.property(documents, wishes, (document, wish) => {
        const { pages } = songSheet(document, { ...USUAL_SHEET, ...wish });
        for (const { width, height, items } of pages) {
          const { left, right, top, bottom } = edges(items);
          expect(left).toBeGreaterThanOrEqual(MARGIN - 14);
          expect(right).toBeLessThanOrEqual(width - MARGIN + 14);
          expect(top).toBeGreaterThanOrEqual(MARGIN - 14);
          expect(bottom).toBeLessThanOrEqual(height - MARGIN + 4);
        }
      }),
      tries(30),
    );
  });

  it('becomes a PDF file with its title and its letters', async () => {
    const fonts = { regular: fontFile(400), bold: fontFile(700) };
    const odd = { ...song, title: 'Weir – “Süd” 水' };
    const bytes = await sheetPdf([songSheet(odd, USUAL_SHEET)], odd.title, fonts);
    expect(new TextDecoder('latin1').decode(bytes.slice(0, 5))).toBe('%PDF-');
    expect(bytes.length).toBeLessThan(400_000);
  });
});
