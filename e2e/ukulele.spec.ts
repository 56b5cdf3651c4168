import { expect, goTo, look, openSong, saved, slot, test } from './app';
import type { Page } from '@playwright/test';

/** An evening with a ukulele, and the same on a phone. */

const answer = (page: Page) => page.getByRole('heading', { level: 1 });

/** A facts line is folded away: it is opened, and a choice is made. */
async function choose(page: Page, field: string, option: string | RegExp): Promise<void> {
  await page.getByRole('combobox', { name: field, exact: true }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
}

test('an evening on the ukulele: size, slash chords, sweeps, another key, a sheet', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Chords');
  await choose(page, 'Instrument', 'Ukulele');
  await expect(page.getByRole('combobox', { name: 'Size' })).toHaveText('concert, 38 cm');
  await choose(page, 'Size', 'soprano, 33 cm');
  await saved(page);

  await goTo(page, 'Song');
  const line = page.getByRole('textbox', { name: 'Progression' });
  await line.fill('Verse:\nA | E | D/F# | A\nA | D | E7 | A\nOrder: last line of Verse, Verse');
  await expect(answer(page)).toHaveText(/^12 bars/);
  await goTo(page, 'Chords');
  // Nobody on g C E A plays the note after the slash.
  await page.getByRole('button', { name: 'Shapes of D/F#' }).click();
  await expect(page.getByText('the slash is left to whoever has a bass').first()).toBeVisible();

  await goTo(page, 'Strum');
  const say = page.getByRole('textbox', { name: 'Say it' });
  await say.fill('DOWN.i miss, down.i sweep-down.p sweep-up.i, ROLL:amip miss, down.i up.i');
  await say.press('Enter');
  await expect(page.getByTestId('sweep').first()).toBeVisible();
  await expect(slot(page, 3)).toHaveAccessibleName(/in one sweep with the stroke before/);
  await expect(slot(page, 5)).toHaveAccessibleName(/roll of 4, a m i p/);
  await expect(page.getByTestId('finding-mark')).toHaveCount(0);
  // By itself the thumb goes against the arm.
  await slot(page, 3).click();
  await page.getByRole('switch', { name: 'Sweep' }).click();
  await expect(slot(page, 3)).not.toHaveAccessibleName(/in one sweep/);
  await page.getByRole('button', { name: 'Undo: play in one sweep' }).click();
  await expect(slot(page, 3)).toHaveAccessibleName(/in one sweep/);

  await goTo(page, 'Song');
  await look(page, 'Order');
  const order = page.getByRole('region', { name: 'Order of the sections' });
  await expect(order.getByRole('combobox', { name: /^How much of Verse, passage 1/ })).toHaveText(
    'its last line',
  );
  await order.getByRole('button', { name: 'Play Verse once more, at the end' }).click();
  await choose(page, 'Key of Verse, passage 3', /^\+3/);
  await expect(answer(page)).toHaveText(/^20 bars/);
  await look(page, 'Progression');
  await expect(line).toHaveValue(/Order: last line of Verse, Verse, Verse \+3$/);
  await saved(page);

  await goTo(page, 'Sheet');
  const sheet = page.getByRole('img', { name: /^Page 1/ });
  await expect(sheet).toContainText('Order: last line of Verse, Verse, Verse +3');
  await expect(sheet).toContainText('Verse +3');
  await choose(page, 'For', 'a beginner');
  // A beginner's E is an easier one; what is asked for more than that is said.
  await expect(sheet).toContainText('E as E7');

  await page.reload();
  await goTo(page, 'Chords');
  await expect(page.getByRole('combobox', { name: 'Size' })).toHaveText('soprano, 33 cm');
});

test('on a phone a ukulele plays a verse in another key', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Chords');
  await choose(page, 'Instrument', 'Ukulele');
  await page.setViewportSize({ width: 390, height: 844 });
  await goTo(page, 'Song');
  await look(page, 'Order');
  const order = page.getByRole('region', { name: 'Order of the sections' });
  await order.getByRole('button', { name: 'Play Verse once more, at the end' }).click();
  await choose(page, 'Key of Verse, passage 3', /^\+2/);
  await expect(order.getByTestId('passage')).toHaveText(['Verse', 'Chorus', 'Verse']);
  const box = (await order.boundingBox())!;
  expect(box.x + box.width).toBeLessThanOrEqual(390);
  await saved(page);
});
