import { readFileSync } from 'node:fs';
import { readMidiFile } from '../core/formats/smf-reader.test-kit';
import { expect, goTo, look, saved, slot, test } from './app';
import { A_STALL, isClick, isPluck, lateness, listen, sounds, strikeTimes } from './ears';

test('a song from its first chord to a MIDI file, with the keyboard', async ({ page, app }) => {
  await listen(page);
  await page.goto(app.url);
  await expect(page.getByRole('heading', { name: '7 songs on your shelf.' })).toBeVisible();

  // Chords: typed in one line, bars with their flags as they are typed.
  await page.getByRole('button', { name: 'New song' }).focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Name').focus();
  await page.keyboard.type('Mooring Lines');
  await page.getByRole('textbox', { name: 'Progression' }).focus();
  await page.keyboard.type('A | F#m | D . E7 . | %');
  await expect(page.getByRole('heading', { name: '4 bars, 4 chords.' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Bar 3: D, E7' })).toBeVisible();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(' | A | <E7 x2');
  await expect(page.getByRole('button', { name: 'Bar 5: A, E7' })).toBeVisible();
  await page.getByRole('button', { name: 'Make the song' }).focus();
  await page.keyboard.press('Enter');

  // Strum: built on the path with arrow keys.
  const path = page.getByRole('listbox', { name: 'Strokes of the pattern' });
  await path.focus();
  for (const key of ['b', 'm', 'Shift+ArrowDown', 'ArrowUp', 'm', 'ArrowUp', 'c', 'ArrowUp']) {
    await page.keyboard.press(key);
  }
  await expect(slot(page, 0)).toHaveAccessibleName('beat 1: bass note, down');
  await expect(slot(page, 1)).toHaveAccessibleName('beat 1, and: miss, the arm passes');
  await expect(slot(page, 2)).toHaveAccessibleName('beat 2: down, all strings, accented');
  await expect(slot(page, 6)).toHaveAccessibleName('beat 4: chuck, down');
  await expect(page.getByRole('heading', { name: /^6 strokes in 8 arm moves/ })).toBeVisible();
  await page.keyboard.press('End');
  await page.keyboard.press('4');
  await expect(path.getByRole('option')).toHaveCount(10);
  await page.keyboard.press('Control+z');
  await expect(path.getByRole('option')).toHaveCount(8);
  await page.keyboard.press('Control+Shift+z');
  await expect(path.getByRole('option')).toHaveCount(10);
  await page.keyboard.press('Control+z');
  await look(page, 'Chords');
  await expect(page.getByText('5 strings, from A')).toBeVisible();
  await expect(page.getByText('A string, open')).toBeVisible();
  await saved(page);
  await path.focus();

  // Play: a bar of clicks, then the strokes in time, string by string.
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect(page.getByText('count-in', { exact: true })).toBeVisible();
  await expect(page.getByTestId('riding-hand')).toBeVisible({ timeout: 12_000 });
  await page.waitForTimeout(2500);
  const first = await sounds(page);
  expect(lateness(first)).toBeLessThan(A_STALL);
  const clicks = first.filter(isClick);
  const plucks = first.filter(isPluck);
  expect(clicks[4]!.at - clicks[0]!.at).toBeCloseTo(3, 3);
  // The bass alone on 1, five strings of A on 2, an eighth is 0.375 s at 80.
  const strikes = strikeTimes(first);
  expect(strikes[0]).toBeCloseTo(clicks[4]!.at, 3);
  expect(strikes[1]! - strikes[0]!).toBeCloseTo(0.75, 3);
  expect(plucks.filter(({ at }) => at < strikes[1]! - 0.01)).toHaveLength(1);
  expect(plucks.filter(({ at }) => at >= strikes[1]! && at < strikes[1]! + 0.2)).toHaveLength(5);

  // Tempo while it plays: the next beats are closer, and none is missing in between.
  await page.getByLabel('Tempo, quarter').fill('160');
  await page.keyboard.press('Enter');
  await page.waitForTimeout(2500);
  const beats = (await sounds(page)).filter(isClick).map((sound) => sound.at);
  const gaps = beats.slice(1).map((at, index) => at - beats[index]!);
  expect(gaps.at(-1)!).toBeCloseTo(60 / 160, 3);
  expect(gaps[0]!).toBeCloseTo(60 / 80, 3);
  expect(Math.max(...gaps)).toBeLessThan(0.751);
  expect(Math.min(...gaps)).toBeGreaterThan(0.374);

  // Loop while it plays: the bars asked for, again and again.
  await page.getByLabel('Last bar of the loop').fill('1');
  await page.keyboard.press('Enter');
  await expect(page.getByText('bar 1 of 12')).toBeVisible({ timeout: 15_000 });
  await page.waitForTimeout(2000);
  await expect(page.getByText('bar 1 of 12')).toBeVisible();
  expect(lateness(await sounds(page))).toBeLessThan(A_STALL);
  await page.getByRole('button', { name: 'Stop' }).click();

  // Kept: the server is killed and started again, the page loaded again.
  await saved(page);
  await app.kill();
  await app.start();
  await page.reload();
  await expect(slot(page, 2)).toHaveAccessibleName('beat 2: down, all strings, accented');
  await expect(page.getByLabel('Tempo, quarter')).toHaveValue('160');
  await goTo(page, 'Song');
  await expect(page.getByRole('textbox', { name: 'Progression' })).toHaveValue(
    'A | F#m | D E7 | % | A | <E7 x2',
  );

  // Out: the MIDI file says what the performance says.
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Files', exact: true }).click();
  await page.getByRole('button', { name: 'MIDI file' }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toBe('Mooring-Lines.mid');
  const file = readMidiFile(readFileSync(await download.path()));
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  const response = await page.request.get(`${app.url}/api/songs/${id}/performance`);
  const performance = (await response.json()) as {
    strikes: { tick: number; kind: string; notes: { midi: number; delay: number }[] }[];
  };
  const ticksPerSecond = (160 / 60) * 960;
  const wanted = performance.strikes
    .flatMap(({ tick, notes }) =>
      notes.map(({ midi, delay }) => `${midi}@${Math.round(tick + delay * ticksPerSecond)}`),
    )
    .sort();
  const written = file.notes.filter((note) => note.channel < 2);
  expect(written.map(({ pitch, tick }) => `${pitch}@${tick}`).sort()).toEqual(wanted);
  const percussion = file.notes.filter((note) => note.channel === 9);
  expect(percussion.filter((note) => note.pitch === 37)).toHaveLength(12);
  expect(percussion.filter((note) => note.pitch !== 37)).toHaveLength(48);
  const loudest = Math.max(...written.map((note) => note.velocity));
  expect(written.find((note) => note.velocity === loudest)!.tick % 3840).toBe(960);
});
