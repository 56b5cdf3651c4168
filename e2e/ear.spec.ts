import type { Page } from '@playwright/test';
import { secondVoice, wavOf } from '../bench/secondVoice';
import { type App, expect, goTo, look, openSong, test } from './app';
import { landingLate, pageHearing, songOf, strokesOf } from './microphone';

const SONG = 'Ropes at First Light';
const RATE = 48_000;
const answer = (page: Page) => page.getByRole('heading', { level: 1 });
const bars = (page: Page) => page.getByRole('list', { name: 'The take, bar by bar' });

/** Chooses the rung on which the song is played as it is. */
async function inFull(page: Page): Promise<void> {
  await look(page, 'Ladder');
  await page
    .getByRole('region', { name: 'Ladder' })
    .getByRole('button', { name: /^In full/ })
    .first()
    .click();
}

/** Practice with the first bars of the song in full, at its own tempo. */
async function practiceOf(page: Page, app: App, last: number): Promise<void> {
  await openSong(page, app, SONG);
  await goTo(page, 'Practice');
  await inFull(page);
  for (const [name, value] of [
    [/^Tempo/, '92'],
    ['Last bar of the loop', String(last)],
  ] as const) {
    await page.getByRole('spinbutton', { name }).fill(value);
    await page.getByRole('spinbutton', { name }).press('Enter');
  }
  await expect(answer(page)).toHaveText(new RegExp(`^In full, bars 1 to ${last}, at 92`));
  await look(page, 'Listen');
}

/** The count-in, and what the browser takes until the microphone is open. */
const LEAD = 3.1;
const playedBy = async (app: App, id: string, last: number, late: number) =>
  secondVoice(
    landingLate(await strokesOf(app, id), late).filter(({ bar }) => bar < last),
    { sampleRate: RATE, lead: LEAD, noise: 40 },
  );
const idOf = async (app: App) => {
  const songs = (await (await fetch(`${app.url}/api/songs`)).json()) as {
    id: string;
    title: string;
  }[];
  return songs.find(({ title }) => title === SONG)!.id;
};

test('late landings are heard through the microphone, marked as they come, sent and answered', async ({
  playwright,
  app,
}) => {
  const page = await pageHearing(playwright, await playedBy(app, await idOf(app), 8, 0.09), RATE);
  await practiceOf(page, app, 8);
  await page.getByRole('button', { name: 'Record a take' }).click();
  await expect(page.getByText('Play.', { exact: true })).toBeVisible({ timeout: 15_000 });
  await expect
    .poll(() => page.getByTestId('struck').count(), { timeout: 10_000 })
    .toBeGreaterThan(3);
  await expect(answer(page)).toHaveText(/(lands \d+ ms late|landings come late, by \d+ ms)/, {
    timeout: 60_000,
  });
  await expect(page.getByText(/strokes heard/)).toContainText('fretting hand');
  await expect(page.getByRole('region', { name: 'Changes in this take' })).toContainText(
    /A to Bm: \d+ ms late/,
  );

  // It is heard from a stroke that is chosen with the arrow keys.
  const media = page.getByRole('group', { name: 'The sound of this take' }).locator('audio');
  await expect(media).toBeVisible();
  const at = () => media.evaluate((audio: HTMLAudioElement) => audio.currentTime);
  const third = bars(page).getByRole('button', { name: /^Bar 3:/ });
  const heard: number[] = [];
  for (const steps of [1, 4]) {
    await third.focus();
    for (let step = 0; step < steps; step += 1) await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Enter');
    await expect.poll(() => media.evaluate((audio: HTMLAudioElement) => audio.paused)).toBe(false);
    await media.evaluate((audio: HTMLAudioElement) => audio.pause());
    heard.push(await at());
    await third.evaluate((button) => (button as HTMLElement).blur());
  }
  // The fourth stroke of the bar lies two and a half beats after the first.
  expect(Math.abs(heard[1]! - heard[0]! - 2.5 * (60 / 92))).toBeLessThan(0.45);

  // A teacher opens it on another shelf, answers, and sends it back.
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save it to send, with its sound' }).click();
  const file = test.info().outputPath('weir.take.zip');
  await (await download).saveAs(file);
  const name = (await download).suggestedFilename();
  expect(name).toMatch(/bars-1-to-8\.take\.zip$/);
  await page.close();
  const id = await idOf(app);
  await fetch(`${app.url}/api/songs/${id}`, { method: 'DELETE' });
  const teacher = await playwright.chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const there = await teacher.newPage({ viewport: { width: 1280, height: 800 } });
  await there.goto(app.url);
  await there.getByLabel('A song or a chart to open').setInputFiles(file);
  await expect(bars(there)).toBeVisible({ timeout: 15_000 });
  await expect(answer(there)).toHaveText(/late/);
  expect(songOf(there)).not.toBe(id);
  await expect(there.getByRole('group', { name: 'The sound of this take' })).toBeVisible();
  await there.getByRole('button', { name: 'Write an answer' }).click();
  await there.getByRole('textbox', { name: 'Answer to this take' }).fill('Let go a little sooner.');
  await there.getByRole('button', { name: 'Keep the answer' }).click();
  await expect(there.getByLabel('Answer', { exact: true })).toHaveText('Let go a little sooner.');
  await there.reload();
  await there
    .getByRole('button', { name: /^Look at the take of/ })
    .first()
    .click();
  await expect(there.getByLabel('Answer', { exact: true })).toHaveText('Let go a little sooner.');
  await teacher.close();
});

