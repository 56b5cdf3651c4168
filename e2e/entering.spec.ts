import type { Page } from '@playwright/test';
import { expect, goTo, openSong, saved, slot, test } from './app';
import { isClick, isPluck, listen, sounds } from './ears';

/** From nothing to a song that sounds, and what a slip of the finger may not do. */

const say = (page: Page) => page.getByRole('textbox', { name: 'Say it' });

test('from New song to hearing it: four chords and a pattern in at most thirty keys', async ({
  page,
  app,
}) => {
  await listen(page);
  await page.goto(app.url);
  await page.getByRole('button', { name: 'New song' }).click();
  let keys = 0;
  const type = async (text: string) => {
    keys += text.length;
    await page.keyboard.type(text);
  };
  const press = async (...list: string[]) => {
    for (const key of list) {
      keys += 1;
      await page.keyboard.press(key);
    }
  };
  await expect(page.getByLabel('Name')).toBeFocused();
  await page.keyboard.type('Lamp Black');
  await press('Control+Enter');
  await expect(page.getByRole('alert')).toContainText('Write the chords first');
  keys = 0;
  await page.getByLabel('Name').focus();
  await press('Enter');
  await expect(page.getByRole('textbox', { name: 'Progression' })).toBeFocused();
  await type('C|Am|F|G7');
  await press('Control+Enter');
  const path = page.getByRole('listbox', { name: 'Strokes of the pattern' });
  await expect(path).toBeFocused();
  await press('ArrowDown', 'm', 'ArrowDown', 'ArrowUp', 'm', 'ArrowUp', 'ArrowDown', 'ArrowUp');
  await expect(say(page)).toHaveValue('down miss, down up, miss up, down up');
  await press(' ');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect.poll(async () => (await sounds(page)).filter(isPluck).length).toBeGreaterThan(4);
  expect((await sounds(page)).filter(isClick).length).toBeGreaterThan(3);
  expect(keys).toBeLessThanOrEqual(30);
});

test('chords without bar lines are offered one bar each', async ({ page, app }) => {
  await page.goto(`${app.url}/new`);
  const field = page.getByRole('textbox', { name: 'Progression' });
  await field.fill('C Am F G7 x2');
  await page.getByRole('button', { name: 'One bar each' }).click();
  await expect(field).toHaveValue('C | Am | F | G7 x2');
  await expect(field).toBeFocused();
  await expect(page.getByRole('button', { name: /^Bar 4: G7/ })).toBeVisible();
});

for (const [where, viewport] of [
  ['a desk', { width: 1280, height: 800 }],
  ['a phone', { width: 390, height: 844 }],
] as const) {
  test(`a rhythm is said by its counts, on ${where}: sixteenths with two ups in a row, in twenty keys`, async ({
    page,
    app,
  }) => {
    await page.setViewportSize(viewport);
    await openSong(page, app, 'Ropes at First Light');
    await goTo(page, 'Strum');
    const line = say(page);
    await line.focus();
    await page.keyboard.press('ControlOrMeta+a');
    const text = '1 e a 2 & E a 4';
    expect(text.length + 1).toBeLessThanOrEqual(20);
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
    await expect(line).toHaveValue(
      'down up miss up, down miss down miss, miss UP miss up, down miss miss miss',
    );
    await saved(page);

    // Where it may be meant in two ways both are drawn, and Enter takes the first.
    await line.fill('1 & a 2 & a 3 4');
    const choice = page.getByRole('group', { name: 'Which is meant?' });
    await expect(choice.getByRole('button')).toHaveText(['In sixteenths', 'Three to a beat']);
    // Nothing is guessed: what was there stays until one is taken, also where the field is left.
    await page.getByRole('heading', { level: 1 }).click();
    await expect(choice).toBeVisible();
    await expect(slot(page, 1)).toHaveAccessibleName(/up/);
    await choice.getByRole('button', { name: 'Three to a beat' }).click();
    await expect(line).toHaveValue('down up down, up down up, down miss, down miss');
    await line.fill('D, DU');
    await expect(choice.getByRole('button').first()).toHaveText('Once through, then again');
    await page.keyboard.press('Enter');
    await expect(line).toHaveValue('down, down up, down, down up');
  });
}

test('a line with a mistake leaves the pattern as it was', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Strum');
  const before = await say(page).inputValue();
  await say(page).selectText();
  await page.keyboard.type('boom chick');
  await expect(page.getByText('The pattern stays as it was.')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(say(page)).toHaveValue(before);
  await expect(slot(page, 0)).toHaveAccessibleName('beat 1: down, all strings');
  await saved(page);
});

test('undo says what it did, and a song deleted in another window is put back', async ({
  page,
  app,
  expected,
}) => {
  expected.errors.push(/status of 404/);
  await openSong(page, app, 'Ropes at First Light');
  await page.getByLabel('Tempo, quarter').fill('99');
  await page.keyboard.press('Tab');
  await saved(page);
  await page.getByRole('button', { name: 'Undo: change the tempo' }).click();
  await expect(page.getByText('Undone: change the tempo.')).toBeVisible();
  await saved(page);
  const id = /songs\/([^/?]+)/.exec(page.url())![1]!;
  await page.request.delete(`${app.url}/api/songs/${id}`);
  await page.getByLabel('Name of the song').fill('Ropes, kept');
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByText('The song is back on the shelf.')).toBeVisible();
  await expect(page.getByLabel('Name of the song')).toHaveValue('Ropes, kept');
  expect(page.url()).toContain(id);
  await page.reload();
  await expect(page.getByLabel('Name of the song')).toHaveValue('Ropes, kept');
});
