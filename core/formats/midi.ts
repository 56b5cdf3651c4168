import type { Seconds, Ticks } from '../plain';
import { type Voice, voices } from '../sound';
import { type MidiEvent, writeMidi } from 'midi-file';
import type { Family, Song } from '../schema';
import { arrange, clickBeats, type Performance } from '../arrange';
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
const CHANNELS = { strum: 0, bass: 1, line: 2 };
/** The click, by the weight of its beat: bell, high and low wood block. */
const CLICK_NOTES = { bar: 56, group: 76, beat: 77 };
const CLICK_VELOCITY = 0.7;
/** Of a minute: MIDI counts a tempo in microseconds a quarter. */
const MICROSECONDS = 60_000_000;

/** An event with the tick at which it comes, from the start of the song; its delta is set as it is written. */
interface Timed {
  tick: Ticks;
  event: MidiEvent;
}

/** One note of a track; velocity from 0 to 1. */
interface Note {
  tick: Ticks;
  ticks: Ticks;
  midi: number;
  velocity: number;
}

/**
 * A name as the bytes of UTF-8, one character each: the writer puts every character into one byte.
 */
function utf8(text: string): string {
  return encodeURIComponent(text).replaceAll(/%(..)/g, (_, hex: string) =>
    String.fromCharCode(parseInt(hex, 16)),
  );
}

/** A time signature wherever the length of a bar changes; a pick-up is as long as what it plays. */
function timeSignatures({ bars }: Performance): Timed[] {
  const found: Timed[] = [];
  let before = '';
  for (const { tick, ticks, meter } of bars) {
    const numerator = ticks / beatTicks(meter);
    const now = `${numerator}/${meter.unit}`;
    if (now !== before) {
      const signature = { numerator, denominator: meter.unit, metronome: 24, thirtyseconds: 8 };
      found.push({ tick, event: { type: 'timeSignature', deltaTime: 0, ...signature } });
    }
    before = now;
  }
  return found;
}

function named(name: string): Timed {
  return { tick: 0, event: { type: 'trackName', deltaTime: 0, text: utf8(name) } };
}

function noteEvents(notes: Note[], channel: number): Timed[] {
  const found: Timed[] = [];
  for (const { tick, ticks, midi: noteNumber, velocity: loud } of notes) {
    // A velocity of nothing would end the note that it begins.
    const velocity = Math.max(1, Math.floor(loud * 127));
    found.push(
      { tick, event: { type: 'noteOn', deltaTime: 0, channel, noteNumber, velocity } },
      {
        tick: tick + ticks,
        event: { type: 'noteOff', deltaTime: 0, channel, noteNumber, velocity: 0 },
      },
    );
  }
  const isOn = ({ event }: Timed) => Number(event.type === 'noteOn');
  // At one tick what ends goes before what begins, or a string struck again would be silenced.
  return found.sort((a, b) => a.tick - b.tick || isOn(a) - isOn(b));
}

/** Events that the writer is given at once: it copies all that it has at each of them. */
const AT_ONCE = 32;
/** Bytes of the header of a file, and of the header of a track, as the writer puts them. */
const FILE_HEADER = 14;
const TRACK_HEADER = 8;

/** The events of a track as bytes, without its header; written piece by piece and joined. */
function trackBytes(events: Timed[]): Uint8Array[] {
  const whole: MidiEvent[] = [];
  let at = 0;
  for (const { tick, event } of events) {
    event.deltaTime = tick - at;
    whole.push(event);
    at = tick;
  }
  whole.push({ type: 'endOfTrack', deltaTime: 0, meta: true });
  const pieces: Uint8Array[] = [];
  for (let from = 0; from < whole.length; from += AT_ONCE) {
    const written = writeMidi({
      header: { format: 1, numTracks: 1, ticksPerBeat: TICKS_PER_QUARTER },
      tracks: [whole.slice(from, from + AT_ONCE)],
    });
    pieces.push(Uint8Array.from(written.slice(FILE_HEADER + TRACK_HEADER)));
  }
  return pieces;
}

