import type { Page } from '@playwright/test';
import { expect, goTo, look, saved, slot, test } from './app';

/** The first hour of a player, three times: with a mouse, by keys alone, and with a finger on a phone. */
interface Hand {
  /** Presses a button, a link or a field. */
  press: (page: Page, role: 'button' | 'link', name: string | RegExp) => Promise<void>;
  /** Strikes a take down and up in turn, as the hand has it. */
  strike: (page: Page, way: 'down' | 'up') => Promise<void>;
  /** Takes the place of a stroke. */
  place: (page: Page, at: number) => Promise<void>;
}

const named = (page: Page, role: 'button' | 'link', name: string | RegExp) =>
  page.getByRole(role, { name, exact: typeof name === 'string' }).first();
const pad = (page: Page, way: 'down' | 'up') =>
  page.getByRole('button', { name: way === 'down' ? 'Down' : 'Up', exact: true }).last();

const MOUSE: Hand = {
  press: (page, role, name) => named(page, role, name).click(),
  strike: (page, way) => pad(page, way).dispatchEvent('pointerdown'),
  place: (page, at) => slot(page, at).click(),
};
const KEYS: Hand = {
  press: async (page, role, name) => {
    await named(page, role, name).focus();
    await page.keyboard.press('Enter');
  },
  strike: (page, way) => page.keyboard.press(way === 'down' ? 'f' : 'j'),
  place: async (page, at) => {
    await page.getByRole('listbox').first().focus();
    await page.keyboard.press('Home');
    for (let step = 0; step < at; step += 1) await page.keyboard.press('ArrowRight');
  },
};
const FINGER: Hand = {
  press: (page, role, name) => named(page, role, name).tap(),
  strike: MOUSE.strike,
  place: (page, at) => slot(page, at).tap(),
};

/** From an empty page to a verdict with its next step, and a sheet of it. */
async function firstHour(page: Page, url: string, hand: Hand): Promise<void> {
  await page.goto(url);
  await hand.press(page, 'button', 'New song');
  await page.getByLabel('Name').fill('Lantern Lines');
  await page.getByRole('textbox', { name: 'Progression' }).fill('C | Am | F | G');
  await expect(page.getByRole('button', { name: 'Bar 4: G' })).toBeVisible();
  await hand.press(page, 'button', 'Make the song');

  // A strum: its first stroke becomes a bass note; that is heard, and stopped, where Play is.
  await expect(slot(page, 0)).toBeVisible();
  await hand.place(page, 0);
  await page.keyboard.press('b');
  await expect(slot(page, 0)).toHaveAccessibleName('beat 1: bass note, down');
  await saved(page);
  await hand.press(page, 'button', 'Play');
  await expect(page.getByTestId('riding-hand')).toBeVisible({ timeout: 15_000 });
  await hand.press(page, 'button', 'Stop');

  // A take: the one Play of the screen is the take, and says so.
  await goTo(page, 'Practice');
  await look(page, 'Ladder');
  await hand.press(page, 'button', /^In full/);
  await look(page, 'Listen');
  await hand.press(page, 'button', 'Taps');
  const plays = page.getByRole('button', { name: /^(Play|Tap a take|Record a take|Play along)$/ });
  await expect(plays).toHaveCount(1);
  await expect(plays).toBeInViewport();
  const fold = page.getByRole('button', { name: 'Fold the tools away' });
  if ((page.viewportSize()?.width ?? 0) < 600) await fold.tap();
  await hand.press(page, 'button', 'Tap a take');
  await expect(page.getByText('Play.', { exact: true })).toBeVisible({ timeout: 15_000 });
  for (let stroke = 0; stroke < 14; stroke += 1) {
    await hand.strike(page, 'down');
    await page.waitForTimeout(350);
  }
  await hand.press(page, 'button', 'Stop and judge');
  const verdict = page.getByRole('heading', { level: 1 });
  await expect(verdict).toHaveText(/^This take|^You played|strokes|landing/, { timeout: 15_000 });
  await expect(verdict).toBeInViewport();
  await expect(plays).toBeInViewport();
  // What comes next has the focus, and is in sight.
  await expect(page.locator('.card button:focus')).toBeInViewport();

  await goTo(page, 'Sheet');
  await expect(page.getByText('Lantern Lines').first()).toBeVisible();
}

