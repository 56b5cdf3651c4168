import { secondVoice, wavOf } from '../bench/secondVoice';
import { expect, goTo, look, openSong, test } from './app';
import { hearing, microphoneFile, songOf, strokesOf } from './microphone';

/** A file plays the part of the microphone: somebody knocks on the table, which is no song. */
const clicks = Array.from({ length: 40 }, (_, index) => 0.3 + index * 0.61);
const surroundings = { sampleRate: 48_000, lead: 25, clicks, clickLevel: 0.6 };
const file = microphoneFile(secondVoice([], surroundings), 48_000);

test.use({
  launchOptions: {
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: hearing(file),
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
  await page.getByRole('button', { name: 'Record a take' }).click();
  await expect(page.getByText('Play.')).toBeVisible({ timeout: 15_000 });
  await expect(page.getByRole('progressbar', { name: 'Level' })).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/can’t be judged/, {
    timeout: 30_000,
  });
  await look(page, 'Takes');
  await expect(page.getByText(/microphone/).first()).toBeVisible();
});

test('a pattern is played in: through the microphone, and from a file of other strings', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  const strikes = await strokesOf(app, songOf(page));
  await goTo(page, 'Strum');
  const line = page.getByRole('textbox', { name: 'Say it' });
  await line.fill('down, down, down, down');
  await line.press('Enter');
  await look(page, 'Tap it in');
  const panel = page.getByRole('region', { name: 'Play it in' });

  // Eight bars of the song by strings that are not ours, in another room.
  const bars = strikes.filter(({ bar }) => bar < 8);
  const sound = secondVoice(bars, { sampleRate: 22_050, lead: 0.9 });
  await panel.locator('input[type=file]').setInputFiles({
    name: 'ropes.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from(wavOf(sound, 22_050)),
  });
  await expect(panel.getByText(/strokes in \d turns, at 9[0-4]\./)).toBeVisible({
    timeout: 20_000,
  });
  await panel.getByRole('button', { name: 'Use it' }).click();
  await expect(line).toHaveValue(/^down miss, down up, miss up, down up$/i);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(line).toHaveValue('down, down, down, down');

  // Knocks on the table, one a beat and a little faster than it is counted in.
  await panel.getByRole('button', { name: 'Play it in', exact: true }).click();
  await expect(panel.getByText('Play.')).toBeVisible({ timeout: 15_000 });
  await expect(panel.getByText(/\d+ strokes in \d turns?, at (9[5-9]|10[0-3])\./)).toBeVisible({
    timeout: 30_000,
  });
  await panel.getByRole('button', { name: 'Use it' }).click();
  await expect(line).toHaveValue(/^(chuck|down)( miss)?, (chuck|down)( miss)?, /i);

  // What is no sound says so, and nothing is changed.
  const before = await line.inputValue();
  await panel.locator('input[type=file]').setInputFiles({
    name: 'no.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from('RIFF, but nothing else'),
  });
  await expect(panel.getByText(/WAV/)).toBeVisible();
  await expect(line).toHaveValue(before);
});
