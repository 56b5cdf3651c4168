import { PitchDetector } from 'pitchy';
import type { Family, InstrumentId, Pattern, Song } from '#core/schema';
import { INSTRUMENTS } from '#core/neck';
import { newSong } from '#core/song';
import { arrange } from '#core/arrange';
import {
  hertz,
  type Mix,
  mixCues,
  dryMix,
  mixdown,
  pluck,
  STRING_VOICES,
  USUAL_LEVELS,
} from '#core/sound';
import { demoSongs } from '../server/demo/songs';
import { saidPattern } from './songs';
import { few, ONCE } from './time';

/** Benchmarks of the sound: how fast it is rendered, how well in tune, how exactly in time, how loud. */

const RATE = 44100;

function mixOf(song: Song, change: Partial<Mix> = {}): Mix {
  return {
    performance: arrange(song),
    meter: song.meter,
    family: song.instrument.family,
    click: null,
    groove: null,
    levels: USUAL_LEVELS,
    sampleRate: RATE,
    ...change,
  };
}

function run(mix: Mix): Float32Array {
  const steps = mixdown(mix);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value.left;
  }
}

const peakOf = (samples: Float32Array) =>
  samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);

// Fast enough, and never at full scale.
const rendered = few(demoSongs).map((song) => {
  const mix = mixOf(song, { click: 'all', groove: 'sixteenths' });
  const began = performance.now();
  const samples = run(mix);
  const took = (performance.now() - began) / 1000;
  const seconds = samples.length / RATE;
  const dense = mix.performance.strikes.length / seconds;
  return { title: song.title, times: seconds / took, peak: peakOf(samples), dense };
});
for (const { title, times, peak, dense } of rendered) {
  console.log(
    `rendering “${title}”: ${times.toFixed(0)} times real time; budget 50; ` +
      `peak ${peak.toFixed(3)} of full scale, ${dense.toFixed(1)} strokes a second`,
  );
}

// Every string and fret, as another pitch reader hears it.
// High plucks are soon gone, so they are read from a shorter stretch; and through a smoothing, since the
// reader draws a parabola between samples, which is too blunt for their harmonics.
const HIGH = 500;
const windowOf = (frequency: number) => (frequency > HIGH ? 4096 : 16384);
function smoothed(samples: Float32Array, frequency: number): Float32Array {
  const keeps = 1 - Math.exp((-2 * Math.PI * frequency * 0.7) / RATE);
  return [1, 2, 3, 4].reduce((now) => {
    let low = 0;
    return now.map((sample) => (low += keeps * (sample - low)));
  }, samples);
}
const detectors = new Map([4096, 16384].map((size) => [size, PitchDetector.forFloat32Array(size)]));
const tuned: Partial<Record<Family, number[]>> = {};
const ids: InstrumentId[] = ['guitar', 'guitar-nylon', 'ukulele', 'baritone', 'mandolin', 'banjo'];
for (const id of few(ids)) {
  const { strings, family, frets } = INSTRUMENTS[id];
  for (const open of few(strings)) {
    for (let fret = 0; fret <= (ONCE ? 2 : frets); fret += 1) {
      const wanted = hertz(open + fret);
      const size = windowOf(wanted);
      const sounding = pluck(open + fret, 1, RATE, STRING_VOICES[family]);
      const samples = wanted > HIGH ? smoothed(sounding, wanted) : sounding;
      const [read] = detectors.get(size)!.findPitch(samples.slice(size / 2, size * 1.5), RATE);
      const off = Math.abs(1200 * Math.log2(read / wanted));
      (tuned[family] ??= []).push(off);
    }
  }
}
for (const [family, offs] of Object.entries(tuned)) {
  const sorted = offs.sort((a, b) => a - b);
  console.log(
    `pitch of every string and fret, ${family}: ${sorted[sorted.length >> 1]!.toFixed(2)} cents off ` +
      `median, ${sorted.at(-1)!.toFixed(2)} worst of ${sorted.length}; budget 3`,
  );
}

// Onsets in the samples against the arranged times, straight and swung.
function onsets(samples: Float32Array): number[] {
  const found: number[] = [];
  let quiet = RATE;
  samples.forEach((sample, index) => {
    if (Math.abs(sample) < 0.0015) quiet += 1;
    else {
      if (quiet > RATE * 0.03) found.push(index / RATE);
      quiet = 0;
    }
  });
  return found;
}
const chucks = saidPattern('chuck chuck, miss chuck, chuck miss, chuck chuck');
for (const percent of [50, 58, 67]) {
  const pattern: Pattern = { ...chucks, feel: { on: 'eighths', percent } };
  const song: Song = {
    ...newSong({
      title: 'Onsets',
      instrument: 'guitar',
      progression: Array.from({ length: 32 }, () => 'A').join(' | '),
      tempo: 77,
    }),
    pattern,
  };
  const mix = mixOf(song);
  const heard = onsets(dryMix(mix));
  const wanted = mix.performance.strikes.map(({ seconds }) => seconds);
  const worst = heard.reduce(
    (most, time, index) => Math.max(most, Math.abs(time - wanted[index]!)),
    0,
  );
  console.log(
    `onsets at ${percent} % swing: ${heard.length} of ${wanted.length} found, ` +
      `${(worst * 1000).toFixed(3)} ms off at worst; budget 1`,
  );
}

// A strum reaches its strings in the order of its direction.
for (const words of ['down', 'up']) {
  const pattern = saidPattern(`${words} miss, miss miss, miss miss, miss miss`);
  const song: Song = {
    ...newSong({ title: 'Rake', instrument: 'guitar', progression: 'E', tempo: 60 }),
    pattern,
  };
  const plucks = mixCues(mixOf(song))
    .cues.flatMap((cue) =>
      cue.act === 'start' && cue.sound.kind === 'pluck'
        ? [[cue.time, cue.sound.midi] as const]
        : [],
    )
    .sort(([a], [b]) => a - b);
  console.log(
    `a strum ${words}: pitches ${plucks.map(([, midi]) => midi).join(' ')} over ` +
      `${((plucks.at(-1)![0] - plucks[0]![0]) * 1000).toFixed(0)} ms`,
  );
}
