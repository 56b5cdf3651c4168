import type { Ticks } from '../plain';
import { type TakeOnset } from '../schema';
import { DRUM_CHANNEL, strokesOfNotes, type StruckNote } from '../take';
import { parsedMidi } from './midiFile';

/** Length of a quarter where a file does not say: 120 a minute. */
const USUAL_MICROSECONDS = 500_000;

/**
 * A take that was recorded as a standard MIDI file: its strokes, in seconds, with their way and how loud they are.
 * @param bytes of the file; drums are no strokes
 * @throws Error with one sentence where it cannot be read, or has no notes
 * @example takeOfMidi(toMidi(song))[0].direction // 'down'
 */
export function takeOfMidi(bytes: Uint8Array): TakeOnset[] {
  const { tracks, ticksPerQuarter } = parsedMidi(bytes);
  const struck: { tick: Ticks; midi: number; velocity: number }[] = [];
  const tempos = [{ tick: 0, microseconds: USUAL_MICROSECONDS }];
  for (const track of tracks) {
    let tick = 0;
    for (const event of track) {
      tick += event.deltaTime;
      if (event.type === 'setTempo') tempos.push({ tick, microseconds: event.microsecondsPerBeat });
      if (event.type !== 'noteOn' || event.velocity === 0 || event.channel === DRUM_CHANNEL)
        continue;
      struck.push({ tick, midi: event.noteNumber, velocity: event.velocity });
    }
  }
  if (struck.length === 0) throw new Error('There are no notes in this file.');
  tempos.sort((a, b) => a.tick - b.tick);
  struck.sort((a, b) => a.tick - b.tick);
  let [at, from, perTick, next] = [0, 0, 0, 0];
  const notes: StruckNote[] = struck.map(({ tick, midi, velocity }) => {
    while (next < tempos.length && tempos[next]!.tick <= tick) {
      const { tick: begins, microseconds } = tempos[next]!;
      at += (begins - from) * perTick;
      from = begins;
      perTick = microseconds / 1e6 / ticksPerQuarter;
      next += 1;
    }
    return { seconds: at + (tick - from) * perTick, midi, velocity };
  });
  return strokesOfNotes(notes);
}