test('landings a fifth of a second late are named through the microphone, with bars to loop', async ({
  playwright,
  app,
}) => {
  const page = await pageHearing(playwright, await playedBy(app, await idOf(app), 8, 0.2), RATE);
  await practiceOf(page, app, 8);
  await page.getByRole('button', { name: 'Record a take' }).click();
  await expect(answer(page)).toHaveText(
    /(lands (19|20|21)\d ms late|come late, by (19|20|21)\d ms)/,
    {
      timeout: 90_000,
    },
  );
  await expect(page.getByText(/strokes heard/)).toContainText('fretting hand');
  const press = page.getByRole('button', { name: /^Loop bars \d+–\d+/ });
  const [, from, to] = /bars (\d+)–(\d+)/.exec((await press.textContent())!)!;
  await press.click();
  await expect(answer(page)).toHaveText(new RegExp(`^In full, bars ${from} to ${to}, at`));
  await page.close();
});

test('clicks are listened to, and a change is timed by ear', async ({ playwright, app }) => {
  // Eight clicks as uneven as those that are played, later by half a second; then a stroke twice a second.
  const clicks = [0, 0.52, 1.17, 1.58, 2.34, 2.79, 3.52, 4.13].map((at) => 1.25 + at);
  const strokes = Array.from({ length: 40 }, (_, index) => 7 + 0.5 * index);
  const room = { sampleRate: RATE, lead: 26, clicks: [...clicks, ...strokes], clickLevel: 0.6 };
  const page = await pageHearing(playwright, secondVoice([], room), RATE);
  await openSong(page, app, SONG);
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  // A machine that stalls loses some of the clicks; then one measures again, as a player would.
  await expect(async () => {
    await page.getByRole('button', { name: 'Measure by microphone' }).click();
    await expect(page.getByText('Let nothing else sound.')).toBeVisible();
    await expect(page.getByText('The microphone heard 8 of 8 clicks.')).toBeVisible({
      timeout: 15_000,
    });
  }).toPass({ timeout: 60_000 });
  const said = page.getByText(/From the loudspeaker into this microphone: \d+ ms/);
  const delay = Number(/(\d+) ms/.exec((await said.textContent())!)![1]);
  expect(delay).toBeGreaterThan(20);
  expect(delay).toBeLessThan(600);
  await page.reload();
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  await expect(said).toContainText(`${delay} ms`);
  await page.keyboard.press('Escape');

  await goTo(page, 'Changes');
  await look(page, 'Time it');
  await page.getByRole('switch', { name: 'Listen' }).click();
  await page.getByRole('button', { name: /^Start, 30 seconds/ }).click();
  // The clicks come first; a change a half second later is one of many.
  await expect(page.getByText(/^(2\d|3\d) changes$/)).toBeVisible({ timeout: 25_000 });
  await page.keyboard.press('Escape');
  await expect(page.getByText(/\d+ changes, (49\d|50\d) ms each/)).toBeVisible();
  await page.close();
});

