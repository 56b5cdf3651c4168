import type { Page } from '@playwright/test';
import { type PlayedStroke, secondVoice, wavOf } from '../bench/secondVoice';
import { type App, expect, goTo, look, openSong, test } from './app';

const LEAD = 0.6;
const answer = (page: Page) => page.getByRole('heading', { level: 1 });

interface Played {
  strikes: PlayedStroke[];
  landings: { tick: number; symbol: string }[];
  tempo: number;
}

/** A song through strings that are not the app's, as a file. */
async function recordingOf(app: App, id: string): Promise<{ played: Played; bytes: Buffer }> {
  const played = (await (await fetch(`${app.url}/api/songs/${id}/performance`)).json()) as Played;
  const samples = secondVoice(played.strikes, { sampleRate: 22_050, lead: LEAD, noise: 34 });
  return { played, bytes: Buffer.from(wavOf(samples, 22_050)) };
}

/** Presses a key each time the recording comes to a moment. */
async function pressAt(page: Page, key: string, moments: number[]): Promise<void> {
  await page.evaluate(
    async ([name, times]) => {
      const media = document.querySelector('audio')!;
      for (const at of times) {
        const until = performance.now() + 30_000;
        while (media.currentTime < at && performance.now() < until)
          await new Promise((resolve) => setTimeout(resolve, 2));
        const event = { key: name, code: `Key${name.toUpperCase()}`, bubbles: true };
        document.body.dispatchEvent(new KeyboardEvent('keydown', event));
        document.body.dispatchEvent(new KeyboardEvent('keyup', event));
      }
    },
    [key, moments] as const,
  );
}
const toStart = (page: Page) =>
  page.evaluate(() => {
    document.querySelector('audio')!.currentTime = 0;
  });
const bring = (page: Page, name: string, buffer: Buffer) =>
  page.getByLabel('Choose a recording').setInputFiles({ name, mimeType: 'audio/wav', buffer });

test('a recording is tapped, its beats are found, its chords landed, named and taken', async ({
  page,
  app,
}) => {
  test.slow();
  await openSong(page, app, 'Sluice Gate Sixteens');
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  const { played, bytes } = await recordingOf(app, id);
  await goTo(page, 'Along');
  await expect(answer(page)).toHaveText('Bring a recording, and play along with it.');
  await bring(page, 'evening.wav', bytes);
  await expect(answer(page)).toHaveText('Tap a few bars: the rest of the beats is found.');

  const beat = 60 / played.tempo;
  // Slowly: what the machine is late by counts for less.
  await page.getByRole('combobox', { name: 'Speed of the recording' }).click();
  await page.getByRole('option', { name: '50 %' }).click();
  await answer(page).click();
  await page.keyboard.press(' ');
  await pressAt(
    page,
    't',
    [0, 1, 2, 3, 4, 5, 6, 7].map((pulse) => LEAD + pulse * beat),
  );
  await page.keyboard.press(' ');
  await page.getByRole('button', { name: 'Find all the beats' }).click();
  await expect(answer(page)).toHaveText(/^\d+ bars found in it\./, { timeout: 20_000 });

  await toStart(page);
  await answer(page).click();
  await page.keyboard.press(' ');
  const landed = played.landings.slice(0, 4);
  await pressAt(
    page,
    'l',
    landed.map(({ tick }) => LEAD + (tick / 960) * beat + 0.02),
  );
  await page.keyboard.press(' ');
  await look(page, 'Chords');
  const landings = page.getByRole('list', { name: 'Landings' }).getByRole('listitem');
  await expect(landings).toHaveCount(4);
  await expect(landings.first()).toContainText('bar 1, 1');
  // Suggestions come with how sure they are; the player says what it is.
  await expect(landings.first().getByRole('button', { name: /% sure/ })).toHaveCount(3);
  await page.getByRole('button', { name: 'Name 4 landings as suggested' }).click();
  for (const [index, { symbol }] of landed.entries()) {
    const field = landings.nth(index).getByRole('textbox');
    await expect(field).not.toHaveValue('');
    await field.fill(symbol);
    await field.press('Tab');
  }
  await expect(page.getByText('Em7 | G <<Am7 | Cmaj7')).toBeVisible();
  await page.getByRole('button', { name: 'Use as the song’s line' }).click();
  await goTo(page, 'Song');
  await expect(answer(page)).toHaveText(/^3 bars/);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(answer(page)).not.toHaveText(/^3 bars/);

  // What was found is kept, and bars come again, slower, at their own pitch.
  await goTo(page, 'Along');
  await page.reload();
  await expect(answer(page)).toHaveText(/4 landings named/, { timeout: 15_000 });
  await page.getByRole('combobox', { name: 'Speed of the recording' }).click();
  await page.getByRole('option', { name: '60 %' }).click();
  await page.getByRole('button', { name: 'Loop bars of the recording' }).click();
  await page.getByRole('spinbutton', { name: 'to', exact: true }).last().fill('1');
  await page.getByRole('spinbutton', { name: 'to', exact: true }).last().press('Tab');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Play the recording' }).click();
  const media = () =>
    page.evaluate(() => {
      const { currentTime, playbackRate, preservesPitch } = document.querySelector('audio')!;
      return { currentTime, playbackRate, preservesPitch };
    });
  // It goes back to the first bar by itself, from where that ends.
  const turned = await page.evaluate(
    () =>
      new Promise<number>((resolve) => {
        const playing = document.querySelector('audio')!;
        let before = playing.currentTime;
        const look = () => {
          if (playing.currentTime < before - 0.5) return resolve(before);
          before = playing.currentTime;
          requestAnimationFrame(look);
        };
        look();
      }),
  );
  expect(turned).toBeLessThan(LEAD + 4 * beat + 0.6);
  const now = await media();
  expect(now.playbackRate).toBeCloseTo(0.6, 3);
  expect(now.preservesPitch).toBe(true);
  expect(now.currentTime).toBeLessThan(LEAD + 4 * beat + 0.2);
});

