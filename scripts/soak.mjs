/**
 * `npm run soak`: the server under what it has to stand, for ten minutes (or --minutes=N): two writers and
 * six readers of one song while the server is killed again and again, first starts killed at random
 * moments, random documents, and fifty clients beside a bare read and write of the same file. Before that, much at once,
 * uploads that are cut off, and a full disk (these alone with --load). It prints its
 * figures, and ends with 1 where anything that was acknowledged is lost or a start fails.
 */
import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { build, install, root } from './setup.mjs';
import { orphans, smallDisk, underLoad } from './soakLoad.mjs';

const asked = process.argv.find((word) => word.startsWith('--minutes='));
const minutes = asked ? Number(asked.split('=')[1]) : 10;
const end = Date.now() + minutes * 60_000;
await install();
await build();

let faults = 0;
function fault(what) {
  faults += 1;
  console.error(`FAULT: ${what}`);
}
const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const middle = (times) => [...times].sort((a, b) => a - b)[times.length >> 1] ?? 0;
const folders = [];
function folder(name) {
  const made = mkdtempSync(path.join(tmpdir(), `plucky-soak-${name}-`));
  folders.push(made);
  return made;
}

/** A server on a data folder; `url` once it is ready, or a fault where it ends before. */
function serve(data, port = 0) {
  const child = spawn('node', ['dist/server/index.js', '--demo'], {
    cwd: root,
    env: { ...process.env, PORT: String(port), PLUCKY_DATA: data },
  });
  const gone = new Promise((resolve) => child.once('exit', resolve));
  let said = '';
  const url = new Promise((resolve) => {
    const listen = (text) => {
      said += String(text);
      const ready = /ready: (http:\S+)/.exec(said);
      if (ready) resolve(ready[1]);
    };
    child.stdout.on('data', listen);
    child.stderr.on('data', listen);
    void gone.then(() => resolve(null));
  });
  const kill = async (signal = 'SIGKILL') => {
    child.kill(signal);
    await gone;
  };
  return { url, kill, pid: child.pid, said: () => said };
}

