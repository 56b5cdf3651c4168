import type { Page } from '@playwright/test';
import { type App, expect, goTo, look, openSong, test } from './app';
import { sendTake, type ServedStroke, strokesOf } from './microphone';

/** What is said to the player who struggles: named, with the strokes that show it, and one press to do about it. */

const answer = (page: Page) => page.getByRole('heading', { level: 1 });

async function fileOn(page: Page, app: App): Promise<(strokes: ServedStroke[]) => Promise<void>> {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Practice');
  await look(page, 'Ladder');
  await page
    .getByRole('region', { name: 'Ladder' })
    .getByRole('button', { name: 'In full' })
    .first()
    .click();
  await page.getByRole('spinbutton', { name: /^Tempo/ }).fill('92');
  await page.getByRole('spinbutton', { name: /^Tempo/ }).press('Enter');
  await look(page, 'Listen');
  await page
    .getByRole('group', { name: 'How the take comes in' })
    .getByRole('button', { name: 'Sound file', exact: true })
    .click();
  return (strokes) => sendTake(page, strokes);
}
const songId = (page: Page) => /songs\/([^/]+)/.exec(page.url())![1]!;
const isLanding = (stroke: ServedStroke) => stroke.landing && stroke.seconds > 0;

test('landings that are a fifth of a second late are late, with bars to loop', async ({
  page,
  app,
}) => {
  const send = await fileOn(page, app);
  const strokes = await strokesOf(app, songId(page));
  await send(
    strokes.map((stroke) => ({
      ...stroke,
      seconds: stroke.seconds + (isLanding(stroke) ? 0.2 : 0),
    })),
  );
  await expect(answer(page)).toHaveText(/landings come late, by (19|20|21)\d ms/, {
    timeout: 30_000,
  });
  await expect(page.getByText(/strokes heard/)).toContainText('fretting hand');
  // What the verdict counts is underlined on the bars.
  expect(await page.locator('.bars .lit').count()).toBeGreaterThan(10);
  await page.getByText('What counts as clean').click();
  await expect(page.getByText(/at least 19 of 20 are heard and in time/)).toBeVisible();
  const press = page.getByRole('button', { name: /^Loop bars \d+–\d+/ });
  const [, from, to] = /bars (\d+)–(\d+)/.exec((await press.textContent())!)!;
  await press.click();
  await expect(answer(page)).toHaveText(new RegExp(`^In full, bars ${from} to ${to}, at`));
});

test('landings that are left out are no clean take', async ({ page, app }) => {
  const send = await fileOn(page, app);
  const strokes = await strokesOf(app, songId(page));
  await send(strokes.filter((stroke) => !isLanding(stroke)));
  await expect(answer(page)).toHaveText(/landings are left out/, { timeout: 30_000 });
  await expect(page.getByRole('button', { name: 'Once more' })).toBeVisible();
});

for (const phone of [false, true]) {
  test(`who stops at the changes is told so from the chair${phone ? ', on a phone' : ''}`, async ({
    page,
    app,
  }) => {
    if (phone) await page.setViewportSize({ width: 390, height: 844 });
    await openSong(page, app, 'The Lamplighter’s Round');
    await goTo(page, 'Practice');
    await look(page, 'Listen');
    await page
      .getByRole('group', { name: 'How the take comes in' })
      .getByRole('button', { name: 'Example player', exact: true })
      .click();
    await page.getByRole('combobox', { name: 'A player who' }).click();
    // Nobody stops after a miss in a song that gives no room for it: what is offered can be heard.
    await page.getByRole('option', { name: 'waits at every change, and goes on' }).click();
    if (phone) await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Stand view' }).click();
    const chair = page.getByRole('region', { name: 'Practice, stand view' });
    await page.keyboard.press('a');
    await expect(chair.getByRole('heading')).toHaveText(/You wait at the changes and go on/, {
      timeout: 30_000,
    });
    await page.keyboard.press('Escape');
    await expect(answer(page)).toHaveText(/\d\.\d+ s at/);
  });
}
