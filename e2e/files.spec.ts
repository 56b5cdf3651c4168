import { readFileSync } from 'node:fs';
import { expect, look, openSong, saved, test } from './app';

const SHEET = `{title: Lamps on the Cut}
{tempo: 96}
{time: 3/4}
{capo: 2}
{start_of_verse}
[G]Here is a [Em]line of words
{end_of_verse}
{start_of_chorus}
[C] [D7]
{end_of_chorus}
{chorus}`;

const file = (name: string, text: string) => ({
  name,
  mimeType: 'text/plain',
  buffer: Buffer.from(text),
});

test('a chart is opened, looked through, and becomes a song', async ({ page, app }) => {
  await page.goto(app.url);
  const field = page.getByLabel('A song or a chart to open');
  await field.setInputFiles(file('broken.cho', '[G]fine\nand [C broken'));
  await expect(page.getByRole('alert')).toHaveText(
    '“broken.cho” was not opened: line 2, column 5: This bracket is not closed. Nothing was changed.',
  );
  await field.setInputFiles(file('lamps.cho', SHEET));
  await expect(page.getByLabel('Name')).toHaveValue('Lamps on the Cut');
  const text = page.getByRole('textbox', { name: 'Progression' });
  await expect(text).toHaveValue('Verse:\nG | Em\nChorus:\nC | D7\nOrder: Verse, Chorus, Chorus');
  await page.getByRole('button', { name: 'half a bar' }).click();
  await expect(text).toHaveValue('Verse:\nG Em\nChorus:\nC D7\nOrder: Verse, Chorus, Chorus');
  await page.getByRole('button', { name: 'a bar', exact: true }).click();
  await page.getByRole('button', { name: 'Make the song' }).click();
  await expect(page.getByLabel('Tempo, quarter')).toHaveValue('96');
  await expect(page.getByText('bar 1 of 6')).toBeVisible();
  await expect(page.getByRole('combobox', { name: 'Meter' })).toHaveText('3/4');
});

test('a song goes out as JSON and ChordPro, and comes back as it was', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  const text = page.getByRole('textbox', { name: 'Progression' });
  const written = `${await text.inputValue()}\nOrder: Verse, Chorus, Verse`;
  await text.fill(written);
  await page.getByRole('button', { name: /^Bar 3:/ }).click();
  await look(page, 'Bar');
  await page.getByRole('button', { name: 'squeezed' }).click();
  await saved(page);
  const save = async (name: string) => {
    const downloading = page.waitForEvent('download');
    await page.getByRole('button', { name, exact: true }).click();
    const download = await downloading;
    return {
      name: download.suggestedFilename(),
      text: readFileSync(await download.path(), 'utf8'),
    };
  };
  await look(page, 'Files');
  const json = await save('JSON');
  const chart = await save('ChordPro');
  expect([json.name, chart.name]).toEqual([
    'Ropes-at-First-Light.json',
    'Ropes-at-First-Light.cho',
  ]);

  await page.goto(app.url);
  const field = page.getByLabel('A song or a chart to open');
  await field.setInputFiles(file(json.name, json.text.slice(0, -20)));
  await expect(page.getByRole('alert')).toContainText(
    /line \d+, column \d+: this is not whole JSON\. Nothing was changed\.$/,
  );
  // The song is here: nothing is done before it is said what.
  await field.setInputFiles(file(json.name, json.text));
  const asked = page.getByRole('group', { name: 'A song of this title is on the shelf' });
  await expect(asked).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(asked).toBeHidden();
  const ropes = page.getByRole('link', { name: /^Ropes at First Light/ });
  await expect(ropes).toHaveCount(1);
  await field.setInputFiles(file(json.name, json.text));
  await asked.getByRole('button', { name: 'Keep both' }).click();
  await expect(page.getByRole('button', { name: 'Bar 3: D, E7; split, squeezed' })).toBeVisible();
  await page.goto(app.url);
  await expect(page.getByRole('link', { name: 'Ropes at First Light 2' })).toBeVisible();
  const other = json.text
    .replaceAll('"tempo":92', '"tempo":77')
    .replaceAll('"tempo": 92', '"tempo": 77');
  await field.setInputFiles(file(json.name, other));
  await asked.getByRole('button', { name: 'Replace the one on the shelf' }).click();
  await expect(page.getByRole('button', { name: 'Bar 3: D, E7; split, squeezed' })).toBeVisible();
  await expect(page.getByLabel(/^Tempo/).first()).toHaveValue('77');
  await page.goto(app.url);
  await expect(ropes).toHaveCount(2);
  await page.goto(app.url);
  await field.setInputFiles(file(chart.name, chart.text));
  await expect(page.getByRole('textbox', { name: 'Progression' })).toHaveValue(written);
});

