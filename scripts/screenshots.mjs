/** Takes the pictures in docs/screenshots from the demo data: one for each main view. */
import path from 'node:path';
import { chromium as findChromium } from './chromium.mjs';
import { CHROMIUM_FLAGS, serveDemo } from './serve.mjs';
import { build, install, root } from './setup.mjs';

install();
build();
const { chromium } = await import('@playwright/test');
const { url, stop } = await serveDemo();
const browser = await chromium.launch({ executablePath: findChromium(), args: CHROMIUM_FLAGS });

async function view(colorScheme) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme });
  const shoot = async (name) => {
    await page.waitForTimeout(600);
    await page.screenshot({ path: path.join(root, 'docs/screenshots', `${name}.png`) });
  };
  const open = async (title) => {
    await page.goto(url);
    await page.getByRole('link', { name: title }).click();
    await page.getByRole('button', { name: /^Bar 1:/ }).waitFor();
  };
  const station = (name) =>
    page.getByRole('navigation').getByRole('link', { name, exact: true }).click();
  return { page, shoot, open, station };
}

const day = await view('light');
await day.page.goto(url);
await day.page.getByRole('link', { name: 'Ropes at First Light' }).waitFor();
await day.shoot('shelf');
await day.page.goto(`${url}/new`);
await day.page.getByLabel('Name').fill('Winter Berth');
await day.page
  .getByRole('textbox', { name: 'Progression' })
  .fill('Verse:\nG | Bm | C . Am . | %\nC | Hq | D . G | <D7 x2');
await day.shoot('new-song');
await day.open('Ropes at First Light');
await day.shoot('song');
await day.station('Chords');
await day.shoot('chords');
await day.station('Strum');
await day.page.getByRole('listbox').focus();
await day.page.keyboard.press('ArrowRight');
await day.page.keyboard.press('ArrowDown');
await day.shoot('strum');

const evening = await view('dark');
await evening.open('Sluice Gate Sixteens');
await evening.station('Strum');
await evening.page.getByRole('button', { name: 'Next bar' }).click();
await evening.page.getByRole('button', { name: 'Play' }).click();
await evening.page.locator('.hand').waitFor();
await evening.page.waitForTimeout(900);
await evening.shoot('strum-evening');

await browser.close();
stop();
