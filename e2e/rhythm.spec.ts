import type { Page } from '@playwright/test';
import { expect, goTo, look, openSong, saved, test } from './app';
import { isPluck, listen, sounds, strikeTimes } from './ears';

const panel = (page: Page, name: string) => page.getByRole('region', { name });
const choose = async (page: Page, field: string, option: string | RegExp) => {
  await page.getByRole('combobox', { name: field, exact: true }).click();
  await page.getByRole('option', { name: option }).click();
};

test('a bar, a chord and a section get rhythms of their own, built on Strum', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await look(page, 'Rules');
  await choose(page, 'Strum of Verse', 'Chucked back-beat');
  await expect(page.getByRole('button', { name: 'Bar 1: A', exact: true })).toBeVisible();
  await page.getByRole('button', { name: /^Bar 2:/ }).click();
  await look(page, 'Bar');
  await choose(page, 'Strum of every Bm', 'Bass and strum');
  await expect(
    page.getByRole('button', { name: 'Bar 2: Bm; a strum of its chord, “Bass and strum”' }),
  ).toBeVisible();
  await choose(page, 'Strum of bar 2', 'its own, from what it plays now');
  await expect(page.getByRole('button', { name: 'Bar 2: Bm; a strum of its own' })).toBeVisible();
  await page.getByRole('button', { name: 'Build the strum of bar 2 on Strum' }).click();

  const line = page.getByRole('textbox', { name: 'Say it' });
  await expect(line).toHaveValue('bass miss, down miss, alternate miss, down miss');
  await expect(page.getByRole('combobox', { name: 'Strum of' })).toHaveText('bar 2');
  await line.fill('hold, hold, hold, down up');
  await line.press('Enter');
  await choose(page, 'Strum of', 'the song');
  await expect(line).toHaveValue('down miss, DOWN up, miss up, DOWN up');
  await choose(page, 'Strum of', 'Verse');
  await expect(line).toHaveValue('down miss, chuck up, miss up, chuck up');
  await saved(page);
  await page.reload();
  await choose(page, 'Strum of', 'bar 2');
  await expect(line).toHaveValue('hold, hold, hold, down up');

  // The line of text is edited before it; the rule stays with its bar.
  await goTo(page, 'Song');
  const text = page.getByRole('textbox', { name: 'Progression' });
  await text.fill((await text.inputValue()).replace('A | Bm', 'A | A | Bm'));
  await expect(page.getByRole('button', { name: 'Bar 3: Bm; a strum of its own' })).toBeVisible();
});

test('a bar’s rhythm is said right there, laid elsewhere in a press, and another the second time', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await page.getByRole('button', { name: /^Bar 2:/ }).click();
  await look(page, 'Bar');
  const bar = panel(page, 'The chosen bar');
  const line = bar.getByRole('textbox', { name: 'Say bar 2' });
  await line.fill('R 3, 2 1, R 3, 2 1');
  await line.press('Enter');
  await expect(bar.getByRole('combobox', { name: 'Strum of bar 2' })).toHaveText(
    'its own: Bm, picked',
  );
  const strip = page.getByRole('group', { name: 'Strums of the song' });
  await expect(strip.getByRole('button', { name: /Bm, picked/ })).toContainText('2 bars');
  await bar.getByRole('button', { name: 'on every Bm' }).click();
  await expect(strip.getByRole('button', { name: /Bm, picked/ })).toContainText('3 bars');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(strip.getByRole('button', { name: /Bm, picked/ })).toContainText('2 bars');

  // Pressed on the path: a miss on 1, a chuck on its &, a down on 2.
  await bar.getByRole('group', { name: 'Strokes of bar 2' }).focus();
  for (const key of ['m', 'c', 'ArrowDown']) await page.keyboard.press(key);
  await expect(line).toHaveValue('miss chuck, down 1, R 3, 2 1');
  // And by pointer: a swipe down on the last slot.
  const last = bar.getByRole('option').last();
  const box = (await last.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + 60);
  await page.mouse.up();
  await expect(line).toHaveValue('miss chuck, down 1, R 3, 2 down');

  // Of the two times that its line comes, the second goes otherwise.
  await choose(page, 'Which time the strum is for', 'the second time alone');
  const again = bar.getByRole('textbox', { name: 'Say bar 6' });
  await again.fill('x x, x x, x x, x x');
  await again.press('Enter');
  await expect(strip.getByRole('button', { name: /Bm, chucked/ })).toContainText('1 bar');
  await expect(page.getByRole('button', { name: /^Bar 2:/ })).toHaveAccessibleName(
    'Bar 2: Bm; a strum of its own; the second time “Bm, chucked”',
  );
  await saved(page);
  await page.reload();
  await expect(strip.getByRole('button', { name: /Bm, picked/ })).toContainText('1 bar');
});