test('MusicXML and MIDI are looked through before they become a song', async ({ page, app }) => {
  const list = await (await page.request.get(`${app.url}/api/songs`)).json();
  const { id } = (list as { id: string; title: string }[]).find(
    ({ title }) => title === 'The Lamplighter’s Round',
  )!;
  for (const [route, name] of [
    ['musicxml', 'round.musicxml'],
    ['mxl', 'round.mxl'],
    ['mxl', 'round.zip'],
    ['mid', 'round.mid'],
  ] as const) {
    const buffer = await (
      await page.request.get(`${app.url}/api/songs/${id}/export.${route}`)
    ).body();
    await page.goto(app.url);
    await page
      .getByLabel('A song or a chart to open')
      .setInputFiles({ name, mimeType: 'application/octet-stream', buffer });
    await expect(page).toHaveURL(/\/new/);
    await expect(page.getByRole('textbox', { name: /^Progression/ })).toHaveValue(
      /F \| Am \| Bb \| F/,
    );
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^\d+ bars, \d+ chords\.$/);
  }
  await page.goto(app.url);
  await page.getByLabel('A song or a chart to open').setInputFiles({
    name: 'evening.pdf',
    mimeType: 'application/pdf',
    buffer: Buffer.from('%PDF-1.7 x'),
  });
  await expect(page.getByRole('alert')).toContainText('it is a PDF file.');
  await page.getByLabel('A song or a chart to open').setInputFiles({
    name: 'other.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"boats": 3}'),
  });
  await expect(page.getByRole('alert')).toContainText('it is JSON of another program.');
});

/** A MIDI file of held chords, three quarters each, that says no meter. */
function waltzFile(): Buffer {
  const chords = [
    [48, 52, 55],
    [43, 47, 50],
    [45, 48, 52],
    [41, 45, 48],
  ];
  const events = [...chords, ...chords].flatMap((pitches) => [
    ...pitches.flatMap((pitch) => [0, 0x90, pitch, 80]),
    ...pitches.flatMap((pitch, at) => [...(at === 0 ? [0x82, 0x68] : [0]), 0x80, pitch, 0]),
  ]);
  const track = [...events, 0, 0xff, 0x2f, 0];
  const header = Buffer.from([0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 120]);
  const length = Buffer.alloc(4);
  length.writeUInt32BE(track.length);
  return Buffer.concat([header, Buffer.from('MTrk'), length, Buffer.from(track)]);
}

test('a MIDI file that says no meter is read in the likeliest, and again in another', async ({
  page,
  app,
}) => {
  await page.goto(app.url);
  await page
    .getByLabel('A song or a chart to open')
    .setInputFiles({ name: 'waltz.mid', mimeType: 'audio/midi', buffer: waltzFile() });
  const text = page.getByRole('textbox', { name: 'Progression' });
  await expect(text).toHaveValue(/C \| G \| Am \| F/);
  await page.getByLabel('Name').fill('Sill Waltz');
  const meters = page.getByRole('group', { name: /does not say its meter/ });
  await expect(meters.getByRole('button', { pressed: true })).toHaveText('3/4');
  await meters.getByRole('button', { name: '6/8' }).click();
  await expect(page.getByRole('combobox', { name: 'Meter' })).toHaveText('6/8');
  await page.getByRole('combobox', { name: 'Meter' }).click();
  await page.getByRole('option', { name: '4/4' }).click();
  await expect(text).toHaveValue(/C \. \. G/);
  await expect(page.getByLabel('Name')).toHaveValue('Sill Waltz');
  await page.getByRole('button', { name: 'Make the song' }).click();
  await expect(page.getByRole('combobox', { name: 'Meter' })).toHaveText('4/4');
});

