import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { strFromU8, unzipSync } from 'fflate';
import { type App, expect, goTo, look, openSong, test } from './app';
import { landingLate, sendTake, songOf, strokesOf } from './microphone';

const answer = (page: Page) => page.getByRole('heading', { level: 1 });
const rows = (page: Page) =>
  page.getByRole('region', { name: 'Rows of the log' }).getByRole('listitem');

async function logOf(page: Page, app: App): Promise<void> {
  await page.goto(`${app.url}/log`);
  await expect(answer(page)).toHaveText(/evenings, \d+ h \d\d\./);
}

test('what was practised is a row, a chart, and part of the plan', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Practice');
  await expect(answer(page)).toHaveText(/at \d+\./);
  await look(page, 'Ladder');
  const ladder = page.getByRole('region', { name: 'Ladder' });
  await ladder.getByRole('button', { name: 'In full' }).first().click();
  await page.getByRole('spinbutton', { name: /^Tempo/ }).fill('92');
  await page.getByRole('spinbutton', { name: /^Tempo/ }).press('Enter');
  await look(page, 'Listen');
  await page.getByRole('button', { name: 'Sound file', exact: true }).click();
  await sendTake(page, landingLate(await strokesOf(app, songOf(page)), 0.12));
  await expect(page.getByText(/strokes heard/)).toBeVisible({ timeout: 30_000 });
  await goTo(page, 'Log');
  await expect(rows(page).first()).toContainText('Ropes at First Light');
  await expect(rows(page).first()).toContainText('landings late at');

  // One song alone: its clean tempo over the evenings, in words and as a table.
  await page.getByRole('combobox', { name: 'Song', exact: true }).click();
  await page.getByRole('option', { name: 'Ropes at First Light' }).click();
  await page.getByRole('button', { name: 'Clean tempo' }).click();
  await expect(
    page.getByText(/^In full: \d+ on .*, 84 on .*; the goal is 92\.$/).first(),
  ).toBeVisible();
  await expect(page.getByRole('table')).toContainText('84');
  const plan = page.getByRole('region', { name: 'Tonight' });
  await expect(
    plan.getByText(/is likely about|standing still|would have to be/).first(),
  ).toBeVisible();

  // A lower goal is reached, and the plan says so.
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Practice');
  await look(page, 'Goal');
  await page.getByRole('spinbutton', { name: 'Goal' }).fill('80');
  await page.getByRole('spinbutton', { name: 'Goal' }).press('Enter');
  await expect(page.getByText('Saved')).toBeVisible();
  await goTo(page, 'Log');
  await expect(plan.getByText('Clean at 84: the goal of 80 is reached.')).toBeVisible();
});

test('an evening is gone through from the plan', async ({ page, app }) => {
  await logOf(page, app);
  const plan = page.getByRole('region', { name: 'Tonight' });
  await plan.getByRole('button', { name: '10 min' }).click();
  const items = plan.getByRole('list').first().getByRole('listitem');
  await expect(items.first()).toContainText('The arm alone');
  await plan.getByRole('button', { name: 'Start' }).click();
  await expect(answer(page)).toHaveText(/^The arm alone, at \d+\./);
  const strip = page.getByRole('complementary', { name: 'Tonight' });
  await expect(strip).toContainText('1 of ');
  await strip.getByRole('button', { name: 'Next' }).click();
  await expect(page).toHaveURL(/changes\?tool=time/);
  await strip.getByRole('button', { name: 'Next' }).click();
  await expect(page).toHaveURL(/practice/);
  await strip.getByRole('button', { name: 'Stop the plan' }).click();
  await expect(strip).toBeHidden();
});

