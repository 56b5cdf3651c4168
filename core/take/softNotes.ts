import type { Strike } from '../arrange';
import type { Seconds } from '../plain';
import { hertz } from '../sound';
import type { Alignment } from './align';
import type { Heard } from './onsets';
import { toneAt } from './signal';
import type { Recording } from './wav';

/** From so long after its time, in seconds, a note is listened to, for so long at most and at least. */
const FROM: Seconds = 0.03;
const LONGEST: Seconds = 0.2;
const SHORTEST: Seconds = 0.08;
/** It is listened to before, up to so long before its time. */
const BEFORE: Seconds = 0.015;
/** A note was struck where its pitch is so many times as strong as before, */
const RISES = 1.6;
/** and as the pitches beside it, which are what rings and the noise. */
const STANDS_OUT = 2.5;
/** Where so many of those whose start was not heard sound, it is the ear that does not know these strings. */
const MOSTLY = 0.5;

/**
 * Single notes that were meant, have no start that was heard, and sound all the same: low strings begin softly, and
 * among others that ring only their pitch tells. When they began nobody knows.
 * @param recording brought down by `downsample`
 * @returns their places among what was meant; where most of those without a start sound, all of these
 */
export function softNotes(
  { samples, sampleRate }: Recording,
  strikes: { strike: Strike }[],
  { matches, at }: Alignment,
  heard: Heard[],
): Set<number> {
  const there = new Set(matches.map(({ expected }) => expected));
  const starts = heard.map(({ seconds }) => seconds);
  const last = matches.at(-1)?.expected ?? -1;
  const found = new Set<number>();
  const all = new Set<number>();
  strikes.slice(0, last + 1).forEach(({ strike }, place) => {
    const [note, ...others] = strike.notes;
    if (there.has(place) || !note || others.length > 0) return;
    all.add(place);
    const onset = at(place);
    const next = starts.find((seconds) => seconds > onset + FROM) ?? Infinity;
    const length = Math.round(Math.min(LONGEST, next - onset - FROM) * sampleRate);
    if (length < SHORTEST * sampleRate) return;
    const tone = (midi: number, first: Seconds) =>
      toneAt(samples, sampleRate, hertz(midi), Math.round(first * sampleRate), length);
    const now = tone(note.midi, onset + FROM);
    const before = tone(note.midi, onset - BEFORE - length / sampleRate);
    // Two half steps off there is hardly a partial of what rings.
    const beside = Math.max(tone(note.midi - 2, onset + FROM), tone(note.midi + 2, onset + FROM));
    if (now > RISES * before && now > STANDS_OUT * beside) found.add(place);
  });
  return found.size > 0 && found.size >= MOSTLY * all.size ? all : found;
}
