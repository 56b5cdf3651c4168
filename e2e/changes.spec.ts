import type { Page } from '@playwright/test';
import { expect, goTo, look, openSong, saved, test } from './app';
import { isPluck, listen, sounds } from './ears';

const answer = (page: Page) => page.getByRole('heading', { level: 1 });
const row = (page: Page, name: string) =>
  page
    .getByRole('list', { name: 'Changes, the one that holds the song back first' })
    .getByRole('button', { name: new RegExp(`^${name}:`) });
/** The tempo up to which a change is possible, as its row says. */
async function ceiling(page: Page, name: string): Promise<number> {
  const label = (await row(page, name).getAttribute('aria-label')) ?? '';
  return Number(/possible up to (\d+)/.exec(label)?.[1] ?? 999);
}

/** Opens a tool with keys alone. */
async function lookByKey(page: Page, tool: string): Promise<void> {
  await page
    .getByRole('group', { name: 'Look at' })
    .getByRole('button', { name: tool, exact: true })
    .focus();
  await page.keyboard.press('Enter');
}

async function changesOf(page: Page, app: { url: string }, title: string): Promise<void> {
  await openSong(page, app as never, title);
  await goTo(page, 'Changes');
  await expect(answer(page)).toHaveText(/is too quick at|has time at/);
}

test.describe('timed changes', () => {
  test.use({ expected: { errors: [/ERR_CONNECTION_REFUSED/, /Failed to load resource/] } });

  test('says what holds a song, helps, and is timed, with keys alone', async ({ page, app }) => {
    await changesOf(page, app, 'Ropes at First Light');
    const sentence = (await answer(page).textContent())!.trim();
    const [, name, held] = /^(.*) is too quick at 92: .* OK up to (\d+)\.$/.exec(sentence)!;
    await expect(page.getByRole('link', { name: `OK to ${held}` })).toBeVisible();
    const before = await ceiling(page, name!);
    expect(before).toBe(Number(held));

    const first = page.getByRole('button', { name: /^Use: / }).first();
    await first.focus();
    await page.keyboard.press('Enter');
    await expect.poll(() => ceiling(page, name!)).toBeGreaterThan(before + 10);
    await expect(page.getByText(/Done: /)).toBeVisible();
    await saved(page);
    await page.keyboard.press('Control+z');
    await expect.poll(() => ceiling(page, name!)).toBe(before);

    await lookByKey(page, 'Time it');
    await page.getByRole('button', { name: /^Start, 30 seconds/ }).focus();
    await page.keyboard.press('Enter');
    for (let tap = 0; tap < 9; tap += 1) {
      await page.keyboard.press(tap % 2 ? 'j' : ' ');
      await page.waitForTimeout(190);
    }
    await expect(page.getByText('8 changes')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByText(/\d changes, \d+ ms each/)).toBeVisible();
    await expect.poll(() => ceiling(page, name!)).toBeGreaterThan(before + 10);
    const timed = await ceiling(page, name!);

    await app.kill();
    await app.start();
    await page.reload();
    await expect.poll(() => ceiling(page, name!)).toBe(timed);
    await row(page, name!).focus();
    await page.keyboard.press('Enter');
    await lookByKey(page, 'Time it');
    await expect(page.getByText(/^Timed once: \d+ ms\.$/)).toBeVisible();
  });
});

test('lets a change be heard before and after, and looped in its bar', async ({ page, app }) => {
  await listen(page);
  await changesOf(page, app, 'Ropes at First Light');
  await page.getByRole('button', { name: 'Hear it as it is' }).click();
  await expect.poll(async () => (await sounds(page)).filter(isPluck).length).toBeGreaterThan(5);
  const plucked = async () => (await sounds(page)).filter(isPluck).length;
  const before = await plucked();
  await page
    .getByRole('button', { name: /^Hear: / })
    .first()
    .click();
  await expect.poll(plucked).toBeGreaterThan(before);
  await page
    .getByRole('button', { name: /^Loop bar / })
    .first()
    .click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await expect(page.getByRole('spinbutton', { name: 'First bar of the loop' })).not.toHaveValue(
    '1',
  );
});

test('proposes nothing that is ruled out, and too few taps are not kept', async ({ page, app }) => {
  await changesOf(page, app, 'Ropes at First Light');
  await expect(page.getByRole('button', { name: /^Use: Open the last/ })).toBeVisible();
  await page.getByText('Tips to show').click();
  await page.getByRole('switch', { name: 'strokes on open strings' }).click();
  await expect(page.getByRole('button', { name: /^Use: Open the last/ })).toHaveCount(0);

  await look(page, 'Time it');
  await page.getByRole('button', { name: /^Start, 30 seconds/ }).click();
  await page.keyboard.press(' ');
  await page.keyboard.press(' ');
  await page.getByRole('button', { name: 'Stop', exact: true }).last().click();
  await expect(page.getByText('Only 1 change: too few to say anything.')).toBeVisible();
});

test('has something to say of a song without changes', async ({ page, app }) => {
  await openSong(page, app, 'Slow Water Under Willows');
  await page.getByRole('textbox', { name: 'Progression' }).fill('C | N.C. | Qx');
  await saved(page);
  await goTo(page, 'Changes');
  await expect(answer(page)).toHaveText(/^No change to measure yet; N\.C\.: no chord is held/);
  await look(page, 'Through the song');
  await expect(page.getByText('Qx: there is no shape for it on this neck.')).toBeVisible();
});

test('plays the changes in random order, no faster than the slowest', async ({ page, app }) => {
  await changesOf(page, app, 'The Lamplighter’s Round');
  await look(page, 'Random order');
  const order = page.getByRole('region', { name: 'Changes in random order' });
  await expect(
    order.getByText(/At \d+, as (fast as your slowest change goes|the song)\./),
  ).toBeVisible();
  await order.getByRole('button', { name: 'Play them with the click' }).click();
  await expect(order.locator('[aria-current]')).toBeVisible();
  await order.getByRole('button', { name: 'Stop' }).click();
  await expect(order.locator('[aria-current]')).toHaveCount(0);
});