test('tablature is read into its notes and picks, and goes out again', async ({ page, app }) => {
  await page.goto(app.url);
  const field = page.getByLabel('A song or a chart to open');
  const unsure = ['A|-0--2---3-----5--7-|', 'E|-------------------|', 'C|-------------------|'];
  await field.setInputFiles(file('riff.txt', unsure.join('\n')));
  const asked = page.getByRole('group', { name: /1 bar of its tablature does not say/ });
  await expect(asked.getByRole('button', { pressed: true })).toHaveText('eighths');
  await asked.getByRole('button', { name: 'quarters' }).click();
  await expect(asked.getByRole('button', { pressed: true })).toHaveText('quarters');

  await page.goto(app.url);
  const picked = [
    'Sill picking (capo 2)',
    'Tempo 92',
    '   C                 G',
    'e|-----0-------0---|-----3-------3---|',
    'B|---1---1---1---1-|---0---0---0---0-|',
    'G|-----------------|-----------------|',
    'D|-----------------|-----------------|',
    'A|-3-------3-------|-----------------|',
    'E|-----------------|-3-------3-------|',
  ].join('\n');
  await field.setInputFiles(file('picking.txt', picked));
  await expect(page.getByLabel('Name')).toHaveValue('Sill picking');
  await expect(page.getByRole('textbox', { name: 'Progression' })).toHaveValue('Song:\nC | G');
  await page.getByRole('button', { name: 'Make the song' }).click();
  await expect(page.getByLabel('Tempo, quarter')).toHaveValue('92');
  await page.getByRole('link', { name: 'Song', exact: true }).click();
  await look(page, 'Files');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Tablature' }).click();
  const saved = readFileSync(await (await downloading).path(), 'utf8');
  // The strings are those that were written, with counts under them now.
  for (const row of picked.split('\n').slice(2)) expect(saved).toContain(row);
  expect(saved).toContain('   1 & 2 & 3 & 4 &   1 & 2 & 3 & 4 &');
});

test('a tune in ABC brings its chords, its rhythm and its words', async ({ page, app }) => {
  await page.goto(app.url);
  const tune = [
    'X:1',
    'T:Weir Evening',
    'M:4/4',
    'L:1/8',
    'K:G',
    '"G"vB2 vBuB vB2 vBuB | "C"vB2 vBuB vB2 vBuB |',
    'w: Low-er the lan-terns * slow',
  ].join('\n');
  await page
    .getByLabel('A song or a chart to open')
    .setInputFiles({ name: 'weir.abc', mimeType: 'text/plain', buffer: Buffer.from(tune) });
  await expect(page.getByRole('textbox', { name: 'Name' })).toHaveValue('Weir Evening');
  await page.getByRole('button', { name: 'Make the song' }).click();
  await expect(page.getByRole('textbox', { name: /say|strokes/i }).first()).toHaveValue(
    /down miss, down up, down miss, down up/,
  );
  await page.getByRole('link', { name: 'Song', exact: true }).click();
  await expect(
    page.getByRole('region', { name: 'Bars' }).getByText('lan-', { exact: true }),
  ).toBeVisible();
});

test('from the shelf to a file by keyboard alone takes fewer than sixty keys', async ({
  page,
  app,
}) => {
  await page.goto(app.url);
  await expect(page.getByRole('link', { name: 'Ropes at First Light' })).toBeVisible();
  let keys = 0;
  const press = async (key: string) => {
    keys += 1;
    await page.keyboard.press(key);
  };
  const focused = () =>
    page.evaluate(() => {
      const now = document.activeElement;
      return now?.getAttribute('aria-label') ?? now?.textContent?.trim() ?? '';
    });
  const tabTo = async (name: RegExp) => {
    for (;;) {
      await press('Tab');
      if (name.test(await focused())) return;
      if (keys > 100) throw new Error(`No way to ${String(name)} by the Tab key.`);
    }
  };
  await tabTo(/^Ropes at First Light$/);
  await press('Enter');
  await expect(page.getByRole('button', { name: /^Bar 1:/ })).toBeVisible();
  await tabTo(/^(Progression|Bar|Files)$/);
  // The tools are one group: a press of each is at most a few keys away.
  for (let step = 0; step < 12 && (await focused()) !== 'Files'; step += 1) {
    await press('Tab');
  }
  await press('Enter');
  await tabTo(/^ChordPro/);
  const file = page.waitForEvent('download');
  await press('Enter');
  expect((await file).suggestedFilename()).toMatch(/\.cho|\.pro|\.chordpro/);
  expect(keys).toBeLessThan(60);
});
