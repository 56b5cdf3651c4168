import type { Page } from '@playwright/test';
import { expect, openSong, test } from './app';

/** A shelf as a new player finds it. */
async function emptyShelf(page: Page, url: string): Promise<void> {
  const list = (await (await page.request.get(`${url}/api/songs`)).json()) as { id: string }[];
  for (const { id } of list) await page.request.delete(`${url}/api/songs/${id}`);
  await page.goto(url);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/Three ways to begin/);
}
const help = (page: Page, station: string) =>
  page.getByRole('dialog', { name: `Help: ${station}` });

test('an empty shelf has three ways in, and one press brings a song to look at', async ({
  page,
  app,
}) => {
  await emptyShelf(page, app.url);
  const ways = page.getByRole('list', { name: 'Ways to begin' });
  await expect(ways.getByRole('listitem')).toHaveCount(3);
  const choosing = page.waitForEvent('filechooser');
  await ways.getByRole('button', { name: /^Open a file/ }).click();
  await choosing;
  await ways.getByRole('link', { name: /^Write four chords/ }).click();
  await expect(page).toHaveURL(/\/new$/);
  await page.goBack();
  await ways.getByRole('button', { name: /^Look at a song of Kettle Lock/ }).click();
  await expect(page.getByRole('button', { name: /^Bar 1:/ })).toBeVisible();
  await page.goto(app.url);
  await expect(page.getByRole('link', { name: 'Ropes at First Light' })).toBeVisible();
  await expect(ways).toBeHidden();
});

test('every station has its help: signs as they are drawn, keys, words', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  for (const [station, sign] of [
    ['Chords', null],
    ['Strum', 'Against the arm'],
    ['Song', '■ Stop'],
    ['Changes', 'Bar of a change'],
    ['Practice', 'Thick and thin'],
    ['Along', null],
    ['Sheet', 'Flag'],
    ['Log', null],
  ] as const) {
    await page.getByRole('navigation').getByRole('link', { name: station, exact: true }).click();
    await expect(page).toHaveURL(new RegExp(`/${station.toLowerCase()}$`));
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await page.keyboard.press('?');
    await expect(help(page, station)).toBeVisible();
    if (sign) await expect(help(page, station).getByText(sign, { exact: true })).toBeVisible();
    await expect(help(page, station).getByText('play, stop')).toBeAttached();
    await page.keyboard.press('Escape');
    await expect(help(page, station)).toBeHidden();
  }
  await page.getByRole('button', { name: 'Help with this page' }).click();
  await expect(help(page, 'Log')).toBeVisible();
});

test('a stroke that is placed is told by ear, and every place says its name when pointed at', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await page.getByRole('navigation').getByRole('link', { name: 'Strum', exact: true }).click();
  const path = page.getByRole('listbox').first();
  await path.focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('b');
  await expect(page.getByText('Beat 1: bass note, down.')).toBeAttached();
  await expect(path.getByRole('option').first()).toHaveAttribute('title', /bass note/);
});

test('what was deleted can be put back with the next key, and is where the focus is then', async ({
  page,
  app,
}) => {
  await page.goto(app.url);
  await page.getByRole('button', { name: 'Delete Mooring Pins' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Delete', exact: true }).press('Enter');
  await expect(page.getByRole('button', { name: 'Put it back' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Mooring Pins', exact: true })).toBeFocused();
});

test('bars that are copied and deleted are told by ear', async ({ page, app }) => {
  await openSong(page, app, 'Mooring Pins');
  await page.getByRole('button', { name: /^Bar 9:/ }).click();
  await page.keyboard.press('Control+c');
  await expect(page.getByText('Bar 9 is copied.')).toBeAttached();
  await page.keyboard.press('Delete');
  await expect(page.getByText('Bar 9 is deleted.')).toBeAttached();
});

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

  test('what does not fit in a row says that there is more, and a press goes there', async ({
    page,
    app,
  }) => {
    await openSong(page, app, 'Ropes at First Light');
    const stations = page.getByRole('navigation', { name: 'Stations' });
    const log = stations.getByRole('link', { name: 'Log' });
    await expect(log).not.toBeInViewport();
    const more = page.getByTitle('More stations');
    await expect(more).toBeVisible();
    await expect(async () => {
      if (await more.isVisible()) await more.click();
      await expect(log).toBeInViewport({ timeout: 500 });
    }).toPass();
    await expect(more).toBeHidden();
    await page.getByRole('button', { name: 'Help with this page' }).click();
    await expect(help(page, 'Song')).toBeVisible();
    const box = (await help(page, 'Song').boundingBox())!;
    expect(box.x).toBeGreaterThanOrEqual(0);
    expect(box.x + box.width).toBeLessThanOrEqual(390);
  });
});
