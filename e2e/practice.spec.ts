import type { Page } from '@playwright/test';
import { secondVoice, wavOf } from '../bench/secondVoice';
import { type App, expect, goTo, look, openSong, test } from './app';
import { landingLate, sendTake, strokesOf } from './microphone';

const answer = (page: Page) => page.getByRole('heading', { level: 1 });
/** How the take comes in, from now on. */
async function way(page: Page, name: string): Promise<void> {
  await look(page, 'Listen');
  await page
    .getByRole('group', { name: 'How the take comes in' })
    .getByRole('button', { name, exact: true })
    .click();
}
const rung = (page: Page, name: string) =>
  page.getByRole('region', { name: 'Ladder' }).getByRole('button', { name }).first().click();

/** The Practice station with the song in full, at its own tempo. */
async function practiceOf(page: Page, app: App, title: string): Promise<string> {
  await openSong(page, app, title);
  await goTo(page, 'Practice');
  await look(page, 'Ladder');
  await rung(page, 'In full');
  await page.getByRole('spinbutton', { name: /^Tempo/ }).fill('92');
  await page.getByRole('spinbutton', { name: /^Tempo/ }).press('Enter');
  await expect(answer(page)).toHaveText(/^In full, at 92\./);
  return /songs\/([^/]+)/.exec(page.url())![1]!;
}

