import { readFileSync } from 'node:fs';
import { networkInterfaces } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { pageHearing } from './microphone';
import { App, expect, goTo, look, saved, test } from './app';

/** An address of this machine that is not only its own, where it has a network. */
const address = Object.values(networkInterfaces())
  .flat()
  .find((one) => one?.family === 'IPv4' && !one.internal)?.address;

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

/** The way in that the page shows on the computer itself; without a network, as the key that it would show. */
async function wayIn(page: Page, app: App): Promise<string> {
  if (address === undefined) {
    const key = readFileSync(path.join(app.folder, 'key'), 'utf8').trim();
    return `${app.url}/in/${key}`;
  }
  await page.goto(`${app.url.replace('0.0.0.0', 'localhost')}/phone`);
  await expect(page.getByRole('img', { name: /as a code to scan/ })).toBeVisible();
  return (await page.locator('.address').first().innerText()).trim();
}

/** A page of another device. Where all addresses are the machine's own, it says that it is handed on. */
async function deviceOf(page: Page, app: App): Promise<string> {
  if (address === undefined) await page.setExtraHTTPHeaders({ 'X-Forwarded-For': '192.0.2.9' });
  return app.url.replace('0.0.0.0', address ?? '0.0.0.0');
}

test.describe('from another device', () => {
  // What browsers say of headers that they heed only on safe addresses, and of an answer of 401.
  const errors = [/Cross-Origin-Opener-Policy/, /origin-keyed agent cluster/, /401/];
  test.use({ expected: { errors } });

  test('by a number and without a certificate, a song is shown and kept, and a row of the log is added', async ({
    page,
  }) => {
    const everywhere = new App('everywhere', '0.0.0.0');
    await everywhere.start();
    const outside = await deviceOf(page, everywhere);
    const desk = await page.context().browser()!.newPage();

    // Whoever has no key is told what is missing, and nothing else.
    expect((await page.goto(outside))!.status()).toBe(401);
    await expect(page.getByText('This page has a key.')).toBeVisible();
    const url = await wayIn(desk, everywhere);
    expect(new URL(url).host).toBe(new URL(outside).host);
    await page.goto(url);
    await expect(page).toHaveURL(`${outside}/`);

    expect(await page.evaluate(() => isSecureContext)).toBe(false);
    await page.getByRole('link', { name: 'Ropes at First Light' }).click();
    await page.getByRole('button', { name: /^Bar 1:/ }).click();
    await page.getByLabel('Tempo, quarter').fill('96');
    await page.keyboard.press('Enter');
    await saved(page);

    await goTo(page, 'Practice');
    await look(page, 'Listen');
    await page.getByRole('button', { name: 'Record a take' }).click();
    await expect(page.getByRole('alert')).toHaveText(
      'The microphone cannot be used here. A sound file, taps and the example player work without one.',
    );

    await goTo(page, 'Log');
    await look(page, 'Add a row');
    await page.getByRole('spinbutton', { name: 'Minutes' }).fill('35');
    await page.getByRole('button', { name: 'Add it' }).click();
    await expect(page.getByText('35 minutes').first()).toBeVisible();

    // A new key, made on the computer: the phone is out, and says why.
    await desk.goto(`${everywhere.url.replace('0.0.0.0', 'localhost')}/phone`);
    if (address !== undefined) {
      await desk.getByRole('button', { name: 'New key' }).click();
      await desk.getByRole('dialog').getByRole('button', { name: 'New key' }).click();
      await expect(desk.getByText('There is a new key.')).toBeVisible();
      expect((await page.goto(outside))!.status()).toBe(401);
    }
    await desk.close();
    await page.close();
    await everywhere.end();
  });

  test('with a certificate, the microphone is there', async ({ playwright }) => {
    const page = await pageHearing(playwright, new Float32Array(48_000), 48_000);
    const everywhere = new App('secure', '0.0.0.0', true);
    await everywhere.start();
    await deviceOf(page, everywhere);
    await page.goto(await wayIn(page, everywhere));
    expect(new URL(page.url()).protocol).toBe('https:');
    await page.getByRole('link', { name: 'Ropes at First Light' }).click();
    await expect(page.getByRole('button', { name: /^Bar 1:/ })).toBeVisible();
    expect(await page.evaluate(() => isSecureContext)).toBe(true);
    const tracks = await page.evaluate(async () => {
      const stream = await navigator.mediaDevices.getUserMedia({ audio: true });
      const live = stream.getAudioTracks().filter(({ readyState }) => readyState === 'live').length;
      for (const track of stream.getTracks()) track.stop();
      return live;
    });
    expect(tracks).toBe(1);
    await page.close();
    await everywhere.end();
  });
});
