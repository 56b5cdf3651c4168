import { drawPath, FRAMES, SCALES, SMALL_WIDTH } from '../path';
import type { Glance, Song } from '../schema';
import { songChords } from './song';

/** Chords that a song is known by at a glance. */
const MAX_CHORDS = 8;

/** Numbers of a drawing to the nearest half: nobody sees more at the size of a stamp. */
const rough = (d: string) =>
  d.replaceAll(/-?\d*\.?\d+/g, (number) => String(Math.round(Number(number) * 2) / 2));

/** A brush-stroke as a line: from where it enters the strings to where it leaves them. */
function middleOf(outline: string): string {
  const points = [...outline.matchAll(/(-?[\d.]+),(-?[\d.]+)/g)];
  const [enter, leave] = [points[0], points[Math.floor(points.length / 2) - 1]];
  return enter && leave ? `M${enter[1]},${enter[2]}L${leave[1]},${leave[2]}` : '';
}

/**
 * What a song is known by on the shelf: its first chords, and the first bar of its rhythm as a small drawing.
 * @example glanceOf(song).chords // ['A', 'Bm', 'D', 'E7']
 */
export function glanceOf(song: Song): Glance {
  const { pattern, instrument } = song;
  const beats = pattern.beats.slice(0, pattern.meter.beats);
  const { builds: _, ...rest } = pattern;
  const frame = { ...FRAMES.small, width: SMALL_WIDTH, strings: instrument.strings.length };
  const drawn = drawPath({ ...rest, beats }, frame, () => null, SCALES.small);
  const chords = songChords(song);
  return {
    chords: chords.slice(0, MAX_CHORDS),
    more: chords.length > MAX_CHORDS,
    arm: rough(drawn.arm.map(({ d }) => d).join('')),
    strokes: rough(
      drawn.slots
        .flatMap(({ brushes, hatches }) => [...brushes.map(middleOf), hatches ?? ''])
        .join(''),
    ),
    dots: drawn.slots
      .flatMap(({ dots }) => dots)
      .map(({ x, y }): [number, number] => [Math.round(x), Math.round(y)]),
  };
}