test('bass runs go into every change that has room, as the song says, and away again', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await look(page, 'Rules');
  await choose(page, 'Length of the notes of a bass run', 'in quarters');
  const rules = panel(page, 'Rules of the strum');
  await rules.getByRole('button', { name: /^Place them into \d+ changes$/ }).click();
  await expect(rules.getByRole('button', { name: /^Delete \d+ runs$/ })).toBeVisible();
  await page.getByRole('button', { name: /^Bar 2:/ }).click();
  await look(page, 'Bar');
  await expect(panel(page, 'The chosen bar')).toContainText('A run of 2 in quarters');
  await look(page, 'Rules');
  await rules.getByRole('button', { name: /^Delete \d+ runs$/ }).click();
  await expect(rules.getByRole('button', { name: /^Delete/ })).toHaveCount(0);
});

test('chords are typed by their steps of a key, and move with it', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  const text = page.getByRole('textbox', { name: 'Progression' });
  await text.fill('1 | 5 | 6m | 4');
  await expect(page.locator('#progression-problems')).toContainText('name the key');
  await text.fill('Key: G\n1 | 5 | 6m | 4');
  await text.blur();
  const bar = (number: number, chord: string) =>
    page.getByRole('button', { name: `Bar ${number}: ${chord}`, exact: true });
  await expect(bar(3, 'Em')).toBeVisible();
  await page.getByText('I IV V', { exact: true }).click();
  await expect(text).toHaveValue('Key: G\nI | V | vi | IV');
  await text.fill('Key: A\nI | V | vi | IV');
  await text.blur();
  await expect(bar(3, 'F#m')).toBeVisible();
  await page.getByText('names', { exact: true }).click();
  await expect(text).toHaveValue('Key: A\nA | E | F#m | D');
});

test('a shared bar is seen under each rule before one is chosen', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await page.getByRole('button', { name: /^Bar 3:/ }).click();
  await look(page, 'Bar');
  const rules = page.getByRole('group', { name: 'The chords share this bar' });
  await expect(rules.getByRole('button')).toHaveText([
    'keeps going',
    'starts again',
    'half pattern',
    'squeezed',
  ]);
  await rules.getByRole('button', { name: 'squeezed' }).click();
  await expect(page.getByRole('button', { name: 'Bar 3: D, E7; split, squeezed' })).toBeVisible();
  await expect(panel(page, 'The chosen bar')).toContainText('E7 lands on 3, lasts 2 beats');
  await look(page, 'Rules');
  await choose(page, 'Shared bars of the song', 'starts again');
  const different = page.getByRole('list', { name: 'Bars that differ' });
  await expect(different).toContainText('bar 3: split, squeezed');
  await expect(different).toContainText('bar 15: split, starts again with each chord');
  await saved(page);
});

test('a run leads into a chord in time, and says so when it no longer fits', async ({
  page,
  app,
}) => {
  await listen(page);
  await openSong(page, app, 'Slow Water Under Willows');
  await page.getByRole('button', { name: /^Bar 5:/ }).click();
  await look(page, 'Bar');
  const bar = panel(page, 'The chosen bar');
  await bar
    .getByRole('button', { name: /^Hear the run into F/ })
    .first()
    .click();
  await expect.poll(async () => (await sounds(page)).filter(isPluck).length).toBeGreaterThan(3);
  await bar
    .getByRole('button', { name: /^Place a run into F/ })
    .first()
    .click();
  await expect(bar).toContainText('A run of 2 in eighths');
  await expect(
    page.getByRole('heading', { name: /1 of 17 changes carries a run\.$/ }),
  ).toBeVisible();

  await page.getByLabel('First bar of the loop').fill('4');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Bar 4:/ }).click();
  const from = (await sounds(page)).length;
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect
    .poll(async () => strikeTimes((await sounds(page)).slice(from)).length, { timeout: 12_000 })
    .toBeGreaterThan(7);
  // Two notes of the run, then the bass of F: an eighth of 58 dotted quarters a minute apart.
  const eighth = 60 / 58 / 3;
  const times = strikeTimes((await sounds(page)).slice(from));
  expect(times[5]! - times[4]!).toBeCloseTo(eighth, 2);
  expect(times[6]! - times[5]!).toBeCloseTo(eighth, 2);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();

  // In less room it stays wished for, silent, and says why.
  await look(page, 'Progression');
  const text = page.getByRole('textbox', { name: 'Progression' });
  await text.fill((await text.inputValue()).replace('| C\nF | Am', '| . . . . . C\nF | Am'));
  await page.getByRole('button', { name: /^Bar 5:/ }).click();
  await look(page, 'Bar');
  await expect(bar.getByRole('alert')).toContainText('C is too short for 2 notes before F.');
  await saved(page);
});

