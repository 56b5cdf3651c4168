/** What `npm run soak` puts on a server at once, and what it prints of it. */
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

const RATE = 44_100;
const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const share = (times, part) =>
  [...times].sort((a, b) => a - b)[Math.floor(part * (times.length - 1))] ?? 0;

/** Seconds of sound as a WAV file of 16 bits. */
function wav(seconds, sampleAt) {
  const count = Math.round(seconds * RATE);
  const bytes = Buffer.alloc(44 + 2 * count);
  bytes.write('RIFF', 0);
  bytes.writeUInt32LE(36 + 2 * count, 4);
  bytes.write('WAVEfmt ', 8);
  bytes.writeUInt32LE(16, 16);
  bytes.writeUInt16LE(1, 20);
  bytes.writeUInt16LE(1, 22);
  bytes.writeUInt32LE(RATE, 24);
  bytes.writeUInt32LE(2 * RATE, 28);
  bytes.writeUInt16LE(2, 32);
  bytes.writeUInt16LE(16, 34);
  bytes.write('data', 36);
  bytes.writeUInt32LE(2 * count, 40);
  for (let at = 0; at < count; at += 1) bytes.writeInt16LE(sampleAt(at), 44 + 2 * at);
  return bytes;
}

/** Megabytes that a process holds, as its system says. */
function memoryOf(pid) {
  try {
    const status = readFileSync(`/proc/${pid}/status`, 'utf8');
    return Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024;
  } catch {
    return 0;
  }
}

async function answered(url, options = {}) {
  const began = performance.now();
  const answer = await fetch(url, options).catch(() => null);
  const bytes = answer
    ? (await answer.arrayBuffer().catch(() => new ArrayBuffer(0))).byteLength
    : 0;
  return { status: answer?.status ?? 0, bytes, seconds: (performance.now() - began) / 1000 };
}
const json = (body) => ({
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: typeof body === 'string' ? body : JSON.stringify(body),
});
const sound = (body) => ({ method: 'POST', headers: { 'Content-Type': 'audio/wav' }, body });
const told = (answers) => {
  const counts = new Map();
  for (const { status } of answers) counts.set(status, (counts.get(status) ?? 0) + 1);
  const longest = Math.max(...answers.map(({ seconds }) => seconds));
  return `${[...counts].map(([status, count]) => `${count} × ${status}`).join(', ')}; the longest ${longest.toFixed(1)} s`;
};

/** The largest song that is taken: halved until the server takes it. */
async function largestSong(url, song) {
  for (const bars of [500, 400, 300, 250, 200, 150, 100]) {
    const bar = (symbol) => ({ chords: [{ symbol, at: 0, push: 0 }] });
    const line = {
      bars: Array.from({ length: bars }, (_, at) => bar(['C', 'G', 'Am', 'F'][at % 4])),
      times: 1,
    };
    const lines = Math.floor(4000 / bars);
    const [section] = song.sections;
    const document = {
      ...song,
      title: `Longest ${bars}`,
      sections: [{ ...section, lines: Array.from({ length: lines }, () => line) }],
    };
    delete document.order;
    const made = await fetch(`${url}/api/songs`, json({ document }));
    const body = await made.json();
    if (made.status === 201) return { id: body.id, bars: bars * lines };
  }
  return null;
}

/**
 * Everything at once, while somebody else reads one song again and again.
 * @param serve starts a server on a data folder
 */
