import { describe, expect, it } from 'vitest';
import { barCommands, commands, rhythmCommands } from '../edit';
import { newSong, readProgression } from '../song';
import { METERS } from '../time';
import { barSchema, chordTextSchema, DOCUMENT_VERSION, placementSchema, songSchema } from '.';

/** What a document may hold, and what is refused by name and place. */

const place = { section: 0, line: 0, bar: 0 };
const song = newSong({ title: 'Cill', instrument: 'guitar', progression: 'A | D' });

/** The places that are refused. */
const refused = (schema: { safeParse: typeof songSchema.safeParse }, value: unknown) => {
  const answer = schema.safeParse(value);
  return answer.success ? [] : answer.error.issues.map(({ path }) => path.join('.'));
};

describe('the word for a chord', () => {
  it('is any one word that means nothing else in the line of text', () => {
    for (const word of ['A', 'F#m7b5', 'C/G', 'C(add9)', 'Hx', 'N.C.', 'G6/9', 'B♭']) {
      expect(chordTextSchema.safeParse(word).success, word).toBe(true);
    }
    for (const word of [
      '',
      'A B',
      'A|B',
      '<A',
      '.',
      '%',
      'Verse:',
      'x2',
      '(2/4)',
      'A~',
      'A[2=B]',
    ]) {
      expect(chordTextSchema.safeParse(word).success, word).toBe(false);
    }
    expect(chordTextSchema.safeParse('A'.repeat(25)).success).toBe(false);
  });

  it('is what the reading of a line can give', () => {
    const { sections } = readProgression('C(add9) | A[2=B]~ | <x2', METERS['4/4']);
    for (const { bars } of sections[0]!.lines) {
      for (const bar of bars) expect(refused(barSchema as never, bar)).toEqual([]);
    }
  });
});

describe('a bar', () => {
  const chord = { at: 0, push: 0, symbol: 'A' };

  it('may be of another meter, a pick-up, or neither', () => {
    for (const bar of [
      { chords: [] },
      { chords: [chord], meter: METERS['2/4'] },
      { chords: [chord], pickup: 1 },
      { chords: [{ ...chord, fermata: true, substitutes: [{ time: 'last', symbol: 'A6' }] }] },
    ]) {
      expect(refused(barSchema as never, bar)).toEqual([]);
    }
  });

  it('is refused by the place that is wrong', () => {
    expect(refused(barSchema as never, { chords: [], pickup: 0 })).toEqual(['pickup']);
    expect(refused(barSchema as never, { chords: [], pickup: 1.5 })).toEqual(['pickup']);
    expect(
      refused(barSchema as never, { chords: [], meter: { beats: 3, unit: 4, groups: [4] } }),
    ).toEqual(['meter.groups']);
    expect(refused(placementSchema as never, { ...chord, fermata: false })).toEqual(['fermata']);
    expect(refused(placementSchema as never, { ...chord, substitutes: [] })).toEqual([
      'substitutes',
    ]);
    expect(
      refused(placementSchema as never, { ...chord, substitutes: [{ time: 0, symbol: 'A' }] }),
    ).toEqual(['substitutes.0.time']);
    expect(refused(placementSchema as never, { ...chord, push: 100 })).toEqual(['push']);
    expect(refused(placementSchema as never, { ...chord, colour: 'red' })).toEqual(['']);
  });
});

describe('a song', () => {
  it('is whole after any command on its bars', () => {
    const list = [
      barCommands.setBarMeter(place, METERS['6/8']),
      barCommands.setPickup(place, 2),
      barCommands.setFermata(place, 0, true),
      barCommands.setSubstitute(place, 0, 'last', 'A6'),
      barCommands.insertSection(0, song.sections[0]!),
      barCommands.setOrder([{ name: 'Section 2', times: 2 }]),
      rhythmCommands.setBarRules(place, { stop: 960 }),
      commands.setMeter(METERS['3/4']),
      barCommands.removeSection(1),
      barCommands.removeBars({ from: place, to: { ...place, bar: 1 } }),
    ];
    let now = song;
    for (const command of list) {
      now = command.apply(now);
      expect(refused(songSchema as never, now), command.name).toEqual([]);
    }
    expect(now.sections[0]!.lines).toEqual([]);
    expect(now.order).toBeUndefined();
  });

  it('of earlier versions is read as one of this', () => {
    for (const schema of [1, 2, 3, 4, 5, 6]) {
      const earlier = { ...song, schema, pattern: { ...song.pattern, schema } };
      expect(songSchema.parse(earlier)).toEqual(song);
    }
    expect(refused(songSchema as never, { ...song, schema: DOCUMENT_VERSION + 1 })).toEqual([
      'schema',
    ]);
  });
});
