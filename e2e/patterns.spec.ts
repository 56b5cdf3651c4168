import type { Page } from '@playwright/test';
import { expect, goTo, look, openSong, saved, slot, test } from './app';
import { isClick, isPluck, listen, pressAt, sounds, strikeTimes } from './ears';

const CIRCLE = 'down miss, down up, miss up, down up';
const line = (page: Page) => page.getByLabel('Say it');
const path = (page: Page) => page.getByRole('listbox', { name: 'Strokes of the pattern' });

async function openStrum(page: Page, app: Parameters<typeof openSong>[1], title: string) {
  await openSong(page, app, title);
  await goTo(page, 'Strum');
  await expect(path(page)).toBeVisible();
}

async function keys(page: Page, ...presses: string[]): Promise<void> {
  for (const key of presses) await page.keyboard.press(key);
}

/** Strums handed to the audio clock since `now`: the moments at which they sound. */
async function heardSince(page: Page, from: number): Promise<number[]> {
  return strikeTimes((await sounds(page)).slice(from));
}
/** How many sounds were handed over so far. */
const now = async (page: Page) => (await sounds(page)).length;

/** Milliseconds off on average beyond which it was this machine that was late, and not a hand. */
const MAX_OFF = 40;

/** Taps six strokes in at 80; once more where this machine was too busy to press in time, as the app itself says. */
async function tapIn(page: Page): Promise<void> {
  const eighth = 60 / 80 / 2;
  const strokes = ['ArrowDown', '', 'ArrowDown', 'ArrowUp', '', 'ArrowUp', 'ArrowDown', 'ArrowUp'];
  const told = page.getByText(/^6 taps, \d+ ms off on average\.$/);
  for (let tries = 1; ; tries += 1) {
    const from = await now(page);
    const clicks = async () => (await sounds(page)).slice(from).filter(isClick);
    await page.getByRole('button', { name: 'Count me in' }).click();
    await expect(page.getByText('Counting in')).toBeVisible();
    await expect.poll(async () => (await clicks()).length).toBeGreaterThan(0);
    const first = (await clicks())[0]!.at;
    const presses = strokes.flatMap((key, index) =>
      key ? [{ key, at: first + eighth * (8 + index) }] : [],
    );
    await pressAt(page, presses);
    await expect(told).toBeVisible({ timeout: 6000 });
    const off = Number(/(\d+) ms/.exec((await told.textContent())!)![1]);
    if (off <= MAX_OFF) return;
    expect(tries, `taps that were ${off} ms off`).toBeLessThan(4);
  }
}

test('one pattern by three ways: pressed, said, and tapped in', async ({ page, app }) => {
  await listen(page);
  await openStrum(page, app, 'Ropes at First Light');
  await page.getByLabel('Tempo, quarter').fill('80');
  await page.keyboard.press('Enter');

  // Pressed.
  await path(page).focus();
  await keys(page, 'Home', 'ArrowDown', 'm', 'ArrowDown', 'ArrowUp', 'm', 'ArrowUp', 'ArrowDown');
  await keys(page, 'ArrowUp');
  await expect(line(page)).toHaveValue(CIRCLE);

  // Said.
  await line(page).fill('h');
  await line(page).fill('D DU -UDU');
  await line(page).press('Enter');
  await expect(line(page)).toHaveValue(CIRCLE);

  // Tapped: over another pattern, which stays until the tapped one is taken.
  await line(page).fill('down, down, down, down');
  await line(page).press('Enter');
  await look(page, 'Tap it in');
  await tapIn(page);
  await expect(line(page)).toHaveValue('down, down, down, down');
  await expect(page.getByRole('list', { name: 'How far off each tap was' })).toContainText(
    'the & of 2',
  );
  await expect(page.getByRole('group', { name: 'Heard as' }).getByRole('button')).toHaveCount(3);
  await page.getByRole('button', { name: 'Use it' }).click();
  await expect(line(page)).toHaveValue(CIRCLE);
  await saved(page);
});

