/**
 * `node scripts/otherReaders.mjs`: opens the files of every demo song with the readers of others that Debian has, and
 * says what each made of them. By hand, beside `npm test`: `apt-get install abcmidi python3-mido fluidsynth
 * fluid-soundfont-gm poppler-utils`. It fails where a reader that is there finds a fault, and names those that are not.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { serveDemo } from './serve.mjs';
import { build, install } from './setup.mjs';

const SOUND_FONT = '/usr/share/sounds/sf2/FluidR3_GM.sf2';
/** How many notes a MIDI file has by mido, how many of them are never ended, and how long it is in seconds. */
const MIDO = `
import sys, mido
file = mido.MidiFile(sys.argv[1])
open_notes, count = {}, 0
for track in file.tracks:
    for event in track:
        if event.type == 'note_on' and event.velocity > 0:
            count += 1
            open_notes[event.channel, event.note] = open_notes.get((event.channel, event.note), 0) + 1
        elif event.type in ('note_off', 'note_on'):
            open_notes[event.channel, event.note] = open_notes.get((event.channel, event.note), 0) - 1
print(count, sum(max(0, left) for left in open_notes.values()), round(file.length, 2))
`;

await install();
await build();
const folder = mkdtempSync(path.join(tmpdir(), 'plucky-readers-'));
const { url, stop } = await serveDemo();
/** Runs a program; null where it is not on this machine. */
function tool(program, args) {
  const { error, status, stdout, stderr } = spawnSync(program, args, {
    encoding: 'utf8',
    cwd: folder,
    maxBuffer: 64e6,
  });
  if (error?.code === 'ENOENT') return null;
  return { status, out: `${stdout}`, said: `${stdout}\n${stderr}` };
}
const missing = new Set();
const faults = [];
const fault = (title, what) => faults.push(`${title}: ${what}`);
async function file(id, route, name) {
  const answer = await fetch(`${url}/api/songs/${id}/${route}`);
  if (!answer.ok) throw new Error(`${route}: ${answer.status}`);
  const bytes = new Uint8Array(await answer.arrayBuffer());
  writeFileSync(path.join(folder, name), bytes);
  return path.join(folder, name);
}

const songs = await (await fetch(`${url}/api/songs`)).json();
for (const { id, title } of songs) {
  const row = [title];
  const midi = await file(id, 'export.mid', 'song.mid');
  const read = tool('/usr/bin/python3', ['-c', MIDO, midi]);
  if (!read || /No module/.test(read.said)) missing.add('python3-mido');
  else {
    const [notes, hanging, seconds] = read.out.trim().split(' ').map(Number);
    row.push(`mido ${notes} notes, ${hanging} left ringing, ${seconds} s`);
    if (read.status !== 0 || !(notes > 0) || hanging > 0) fault(title, `mido: ${read.said}`);
  }
  if (existsSync(SOUND_FONT)) {
    const sound = path.join(folder, 'song.wav');
    const made = tool('fluidsynth', ['-ni', '-F', sound, '-r', '22050', SOUND_FONT, midi]);
    if (!made) missing.add('fluidsynth');
    else {
      const seconds = existsSync(sound) ? (statSync(sound).size - 44) / (22050 * 4) : 0;
      row.push(`fluidsynth ${seconds.toFixed(1)} s`);
      if (made.status !== 0 || seconds < 5) fault(title, `fluidsynth: ${made.said.slice(0, 200)}`);
      rmSync(sound, { force: true });
    }
  } else missing.add('fluid-soundfont-gm');
  const abc = tool('abc2midi', [await file(id, 'export.abc', 'song.abc'), '-o', 'abc.mid']);
  if (!abc) missing.add('abcmidi');
  else {
    const errors = abc.said.match(/Error/g)?.length ?? 0;
    const warnings = abc.said.match(/Warning/g)?.length ?? 0;
    row.push(`abc2midi ${errors} errors, ${warnings} warnings`);
    if (errors > 0) fault(title, `abc2midi: ${abc.said.slice(0, 400)}`);
  }
  const sheet = await file(id, 'sheet.pdf', 'song.pdf');
  const text = tool('pdftotext', ['-layout', sheet, '-']);
  if (!text) missing.add('poppler-utils');
  else {
    const { document } = await (await fetch(`${url}/api/songs/${id}`)).json();
    const chords = new Set(
      document.sections.flatMap(({ lines }) =>
        lines.flatMap(({ bars }) => bars.flatMap((bar) => bar.chords.map(({ symbol }) => symbol))),
      ),
    );
    const lost = [...chords].filter((symbol) => !text.out.includes(symbol));
    row.push(`pdftotext ${chords.size - lost.length} of ${chords.size} chords`);
    if (lost.length > 0) fault(title, `pdftotext does not find ${lost.join(', ')}`);
  }
  console.log(row.join(' | '));
}
await stop();
rmSync(folder, { recursive: true, force: true });
if (missing.size > 0) console.log(`Not on this machine: ${[...missing].join(', ')}.`);
for (const one of faults) console.error(one);
console.log(faults.length === 0 ? 'No fault.' : `${faults.length} faults.`);
process.exitCode = faults.length === 0 ? 0 : 1;
