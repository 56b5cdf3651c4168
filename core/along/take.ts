import type { Seconds, Ticks } from '../plain';
import type { Song, TakeOnset } from '../schema';
import { onsets, type Recording } from '../take';
import { secondsPerTick } from '../time';
import { tickOf } from './beatMap';
import { type Laid, songTickAt } from './layout';

/** Seconds before its first stroke within which a stroke is of the song. */
const EARLIEST = 0.2;

/**
 * What was played along with a recording, as if the song had gone evenly at its own tempo: the drift of the
 * recording is taken off by its beat map, so that a take is judged against the players in it and not against a clock.
 * What was played where the recording is not the song, or where it goes back in it, is left out.
 * @param taken onsets in seconds of the recording, in order
 * @example takeOnMap(laid, [{ seconds: 2, direction: 'down' }], song)[0].seconds // 2.4
 */
export function takeOnMap(
  laid: Laid,
  taken: TakeOnset[],
  { tempo, meter }: Pick<Song, 'tempo' | 'meter'>,
): TakeOnset[] {
  const perTick = secondsPerTick(tempo, meter);
  let reached = -Infinity;
  return taken.flatMap((onset) => {
    const tick = songTickAt(laid, onset.seconds) ?? justBefore(laid, onset.seconds);
    if (tick === null || tick < reached) return [];
    reached = tick;
    return [{ ...onset, seconds: tick * perTick }];
  });
}

/** The tick of the song of a stroke that comes a moment before the song does; null where none follows. */
function justBefore(laid: Laid, seconds: Seconds): Ticks | null {
  const soon = songTickAt(laid, seconds + EARLIEST);
  if (soon === null) return null;
  return Math.max(0, soon + tickOf(laid.map, seconds) - tickOf(laid.map, seconds + EARLIEST));
}

/** Decibels below the loudest of a take at which a stroke is as good as not heard. */
const SILENT = 40;

/**
 * The strokes that a microphone heard while a recording played, as onsets in seconds of the recording.
 * @param from second of the recording at which the microphone began, and how fast the recording went
 */
export function heardAlong(heard: Recording, from: Seconds, speed: number): TakeOnset[] {
  return onsets(heard).flatMap(({ seconds, loudness }) => {
    const at = from + seconds * speed;
    // What was heard while it was counted in is no stroke of the recording.
    if (at < -EARLIEST) return [];
    const loud = Math.max(0.01, Math.min(1, 1 + loudness / SILENT));
    return [{ seconds: Math.max(0, at), loudness: loud }];
  });
}
