import { ChordProLanguage } from '@chordbook/codemirror-lang-chordpro';
import type { Download, Page } from '@playwright/test';
import { parse, validate } from 'musicxml-io';
import { readFileSync } from 'node:fs';
import { readMidiFile } from '../core/formats/smf-reader.test-kit';
import { expect, look, openSong, saved, test } from './app';
import { A_STALL, isPluck, lateness, listen, sounds } from './ears';

const SONG = [
  'Intro:',
  '(pickup 1) D7 | G | C',
  'Verse:',
  'G | . | Em . <C . | D7',
  'G[2=Gmaj7] | Am7 | C D7 | G',
  'Chorus:',
  'C | Am7 | (2/4) D7 | G',
  'last) C | D7',
  'Tag:',
  'G | C | G~',
  'Order: Intro, Verse, Chorus, Verse, Chorus, Tag',
].join('\n');
/** Bars as they are played: 3, 8, 4, 8, 6, 3. */
const BARS = 32;

const bar = (page: Page, name: RegExp) => page.getByRole('button', { name });

async function press(page: Page, ...names: string[]): Promise<void> {
  for (const name of names) await page.keyboard.press(name);
}

/** Chooses from a list with the keys alone. */
async function pick(page: Page, field: string, option: string): Promise<void> {
  await page.getByRole('combobox', { name: field, exact: true }).focus();
  await press(page, 'ArrowDown');
  await expect(page.getByRole('listbox').last()).toBeVisible();
  await press(page, 'Home');
  const focused = page.locator('[role=option][data-p-focused=true]');
  for (let step = 0; step < 60; step += 1) {
    if ((await focused.textContent())?.trim() === option) break;
    await press(page, 'ArrowDown');
  }
  await expect(focused).toHaveText(option);
  await press(page, 'Enter');
}

async function pushButton(page: Page, name: string | RegExp): Promise<void> {
  await page.getByRole('button', { name, exact: typeof name === 'string' }).focus();
  await press(page, 'Enter');
}

async function download(page: Page, name: string): Promise<Download> {
  const [file] = await Promise.all([page.waitForEvent('download'), pushButton(page, name)]);
  return file;
}

