import type { SecondsPerTick, Ticks } from '#core/plain';
import type { Meter, Pattern } from '#core/schema';
import { barTicks, METERS, pulseTicks, secondsPerTick } from '#core/time';
import { guessKey } from '#core/neck';
import { newSong } from '#core/song';
import { arrangement } from '#core/arrange';
import type { Recording } from '#core/take';
import {
  chromaOf,
  landOn,
  layOn,
  mapBeats,
  mappedBars,
  secondsOf,
  suggestChords,
} from '#core/along';
import { measureLaid } from './alongLaid';
import { type PlayedStroke, secondVoice } from './secondVoice';
import { saidPattern } from './songs';
import { few, median, ONCE } from './time';

/**
 * How well the beats, landings and chords of a recording are found: on recordings that a second synthesis makes, whose
 * tempo breathes by up to six percent. Every number is a count over all of them.
 */

const RATE = 22_050;
const LEAD = 1.3;

interface Kind {
  name: string;
  meter: Meter;
  words: string;
  line: string;
  tempo: number;
  feel?: Pattern['feel'];
}

const kinds: Kind[] = [
  {
    name: '4/4',
    meter: METERS['4/4'],
    words: 'down miss, down up, miss up, down up',
    line: 'G | Em | C | D7 | Am7 | C . D . | G | D',
    tempo: 92,
  },
  {
    name: '3/4',
    meter: METERS['3/4'],
    words: 'bass miss, down up, down up',
    line: 'C | Am | F | G7 | Dm | G | C | Cmaj7',
    tempo: 112,
  },
  {
    name: '6/8',
    meter: METERS['6/8'],
    words: 'down, up, down, DOWN, up, down',
    line: 'Am | F | C | G | Dm7 | E7 | Am | E',
    tempo: 58,
  },
  {
    name: 'swing',
    meter: METERS['4/4'],
    words: 'down up, down up, down up, down up',
    line: 'A | F#m7 | D | E7 | A | Bm7 | E7 | A',
    tempo: 120,
    feel: { on: 'eighths', percent: 66 },
  },
  {
    name: 'sixteenths',
    meter: METERS['4/4'],
    words: 'DOWN miss down up, chuck miss miss UP, miss up down up, chuck miss down up',
    line: 'Em | C | G | D | Em | C | Am | D',
    tempo: 78,
  },
];

/** Times that breathe: seconds at a tick, slow and quick in turn by a share. */
function breathing(perTick: SecondsPerTick, share: number, turn: number) {
  return (tick: Ticks) => {
    const even = tick * perTick;
    return even + ((share * turn) / (2 * Math.PI)) * (1 - Math.cos((2 * Math.PI * even) / turn));
  };
}

function scatter(seed: number) {
  let state = seed * 7919 + 13;
  const even = () => {
    state = (state * 1_103_515_245 + 12_345) % 2 ** 31;
    return state / 2 ** 31;
  };
  return () => Array.from({ length: 12 }, even).reduce((sum, one) => sum + one, -6);
}

