/** Takes the pictures in docs/screenshots from the demo data: one for each main view. */
import path from 'node:path';
import { chromium as findChromium } from './chromium.mjs';
import { CHROMIUM_FLAGS, serveDemo } from './serve.mjs';
import { build, install, root } from './setup.mjs';

await install();
await build();
const { chromium } = await import('@playwright/test');
const { url, stop } = await serveDemo();
const browser = await chromium.launch({ executablePath: findChromium(), args: CHROMIUM_FLAGS });

async function view(colorScheme, size = { width: 1280, height: 800 }) {
  const page = await browser.newPage({ viewport: size, colorScheme });
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
const panel = (page, name) =>
  page.getByRole('group', { name: 'Look at' }).getByRole('button', { name }).click();
await day.page.getByRole('button', { name: /^Bar 3:/ }).click();
await panel(day.page, 'Bar');
await day.page.getByRole('button', { name: 'half pattern' }).click();
await day.shoot('song-bar');
await panel(day.page, 'Rules');
await day.shoot('song-rules');
await day.station('Chords');
await day.page.getByRole('button', { name: 'Shapes of Bm' }).click();
await day.shoot('chords');
await panel(day.page, 'Changes');
await day.page.getByRole('button', { name: 'Find the smoothest set' }).click();
await day.page.getByText(/less movement/).waitFor();
await day.shoot('chords-changes');

await day.station('Strum');
await day.page.getByRole('listbox').focus();
await day.page.keyboard.press('ArrowRight');
await day.page.keyboard.press('ArrowDown');
await day.shoot('strum');
await day.page.keyboard.press('Control+z');
await panel(day.page, 'Patterns');
await day.shoot('strum-patterns');
await day.open('Twelve Steps to the Sill');
await day.station('Strum');
await day.shoot('strum-cycle');

await day.open('Lanterns Along the Cut');
await day.station('Song');
await day.page.getByRole('button', { name: 'Fold the tools away' }).click();
await day.page.getByRole('button', { name: '8 in a row' }).click();
await day.page.getByRole('button', { name: /^Bar 18:/ }).click();
await day.page.getByRole('button', { name: /^Bar 21:/ }).click({ modifiers: ['Shift'] });
await day.page.mouse.move(5, 5);
await day.shoot('song-whole');
await day.page.getByRole('button', { name: '4 in a row' }).click();
await day.page.getByRole('button', { name: 'Show the tools' }).click();

const evening = await view('dark');
await evening.open('Sluice Gate Sixteens');
await evening.station('Strum');
await evening.page.getByRole('button', { name: 'Next bar' }).click();
await evening.page.getByRole('button', { name: 'Play' }).click();
await evening.page.getByTestId('riding-hand').waitFor();
await evening.page.waitForTimeout(900);
await evening.shoot('strum-evening');

await evening.page.getByRole('button', { name: 'Stop', exact: true }).click();
await evening.open('Lanterns Along the Cut');
await evening.station('Song');
await evening.page.getByRole('button', { name: 'Stand view' }).click();
await evening.page.keyboard.press('PageDown');
await evening.page.getByTestId('riding-hand').waitFor();
await evening.page.waitForTimeout(4300);
await evening.shoot('stand');
await evening.page.keyboard.press('Escape');

await day.open('Ropes at First Light');
await day.station('Changes');
await day.page
  .getByRole('button', { name: /^Use: / })
  .first()
  .waitFor();
await day.page.waitForTimeout(500);
await day.shoot('changes');
await day.station('Sheet');
await day.page.getByRole('img', { name: 'Page 1 of 1' }).waitFor();
await day.page.waitForTimeout(400);
await day.shoot('sheet');
await day.station('Along');
await day.page.getByText(/bars found in it/).waitFor();
await day.page.getByRole('button', { name: 'Play the recording' }).click();
for (let landing = 0; landing < 3; landing += 1) {
  await day.page.waitForTimeout(2600);
  await day.page.keyboard.press('l');
}
await day.page.getByRole('button', { name: 'Pause the recording' }).click();
await panel(day.page, 'Chords');
await day.page.waitForTimeout(900);
await day.shoot('along');
await day.station('Log');
await day.page.getByRole('button', { name: /^Settings:/ }).click();
await day.page.getByRole('combobox', { name: 'Song', exact: true }).click();
await day.page.getByRole('option', { name: 'Ropes at First Light' }).click();
await day.page.getByRole('button', { name: /^Settings:/ }).click();
await day.page.getByRole('button', { name: 'Clean tempo' }).click();
await day.page
  .getByText(/the goal is 92/)
  .first()
  .waitFor();
await day.page.mouse.move(5, 5);
await day.page.waitForTimeout(500);
await day.shoot('log');
await evening.open('Ropes at First Light');
await evening.station('Practice');
await evening.page.getByRole('button', { name: 'Listen', exact: true }).click();
await evening.page.getByRole('button', { name: 'Example player' }).click();
await evening.page.getByRole('button', { name: 'Judge this example' }).click();
await evening.page.getByRole('list', { name: 'The take, bar by bar' }).waitFor();
await evening.page.getByRole('button', { name: 'Ladder', exact: true }).click();
await evening.page.mouse.move(5, 5);
await evening.page.waitForTimeout(500);
await evening.shoot('practice');

const phone = await view('light', { width: 390, height: 844 });
await phone.open('Ropes at First Light');
await phone.station('Strum');
await phone.shoot('strum-phone');

await browser.close();
stop();
