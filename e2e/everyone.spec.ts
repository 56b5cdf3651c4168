import AxeBuilder from '@axe-core/playwright';
import { expect, goTo, look as panel, openSong, test } from './app';

for (const scheme of ['light', 'dark'] as const) {
  test(`nothing serious stands in anyone's way (${scheme})`, async ({ page, app }) => {
    await page.emulateMedia({ colorScheme: scheme });
    const look = async (where: string) => {
      const { violations } = await new AxeBuilder({ page }).analyze();
      const serious = violations
        .filter(({ impact }) => impact === 'serious' || impact === 'critical')
        .map(
          ({ id, nodes }) => `${where}: ${id} at ${nodes.map((node) => node.target).join(', ')}`,
        );
      expect(serious).toEqual([]);
    };
    await page.goto(app.url);
    await expect(page.getByRole('link', { name: 'Ropes at First Light' })).toBeVisible();
    await look('shelf');
    await page.goto(`${app.url}/new`);
    await page.getByRole('textbox', { name: 'Progression' }).fill('A | Hm | D . E7 .');
    await look('new song');
    await openSong(page, app, 'Sluice Gate Sixteens');
    await look('song');
    for (const name of ['The bar', 'The order', 'Rules', 'Bars only']) {
      await panel(page, name);
      await look(name);
    }
    await page.getByRole('button', { name: 'Sound', exact: true }).click();
    await expect(page.getByRole('region', { name: 'Mixer' })).toBeVisible();
    await page.getByText('climbs with the turns of the loop').click();
    await look('sound');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await panel(page, 'The line');
    await page.getByRole('button', { name: 'WAV' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await page.waitForTimeout(400);
    await look('sound file');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Stand view' }).click();
    await look('stand view');
    await page.keyboard.press('Escape');
    await goTo(page, 'Strum');
    await expect(page.getByRole('listbox')).toBeVisible();
    await page.getByRole('listbox').focus();
    await page.keyboard.press('ArrowUp');
    await look('strum');
    await goTo(page, 'Chords');
    await expect(page.locator('.diagram svg').first()).toBeVisible();
    await look('chords');
  });
}

test('addresses that lead nowhere say so and show the way back', async ({ page, app }) => {
  await page.goto(`${app.url}/nowhere`);
  await expect(
    page.getByRole('heading', { name: 'There is nothing at this address.' }),
  ).toBeVisible();
  await page.getByRole('main').getByRole('link', { name: 'shelf' }).click();
  await expect(page.getByRole('heading', { name: '6 songs on your shelf.' })).toBeVisible();
});

test('nothing is wider than a tablet or a phone', async ({ page, app }) => {
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 1000 });
    await openSong(page, app, 'Sluice Gate Sixteens');
    for (const station of ['Strum', 'Chords', 'Song']) {
      await goTo(page, station);
      await page.waitForTimeout(200);
      const over = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(over, `${station} at ${width}`).toBeLessThanOrEqual(0);
    }
  }
});
