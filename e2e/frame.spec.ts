import type { Locator, Page } from '@playwright/test';
import { expect, goTo, look, openSong, saved, slot, test } from './app';

/** The one frame of all stations: what is worked on stays in sight, and the tools beside it. */

const SONG = 'Ropes at First Light';
const stageBar = (page: Page) => page.getByRole('contentinfo', { name: 'Stage bar' });

/** Every one of these lies whole between the header and the stage bar. */
async function inSight(page: Page, ...all: Locator[]): Promise<void> {
  const bar = (await stageBar(page).boundingBox())!;
  const { width } = page.viewportSize()!;
  for (const one of all) {
    const box = (await one.boundingBox())!;
    expect(box, String(one)).not.toBeNull();
    expect(box.y, String(one)).toBeGreaterThanOrEqual(0);
    expect(box.y + box.height, String(one)).toBeLessThanOrEqual(bar.y + 1);
    expect(box.x + box.width, String(one)).toBeLessThanOrEqual(width + 1);
  }
}

/** Nothing is wider than the window. */
async function notTooWide(page: Page): Promise<void> {
  const over = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
  expect(over).toBeLessThanOrEqual(0);
}

test.describe('at 1280x800, as it is found', () => {
  test.beforeEach(async ({ page }) => {
    await page.addInitScript(() => localStorage.removeItem('plucky-wrist:settings-open'));
  });

  test('Strum shows path, line, strokes and the open tool at once', async ({ page, app }) => {
    await openSong(page, app, SONG);
    await goTo(page, 'Strum');
    const path = page.getByRole('listbox', { name: 'Strokes of the pattern' });
    await path.focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowDown');
    const all = [
      page.getByRole('heading', { level: 1 }),
      page.getByRole('button', { name: /^Settings: / }),
      path,
      page.getByRole('textbox', { name: 'Say it' }),
      page.getByRole('group', { name: 'Strokes' }).first(),
      page.getByRole('group', { name: 'Look at' }),
    ];
    await inSight(page, ...all);
    for (const tool of ['Variations', 'Tap it in', 'Patterns', 'Arm', 'Chords', 'Stroke']) {
      await look(page, tool);
      await inSight(page, ...all);
    }
    const bar = (await stageBar(page).boundingBox())!;
    expect(bar.height).toBeLessThanOrEqual(72);
  });

  test('Song shows four rows of four bars beside the open tool', async ({ page, app }) => {
    await openSong(page, app, SONG);
    for (const tool of ['Progression', 'Bar', 'Order', 'Rules', 'Files']) {
      await look(page, tool);
      await inSight(
        page,
        ...[1, 4, 9, 12, 13, 16, 17, 20].map((bar) =>
          page.getByRole('button', { name: new RegExp(`^Bar ${bar}:`) }),
        ),
      );
    }
  });

  test('Chords shows all six chords beside the open tool', async ({ page, app }) => {
    await openSong(page, app, SONG);
    await goTo(page, 'Chords');
    const cards = page.getByRole('button', { name: /^Shapes of / });
    await expect(cards).toHaveCount(6);
    await inSight(page, ...(await cards.all()), page.getByRole('group', { name: 'Look at' }));
  });
});