test('rows are added, put right, taken out and put back', async ({ page, app }) => {
  await logOf(page, app);
  await look(page, 'Add a row');
  await page.getByRole('spinbutton', { name: 'Minutes' }).fill('35');
  await page.getByRole('textbox', { name: 'Note' }).fill('Rain on the roof');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(rows(page).first()).toContainText('35 minutes, Rain on the roof');
  await rows(page).first().getByRole('button', { name: /^Edit/ }).click();
  await rows(page).first().getByRole('textbox', { name: 'Note' }).fill('Under the bridge');
  await rows(page).first().getByRole('button', { name: 'Keep' }).click();
  await expect(rows(page).first()).toContainText('Under the bridge');
  await rows(page)
    .first()
    .getByRole('button', { name: /^Delete the row/ })
    .click();
  await expect(rows(page).first()).not.toContainText('Under the bridge');
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(rows(page).first()).toContainText('Under the bridge');
});

test('a file of the player’s own is read, its faults by line, and nothing is half taken', async ({
  page,
  app,
}) => {
  await logOf(page, app);
  await look(page, 'Files');
  const files = page.getByRole('region', { name: 'Files of the log' });
  const send = (text: string) =>
    files
      .locator('input[accept*="csv"]')
      .setInputFiles({ name: 'own.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await send('Day;Piece;BPM;Min\n2024-05-08;Ropes at First Light;72;20\n31.2.2024;x;;\n');
  await expect(files.getByText('line 3: “31.2.2024” is no date such as 2031-05-08')).toBeVisible();
  await expect(files.getByRole('button', { name: /^Add \d/ })).toBeHidden();
  await send('Day;Piece;BPM;Min\n2024-05-08;Ropes at First Light;72;20\n');
  await files.getByRole('button', { name: 'Add 1 row' }).click();
  await expect(files.getByText('1 row added.')).toBeVisible();
  await send('Day;Piece;BPM;Min\n2024-05-08;Ropes at First Light;72;20\n');
  await files.getByRole('button', { name: 'Add 1 row' }).click();
  await expect(files.getByText('0 rows added; 1 were in the log already.')).toBeVisible();
});

test('an archive is saved, everything is lost, and all is back from it', async ({ page, app }) => {
  await logOf(page, app);
  const before = await answer(page).textContent();
  await look(page, 'Files');
  // How the app is set up goes along; what only waits for the server does not.
  await page.evaluate(() => {
    localStorage.setItem('plucky-wrist:left-handed', 'true');
    localStorage.setItem('plucky-wrist:draft:one', '{}');
    localStorage.setItem('plucky-wrist:unsent', '[]');
  });
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save an archive' }).click();
  const archive = readFileSync((await (await saving).path())!);
  const settings: object = JSON.parse(strFromU8(unzipSync(archive)['settings.json']!));
  const names = Object.keys(settings);
  expect(names).toContain('plucky-wrist:left-handed');
  expect(names.filter((name) => /draft|unsent/.test(name))).toEqual([]);
  await page.evaluate(() => localStorage.removeItem('plucky-wrist:left-handed'));
  const ask = async (method: string, path: string) =>
    (await fetch(`${app.url}/api/${path}`, { method })).json().catch(() => null);
  for (const { id } of (await ask('GET', 'songs')) as { id: string }[])
    await ask('DELETE', `songs/${id}`);
  const { entries } = (await ask('GET', 'log/export.json')) as { entries: { id: string }[] };
  for (const { id } of entries) await ask('DELETE', `log/${id}`);
  await page.reload();
  await expect(answer(page)).toHaveText(/^Nothing in the log yet/);
  await look(page, 'Files');
  await page
    .locator('input[accept*="zip"]')
    .setInputFiles({ name: 'all.zip', mimeType: 'application/zip', buffer: archive });
  await expect(
    page.getByText(`${entries.length} rows of the log to take in, 0 known`),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByText('It is all here.')).toBeVisible();
  await expect(answer(page)).toHaveText(before!);
  // The shelf knows what was practised, and what to play next.
  await goTo(page, 'Shelf');
  await expect(
    page.getByRole('listitem').filter({ hasText: 'Ropes at First Light' }),
  ).toContainText('clean at 84 of 92');
  await expect(page.getByText(/^Next: /)).toBeVisible();
});
