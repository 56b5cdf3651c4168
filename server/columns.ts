import type { Pattern, Song } from '#core/schema';
import { meterName } from '#core/time';
import { glanceOf } from '#core/song';

/** The columns that a song is found and listed by, beside its document. */
export const songColumns = (song: Song) => ({
  title: song.title,
  instrument: song.instrument.name,
  meter: meterName(song.meter),
  tempo: song.tempo,
  glance: JSON.stringify(glanceOf(song)),
});

/** The columns that a pattern is found and listed by. */
export const patternColumns = ({ name, meter }: Pattern) => ({ name, meter: meterName(meter) });