test('a finding is mended by its button, another is said to be meant', async ({ page, app }) => {
  await openStrum(page, app, 'Ropes at First Light');
  await line(page).fill('down down, bass hold, down up, down up');
  await line(page).press('Enter');
  const findings = page.getByRole('list', { name: 'What the arm says' });
  await expect(findings.getByRole('listitem')).toHaveCount(2);
  await expect(page.getByTestId('finding-mark')).toHaveCount(2);
  await page.getByRole('button', { name: /^Flip it to up: The down on the & of 1/ }).click();
  await expect(line(page)).toHaveValue('down up, bass hold, down up, down up');
  await page.getByRole('button', { name: /^I meant that: The arm rests on the & of 2/ }).click();
  await expect(findings.getByRole('listitem')).toHaveCount(0);
  await expect(page.getByText('Rests of the arm are meant that way.')).toBeVisible();
  await page.getByRole('button', { name: 'Say it again' }).click();
  await page.getByRole('button', { name: /^Make it a miss/ }).click();
  await expect(line(page)).toHaveValue('down up, bass miss, down up, down up');
  await expect(page.getByTestId('finding-mark')).toHaveCount(0);
});

test('a 7/8 and a count cycle of 12 are built, played, saved and opened again', async ({
  page,
  app,
}) => {
  await listen(page);
  await openStrum(page, app, 'Ropes at First Light');
  await page.getByRole('combobox', { name: 'Meter' }).click();
  await page.getByRole('option', { name: 'Another…' }).click();
  await page.getByLabel('Groups of beats in a bar').fill('3+2+2');
  await page.getByRole('combobox', { name: 'Beats are' }).click();
  await page.getByRole('option', { name: 'eighths', exact: true }).click();
  await page.getByRole('button', { name: 'Use this meter' }).click();
  await expect(page.getByRole('combobox', { name: 'Meter' })).toHaveText('7/8 as 3+2+2');
  await line(page).fill('DOWN, up, down, BASS, up, DOWN, up');
  await line(page).press('Enter');
  await expect(slot(page, 3)).toHaveAccessibleName(/^beat 4: bass note, down, accented/);
  await expect(path(page).getByRole('option')).toHaveCount(7);

  // The tempo counts eighths here; seven clicks before the first stroke.
  await page.getByLabel(/^Tempo/).fill('240');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect
    .poll(async () => (await sounds(page)).filter(isPluck).length, { timeout: 12_000 })
    .toBeGreaterThan(20);
  const all = await sounds(page);
  const clicks = all.filter(isClick).map(({ at }) => at);
  expect(clicks[1]! - clicks[0]!).toBeCloseTo(0.25, 3);
  expect(strikeTimes(all)[0]!).toBeCloseTo(clicks[7]!, 3);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await saved(page);
  await app.kill();
  await app.start();
  await page.reload();
  await expect(line(page)).toHaveValue('DOWN, up, down, BASS, up, DOWN, up');
  await expect(page.getByRole('combobox', { name: 'Meter' })).toHaveText('7/8 as 3+2+2');

  await page.getByRole('combobox', { name: 'Meter' }).click();
  await page.getByRole('option', { name: 'Another…' }).click();
  await page.getByRole('button', { name: 'Count cycle' }).click();
  await page.getByRole('button', { name: 'Use this meter' }).click();
  await expect(page.getByRole('combobox', { name: 'Meter' })).toHaveText(
    '12 counts from 12, accents on 12 3 6 8 10',
  );
  const counted = page.locator('[role=listbox] .count text:first-child');
  await expect(counted).toHaveText(['12', '1', '2', '3', '4', '5', '6', '7', '8', '9', '10', '11']);
  await line(page).fill('ROLL, down, down, ROLL, down, tap, ROLL, down, ROLL, down, ROLL, tap');
  await line(page).press('Enter');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByTestId('riding-hand')).toBeVisible({ timeout: 12_000 });
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await saved(page);
  await page.reload();
  await expect(slot(page, 0)).toHaveAccessibleName('beat 12: roll of 4, down, accented');
  await expect(slot(page, 5)).toHaveAccessibleName('beat 5: tap on the body');
});

