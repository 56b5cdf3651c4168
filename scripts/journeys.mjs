/** `npm run journeys -- NAME`: the journeys in the browser whose file or title has NAME in it; all without. */
import { browsers } from './chromium.mjs';
import { bin, build, install, run } from './setup.mjs';

await install();
const env = { ...process.env, ...browsers() };
await build();
const asked = process.argv.slice(2);
const isFile = asked.length > 0 && !asked[0].startsWith('-') && !asked[0].includes(' ');
run(
  bin('playwright'),
  ['test', '--reporter=list', ...(isFile || asked.length === 0 ? asked : ['-g', ...asked])],
  { env },
);
