import { describe, expect, it } from 'vitest';
import { parseMidi, writeMidi } from 'midi-file';
import { builtInPatterns } from '../pattern';
import { newSong } from '../song';
import { meterName, METERS } from '../time';
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
function fileOf(
  notes: { from: number; to: number; pitches: number[] }[],
  meter: number | null = 4,
): Uint8Array {
  const events = notes.flatMap(({ from, to, pitches }) =>
    pitches.flatMap((noteNumber) => [
      { at: from * PER_BEAT, type: 'noteOn' as const, noteNumber, velocity: 80 },
      { at: to * PER_BEAT, type: 'noteOff' as const, noteNumber, velocity: 0 },
    ]),
  );
  events.sort((a, b) => a.at - b.at || (a.type === 'noteOff' ? -1 : 1));
  let now = 0;
  const signature = {
    deltaTime: 0,
    type: 'timeSignature' as const,
    meta: true as const,
    numerator: meter ?? 4,
    denominator: 4,
    metronome: 24,
    thirtyseconds: 8,
  };
  const track = [
    ...(meter === null ? [] : [signature]),
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

describe('a bass that passes', () => {
  const back = (progression: string, instrument: 'guitar' | 'ukulele' = 'guitar') =>
    read(toMidi(newSong({ title: 'Weir', instrument, progression })) as Uint8Array);

  it('keeps its beat, and its chord the name that it has', () => {
    expect(back('C C/B | Am Am/G | F . . F/E | C')).toBe('C . C/B . | Am . Am/G . | F . . F/E | C');
  });

  it('names what a chord stands on, but tones of its own that come by turns change nothing', () => {
    expect(back('G D/F# | Em | C G/B | Am')).toBe('G . D/F# . | Em | C . G/B . | Am');
    const turns = ['C', 'C', 'C', 'C'].flatMap((symbol, beat) => {
      const [root, ...upper] = CHORDS[symbol]!;
      return [{ from: beat, to: beat + 1, pitches: [beat % 2 === 0 ? root! : 43, ...upper, 64] }];
    });
    expect(read(fileOf(turns))).toBe('C');
  });

  it('is none on a ukulele, whose lowest string is no bass', () => {
    expect(back('C C/B | F', 'ukulele')).toBe('C | F');
  });
});

describe('a file that says no meter', () => {
  const withoutSignature = (bytes: Uint8Array) => {
    const file = parseMidi(bytes);
    const tracks = file.tracks.map((track) =>
      track.filter((event) => event.type !== 'timeSignature'),
    );
    return Uint8Array.from(writeMidi({ ...file, tracks }));
  };
  const likely = (bytes: Uint8Array) => {
    const answer = readMidi(bytes);
    return 'chart' in answer ? answer.chart.likelyMeters : undefined;
  };

  it('is read in the likeliest, and again in another that is asked for', () => {
    const waltz = fileOf(held(['C', 3], ['G', 3], ['Am', 3], ['F', 3], ['C', 3], ['G', 3]), null);
    expect(read(waltz)).toBe('C | G | Am | F\nC | G');
    expect(likely(waltz)![0]).toBe(METERS['3/4']);
    const again = readMidi(waltz, { meter: METERS['4/4'] });
    expect('chart' in again && chartProgression(again.chart, 'bar')).toContain(
      'C . . G | . . Am .',
    );
    // One that says its meter is read in it, whatever is asked.
    const said = readMidi(fileOf(held(['C', 3], ['G', 3]), 3), { meter: METERS['4/4'] });
    expect('chart' in said && said.chart).toMatchObject({ meter: METERS['3/4'] });
    expect('chart' in said && said.chart.likelyMeters).toBeUndefined();
  });

  it('is what its strum says, for nine of ten strums of the shelf', () => {
    const found = builtInPatterns()
      .filter(({ meter }) => !meter.cycle)
      .map((pattern) => {
        const start = { title: 'Weir', instrument: 'guitar', meter: pattern.meter } as const;
        const song = {
          ...newSong({ ...start, progression: 'G | C | D | Em | C | D | G | G' }),
          pattern,
        };
        return (
          meterName(likely(withoutSignature(toMidi(song) as Uint8Array))![0]!) ===
          meterName(pattern.meter)
        );
      });
    expect(found.length).toBeGreaterThan(40);
    expect(found.filter(Boolean).length / found.length).toBeGreaterThan(0.9);
  });
});
