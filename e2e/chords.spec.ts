import type { Page } from '@playwright/test';
import { type PlayedStroke, secondVoice, wavOf } from '../bench/secondVoice';
import { readMidiFile } from '../core/formats/smf-reader.test-kit';
import { type App, expect, goTo, openSong, saved, test } from './app';
import { isPluck, listen, sounds } from './ears';

async function chordsOf(page: Page, app: App, title: string): Promise<void> {
  await openSong(page, app, title);
  await goTo(page, 'Chords');
  await expect(page.getByRole('img').first().locator('svg')).toBeVisible();
}

const panel = (page: Page, name: string) =>
  page.getByRole('group', { name: 'Look at' }).getByRole('button', { name }).click();

/** What the cards say of every chord. */
const cards = (page: Page) =>
  page
    .getByRole('group', { name: 'Chords of the song' })
    .getByRole('img')
    // Its words, and where its dots lie: a chord may be held otherwise on as many strings.
    .evaluateAll((all) =>
      all.map((diagram) => {
        const dots = [...diagram.querySelectorAll('circle')].map((dot) =>
          ['cx', 'cy'].map((name) => Math.round(Number(dot.getAttribute(name)))).join(),
        );
        return `${diagram.getAttribute('aria-label')} ${dots.join(' ')}`;
      }),
    );

const songId = (page: Page) => /songs\/([^/]+)/.exec(page.url())![1]!;

async function document(page: Page, app: App) {
  const response = await page.request.get(`${app.url}/api/songs/${songId(page)}`);
  return (await response.json()).document;
}

test('a song is given its smoothest set, but for a locked chord, and gets its own back', async ({
  page,
  app,
}) => {
  await chordsOf(page, app, 'Ropes at First Light');
  const before = await cards(page);
  await page.getByRole('button', { name: 'Shapes of F#m' }).click();
  await page.getByRole('button', { name: 'Lock this shape' }).click();
  await panel(page, 'Changes');
  await page.getByRole('button', { name: 'Find the smoothest set' }).click();
  await expect(page.getByText(/less movement than with the first-choice shapes/)).toBeVisible();
  await page.getByRole('button', { name: 'Use this set' }).click();
  await expect.poll(() => cards(page)).not.toEqual(before);
  const after = await cards(page);
  expect(after.find((card) => card!.startsWith('F#m'))).toBe(
    before.find((card) => card!.startsWith('F#m')),
  );
  await saved(page);
  const kept = await document(page, app);
  expect(kept.chosenShapes.length).toBeGreaterThan(3);
  await page.reload();
  await expect.poll(() => cards(page)).toEqual(after);
});

test('the smoothest set is undone in one step', async ({ page, app }) => {
  await chordsOf(page, app, 'Ropes at First Light');
  const before = await cards(page);
  await panel(page, 'Changes');
  await page.getByRole('button', { name: 'Find the smoothest set' }).click();
  await page.getByRole('button', { name: 'Use this set' }).click();
  await expect.poll(() => cards(page)).not.toEqual(before);
  await page.getByRole('button', { name: 'Undo: take the smoothest set' }).click();
  await expect.poll(() => cards(page)).toEqual(before);
});

