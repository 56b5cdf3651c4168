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

test('a song goes on paper: for who plays, who begins, and the whole circle', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Sheet');
  await expect(answer(page)).toHaveText('1 page of A4, for one who plays.');
  const preview = page.getByRole('img', { name: 'Page 1 of 1' });
  await expect(preview).toContainText('Towpath eighths');
  const { name, bytes, read } = await saved(page, 'Save as PDF');
  expect(name).toBe('Ropes-at-First-Light.pdf');
  expect(read.getPageCount()).toBe(1);
  expect(read.getTitle()).toBe('Ropes at First Light');
  expect(bytes.length).toBeLessThan(400_000);

  await page.getByRole('combobox', { name: 'For one' }).click();
  await page.getByRole('option', { name: 'who begins' }).click();
  await page.getByRole('combobox', { name: 'On', exact: true }).click();
  await page.getByRole('option', { name: 'Ukulele', exact: true }).click();
  await expect(preview).toContainText('for a beginner');
  await expect(page.getByText(/Left out: the beats and the marked off-beats only/)).toBeVisible();
  await page.getByRole('combobox', { name: 'Paper' }).click();
  await page.getByRole('option', { name: 'Letter' }).click();
  await page.getByText('large print').click();
  await expect(answer(page)).toHaveText(/pages? of Letter, for one who begins\./);

  await look(page, 'The whole circle');
  const circle = await saved(page, 'Save 3 sheets');
  expect(circle.read.getPageCount()).toBeGreaterThanOrEqual(3);

  // The server writes the same without a browser.
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  const asked = await page.request.get(`${app.url}/api/songs/${id}/sheet.pdf?for=ukulele-beginner`);
  expect(asked.headers()['content-type']).toBe('application/pdf');
  expect((await PDFDocument.load(await asked.body())).getTitle()).toBe('Ropes at First Light');
  const refused = await page.request.get(`${app.url}/api/songs/${id}/sheet.pdf?for=trombone`);
  expect(refused.status()).toBe(400);
});
