import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { PDFDocument } from 'pdf-lib';
import { expect, goTo, look, openSong, test } from './app';

const answer = (page: Page) => page.getByRole('heading', { level: 1 });

/** What a button saves, as a PDF file that another reader opens. */
async function saved(page: Page, name: string | RegExp) {
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name }).click();
  const download = await saving;
  const bytes = readFileSync(await download.path());
  return { name: download.suggestedFilename(), bytes, read: await PDFDocument.load(bytes) };
}

test('a song goes on paper: for a player, a beginner, and everyone', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Sheet');
  await expect(answer(page)).toHaveText('1 page, A4, for a player.');
  const preview = page.getByRole('img', { name: 'Page 1 of 1' });
  await expect(preview).toContainText('Towpath eighths');
  const { name, bytes, read } = await saved(page, 'Save as PDF');
  expect(name).toBe('Ropes-at-First-Light.pdf');
  expect(read.getPageCount()).toBe(1);
  expect(read.getTitle()).toBe('Ropes at First Light');
  expect(bytes.length).toBeLessThan(400_000);

  await page.getByRole('combobox', { name: 'For', exact: true }).click();
  await page.getByRole('option', { name: 'a beginner' }).click();
  await page.getByRole('combobox', { name: 'Instrument', exact: true }).click();
  await page.getByRole('option', { name: 'Ukulele', exact: true }).click();
  await expect(preview).toContainText('for a beginner');
  await expect(page.getByText(/Left out: the strum, for one down a beat/)).toBeVisible();
  await page.getByRole('combobox', { name: 'Paper' }).click();
  await page.getByRole('option', { name: 'Letter' }).click();
  await page.getByRole('switch', { name: 'Large print' }).click();
  await expect(answer(page)).toHaveText(/pages?, Letter, for a beginner\./);

  await look(page, 'Everyone’s sheets');
  const readers = page.getByRole('list', { name: 'Who is in the circle' });
  await expect(readers.getByRole('listitem')).toHaveCount(5);
  // Ten readers, each as they read; the list is there for the next song.
  for (let more = 0; more < 5; more += 1) {
    await page.getByRole('button', { name: 'Add a reader' }).click();
    await expect(page.getByRole('textbox', { name: 'Name' })).toBeFocused();
    await page.keyboard.type(`Moss ${more}`);
  }
  await page.getByRole('combobox', { name: 'Instrument', exact: true }).click();
  await page.getByRole('option', { name: 'Mandolin', exact: true }).click();
  await page.getByRole('switch', { name: 'Left-handed', exact: true }).click();
  await expect(readers.getByText('Mandolin, a singer, large print, left hand')).toBeVisible();
  const circle = await saved(page, 'Save 10 sheets');
  expect(circle.read.getPageCount()).toBeGreaterThanOrEqual(10);
  await page.reload();
  await look(page, 'Everyone’s sheets');
  await expect(readers.getByRole('listitem')).toHaveCount(10);
  await readers.getByText('Moss 4', { exact: true }).click();
  await page.getByRole('button', { name: 'Take Moss 4 off the list' }).click();
  await expect(readers.getByRole('listitem')).toHaveCount(9);
  await expect(readers.locator('summary').last()).toBeFocused();

  await look(page, 'For whom');
  await page.getByRole('combobox', { name: 'For', exact: true }).click();
  await page.getByRole('option', { name: /^a singer/ }).click();
  await expect(preview.first()).toContainText('Loose');
  await expect(preview.first()).not.toContainText('Towpath eighths');

  // The server writes the same without a browser.
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  const asked = await page.request.get(`${app.url}/api/songs/${id}/sheet.pdf?for=ukulele-beginner`);
  expect(asked.headers()['content-type']).toBe('application/pdf');
  expect((await PDFDocument.load(await asked.body())).getTitle()).toBe('Ropes at First Light');
  const refused = await page.request.get(`${app.url}/api/songs/${id}/sheet.pdf?for=trombone`);
  expect(refused.status()).toBe(400);
});

test('the bars are tablature or slashes, and an evening is one booklet in the easiest order', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Mooring Pins');
  await goTo(page, 'Sheet');
  const preview = page.getByRole('group', { name: 'Pages' });
  await expect(preview).toContainText('Mooring Pins');
  const paths = () => preview.locator('path').count();
  const before = await paths();
  await page.getByRole('combobox', { name: 'Show bars as' }).click();
  await page.getByRole('option', { name: 'path and tablature' }).click();
  await expect(preview.getByText('H', { exact: true }).first()).toBeAttached();
  await page.getByRole('combobox', { name: 'Show bars as' }).click();
  await page.getByRole('option', { name: 'path and slashes' }).click();
  await expect.poll(paths).toBeGreaterThan(before + 50);

  await look(page, 'Booklet');
  const list = page.getByRole('list', { name: 'Songs in order' });
  await expect(list.getByRole('listitem').nth(3)).toBeVisible();
  const songs = await list.getByRole('listitem').count();
  await page.getByRole('checkbox', { name: 'Sluice Gate Sixteens' }).uncheck();
  await page.getByRole('button', { name: 'Mooring Pins: later' }).click();
  const between = page.getByText(/something is done between \d+ of them/);
  const said = async () => Number(/between (\d+)/.exec((await between.textContent()) ?? '')![1]);
  const unsorted = await said();
  await page.getByRole('button', { name: 'Least to do between' }).click();
  expect(await said()).toBeLessThanOrEqual(unsorted);
  await page.getByRole('textbox', { name: 'Title' }).fill('Lock evening');
  const { name, read } = await saved(page, 'Save the booklet');
  expect(name).toBe('Lock-evening.pdf');
  expect(read.getTitle()).toBe('Lock evening');
  expect(read.getPageCount()).toBeGreaterThanOrEqual(songs);
});

test('a rhythm and a chord go out alone: as a picture, as words, as notes', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  const get = (what: string) => page.request.get(`${app.url}/api/songs/${id}/${what}`);
  expect(await (await get('pattern.txt')).text()).toBe(
    'Towpath eighths, 4/4\ndown miss, DOWN up, miss up, DOWN up\n',
  );
  expect((await (await get('pattern.mid')).body()).subarray(0, 4).toString()).toBe('MThd');
  expect((await get('chord.svg?symbol=Qx')).status()).toBe(400);
  await goTo(page, 'Strum');
  await look(page, 'Patterns');
  for (const [button, ending] of [
    ['SVG', 'svg'],
    ['PNG', 'png'],
    ['Text', 'txt'],
  ] as const) {
    const waiting = page.waitForEvent('download');
    await page
      .getByRole('group', { name: 'Save as a file' })
      .getByRole('button', { name: button })
      .click();
    expect((await waiting).suggestedFilename()).toBe(`Towpath-eighths.${ending}`);
  }
  await goTo(page, 'Chords');
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'A as PNG' }).click();
  const file = readFileSync(await (await waiting).path());
  expect(file.subarray(1, 4).toString()).toBe('PNG');
});