async function ask(url, method = 'GET', body = undefined) {
  try {
    const answer = await fetch(url, {
      method,
      headers: body === undefined ? {} : { 'Content-Type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    return { status: answer.status, body: await answer.json().catch(() => null) };
  } catch {
    return { status: 0, body: null };
  }
}

// What comes all at once, what is cut off, and a disk that is full.
for (const part of [underLoad, orphans, smallDisk]) await part({ serve, folder, fault });
if (process.argv.includes('--load')) {
  console.log(`faults: ${faults}`);
  for (const made of folders) rmSync(made, { recursive: true, force: true });
  process.exit(faults === 0 ? 0 : 1);
}

// First starts, killed at random moments; every folder starts afterwards.
const KILLS = Math.max(5, Math.round(10 * minutes));
let started = 0;
for (let kill = 0; kill < KILLS; kill += 1) {
  const data = folder('first');
  const first = serve(data);
  await sleep(50 + Math.random() * 700);
  await first.kill();
  const again = serve(data);
  const url = await again.url;
  const songs = url && (await ask(`${url}/api/songs`)).body?.length;
  if (songs > 0) started += 1;
  else fault(`a first start that was killed does not start again: ${again.said()}`);
  await again.kill();
  rmSync(data, { recursive: true, force: true });
}
console.log(`first starts killed: ${KILLS}; started afterwards with all their songs: ${started}`);

// Two writers and six readers, with kills in the middle of writes.
const data = folder('writers');
let server = serve(data);
let url = await server.url;
const { port } = new URL(url);
const [{ id }] = (await ask(`${url}/api/songs`)).body;
const song = (await ask(`${url}/api/songs/${id}`)).body.document;
const accepted = new Map();
const counts = { written: 0, refused: 0, away: 0, read: 0, kills: 0, random: 0 };
let writing = true;
let lastKnown = 0;

async function writer(name) {
  let { revision } = (await ask(`${url}/api/songs/${id}`)).body;
  let sent = 0;
  while (writing) {
    const title = `${name} ${(sent += 1)}`;
    const answer = await ask(`${url}/api/songs/${id}`, 'PUT', {
      revision,
      document: { ...song, title },
    });
    if (answer.status === 200) {
      counts.written += 1;
      if (accepted.has(answer.body.revision)) fault(`revision ${answer.body.revision} given twice`);
      accepted.set(answer.body.revision, title);
      lastKnown = Math.max(lastKnown, answer.body.revision);
      ({ revision } = answer.body);
    } else if (answer.status === 409) {
      counts.refused += 1;
      ({ revision } = answer.body.current);
    } else if (answer.status === 0) {
      // It may or may not have been written: what is there decides.
      counts.away += 1;
      await sleep(50);
      revision = (await ask(`${url}/api/songs/${id}`)).body?.revision ?? revision;
    } else fault(`a write was answered ${answer.status}: ${answer.body?.error}`);
  }
}
async function reader() {
  while (writing) {
    const { status, body } = await ask(`${url}/api/songs/${id}`);
    if (status === 0) await sleep(20);
    else if (status !== 200) fault(`a read was answered ${status}`);
    else {
      counts.read += 1;
      const known = accepted.get(body.revision);
      if (known !== undefined && known !== body.document.title) {
        fault(`revision ${body.revision} reads “${body.document.title}”, written as “${known}”`);
      }
    }
  }
}

/** Documents that are valid or nearly so, with parts put out of place at random. */
function randomDocument() {
  const made = structuredClone({ ...song, title: `Any ${randomUUID().slice(0, 8)}` });
  const nodes = [];
  const walk = (node) => {
    if (typeof node !== 'object' || node === null) return;
    for (const key of Object.keys(node)) {
      nodes.push([node, key]);
      walk(node[key]);
    }
  };
  walk(made);
  const odd = [0, -1, 1e9, 2.5, null, '', 'Hq', [], {}, true, '\u0000', 61440, 480];
  for (let change = Math.floor(Math.random() * 3); change >= 0; change -= 1) {
    const [node, key] = nodes[Math.floor(Math.random() * nodes.length)];
    if (Math.random() < 0.3) Reflect.deleteProperty(node, key);
    else node[key] = odd[Math.floor(Math.random() * odd.length)];
  }
  return made;
}
async function stranger() {
  while (writing) {
    const made = await ask(`${url}/api/songs`, 'POST', { document: randomDocument() });
    counts.random += 1;
    if (made.status === 201) {
      for (const file of ['performance', 'export.mid', 'export.musicxml']) {
        const { status } = await ask(`${url}/api/songs/${made.body.id}/${file}`);
        if (status !== 200 && status !== 0) fault(`${file} of a valid song was answered ${status}`);
      }
      await ask(`${url}/api/songs/${made.body.id}`, 'DELETE');
    } else if (made.status !== 400 && made.status !== 0) fault(`a document: ${made.status}`);
    await sleep(30);
  }
}

const parts = [writer('a'), writer('b'), stranger(), ...Array.from({ length: 6 }, reader)];
const rest = end - Date.now() - 45_000;
const until = Date.now() + Math.max(20_000, rest);
while (Date.now() < until) {
  await sleep(1500 + Math.random() * 4000);
  await server.kill();
  counts.kills += 1;
  server = serve(data, port);
  const back = await server.url;
  if (!back) {
    fault(`the server does not start after a kill: ${server.said()}`);
    break;
  }
  const { body } = await ask(`${back}/api/songs/${id}`);
  if (body.revision < lastKnown)
    fault(`revision ${lastKnown} was acknowledged, ${body.revision} is there`);
}
writing = false;
await Promise.all(parts);
console.log(
  `writers: ${counts.written} edits acknowledged, ${counts.refused} refused as stale, ${counts.away} cut off by ` +
    `${counts.kills} kills; ${counts.read} reads; ${counts.random} random documents; faults so far ${faults}`,
);

// Fifty clients for twenty seconds, beside a bare read and write of such a file.
const times = { GET: [], PUT: [] };
let errors = 0;
const clientsEnd = Date.now() + 20_000;
async function client(number) {
  const made = await ask(`${url}/api/songs`, 'POST', {
    document: { ...song, title: `C ${number}` },
  });
  let { revision } = made.body;
  const own = `${url}/api/songs/${made.body.id}`;
  while (Date.now() < clientsEnd) {
    for (const method of ['GET', 'PUT']) {
      const began = performance.now();
      const sent = method === 'PUT' ? { revision, document: song } : undefined;
      const { status, body } = await ask(own, method, sent);
      times[method].push(performance.now() - began);
      if (status !== 200) errors += 1;
      else if (method === 'PUT') ({ revision } = body);
    }
    await sleep(Math.random() * 200);
  }
}
await Promise.all(Array.from({ length: 50 }, (_, number) => client(number)));
const stop = performance.now();
await server.kill('SIGTERM');
const stopped = performance.now() - stop;
if (stopped > 2000) fault(`it took ${stopped.toFixed(0)} ms to end`);
if (errors > 0) fault(`${errors} requests of 50 clients failed`);

const { Sequelize } = await import('sequelize');
const bare = new Sequelize({
  dialect: 'sqlite',
  storage: path.join(folder('bare'), 'bare.sqlite'),
  logging: false,
});
await bare.query('PRAGMA journal_mode = WAL');
await bare.query('PRAGMA synchronous = FULL');
await bare.query('CREATE TABLE songs (id TEXT PRIMARY KEY, document TEXT)');
const text = JSON.stringify(song);
await bare.query('INSERT INTO songs VALUES (1, :text)', { replacements: { text } });
async function timed(statement) {
  const taken = [];
  for (let run = 0; run < 200; run += 1) {
    const began = performance.now();
    await bare.query(statement, { replacements: { text } });
    taken.push(performance.now() - began);
  }
  return taken;
}
const plain = {
  GET: await timed('SELECT document FROM songs WHERE id = 1'),
  PUT: await timed('UPDATE songs SET document = :text WHERE id = 1'),
};
await bare.close();
for (const method of ['GET', 'PUT']) {
  console.log(
    `50 clients, ${method}: ${middle(times[method]).toFixed(1)} ms median, ${Math.max(...times[method]).toFixed(0)} ms ` +
      `worst of ${times[method].length}; bare SQLite ${middle(plain[method]).toFixed(2)} ms median, ` +
      `${Math.max(...plain[method]).toFixed(1)} worst of 200, one client`,
  );
}
console.log(`ended on SIGTERM in ${stopped.toFixed(0)} ms; faults: ${faults}`);
for (const made of folders) rmSync(made, { recursive: true, force: true });
process.exit(faults === 0 ? 0 : 1);
