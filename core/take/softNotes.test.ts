import { describe, expect, it } from 'vitest';
import type { Strike } from '../arrange';
import { hertz } from '../sound';
import type { Alignment } from './align';
import type { Heard } from './onsets';
import { softNotes } from './softNotes';

const RATE = 11_025;
const APART = 0.5;

/** Notes half a second apart, each of a pitch or left out; they die away slowly, and begin softly. */
function recorded(pitches: (number | null)[], others: number[] = []) {
  const samples = new Float32Array((pitches.length + 1) * APART * RATE);
  const add = (midi: number, from: number, level: number) => {
    for (let at = Math.round(from * RATE); at < samples.length; at += 1) {
      const since = at / RATE - from;
      const swells = Math.min(1, since / 0.03) * Math.exp(-since * 3);
      samples[at] = samples[at]! + level * swells * Math.sin(2 * Math.PI * hertz(midi) * since);
    }
  };
  pitches.forEach((midi, place) => {
    if (midi !== null) add(midi, 0.25 + place * APART, 0.3);
  });
  for (const midi of others) add(midi, 0, 0.2);
  return { samples, sampleRate: RATE };
}

const note = (midi: number) => ({ strike: { notes: [{ midi }] } as Strike });
/** Strokes of which only the last was heard to begin, a strum after all the notes. */
const found = (meant: number[], sounding: (number | null)[], others: number[] = []) => {
  const at = (place: number) => 0.25 + place * APART;
  const heard = [{ seconds: at(meant.length) } as Heard];
  const strikes = [...meant.map(note), { strike: { notes: [{}, {}] } as Strike }];
  const alignment = { at, matches: [{ expected: meant.length, heard: 0 }] } as unknown as Alignment;
  return [...softNotes(recorded(sounding, others), strikes, alignment, heard)];
};

describe('single notes whose start nobody heard', () => {
  it('are there where their pitch is', () => {
    expect(found([40, 45, 40, 45], [40, 45, 40, null])).toEqual([0, 1, 2, 3]);
    expect(found([40, 45, 40, 45], [40, null, null, null])).toEqual([0]);
  });

  it('are not there for another pitch, nor for what rings', () => {
    expect(found([40, 40, 40], [null, null, null])).toEqual([]);
    expect(found([40, 40, 40], [45, 45, 45])).toEqual([]);
    expect(found([45, 45, 45], [null, null, null], [45, 52, 57])).toEqual([]);
  });

  it('are not asked of chords, nor of what ends before it could be told', () => {
    const strikes = [{ strike: { notes: [{ midi: 40 }, { midi: 52 }] } as Strike }, note(45)];
    const alignment = {
      at: (place: number) => 0.25 + place * APART,
      matches: [{ expected: 1, heard: 0 }],
    } as unknown as Alignment;
    const heard = [{ seconds: 0.75 } as Heard];
    expect([...softNotes(recorded([40, 45]), strikes, alignment, heard)]).toEqual([]);
    const quick = { ...alignment, at: (place: number) => 0.25 + place * 0.1 };
    expect([
      ...softNotes(recorded([40]), [note(40), note(45)], quick, [{ seconds: 0.35 } as Heard]),
    ]).toEqual([]);
  });
});