test('easier and fuller versions are seen side by side, heard, and put back', async ({
  page,
  app,
}) => {
  await listen(page);
  await openStrum(page, app, 'Ropes at First Light');
  const whole = await line(page).inputValue();
  await look(page, 'Variations');
  await page.getByRole('button', { name: 'Beats only' }).click();
  await expect(line(page)).toHaveValue('down miss, DOWN miss, miss miss, DOWN miss');

  const heardOf = async (name: string): Promise<number> => {
    const from = await now(page);
    await page.getByRole('button', { name }).click();
    await page.waitForTimeout(3400);
    return (await heardSince(page, from)).length;
  };
  expect(await heardOf('Hear Before')).toBe(6);
  expect(await heardOf('Hear After: beats only')).toBe(3);
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(line(page)).toHaveValue(whole);

  await page.getByRole('button', { name: 'Fuller', exact: true }).click();
  await expect(line(page)).toHaveValue('down miss, DOWN up, down up, DOWN up');
  expect(await heardOf('Hear After: fuller')).toBe(7);
  await page.getByRole('button', { name: 'Undo: fuller' }).click();
  await expect(line(page)).toHaveValue(whole);

  // A variation in another meter takes the song with it, and brings it back.
  await page.getByRole('button', { name: 'Drop a beat' }).click();
  await expect(page.getByRole('combobox', { name: 'Meter' })).toHaveText('3/4');
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByRole('combobox', { name: 'Meter' })).toHaveText('4/4');
  await page.getByRole('button', { name: '6/8 as two of 3/4' }).click();
  await expect(
    page.getByText('this pattern cannot be written so; it stays as it is.'),
  ).toBeVisible();
});

test('spans are selected, copied, said again, shifted and built', async ({ page, app }) => {
  await openStrum(page, app, 'Ropes at First Light');
  await line(page).fill('down miss, down up, miss up, down up');
  await line(page).press('Enter');
  await path(page).focus();
  await keys(page, 'Home', 'ArrowRight', 'ArrowRight', 'Shift+ArrowRight');
  await expect(slot(page, 2)).toHaveAttribute('aria-selected', 'true');
  await expect(slot(page, 3)).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByText('2 places selected')).toBeVisible();
  await keys(page, 'Control+c', 'Home', 'Control+v');
  await expect(line(page)).toHaveValue('down up, down up, miss up, down up');
  await keys(page, 'Shift+ArrowRight', 'e');
  await expect(line(page)).toHaveValue('down up, down up, down up, down up');
  await keys(page, 'Home', 'm', 'Home', '.');
  await expect(line(page)).toHaveValue('down miss, down up, down up, down up');
  await keys(page, 'Home', 'Shift+End');
  await keys(page, 'Control+a', 'l');
  await expect(slot(page, 0)).toHaveAccessibleName('beat 1: down, all strings, palm-muted');
  await page.getByRole('button', { name: 'Build soft to loud' }).click();
  await expect(page.getByTestId('build')).toHaveCount(1);
  await page.getByRole('button', { name: 'Even', exact: true }).click();
  await expect(page.getByTestId('build')).toHaveCount(0);
  await keys(page, 'Escape');
  await path(page).focus();
  await keys(page, '?');
  await expect(page.getByRole('dialog', { name: 'Help: Strum' })).toBeVisible();
});

test('every part of a stroke can be set by hand, and long patterns go on in rows', async ({
  page,
  app,
}) => {
  await openStrum(page, app, 'Ropes at First Light');
  await path(page).focus();
  await keys(page, 'Home', 'p', 'ArrowLeft');
  const stroke = page.getByRole('group', { name: 'Stroke' });
  await stroke.getByRole('button', { name: 'high E' }).click();
  await expect(slot(page, 0)).toHaveAccessibleName(
    'beat 1: pinch the root string and string 1, down',
  );
  await stroke.getByRole('combobox', { name: 'Finger' }).click();
  await page.getByRole('option', { name: 'p, thumb' }).click();
  await expect(line(page)).toHaveValue(/^R\.p\+1\.i miss/);
  await path(page).focus();
  await keys(page, 'b', 'ArrowLeft');
  await stroke.getByRole('button', { name: 'string…' }).click();
  await stroke.getByLabel('fret').fill('2');
  await stroke.getByLabel('fret').press('Enter');
  await expect(slot(page, 0)).toHaveAccessibleName('beat 1: bass note on string 6, fret 2, down');

  await page.getByRole('combobox', { name: 'Length of the pattern' }).click();
  await page.getByRole('option', { name: '8 bars' }).click();
  await expect(path(page).getByRole('option')).toHaveCount(64);
  await expect(path(page).getByRole('group')).not.toHaveCount(1);
  await expect(slot(page, 63)).toHaveAccessibleName('bar 8, beat 4, and: up, all strings');
  await page.getByRole('combobox', { name: 'Length of the pattern' }).click();
  await page.getByRole('option', { name: 'half a bar' }).click();
  await expect(path(page).getByRole('option')).toHaveCount(4);
  await saved(page);
});

