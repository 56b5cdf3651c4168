import { XMLValidator } from 'fast-xml-parser';
import { PDFDocument } from 'pdf-lib';
import { describe, expect, it } from 'vitest';
import { type Audience, readAudience, songSheet, USUAL_SHEET } from '#core/sheet';
import { runTask } from './compute/tasks';
import { demoSongs } from './demo/songs';

const KINDS = ['player', 'leader', 'ukulele-beginner'];
const wishOf = (kind: string) => ({ ...USUAL_SHEET, ...readAudience(kind)! });

describe('the demo songs on paper', () => {
  for (const song of demoSongs) {
    it.each(KINDS)(`${song.title}, for %s`, async (kind) => {
      const sheet = songSheet(song, wishOf(kind));
      const bytes = await runTask('sheet', song, { sheet: wishOf(kind) });
      const read = await PDFDocument.load(bytes);
      expect(read.getTitle()).toBe(song.title);
      expect(read.getPageCount()).toBe(sheet.pages.length);
      expect(sheet.pages.length).toBeLessThanOrEqual(3);
      expect(bytes.length).toBeLessThan(400_000);
      const [page] = read.getPages();
      expect(page!.getWidth()).toBeCloseTo(595.28, 1);
    });
  }

  it('says every bar that is written, once', () => {
    for (const song of demoSongs) {
      const { pages } = songSheet(song, wishOf('player'));
      const names = song.sections.map(({ name }) => name).filter(Boolean);
      const texts = pages.flatMap(({ items }) =>
        items.flatMap((item) => (item.kind === 'text' ? [item.text] : [])),
      );
      for (const name of names) expect(texts.filter((text) => text === name)).toHaveLength(1);
    }
  });

  it('the leader has what the player has, and more', () => {
    const words = (audience: Audience) =>
      songSheet(demoSongs[0]!, { ...USUAL_SHEET, audience }).pages.flatMap(({ items }) =>
        items.flatMap((item) => (item.kind === 'text' ? [item.text] : [])),
      );
    const leader = new Set(words('leader'));
    const apart = words('player').filter((word) => !leader.has(word));
    // Only the line of facts differs, which may take two rows: it says whom the sheet is for.
    expect(apart.length).toBeLessThanOrEqual(2);
    expect(leader.has('Bass notes')).toBe(true);
    expect(leader.has('Notes')).toBe(true);
  });
});

describe('one thing as a picture', () => {
  const [song] = demoSongs as [(typeof demoSongs)[number]];
  const svg = async (chord?: { symbol: string; leftHanded: boolean }) =>
    new TextDecoder().decode(await runTask('picture', song, chord ? { chord } : {}));

  it('is the path of the rhythm with its words, whole in itself', async () => {
    const drawn = await svg();
    expect(XMLValidator.validate(drawn)).toBe(true);
    expect(drawn).toContain('>DOWN</text>');
    expect(drawn).toMatch(/font-weight:700;src:url\(data:font\/woff;base64,[\w+/=]{1000,}\)/);
  });

  it('is the diagram of a chord, either hand; nothing where there is no such chord', async () => {
    const right = await svg({ symbol: 'F#m', leftHanded: false });
    expect(XMLValidator.validate(right)).toBe(true);
    expect(right).toContain('>F#m</text>');
    expect(await svg({ symbol: 'F#m', leftHanded: true })).not.toBe(right);
    expect(await svg({ symbol: 'Hq', leftHanded: false })).toBe('');
  });
});