/** Lets the test take the microphone away, and hide the page. */
async function handles(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const media = navigator.mediaDevices;
    const open = media.getUserMedia.bind(media);
    const held: MediaStream[] = [];
    media.getUserMedia = async (wanted) => {
      const stream = await open(wanted);
      held.push(stream);
      return stream;
    };
    let hidden = false;
    const waiting: FrameRequestCallback[] = [];
    const frame = window.requestAnimationFrame.bind(window);
    // A page that is hidden draws nothing: its frames come when it is seen again.
    window.requestAnimationFrame = (draw) => (hidden ? waiting.push(draw) : frame(draw));
    Object.defineProperty(document, 'visibilityState', {
      get: () => (hidden ? 'hidden' : 'visible'),
    });
    Object.assign(window, {
      loseMicrophone: () =>
        held
          .at(-1)!
          .getAudioTracks()
          .forEach((track) => track.dispatchEvent(new Event('ended'))),
      hide: (now: boolean) => {
        hidden = now;
        document.dispatchEvent(new Event('visibilitychange'));
        if (!now) waiting.splice(0).forEach((draw) => frame(draw));
      },
    });
  });
}

test('a page that is hidden goes on listening; a microphone that goes away ends the take', async ({
  playwright,
  app,
}) => {
  const page = await pageHearing(playwright, await playedBy(app, await idOf(app), 6, 0.09), RATE);
  await handles(page);
  await practiceOf(page, app, 6);
  const call = (name: string, argument?: boolean) =>
    page.evaluate(
      ([what, how]) => (window as unknown as Record<string, (now?: boolean) => void>)[what]!(how),
      [name, argument] as const,
    );
  await page.getByRole('button', { name: 'Record a take' }).click();
  await expect(page.getByText('Play.', { exact: true })).toBeVisible({ timeout: 15_000 });
  await call('hide', true);
  // The rest of the take is played where nobody sees it, and its end is not missed.
  await expect
    .poll(
      async () => {
        const kept = await fetch(`${app.url}/api/songs/${songOf(page)}/takes`);
        return ((await kept.json()) as { source: string }[])[0]?.source;
      },
      { timeout: 40_000 },
    )
    .toBe('microphone');
  await call('hide', false);
  await expect(answer(page)).toHaveText(/late/);
  await expect(page.getByText(/^\d+ strokes heard/)).toContainText(/^(29|3\d) strokes heard/);

  await page.getByRole('button', { name: 'Record a take' }).click();
  await expect(page.getByText('Play.', { exact: true })).toBeVisible({ timeout: 15_000 });
  await page.waitForTimeout(6500);
  await call('loseMicrophone');
  await expect(page.getByRole('alert')).toContainText(
    'The microphone went away; what was heard until then is judged.',
  );
  await expect(page.getByText(/^\d+ strokes heard/)).toBeVisible({ timeout: 15_000 });
  await expect(page.getByRole('button', { name: 'Record a take' })).toBeEnabled();
  await page.close();
});

test('a MIDI instrument is followed, and the file of one is a take', async ({ page, app }) => {
  // A stand-in for an instrument: it plays what the test has it play.
  await page.addInitScript(() => {
    const input = {
      state: 'connected',
      onmidimessage: null as ((event: { data: Uint8Array; timeStamp: number }) => void) | null,
    };
    Object.assign(navigator, {
      requestMIDIAccess: async () => ({ inputs: new Map([['one', input]]), onstatechange: null }),
    });
    Object.assign(window, {
      strum: (pitches: number[]) =>
        pitches.forEach((pitch, index) =>
          input.onmidimessage?.({
            data: new Uint8Array([0x90, pitch, 90]),
            timeStamp: performance.now() + 4 * index,
          }),
        ),
    });
  });
  await practiceOf(page, app, 2);
  const ways = page.getByRole('group', { name: 'How the take comes in' });
  await ways.getByRole('button', { name: 'MIDI', exact: true }).click();
  await page.getByRole('button', { name: 'Record a take by MIDI' }).click();
  await expect(page.getByText('Play.', { exact: true })).toBeVisible({ timeout: 15_000 });
  await page.evaluate(async () => {
    const eighth = 60_000 / 92 / 2;
    const strum = (window as unknown as { strum: (pitches: number[]) => void }).strum;
    const began = performance.now();
    for (const place of [0, 2, 3, 5, 6, 7, 8, 10, 11, 13, 14, 15]) {
      while (performance.now() - began < place * eighth)
        await new Promise((resolve) => setTimeout(resolve, 2));
      strum(place % 2 ? [64, 61, 57, 52] : [45, 52, 57, 61]);
    }
  });
  await expect(page.getByText(/^12 strokes heard/)).toBeVisible({ timeout: 15_000 });
  await look(page, 'Takes');
  await expect(page.getByRole('region', { name: 'Takes' })).toContainText('MIDI');

  // The song's own file, as another program may have recorded it.
  const exported = await fetch(`${app.url}/api/songs/${songOf(page)}/export.mid`);
  await page.getByRole('button', { name: 'Loop', exact: true }).click();
  await look(page, 'Listen');
  await ways.getByRole('button', { name: 'Sound file', exact: true }).click();
  const choose = page.locator('input[type=file]');
  const file = { name: 'take.mid', mimeType: 'audio/midi' };
  await choose.setInputFiles({ ...file, buffer: Buffer.from('MThd, and no more') });
  await expect(page.getByRole('alert')).toHaveText('There are no notes in this file.');
  await choose.setInputFiles({ ...file, buffer: Buffer.from(await exported.arrayBuffer()) });
  await expect(answer(page)).toHaveText(/^Clean: (\d+) of \1 strokes/, { timeout: 15_000 });
});

