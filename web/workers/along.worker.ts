import { expose } from 'comlink';
import type { Ticks } from '#core/plain';
import type { BeatMap, LaidPart, Meter, Pattern, TakeOnset } from '#core/schema';
import type { Key } from '#core/neck';
import type { Arrangement } from '#core/arrange';
import type { Recording } from '#core/take';
import {
  chromaOf,
  chromasOf,
  findSong,
  heardAlong,
  type HeardRhythm,
  mapBeats,
  oddsOfPulses,
  rhythmOf,
  suggestChords,
  trackAgain,
} from '#core/along';

let recording: Recording | null = null;

/** What listens to recordings, away from the page; it keeps the one that was given last. */
const along = {
  open(samples: Float32Array<ArrayBuffer>, sampleRate: number): void {
    recording = { samples, sampleRate };
  },
  map: (taps: number[], meter: Meter): BeatMap | string =>
    recording ? mapBeats(recording, taps, meter) : 'The recording is not read yet.',
  again: (map: BeatMap, taps: number[]): BeatMap | string =>
    recording ? trackAgain(recording, map, taps) : map,
  /** How the song lies on it, told by its chords; null where they do not tell. */
  lay: (
    map: BeatMap,
    song: Pick<Arrangement, 'bars' | 'changes'>,
    semitones: number,
  ): LaidPart[] | null =>
    recording ? findSong(map, oddsOfPulses(chromasOf(recording, map)), song, semitones) : null,
  /** What some bars play, as a pattern of one; from a tick of the recording on. */
  rhythm: (map: BeatMap, begins: Ticks, count: number, base: Pattern): HeardRhythm | null =>
    recording ? rhythmOf(recording, map, begins, count, base) : null,
  /** Strokes that a microphone heard while the recording played. */
  heard: (recorded: Recording, from: number, speed: number): TakeOnset[] =>
    heardAlong(recorded, from, speed),
  /** Readings of stretches of the recording, each with the chord before it. */
  chords: (stretches: { from: number; to: number; before?: string }[], key: Key | null) =>
    stretches.map(({ from, to, before }) =>
      recording
        ? suggestChords(chromaOf(recording, from, to), {
            ...(key && { key }),
            ...(before !== undefined && { before }),
          })
        : [],
    ),
};

export type Along = typeof along;

expose(along);
