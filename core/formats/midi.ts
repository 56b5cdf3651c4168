import { Midi } from '@tonejs/midi';
import type { Family, Song } from '../schema';
import { arrange, voices } from '../song';
import { pulseTicks, secondsPerTick, TICKS_PER_QUARTER } from '../time';

/**
 * General MIDI programs: 25 is the steel-string guitar, 24 the nylon strings nearest a ukulele, 105
 * the banjo; a mandolin has none and takes the steel strings.
 */
const PROGRAMS: Record<Family, number> = {
  guitar: 25,
  ukulele: 24,
  baritone: 24,
  mandolin: 25,
  banjo: 105,
};

/** A chuck has no pitch, so it goes to the percussion channel as a side stick. */
const CHUCK_NOTE = 37;
const CHUCK_SECONDS = 0.06;
const PERCUSSION_CHANNEL = 9;

/**
 * The arranged song as a Standard MIDI File: the strings on one track (raked as they are played,
 * ringing until they are stopped, velocity by accent) and the chucks on a percussion track.
 * @example toMidi(song) // bytes that begin with 'MThd'
 */
export function toMidi(song: Song): Uint8Array {
  const performance = arrange(song);
  const perTick = secondsPerTick(song.tempo, song.meter);
  const ticks = (seconds: number) => Math.round(seconds / perTick);

  const midi = new Midi();
  midi.header.fromJSON({
    name: song.title,
    ppq: TICKS_PER_QUARTER,
    tempos: [{ ticks: 0, bpm: (song.tempo * pulseTicks(song.meter)) / TICKS_PER_QUARTER }],
    timeSignatures: [{ ticks: 0, timeSignature: [song.meter.beats, song.meter.unit] }],
    keySignatures: [],
    meta: [],
  });

  const strings = midi.addTrack();
  strings.name = song.instrument.name;
  strings.channel = 0;
  strings.instrument.number = PROGRAMS[song.instrument.family];
  for (const voice of voices(performance, song.meter)) {
    const start = ticks(voice.start);
    const length = Math.max(1, ticks(voice.end) - start);
    const { midi: pitch, velocity } = voice;
    strings.addNote({ midi: pitch, velocity, ticks: start, durationTicks: length });
  }

  const chucks = midi.addTrack();
  chucks.name = 'Chucks';
  chucks.channel = PERCUSSION_CHANNEL;
  for (const { kind, tick, velocity } of performance.strikes) {
    if (kind !== 'chuck') continue;
    const durationTicks = ticks(CHUCK_SECONDS);
    chucks.addNote({ midi: CHUCK_NOTE, velocity, ticks: tick, durationTicks });
  }
  return midi.toArray();
}
