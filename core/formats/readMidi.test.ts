import { describe, expect, it } from 'vitest';
import { writeMidi } from 'midi-file';
import { newSong } from '../song';
import { toMidi } from './midi';
import { chartProgression } from './chordpro';
import { readMidi } from './readMidi';

const PER_BEAT = 480;
const CHORDS: Record<string, number[]> = {
  C: [48, 52, 55, 60],
  G: [43, 47, 50, 55],
  Am: [45, 48, 52, 57],
  F: [41, 45, 48, 53],
  Cmaj7: [48, 52, 55, 59],
  G7: [43, 47, 50, 53],
};

/** Notes as a file: from beat to beat, each with its pitches. */
function fileOf(notes: { from: number; to: number; pitches: number[] }[], meter = 4): Uint8Array {
  const events = notes.flatMap(({ from, to, pitches }) =>
    pitches.flatMap((noteNumber) => [
      { at: from * PER_BEAT, type: 'noteOn' as const, noteNumber, velocity: 80 },
      { at: to * PER_BEAT, type: 'noteOff' as const, noteNumber, velocity: 0 },
    ]),
  );
  events.sort((a, b) => a.at - b.at || (a.type === 'noteOff' ? -1 : 1));
  let now = 0;
  const track = [
    {
      deltaTime: 0,
      type: 'timeSignature' as const,
      meta: true as const,
      numerator: meter,
      denominator: 4,
      metronome: 24,
      thirtyseconds: 8,
    },
    ...events.map(({ at, ...event }) => {
      const deltaTime = at - now;
      now = at;
      return { deltaTime, channel: 0, ...event };
    }),
    { deltaTime: 0, type: 'endOfTrack' as const, meta: true as const },
  ];
  const header = { format: 0 as const, numTracks: 1, ticksPerBeat: PER_BEAT };
  return Uint8Array.from(writeMidi({ header, tracks: [track] }));
}
/** Chords that are held, each so many beats. */
const held = (...chords: [string, number][]) => {
  let at = 0;
  return chords.map(([symbol, beats]) => {
    const from = at;
    at += beats;
    return { from, to: at, pitches: CHORDS[symbol]! };
  });
};
function read(bytes: Uint8Array): string {
  const answer = readMidi(bytes);
  if ('problem' in answer) return answer.problem.message;
  return chartProgression(answer.chart, 'bar').replace(/^Song:\n/, '');
}

describe('chords of a MIDI file', () => {
  it('are two where two sound, and one where it is one', () => {
    expect(read(fileOf(held(['C', 2], ['G', 2], ['Cmaj7', 4], ['Am', 3], ['G7', 1])))).toBe(
      'C . G . | Cmaj7 | Am . . G7',
    );
    expect(read(fileOf(held(['C', 1], ['G', 1], ['Am', 1], ['F', 1])))).toBe('C G Am F');
  });

  it('are one where its notes come one after the other', () => {
    const broken = [48, 52, 55, 52, 45, 48, 52, 48].map((midi, beat) => ({
      from: beat,
      to: beat + 1,
      pitches: [midi],
    }));
    expect(read(fileOf(broken))).toBe('C | Am');
  });

  it('go by the beats of the bar, whatever they are', () => {
    expect(read(fileOf(held(['C', 3], ['G', 1], ['Am', 2]), 3))).toBe('C | G Am .');
  });

  it('come back from strummed bars that chords share', () => {
    const progression = 'C G | Am F | C . . G7 | C';
    const song = newSong({ title: 'Weir', instrument: 'guitar', progression });
    expect(read(toMidi(song) as Uint8Array)).toBe('C . G . | Am . F . | C . . G7 | C');
  });
});
