import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { writeMidi } from 'midi-file';
import { readWav } from '#core/take';
import type { PlayedStroke } from './secondVoice';

/**
 * A third way to make strings sound, for takes that the ear is tried on: samples of real guitars, played by fluidsynth
 * from a sound font, both from Debian's packages, where they are installed. For measuring alone: none of it is shipped.
 */

const FONTS = ['FluidR3_GM.sf2', 'TimGM6mb.sf2'].map((name) => `/usr/share/sounds/sf2/${name}`);
/** The fonts that are installed, with the player for them; none where it is not. */
export const soundFonts = (): string[] =>
  spawnSync('fluidsynth', ['--version']).status === 0 ? FONTS.filter(existsSync) : [];

/** Ticks a second of the file that is played. */
const TICKS = 1000;
/** General MIDI, from 0: nylon and steel strings. */
const PROGRAMS = [24, 25];
/** Seconds that a damped string sounds, and in which a hand that falls on one takes its sound away. */
const DAMPED = 0.035;
const FALLS = 0.02;
/** MIDI controllers: how loud a channel is, and silence at once. */
const [EXPRESSION, SILENCE] = [11, 120];
const folder = mkdtempSync(path.join(tmpdir(), 'plucky-fonts-'));

interface Surroundings {
  sampleRate: number;
  lead: number;
  /** Decibels of hiss below the strums. */
  noise: number;
  seed: number;
  font: string;
  /** General MIDI, from 0; nylon and steel by turns where it is left out. */
  program?: number;
  /** Pitches of the open strings, which a damped stroke knocks on; a guitar's where they are left out. */
  open?: number[];
}

type ChannelEvent =
  | { type: 'noteOn' | 'noteOff'; channel: number; noteNumber: number; velocity: number }
  | { type: 'controller'; channel: number; controllerType: number; value: number };

/** A stroke of damped strings: what the hand would sound, cut off at once. */
const OPEN = [40, 45, 50, 55, 59, 64];

function generator(seed: number): () => number {
  let state = (seed * 2_246_822_519 + 7) >>> 0;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 31 - 1;
  };
}

/**
 * The strokes as sound, played from samples: each string on a channel of its own, so that a new pluck ends the old one.
 * @returns mono samples below full scale
 */
export function sampledStrings(
  strokes: PlayedStroke[],
  { sampleRate, lead, noise, seed, font, program: asked, open = OPEN }: Surroundings,
): Float32Array {
  const random = generator(seed);
  const events: { tick: number; rank: number; event: ChannelEvent }[] = [];
  /** When the string is struck or damped next. */
  const ends = new Map<number, { seconds: number; damped: boolean }>();
  const at = (seconds: number) => Math.round((seconds + lead) * TICKS);
  for (const stroke of [...strokes].reverse()) {
    const damped = stroke.notes.length === 0;
    const notes = damped
      ? open.map((midi, string) => ({ string, midi, delay: string * 0.004, velocity: 0.5 }))
      : stroke.notes;
    for (const { string, midi, delay, velocity } of notes) {
      const from = stroke.seconds + delay;
      const next = ends.get(string) ?? { seconds: from + 4, damped: false };
      const until = damped ? from + DAMPED : Math.min(next.seconds, from + 4);
      // A hand is never quite the same twice.
      const force = Math.max(12, Math.min(127, 127 * velocity * (1 + 0.1 * random())));
      // Damped strings knock beside what is being damped: they have channels of their own, above the drums.
      const channel = damped ? Math.min(15, 10 + string) : string;
      const noteNumber = midi;
      const control = (tick: number, rank: number, controllerType: number, value: number) =>
        events.push({ tick, rank, event: { type: 'controller', channel, controllerType, value } });
      control(at(from), 1, EXPRESSION, 127);
      events.push({
        tick: at(from),
        rank: 2,
        event: { type: 'noteOn', channel, noteNumber, velocity: Math.round(force) },
      });
      // A sample that is let go rings out by itself; a hand that falls on the string stops it.
      if (damped || (next.damped && until === next.seconds)) {
        const free = damped ? next.seconds : Infinity;
        for (let step = 1; step <= 4; step += 1) {
          const tick = at(until + (step * FALLS) / 4);
          if (tick < at(free))
            control(tick, 0, step < 4 ? EXPRESSION : SILENCE, step < 4 ? 127 - step * 35 : 0);
        }
      } else {
        events.push({
          tick: at(until),
          rank: 0,
          event: { type: 'noteOff', channel, noteNumber, velocity: 0 },
        });
      }
      ends.set(string, { seconds: from, damped: false });
    }
    for (const string of stroke.damps) ends.set(string, { seconds: stroke.seconds, damped: true });
  }
  events.sort((a, b) => a.tick - b.tick || a.rank - b.rank);
  const program = asked ?? PROGRAMS[seed % PROGRAMS.length]!;
  let now = 0;
  const track = [
    ...Array.from({ length: 16 }, (_, channel) => ({
      deltaTime: 0,
      type: 'programChange' as const,
      channel,
      programNumber: program,
    })),
    {
      deltaTime: 0,
      type: 'setTempo' as const,
      microsecondsPerBeat: 1_000_000,
      meta: true as const,
    },
    ...events.map(({ tick, event }) => {
      const deltaTime = tick - now;
      now = tick;
      return { deltaTime, ...event };
    }),
    { deltaTime: TICKS, type: 'endOfTrack' as const, meta: true as const },
  ];
  const header = { format: 0 as const, numTracks: 1, ticksPerBeat: TICKS };
  const [from, to] = ['take.mid', 'take.wav'].map((name) => path.join(folder, name)) as [
    string,
    string,
  ];
  writeFileSync(from, Uint8Array.from(writeMidi({ header, tracks: [track] })));
  const rate = String(sampleRate);
  const { status } = spawnSync('fluidsynth', [
    '-ni',
    '-g',
    '0.5',
    '-r',
    rate,
    '-F',
    to,
    font,
    from,
  ]);
  if (status !== 0) throw new Error('fluidsynth did not play the take');
  const { samples } = readWav(new Uint8Array(readFileSync(to)));
  const out = Float32Array.from(samples);
  let energy = 0;
  for (const value of out) energy += value * value;
  const strums = Math.sqrt(energy / Math.max(1, out.length));
  const hiss = strums * 10 ** (-noise / 20) * Math.sqrt(3);
  for (let index = 0; index < out.length; index += 1) out[index] = out[index]! + hiss * random();
  return out;
}
