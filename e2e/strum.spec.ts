import { expect, goTo, look, openSong, saved, slot, test } from './app';

test('strokes are placed by pointer: a tap, a swipe, and the buttons', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Strum');
  await expect(slot(page, 1)).toHaveAccessibleName(/miss/);
  await slot(page, 1).click();
  await expect(slot(page, 1)).toHaveAttribute('aria-selected', 'true');
  await expect(slot(page, 1)).toHaveAccessibleName(/miss/);
  await slot(page, 1).click();
  await expect(slot(page, 1)).toHaveAccessibleName('beat 1, and: up, all strings');
  await slot(page, 1).click();
  await expect(slot(page, 1)).toHaveAccessibleName(/miss/);

  const box = (await slot(page, 4).boundingBox())!;
  const x = box.x + box.width / 2;
  await page.mouse.move(x, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(x, box.y + 140, { steps: 4 });
  await page.mouse.up();
  await expect(slot(page, 4)).toHaveAccessibleName('beat 3: down, all strings');

  await page.getByRole('button', { name: 'Chuck', exact: true }).click();
  await expect(slot(page, 4)).toHaveAccessibleName('beat 3: chuck, down');
  await page.getByRole('button', { name: 'Undo: place a stroke' }).click();
  await expect(slot(page, 4)).toHaveAccessibleName('beat 3: down, all strings');
  await saved(page);
});

test('a stroke against the arm shows as a kink and says why', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Strum');
  await expect(page.getByTestId('kink')).toHaveCount(0);
  await page.getByRole('listbox').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByTestId('kink')).toHaveCount(2);
  await expect(slot(page, 1)).toHaveAccessibleName(/against the arm$/);
  await expect(page.getByRole('heading', { name: /^1 stroke goes against the arm/ })).toBeVisible();
  await expect(page.getByText(/^The down on the & of 1 goes against the arm/)).toBeVisible();

  await page.getByRole('combobox', { name: 'Arm', exact: true }).click();
  await page.getByRole('option', { name: 'free', exact: true }).click();
  await expect(page.getByTestId('kink')).toHaveCount(0);
});

test('a beat is divided in 1, 2, 3 and 4, and counted so', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Strum');
  const counted = () =>
    page
      .locator('[role=listbox] .count text:first-child')
      .allTextContents()
      .then((all) => all.map((text) => text.trim()));
  await page.getByRole('listbox').focus();
  await page.keyboard.press('3');
  await expect.poll(async () => (await counted()).slice(0, 4)).toEqual(['1', 'trip', 'let', '2']);
  await page.keyboard.press('1');
  await expect.poll(async () => (await counted()).slice(0, 3)).toEqual(['1', '2', '&']);
  await page.keyboard.press('4');
  await expect.poll(async () => (await counted()).slice(0, 4)).toEqual(['1', 'e', '&', 'a']);
});

test('a pattern goes to the shelf and into another song, fitted to its meter', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Strum');
  await look(page, 'Patterns');
  await page.getByLabel('Name of the pattern').fill('Heron walk');
  await page.getByRole('button', { name: 'Keep on the shelf' }).click();
  await expect(page.getByText('“Heron walk” is on the shelf.')).toBeVisible();
  await openSong(page, app, 'The Lamplighter’s Round');
  await goTo(page, 'Strum');
  await look(page, 'Patterns');
  await page.getByLabel('Search the patterns').fill('heron');
  await page.getByRole('button', { name: 'Use Heron walk', exact: true }).click();
  await expect(page.getByRole('listbox').getByRole('option')).toHaveCount(6);
  await expect(page.getByLabel('Name of the pattern')).toHaveValue('Heron walk');
  await saved(page);
});

test('a pattern is said in words, letters or arrows, and spoken back', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Strum');
  const line = page.getByLabel('Say it');
  await expect(line).toHaveValue('down miss, DOWN up, miss up, DOWN up');
  for (const text of ['D DU -UDU', '↓ ↓↑ ·↑↓↑', 'down, down up, miss up down up']) {
    await line.fill('hold');
    await line.fill(text);
    await line.press('Enter');
    await expect(line).toHaveValue('down miss, down up, miss up, down up');
  }
  await expect(slot(page, 4)).toHaveAccessibleName('beat 3: miss, the arm passes');

  await line.fill('down wiggle up');
  await expect(page.getByText('“wiggle” is no stroke')).toBeVisible();
  await expect(page.getByRole('status').locator('mark')).toHaveText('wiggle');
  await expect(slot(page, 3)).toHaveAccessibleName('beat 2, and: up, all strings');
  await line.blur();
  await expect(line).toHaveValue('down miss, down up, miss up, down up');

  // A stroke placed on the path is spoken back.
  await page.getByRole('listbox').focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('b');
  await expect(line).toHaveValue('bass miss, down up, miss up, down up');
  await saved(page);
});