test('bar lines are moved by a hundredth of a second, with undo; the song sounds on the beats', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Along');
  await expect(answer(page)).toHaveText(/^20 bars found in it\./, { timeout: 15_000 });
  const map = async () => {
    const id = /songs\/([^/]+)/.exec(page.url())![1]!;
    const known = await (await fetch(`${app.url}/api/songs/${id}/recording/map`)).json();
    return known as { map: { pulses: number[]; set: number[] } };
  };
  const before = (await map()).map.pulses[0]!;
  await answer(page).click();
  await page.keyboard.press(']');
  await page.keyboard.press(']');
  await expect.poll(async () => (await map()).map.pulses[0]).toBeCloseTo(before + 0.02, 3);
  await page.getByRole('button', { name: 'Undo on the recording' }).click();
  await page.getByRole('button', { name: 'Undo on the recording' }).click();
  await expect.poll(async () => (await map()).map.pulses[0]).toBeCloseTo(before, 3);

  await look(page, 'Heard');
  await page.getByRole('switch', { name: 'Click on its beats' }).click();
  await page.getByRole('switch', { name: 'The song’s own sound' }).click();
  await page.getByRole('button', { name: 'Play the recording' }).click();
  await expect(answer(page)).toHaveText(/Bar 2: Bm\./, { timeout: 10_000 });
  await page.getByRole('button', { name: 'Pause the recording' }).click();

  await look(page, 'Strum');
  await page.getByRole('button', { name: 'Hear the strum of 4 bars' }).click();
  await expect(page.getByText(/down miss, .*up/).last()).toBeVisible({ timeout: 15_000 });
});

