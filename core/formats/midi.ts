import { Midi } from '@tonejs/midi';
import type { Family, Song } from '../schema';
import { arrange, clickBeats, type Performance, voices } from '../song';
import { beatTicks, pulseTicks, secondsPerTick, TICKS_PER_QUARTER } from '../time';

/**
 * General MIDI programs: 25 is the steel-string guitar, 24 the nylon strings, nearest to a ukulele too, 105
 * the banjo; a mandolin has none and takes the steel strings.
 */
const PROGRAMS: Record<Family, number> = {
  guitar: 25,
  nylon: 24,
  ukulele: 24,
  baritone: 24,
  mandolin: 25,
  banjo: 105,
};

/** Chucks and taps have no pitch, so they go to the percussion channel: side stick, conga, clap. */
const PERCUSSION_NOTES = { chuck: 37, body: 64, strings: 39 };
const PERCUSSION_SECONDS = 0.06;
const PERCUSSION_CHANNEL = 9;
const CHANNELS = { strum: 0, bass: 1 };
/** The click, by the weight of its beat: bell, high and low wood block. */
const CLICK_NOTES = { bar: 56, group: 76, beat: 77 };
const CLICK_VELOCITY = 0.7;

/** A time signature wherever the length of a bar changes; a pick-up is as long as what it plays. */
function timeSignatures({ bars }: Performance): { ticks: number; timeSignature: number[] }[] {
  const all = bars.map(({ tick, ticks, meter }) => ({
    ticks: tick,
    timeSignature: [ticks / beatTicks(meter), meter.unit],
  }));
  return all.filter((now, index) => {
    const before = all[index - 1];
    return now.timeSignature.join() !== before?.timeSignature.join();
  });
}

/**
 * The arranged song as a Standard MIDI File, a track for each role: strums and bass notes (raked as they
 * are played, ringing until they are stopped, velocity by accent), chucks and taps, and the click.
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
    timeSignatures: timeSignatures(performance),
    keySignatures: [],
    meta: [],
  });

  for (const role of ['strum', 'bass'] as const) {
    const track = midi.addTrack();
    track.name = role === 'strum' ? song.instrument.name : `${song.instrument.name}, bass notes`;
    track.channel = CHANNELS[role];
    track.instrument.number = PROGRAMS[song.instrument.family];
    for (const voice of voices(performance, song.meter)) {
      if (voice.role !== role) continue;
      const start = ticks(voice.start);
      const durationTicks = Math.max(1, ticks(voice.end) - start);
      const { midi: pitch, velocity } = voice;
      track.addNote({ midi: pitch, velocity, ticks: start, durationTicks });
    }
  }

  const percussion = midi.addTrack();
  percussion.name = 'Chucks';
  percussion.channel = PERCUSSION_CHANNEL;
  const durationTicks = ticks(PERCUSSION_SECONDS);
  for (const { kind, tap, tick, late, velocity } of performance.strikes) {
    const at = { velocity, ticks: Math.round(tick + late), durationTicks };
    if (kind === 'chuck') percussion.addNote({ midi: PERCUSSION_NOTES.chuck, ...at });
    if (tap) percussion.addNote({ midi: PERCUSSION_NOTES[tap], ...at });
  }

  const click = midi.addTrack();
  click.name = 'Click';
  click.channel = PERCUSSION_CHANNEL;
  for (const { tick, weight } of clickBeats(performance.bars, 0, performance.ticks)) {
    const note = { velocity: CLICK_VELOCITY, ticks: tick, durationTicks };
    click.addNote({ midi: CLICK_NOTES[weight], ...note });
  }
  return midi.toArray();
}
