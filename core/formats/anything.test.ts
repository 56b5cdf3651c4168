import { voices } from '../sound';
import fc from 'fast-check';
import { parse } from 'musicxml-io';
import { describe, expect, it } from 'vitest';
import { documents } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { songSchema } from '../schema';
import { arrange, barPatterns, performanceSchema, rhythms, whyDifferent } from '../arrange';
import {
  barNumbers,
  landings,
  playedBars,
  printProgression,
  readProgression,
  songChanges,
} from '../song';
import { armReport } from '../pattern';
import { say } from '../stroke';
import { readMidiFile } from './smf-reader.test-kit';
import { toChordPro } from './writeChordPro';
import { toMidi, toMusicXml } from './files';

/** Any valid document, not only those that the app makes, can be played, drawn and written. */
describe('any valid song', () => {
  it('is arranged, in order and in time', () => {
    fc.assert(
      fc.property(documents, (song) => {
        const performance = performanceSchema.parse(arrange(song));
        const times = performance.strikes.map(({ seconds }) => seconds);
        expect(times).toEqual([...times].sort((a, b) => a - b));
        expect(times.every((time) => Number.isFinite(time) && time >= 0)).toBe(true);
        expect(voices(performance, song.meter).every(({ start, end }) => end > start)).toBe(true);
      }),
      tries(150),
    );
  });

  it('is drawn: its bars, its numbers, its rhythms, its report', () => {
    fc.assert(
      fc.property(documents, (song) => {
        const bars = playedBars(song);
        const parts = rhythms(song, bars);
        expect(barPatterns(parts)).toHaveLength(bars.length);
        expect(barNumbers(bars, landings(bars))).toHaveLength(bars.length);
        bars.forEach((bar, index) => whyDifferent(bar, parts[index]!));
        songChanges(song);
        armReport(song.pattern, song.tempo);
        expect(say(song.pattern).length).toBeGreaterThan(0);
      }),
      tries(150),
    );
  });

  it('is written in every format, and others read it', () => {
    fc.assert(
      fc.property(documents, (song) => {
        expect(readMidiFile(toMidi(song)).hanging).toBe(0);
        parse(toMusicXml(song));
        expect(toChordPro(song).length).toBeGreaterThan(0);
        expect(songSchema.parse(JSON.parse(JSON.stringify(song)))).toEqual(song);
        readProgression(printProgression(song.sections, song.meter, song.order), song.meter);
      }),
      tries(60),
    );
  });
});
