import type { Song } from '#core/schema';
import { parseChord } from '#core/neck';
import { newSong } from '#core/song';
import { arrange } from '#core/arrange';
import { toMidi, toMusicXml } from '#core/formats/files';
import { sixteenths } from './songs';
import { few, ONCE, time } from './time';

/**
 * Benchmarks of what is written from a song: arranging, MIDI and MusicXML beside each other as the song
 * grows, and songs that ask for much at once. `node --expose-gc` gives the memory as well.
 */

const SIZES = few([128, 512, 2048]);
const BUDGETS = { arrange: 300, MIDI: 500, MusicXML: 1000 };

/** Megabytes that the process grew by while it worked. */
function memory(work: () => unknown): number {
  globalThis.gc?.();
  const before = process.memoryUsage().rss;
  work();
  return (process.memoryUsage().rss - before) / 1e6;
}

function songOf(bars: number): Song {
  const line = Array.from({ length: 8 }, (_, bar) => (bar % 2 ? 'D . <E7 .' : 'A F#m')).join(' | ');
  const progression = Array.from({ length: bars / 8 }, () => line).join('\n');
  return {
    ...newSong({ title: 'Long', instrument: 'guitar', progression }),
    pattern: sixteenths,
  };
}

const songs = SIZES.map(songOf);
for (const [name, write] of Object.entries({ arrange, MIDI: toMidi, MusicXML: toMusicXml })) {
  const grew = memory(() => write(songs.at(-1)!));
  const times = songs.map((song) => time(3, () => write(song)));
  const perBar = times.map((took, index) => took / SIZES[index]!);
  const budget = BUDGETS[name as keyof typeof BUDGETS];
  console.log(
    `${name} of ${SIZES.join(', ')} bars: ${times.map((took) => took.toFixed(0)).join(', ')} ms, ` +
      `${perBar.map((cost) => (cost / perBar[0]!).toFixed(2)).join(', ')} times the cost a bar; budget ` +
      `${budget} ms: ${times.at(-1)! <= budget ? 'kept' : 'MISSED'}; grew by ${grew.toFixed(0)} MB of 200`,
  );
}

const empty: Song = {
  ...songs[0]!,
  sections: [
    { name: '', lines: [{ bars: Array.from({ length: 125 }, () => ({ chords: [] })), times: 32 }] },
  ],
};
console.log(
  `4,000 empty bars: ${time(3, () => arrange(empty)).toFixed(0)} ms, ${memory(() => arrange(empty)).toFixed(0)} MB`,
);

const roots = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B'];
const slashes = ['', 'm', '7', 'm7', 'maj7']
  .flatMap((quality) => roots.flatMap((root) => roots.map((bass) => `${root}${quality}/${bass}`)))
  .filter((symbol) => parseChord(symbol))
  .slice(0, ONCE ? 20 : 400);
const eight: Song = {
  ...newSong({ title: 'Slashes', instrument: 'guitar', progression: slashes.join(' | ') }),
  instrument: {
    name: 'Eight',
    family: 'guitar',
    strings: [35, 40, 45, 50, 55, 59, 64, 69],
    frets: 24,
    offset: 0,
  },
};
const first = performance.now();
arrange(eight);
console.log(
  `${slashes.length} slash chords on eight strings: ${(performance.now() - first).toFixed(0)} ms at first, ` +
    `${time(3, () => arrange(eight)).toFixed(0)} ms after`,
);

const ran = newSong({
  title: 'Runs',
  instrument: 'guitar',
  progression: Array.from({ length: ONCE ? 8 : 250 }, () => 'A . D . | E7 . A .').join(' | '),
});
const run = { count: 2, noteTicks: 480, kind: 'in the key', direction: 'up' } as const;
const runs: Song = {
  ...ran,
  sections: ran.sections.map((section) => ({
    ...section,
    lines: section.lines.map((line) => ({
      times: 5,
      bars: line.bars.map((bar) => ({ chords: bar.chords.map((chord) => ({ ...chord, run })) })),
    })),
  })),
};
console.log(`5,000 runs: ${time(3, () => arrange(runs)).toFixed(0)} ms`);
