import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { said } from '../pattern/said.test-kit';
import { newSong } from '../song';
import { liveOnsets, playTake, roundTrip, ROUND_TRIP_CLICKS, strokesOfNotes, takeSound } from '.';

const RATE = 44_100;
const song = {
  ...newSong({ title: 'Weir', instrument: 'guitar', tempo: 90, progression: 'G | Em | C | D' }),
  pattern: said('down, down up, down, down up'),
};
const played = playTake(arrangement(song).performance, song.meter, { seed: 5, jitter: 5 });
const sound = takeSound(played, song.meter, 'guitar', RATE, { lead: 0.8, noise: 30 });

/** What is heard of samples that come in blocks, and after how many seconds each stroke was told. */
function heardIn(samples: Float32Array, block: number) {
  const strokes: { seconds: number; after: number }[] = [];
  let given = 0;
  const push = liveOnsets(RATE, ({ seconds }) =>
    strokes.push({ seconds, after: given / RATE - seconds }),
  );
  for (let at = 0; at < samples.length; at += block) {
    given = Math.min(samples.length, at + block);
    push(samples.subarray(at, given));
  }
  return strokes;
}

describe('strokes while they are played', () => {
  it('are told soon, where they were', () => {
    const heard = heardIn(sound, 1024);
    const loud = played.strikes.filter(({ velocity }) => velocity >= 0.4);
    const found = loud.filter(({ seconds }) =>
      heard.some((stroke) => Math.abs(stroke.seconds - seconds - 0.8) < 0.02),
    );
    expect(found.length).toBeGreaterThanOrEqual(0.9 * loud.length);
    expect(heard.length).toBeLessThanOrEqual(1.15 * played.strikes.length);
    expect(Math.max(...heard.map(({ after }) => after))).toBeLessThan(0.09);
  });

  it('are the same however they are cut', () => {
    const whole = heardIn(sound, sound.length).map(({ seconds }) => seconds);
    expect(whole.length).toBeGreaterThan(10);
    for (const block of [128, 777, 9000]) {
      expect(heardIn(sound, block).map(({ seconds }) => seconds)).toEqual(whole);
    }
  });

  it('are none in silence, in noise, or in what is no number', () => {
    expect(heardIn(new Float32Array(RATE), 1024)).toEqual([]);
    let state = 1;
    const noise = Float32Array.from({ length: 3 * RATE }, () => {
      state = (state * 16_807) % 2_147_483_647;
      return 0.02 * (state / 1_073_741_824 - 1);
    });
    expect(heardIn(noise.subarray(0, 3 * RATE), 1024).length).toBeLessThanOrEqual(2);
    expect(heardIn(new Float32Array(RATE).fill(NaN), 1024)).toEqual([]);
  });
});

describe('the round trip of a click', () => {
  const seconds = fc.double({ min: 0, max: 0.7, noNaN: true });

  it('is found among other sounds, with its spread', () => {
    const others = fc.array(fc.double({ min: 0, max: 6, noNaN: true }), { maxLength: 8 });
    fc.assert(
      fc.property(seconds, others, (delay, noise) => {
        const found = roundTrip(ROUND_TRIP_CLICKS, [
          ...ROUND_TRIP_CLICKS.map((at) => at + delay),
          ...noise,
        ])!;
        expect(Math.abs(found.delay - delay)).toBeLessThan(0.013);
        expect(found.heard).toBe(ROUND_TRIP_CLICKS.length);
        expect(found.spread).toBeLessThan(0.013);
      }),
    );
  });

  it('is not claimed where few clicks were heard, or none', () => {
    expect(roundTrip(ROUND_TRIP_CLICKS, [])).toBeNull();
    expect(roundTrip(ROUND_TRIP_CLICKS, [0.2, 0.9, 1.3, 2.9])).toBeNull();
    // One steady noise is under few of them: they are uneven.
    const steady = Array.from({ length: 20 }, (_, beat) => 0.25 * beat);
    expect(roundTrip(ROUND_TRIP_CLICKS, steady)?.heard ?? 0).toBeLessThan(8);
  });
});

describe('notes of a MIDI instrument', () => {
  const rake = (from: number, pitches: number[]) =>
    pitches.map((midi, at) => ({ seconds: from + 0.01 * at, midi, velocity: 40 + 10 * at }));

  it('are strokes, with their way where it can be told', () => {
    const strokes = strokesOfNotes([
      ...rake(1, [40, 47, 52, 56]),
      ...rake(1.5, [64, 59, 56, 52]),
      // Its first string is not the lowest.
      ...rake(2, [67, 60, 64, 69]),
      { seconds: 2.5, midi: 40, velocity: 127 },
      ...rake(3, [40, 47, 52]).map((note) => ({ ...note, seconds: 3 })),
    ]);
    expect(strokes.map(({ direction }) => direction)).toEqual(['down', 'up', 'down', null, null]);
    expect(strokes.map(({ seconds }) => seconds)).toEqual([1, 1.5, 2, 2.5, 3]);
    expect(strokes[3]!.loudness).toBe(1);
  });
});
