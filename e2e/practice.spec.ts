import type { Page } from '@playwright/test';
import { type PlayedStroke, secondVoice, wavOf } from '../bench/secondVoice';
import { type App, expect, goTo, look, openSong, test } from './app';

const answer = (page: Page) => page.getByRole('heading', { level: 1 });
const way = (page: Page, name: string) =>
  page
    .getByRole('group', { name: 'How the take comes in' })
    .getByRole('button', { name, exact: true })
    .click();

async function practiceOf(page: Page, app: App, title: string): Promise<string> {
  await openSong(page, app, title);
  await goTo(page, 'Practice');
  await expect(answer(page)).toHaveText(/^Play bars 1 to \d+ at \d+/);
  return /songs\/([^/]+)/.exec(page.url())![1]!;
}

/** The strokes of a song, as the server has them. */
async function strokesOf(
  app: App,
  id: string,
): Promise<(PlayedStroke & { landing: boolean; bar: number })[]> {
  const answered = await fetch(`${app.url}/api/songs/${id}/performance`);
  return (
    (await answered.json()) as { strikes: (PlayedStroke & { landing: boolean; bar: number })[] }
  ).strikes;
}

test.describe('kept takes', () => {
  test.use({ expected: { errors: [/ERR_CONNECTION_REFUSED/, /Failed to load resource/] } });

  test('a made-up player is heard, told what is wrong, and the advice is followed', async ({
    page,
    app,
  }) => {
    await practiceOf(page, app, 'Ropes at First Light');
    await way(page, 'Example player');
    await page.getByRole('combobox', { name: 'A player who' }).click();
    await page.getByRole('option', { name: 'comes late to every change' }).click();
    await page.getByRole('button', { name: 'Hear what is said of it' }).click();
    await expect(answer(page)).toHaveText(/late.*fretting hand/, { timeout: 20_000 });
    await expect(page.getByText('A made-up player, as an example.')).toBeVisible();
    const down = page.getByRole('button', { name: /^(Go down to|Stay at) \d+$/ });
    const tempo = Number(/\d+/.exec((await down.textContent())!)![0]);
    if (await down.isEnabled()) {
      await down.click();
      await expect(page.getByRole('spinbutton', { name: /^Tempo/ })).toHaveValue(String(tempo));
    }
    await look(page, 'Takes');
    const takes = page.getByRole('region', { name: 'Takes' });
    await expect(takes.getByRole('listitem')).toHaveCount(1);
    await app.kill();
    await app.start();
    await page.reload();
    await expect(takes.getByRole('listitem')).toHaveCount(1);
    await takes.getByRole('button', { name: /^Look at the take/ }).click();
    await expect(page.getByRole('list', { name: 'The take, bar by bar' })).toBeVisible();
    await takes.getByRole('button', { name: /^Delete the take/ }).click();
    await expect(takes.getByText('No take yet.')).toBeVisible();
  });
});

test('a sound file is heard, and one that is none is told apart', async ({ page, app }) => {
  const id = await practiceOf(page, app, 'Ropes at First Light');
  const strokes = await strokesOf(app, id);
  await way(page, 'Sound file');
  const choose = page.locator('input[type=file]');
  const send = (name: string, buffer: Buffer) =>
    choose.setInputFiles({ name, mimeType: 'audio/wav', buffer });
  await send('words.wav', Buffer.from('no sound at all'));
  await expect(page.getByRole('alert')).toContainText('no sound that this browser can read');
  await send('cut.wav', Buffer.from('RIFF____WAVEfmt '));
  await expect(page.getByRole('alert')).toContainText('it does not say what format it has');
  const late = strokes.map((stroke) => ({
    ...stroke,
    seconds: stroke.seconds + (stroke.landing && stroke.seconds > 0 ? 0.08 : 0),
  }));
  const samples = secondVoice(late, { sampleRate: 32_000, lead: 1.3, noise: 40 });
  await send('take.wav', Buffer.from(wavOf(samples, 32_000)));
  await expect(answer(page)).toHaveText(/lands? .*late|Landings come/, { timeout: 25_000 });
  await expect(page.getByText(/strokes heard/)).toContainText('fretting hand');
});

test('taps are a take, and too few are none', async ({ page, app }) => {
  await practiceOf(page, app, 'Ropes at First Light');
  await page.getByRole('spinbutton', { name: 'Last bar of the loop' }).fill('2');
  await page.getByRole('spinbutton', { name: 'Last bar of the loop' }).press('Enter');
  await expect(answer(page)).toHaveText(/^Play bars 1 to 2 at 92/);
  await way(page, 'Taps');
  await page.getByRole('button', { name: 'Tap a take' }).click();
  await expect(page.getByText('Count-in…')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(answer(page)).toHaveText('This take cannot be judged: nothing was heard.');

  await page.getByRole('button', { name: 'Tap a take' }).click();
  await expect(page.getByText('Play.')).toBeVisible();
  // The strokes of two bars at 92: 1, 2 &, & 4 &.
  const eighth = 60_000 / 92 / 2;
  const places = [0, 2, 3, 5, 6, 7, 8, 10, 11, 13, 14, 15];
  await page.evaluate(
    async (presses) => {
      const began = performance.now();
      for (const { key, at } of presses) {
        while (performance.now() - began < at)
          await new Promise((resolve) => setTimeout(resolve, 2));
        window.dispatchEvent(
          new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }),
        );
      }
    },
    places.map((place) => ({ key: place % 2 ? 'j' : 'f', at: place * eighth })),
  );
  await expect(page.getByText(/strokes heard/)).toBeVisible({ timeout: 15_000 });
});

test.describe('where the microphone is refused', () => {
  test('one sentence says so, and the other ways', async ({ page, app }) => {
    await page.addInitScript(() => {
      navigator.mediaDevices.getUserMedia = () =>
        Promise.reject(new DOMException('refused', 'NotAllowedError'));
    });
    await practiceOf(page, app, 'Ropes at First Light');
    await page.getByRole('button', { name: 'Listen to a take' }).click();
    await expect(page.getByRole('alert')).toHaveText(
      /not allowed to use the microphone.*A sound file, taps and the example player work without one\.$/,
    );
  });
});
