import Meyda from 'meyda';
import type { Page } from '@playwright/test';
import { PitchDetector } from 'pitchy';
import { readFileSync } from 'node:fs';
import wavefile from 'wavefile';
import { expect, goTo, look, openSong, saved, test } from './app';
import { A_STALL, isClick, isPluck, lateness, listen, pressAt, sounds } from './ears';

const sound = (page: Page) => page.getByRole('region', { name: 'Mixer' });

async function openSound(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  await expect(sound(page)).toBeVisible();
}

async function closeSound(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  await expect(sound(page)).toBeHidden();
}

async function choose(page: Page, field: string, option: string): Promise<void> {
  await page.getByRole('combobox', { name: field, exact: true }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
  await expect(page.getByRole('listbox')).toBeHidden();
}

async function setNumber(page: Page, field: string, value: number): Promise<void> {
  await page.getByLabel(field, { exact: true }).fill(String(value));
  await page.keyboard.press('Tab');
}

const play = (page: Page) => page.getByRole('button', { name: 'Play', exact: true }).click();
const stop = (page: Page) => page.getByRole('button', { name: 'Stop', exact: true }).click();

/** Seconds between the clicks, in order. */
async function gaps(page: Page): Promise<number[]> {
  const clicks = (await sounds(page)).filter(isClick).map(({ at }) => at);
  return clicks.slice(1).map((at, index) => at - clicks[index]!);
}

test('the tempo is halved, and climbs with the turns of a loop', async ({ page, app }) => {
  await listen(page);
  await openSong(page, app, 'Ropes at First Light');
  await setNumber(page, 'Tempo, quarter', 120);
  await setNumber(page, 'Last bar of the loop', 1);
  await openSound(page);
  await choose(page, 'Speed', 'half speed');
  await closeSound(page);
  await play(page);
  await expect(page.getByText('now 60')).toBeVisible({ timeout: 10_000 });
  await page.waitForTimeout(1500);
  expect((await gaps(page))[0]).toBeCloseTo(1, 3);
  await stop(page);

  await openSound(page);
  await choose(page, 'Speed', '85 %');
  await play(page);
  await expect(page.getByText('now 102')).toBeVisible({ timeout: 10_000 });
  await stop(page);
  await choose(page, 'Speed', 'full speed');
  await sound(page).getByText('Faster each time round').click();
  await setNumber(page, 'Times at one tempo', 1);
  await setNumber(page, 'Faster by', 40);
  await setNumber(page, 'Until the tempo', 240);
  await closeSound(page);
  const before = (await sounds(page)).length;
  await play(page);
  await expect(page.getByText('now 240')).toBeVisible({ timeout: 20_000 });
  await page.waitForTimeout(1200);
  const clicks = (await sounds(page)).slice(before).filter(isClick);
  const at = clicks.map((click) => click.at);
  // A bar of count-in and the first turn at 120, then faster turn by turn, to 240 and no more.
  const turn = (bar: number) => at[bar * 4 + 1]! - at[bar * 4]!;
  expect([0, 1, 2, 3, 4].map((bar) => Number((60 / turn(bar)).toFixed(1)))).toEqual([
    120, 120, 160, 200, 240,
  ]);
  expect(lateness(await sounds(page))).toBeLessThan(A_STALL);
  await stop(page);
});

test('drums and the click can be chosen, faders moved, and the choice is kept', async ({
  page,
  app,
}) => {
  await listen(page);
  await openSong(page, app, 'Ropes at First Light');
  await setNumber(page, 'Tempo, quarter', 160);
  await openSound(page);
  await choose(page, 'Drums', 'what goes with the pattern');
  await choose(page, 'Click', 'on the back-beats');
  await sound(page).getByRole('slider', { name: 'Drums' }).focus();
  for (let step = 0; step < 5; step += 1) await page.keyboard.press('ArrowRight');
  await closeSound(page);
  await play(page);
  await expect(page.getByTestId('riding-hand').first()).toBeVisible({ timeout: 12_000 });
  await page.waitForTimeout(2500);
  await stop(page);
  const all = await sounds(page);
  const first = all.filter(isPluck)[0]!.at;
  const clicks = all.filter(isClick).filter((one) => one.at > first - 0.01);
  expect(clicks[0]!.at - first).toBeCloseTo(60 / 160, 2);
  expect(clicks[1]!.at - clicks[0]!.at).toBeCloseTo(120 / 160, 3);
  // A cymbal on every eighth, a sixth of a second long.
  const hats = all.filter(({ seconds }) => Math.abs(seconds - 0.16) < 0.001);
  expect(hats.length).toBeGreaterThan(8);
  expect(hats[1]!.at - hats[0]!.at).toBeCloseTo(30 / 160, 3);

  await page.reload();
  await openSound(page);
  await expect(page.getByRole('combobox', { name: 'Drums' })).toHaveText(
    'what goes with the pattern',
  );
  await expect(sound(page).getByRole('slider', { name: 'Drums' })).toHaveAttribute(
    'aria-valuenow',
    '65',
  );
  // The caution on listening levels comes with the headphones, once.
  await sound(page).getByText('Headphones').click();
  await expect(sound(page).getByRole('alert')).toContainText('Keep the level moderate');
  await sound(page).getByRole('button', { name: 'I will' }).click();
  await expect(sound(page).getByRole('alert')).toHaveCount(0);
  await page.reload();
  await openSound(page);
  await expect(sound(page).getByRole('alert')).toHaveCount(0);
});

test('how late the device sounds is measured by tapping along', async ({ page, app }) => {
  await listen(page);
  await openSong(page, app, 'Ropes at First Light');
  await setNumber(page, 'Tempo, quarter', 140);
  await openSound(page);
  await sound(page).getByRole('button', { name: 'Measure', exact: true }).click();
  await expect
    .poll(async () => (await sounds(page)).filter(isClick).length, { timeout: 15_000 })
    .toBeGreaterThan(1);
  const [first] = (await sounds(page)).filter(isClick);
  const device = await page.evaluate(
    () => (window as unknown as { heardIn: AudioContext }).heardIn.outputLatency || 0,
  );
  const beats = Array.from({ length: 10 }, (_, beat) => first!.at + ((beat + 3) * 60) / 140);
  await pressAt(
    page,
    beats.map((beat) => ({ key: 'k', at: beat + 0.12 })),
  );
  await expect(sound(page).getByText(/Your taps come \d+ ms after the click/)).toBeVisible();
  const set = Number((await page.getByLabel('Sound delay').inputValue()).replace(' ms', ''));
  expect(Math.abs(set - 120)).toBeLessThan(45 + device * 1000);
  await page.keyboard.press('Escape');
});

test('a section goes out as a WAV file with the right onsets and pitches', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Strum');
  const line = page.getByLabel('Say it');
  await line.fill('bass hold, hold hold, chuck miss, bass hold');
  await line.press('Enter');
  await goTo(page, 'Song');
  await page.getByRole('textbox', { name: 'Progression' }).fill('Low:\nA | E\nOther:\nD | %');
  await saved(page);
  await look(page, 'Files');
  await page.getByRole('button', { name: 'WAV' }).click();
  const dialog = page.getByRole('dialog', { name: 'A sound file' });
  await choose(page, 'What the file plays', 'Low');
  await setNumber(page, 'Tempo of the file', 60);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('button', { name: 'Make the WAV file' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('Ropes-at-First-Light-Low.wav');
  await expect(dialog).toBeHidden();

  const wav = new wavefile.WaveFile(readFileSync(await file.path()));
  const { sampleRate } = wav.fmt as { sampleRate: number };
  // Two channels, of which one says when and what.
  const [left, right] = wav.getSamples(false) as unknown as [Float64Array, Float64Array];
  expect(right).toHaveLength(left.length);
  const samples = Float32Array.from(left, (x) => x / 32768);
  expect(samples.length / sampleRate).toBeCloseTo(8 + 1.5, 1);
  expect(samples.every((sample) => Math.abs(sample) < 1)).toBe(true);

  // Onsets: where the loudness of short frames jumps.
  const FRAME = 256;
  const loudness: number[] = [];
  for (let at = 0; at + FRAME <= samples.length; at += FRAME) {
    loudness.push(
      Meyda.extract('rms', samples.slice(at, at + FRAME) as unknown as Float32Array) as number,
    );
  }
  const onsets: number[] = [];
  loudness.forEach((now, index) => {
    const before = Math.max(...loudness.slice(Math.max(0, index - 3), index), 0.0005);
    const time = (index * FRAME) / sampleRate;
    if (now > 2 * before && now > 0.01 && time - (onsets.at(-1) ?? -1) > 0.1) onsets.push(time);
  });
  const wanted = [0, 2, 3, 4, 6, 7];
  expect(onsets).toHaveLength(wanted.length);
  onsets.forEach((time, index) => expect(Math.abs(time - wanted[index]!)).toBeLessThan(0.012));

  // Pitches: the open A and the low E, after their attacks.
  const detector = PitchDetector.forFloat32Array(8192);
  const pitchAt = (seconds: number) => {
    const from = Math.round(seconds * sampleRate);
    return detector.findPitch(samples.slice(from, from + 8192), sampleRate)[0];
  };
  const cents = (read: number, hertz: number) => Math.abs(1200 * Math.log2(read / hertz));
  expect(cents(pitchAt(0.3), 110)).toBeLessThan(4);
  expect(cents(pitchAt(3.3), 110)).toBeLessThan(4);
  expect(cents(pitchAt(4.3), 82.407)).toBeLessThan(4);
});

test('a long file can be cancelled, and nothing is left behind', async ({ page, app }) => {
  await openSong(page, app, 'Lanterns Along the Cut');
  await look(page, 'Files');
  await page.getByRole('button', { name: 'WAV' }).click();
  const dialog = page.getByRole('dialog', { name: 'A sound file' });
  await setNumber(page, 'Tempo of the file', 20);
  await dialog.getByText('with drums').click();
  await dialog.getByRole('button', { name: 'Make the WAV file' }).click();
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(dialog.getByRole('button', { name: 'Make the WAV file' })).toBeVisible();
  await expect(dialog.getByRole('alert')).toHaveCount(0);
});

test('from the chair: one key plays and stops, the chord and the count are huge', async ({
  page,
  app,
}) => {
  await listen(page);
  await openSong(page, app, 'Ropes at First Light');
  await openSound(page);
  await sound(page).getByText('Flash on the beats').click();
  await closeSound(page);
  await page.getByRole('button', { name: 'Stand view' }).click();
  const stand = page.getByRole('region', { name: 'Stand view' });
  await expect(stand.getByTestId('now')).toHaveText('A');
  await expect(page.getByRole('contentinfo', { name: 'Stage bar' })).toHaveCount(0);
  await page.keyboard.press('PageDown');
  await expect(stand.getByText('count-in')).toBeVisible();
  await expect(stand.getByTestId('riding-hand')).toBeVisible({ timeout: 12_000 });
  await expect(stand.getByTestId('then')).toContainText(/in \d beats?Bm/);
  await expect(stand.getByTestId('beat')).toHaveText(/[1-4]/);
  await expect(stand.getByTestId('now')).toHaveText('Bm', { timeout: 8000 });
  await expect(stand.getByTestId('flash')).toBeAttached();
  const box = (await stand.getByTestId('now').boundingBox())!;
  expect(box.height).toBeGreaterThan(120);
  await page.keyboard.press('PageDown');
  await expect(stand.getByText('any key or a pedal plays')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('textbox', { name: 'Progression' })).toBeVisible();
  await goTo(page, 'Strum');
  await page.getByRole('button', { name: 'Stand view' }).click();
  await stand.getByRole('button', { name: 'Leave' }).click();
  await expect(page.getByLabel('Say it')).toBeVisible();
});
