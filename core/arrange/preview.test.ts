import { voices } from '../sound';
import { describe, expect, it } from 'vitest';
import { fretChord, INSTRUMENTS, runs } from '../neck';
import { METERS } from '../time';
import { newPattern, setLength } from '../pattern';
import { newSong } from '../song';
import { performanceSchema, previewPattern, previewRun, previewSteps } from '.';

const options = { instrument: INSTRUMENTS.guitar, capo: 0, bassSchool: 'root' as const };
const hold = (symbol: string) => fretChord(symbol, options)!;
const four = METERS['4/4'];

describe('hearing something outside a song', () => {
  it('strums a chord from the bass side, with all its strings', () => {
    const preview = previewSteps([{ tick: 0, held: hold('C') }], 1920, 60, four);
    expect(performanceSchema.parse(preview)).toEqual(preview);
    expect(preview.seconds).toBeCloseTo(2, 9);
    expect(preview.strikes[0]!.notes.map((note) => note.midi)).toEqual([48, 52, 55, 60, 64]);
    const delays = preview.strikes[0]!.notes.map((note) => note.delay);
    expect([...delays].sort((a, b) => a - b)).toEqual(delays);
  });

  it('plays a run so that the next root falls exactly on the next bar', () => {
    const [from, to] = [hold('G'), hold('C')];
    const key = { tonic: 7, minor: false };
    const { runs: found } = runs(from, to, 2, { ...options, key, available: 3840, noteTicks: 960 });
    const preview = previewRun(from, to, found[0]!, 960, 90, four);
    const single = preview.strikes.filter((strike) => strike.kind === 'bass');
    expect(single.map((strike) => [strike.tick, strike.notes[0]!.midi])).toEqual([
      [0, from.bass.midi],
      [1920, found[0]!.notes[0]!.midi],
      [2880, found[0]!.notes[1]!.midi],
      [3840, to.bass.midi],
    ]);
    expect(preview.landings.map((landing) => landing.symbol)).toContain('C');
    expect(preview.ticks).toBe(7680);
  });

  it('leaves no string sounding twice', () => {
    const round = previewSteps(
      ['G', 'C', 'D', 'G'].map((symbol, bar) => ({ tick: bar * 3840, held: hold(symbol) })),
      4 * 3840,
      100,
      four,
    );
    const last = new Map<number, number>();
    for (const { string, start, end } of voices(round, four)) {
      expect(start).toBeGreaterThanOrEqual(last.get(string) ?? 0);
      last.set(string, end);
    }
  });

  it('plays a pattern alone once round, whatever the song does with it', () => {
    const song = {
      ...newSong({ title: 'Lock', instrument: 'guitar', progression: 'A | D', tempo: 60 }),
      openStrokes: 2 as const,
    };
    const half = setLength(song.pattern, 2);
    const preview = previewPattern(song, half, 'D');
    expect(performanceSchema.parse(preview)).toEqual(preview);
    expect(preview.ticks).toBe(1920);
    expect(preview.seconds).toBeCloseTo(2, 9);
    expect(preview.strikes.map(({ tick, chord, transition }) => [tick, chord, transition])).toEqual(
      [
        [0, 'D', false],
        [960, 'D', false],
      ],
    );
    const waltz = previewPattern(song, newPattern(METERS['3/4']), null);
    expect(waltz.ticks).toBe(2880);
    expect(waltz.strikes.every(({ notes }) => notes.length === 0)).toBe(true);
  });
});