let [lines, near, presses, onSlot, chords, first, three] = [0, 0, 0, 0, 0, 0, 0];
const errors: number[] = [];
const spent: number[] = [];
let worst = '';
let worstShare = 1;
/** With drums or not, and how much of the tempo it breathes by. */
const BREATHS = [
  [false, 0.06],
  [true, 0.06],
  [false, 0.03],
  [true, 0.04],
] as const;
for (const kind of few(kinds)) {
  for (const [drums, share] of few(BREATHS)) {
    const start = newSong({
      title: kind.name,
      instrument: 'guitar',
      meter: kind.meter,
      tempo: kind.tempo,
      progression: ONCE ? kind.line : `${kind.line} x4`,
    });
    const pattern = saidPattern(kind.words, kind.meter);
    const song = { ...start, pattern: { ...pattern, ...(kind.feel && { feel: kind.feel }) } };
    const { performance, changes } = arrangement(song);
    const at = breathing(secondsPerTick(song.tempo, song.meter), share, 23);
    const random = scatter(lines + 1);
    const strokes: PlayedStroke[] = performance.strikes.map((strike) => ({
      ...strike,
      seconds: at(strike.tick + strike.late) + 0.007 * random(),
    }));
    if (drums) {
      const pulse = pulseTicks(song.meter);
      for (let tick = 0, beat = 0; tick < performance.ticks; tick += pulse, beat += 1) {
        strokes.push({
          seconds: at(tick),
          kind: 'chuck',
          dir: 'down',
          velocity: beat % 2 ? 1 : 0.7,
          notes: [],
          damps: [],
        });
      }
      strokes.sort((a, b) => a.seconds - b.seconds);
    }
    const samples = secondVoice(strokes, { sampleRate: RATE, lead: LEAD, noise: 30, seed: 3 });
    const recording: Recording = { samples, sampleRate: RATE };
    const pulse = pulseTicks(song.meter);
    const firstBar = 4 * barTicks(song.meter);
    const taps = Array.from(
      { length: 8 },
      (_, tap) => LEAD + at(firstBar + tap * pulse) + 0.02 * random(),
    );
    const began = performance.strikes.length > 0 ? process.hrtime.bigint() : 0n;
    const map = mapBeats(recording, taps, song.meter);
    const took = Number(process.hrtime.bigint() - began) / 1e9;
    spent.push((took * 300) / (samples.length / RATE));
    if (typeof map === 'string') throw new Error(map);
    const found = mappedBars(layOn(map, [], []), []).map(({ seconds }) => seconds);
    let [all, good] = [0, 0];
    for (let tick = 0; tick < performance.ticks; tick += barTicks(song.meter)) {
      const meant = LEAD + at(tick);
      const off = Math.min(...found.map((seconds) => Math.abs(seconds - meant)));
      all += 1;
      errors.push(off * 1000);
      if (off <= 0.035) good += 1;
    }
    lines += all;
    near += good;
    if (good / all < worstShare) {
      worstShare = good / all;
      worst = `${kind.name}${drums ? ' with drums' : ''}, ${share * 100} %`;
    }
    // Presses with 60 ms of scatter around the landings of a song whose first bar line is known.
    const shift =
      Math.round((LEAD - secondsOf(map, 0)) / (found[1]! - found[0]!)) * barTicks(song.meter);
    for (const { tick } of changes) {
      const pressed = LEAD + at(tick) + 0.03 * random();
      presses += 1;
      if (Math.abs(landOn(map, pressed).tick - shift - tick) <= 240) onSlot += 1;
    }
    const key = guessKey(changes.map(({ symbol }) => symbol));
    changes.slice(0, 32).forEach(({ tick, symbol }, index) => {
      const until = changes[index + 1]?.tick ?? performance.ticks;
      const guesses = suggestChords(chromaOf(recording, LEAD + at(tick), LEAD + at(until)), {
        key,
        ...(index > 0 && { before: changes[index - 1]!.symbol }),
      }).map((guess) => guess.symbol);
      chords += 1;
      if (guesses[0] === symbol) first += 1;
      if (guesses.includes(symbol)) three += 1;
    });
  }
}

const percent = (part: number, all: number) => `${((100 * part) / all).toFixed(1)} %`;
console.log('along with recordings of a second synthesis, 20 of them, drifting by up to 6 %');
console.log(
  `  bar lines within 35 ms after eight taps: ${percent(near, lines)} (goal 95), median ${median(errors).toFixed(1)} ms; least sure: ${worst} with ${(100 * worstShare).toFixed(0)} %`,
);
console.log(`  presses within a sixteenth: ${percent(onSlot, presses)} (goal 95)`);
console.log(
  `  chord suggested first: ${percent(first, chords)} (goal 70), among three: ${percent(three, chords)} (goal 90)`,
);
console.log(`  five minutes mapped in ${median(spent).toFixed(2)} s (goal 5)`);

measureLaid();

// Memory while five minutes are mapped: the samples themselves, and what is held besides.
{
  const samples = new Float32Array(300 * RATE);
  for (let at = 0; at < samples.length; at += RATE / 2) samples.fill(0.5, at, at + 200);
  globalThis.gc?.();
  const before = process.memoryUsage();
  mapBeats({ samples, sampleRate: RATE }, [0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4], METERS['4/4']);
  const after = process.memoryUsage();
  const held = after.heapTotal + after.arrayBuffers - before.heapTotal - before.arrayBuffers;
  const megabytes = (Math.max(0, held) + samples.byteLength) / 2 ** 20;
  console.log(`  memory for five minutes: ${megabytes.toFixed(0)} MB (at most 250)`);
}
