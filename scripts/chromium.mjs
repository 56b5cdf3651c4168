/** Where Chromium is; Debian's package is installed where there is none. */
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

const PATH = '/usr/bin/chromium';

export function chromium() {
  if (process.env.CHROMIUM) return process.env.CHROMIUM;
  if (existsSync(PATH)) return PATH;
  console.log('Installing Chromium for the browser tests.');
  const apt = (...args) => spawnSync('apt-get', args, { stdio: ['ignore', 'ignore', 'inherit'] });
  apt('update');
  const done = apt('install', '-y', '--no-install-recommends', 'chromium');
  if (done.status !== 0 || !existsSync(PATH)) {
    console.error('Chromium could not be installed; set CHROMIUM to the path of a Chromium.');
    process.exit(1);
  }
  return PATH;
}
