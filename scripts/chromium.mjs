/** Where Chromium is; Debian's packages are installed where there is none. */
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

const PATH = '/usr/bin/chromium';
/** The same browser without its windows: a clean page does not cost it a profile of its own. */
const BARE = '/usr/bin/chromium-headless-shell';

let updated = false;
/** @param errors where they go: nowhere for what can be done without */
function install(name, errors) {
  const apt = (...args) =>
    spawnSync('apt-get', args, { stdio: ['ignore', 'ignore', errors] }).status === 0;
  updated ||= apt('update');
  return apt('install', '-y', '--no-install-recommends', name);
}

/** The whole browser. */
export function chromium() {
  if (process.env.CHROMIUM) return process.env.CHROMIUM;
  if (existsSync(PATH)) return PATH;
  console.log('Installing Chromium for the browser tests.');
  if (!install('chromium', 'inherit') || !existsSync(PATH)) {
    console.error('Chromium could not be installed; set CHROMIUM to the path of a Chromium.');
    process.exit(1);
  }
  return PATH;
}

/**
 * What the journeys run in, as their environment: the whole browser where sound is recorded, and the bare
 * one for the others; the whole one for all, where the bare one is not to be had.
 */
export function browsers() {
  const whole = chromium();
  const given = process.env.CHROMIUM_BARE ?? process.env.CHROMIUM;
  if (given) return { CHROMIUM: whole, CHROMIUM_BARE: given };
  const bare =
    existsSync(BARE) || (install('chromium-headless-shell', 'ignore') && existsSync(BARE));
  return { CHROMIUM: whole, CHROMIUM_BARE: bare ? BARE : whole };
}
