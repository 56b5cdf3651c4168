import { expect, goTo, look, openSong, test } from './app';

test('words are typed under a line, kept, sung verse by verse, and a mistake changes nothing', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Slow Water Under Willows');
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  await look(page, 'Lyrics');
  const words = page.getByRole('region', { name: 'Lyrics' });
  const first = words.getByRole('textbox', { name: /^Verse, line 1, verse 1/ });
  await first.fill('Slow | wa- . . ter | un- der | wil- lows');
  await first.press('Enter');
  const bars = page.getByRole('region', { name: 'Bars' });
  await expect(bars.getByText('wil-', { exact: true })).toBeVisible();
  await first.fill('one | two | three | four | five');
  await first.press('Tab');
  await expect(words.getByRole('alert')).toHaveText('The line has 4 bars. Nothing was changed.');
  await expect(bars.getByText('wil-', { exact: true })).toBeVisible();
  await first.fill('Slow | wa- . . ter | un- der | wil- lows');
  await first.press('Tab');
  await expect(words.getByRole('alert')).toHaveCount(0);
  await words.getByRole('button', { name: 'Another verse of Verse' }).click();
  const second = words.getByRole('textbox', { name: /^Verse, line 1, verse 2/ });
  await second.fill('Still | it goes');
  await second.press('Enter');
  const kept = async () => {
    const { document } = (await (await fetch(`${app.url}/api/songs/${id}`)).json()) as {
      document: { sections: { lines: { bars: { rules?: { words?: unknown } }[] }[] }[] };
    };
    return document.sections[0]!.lines[0]!.bars[0]!.rules?.words;
  };
  await expect.poll(kept).toEqual([
    { verse: 1, at: 0, text: 'Slow' },
    { verse: 2, at: 0, text: 'Still' },
  ]);
  const chordpro = await (await fetch(`${app.url}/api/songs/${id}/export.chordpro`)).text();
  expect(chordpro).toContain('[C]Slow [Em]water');
  await page.reload();
  await expect(second).toHaveValue('Still | it goes');
  await page
    .getByRole('button', { name: 'Stand view' })
    .or(page.getByRole('link', { name: 'Stand view' }))
    .click();
  await expect(page.getByLabel('Lyrics')).toContainText('Slow');
  await page.keyboard.press('Escape');
  await goTo(page, 'Sheet');
  await expect(page.getByText('wil-', { exact: true })).toBeVisible();
});

test('a chart of chords over words keeps both', async ({ page, app }) => {
  await page.goto(app.url);
  const chart = ['{title: Towpath Evening}', '[G]Down the tow[C]path, [D]lan[G]terns'].join('\n');
  await page.getByLabel('A song or a chart to open').setInputFiles({
    name: 'towpath.cho',
    mimeType: 'text/plain',
    buffer: Buffer.from(chart),
  });
  await expect(page.getByRole('textbox', { name: 'Name' })).toHaveValue('Towpath Evening');
  await page.getByRole('button', { name: 'Make the song' }).click();
  await goTo(page, 'Song');
  const bars = page.getByRole('region', { name: 'Bars' });
  for (const piece of ['Down the tow-', 'path,', 'lan-', 'terns']) {
    await expect(bars.getByText(piece, { exact: true })).toBeVisible();
  }
});
