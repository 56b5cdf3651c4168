import { describe, expect, it } from 'vitest';
import { fretChord, INSTRUMENTS } from '../neck';
import { noise } from '../random';
import { hertz, pluck, palmed, STRING_VOICES } from '../sound';
import { pitchAt } from './pitch';
import { ringOf } from './ring';

const RATE = 22_050;
const guitar = INSTRUMENTS.guitar;
const C = fretChord('C', { instrument: guitar, capo: 0, bassSchool: 'root' })!;
const voice = STRING_VOICES.guitar;

type Way = { cents?: number; damped?: boolean; thud?: boolean; left?: boolean };
/** The strings of C plucked one by one, a second apart, some of them otherwise. */
function played(otherwise: Record<number, Way> = {}, quiet = 0.002) {
  const strings = C.pitches.flatMap((midi, string) => (midi === null ? [] : [{ midi, string }]));
  const samples = new Float32Array(Math.round((strings.length + 1.4) * RATE));
  const random = noise(7);
  strings.forEach(({ midi, string }, order) => {
    const { cents = 0, damped = false, thud = false, left = false } = otherwise[string] ?? {};
    if (left) return;
    const own = damped ? palmed(voice) : voice;
    const sound = pluck(midi + cents / 100, damped ? 0.4 : 2.4, RATE, own);
    const from = Math.round((0.3 + order) * RATE);
    for (let at = 0; at < sound.length && from + at < samples.length; at += 1) {
      const thump = Math.exp(-at / (0.02 * RATE)) * random();
      samples[from + at] = samples[from + at]! + (thud ? thump * 0.5 : sound[at]! * 0.6);
    }
  });
  for (let at = 0; at < samples.length; at += 1) samples[at] = samples[at]! + quiet * random();
  return { samples, sampleRate: RATE };
}
const heard = (otherwise: Record<number, Way> = {}) =>
  ringOf(played(otherwise), guitar, C.shape, C.pitches);

describe('the pitch of a tone', () => {
  it('is right within a cent, from the lowest string to the highest', () => {
    for (const midi of [40, 45.1, 57, 64.25, 76]) {
      const samples = Float32Array.from({ length: 8192 }, (_, at) => {
        const phase = (2 * Math.PI * hertz(midi) * at) / RATE;
        return 0.5 * Math.sin(phase) + 0.2 * Math.sin(2 * phase) + 0.1 * Math.sin(3 * phase);
      });
      const found = pitchAt({ samples, sampleRate: RATE }, 0, 4096)!;
      expect(Math.abs(found.midi - midi) * 100).toBeLessThan(1);
      expect(found.clear).toBeGreaterThan(0.95);
    }
  });

  it('is none in silence and none to be sure of in noise', () => {
    const random = noise(3);
    const samples = Float32Array.from({ length: 8192 }, () => random());
    expect(pitchAt({ samples: new Float32Array(8192), sampleRate: RATE }, 0, 4096)).toBeNull();
    expect(pitchAt({ samples, sampleRate: RATE }, 0, 4096)?.clear ?? 0).toBeLessThan(0.5);
  });
});

describe('whether a shape rings', () => {
  it('says so where every string does', () => {
    const report = heard();
    expect(report.sentence).toBe('Every string rings.');
    expect(report.strings.map(({ string }) => string)).toEqual([1, 2, 3, 4, 5]);
    expect(report.strings.every(({ cents }) => Math.abs(cents!) < 8)).toBe(true);
  });

  it('names a string that is damped, and the finger that leans on it', () => {
    const report = heard({ 3: { thud: true } });
    expect(report.strings.find(({ string }) => string === 3)!.sounds).toBe('damped');
    expect(report.sentence).toBe(
      '4 of 5 strings ring. The G string is damped: arch the second finger, which leans on it, and lower the thumb behind the neck.',
    );
    expect(heard({ 1: { thud: true } }).sentence).toContain(
      'The A string is damped: press with the tip of the third finger, close to the fret.',
    );
  });

  it('tells one that dies early, is on another fret, or out of tune', () => {
    expect(heard({ 2: { damped: true } }).strings[1]!.sounds).toBe('damped');
    const wrong = heard({ 4: { cents: 200 } }).strings[3]!;
    expect(wrong).toMatchObject({ sounds: 'wrong' });
    expect(wrong.says).toContain('2 semitones higher');
    const flat = heard({ 5: { cents: -24 } }).strings[4]!;
    expect(flat.sounds).toBe('out of tune');
    expect(flat.cents!).toBeLessThan(-16);
    expect(flat.cents!).toBeGreaterThan(-32);
  });

  it('knows which one was left out', () => {
    const report = heard({ 2: { left: true } });
    expect(report.strings.map(({ sounds }) => sounds)).toEqual([
      'rings',
      'not heard',
      'rings',
      'rings',
      'rings',
    ]);
  });
});