test('a take of ten minutes is heard whole, and the page answers meanwhile', async ({
  page,
  app,
}) => {
  await openSong(page, app, SONG);
  const id = songOf(page);
  const stored = (await (await fetch(`${app.url}/api/songs/${id}`)).json()) as {
    document: { tempo: number; title: string; sections: { name: string }[] };
  };
  const document = {
    ...stored.document,
    title: 'The whole evening',
    tempo: 40,
    order: stored.document.sections.map(({ name }) => ({ name, times: 5 })),
  };
  const made = await fetch(`${app.url}/api/songs`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document }),
  });
  const { id: long } = (await made.json()) as { id: string };
  const strokes = await strokesOf(app, long);
  expect(strokes.at(-1)!.seconds).toBeGreaterThan(590);
  const samples = secondVoice(strokes, { sampleRate: 16_000, lead: 1.5, noise: 40 });
  await page.goto(`${app.url}/songs/${long}/practice`);
  await inFull(page);
  const tempo = page.getByRole('spinbutton', { name: /^Tempo/ });
  await tempo.fill('40');
  await tempo.press('Enter');
  await look(page, 'Listen');
  await page
    .getByRole('group', { name: 'How the take comes in' })
    .getByRole('button', { name: 'Sound file', exact: true })
    .click();
  await page.locator('input[type=file]').setInputFiles({
    name: 'evening.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from(wavOf(samples, 16_000)),
  });
  await expect(page.getByText('Listening to the take…')).toBeVisible();
  const began = Date.now();
  await look(page, 'Goal');
  expect(Date.now() - began).toBeLessThan(2000);
  await expect(answer(page)).toHaveText(/^Clean: \d+ of \d+ strokes/, { timeout: 90_000 });
  await expect(bars(page).getByRole('listitem')).toHaveCount(strokes.at(-1)!.bar + 1);
});

test('a string that is far off is tuned by its name, chosen by a key', async ({
  playwright,
  app,
}) => {
  // The E string of a ukulele, 120 cents flat: nearer to nothing else by name, and to C by guess only.
  const hertz = 440 * 2 ** ((64 - 1.2 - 69) / 12);
  const samples = Float32Array.from({ length: 20 * RATE }, (_, at) =>
    [1, 2, 3].reduce(
      (sum, partial) =>
        sum + (0.2 / partial) * Math.sin((2 * Math.PI * hertz * partial * at) / RATE),
      0,
    ),
  );
  const page = await pageHearing(playwright, samples, RATE);
  await openSong(page, app, 'The Lamplighter’s Round');
  await goTo(page, 'Chords');
  await look(page, 'Does it ring?');
  await page.getByRole('button', { name: 'Tune the strings' }).click();
  const says = page.getByRole('region', { name: 'Does it ring?' }).getByRole('status');
  await expect(says).toHaveText(/it seems,/, { timeout: 20_000 });
  await page.keyboard.press('2');
  await expect(
    page
      .getByRole('group', { name: 'String that you tune' })
      .getByRole('button', { name: 'E', exact: true }),
  ).toHaveAttribute('aria-pressed', 'true');
  await expect(says).toHaveText(/^The E string is 1(19|20|21) cents flat: tighten it\.$/);
  await page.getByRole('button', { name: 'Done tuning' }).click();
  await expect(page.getByRole('button', { name: 'Tune the strings' })).toBeVisible();
  await page.close();
});
