/**
 * `npm run bench`: the speed of the core, and of the built app in Chromium. Machines are noisy, so
 * it prints medians and ratios and never fails for being slow.
 */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { chromium as findChromium } from './chromium.mjs';
import { CHROMIUM_FLAGS, serveDemo } from './serve.mjs';
import { build, install, root, run } from './setup.mjs';

install();
build();
run('node', ['dist/server/bench.js']);

const { chromium } = await import('@playwright/test');
const { url, stop } = await serveDemo();
const browser = await chromium.launch({
  executablePath: findChromium(),
  args: CHROMIUM_FLAGS,
});

const median = (times) => times.sort((a, b) => a - b)[times.length >> 1];

/** From navigation to the shelf being there, in a fresh browser profile each time. */
async function load() {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  const scripts = new Set();
  page.on('response', (response) => {
    if (response.url().endsWith('.js'))
      scripts.add(path.basename(new URL(response.url()).pathname));
  });
  const began = performance.now();
  await page.goto(url);
  await page.getByRole('link', { name: 'Ropes at First Light' }).waitFor();
  const took = performance.now() - began;
  await context.close();
  return { took, scripts };
}

const loads = [];
for (let run = 0; run < 7; run += 1) loads.push(await load());
const assets = path.join(root, 'dist/web/assets');
const bytes = readdirSync(assets)
  .filter((file) => loads[0].scripts.has(file))
  .reduce((sum, file) => sum + gzipSync(readFileSync(path.join(assets, file))).length, 0);
console.log(
  `script before the first station: ${(bytes / 1000).toFixed(0)} kB compressed, ` +
    `${((bytes / 300_000) * 100).toFixed(0)} % of the budget of 300 kB`,
);
console.log(
  `navigation to usable: ${median(loads.map(({ took }) => took)).toFixed(0)} ms median of ` +
    `${loads.length}, budget 1000 ms`,
);

/** From a key press to the frame after the path was changed, as the page itself sees it. */
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(url);
await page.getByRole('link', { name: 'Sluice Gate Sixteens' }).click();
await page.getByRole('navigation').getByRole('link', { name: 'Strum' }).click();
await page.getByRole('listbox').focus();
await page.evaluate(() => {
  window.presses = [];
  addEventListener(
    'keydown',
    (event) => {
      const began = event.timeStamp;
      const path = document.querySelector('.wrist-path');
      const seen = new MutationObserver(() => {
        seen.disconnect();
        const changed = performance.now();
        requestAnimationFrame(() =>
          setTimeout(() => window.presses.push([changed - began, performance.now() - began])),
        );
      });
      seen.observe(path, { subtree: true, attributes: true, childList: true });
    },
    true,
  );
});
const keys = ['ArrowDown', 'ArrowUp', 'm', 'c', 'b', 'h'];
for (let press = 0; press < 120; press += 1) {
  await page.keyboard.press(keys[press % keys.length]);
  await page.waitForTimeout(40);
}
const presses = await page.evaluate(() => window.presses);
const changed = presses.map(([time]) => time);
const painted = presses.map(([, time]) => time);
console.log(
  `key press to path changed: ${median(changed).toFixed(1)} ms median, ` +
    `${Math.max(...changed).toFixed(1)} ms worst of ${presses.length} (one frame is 16.7 ms)`,
);
console.log(
  `key press to painted frame: ${median(painted).toFixed(1)} ms median, ` +
    `${Math.max(...painted).toFixed(1)} ms worst; it waits for the next frame of the screen`,
);

await browser.close();
stop();
