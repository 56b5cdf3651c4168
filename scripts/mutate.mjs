/**
 * `npm run mutate -- ROOM [ROOM ...]`: puts small faults into a room of the core (`edit`) or a folder of the web app
 * (`web/stores`), one at a time, and says which of them no test sees. Not part of `npm test`: a room takes minutes.
 */
import { spawnSync } from 'node:child_process';
import { bin, install, root } from './setup.mjs';

await install();
const rooms = process.argv.slice(2);
if (rooms.length === 0) {
  console.error('Say which rooms: npm run mutate -- edit song web/stores');
  process.exit(2);
}
for (const room of rooms) {
  const { status } = spawnSync(bin('stryker'), ['run'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, MUTATE: room },
  });
  if (status !== 0) process.exit(status ?? 1);
}
