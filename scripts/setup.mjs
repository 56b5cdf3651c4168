/**
 * What every command needs before it can run: packages as the lock file says, and a build of what
 * is in the folder. Each step is skipped where nothing has changed since it was last done.
 */
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { once as event } from 'node:events';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const cache = path.join(root, '.cache');
const OLDEST_NODE = [20, 19];
/** Milliseconds between two words while something takes long. */
const TELL_EVERY = 20_000;

function fingerprint(files) {
  const hash = createHash('sha256');
  for (const file of files) hash.update(file).update(readFileSync(path.join(root, file)));
  return hash.digest('hex');
}

function filesUnder(folder) {
  const found = [];
  for (const entry of readdirSync(path.join(root, folder), { withFileTypes: true })) {
    const file = path.join(folder, entry.name);
    if (entry.isDirectory()) found.push(...filesUnder(file));
    else if (!file.endsWith('.test.ts')) found.push(file);
  }
  return found.sort();
}

/** Runs a program to its end and ends this one where it fails. */
export function run(program, args, options = {}) {
  const done = spawnSync(program, args, { cwd: root, stdio: 'inherit', ...options });
  if (done.error) throw done.error;
  if (done.status !== 0) process.exit(done.status ?? 1);
}

/** Starts a program that runs beside this one and ends with it. */
export function start(program, args, env = {}) {
  const child = spawn(program, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  const end = (signal) => child.kill(signal);
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, end);
  child.once('exit', () => {
    for (const signal of ['SIGINT', 'SIGTERM']) process.off(signal, end);
  });
  return child;
}

/** Does a step unless its stamp says that it was done with the same input. */
async function once(name, print, isThere, step) {
  const stamp = path.join(cache, `${name}.stamp`);
  const known = existsSync(stamp) ? readFileSync(stamp, 'utf8') : '';
  if (isThere && known === print) return;
  await step();
  mkdirSync(cache, { recursive: true });
  writeFileSync(stamp, print);
}

/**
 * Fetches the packages, and compiles the one that has to be.
 * @param beside what needs the packages but not the compiled one, done while it is compiled
 */
export async function install(beside = () => {}) {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < OLDEST_NODE[0] || (major === OLDEST_NODE[0] && minor < OLDEST_NODE[1])) {
    console.error(`Plucky Wrist needs Node ${OLDEST_NODE.join('.')} or newer.`);
    process.exit(1);
  }
  const print = fingerprint(['package-lock.json']) + process.version;
  let done = null;
  const besides = () => (done ??= Promise.resolve(beside()));
  await once('install', print, existsSync(path.join(root, 'node_modules')), async () => {
    console.log('Fetching the packages; usually under a minute.');
    const shell = process.platform === 'win32';
    run('npm', ['ci', '--ignore-scripts', '--no-audit', '--no-fund'], { shell });
    console.log('Compiling the database; usually about two minutes, once.');
    const began = Date.now();
    const told = setInterval(() => {
      console.log(`Still compiling the database, ${Math.round((Date.now() - began) / 1000)} s.`);
    }, TELL_EVERY);
    const compiler = spawn('npm', ['rebuild'], { cwd: root, stdio: 'inherit', shell });
    const compiled = event(compiler, 'exit');
    void besides();
    const [code] = await compiled;
    clearInterval(told);
    if (code !== 0) process.exit(code ?? 1);
  });
  await besides();
}

/** The path of a program that a package brings. */
export function bin(name) {
  const suffix = process.platform === 'win32' ? '.cmd' : '';
  return path.join(root, 'node_modules', '.bin', name + suffix);
}

export async function build() {
  const folders = ['core', 'server', 'web', 'bench'].flatMap(filesUnder);
  const print = fingerprint([...folders, 'package-lock.json', 'vite.server.config.ts']);
  await once('build', print, existsSync(path.join(root, 'dist/web/index.html')), () => {
    console.log('Building the app.');
    run(bin('vite'), ['build', '--config', 'web/vite.config.ts', '--logLevel', 'warn']);
    run(bin('vite'), ['build', '--config', 'vite.server.config.ts', '--logLevel', 'warn']);
  });
}

/** The benchmarks that are built beside the server; `npm test` runs each on its smallest case. */
export const BENCHES = [
  'bench',
  'benchHand',
  'benchLog',
  'benchTake',
  'benchAlong',
  'benchFiles',
  'benchSound',
];
