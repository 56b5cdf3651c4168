import { type MidiEvent, parseMidi } from 'midi-file';

/** A standard MIDI file that counts in beats: its tracks, and how many of its ticks go to a quarter. */
export interface MidiFile {
  tracks: MidiEvent[][];
  ticksPerQuarter: number;
}

/**
 * Reads a standard MIDI file.
 * @throws Error with one sentence where it is none, or counts in frames of a film
 * @example parsedMidi(toMidi(song)).ticksPerQuarter // 960
 */
export function parsedMidi(bytes: Uint8Array): MidiFile {
  let file: ReturnType<typeof parseMidi>;
  try {
    file = parseMidi([...bytes]);
  } catch {
    throw new Error('This is no MIDI file that can be read.');
  }
  const { ticksPerBeat } = file.header;
  if (!ticksPerBeat) throw new Error('This MIDI file counts in frames of a film, not in beats.');
  return { tracks: file.tracks, ticksPerQuarter: ticksPerBeat };
}
