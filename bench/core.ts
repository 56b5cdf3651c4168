import type { Pattern, Song } from '#core/schema';
import { parsePattern, say } from '#core/stroke';
import { armReport } from '#core/pattern';
import {
  capoOptions,
  INSTRUMENT_IDS,
  INSTRUMENTS,
  parseChord,
  searchShapes,
  shapesFor,
  smoothestSet,
} from '#core/neck';
import { newSong, playedBars } from '#core/song';
import { arrange } from '#core/arrange';
import { pluck, STRING_VOICES } from '#core/sound';
import { sixteenths } from './songs';
import { few, ONCE, time } from './time';

/** Benchmarks of the core: medians of repeated runs, and ratios where they compare. */

function songOf(bars: number): Song {
  const line = Array.from({ length: 8 }, (_, bar) => (bar % 2 ? 'D . <E7 .' : 'A F#m')).join(' | ');
  const lines = Array.from({ length: bars / 8 }, () => line).join('\n');
  const song = newSong({ title: 'Long', instrument: 'guitar', progression: lines });
  return { ...song, pattern: sixteenths };
}

console.log('arrange, bars of sixteenths on six strings');
// The engine learns the code before anything is timed.
const longest = songOf(ONCE ? 64 : 2048);
for (let warm = 0; warm < (ONCE ? 1 : 12); warm += 1) arrange(longest);
let first = 0;
for (const bars of few([64, 128, 256, 512, 1024, 2048])) {
  const song = songOf(bars);
  if (playedBars(song).length !== bars) throw new Error('the song has not the bars asked for');
  const took = time(15, () => arrange(song));
  first ||= took / bars;
  const note = bars === 64 ? `  budget 5 ms: ${took <= 5 ? 'kept' : 'MISSED'}` : '';
  console.log(
    `  ${String(bars).padStart(5)} bars  ${took.toFixed(2).padStart(7)} ms  ` +
      `${(took / bars / first).toFixed(2)} times the cost a bar of 64${note}`,
  );
}

const long: Pattern = {
  ...sixteenths,
  beats: Array.from({ length: 32 }, () => sixteenths.beats[0]!),
};
console.log(
  `arm report, eight bars of sixteenths: ${time(50, () => armReport(long, 90)).toFixed(3)} ms`,
);

console.log(
  `say and parse, eight bars of sixteenths: ${time(20, () => parsePattern(say(long), long)).toFixed(2)} ms`,
);
const eightBars = { ...songOf(64), pattern: long };
console.log(`arrange, 64 bars under it: ${time(15, () => arrange(eightBars)).toFixed(2)} ms`);
const loose: Song = { ...eightBars, pattern: { ...sixteenths, loose: { density: 0.5, seed: 1 } } };
console.log(`arrange, 64 bars of a loose pattern: ${time(15, () => arrange(loose)).toFixed(2)} ms`);

const rendered = time(9, () => pluck(45, 3, 48000, STRING_VOICES.guitar));
console.log(
  `pluck of 3 s: ${rendered.toFixed(1)} ms, ${(3000 / rendered).toFixed(0)} times real time`,
);

/** The slowest and the middle of a list of times. */
function spread(times: number[]): string {
  const sorted = [...times].sort((a, b) => a - b);
  return `${sorted[sorted.length >> 1]!.toFixed(2)} ms median, ${sorted.at(-1)!.toFixed(2)} ms worst of ${times.length}`;
}

const searched = few(INSTRUMENT_IDS).flatMap((id) =>
  ['C', 'F#m', 'Bb7', 'Ebmaj7', 'C#m7b5', 'Ab6/9', 'Dadd9'].map((symbol) => {
    const chord = parseChord(symbol)!;
    return time(3, () => searchShapes(INSTRUMENTS[id], chord, { allowBarre: true, limit: 12 }));
  }),
);
console.log(
  `all shapes of one chord, every built-in instrument: ${spread(searched)}; budget 10 ms`,
);

const wide = { ...INSTRUMENTS.guitar, strings: [35, 40, 45, 50, 55, 59, 64, 69], name: 'Eight' };
const eight = time(5, () =>
  searchShapes(wide, parseChord('Am7')!, { allowBarre: true, limit: 12 }),
);
console.log(`all shapes of one chord on eight strings: ${eight.toFixed(1)} ms; budget 10 ms`);

const twelve = ['G', 'Em', 'C', 'D', 'Bm', 'D7', 'Am', 'F', 'Bb', 'Gm', 'Eb', 'Cm'];
const round = [...twelve, 'G', 'C', 'G', 'D', 'Em', 'Am', 'D7', 'G'];
const choices = twelve.map((symbol) => ({
  symbol,
  shapes: shapesFor(INSTRUMENTS.guitar, parseChord(symbol)!),
}));
const set = smoothestSet(choices, round);
const smooth = time(9, () => smoothestSet(choices, round));
console.log(
  `smoothest set for 12 chords: ${smooth.toFixed(1)} ms; budget 100 ms; ` +
    `${set.exact ? 'exact' : 'cut short'}, ${((set.after / set.before) * 100).toFixed(0)} % of the first-choice movement`,
);
const capos = time(5, () =>
  capoOptions({ instrument: INSTRUMENTS.guitar, sequence: round, capo: 0, lowest: -2, highest: 2 }),
);
console.log(`capo finder, five keys, 12 chords: ${capos.toFixed(1)} ms`);