test('a recording with two bars of sticks before the song is laid where the song is', async ({
  page,
  app,
}) => {
  test.slow();
  await openSong(page, app, 'Sluice Gate Sixteens');
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  const { played } = await recordingOf(app, id);
  const beat = 60 / played.tempo;
  const before = 8;
  const stick = (at: number): PlayedStroke => ({
    seconds: at * beat,
    kind: 'chuck',
    dir: 'down',
    velocity: 0.8,
    notes: [],
    damps: [],
  });
  const samples = secondVoice(
    [
      ...Array.from({ length: before }, (_, at) => stick(at)),
      ...played.strikes.map((one) => ({ ...one, seconds: one.seconds + before * beat })),
    ],
    { sampleRate: 22_050, lead: LEAD, noise: 34 },
  );
  await goTo(page, 'Along');
  await bring(page, 'evening.wav', Buffer.from(wavOf(samples, 22_050)));
  await expect(answer(page)).toHaveText('Tap a few bars: the rest of the beats is found.');
  await page.getByRole('combobox', { name: 'Speed of the recording' }).click();
  await page.getByRole('option', { name: '50 %' }).click();
  await answer(page).click();
  await page.keyboard.press(' ');
  await pressAt(
    page,
    't',
    Array.from({ length: before + 2 }, (_, at) => LEAD + at * beat),
  );
  await page.keyboard.press(' ');
  await page.getByRole('button', { name: 'Find all the beats' }).click();
  await expect(answer(page)).toHaveText(/The song begins in the third\./, { timeout: 30_000 });
  const parts = page.getByRole('list', { name: 'Parts that are set' }).getByRole('listitem');
  await expect(parts).toHaveCount(2);
  await expect(parts.first()).toContainText('not the song');

  // Nothing is said to differ, and the bar that is shown is the song's.
  await look(page, 'Chords');
  const against = page.getByRole('region', { name: 'Against the song' });
  await against.getByRole('button', { name: 'What differs in the recording?' }).click();
  await expect(against.getByText('Nothing that can be heard with certainty.')).toBeVisible({
    timeout: 15_000,
  });
  await against.getByRole('listitem').first().getByRole('button').click();
  await expect(answer(page)).toHaveText(/Bar 1: /);

  // Said by hand where it is heard otherwise, by a key; undo brings back what was found.
  await look(page, 'Beats');
  await toStart(page);
  await expect(page.getByText('This is not the song.')).toBeVisible();
  await answer(page).click();
  await page.keyboard.press('s');
  await expect(parts).toHaveCount(1);
  await expect(answer(page)).not.toHaveText(/The song begins in/);
  await page.getByRole('button', { name: 'Undo on the recording' }).click();
  await expect(parts).toHaveCount(2);
  await page.reload();
  await expect(answer(page)).toHaveText(/The song begins in the third\./, { timeout: 15_000 });
});

/** The takes of a song that are kept, the newest first. */
async function takesOf(app: App, id: string): Promise<{ id: string; rung: string }[]> {
  return (await fetch(`${app.url}/api/songs/${id}/takes`)).json();
}

test('a take is tapped along with it, and judged against its beats', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Along');
  await expect(answer(page)).toHaveText(/^20 bars found in it\./, { timeout: 15_000 });
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  const known = (await (await fetch(`${app.url}/api/songs/${id}/recording/map`)).json()) as {
    map: { pulses: number[] };
  };
  await look(page, 'Take');
  await page.getByRole('button', { name: 'Tap a take' }).click();
  // The downs on the beats of four bars, each a little late: it is the same for all, and taken off.
  const { pulses } = known.map;
  await pressAt(
    page,
    'f',
    pulses.slice(0, 16).filter((_, beat) => beat % 4 !== 2),
  );
  await page.getByRole('button', { name: 'End the take' }).click();
  await expect(page.getByRole('list', { name: 'Lateness by place' })).toBeVisible({
    timeout: 15_000,
  });
  // It is shown as soon as it is judged, and kept right after.
  await expect.poll(async () => (await takesOf(app, id)).length).toBeGreaterThan(0);
});

test('what is no sound is not kept, and says so', async ({ page, app }) => {
  await openSong(page, app, 'Slow Water Under Willows');
  await goTo(page, 'Along');
  for (const [name, bytes] of [
    ['words.wav', Buffer.from('a chart of chords, renamed')],
    ['nothing.mp3', Buffer.alloc(0)],
  ] as const) {
    await bring(page, name, bytes);
    await expect(page.getByRole('alert')).toHaveText(/can’t be played here/);
  }
  await expect(answer(page)).toHaveText('Bring a recording, and play along with it.');
});

