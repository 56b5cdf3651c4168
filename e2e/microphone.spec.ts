import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { secondVoice, wavOf } from '../bench/secondVoice';
import { expect, goTo, look, openSong, test } from './app';

/** A file plays the part of the microphone: somebody knocks on the table, which is no song. */
const file = path.join(mkdtempSync(path.join(tmpdir(), 'plucky-microphone-')), 'microphone.wav');
const clicks = Array.from({ length: 40 }, (_, index) => 0.3 + index * 0.61);
const surroundings = { sampleRate: 48_000, lead: 25, clicks, clickLevel: 0.6 };
writeFileSync(file, wavOf(secondVoice([], surroundings), 48_000));

test.use({
  launchOptions: {
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--autoplay-policy=no-user-gesture-required',
      '--use-fake-device-for-media-stream',
      '--use-fake-ui-for-media-stream',
      `--use-file-for-fake-audio-capture=${file}`,
    ],
  },
});

test('the microphone is listened to; something else than the song is told as that', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Practice');
  await look(page, 'Ladder');
  await page
    .getByRole('button', { name: /^In full/ })
    .first()
    .click();
  await page.getByRole('spinbutton', { name: 'Last bar of the loop' }).fill('2');
  await page.getByRole('spinbutton', { name: 'Last bar of the loop' }).press('Enter');
  await page.getByRole('button', { name: 'Play, it listens' }).click();
  await expect(page.getByText('Play.')).toBeVisible({ timeout: 15_000 });
  await expect(page.getByRole('progressbar', { name: 'Level' })).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/cannot be judged/, {
    timeout: 30_000,
  });
  await look(page, 'Takes');
  await expect(page.getByText(/microphone/).first()).toBeVisible();
});
