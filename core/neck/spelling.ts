import type { Instrument, Shape } from '../schema';
import type { ChordReading } from './chords';

/**
 * MIDI pitch of every string of a shape as it sounds, null where it is not sounded.
 * @param capo fret of the capo, 0 for none
 * @example shapePitches(INSTRUMENTS.ukulele, { frets: [0, 0, 0, 3], fingers: [0, 0, 0, 3] }, 0)
 * // [67, 60, 64, 72]
 */
export function shapePitches(
  instrument: Instrument,
  shape: Shape,
  capo: number,
): (number | null)[] {
  return shape.frets.map((fret, string) =>
    fret === null ? null : instrument.strings[string]! + fret + capo + instrument.offset,
  );
}

/**
 * The frets of a shape from the thumb on, an x for a string that is left out.
 * @example describeFrets({ frets: [null, 3, 2, 0, 1, 0] }) // 'x 3 2 0 1 0'
 */
export function describeFrets({ frets }: Pick<Shape, 'frets'>): string {
  return frets.map((fret) => fret ?? 'x').join(' ');
}

/**
 * The tones that a chord cannot do without on so many strings. Players leave out the perfect fifth
 * of a chord of four or more tones, the root too where the strings are fewer than the tones, and, of
 * chords of six or seven tones, all between the seventh and the last.
 */
export function neededTones(chord: ChordReading, strings: number): number[] {
  const size = chord.tones.length;
  return chord.tones.filter((_, index) => {
    const interval = chord.intervals[index]!;
    const mayMiss =
      (interval === 7 && size >= 4) ||
      (interval === 0 && size > strings) ||
      (size >= 6 && interval > 12 && index < size - 1);
    return !mayMiss;
  });
}

/**
 * Says why a set of pitches (as named, without capo) does not spell a chord, or null where it does:
 * no pitch may be foreign to the chord, and every needed tone must be there.
 */
export function spellingFault(
  pitches: number[],
  chord: ChordReading,
  strings: number,
): string | null {
  const sounding = new Set(pitches.map((pitch) => pitch % 12));
  const foreign = [...sounding].find((tone) => tone !== chord.bass && !chord.tones.includes(tone));
  if (foreign !== undefined) return 'sounds a note that is not in the chord';
  if (neededTones(chord, strings).some((tone) => !sounding.has(tone))) {
    return 'leaves out a note that the chord needs';
  }
  if (chord.bass !== chord.root && Math.min(...pitches) % 12 !== chord.bass) {
    return 'does not have the slash note in the bass';
  }
  return null;
}