test('a whole song with the keys alone, played, kept, and read by others', async ({
  page,
  app,
}) => {
  test.slow();
  await listen(page);
  await page.goto(`${app.url}/new`);
  await page.getByLabel('Name').focus();
  await page.keyboard.type('Winding Hole Waltzers');
  await page.getByRole('textbox', { name: 'Progression' }).focus();
  await page.keyboard.type(SONG);
  await pushButton(page, 'Make the song');
  await page.getByRole('navigation').getByRole('link', { name: 'Song', exact: true }).focus();
  await press(page, 'Enter');
  await expect(page.getByRole('heading', { name: new RegExp(`^${BARS} bars`) })).toBeVisible();
  await expect(bar(page, /^Bar 1: D7; a pick-up of 1 beat$/)).toBeVisible();
  await expect(bar(page, /^Bar 14: D7; in 2\/4$/)).toBeVisible();
  await expect(bar(page, /^Bar 32: G; struck once and held$/)).toBeVisible();

  // From bar to bar with the arrow keys; Enter looks at one.
  await bar(page, /^Bar 1:/).focus();
  await press(page, 'ArrowDown', 'ArrowRight', 'ArrowRight', 'Enter');
  const panel = page.getByRole('region', { name: 'The chosen bar' });
  await expect(panel.getByRole('heading', { level: 2 })).toHaveText('Bar 6');
  // A push: C lands on the & of 2, and is planted on 3 and back.
  await expect(panel.getByText('C lands on 3, early by an eighth')).toBeVisible();
  await pick(page, 'Strum of every Em', 'Bass and strum');
  await expect(bar(page, /^Bar 6: Em, C; a strum of its chord/)).toBeVisible();

  await bar(page, /^Bar 6:/).focus();
  await press(page, 'ArrowRight');
  await expect(panel.getByRole('heading', { level: 2 })).toContainText('Bar 7');
  await pick(page, 'Strum of bar 7', 'Chucked back-beat');
  await expect(bar(page, /^Bar 7: D7; a strum of its own$/)).toBeVisible();

  // A run into the chord of a bar, and the split of a shared one.
  await bar(page, /^Bar 7:/).focus();
  await press(page, 'ArrowRight');
  await expect(panel.getByRole('heading', { level: 2 })).toContainText('Bar 8');
  await pushButton(page, 'Place a run into G, up in the key');
  await expect(page.getByText(/changes? carr(y|ies) a run\.$/)).toBeVisible();
  await bar(page, /^Bar 8:/).focus();
  await press(page, 'ArrowRight', 'ArrowRight');
  await pushButton(page, 'half pattern');
  await expect(bar(page, /^Bar 10: C, D7; split, half pattern$/)).toBeVisible();

  // Bars are chosen, copied and pasted, and all of it undone.
  await bar(page, /^Bar 4:/).focus();
  await press(page, 'Shift+ArrowRight', 'Control+c');
  await expect(page.getByText('2 bars chosen')).toBeVisible();
  await press(page, 'ArrowRight', 'Control+v');
  await expect(page.getByRole('heading', { name: new RegExp(`^${BARS + 4} bars`) })).toBeVisible();
  await press(page, 'Control+z');
  await expect(page.getByRole('heading', { name: new RegExp(`^${BARS} bars`) })).toBeVisible();

  // Played from the bar before, with the chords now and next; the chosen bars go round.
  await bar(page, /^Bar 15:/).focus();
  await press(page, 'ArrowLeft', 'ArrowLeft', 'Shift+ArrowRight', 'l');
  await expect(page.getByLabel('First bar of the loop')).toHaveValue('13');
  await expect(page.getByLabel('Last bar of the loop')).toHaveValue('14');
  await page.getByLabel('Tempo, quarter').focus();
  await press(page, 'Control+a');
  await page.keyboard.type('140');
  await press(page, 'Enter');
  await page.locator('main').focus();
  await press(page, 'Space');
  const now = page.getByLabel('Chord now and next');
  await expect(now).toContainText(/Am7\s*in \d beats?\s*D7/, { timeout: 12_000 });
  await expect(now).toContainText(/D7\s*in \d beats?\s*Am7/, { timeout: 12_000 });
  await expect(page.getByText('bar 14 of 32')).toBeVisible();
  await press(page, 'Space');
  expect(lateness(await sounds(page))).toBeLessThan(A_STALL);

  // From the beginning to the end, at a gallop.
  await page.getByLabel('Loop', { exact: true }).focus();
  await press(page, 'Space');
  await page.getByLabel('Tempo, quarter').focus();
  await press(page, 'Control+a');
  await page.keyboard.type('300');
  await press(page, 'Enter');
  await bar(page, /^Bar 1:/).focus();
  await press(page, 'Home');
  const before = (await sounds(page)).length;
  await page.locator('main').focus();
  await press(page, 'Space');
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible({
    timeout: 45_000,
  });
  const heard = (await sounds(page)).slice(before).filter(isPluck);
  const beats = 1 + 31 * 4 - 2 * 2;
  expect(heard.at(-1)!.at - heard[0]!.at).toBeGreaterThan((beats - 4.1) * 0.2);
  expect(heard.at(-1)!.at - heard[0]!.at).toBeLessThan((beats - 3.9) * 0.2 + 0.1);

  // Kept over a restart.
  await saved(page);
  await app.kill();
  await app.start();
  await page.reload();
  await pushButton(page, 'Progression');
  await expect(page.getByRole('textbox', { name: 'Progression' })).toHaveValue(
    SONG.replace('. <C .', '<C'),
  );
  await expect(bar(page, /^Bar 10: C, D7; split, half pattern$/)).toBeVisible();

  // Out: MIDI, MusicXML and ChordPro say what was arranged, as readers of others find.
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  const response = await page.request.get(`${app.url}/api/songs/${id}/performance`);
  const performance = (await response.json()) as {
    ticks: number;
    strikes: { tick: number; run: boolean; notes: unknown[] }[];
    landings: { symbol: string }[];
  };
  const notes = performance.strikes.reduce((sum, strike) => sum + strike.notes.length, 0);
  expect(performance.strikes.filter(({ run }) => run)).toHaveLength(4);

  await pushButton(page, 'Files');
  const midi = readMidiFile(readFileSync(await (await download(page, 'MIDI file')).path()));
  expect(midi.notes.filter(({ channel }) => channel < 2)).toHaveLength(notes);
  expect(midi.hanging).toBe(0);

  const sheet = await download(page, 'MusicXML');
  expect(sheet.suggestedFilename()).toBe('Winding-Hole-Waltzers.musicxml');
  const score = parse(readFileSync(await sheet.path(), 'utf8'));
  expect(validate(score).errors.filter(({ level }) => level === 'error')).toEqual([]);
  const { measures } = score.parts[0]!;
  expect(measures).toHaveLength(BARS);
  const entries = measures.flatMap((measure) => measure.entries);
  const chords = entries.flatMap((entry) => (entry.type === 'harmony' ? [entry] : []));
  expect(chords).toHaveLength(performance.landings.length);
  const length = entries.reduce(
    (sum, entry) => sum + (entry.type === 'note' && !entry.chord ? entry.duration : 0),
    0,
  );
  expect(length).toBe(performance.ticks);

  const text = readFileSync(await (await download(page, 'ChordPro')).path(), 'utf8');
  const directives: string[] = [];
  ChordProLanguage.parser.parse(text).iterate({
    enter: ({ name, type, from, to }) => {
      expect(type.isError).toBe(false);
      if (name === 'Directive') directives.push(text.slice(from + 1, to - 1));
    },
  });
  expect(directives).toContain('title: Winding Hole Waltzers');
  expect(directives).toContain('start_of_grid: Chorus');
  expect(text).toContain('| C . . . | Am7 . . . | D7 . | G . . . |');
});

