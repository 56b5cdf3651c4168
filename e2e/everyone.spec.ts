import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, goTo, look as panel, openSong, test } from './app';

/**
 * Looks for what stands in someone's way. What the dark scheme changes is its colours, so that only
 * those are looked at again.
 */
const looker = (page: Page) =>
  // The page has no frames, so nothing is put together from several; what passes need not be listed.
  new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
const lookers = {
  light: (page: Page) => looker(page),
  dark: (page: Page) => looker(page).withRules(['color-contrast']),
};

for (const scheme of ['light', 'dark'] as const) {
  test.describe(`nothing stands in anyone's way (${scheme})`, () => {
    test.use({ colorScheme: scheme });

    const look = async (page: Page, where: string) => {
      const { violations } = await lookers[scheme](page).analyze();
      const found = violations.map(
        ({ id, nodes }) => `${where}: ${id} at ${nodes.map((node) => node.target).join(', ')}`,
      );
      expect.soft(found).toEqual([]);
    };

    test('at the stations', async ({ page, app }) => {
      await page.goto(app.url);
      await expect(page.getByRole('link', { name: 'Ropes at First Light' })).toBeVisible();
      await look(page, 'shelf');
      await page.goto(`${app.url}/new`);
      await page.getByRole('textbox', { name: 'Progression' }).fill('A | Hm | D . E7 .');
      await look(page, 'new song');
      await openSong(page, app, 'Sluice Gate Sixteens');
      await look(page, 'song');
      await page.getByRole('button', { name: 'Stand view' }).click();
      await look(page, 'stand view');
      await page.keyboard.press('Escape');
      await goTo(page, 'Strum');
      await expect(page.getByRole('listbox')).toBeVisible();
      await page.getByRole('listbox').focus();
      await page.keyboard.press('ArrowUp');
      await look(page, 'strum');
      for (const name of ['Variations', 'Tap it in', 'Patterns', 'Arm', 'Stroke']) {
        await panel(page, name);
        await look(page, `strum, ${name}`);
      }
      await goTo(page, 'Chords');
      await expect(page.getByRole('img').first().locator('svg')).toBeVisible();
      await look(page, 'chords');
      await page.getByRole('combobox').first().click();
      await expect(page.getByRole('listbox').last()).toBeVisible();
      await look(page, 'chords, an open list');
      await page.keyboard.press('Escape');
      await goTo(page, 'Changes');
      await expect(page.getByRole('button', { name: /^Use: / }).first()).toBeVisible();
      for (const name of ['What helps', 'Time it', 'Random order', 'Through the song']) {
        await panel(page, name);
        await look(page, `changes, ${name}`);
      }
      await goTo(page, 'Practice');
      await panel(page, 'Ladder');
      await page
        .getByRole('button', { name: /^In full/ })
        .first()
        .click();
      await panel(page, 'Listen');
      await page.getByRole('button', { name: 'Example player' }).click();
      await page.getByRole('button', { name: 'Judge this example' }).click();
      await expect(page.getByRole('list', { name: 'The take, bar by bar' })).toBeVisible({
        timeout: 20_000,
      });
      for (const name of ['Listen', 'Goal', 'Takes', 'Ladder']) {
        await panel(page, name);
        await look(page, `practice, ${name}`);
      }
    });

    // The checker copies the style sheets of shadow roots, which the content policy of the page refuses it.
    test.describe('in a drawing of its own', () => {
      test.use({ expected: { errors: [/Applying inline style/] } });
      test('along with a recording', async ({ page, app }) => {
        await openSong(page, app, 'Ropes at First Light');
        await goTo(page, 'Along');
        await expect(page.getByRole('heading', { level: 1 })).toHaveText(/bars found in it/);
        await page.locator('body').press('l');
        for (const name of ['Chords', 'Strum', 'Heard', 'Beats']) {
          await panel(page, name);
          await look(page, `along, ${name}`);
        }
      });
    });

    test('on the sheet', async ({ page, app }) => {
      await openSong(page, app, 'Ropes at First Light');
      await goTo(page, 'Sheet');
      await expect(page.getByRole('img', { name: 'Page 1 of 1' })).toBeVisible();
      for (const name of ['Everyone’s sheets', 'For whom']) {
        await panel(page, name);
        await look(page, `sheet, ${name}`);
      }
    });

    test('on the log', async ({ page, app }) => {
      await page.goto(`${app.url}/log`);
      for (const name of ['Clean tempo', 'Changes', 'Verdicts', 'Minutes']) {
        await page.getByRole('button', { name, exact: true }).click();
        await look(page, `log, ${name}`);
      }
      for (const name of ['Add a row', 'Files', 'Tonight']) {
        await panel(page, name);
        await look(page, `log, ${name}`);
      }
      await page
        .getByRole('button', { name: /^Edit the row/ })
        .first()
        .click();
      await look(page, 'log, a row that is edited');
    });

    test('in the panels of a song', async ({ page, app }) => {
      await openSong(page, app, 'Sluice Gate Sixteens');
      for (const name of ['Bar', 'Notes', 'Lyrics', 'Order', 'Rules', 'Files']) {
        await panel(page, name);
        await look(page, name);
      }
      await page.getByRole('button', { name: 'Sound', exact: true }).click();
      await expect(page.getByRole('region', { name: 'Mixer' })).toBeVisible();
      await page.getByText('Faster each time round').click();
      await look(page, 'sound');
      await page.keyboard.press('Escape');
      await expect(page.getByRole('dialog')).toHaveCount(0);
      await panel(page, 'Files');
      await page.getByRole('button', { name: 'WAV' }).click();
      await expect(page.getByRole('dialog')).toBeVisible();
      await page.waitForTimeout(400);
      await look(page, 'sound file');
    });
  });
}

test('addresses that lead nowhere say so and show the way back', async ({ page, app }) => {
  await page.goto(`${app.url}/nowhere`);
  await expect(
    page.getByRole('heading', { name: 'There is nothing at this address.' }),
  ).toBeVisible();
  await page.getByRole('main').getByRole('link', { name: 'shelf' }).click();
  await expect(page.getByRole('heading', { name: '7 songs on your shelf.' })).toBeVisible();
});

test('nothing is wider than a tablet or a phone', async ({ page, app }) => {
  // A tablet, a phone, the smallest, and a usual window at twice the size.
  for (const [width, height] of [
    [820, 1000],
    [390, 1000],
    [320, 700],
    [640, 400],
  ] as const) {
    await page.setViewportSize({ width, height });
    await openSong(page, app, 'Sluice Gate Sixteens');
    for (const station of ['Strum', 'Chords', 'Changes', 'Practice', 'Along', 'Sheet', 'Song']) {
      await goTo(page, station);
      await page.waitForTimeout(200);
      const over = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(over, `${station} at ${width}`).toBeLessThanOrEqual(0);
    }
  }
});
