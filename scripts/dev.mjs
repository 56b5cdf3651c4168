/** `npm run dev`: the server built and restarted as files change, the web app by Vite beside it. */
import { watch } from 'node:fs';
import path from 'node:path';
import { bin, build, install, root, start } from './setup.mjs';

await install();
await build();
const data = process.env.PLUCKY_DATA ?? path.join(root, 'data', 'demo');
const serve = () => start('node', ['dist/server/index.js', '--demo'], { PLUCKY_DATA: data });

let server = serve();
const others = [
  start(bin('vite'), ['build', '--config', 'vite.server.config.ts', '--watch']),
  start(bin('vite'), ['--config', 'web/vite.config.ts']),
];

/** A build writes several files; the server is started again once they have been quiet. */
const QUIET = 300;
let pending;
watch(path.join(root, 'dist/server'), () => {
  clearTimeout(pending);
  pending = setTimeout(() => {
    const again = () => (server = serve());
    if (server.exitCode !== null) return again();
    server.once('exit', again);
    server.kill();
  }, QUIET);
});

for (const part of others) {
  part.on('exit', () => {
    clearTimeout(pending);
    [server, ...others].forEach((other) => other.kill());
    process.exit();
  });
}
