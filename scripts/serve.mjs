import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { root } from './setup.mjs';

/** The built server with demo data in a folder of its own, on any free port. */
export async function serveDemo() {
  const data = mkdtempSync(path.join(tmpdir(), 'plucky-'));
  const server = spawn('node', ['dist/server/index.js', '--demo'], {
    cwd: root,
    env: { ...process.env, PORT: '0', PLUCKY_DATA: data },
  });
  const url = await new Promise((resolve) =>
    server.stdout.on('data', (text) => {
      const ready = /ready: (http:\S+)/.exec(String(text));
      if (ready) resolve(ready[1]);
    }),
  );
  const stop = () => {
    server.kill();
    rmSync(data, { recursive: true, force: true });
  };
  return { url, stop };
}

export const CHROMIUM_FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
];