test.describe('kept takes', () => {
  test.use({ expected: { errors: [/ERR_CONNECTION_REFUSED/, /Failed to load resource/] } });

  test('a made-up player is heard and counts for nothing; a take of one’s own waits while the server is away', async ({
    page,
    app,
  }) => {
    const id = await practiceOf(page, app, 'Ropes at First Light');
    const strokes = await strokesOf(app, id);
    const logged = async () =>
      ((await (await fetch(`${app.url}/api/log?limit=1`)).json()) as { total: number }).total;
    const before = await logged();
    await way(page, 'Example player');
    await page.getByRole('combobox', { name: 'A player who' }).click();
    await page.getByRole('option', { name: 'comes late to every change' }).click();
    await page.getByRole('button', { name: 'Judge this example' }).click();
    await expect(answer(page)).toHaveText(/late.*fretting hand/, { timeout: 20_000 });
    await expect(page.getByText('It is not kept, and counts for nothing.')).toBeVisible();
    await look(page, 'Takes');
    const takes = page.getByRole('region', { name: 'Takes' });
    await expect(takes.getByText('No take yet.')).toBeVisible();
    expect(await logged()).toBe(before);

    // While the server is away: what listens is there already, and the take waits in the browser.
    await way(page, 'Sound file');
    await page.waitForFunction(() =>
      performance.getEntriesByType('resource').some(({ name }) => name.includes('/sheet.worker-')),
    );
    await app.kill();
    await sendTake(page, landingLate(strokes, 0.12));
    await expect(page.getByText('This take is kept in this browser')).toBeVisible({
      timeout: 30_000,
    });
    await expect(answer(page)).toHaveText(/late.*fretting hand/);
    await expect(page.getByText('Practice to send: 1')).toBeVisible();
    await app.start();
    await expect(page.getByText('Practice to send')).toBeHidden();
    await expect(page.getByText('This take is kept in this browser')).toBeHidden();
    await page.getByRole('button', { name: 'Once more' }).click();
    await expect(answer(page)).toHaveText(/^In full, at 92\./);
    await look(page, 'Takes');
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
  await expect(page.getByRole('alert')).toContainText('can’t be played here');
  await send('cut.wav', Buffer.from('RIFF____WAVEfmt '));
  await expect(page.getByRole('alert')).toContainText('it does not say what format it has');
  const late = strokes.map((stroke) => ({
    ...stroke,
    seconds: stroke.seconds + (stroke.landing && stroke.seconds > 0 ? 0.08 : 0),
  }));
  const samples = secondVoice(late, { sampleRate: 32_000, lead: 1.3, noise: 40 });
  await send('take.wav', Buffer.from(wavOf(samples, 32_000)));
  await expect(answer(page)).toHaveText(/lands .*late|landings? comes? late/, { timeout: 25_000 });
  await expect(page.getByText(/strokes heard/)).toContainText('fretting hand');

  // It is listened to from a bar, at half the speed; kept only where that is asked for, and taken away.
  const sound = page.getByRole('group', { name: 'The sound of this take' });
  await sound.getByText('half', { exact: true }).click();
  await page.getByRole('button', { name: /^Bar 4:/ }).click({ position: { x: 8, y: 30 } });
  const heardAt = () =>
    sound.locator('audio').evaluate((media: HTMLAudioElement) => ({
      at: media.currentTime,
      rate: media.playbackRate,
      paused: media.paused,
    }));
  await expect.poll(async () => (await heardAt()).paused).toBe(false);
  const { at, rate } = await heardAt();
  expect(rate).toBe(0.5);
  const bar = 1.3 + 3 * 4 * (60 / 92);
  expect(Math.abs(at - bar)).toBeLessThan(1);
  const keep = sound.getByRole('button', { name: /^Keep the sound, \d+\.\d MB$/ });
  await keep.click();
  await expect(sound.getByRole('button', { name: /^Delete the sound/ })).toBeVisible();
  await page.reload();
  await look(page, 'Takes');
  await expect(page.getByText(/sound of \d+\.\d MB/)).toBeVisible();
  await page
    .getByRole('button', { name: /^Look at the take of/ })
    .first()
    .click();
  await expect
    .poll(() => sound.locator('audio').evaluate((media: HTMLAudioElement) => media.duration))
    .toBeGreaterThan(30);
  await sound.getByRole('button', { name: /^Delete the sound/ }).click();
  await expect(sound).toBeHidden();
  await expect(page.getByText(/sound of \d+\.\d MB/)).toBeHidden();
});

test('taps are a take, and too few are none', async ({ page, app }) => {
  await practiceOf(page, app, 'Ropes at First Light');
  await page.getByRole('spinbutton', { name: 'Last bar of the loop' }).fill('2');
  await page.getByRole('spinbutton', { name: 'Last bar of the loop' }).press('Enter');
  await expect(answer(page)).toHaveText(/^In full, bars 1 to 2, at 92/);
  await way(page, 'Taps');
  await page.getByRole('button', { name: 'Tap a take' }).click();
  await expect(page.getByText('Count-in…')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(answer(page)).toHaveText('This take can’t be judged: nothing was heard.');

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
    await page.getByRole('button', { name: 'Record a take' }).click();
    await expect(page.getByRole('alert')).toHaveText(
      /not allowed to use the microphone.*A sound file, taps and the example player work without one\.$/,
    );
  });
});

test.describe('the ladder', () => {
  test.use({ expected: { errors: [/ERR_CONNECTION_REFUSED/, /Failed to load resource/] } });

  test('is climbed by keyboard: clean goes up, the same trouble twice goes round the place, and it is kept', async ({
    page,
    app,
  }) => {
    // A song that nobody has practised yet, and a hand that nobody has timed.
    const timed = (await (await fetch(`${app.url}/api/change-times`)).json()) as { id: string }[];
    for (const one of timed)
      await fetch(`${app.url}/api/change-times/${one.id}`, { method: 'DELETE' });
    const made = await fetch(`${app.url}/api/songs`);
    const { id: of } = ((await made.json()) as { id: string; title: string }[]).find(
      ({ title }) => title === 'Slow Water Under Willows',
    )!;
    const stored = await (await fetch(`${app.url}/api/songs/${of}`)).json();
    const document = {
      ...stored.document,
      title: 'Eel Pie Rungs',
      tempo: 72,
      practice: { clean: 2 },
    };
    const added = await fetch(`${app.url}/api/songs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ document }),
    });
    const { id } = (await added.json()) as { id: string };
    await page.goto(`${app.url}/songs/${id}/practice`);
    // Three quarters of 72, or what the changes allow.
    await expect(answer(page)).toHaveText(/^The arm alone, at (5[0-4]|[34]\d)\.$/);
    await way(page, 'Rate it myself');

    const press = async (name: string | RegExp) => {
      await page.getByRole('button', { name, exact: typeof name === 'string' }).focus();
      await page.keyboard.press('Enter');
    };
    // Nothing sounds in the arm alone: the player says how it went.
    await page.getByRole('spinbutton', { name: 'Last bar of the loop' }).fill('1');
    await page.getByRole('spinbutton', { name: 'Last bar of the loop' }).press('Enter');
    await press('Play along');
    await expect(page.getByText('How was it?')).toBeVisible({ timeout: 20_000 });
    await press('Clean');
    await expect(page.getByText(/^Clean. Once more to be sure/)).toBeVisible();

    await look(page, 'Ladder');
    await rung(page, 'The pattern on one chord');
    // The loop that was set is kept, until it is taken off.
    await expect(answer(page)).toHaveText('The pattern on one chord, bar 1, at 54.');
    await page.getByRole('button', { name: 'Loop', exact: true }).press('Enter');
    await expect(answer(page)).toHaveText('The pattern on one chord, at 54.');
    const said = async () => {
      await press('Play along');
      await press('Stop');
      await press('Clean');
    };
    await said();
    await press('Once more');
    await said();
    // Clean twice at 54, which is enough for a rung below the last.
    await expect(page.getByText(/^Clean at 54\. Next: with open strokes, at \d+\./)).toBeVisible();
    await press('The next rung');
    await expect(answer(page)).toHaveText(/^With open strokes, at \d+\./);

    await look(page, 'Ladder');
    await rung(page, 'In full');
    await way(page, 'Sound file');
    const [, at] = /^In full, at (\d+)/.exec((await answer(page).textContent())!)!;
    const strokes = await strokesOf(app, id);
    const slower = strokes.map((stroke) => ({
      ...stroke,
      seconds: (stroke.seconds * document.tempo) / Number(at),
    }));
    const heard = async () => {
      await sendTake(page, landingLate(slower, 0.16));
      await expect(page.getByText(/strokes heard/)).toBeVisible({ timeout: 30_000 });
    };
    await heard();
    await expect(answer(page)).toHaveText(/late.*fretting hand/);
    await press('Once more');
    await heard();
    await press('That place alone');
    const loop = /^In full, bars? (\d+)( to \d+)?, at (\d+)\./;
    await expect(answer(page)).toHaveText(loop);
    const sentence = (await answer(page).textContent())!;
    // A take is kept while the next is begun: both, before the server is killed.
    const kept = async () =>
      ((await (await fetch(`${app.url}/api/songs/${id}/takes`)).json()) as unknown[]).length;
    await expect.poll(kept).toBe(2);

    await app.kill();
    await app.start();
    await page.goto(`${app.url}/songs/${id}/practice`);
    await expect(answer(page)).toHaveText(sentence);
    await look(page, 'Ladder');
    await expect(
      page.getByRole('button', { name: 'The pattern on one chord clean at 54' }),
    ).toBeVisible();
    // From the chair, one key plays and Escape leaves.
    await page.getByRole('button', { name: 'Stand view' }).click();
    const chair = page.getByRole('region', { name: 'Practice, stand view' });
    await expect(chair.getByRole('heading')).toHaveText(sentence);
    await page.keyboard.press('b');
    await expect(chair.getByRole('heading')).toHaveText(/^With open strokes, at \d+\./);
    await page.keyboard.press('Escape');
    await expect(chair).toBeHidden();
  });
});

test('rungs are left out and put in, and a tour goes through the key', async ({ page, app }) => {
  await practiceOf(page, app, 'Ropes at First Light');
  const ladder = page.getByRole('region', { name: 'Ladder' });
  await rung(page, 'All beats');
  await ladder.getByRole('button', { name: 'All beats: leave out' }).click();
  await expect(ladder.getByRole('button', { name: 'All beats' })).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(ladder.getByRole('button', { name: 'All beats: leave out' })).toBeVisible();
  await look(page, 'Goal');
  await page.getByRole('button', { name: 'Set out' }).click();
  await expect(answer(page)).toHaveText(/^Tour of 7 chords, at \d+\.$/);
  await page.getByRole('button', { name: 'Back to the ladder' }).click();
  await expect(answer(page)).toHaveText(/^All beats, at/);
});

test('one change is practised to and fro, from the station that names it', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Changes');
  await page.getByRole('button', { name: 'practise it' }).click();
  await expect(answer(page)).toHaveText(/^\S+ to \S+ and back, at \d+\.$/);
  await look(page, 'Goal');
  const beside = page.getByRole('region', { name: 'Beside the ladder' });
  await beside.getByRole('button', { name: 'Back to the ladder' }).click();
  await beside.getByRole('combobox', { name: 'Through' }).click();
  await page.getByRole('option', { name: 'the song’s changes in random order' }).click();
  await beside.getByRole('button', { name: 'Set out' }).click();
  await expect(answer(page)).toHaveText(/^Changes in random order, at \d+\.$/);
  await expect(page.getByText('bar 1 of 16')).toBeVisible();
});

test('a pattern is practised without a song, and the take is in the log', async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole('link', { name: 'Practise a pattern without a song' }).click();
  await page.getByRole('textbox', { name: 'Second chord' }).fill('Em');
  await page.getByRole('textbox', { name: 'Second chord' }).press('Enter');
  await expect(page).toHaveURL(/then=Em/);
  await look(page, 'Ladder');
  await rung(page, 'In full');
  await expect(page.getByLabel('Chord now and next')).toContainText('Em');
  await way(page, 'Rate it myself');
  await page.getByRole('button', { name: 'Play along' }).click();
  await page.getByRole('button', { name: 'Stop', exact: true }).first().click();
  await page.getByRole('button', { name: 'Clean', exact: true }).click();
  await expect
    .poll(async () => {
      const log = await fetch(`${app.url}/api/log?kind=take&limit=1`);
      const { entries } = (await log.json()) as { entries: Record<string, unknown>[] };
      return [entries[0]?.['songId'], entries[0]?.['source'], entries[0]?.['song']];
    })
    .toEqual([null, 'word', expect.stringMatching(/\S/)]);
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Practice', exact: true })).toHaveCount(0);
});
