import fc from 'fast-check';
import { type NoteEntry, parse, validate } from 'musicxml-io';
import { describe, expect, it } from 'vitest';
import { patterns, progressions } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import type { Song } from '../schema';
import { arrange } from '../arrange';
import { landings, newSong, playedBars, songTicks } from '../song';
import { newPattern } from '../pattern';
import { parsePattern } from '../stroke';
import { METERS } from '../time';
import { toMusicXml } from './files';
import { joinedStrikes } from './musicxmlNotes';
import { noteValues } from '../time';

function song(progression: string, said?: string): Song {
  const start = newSong({ title: 'Paddle & <Pawl>', instrument: 'guitar', progression, tempo: 90 });
  if (said === undefined) return start;
  const answer = parsePattern(said, newPattern(METERS['4/4']));
  if (!('pattern' in answer)) throw new Error(`cannot read ${said}`);
  return { ...start, pattern: answer.pattern };
}

interface ReadNote {
  tick: number;
  entry: NoteEntry;
}

/** The notes of a file with the ticks at which they sound, as another package reads them. */
function read(made: Song) {
  const score = parse(toMusicXml(made));
  const notes: ReadNote[] = [];
  const bars: number[] = [];
  let tick = 0;
  for (const measure of score.parts[0]!.measures) {
    const from = tick;
    let last = tick;
    for (const entry of measure.entries) {
      if (entry.type !== 'note') continue;
      if (!entry.chord) {
        last = tick;
        tick += entry.duration;
      }
      if (!entry.rest) notes.push({ tick: last, entry });
    }
    bars.push(tick - from);
  }
  const begun = notes.filter(
    ({ entry }) => entry.tie?.type !== 'stop' && !entry.ties?.some(({ type }) => type === 'stop'),
  );
  return { score, bars, begun };
}

const STEPS: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
const midiOf = ({ pitch }: NoteEntry) =>
  pitch ? STEPS[pitch.step]! + (pitch.alter ?? 0) + 12 * (pitch.octave + 1) : null;
const technical = ({ notations }: NoteEntry, name: string) =>
  notations?.find((notation) => notation.type === 'technical' && notation.technical === name);

describe('the MusicXML file', () => {
  it('has every pitch on its string at its tick, read by another package', () => {
    const made = song('A | <D', 'bass miss, DOWN up, chuck up, down up');
    const { begun } = read(made);
    const found = begun.map(({ tick, entry }) => {
      const string = technical(entry, 'string');
      const fret = technical(entry, 'fret');
      return [
        tick,
        midiOf(entry),
        string && 'string' in string ? string.string : null,
        fret && 'fret' in fret ? fret.fret : null,
      ];
    });
    const expected = arrange(made).strikes.flatMap(({ tick, notes }): (number | null)[][] =>
      notes.length === 0
        ? [[tick, null, null, null]]
        : [...notes]
            .sort((a, b) => a.string - b.string)
            .map(({ midi, string, fret }) => [tick, midi, 6 - string, fret]),
    );
    expect(found).toEqual(expected);
  });

  it('carries directions, accents, chucks, held chords and the chords above', () => {
    const { begun, score } = read(song('A | <F#m7b5/E D~', 'DOWN up, miss up, chuck up, miss up'));
    const firsts = begun.filter(({ entry }) => !entry.chord);
    const bows = firsts.map(({ entry }) =>
      ['down-bow', 'up-bow'].find((bow) => technical(entry, bow)),
    );
    expect(bows.slice(0, 5)).toEqual(['down-bow', 'up-bow', 'up-bow', 'down-bow', 'up-bow']);
    expect(firsts[0]!.entry.notations).toContainEqual(
      expect.objectContaining({ type: 'articulation', articulation: 'accent' }),
    );
    expect(firsts[3]!.entry).toMatchObject({
      unpitched: expect.anything(),
      notehead: { value: 'x' },
    });
    expect(firsts.at(-1)!.entry.notations).toContainEqual(
      expect.objectContaining({ type: 'fermata' }),
    );
    const harmonies = score.parts[0]!.measures.flatMap(({ entries }) =>
      entries.filter((entry) => entry.type === 'harmony'),
    );
    expect(harmonies.map(({ kind, offset }) => [kind, offset ?? 0])).toEqual([
      ['major', 0],
      ['half-diminished', 3360],
      ['major', 1920],
    ]);
    expect(harmonies[1]).toMatchObject({
      root: { rootStep: 'F', rootAlter: 1 },
      bass: { bassStep: 'E' },
    });
  });

  it('begins with the title, the tempo, the strings and the meter, and follows the meter', () => {
    const { score, bars } = read(song('Verse:\n(pickup 1) E7 | A | (3/4) D | A'));
    expect(score.metadata.workTitle).toBe('Paddle & <Pawl>');
    expect(bars).toEqual([960, 3840, 2880, 3840]);
    const { measures } = score.parts[0]!;
    expect(measures[0]).toMatchObject({ number: '0', implicit: true });
    const times = measures.map(({ attributes }) => attributes?.time?.beats ?? null);
    expect(times).toEqual(['4', null, '3', '4']);
    expect(measures[0]!.attributes!.clef![0]).toMatchObject({ sign: 'TAB' });
    expect(toMusicXml(song('A'))).toContain('<per-minute>90</per-minute>');
    expect(toMusicXml(song('Verse:\nA'))).toContain('<rehearsal>Verse</rehearsal>');
  });

  it('ties what goes over a beat, and writes threes as triplets', () => {
    const values = (from: number, ticks: number) =>
      noteValues(from, ticks, 960).map(
        ({ type, dots, triplet }) => `${type}${'.'.repeat(dots)}${triplet ? ' of three' : ''}`,
      );
    expect(values(480, 960)).toEqual(['eighth', 'eighth']);
    expect(values(0, 2880)).toEqual(['half.']);
    expect(values(320, 640)).toEqual(['quarter of three']);
    expect(values(160, 800)).toEqual(['quarter of three', '16th of three']);
    expect(() => noteValues(0, 7, 960)).toThrow(RangeError);
  });

  it('adds up to its meters, and says what is arranged, for any song', () => {
    fc.assert(
      fc.property(patterns, progressions, (pattern, progression) => {
        const start = newSong({
          title: 'Any',
          instrument: 'ukulele',
          meter: pattern.meter,
          progression,
        });
        const made = { ...start, pattern };
        const played = playedBars(made);
        if (played.length === 0 || played.length > 60) return;
        const { score, bars, begun } = read(made);
        expect(bars).toEqual(played.map(({ ticks }) => ticks));
        expect(bars.reduce((sum, ticks) => sum + ticks, 0)).toBe(songTicks(played));
        const strikes = joinedStrikes(arrange(made).strikes).filter(
          ({ notes, kind, tap }) => notes.length > 0 || kind === 'chuck' || tap,
        );
        const firsts = begun
          .filter(({ entry }) => !entry.chord && !entry.grace)
          .map(({ tick }) => tick);
        expect(firsts).toEqual(strikes.map(({ tick }) => tick));
        const pitches = begun.map(({ entry }) => midiOf(entry)).filter((midi) => midi !== null);
        expect(pitches).toHaveLength(
          strikes.reduce((sum, { notes, graces }) => sum + notes.length + graces.length, 0),
        );
        const chords = score.parts[0]!.measures.flatMap(({ entries }) =>
          entries.filter(({ type }) => type === 'harmony'),
        );
        expect(chords).toHaveLength(landings(played).length);
        const faults = validate(score).errors.filter(({ level }) => level === 'error');
        expect(faults).toEqual([]);
      }),
      tries(12),
    );
  });
});
