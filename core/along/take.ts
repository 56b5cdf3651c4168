import type { Seconds } from '../plain';
import type { BeatMap, Song, TakeOnset } from '../schema';
import { onsets, type Recording } from '../take';
import { secondsPerTick } from '../time';
import { tickOf } from './beatMap';

/** Seconds before the first bar line within which a stroke is of the first bar. */
const EARLIEST = 0.2;

/**
 * What was played along with a recording, as if the song had gone evenly at its own tempo: the drift of the
 * recording is taken off by its beat map, so that a take is judged against the players in it and not against a clock.
 * @param taken onsets in seconds of the recording
 * @example takeOnMap(map, [{ seconds: 2, direction: 'down' }], song)[0].seconds // 2.4
 */
export function takeOnMap(
  map: BeatMap,
  taken: TakeOnset[],
  { tempo, meter }: Pick<Song, 'tempo' | 'meter'>,
): TakeOnset[] {
  const perTick = secondsPerTick(tempo, meter);
  return taken.flatMap((onset) => {
    const seconds = tickOf(map, onset.seconds) * perTick;
    return seconds < -EARLIEST ? [] : [{ ...onset, seconds: Math.max(0, seconds) }];
  });
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