/** The tracks as one file: the header, then each track with its length before it. */
function fileOf(tracks: Timed[][]): Uint8Array {
  const header = writeMidi({
    header: { format: 1, numTracks: tracks.length, ticksPerBeat: TICKS_PER_QUARTER },
    tracks: tracks.map(() => []),
  }).slice(0, FILE_HEADER);
  const chunks = tracks.flatMap((events) => {
    const bytes = trackBytes(events);
    const head = new DataView(new ArrayBuffer(TRACK_HEADER));
    head.setUint32(0, 0x4d54726b);
    head.setUint32(
      4,
      bytes.reduce((sum, { length }) => sum + length, 0),
    );
    return [new Uint8Array(head.buffer), ...bytes];
  });
  const file = new Uint8Array(chunks.reduce((sum, { length }) => sum + length, header.length));
  file.set(header);
  let at = header.length;
  for (const chunk of chunks) {
    file.set(chunk, at);
    at += chunk.length;
  }
  return file;
}

/**
 * The arranged song as a Standard MIDI File, a track for each role: strums and bass notes (raked as they
 * are played, ringing until they are stopped, velocity by accent), the line of notes, chucks and taps, and the click. Names
 * are written in UTF-8.
 * @example toMidi(song) // bytes that begin with 'MThd'
 */
export function toMidi(song: Song): Uint8Array {
  const performance = arrange(song);
  const perTick = secondsPerTick(song.tempo, song.meter);
  const ticks = (seconds: Seconds) => Math.round(seconds / perTick);
  const quarters = (song.tempo * pulseTicks(song.meter)) / TICKS_PER_QUARTER;
  const microsecondsPerBeat = Math.floor(MICROSECONDS / quarters);

  const ringing = voices(performance, song.meter);
  const noteOf = ({ midi, velocity, start, end }: Voice): Note => {
    const tick = ticks(start);
    return { midi, velocity, tick, ticks: Math.max(1, ticks(end) - tick) };
  };
  const stringTrack = (role: keyof typeof CHANNELS, name: string): Timed[] => {
    const channel = CHANNELS[role];
    const programNumber = PROGRAMS[song.instrument.family];
    const notes = ringing.filter((voice) => voice.role === role).map(noteOf);
    return [
      named(name),
      { tick: 0, event: { type: 'programChange', deltaTime: 0, channel, programNumber } },
      ...noteEvents(notes, channel),
    ];
  };

  const short = ticks(PERCUSSION_SECONDS);
  const struck = performance.strikes.flatMap(({ kind, tap, tick, late, velocity }): Note[] => {
    const at = { velocity, tick: Math.round(tick + late), ticks: short };
    return [
      ...(kind === 'chuck' ? [{ midi: PERCUSSION_NOTES.chuck, ...at }] : []),
      ...(tap ? [{ midi: PERCUSSION_NOTES[tap], ...at }] : []),
    ];
  });
  const clicks = clickBeats(performance.bars, 0, performance.ticks).map(
    ({ tick, weight }): Note => ({
      midi: CLICK_NOTES[weight],
      velocity: CLICK_VELOCITY,
      tick,
      ticks: short,
    }),
  );
  return fileOf([
    [
      named(song.title),
      { tick: 0, event: { type: 'setTempo', deltaTime: 0, microsecondsPerBeat } },
      ...timeSignatures(performance),
    ],
    stringTrack('strum', song.instrument.name),
    stringTrack('bass', `${song.instrument.name}, bass notes`),
    ...(ringing.some(({ role }) => role === 'line')
      ? [stringTrack('line', `${song.instrument.name}, notes`)]
      : []),
    [named('Chucks'), ...noteEvents(struck, PERCUSSION_CHANNEL)],
    [named('Click'), ...noteEvents(clicks, PERCUSSION_CHANNEL)],
  ]);
}