test('it sounds higher at the same speed, is counted in, and is read from the chair', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Along');
  await expect(answer(page)).toHaveText(/^20 bars found in it\./, { timeout: 15_000 });
  await look(page, 'Chords');
  const against = page.getByRole('region', { name: 'Against the song' });
  await expect(against.getByRole('listitem').first()).toContainText('bars 1 to');
  await against.getByRole('button', { name: 'What differs in the recording?' }).click();
  await expect(against.getByText('Nothing that can be heard with certainty.')).toBeVisible({
    timeout: 15_000,
  });
  await look(page, 'Heard');
  await page.getByRole('combobox', { name: 'Pitch' }).click();
  await page.getByRole('option', { name: '2 semitones higher' }).click();
  await page.getByRole('switch', { name: 'A bar counted in' }).click();
  await page.getByRole('button', { name: 'Play the recording' }).click();
  await expect(answer(page)).toHaveText('Counted in…');
  await expect(answer(page)).toHaveText(/Bar 1: A\./, { timeout: 10_000 });
  const speed = await page.evaluate(async () => {
    const media = document.querySelector('audio')!;
    const [before, since] = [media.currentTime, performance.now()];
    await new Promise((resolve) => setTimeout(resolve, 1500));
    return (media.currentTime - before) / ((performance.now() - since) / 1000);
  });
  expect(speed).toBeGreaterThan(0.9);
  expect(speed).toBeLessThan(1.1);
  await page.getByRole('button', { name: 'Stand view' }).click();
  const stand = page.getByRole('region', { name: 'Stand view' });
  await expect(stand.getByText(/^bar [23] of 20$/)).toBeVisible();
  await expect(stand.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(stand.getByRole('button', { name: 'Play' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(/\/along/);
  await expect(answer(page)).toHaveText(/^20 bars found in it\./);
});

test('a rung of practice is played to the recording, and judged by its beats', async ({
  page,
  app,
}) => {
  test.slow();
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Practice');
  await look(page, 'Ladder');
  await page
    .getByRole('region', { name: 'Ladder' })
    .getByRole('button', { name: 'All beats' })
    .click();
  const bars = page.getByRole('spinbutton', { name: 'Last bar of the loop' });
  await bars.fill('6');
  await bars.press('Enter');
  await look(page, 'Listen');
  await page
    .getByRole('group', { name: 'How the take comes in' })
    .getByRole('button', { name: 'Taps', exact: true })
    .click();
  await page.getByRole('combobox', { name: 'With the click' }).click();
  await page.getByRole('option', { name: 'the recording, in headphones' }).click();
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  const { map } = (await (await fetch(`${app.url}/api/songs/${id}/recording/map`)).json()) as {
    map: { pulses: number[]; one: number };
  };
  const beats = Array.from({ length: 24 }, (_, beat) => beat).filter(
    (beat) => beat % 4 !== 2 && beat !== 11,
  );
  // The player waits in the page for the recording, so that no busy machine makes the first tap late.
  const tapped = page.evaluate(
    async (times) => {
      const moment = () => new Promise((resolve) => setTimeout(resolve, 2));
      let media = document.querySelector('audio');
      while (!media || media.paused) {
        await moment();
        media = document.querySelector('audio');
      }
      for (const at of times) {
        while (!media.paused && media.currentTime < at) await moment();
        document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'f', bubbles: true }));
      }
    },
    beats.map((beat) => map.pulses[map.one + beat]!),
  );
  await page.getByRole('button', { name: 'Tap a take' }).click();
  await expect(page.getByText('Play.', { exact: true })).toBeVisible({ timeout: 15_000 });
  await tapped;
  await expect(page.getByRole('list', { name: 'The take, bar by bar' })).toBeVisible({
    timeout: 20_000,
  });
  await expect.poll(async () => (await takesOf(app, id))[0]?.rung).toBe('beats');
  const [kept] = await takesOf(app, id);
  const take = (await (await fetch(`${app.url}/api/songs/${id}/takes/${kept!.id}`)).json()) as {
    judgement: { strokes: { off: number }[]; missed: number[] };
  };
  // Against a clock the recording, whose tempo breathes, would pull these far apart.
  expect(take.judgement.strokes).toHaveLength(17);
  const off = take.judgement.strokes.map((stroke) => Math.abs(stroke.off)).sort((a, b) => a - b);
  expect(off[Math.floor(off.length / 2)]).toBeLessThan(30);
});