test('sections are put in another order, repeated, copied and taken out', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  const line = page.getByRole('textbox', { name: 'Progression' });
  await look(page, 'Order');
  const order = page.getByRole('region', { name: 'Order of the sections' });
  await order.getByRole('button', { name: 'Play Verse once more, at the end' }).click();
  await expect(page.getByRole('heading', { name: /^32 bars/ })).toBeVisible();
  const grips = order.getByTestId('grip');
  await grips.nth(1).hover();
  await page.mouse.down();
  const first = (await grips.nth(0).boundingBox())!;
  await page.mouse.move(first.x + 40, first.y + 8, { steps: 6 });
  await page.mouse.move(first.x, first.y + 8, { steps: 6 });
  await page.mouse.up();
  await expect(order.getByTestId('passage')).toHaveText(['Chorus', 'Verse', 'Verse']);
  await order.getByRole('button', { name: 'Chorus, passage 1: later' }).click();
  await order.getByRole('spinbutton', { name: 'Times of Verse, passage 1' }).fill('2');
  await page.keyboard.press('Tab');
  await order.getByRole('button', { name: 'Verse, passage 3: leave out' }).click();
  await look(page, 'Progression');
  await expect(line).toHaveValue(/\nOrder: Verse x2, Chorus$/);

  await page.getByRole('button', { name: 'With Chorus' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate section' }).click();
  await expect(line).toHaveValue(/\nChorus 2:\nD \| A[^]*\nOrder: Verse x2, Chorus, Chorus 2$/);
  await page.getByRole('button', { name: 'With Chorus', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Delete section' }).click();
  await expect(line).toHaveValue(/\nOrder: Verse x2, Chorus 2$/);
  await page.getByRole('button', { name: 'Undo: delete a section' }).click();
  await page.getByRole('button', { name: 'Undo: paste a section' }).click();
  await expect(line).toHaveValue(/\nOrder: Verse x2, Chorus$/);

  // A bar's meter and a chord for the second time, by hand; the line says them.
  await page.getByRole('button', { name: /^Bar 2:/ }).click();
  await look(page, 'Bar');
  await page.getByRole('combobox', { name: 'Meter of this bar' }).click();
  await page.getByRole('option', { name: '2/4', exact: true }).click();
  await page.getByLabel('Replace Bm with', { exact: true }).fill('Hm');
  await expect(page.getByRole('alert')).toContainText('“Hm” is not a chord we know; Bm');
  await page.getByLabel('Replace Bm with', { exact: true }).fill('Bm7');
  await page.keyboard.press('Enter');
  await page.getByRole('switch', { name: 'Bm is struck once and held' }).click();
  await look(page, 'Progression');
  await expect(line).toHaveValue(/^Verse:\nA \| \(2\/4\) Bm\[2=Bm7\]~ \| D E7/);
  await saved(page);
});

test('bars go by the arrow keys from row to row, and from song to song', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await bar(page, /^Bar 1:/).focus();
  await press(page, 'ArrowDown');
  await expect(bar(page, /^Bar 9:/)).toBeFocused();
  await press(page, 'ArrowRight', 'ArrowUp');
  await expect(bar(page, /^Bar 2:/)).toBeFocused();
  await press(page, 'End');
  await expect(bar(page, /^Bar 20:/)).toBeFocused();
  await press(page, 'Home', 'Shift+ArrowRight', 'Shift+ArrowRight');
  await expect(page.getByText('3 bars chosen')).toBeVisible();
  await expect(bar(page, /^Bar 3:/)).toHaveAttribute('aria-pressed', 'true');
  // Only one bar takes part in the order of the Tab key.
  await expect(bar(page, /^Bar \d+:/).and(page.locator('[tabindex="0"]'))).toHaveCount(1);
  await press(page, 'Control+c');
  // A menu closes where the page scrolls under it, as it may still do after the keys.
  await expect(async () => {
    await page.getByRole('button', { name: 'With Verse', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Copy the section' }).click({ timeout: 3000 });
  }).toPass();

  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await page.getByRole('link', { name: 'Sluice Gate Sixteens' }).click();
  const line = page.getByRole('textbox', { name: 'Progression' });
  await expect(line).toHaveValue(/^Groove:/);
  await bar(page, /^Bar 1:/).click();
  await page.getByRole('button', { name: 'Paste 3 before' }).click();
  await expect(line).toHaveValue(/^Groove:\nA \| Bm \| D E7 \| Em7/);
  await page.getByRole('button', { name: 'Undo: paste bars' }).click();
  await page.getByRole('button', { name: 'With Groove', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Paste “Verse” after it' }).click();
  await expect(line).toHaveValue(/\nVerse:\nA \| Bm \| D E7 \| A x2\n/);

  // The whole at once: narrow rows, and nothing but bars.
  await page.getByRole('button', { name: '8 in a row' }).click();
  await page.keyboard.press('F9');
  await expect(page.getByRole('region', { name: 'Tools' }).locator(':focus')).toHaveCount(1);
  await page.keyboard.press('F9');
  await expect(line).toBeHidden();
  const [first, fifth] = await Promise.all(
    [/^Bar 1:/, /^Bar 4:/].map((name) => bar(page, name).boundingBox()),
  );
  expect(first!.y).toBe(fifth!.y);
  expect(first!.width).toBeLessThan(170);
  await saved(page);
  await page.reload();
  await expect(page.getByRole('button', { name: '8 in a row' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
});

test('a long song is drawn as it is looked at, and goes on being drawn as it scrolls', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  const line = page.getByRole('textbox', { name: 'Progression' });
  await line.fill(Array.from({ length: 30 }, () => 'A | D | E7 | A').join('\n'));
  await expect(bar(page, /^Bar \d+:/)).toHaveCount(120);
  const drawn = () =>
    bar(page, /^Bar \d+:/)
      .locator('svg')
      .count();
  expect(await drawn()).toBeLessThan(80);
  await bar(page, /^Bar 120:/).scrollIntoViewIfNeeded();
  await expect(bar(page, /^Bar 120:/).locator('svg')).toBeVisible();
  await saved(page);
});