test('the shelf is searched, sorted, compared, and knows the same strokes again', async ({
  page,
  app,
}) => {
  await openStrum(page, app, 'Ropes at First Light');
  await look(page, 'Patterns');
  const list = page.getByRole('list', { name: 'Patterns on the shelf' });
  expect(await list.getByRole('listitem').count()).toBeGreaterThanOrEqual(34);
  await page.getByRole('combobox', { name: 'Tag' }).click();
  await page.getByRole('option', { name: 'waltz' }).click();
  await expect(list.getByRole('listitem')).toHaveCount(3);
  await page.getByRole('combobox', { name: 'Tag' }).click();
  await page.getByRole('option', { name: 'any tag' }).click();
  await page.getByRole('combobox', { name: 'Order' }).click();
  await page.getByRole('option', { name: 'easiest first' }).click();
  const scores = await list.getByText(/^difficulty \d+/).allTextContents();
  const numbers = scores.map((text) => Number(/difficulty (\d+)/.exec(text)![1]));
  expect(numbers).toEqual([...numbers].sort((a, b) => a - b));

  await page.getByLabel('Search the patterns').fill('missed three');
  await page.getByRole('button', { name: 'Compare with Missed three', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Comparison' })).toContainText(
    'On 2: down, all strings, accented → down, all strings.',
  );
  const comparison = page.getByRole('region', { name: 'Comparison' });
  await comparison.getByRole('button', { name: 'Close' }).click();
  await page.getByLabel('Search the patterns').fill('');
  await page.getByRole('button', { name: 'Compare with Plain waltz', exact: true }).click();
  await expect(comparison).toContainText('The shorter one goes round again.');
  await expect(comparison.getByRole('button', { name: 'Close' })).toBeInViewport({ ratio: 1 });
  await expect(comparison).toContainText('Length: 4 beats → 3 beats.');
  await expect(comparison).toContainText('On 4: ');
  const [one, two] = await comparison
    .getByRole('group', { name: 'Both patterns' })
    .locator('svg')
    .evaluateAll((drawings) => drawings.map((drawing) => drawing.getBoundingClientRect()));
  expect([two!.x, two!.y, two!.width]).toEqual([one!.x, one!.y, one!.width]);
  await page.getByLabel('Search the patterns').fill('missed three');
  await page.getByRole('button', { name: 'Use Missed three', exact: true }).click();
  await expect(line(page)).toHaveValue(CIRCLE);
  await page.getByLabel('Name of the pattern').fill('Swan walk');
  await page.getByLabel('Tags of the pattern').fill('slow, evening');
  await page.getByLabel('Tags of the pattern').press('Enter');
  await page.getByRole('button', { name: 'Keep on the shelf' }).click();
  await expect(
    page.getByText('“Swan walk” is on the shelf. It has the strokes of “Missed three”.'),
  ).toBeVisible();
  await page.getByLabel('Search the patterns').fill('evening');
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await page.getByRole('button', { name: 'Delete Swan walk' }).click();
  await page.getByRole('button', { name: 'Really delete Swan walk' }).click();
  await expect(page.getByText('“Swan walk” is deleted.')).toBeVisible();
  await expect(list.getByRole('listitem')).toHaveCount(0);
});

test('swing delays the &s that are heard, and a loose pattern varies', async ({ page, app }) => {
  await listen(page);
  await openStrum(page, app, 'Ropes at First Light');
  await line(page).fill('down up, down up, down up, down up');
  await line(page).press('Enter');
  await page.getByLabel('Tempo, quarter').fill('120');
  await page.keyboard.press('Enter');
  await page.getByRole('combobox', { name: 'Feel' }).click();
  await page.getByRole('option', { name: 'swung eighths' }).click();
  await page.getByLabel('How much it swings').fill('75');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect
    .poll(async () => strikeTimes(await sounds(page)).length, { timeout: 12_000 })
    .toBeGreaterThan(6);
  const times = strikeTimes(await sounds(page));
  expect(times[1]! - times[0]!).toBeCloseTo(0.375, 3);
  expect(times[2]! - times[1]!).toBeCloseTo(0.125, 3);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();

  await look(page, 'Variations');
  await page.getByRole('switch', { name: 'Loose' }).click();
  await page.getByRole('button', { name: 'Keep this time round' }).click();
  await expect(line(page)).not.toHaveValue('down up, down up, down up, down up');
  await expect(line(page)).toHaveValue(/^down/);
});

test('a pattern is read aloud, in tones where there is no voice; the arm is measured', async ({
  page,
  app,
}) => {
  await listen(page);
  await openStrum(page, app, 'Ropes at First Light');
  await page.getByRole('button', { name: 'Read it aloud in time' }).click();
  await page.waitForTimeout(3200);
  const all = await sounds(page);
  const voices = await page.evaluate(() => window.speechSynthesis?.getVoices().length ?? 0);
  const tones = all.filter(({ seconds }) => seconds > 0.1 && seconds < 0.2);
  expect(tones).toHaveLength(voices > 0 ? 0 : 6);
  expect(all.filter(isClick)).toHaveLength(4);

  await look(page, 'Arm');
  await page.getByLabel('My limit', { exact: true }).fill('2');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/and yours makes 2\.0: that is reached at 60\.$/)).toBeVisible();
  await page.getByRole('button', { name: /^Slow to 60/ }).click();
  await expect(page.getByLabel('Tempo, quarter')).toHaveValue('60');
  await page.getByRole('button', { name: '20 seconds of taps' }).click();
  await page.evaluate(async () => {
    for (let tap = 0; tap < 46; tap += 1) {
      window.dispatchEvent(new KeyboardEvent('keydown', { key: 'd', bubbles: true }));
      await new Promise((resolve) => setTimeout(resolve, 250));
    }
  });
  await page.getByRole('button', { name: 'I am done' }).click();
  await expect(page.getByText(/^You keep up [78]\.\d moves a second\./)).toBeVisible();
  await page.getByRole('button', { name: 'Make it my limit' }).click();
  await expect(page.getByLabel('My limit', { exact: true })).toHaveValue(/^[78]/);
  const { entries } = await (await page.request.get(`${app.url}/api/log?kind=wrist`)).json();
  expect(entries[0].tempo).toBeGreaterThan(7);
});

