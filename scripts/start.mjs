/** `npm start` with the player's own data, `npm run demo` with the songs of Kettle Lock; `-- --https` with a certificate. */
import path from 'node:path';
import { build, install, root, start } from './setup.mjs';

const demo = process.argv.includes('--demo');
await install();
await build();
const data = process.env.PLUCKY_DATA ?? path.join(root, 'data', demo ? 'demo' : 'own');
const passedOn = ['--demo', '--https'].filter((one) => process.argv.includes(one));
const server = start('node', ['dist/server/index.js', ...passedOn], {
  PLUCKY_DATA: data,
});
server.on('exit', (code) => process.exit(code ?? 0));