test('a flag is dragged to another slot, or moved with the keys, and the line agrees', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await page.getByRole('button', { name: /^Bar 3:/ }).click();
  await look(page, 'Bar');
  const flag = page.getByRole('button', { name: 'E7: drag it, or move it with the arrow keys' });
  await flag.focus();
  await page.keyboard.press('ArrowRight');
  await expect(panel(page, 'The chosen bar')).toContainText(
    'E7 lands on the & of 3, lasts 1.5 beats',
  );
  const from = (await flag.boundingBox())!;
  const path = (await panel(page, 'The chosen bar').locator('svg').first().boundingBox())!;
  await page.mouse.move(from.x + 8, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(path.x + path.width * 0.8, from.y + 10, { steps: 5 });
  await page.mouse.up();
  await expect(panel(page, 'The chosen bar')).toContainText('E7 lands on 4, lasts 1 beat');
  await look(page, 'Progression');
  await expect(page.getByRole('textbox', { name: 'Progression' })).toHaveValue(
    /D \. \. E7 \| A x2/,
  );
  await page.keyboard.press('Control+z');
  await page.getByRole('button', { name: 'Undo: move a chord' }).click();
  await expect(page.getByRole('textbox', { name: 'Progression' })).toHaveValue(/Verse:/);
  await saved(page);
});

test('a chord is taken over the bar line with a key, and back; where it cannot go, it is said', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  const line = page.getByRole('textbox', { name: 'Progression' });
  await line.fill('G | Em | C . D .');
  await page.getByRole('button', { name: /^Bar 2:/ }).click();
  await look(page, 'Bar');
  const flag = (symbol: string) =>
    page.getByRole('button', { name: `${symbol}: drag it, or move it with the arrow keys` });
  await flag('Em').focus();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByTestId('save-state')).toContainText('Em lands before its bar');
  await look(page, 'Progression');
  await expect(line).toHaveValue('G | <Em | C D');
  // It hangs in the bar before now, and comes back from there.
  await page.getByRole('button', { name: /^Bar 1:/ }).click();
  await look(page, 'Bar');
  await flag('Em').focus();
  await page.keyboard.press('ArrowRight');
  await look(page, 'Progression');
  await expect(line).toHaveValue('G | Em | C D');
  await page.getByRole('button', { name: /^Bar 1:/ }).click();
  await look(page, 'Bar');
  await flag('G').focus();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByTestId('save-state')).toContainText('Nothing comes before the first bar');
});

test('rhythms lie over the bars: laid by a number, from a menu and by dragging, taken off, undone', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Lanterns Along the Cut');
  const strip = page.getByRole('group', { name: 'Strums of the song' });
  const rhythms = strip.getByRole('button');
  await expect(rhythms.first()).toContainText('Lantern walk');
  const before = await rhythms.count();
  expect(before).toBeGreaterThan(2);
  const bars = page.getByRole('region', { name: 'Bars' });
  const bar = (number: number) => bars.getByRole('button', { name: new RegExp(`^Bar ${number}:`) });
  const mark = (number: number) => bar(number).getByTestId('rhythm-letter');
  await expect(mark(2)).toHaveText('A');
  await bar(2).click();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('2');
  await expect(mark(2)).toHaveText('B');
  await expect(mark(3)).toHaveText('B');
  await page.keyboard.press('0');
  await expect(mark(3)).toHaveText('A');
  await page.getByRole('button', { name: 'Undo: take a rhythm off' }).click();
  await expect(mark(3)).toHaveText('B');
  await page.getByRole('button', { name: /^Undo: lay/ }).click();
  await expect(mark(3)).toHaveText('A');

  await rhythms.nth(1).dragTo(bar(4));
  await expect(mark(4)).toHaveText('B');
  await page.getByRole('button', { name: /^Undo: lay/ }).click();
  await rhythms.nth(1).dragTo(bars.getByRole('heading', { name: 'Intro' }));
  await expect(mark(2)).toHaveText('B');
  await rhythms.nth(1).click();
  await page.getByRole('menuitem', { name: 'D7', exact: true }).click();
  await expect(mark(5)).toHaveText('B');
});