test.describe('by touch, on a tablet', () => {
  test.use({ hasTouch: true, viewport: { width: 820, height: 1180 } });

  test('strokes are tapped, and a pattern is played in on two pads', async ({ page, app }) => {
    await listen(page);
    await openStrum(page, app, 'Ropes at First Light');
    const box = (await slot(page, 1).boundingBox())!;
    await page.touchscreen.tap(box.x + box.width / 2, box.y + box.height / 2);
    await expect(slot(page, 1)).toHaveAccessibleName(/miss/);
    await page.touchscreen.tap(box.x + box.width / 2, box.y + box.height / 2);
    await expect(slot(page, 1)).toHaveAccessibleName('beat 1, and: up, all strings');
    await page.getByRole('button', { name: 'Chuck', exact: true }).tap();
    await expect(slot(page, 1)).toHaveAccessibleName('beat 1, and: chuck, up');
    await look(page, 'Tap it in');
    await page.getByRole('button', { name: 'Count me in' }).tap();
    await expect(page.getByText('Tap it: 0 so far')).toBeVisible({ timeout: 8000 });
    await page.getByRole('button', { name: /^Down/ }).last().tap();
    await page.getByRole('button', { name: /^Up/ }).last().tap();
    await expect(page.getByText(/^2 taps|^1 taps/)).toBeVisible({ timeout: 8000 });
    await page.getByRole('button', { name: 'Cancel' }).tap();
    await expect(slot(page, 1)).toHaveAccessibleName('beat 1, and: chuck, up');
  });
});
