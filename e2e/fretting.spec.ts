import type { Page } from '@playwright/test';
import { type App, expect, goTo, look, openSong, test } from './app';

interface Note {
  string: number;
  fret: number;
  legato?: { how: string; from: number };
  passing?: boolean;
}
interface Strike {
  tick: number;
  bar: number;
  kind: string;
  notes: Note[];
}

async function strikesOf(page: Page, app: App): Promise<Strike[]> {
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  const answered = await fetch(`${app.url}/api/songs/${id}/performance`);
  return ((await answered.json()) as { strikes: Strike[] }).strikes;
}

test('a pinch and a hammer-on an eighth later, typed, and with keys alone', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Strum');
  const line = page.getByLabel('Say it');
  await line.fill('R+R+3^-2 hammer, miss miss, down up, down up');
  await line.press('Enter');
  const slot = (index: number) => page.getByRole('option').nth(index);
  await expect(slot(1)).toHaveAccessibleName(/hammer-on to the shape, the arm passes/);
  await expect(answer(page)).toHaveText(/1 of them by the fretting hand/);
  const [pinch, hammer] = await strikesOf(page, app);
  expect(pinch!.notes.map(({ fret }) => fret)).toEqual([0, 0]);
  expect(hammer!.kind).toBe('legato');
  expect(hammer!.notes[0]).toMatchObject({
    string: 4,
    fret: 2,
    legato: { how: 'hammer', from: 0 },
  });

  // With keys: G on a slot sounds it with the fretting hand, and goes on to the next way.
  await page.getByRole('listbox').focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('g');
  await expect(slot(2)).toHaveAccessibleName(/hammer-on/);
  // Nothing is left to be hammered on: it says so, and where.
  await expect(page.getByRole('status', { name: 'The fretting hand' })).toContainText(
    'nothing rings that it would change',
  );
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('g');
  await expect(slot(2)).toHaveAccessibleName(/pull-off/);
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('m');
  await expect(page.getByRole('status', { name: 'The fretting hand' })).toBeHidden();

  // An ornament, and the pick that rests on the next string.
  await page.keyboard.press('Home');
  await page.keyboard.press('w');
  await page.keyboard.press('v');
  await expect(slot(0)).toHaveAccessibleName(/comes to rest on the next string.*hammered on/);
});

const answer = (page: Page) => page.getByRole('heading', { level: 1 });

test('a tune between the strums, a tag, and a chord that slides up the neck', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Song');
  await look(page, 'Bar');
  await page.getByRole('button', { name: 'Notes in this bar' }).click();
  const notes = page.getByLabel('Notes', { exact: true });
  await notes.fill('1 s2f2 & boom');
  await expect(page.getByText(/“boom” is no note/)).toBeVisible();
  await notes.fill('1 s3f2 & pull s3f0 2 hammer s3f2 3 s4f2');
  await notes.press('Enter');
  await expect(page.getByText(/Play these without lifting/)).toBeVisible();
  await page.getByRole('combobox', { name: 'How notes and strum meet' }).click();
  await page.getByRole('option', { name: 'the notes alone' }).click();
  const first = (await strikesOf(page, app)).filter(({ bar }) => bar === 0);
  expect(first.map(({ tick, kind }) => [tick, kind])).toEqual([
    [0, 'pick'],
    [480, 'legato'],
    [960, 'legato'],
    [1920, 'pick'],
  ]);
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  const file = await (await fetch(`${app.url}/api/songs/${id}/export.musicxml`)).text();
  expect(file).toContain('<pull-off type="start"');
  expect(file).toContain('<hammer-on type="stop"');

  await page.getByRole('button', { name: 'Delete the notes' }).click();
  await expect(notes).toHaveValue('');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(notes).toHaveValue('1 s3f2 & pull s3f0 2 hammer s3f2 3 s4f2');

  // The demo has a chord that goes up the neck on the & of 2.
  await openSong(page, app, 'Mooring Pins');
  await goTo(page, 'Song');
  const slid = (await strikesOf(page, app)).filter(
    ({ kind, bar }) => kind === 'legato' && bar === 8,
  );
  expect(slid).toHaveLength(1);
  expect(slid[0]!.tick % 3840).toBe(1440);
  expect(slid[0]!.notes.filter(({ passing }) => !passing).map(({ fret }) => fret)).toEqual([5, 7]);
  await page.getByRole('button', { name: /^Bar 9/ }).click();
  await look(page, 'Bar');
  const arrival = page.getByRole('combobox', { name: "How Em' is first struck" });
  await expect(arrival).toHaveText('slid into');
  await arrival.click();
  await page.getByRole('option', { name: 'bass note first' }).click();
  const struck = (await strikesOf(page, app)).find(({ tick }) => tick === slid[0]!.tick)!;
  expect(struck.kind).not.toBe('legato');
});

test('notes are put on the neck by keys, tapped while the bar sounds, and taken away at once', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Song');
  await look(page, 'Notes');
  const neck = page.getByRole('grid', { name: 'The neck' });
  const line = page.getByLabel('Notes', { exact: true });
  // The neck is one stop of the Tab key; arrows go about on it.
  const press = async (keys: string) => {
    for (const key of keys.split(' ')) await page.keyboard.press(key);
  };
  await neck.getByRole('button', { name: 'String 6, open' }).focus();
  await press('ArrowDown ArrowDown ArrowDown ArrowRight ArrowRight Enter');
  await expect(line).toHaveValue('1 s3f2');
  await press('ArrowLeft ArrowLeft Enter ArrowUp ArrowRight ArrowRight Enter');
  await expect(line).toHaveValue('1 s3f2 & s3f0 2 s4f2');
  await press('Backspace');
  await expect(line).toHaveValue('1 s3f2 & s3f0');
  const places = page.getByRole('group', { name: 'Places of the bar' });
  await expect(places.getByRole('button', { name: 'On 2: no note' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  // What the fretting hand sounds, on a place of its own.
  await places.getByRole('button', { name: 'On 3: no note' }).click();
  await page.getByRole('group', { name: 'How the note sounds' }).getByText('hammer').click();
  await neck.getByRole('button', { name: 'String 3, fret 4' }).click();
  await expect(line).toHaveValue('1 s3f2 & s3f0 3 hammer s3f4');

  // The bar goes round by itself, and what is tapped falls where it is heard.
  await page.getByRole('group', { name: 'How the note sounds' }).getByText('struck').click();
  await page.getByRole('combobox', { name: 'Notes fall on' }).click();
  await page.getByRole('option', { name: 'beats', exact: true }).click();
  await page.getByRole('button', { name: 'Loop these' }).click();
  await page.getByRole('spinbutton', { name: /^Tempo/ }).fill('60');
  await page.getByRole('spinbutton', { name: /^Tempo/ }).press('Enter');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForFunction(() => document.body.textContent?.includes('as you hear the bar'));
  const before = await line.inputValue();
  await neck.getByRole('button', { name: 'String 1, fret 3' }).click();
  await expect(line).not.toHaveValue(before);
  expect(await line.inputValue()).toMatch(/\b[1-4] s1f3\b/);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();

  await goTo(page, 'Strum');
  await look(page, 'Variations');
  await page.getByRole('button', { name: 'Without notes' }).click();
  await expect(page.getByRole('button', { name: 'Without notes' })).toBeHidden();
  expect(
    (await strikesOf(page, app)).filter(({ bar, kind }) => bar === 0 && kind === 'legato'),
  ).toEqual([]);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('button', { name: 'Without notes' })).toBeVisible();
});
