import { expect, goTo, openSong, saved, slot, test } from './app';

test('strokes are placed by pointer: a tap, a swipe, and the buttons', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Strum');
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

  await page.getByRole('button', { name: 'Chuck' }).click();
  await expect(slot(page, 4)).toHaveAccessibleName('beat 3: chuck, down');
  await page.getByRole('button', { name: 'Undo: place a stroke' }).click();
  await expect(slot(page, 4)).toHaveAccessibleName('beat 3: down, all strings');
  await saved(page);
});

test('a stroke against the arm shows as a kink and says why', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Strum');
  await expect(page.locator('.arm.kink')).toHaveCount(0);
  await page.getByRole('listbox').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowDown');
  await expect(page.locator('.arm.kink')).toHaveCount(2);
  await expect(slot(page, 1)).toHaveAccessibleName(/against the arm$/);
  await expect(page.getByRole('heading', { name: /^1 stroke goes against the arm/ })).toBeVisible();
  await expect(page.getByText(/^The down on the & of 1 goes against the arm/)).toBeVisible();

  await page.getByRole('combobox', { name: 'Arm' }).click();
  await page.getByRole('option', { name: 'free' }).click();
  await expect(page.locator('.arm.kink')).toHaveCount(0);
});

test('a beat is divided in 1, 2, 3 and 4, and counted so', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Strum');
  const counted = () =>
    page
      .locator('.big .count text:first-child')
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
  await page.getByLabel('Name of the pattern').fill('Heron walk');
  await page.getByRole('button', { name: 'Keep on the shelf' }).click();
  await expect(page.getByText('“Heron walk” is on the shelf.')).toBeVisible();
  await openSong(page, app, 'The Lamplighter’s Round');
  await goTo(page, 'Strum');
  await page.getByRole('combobox', { name: 'Take a pattern from the shelf' }).click();
  await page.getByRole('option', { name: 'Heron walk' }).click();
  await expect(page.getByRole('listbox').getByRole('option')).toHaveCount(6);
  await expect(page.getByLabel('Name of the pattern')).toHaveValue('Heron walk');
  await saved(page);
});
