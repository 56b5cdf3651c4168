/**
 * `npm run dev`: the server built as files change and started again by Node's own watch, the web app by
 * Vite beside it.
 */
import path from 'node:path';
import { bin, build, install, root, start } from './setup.mjs';

await install();
await build();
const data = process.env.PLUCKY_DATA ?? path.join(root, 'data', 'demo');
const parts = [
  start('node', ['--watch', 'dist/server/index.js', '--demo'], { PLUCKY_DATA: data }),
  start(bin('vite'), ['build', '--config', 'vite.server.config.ts', '--watch']),
  start(bin('vite'), ['--config', 'web/vite.config.ts']),
];
for (const part of parts) {
  part.on('exit', () => {
    parts.forEach((other) => other.kill());
    process.exit();
  });
}