test('loudness is pulled under a name, flags go along in the overview, and a bar is set at its places', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  const document = async () => {
    await saved(page);
    return (await (await fetch(`${app.url}/api/songs/${id}`)).json()).document;
  };
  // A wedge: by keys at one end, by pointer at the other.
  const end = page.getByRole('slider', { name: 'Loudness at the end of Verse' });
  await end.focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(end).toHaveAttribute('aria-valuetext', 'loudest');
  const start = page.getByRole('slider', { name: 'Loudness at the start of Verse' });
  const box = (await start.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 + 12, { steps: 3 });
  await page.mouse.up();
  await expect(start).toHaveAttribute('aria-valuetext', 'very soft');
  const verse = async () =>
    (await document()).sections.find(({ name }: { name: string }) => name === 'Verse');
  expect((await verse()).rules.build).toEqual({ from: 'ghost', to: 'strong' });

  // Bar 3 is shared: its second flag goes to another slot by pointer, and back by a key.
  const bar = page.getByRole('button', { name: /^Bar 3:/ });
  await bar.click();
  const places = async () =>
    (await verse()).lines[0].bars[2].chords.map(({ at }: { at: number }) => at);
  const before = await places();
  const flag = bar.locator('[data-chord]').last();
  const cloth = (await flag.locator('text').boundingBox())!;
  await page.mouse.move(cloth.x + 3, cloth.y + 3);
  await page.mouse.down();
  await page.mouse.move(cloth.x + 60, cloth.y + 3, { steps: 5 });
  await page.mouse.up();
  const moved = await places();
  expect(moved[0]).toBe(before[0]);
  expect(moved[1]).toBeGreaterThan(before[1]);
  await bar.focus();
  for (let step = (moved[1] - before[1]) / 480; step > 0; step -= 1) await page.keyboard.press(',');
  expect(await places()).toEqual(before);

  // What the bar does at its places, where it does it.
  await look(page, 'Bar');
  const marks = page.getByRole('group', { name: 'At the places of this bar' });
  await marks.getByRole('button', { name: 'All stop on 4 and hold' }).click();
  await marks.getByRole('button', { name: 'Leave out the first stroke' }).click();
  expect((await verse()).lines[0].bars[2].rules).toMatchObject({ stop: 2880, skipFirst: true });
  await marks.getByRole('button', { name: /^Strike .* on 3 once and hold it$/ }).click();
  expect((await verse()).lines[0].bars[2].chords[1].fermata).toBe(true);

  // A line that is typed anew says what it could not keep, and is put back.
  await look(page, 'Progression');
  const line = page.getByRole('textbox', { name: 'Progression' });
  const written = await line.inputValue();
  await line.fill('Verse:\nA | Bm');
  await line.blur();
  await expect(
    page.getByRole('status').filter({
      hasText: 'Not kept: the left-out first stroke of bar 3 of Verse, the stop of bar 3',
    }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Put the line back' }).click();
  await expect(line).toHaveValue(written);
  expect((await verse()).lines[0].bars[2].rules).toMatchObject({ stop: 2880, skipFirst: true });
});

test('a triple feel is said, and the arm shuffles', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Strum');
  const line = page.getByRole('textbox', { name: 'Say it' });
  await line.fill('down miss up down miss up down miss up down miss up');
  await line.press('Enter');
  await expect(line).toHaveValue('down miss up, down miss up, down miss up, down miss up');
  await expect(page.getByText(/arm shuffle: down, wait, up/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Turn it down' })).toHaveCount(0);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('8 strokes in 8 arm moves');
});
