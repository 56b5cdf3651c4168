import { expect, goTo, openSong, saved, test } from './app';

test('what cannot be read is underlined in its place, and nothing typed is lost', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  const line = page.getByRole('textbox', { name: 'Progression' });
  await line.fill('A | Hm7 | D E7 A | | D . E7');
  await expect(page.getByTestId('problem')).toHaveText(['Hm7', 'D E7 A', ' ', 'D . E7']);
  await expect(page.getByText('“Hm7” is not a chord we know')).toBeVisible();
  await expect(page.getByText('3 chords cannot share 4 beats equally')).toBeVisible();
  await expect(page.getByText('This bar is empty')).toBeVisible();
  await expect(page.getByText('This bar fills 3 of 4 beats')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Bar \d/ })).toHaveCount(5);

  // The rest still plays.
  await page.getByRole('button', { name: 'Play' }).click();
  await expect(page.getByTestId('riding-hand').first()).toBeVisible({ timeout: 10_000 });
  await page.getByRole('button', { name: 'Stop' }).click();

  await saved(page);
  await page.reload();
  await expect(line).toHaveValue('A | Hm7 | D E7 A |  | D . E7');
  await line.fill('A | Bm7 | D . E7 A | % | D E7');
  await expect(page.getByTestId('problem')).toHaveCount(0);
  await saved(page);
});

test('the line and the bars always agree: meter, undo, and leaving the field', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  const line = page.getByRole('textbox', { name: 'Progression' });
  await line.fill('A|A|D . E7 .');
  await line.blur();
  await expect(line).toHaveValue('A | % | D E7');
  await page.getByRole('combobox', { name: 'Meter' }).click();
  await page.getByRole('option', { name: '3/4' }).click();
  await expect(page.getByRole('heading', { name: /Tightest: .* in 1.5 beats/ })).toBeVisible();
  await page.getByRole('button', { name: 'Undo: change the meter' }).click();
  await page.getByRole('button', { name: 'Undo: write the progression' }).click();
  await expect(line).toHaveValue(/^Verse:\nA \| Bm \| D E7 \| A x2/);
  await page.getByRole('button', { name: 'Redo: write the progression' }).click();
  await expect(line).toHaveValue('A | % | D E7');
});

test('the new-song form keeps what was typed until the song is made', async ({ page, app }) => {
  await page.goto(`${app.url}/new`);
  await page.getByLabel('Name').fill('Half a plan');
  await page.getByRole('combobox', { name: 'Instrument' }).click();
  await page.getByRole('option', { name: 'Ukulele', exact: true }).click();
  await page.getByRole('textbox', { name: 'Progression' }).fill('C | G7 | Hx');
  await page.reload();
  await expect(page.getByLabel('Name')).toHaveValue('Half a plan');
  await expect(page.getByRole('textbox', { name: 'Progression' })).toHaveValue('C | G7 | Hx');
  await expect(page.getByRole('combobox', { name: 'Instrument' })).toHaveText('Ukulele');
  await page.getByRole('button', { name: 'Make the song' }).click();
  await expect(page).toHaveURL(/strum$/);
  await page.goto(`${app.url}/new`);
  await expect(page.getByLabel('Name')).toHaveValue('');
});

test('chords follow the instrument, the capo and the bass school', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Chords');
  await expect(
    page.getByRole('heading', { name: /^6 chords; the bass notes lie on 3 strings/ }),
  ).toBeVisible();
  const bm = page.getByRole('img', { name: /^Bm:/ });
  await expect(bm).toHaveAccessibleName('Bm: 5 strings, from A; bass on A string, fret 2');
  await page.getByRole('combobox', { name: 'Instrument' }).click();
  await page.getByRole('option', { name: 'Ukulele', exact: true }).click();
  await expect(page.getByRole('img', { name: /^Bm: all 4 strings/ })).toBeVisible();
  const fSharp = page.getByRole('img', { name: /^F#m:/ });
  // The thumb of a ukulele has two strings, until its player says otherwise.
  await expect(fSharp).toHaveAccessibleName('F#m: all 4 strings; bass on C string, fret 1');
  await page.getByRole('combobox', { name: 'A bass strike takes' }).click();
  await page.getByRole('option', { name: 'the lowest string that sounds the root' }).click();
  await expect(fSharp).toHaveAccessibleName('F#m: all 4 strings; bass on E string, fret 2');
  await saved(page);
});

test('a song is taken off the shelf only after a question', async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole('button', { name: 'Delete Ropes at First Light' }).click();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('heading', { name: '7 songs on your shelf.' })).toBeVisible();
  await page.getByRole('button', { name: 'Delete Ropes at First Light' }).click();
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.getByRole('heading', { name: '6 songs on your shelf.' })).toBeVisible();
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByRole('heading', { name: '7 songs on your shelf.' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Ropes at First Light' })).toBeVisible();
});

test('the shelf is searched and sorted, and songs of one name are told apart', async ({
  page,
  app,
}) => {
  await page.goto(app.url);
  const list = page.getByRole('list', { name: 'Songs' }).getByRole('listitem');
  await expect(list).toHaveCount(7);
  await page.getByRole('button', { name: 'Duplicate Sluice Gate Sixteens' }).click();
  await expect(list.first()).toContainText('Sluice Gate Sixteens (copy)');
  await page.getByLabel('Search the songs').fill('6/8');
  await expect(list).toHaveCount(1);
  await page.getByLabel('Search the songs').fill('gate sixteens');
  await expect(list).toHaveCount(2);
  // A song shows what it is known by, and is found by its chords.
  await expect(list.first()).toContainText('Em7 G Am7 Cmaj7');
  await page.getByLabel('Search the songs').fill('f#m c#m');
  await expect(list).toHaveCount(1);
  await page.getByLabel('Search the songs').fill('');
  await page.getByRole('combobox', { name: 'Order of the songs' }).click();
  await page.getByRole('option', { name: 'slow to fast' }).click();
  await expect(list.first()).toContainText('at 58');
});

test('a song is asked for where the pointer rests on its name; what is rehearsed for it is not seen', async ({
  page,
  app,
}) => {
  const shelf = await (await fetch(`${app.url}/api/songs`)).json();
  const { id } = shelf.find(({ title }: { title: string }) => title === 'Ropes at First Light');
  const asked: string[] = [];
  const sent: string[] = [];
  page.on('request', (request) => {
    if (request.url().endsWith(`/api/songs/${id}`)) asked.push(request.url());
    if (request.method() !== 'GET') sent.push(request.url());
  });
  await page.goto(app.url);
  // The first song is opened in stores of their own before a player opens one; it asks for the hand's times.
  await page.waitForRequest(/change-times\?strings/);
  await expect(page).toHaveTitle('Shelf · Plucky Wrist');
  await expect(page.getByText('Rehearsal')).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'Strum', exact: true })).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeDisabled();
  await expect(page.getByRole('spinbutton')).toHaveCount(0);

  const name = page.getByRole('link', { name: 'Ropes at First Light' });
  await name.hover();
  await expect.poll(() => asked.length).toBe(1);
  await name.click();
  await expect(page.getByRole('button', { name: /^Bar 1:/ })).toBeVisible();
  await expect(page.getByRole('spinbutton', { name: 'Tempo, quarter' })).toHaveValue('92');
  await expect(page.getByRole('spinbutton', { name: 'Last bar of the loop' })).toHaveValue('20');
  await page.keyboard.press('F8');
  await expect(page.getByRole('region', { name: 'Bars' }).locator(':focus')).toHaveCount(1);
  expect(asked).toHaveLength(1);
  expect(sent).toEqual([]);
});
