/**
 * `npm run check`: everything that only reads the code, two at a time: format, lint, types, rooms and
 * doors, spelling, nothing unused. Types are read anew only where files changed. It goes on after one that fails.
 */
import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { bin, install, root } from './setup.mjs';

const AT_ONCE = 2;
const cache = path.join(root, '.cache');
const types = (project) => [
  '-p',
  project,
  '--incremental',
  '--tsBuildInfoFile',
  path.join(cache, `${project.replaceAll(/\W/g, '-')}.tsbuildinfo`),
];

/** The longest first, so that none is left over at the end. */
const CHECKS = [
  ['types of the web app', 'vue-tsc', types('web/tsconfig.json')],
  ['lint', 'eslint', ['.', '--max-warnings', '0', '--cache', '--cache-location', '.cache/eslint']],
  ['types of the server', 'tsc', types('server/tsconfig.json')],
  [
    'format',
    'prettier',
    ['--check', '.', '--log-level', 'warn', '--cache', '--cache-location', '.cache/prettier'],
  ],
  ['types of the core', 'tsc', types('tsconfig.json')],
  ['types of the journeys', 'tsc', types('e2e/tsconfig.json')],
  ['rooms and doors', 'depcruise', ['core', 'server', 'web', 'bench', 'e2e']],
  ['spelling', 'cspell', ['--no-progress', '--quiet']],
  ['nothing unused', 'knip', []],
  ['licences', 'node', ['scripts/licences.mjs']],
  ['core.md says what the comments say', 'node', ['scripts/coreDocs.mjs', '--check']],
];

function run([name, program, args]) {
  const began = Date.now();
  return new Promise((resolve) => {
    const file = program === 'node' ? process.execPath : bin(program);
    const child = spawn(file, args, { cwd: root });
    let said = '';
    const listen = (text) => (said += String(text));
    child.stdout.on('data', listen);
    child.stderr.on('data', listen);
    child.on('exit', (status) => {
      const good = status === 0;
      const took = Math.round((Date.now() - began) / 1000);
      if (!good) console.log(`\n== ${name}\n${said}`);
      console.log(`== ${name}: ${good ? 'good' : 'FAILED'}, ${took} s`);
      resolve(good ? 0 : 1);
    });
  });
}

/** @returns how many checks failed */
export async function check() {
  mkdirSync(cache, { recursive: true });
  const waiting = [...CHECKS];
  let failed = 0;
  const worker = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) failed += await run(next);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
  return failed;
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  await install();
  process.exit((await check()) === 0 ? 0 : 1);
}
