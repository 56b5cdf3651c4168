import { networkInterfaces } from 'node:os';
import { App, expect, goTo, look, saved, test } from './app';

/** An address of this machine that is not only its own; where it has none, one that is no safe one either. */
const address =
  Object.values(networkInterfaces())
    .flat()
    .find((one) => one?.family === 'IPv4' && !one.internal)?.address ?? '0.0.0.0';

test('a browser that tells no idle moments shows, plays and keeps a song', async ({
  page,
  app,
}) => {
  await page.addInitScript(() => {
    Reflect.deleteProperty(window, 'requestIdleCallback');
    Reflect.deleteProperty(window, 'cancelIdleCallback');
  });
  await page.goto(app.url);
  await page.getByRole('link', { name: 'Ropes at First Light' }).click();
  await expect(page.getByRole('button', { name: /^Bar 20:/ })).toBeVisible();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByLabel('Tempo, quarter').fill('96');
  await page.keyboard.press('Enter');
  await saved(page);
});

test.describe('from another device, by a number and without a certificate', () => {
  test.use({
    // What browsers say of headers that they heed only on safe addresses.
    expected: { errors: [/Cross-Origin-Opener-Policy/, /origin-keyed agent cluster/] },
  });

  test('a song is shown and kept, and a row of the log is added', async ({ page }) => {
    const everywhere = new App('everywhere', '0.0.0.0');
    await everywhere.start();
    await page.goto(everywhere.url.replace('0.0.0.0', address));
    expect(await page.evaluate(() => isSecureContext)).toBe(false);
    await page.getByRole('link', { name: 'Ropes at First Light' }).click();
    await page.getByRole('button', { name: /^Bar 1:/ }).click();
    await page.getByLabel('Tempo, quarter').fill('96');
    await page.keyboard.press('Enter');
    await saved(page);

    await goTo(page, 'Practice');
    await look(page, 'Listen');
    await page.getByRole('button', { name: 'Play, it listens' }).click();
    await expect(page.getByRole('alert')).toHaveText(
      'The microphone cannot be used here. A sound file, taps and the example player work without one.',
    );

    await goTo(page, 'Log');
    await look(page, 'Add a row');
    await page.getByRole('spinbutton', { name: 'Minutes' }).fill('35');
    await page.getByRole('button', { name: 'Add it' }).click();
    await expect(page.getByText('35 minutes').first()).toBeVisible();
    await page.close();
    await everywhere.end();
  });
});