export async function underLoad({ serve, folder, fault }) {
  const data = folder('load');
  const server = serve(data);
  const url = await server.url;
  const songs = await (await fetch(`${url}/api/songs`)).json();
  const [{ id }] = songs;
  const own = `${url}/api/songs/${id}`;
  const { document: song } = await (await fetch(own)).json();
  let [most, held] = [0, 0];
  let watching = true;
  const waits = [];
  const watch = (async () => {
    while (watching) {
      held = Math.max(held, memoryOf(server.pid));
      most = Math.max(most, held);
      const { status, seconds } = await answered(own);
      if (status === 200) waits.push(1000 * seconds);
      else fault(`a read beside the load was answered ${status}`);
      await sleep(20);
    }
  })();
  const part = async (name, make, allowed) => {
    const from = waits.length;
    held = 0;
    const answers = await Promise.all(make());
    const meanwhile = waits.slice(from);
    for (const { status } of answers) {
      if (!allowed.includes(status)) fault(`${name}: answered ${status}`);
    }
    console.log(
      `${name}: ${told(answers)}. Reads meanwhile: ${share(meanwhile, 0.5).toFixed(0)} ms in the middle, ` +
        `95 of 100 within ${share(meanwhile, 0.95).toFixed(0)}, of ${meanwhile.length}; ${held.toFixed(0)} MB`,
    );
  };
  const times = (count, make) => Array.from({ length: count }, (_, at) => make(at));
  const judge = `${own}/takes/judge`;
  const silence = wav(60, () => 0);
  const noise = wav(60, () => Math.round((Math.random() - 0.5) * 20_000));
  const crowded = { onsets: times(20_000, (at) => ({ seconds: 10 + at * 5e-8 })) };

  await part('ten sheets at once', () => times(10, () => answered(`${own}/sheet.pdf`)), [200]);
  await part(
    'a minute of silence, twenty at once',
    () => times(20, () => answered(judge, sound(silence))),
    [200],
  );
  await part(
    'a minute of noise, four at once',
    () => times(4, () => answered(judge, sound(noise))),
    [200],
  );
  await part(
    '20,000 onsets at one place, four at once',
    () => times(4, () => answered(judge, json(crowded))),
    [200],
  );
  await part(
    'a hundred sheets at once',
    () => times(100, () => answered(`${own}/sheet.pdf`)),
    [200, 503],
  );

  const empty = (count) => `[${'{},'.repeat(count - 1)}{}]`;
  await part(
    'bodies of empty things',
    () => [
      answered(judge, json(`{"onsets":${empty(1_300_000)}}`)),
      answered(
        `${own}/takes`,
        json(`{"judgement":{"strokes":${empty(20_000)},"missed":${empty(20_000)}}}`),
      ),
      answered(`${url}/api/log/many`, json(`{"entries":${empty(20_000)}}`)),
      answered(
        `${url}/api/songs`,
        json(`{"document":${'['.repeat(400_000)}${']'.repeat(400_000)}}`),
      ),
      answered(`${url}/api/sent-takes`, { method: 'POST', body: new Uint8Array(4_000_000) }),
    ],
    [400, 413],
  );
  const rows = times(20_000, (at) => ({
    kind: 'practice',
    seconds: 60 + (at % 600),
    song: 'Weir Stones',
    madeAt: new Date(Date.UTC(2010, 0, 1) + at * 7_200_000).toISOString(),
  }));
  await part(
    '20,000 rows of the log at once',
    () => [answered(`${url}/api/log/many`, json({ entries: rows }))],
    [201],
  );
  await part(
    'the log as files, four at once',
    () => times(4, (at) => answered(`${url}/api/log/export.${at % 2 ? 'csv' : 'json'}`)),
    [200],
  );
  await part(
    'what the log comes to',
    () => [answered(`${url}/api/log/summary`), answered(`${url}/api/log/plan`)],
    [200],
  );

  const large = await largestSong(url, song);
  if (!large) fault('no large song was taken');
  else {
    const of = `${url}/api/songs/${large.id}`;
    for (const file of [
      'sheet.pdf',
      'sheet.pdf?notation=tab',
      'sheet.pdf?notation=slashes',
      'export.musicxml',
      'export.mid',
    ]) {
      await part(
        `a song of ${large.bars} bars, ${file}`,
        () => [answered(`${of}/${file}`)],
        [200, 422, 503],
      );
    }
  }
  watching = false;
  await watch;
  console.log(
    `beside all that: ${waits.length} reads, 95 of 100 within ${share(waits, 0.95).toFixed(0)} ms, the longest ` +
      `${Math.max(...waits).toFixed(0)}; the server held ${most.toFixed(0)} MB at most`,
  );
  await server.kill();
}

/** Uploads that are cut off by kills, by each other and by deletions: afterwards every file has an owner. */
export async function orphans({ serve, folder, fault }) {
  const data = folder('orphans');
  const body = wav(20, (at) => Math.round(9000 * Math.sin(at / 20)));
  let refused = 0;
  for (let round = 0; round < 5; round += 1) {
    const server = serve(data);
    const url = await server.url;
    const [{ id }] = await (await fetch(`${url}/api/songs`)).json();
    const put = () =>
      answered(`${url}/api/songs/${id}/recording?name=Weir`, {
        method: 'PUT',
        body,
        headers: { 'Content-Type': 'audio/wav' },
      });
    const all = Array.from({ length: 8 }, put);
    await sleep(Math.random() * 300);
    await server.kill();
    refused += (await Promise.all(all)).filter(({ status }) => status === 409).length;
  }
  const server = serve(data);
  const url = await server.url;
  const songs = await (await fetch(`${url}/api/songs`)).json();
  let owned = 0;
  for (const { id } of songs) {
    if (await (await fetch(`${url}/api/songs/${id}/recording/map`)).json()) owned += 1;
  }
  await server.kill();
  let files = [];
  try {
    files = readdirSync(path.join(data, 'recordings'));
  } catch {
    // Nothing was kept.
  }
  if (files.length > owned)
    fault(`${files.length} sound files for ${owned} recordings: ${files.join(', ')}`);
  console.log(
    `uploads cut off by kills: ${refused} refused as twins; ${files.length} files, ${owned} with an owner`,
  );
}

/** A disk of a few megabytes that fills up during uploads; only where this machine may make one. */
export async function smallDisk({ serve, folder, fault }) {
  const disk = folder('disk');
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=12m', 'tmpfs', disk]);
  if (mounted.status !== 0) {
    console.log('a small disk: this machine may not make one; left out');
    return;
  }
  try {
    const server = serve(disk);
    const url = await server.url;
    const [{ id }] = await (await fetch(`${url}/api/songs`)).json();
    const own = `${url}/api/songs/${id}`;
    const body = wav(180, (at) => Math.round(9000 * Math.sin(at / 20)));
    const answers = [];
    for (const to of ['recording?name=Weir', 'recording?name=Lock']) {
      answers.push(
        await answered(`${own}/${to}`, {
          method: 'PUT',
          body,
          headers: { 'Content-Type': 'audio/wav' },
        }),
      );
    }
    for (const { status } of answers)
      if (status !== 507) fault(`an upload to a full disk was answered ${status}`);
    const after = await answered(own);
    if (after.status !== 200) fault(`a read after a full disk was answered ${after.status}`);
    const left = spawnSync('find', [disk, '-name', '*.part-*']).stdout.toString().trim();
    if (left) fault(`parts were left on the full disk: ${left}`);
    console.log(`a disk of 12 MB: uploads ${told(answers)}; read afterwards ${after.status}`);
    await server.kill();
  } finally {
    spawnSync('umount', [disk]);
  }
}
