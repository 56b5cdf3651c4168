import { expect, goTo, openSong, saved, slot, test } from './app';

test.describe('while the server is away', () => {
  test.use({ expected: { errors: [/ERR_CONNECTION_REFUSED/, /Failed to load resource/] } });

  test('edits are kept in the browser and sent when it is back', async ({ page, app }) => {
    await openSong(page, app, 'Slow Water Under Willows');
    await page.waitForTimeout(2500);
    await app.kill();
    // Stations are loaded ahead, so another one opens without the server.
    await goTo(page, 'Strum');
    await page.getByRole('listbox').focus();
    await page.keyboard.press('c');
    await expect(slot(page, 0)).toHaveAccessibleName('beat 1: chuck, down');
    await expect(page.getByTestId('save-state')).toContainText('The server is away');
    await app.start();
    await saved(page);
    await page.reload();
    await expect(slot(page, 0)).toHaveAccessibleName('beat 1: chuck, down');
  });

  test('an edit outlives both the server and the tab', async ({ page, app, context }) => {
    await openSong(page, app, 'Slow Water Under Willows');
    await goTo(page, 'Strum');
    await expect(slot(page, 0)).toBeVisible();
    const address = page.url();
    const id = /songs\/([^/]+)/.exec(address)![1]!;
    const before = await (await page.request.get(`${app.url}/api/songs/${id}`)).json();
    await app.kill();
    await page.getByRole('listbox').focus();
    await page.keyboard.press('h');
    await page.waitForTimeout(1000);
    await page.close();
    await app.start();
    const again = await context.newPage();
    await again.goto(address);
    await expect(slot(again, 0)).toHaveAccessibleName('beat 1: hold, the arm rests');
    await saved(again);
    const stored = await (await again.request.get(`${app.url}/api/songs/${id}`)).json();
    expect(stored.document.pattern.beats[0].slots[0]).toEqual({ kind: 'hold' });
    expect(stored.revision).toBe(before.revision + 1);
  });
});

test('leaving in the middle of an edit keeps it', async ({ page, app }) => {
  await openSong(page, app, 'Slow Water Under Willows');
  await page.getByLabel('Name of the song').fill('Slow Water by Night');
  await page.goto(app.url);
  await expect(page.getByRole('link', { name: 'Slow Water by Night' })).toBeVisible();
});

test.describe('two windows on one song', () => {
  test.use({ expected: { errors: [/status of 409/] } });

  test('never overwrite each other: both versions are kept', async ({ page, app, browser }) => {
    await openSong(page, app, 'Slow Water Under Willows');
    const context = await browser.newContext();
    const other = await context.newPage();
    await other.goto(page.url());
    await other.getByRole('button', { name: /^Settings: / }).click();
    await other.getByLabel('Name of the song').fill('Named in the other window');
    await expect(other.getByTestId('save-state')).toHaveText(/^\s*Saved\s*$/);

    await page.getByLabel('Name of the song').fill('Named here');
    await expect(page.getByTestId('save-state')).toContainText('Both versions are kept');
    await page.getByRole('button', { name: 'Use the other, keep mine as a copy' }).click();
    await expect(page.getByLabel('Name of the song')).toHaveValue('Named in the other window');
    await goTo(page, 'Shelf');
    await expect(page.getByRole('link', { name: 'Named here (my copy)' })).toBeVisible();
    await expect(page.getByRole('link', { name: 'Named in the other window' })).toBeVisible();
    await context.close();
  });
});