test('tools fold away with a key, stay folded, and the open one is in the address', async ({
  page,
  app,
}) => {
  await openSong(page, app, SONG);
  await goTo(page, 'Strum');
  await expect(page).toHaveTitle(`Strum · ${SONG} · Plucky Wrist`);
  await look(page, 'Arm');
  await expect(page).toHaveURL(/tool=arm/);
  await page.reload();
  const arm = page.getByRole('button', { name: 'Arm', exact: true });
  await expect(arm).toHaveAttribute('aria-pressed', 'true');
  await goTo(page, 'Song');
  await page.goBack();
  await expect(arm).toHaveAttribute('aria-pressed', 'true');

  await slot(page, 0).click();
  await page.keyboard.press('F9');
  await expect(page.getByRole('region', { name: 'Tools' }).locator(':focus')).toHaveCount(1);
  await page.keyboard.press('F9');
  await expect(page.getByRole('region', { name: 'Tools' })).toBeHidden();
  await expect(page.getByRole('listbox', { name: 'Strokes of the pattern' })).toBeFocused();
  await page.reload();
  await expect(page.getByRole('listbox', { name: 'Strokes of the pattern' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Tools' })).toBeHidden();
  await page.keyboard.press('F9');
  await expect(page.getByRole('region', { name: 'Tools' })).toBeVisible();
  const play = page.getByRole('button', { name: 'Play', exact: true });
  // It comes a moment after the station.
  await expect(play).toBeVisible();
  await page.keyboard.press('F4');
  await expect(play).toBeFocused();
  await page.keyboard.press('F2');
  await expect(page.locator('header :focus')).toHaveCount(1);
  await page.keyboard.press('F8');
  await expect(page.getByRole('listbox', { name: 'Strokes of the pattern' })).toBeFocused();
});

test('the tempo is tapped, halved and doubled, and what is done to it is seen', async ({
  page,
  app,
}) => {
  await openSong(page, app, SONG);
  const tempo = page.getByLabel('Tempo, quarter');
  await page.keyboard.press(',');
  await expect(tempo).toHaveValue('46');
  await page.keyboard.press('.');
  await expect(tempo).toHaveValue('92');
  const tap = page.getByRole('button', { name: 'Tap tempo' });
  // Tapped inside the page, and held against what its own clock says of the gaps.
  const beatsAMinute = await tap.evaluate(async (button: HTMLElement) => {
    const times: number[] = [];
    for (let beat = 0; beat < 6; beat += 1) {
      button.addEventListener('click', ({ timeStamp }) => times.push(timeStamp), { once: true });
      button.click();
      await new Promise((resolve) => setTimeout(resolve, 450));
    }
    const gaps = times.slice(1).map((time, index) => time - times[index]!);
    return 60_000 / gaps.sort((a, b) => a - b)[2]!;
  });
  expect(Math.abs(Number(await tempo.inputValue()) - beatsAMinute)).toBeLessThan(2);
  await saved(page);
});

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

  test('path and strokes, bars two in a row, and one row of stage bar', async ({ page, app }) => {
    await page.addInitScript(() => localStorage.removeItem('plucky-wrist:settings-open'));
    await openSong(page, app, SONG);
    const first = (await page.getByRole('button', { name: /^Bar 1:/ }).boundingBox())!;
    const second = (await page.getByRole('button', { name: /^Bar 2:/ }).boundingBox())!;
    const third = (await page.getByRole('button', { name: /^Bar 3:/ }).boundingBox())!;
    expect(second.y).toBeCloseTo(first.y, 0);
    expect(third.y).toBeGreaterThan(first.y + 20);
    expect((await stageBar(page).boundingBox())!.height).toBeLessThanOrEqual(72);

    await goTo(page, 'Strum');
    const path = page.getByRole('listbox', { name: 'Strokes of the pattern' });
    await inSight(page, path, page.getByRole('group', { name: 'Strokes' }));
    const words = path.locator('text').filter({ hasText: /^1$/ }).first();
    expect((await words.boundingBox())!.height).toBeGreaterThan(11);
    await look(page, 'Variations');
    await inSight(page, page.getByRole('button', { name: 'Beats only' }));
    const seen = (await path.boundingBox())!;
    const sheet = (await page.getByRole('region', { name: 'Tools' }).boundingBox())!;
    expect(sheet.y - seen.y).toBeGreaterThan(100);

    await page.getByRole('button', { name: 'More of the stage bar' }).tap();
    await expect(page.getByRole('combobox', { name: 'Count-in' })).toBeVisible();
  });

  test('the stand view lies within the screen, is left by touch and plays where it says so', async ({
    page,
    app,
  }) => {
    await openSong(page, app, SONG);
    await page.getByRole('button', { name: 'More of the stage bar' }).tap();
    await page.getByRole('button', { name: 'Stand view' }).tap();
    const stand = page.getByRole('region', { name: 'Stand view' });
    await notTooWide(page);
    for (const name of ['Leave', 'Play']) {
      const box = (await stand.getByRole('button', { name, exact: true }).boundingBox())!;
      expect(box.x + box.width).toBeLessThanOrEqual(390);
      expect(box.y + box.height).toBeLessThanOrEqual(844);
    }
    await page.touchscreen.tap(190, 420);
    await expect(stand.getByRole('button', { name: 'Play' })).toBeVisible();
    await stand.getByRole('button', { name: 'Play' }).tap();
    await expect(stand.getByRole('button', { name: 'Stop' })).toBeVisible();
    await stand.getByRole('button', { name: 'Leave' }).tap();
    await expect(page).toHaveURL(/song(\?|$)/);
  });

  for (const width of [390, 360, 320]) {
    test(`nothing is wider than ${width}`, async ({ page, app }) => {
      await page.setViewportSize({ width, height: 844 });
      await page.goto(app.url);
      await expect(page.getByRole('link', { name: SONG })).toBeVisible();
      await notTooWide(page);
      await openSong(page, app, SONG);
      await notTooWide(page);
      for (const station of ['Strum', 'Chords']) {
        await goTo(page, station);
        await page.waitForTimeout(400);
        await notTooWide(page);
      }
    });
  }
});
