import { expect, goTo, openSong, saved, test } from './app';
import { A_STALL, isClick, isPluck, lateness, listen, sounds } from './ears';

test('counts in as many bars as are asked for, or none', async ({ page, app }) => {
  await listen(page);
  await openSong(page, app, 'The Lamplighter’s Round');
  const countIn = page.getByRole('combobox', { name: 'Count-in' });
  await countIn.click();
  await page.getByRole('option', { name: 'No count-in' }).click();
  await page.getByRole('button', { name: 'Play' }).click();
  await expect.poll(async () => (await sounds(page)).filter(isPluck).length).toBeGreaterThan(0);
  const none = await sounds(page);
  expect(none.find(isPluck)!.at).toBeCloseTo(none.find(isClick)!.at, 3);
  await page.getByRole('button', { name: 'Stop' }).click();

  await countIn.click();
  await page.getByRole('option', { name: '2-bar count-in' }).click();
  const before = (await sounds(page)).length;
  await page.getByRole('button', { name: 'Play' }).click();
  await expect(page.getByText('count-in', { exact: true })).toBeVisible();
  await expect
    .poll(async () => (await sounds(page)).slice(before).filter(isPluck).length, {
      timeout: 12_000,
    })
    .toBeGreaterThan(0);
  const fresh = (await sounds(page)).slice(before).filter((sound) => sound.seconds < 4);
  const firstPluck = fresh.filter(isPluck)[0]!.at;
  const clicks = fresh.filter(isClick).filter((sound) => sound.at < firstPluck - 0.01);
  expect(clicks).toHaveLength(6);
  expect(clicks[1]!.at - clicks[0]!.at).toBeCloseTo(60 / 104, 3);
  await page.getByRole('button', { name: 'Stop' }).click();
});

test('plays without the click, and to the end without the loop', async ({ page, app }) => {
  await listen(page);
  await openSong(page, app, 'Ropes at First Light');
  await page.getByRole('textbox', { name: 'Progression' }).fill('A | D');
  await page.getByLabel('Tempo, quarter').fill('240');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Click', exact: true }).click();
  await page.getByRole('button', { name: 'Loop', exact: true }).click();
  await page.getByRole('button', { name: 'Play' }).click();
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible({ timeout: 12_000 });
  const all = await sounds(page);
  // The count-in clicks even so: four beats, and none after.
  expect(all.filter(isClick)).toHaveLength(4);
  // Five strings of A and four of D, six strokes in each bar.
  expect(all.filter(isPluck)).toHaveLength(5 * 6 + 4 * 6);
  expect(lateness(all)).toBeLessThan(A_STALL);
});

test('goes on playing from station to station, and takes edits as they are made', async ({
  page,
  app,
}) => {
  await listen(page);
  await openSong(page, app, 'Slow Water Under Willows');
  await page.getByRole('button', { name: 'Play' }).click();
  await goTo(page, 'Strum');
  await expect(page.getByTestId('riding-hand')).toBeVisible({ timeout: 15_000 });
  await page.getByRole('listbox').focus();
  for (let slot = 0; slot < 6; slot += 1) await page.keyboard.press('h');
  await page.waitForTimeout(900);
  const held = (await sounds(page)).filter(isPluck).length;
  await page.waitForTimeout(1500);
  expect((await sounds(page)).filter(isPluck)).toHaveLength(held);
  await page.getByRole('listbox').focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowDown');
  await expect
    .poll(async () => (await sounds(page)).filter(isPluck).length, { timeout: 8_000 })
    .toBeGreaterThan(held);
  await goTo(page, 'Chords');
  await expect(page.getByRole('main').locator('[aria-current=true]')).toHaveCount(1);
  await goTo(page, 'Song');
  await expect(page.getByRole('main').locator('[aria-current=true]')).toHaveCount(1);
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByRole('main').locator('[aria-current=true]')).toHaveCount(0);
  await saved(page);
});

test('the space bar plays and stops, but not while something is typed', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible();
  const line = page.getByRole('textbox', { name: 'Progression' });
  await line.fill('A |');
  await line.press('End');
  await page.keyboard.type(' D');
  await expect(line).toHaveValue('A | D');
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible();
});