test('an own tuning with an own shape is saved and opened again', async ({ page, app }) => {
  await chordsOf(page, app, 'Ropes at First Light');
  await page.getByRole('combobox', { name: 'Instrument' }).click();
  await page.getByRole('option', { name: 'My own tuning…' }).click();
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Lock-keeper’s five');
  await page.getByRole('textbox', { name: /^Strings, from/ }).fill('G4 D3 G3 X B3 D4');
  await page.getByRole('button', { name: 'Use this tuning' }).click();
  await expect(page.getByRole('alert')).toContainText('“X” is not a pitch');
  await page.getByRole('textbox', { name: /^Strings, from/ }).fill('G4 D3 G3 B3 D4');
  await page.getByRole('button', { name: 'Use this tuning' }).click();
  await expect(page.getByRole('combobox', { name: 'Instrument' })).toHaveText('Lock-keeper’s five');
  await expect(page.getByRole('img', { name: /^A: .*strings/ })).toBeVisible();

  await page.getByRole('button', { name: 'Shapes of D', exact: true }).click();
  await page.getByRole('button', { name: 'Draw your own shape' }).click();
  const keys = page.getByRole('table', { name: 'Strings and frets' });
  const clear = keys.getByRole('button', { pressed: true });
  while ((await clear.count()) > 0) await clear.first().click();
  await keys.getByRole('button', { name: 'low D string, left out' }).click();
  await keys.getByRole('button', { name: 'low G string, fret 2' }).click();
  await keys.getByRole('button', { name: 'B string, fret 3' }).click();
  await keys.getByRole('button', { name: 'high D string, fret 4' }).click();
  await expect(page.getByText(/^This is D.*Not held: .*G/)).toBeVisible();
  // The whole shape goes along the neck, and back.
  await page.getByRole('button', { name: 'Shape up a fret' }).click();
  await expect(keys.getByRole('button', { name: 'high D string, fret 5' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.getByRole('button', { name: 'Shape down a fret' }).click();
  await expect(page.getByText(/^This is D/)).toBeVisible();
  await page.getByRole('button', { name: 'Keep for D' }).click();
  await saved(page);
  const kept = await document(page, app);
  expect(kept.ownShapes).toEqual([
    { symbol: 'D', shape: { frets: [null, 0, 2, 3, 4], fingers: [0, 0, 1, 2, 3] } },
  ]);
  await page.reload();
  await expect(page.getByRole('combobox', { name: 'Instrument' })).toHaveText('Lock-keeper’s five');
  await page.getByRole('button', { name: 'Shapes of D', exact: true }).click();
  await expect(page.getByText(/^your own/)).toBeVisible();
});

test('a shape of one’s own is typed, with its fingers, in one go', async ({ page, app }) => {
  await openSong(page, app, 'Ropes at First Light');
  await goTo(page, 'Chords');
  await page.getByRole('button', { name: 'Draw your own shape' }).click();
  const field = page.getByRole('textbox', { name: 'Frets, from the thumb’s side' });
  await expect(field).toBeFocused();
  await expect(field).toHaveValue('x02220');
  await page.keyboard.type('x0222');
  await expect(page.getByText('There are 6 strings, and 5 of them are written.')).toBeVisible();
  await page.keyboard.type('5/--1114');
  await expect(page.getByText('This is A')).toBeVisible();
  // A finger may be set on any dot.
  await page.getByRole('button', { name: 'high E string: finger 4; another' }).click();
  await expect(
    page.getByRole('button', { name: 'high E string: no finger; another' }),
  ).toBeVisible();
  // One finger dragged over the strings of a fret lies on them all; a number sets one that only touches.
  const cell = (name: string) => page.getByRole('button', { name, exact: true });
  await page.getByRole('button', { name: 'Clear' }).click();
  await cell('low E string, fret 3').hover();
  await page.mouse.down();
  await cell('A string, fret 3').hover();
  await cell('D string, fret 3').hover();
  await page.mouse.up();
  await expect(field).toHaveValue('333xxx/111---');
  await page.getByRole('button', { name: 'G string: no finger; another' }).press('1');
  await expect(
    page.getByRole('button', { name: 'G string: finger 1 touches it; another' }),
  ).toBeVisible();
  await expect(field).toHaveValue('333xxx/1111--');
  await field.fill('x02225/--1114');
  await page.keyboard.press('Enter');
  await saved(page);
  const kept = await document(page, app);
  expect(kept.ownShapes).toEqual([
    { symbol: 'A', shape: { frets: [null, 0, 2, 2, 2, 5], fingers: [0, 0, 1, 1, 1, 4] } },
  ]);
});

test('a capo is found and taken: diagrams, bass table, sound and MIDI agree', async ({
  page,
  app,
}) => {
  await listen(page);
  await chordsOf(page, app, 'Ropes at First Light');
  await panel(page, 'Capo');
  await expect(page.getByText('Capo 2 sounds in A major')).toBeVisible();
  await page.getByRole('button', { name: 'Use capo 2, fingered in G major' }).click();
  await expect(page.getByLabel('Capo at fret')).toHaveValue('2');
  await expect(
    page.getByRole('img', { name: /^G: all 6 strings; bass on low E string, fret 3/ }),
  ).toBeVisible();
  await expect(page.getByRole('heading', { name: 'G sounds A', exact: true })).toBeVisible();
  await panel(page, 'Bass table');
  await expect(
    page.getByRole('row', { name: /^G low E string, fret 3 D string, open/ }),
  ).toBeVisible();
  // An alternate bass of one's own; undo gives the usual one again.
  const row = page.getByRole('row', { name: /^C / });
  await page.getByRole('combobox', { name: 'Alternate bass of C' }).click();
  await page.getByRole('option', { name: 'G string, open' }).click();
  await expect(row).toContainText('G string, open, nothing moves');
  await page.getByRole('button', { name: 'Undo: choose an alternate bass' }).click();
  await expect(row).not.toContainText('G string, open, nothing moves');
  await saved(page);

  // The first strike sounds what the song sounded before: A, now as a G behind the capo.
  const url = `${app.url}/api/songs/${songId(page)}`;
  const performance = await (await page.request.get(`${url}/performance`)).json();
  const first = performance.strikes[0];
  expect(first.chord).toBe('G');
  expect(first.notes[0]).toMatchObject({ string: 0, fret: 3, midi: 45 });
  const midi = readMidiFile(await (await page.request.get(`${url}/export.mid`)).body());
  const opening = midi.notes
    .filter((note) => note.tick < 200 && note.channel < 2)
    .map((note) => note.pitch);
  expect(opening).toEqual(first.notes.map((note: { midi: number }) => note.midi));
  expect(new Set(opening.map((pitch) => pitch % 12))).toEqual(new Set([9, 1, 4]));
  await page.getByRole('button', { name: 'Play' }).click();
  await expect
    .poll(async () => (await sounds(page)).filter(isPluck).length, { timeout: 10_000 })
    .toBeGreaterThanOrEqual(6);
  await page.getByRole('button', { name: 'Stop' }).click();

  await page.getByRole('button', { name: 'Undo: take a capo' }).click();
  await expect(page.getByRole('img', { name: /^A: 5 strings/ })).toBeVisible();
});

test('shapes and runs can be heard', async ({ page, app }) => {
  await listen(page);
  await chordsOf(page, app, 'The Lamplighter’s Round');
  await page.getByRole('button', { name: 'Shapes of Bb' }).click();
  await page.getByRole('button', { name: 'Hear Bb this way' }).first().click();
  await expect.poll(async () => (await sounds(page)).filter(isPluck).length).toBe(4);
  await panel(page, 'Changes');
  await page.getByRole('list', { name: 'Bass runs' }).getByRole('button').first().click();
  await expect.poll(async () => (await sounds(page)).filter(isPluck).length).toBeGreaterThan(12);
});

test('another instrument re-voices every chord and says what it lacks', async ({ page, app }) => {
  await chordsOf(page, app, 'Sluice Gate Sixteens');
  for (const name of ['Mandolin', 'Tenor banjo', 'Guitar, open D', 'Baritone ukulele']) {
    await page.getByRole('combobox', { name: 'Instrument' }).click();
    await page.getByRole('option', { name, exact: true }).click();
    await expect(
      page.getByRole('group', { name: 'Chords of the song' }).getByRole('img'),
    ).toHaveCount(6);
  }
  await page.getByRole('combobox', { name: 'Instrument' }).click();
  await page.getByRole('option', { name: 'My own tuning…' }).click();
  await page.getByRole('textbox', { name: /^Strings, from/ }).fill('C3 C4 C5');
  await page.getByRole('spinbutton', { name: 'Frets' }).fill('5');
  await page.getByRole('button', { name: 'Use this tuning' }).click();
  await expect(page.getByText(/No good shape on My baritone ukulele for Em7/)).toBeVisible();
});

test('a word that names no chord is asked about, and mended with one press', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  const line = page.getByRole('textbox', { name: 'Progression' });
  await line.fill('A | Am77 | N.C. | D');
  await expect(page.getByText('“Am77” is not a chord we know')).toBeVisible();
  await page.getByRole('button', { name: 'Am7', exact: true }).click();
  await expect(line).toHaveValue('A | Am7 | N.C. | D');
  await expect(page.getByTestId('problem')).toHaveCount(0);
});

test('a diagram that was drawn before is there again as it was, and one that changed is not', async ({
  page,
  app,
}) => {
  await chordsOf(page, app, 'Ropes at First Light');
  const drawn = () =>
    page
      .getByRole('group', { name: 'Chords of the song' })
      .getByRole('img')
      .evaluateAll((all) => all.map((diagram) => diagram.innerHTML));
  await expect.poll(async () => (await drawn()).every((one) => one.includes('<svg'))).toBe(true);
  const before = await drawn();
  expect(new Set(before).size).toBe(6);
  // Copies of one drawing stand on one page: none may carry a name that is meant to be the only one.
  expect(before.join()).not.toMatch(/ id="/);
  // What they were drawn in is gone.
  await expect(page.locator('body > div')).toHaveCount(1);
  await goTo(page, 'Song');
  await goTo(page, 'Chords');
  await expect.poll(drawn).toEqual(before);
  await page.getByRole('button', { name: 'Draw for the left-handed' }).click();
  await expect.poll(async () => (await drawn()).filter((one) => before.includes(one))).toEqual([]);
  await page.getByRole('button', { name: 'Draw for the left-handed' }).click();
  await expect.poll(drawn).toEqual(before);
});

test('diagrams are drawn the other way round for the left-handed, and stay so', async ({
  page,
  app,
}) => {
  await chordsOf(page, app, 'Ropes at First Light');
  const names = () =>
    page
      .getByRole('group', { name: 'Chords of the song' })
      .getByRole('img')
      .first()
      .locator('text')
      .allTextContents();
  const right = (await names()).filter((text) => /^[A-G]$/.test(text));
  await page.getByRole('button', { name: 'Draw for the left-handed' }).click();
  await expect
    .poll(async () => (await names()).filter((text) => /^[A-G]$/.test(text)))
    .toEqual(right.toReversed());
  await page.reload();
  await expect
    .poll(async () => (await names()).filter((text) => /^[A-G]$/.test(text)))
    .toEqual(right.toReversed());
});

test('a song is transposed on Chords or on Song, with the sharps and flats of its key', async ({
  page,
  app,
}) => {
  await openSong(page, app, 'Ropes at First Light');
  const line = page.getByRole('textbox', { name: 'Progression' });
  await page.getByRole('combobox', { name: 'Transpose to' }).click();
  await page.getByRole('option', { name: 'Bb major' }).click();
  await expect(line).toHaveValue(/^Verse:\nBb \| Cm \| Eb F7 \| Bb x2/);
  await goTo(page, 'Chords');
  await page.getByRole('button', { name: 'A semitone down' }).click();
  await expect(page.getByRole('button', { name: 'Shapes of C#m' })).toBeVisible();
  await goTo(page, 'Song');
  await expect(line).toHaveValue(/^Verse:\nA \| Bm \| D E7 \| A x2/);
  await page.getByRole('button', { name: 'Undo: transpose the song' }).click();
  await expect(line).toHaveValue(/^Verse:\nBb/);
});

test('a shape is plucked string by string, and it says which one does not ring', async ({
  page,
  app,
}) => {
  await chordsOf(page, app, 'Slow Water Under Willows');
  await panel(page, 'Does it ring?');
  await page.getByRole('button', { name: 'Shapes of C' }).click();
  const ring = page.getByRole('region', { name: 'Does it ring?' });
  await expect(ring.getByRole('button', { name: 'Listen to C' })).toBeVisible();
  /** C on a guitar, from the A string on, a second and a half apart. */
  const strings: [number, number][] = [
    [1, 48],
    [2, 52],
    [3, 55],
    [4, 60],
    [5, 64],
  ];
  const send = async (some: [number, number][]) => {
    const strokes = some.map(([string, midi], order): PlayedStroke => ({
      seconds: order * 1.5,
      kind: 'pick',
      dir: 'down',
      velocity: 0.8,
      notes: [{ string, midi, delay: 0, velocity: 0.8 }],
      damps: [],
    }));
    const samples = secondVoice(strokes, { sampleRate: 32_000, lead: 0.6, noise: 46 });
    await ring.locator('input[type=file]').setInputFiles({
      name: 'c.wav',
      mimeType: 'audio/wav',
      buffer: Buffer.from(wavOf(samples, 32_000)),
    });
  };
  await send(strings);
  await expect(ring.getByRole('heading')).toHaveText('Every string rings.', { timeout: 15_000 });
  await send(strings.filter(([string]) => string !== 3));
  await expect(ring.getByRole('heading')).toHaveText(
    '4 of 5 strings ring. The G string was not heard.',
    { timeout: 15_000 },
  );
  // The B string a whole tone too high.
  await send(strings.map(([string, midi]) => [string, string === 4 ? midi + 2 : midi]));
  await expect(ring.getByText(/The B string is 2 semitones higher/).first()).toBeVisible({
    timeout: 15_000,
  });
});