test('the first hour with a mouse: a song, its strum, a take, a verdict, a sheet', async ({
  page,
  app,
}) => {
  await firstHour(page, app.url, MOUSE);
});

test('the first hour by keys alone', async ({ page, app }) => {
  await firstHour(page, app.url, KEYS);
});

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

  test('the first hour with a finger', async ({ page, app }) => {
    await firstHour(page, app.url, FINGER);
  });

  /** What is drawn to scale cannot be larger than it is: places on the path, signs of a bar, flags. */
  const DRAWN = '[role=option], .marks *, .handle';

  /**
   * Of all that can be pressed and is seen, what is under a fingertip's 44 pixels and has something else within
   * them: its name, and what is too near.
   */
  const crowded = (page: Page) =>
    page.evaluate((drawn) => {
      const LEAST = 44;
      const wanted =
        'button, a[href], input, select, textarea, summary, [role=slider], [role=combobox], label.file';
      const own = (element: Element) =>
        element.closest('.p-toggleswitch, .p-checkbox, .p-select, .p-slider, .p-inputnumber') ??
        element;
      const seen = (element: Element) => {
        const { left, top, width, height } = own(element).getBoundingClientRect();
        if (width < 2 || height < 2 || !element.checkVisibility()) return false;
        const on = document.elementFromPoint(left + width / 2, top + height / 2);
        return on !== null && (own(element).contains(on) || on.contains(element));
      };
      const name = (element: Element) =>
        (element.getAttribute('aria-label') ?? element.textContent).trim().slice(0, 30);
      const all = [...document.querySelectorAll(wanted)]
        .filter((one) => !one.matches(`:disabled, .heard-only, ${drawn}`) && seen(one))
        .map((one) => ({ one, box: own(one).getBoundingClientRect() }));
      return all.flatMap(({ one, box }) => {
        if (box.width >= LEAST - 0.5 && box.height >= LEAST - 0.5) return [];
        const across = Math.max(LEAST, box.width) / 2 - 0.5;
        const down = Math.max(LEAST, box.height) / 2 - 0.5;
        const [x, y] = [box.left + box.width / 2, box.top + box.height / 2];
        const near = all.find(
          ({ one: other, box: its }) =>
            own(other) !== own(one) &&
            !other.contains(one) &&
            its.left < x + across &&
            its.right > x - across &&
            its.top < y + down &&
            its.bottom > y - down,
        );
        return near ? [`${name(one)} is by ${name(near.one)}`] : [];
      });
    }, DRAWN);

  test('all that is pressed is as large as a fingertip, or has that much around it', async ({
    page,
    app,
  }) => {
    test.slow();
    const wrong: string[] = [];
    const check = async (where: string) => {
      for (const one of await crowded(page)) wrong.push(`${where}: ${one}`);
    };
    await page.goto(app.url);
    await expect(page.getByRole('link', { name: 'Ropes at First Light' })).toBeVisible();
    await check('Shelf');
    await page.getByRole('link', { name: 'Ropes at First Light' }).tap();
    await expect(page.getByRole('button', { name: /^Bar 1:/ })).toBeVisible();
    const tabs = page.getByRole('group', { name: 'Look at' }).getByRole('button');
    for (const station of [
      'Chords',
      'Strum',
      'Song',
      'Changes',
      'Practice',
      'Along',
      'Sheet',
      'Log',
    ]) {
      await goTo(page, station);
      await expect(tabs.first()).toBeVisible();
      await check(station);
      const count = await tabs.count();
      for (let at = 0; at < count; at += 1) {
        await tabs.nth(at).click();
        const fold = page.getByRole('button', { name: 'Fold the tools away' });
        await expect(fold).toBeVisible();
        await page
          .locator('.tool details')
          .evaluateAll((all) => all.forEach((more) => more.setAttribute('open', '')));
        await check(`${station}, ${(await tabs.nth(at).textContent())?.trim()}`);
        await fold.tap();
      }
    }
    await page.getByRole('button', { name: 'More of the stage bar' }).tap();
    await check('Stage bar');
    expect(wrong).toEqual([]);
  });
});
