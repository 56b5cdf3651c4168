import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documents } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { newSong } from '../song';
import { commands, notKept, rhythmCommands, wedgeEnds, withWedge } from '.';

const bar = (index: number) => ({ section: 0, line: 0, bar: index });

describe('what a retyped line could not keep', () => {
  const song = [
    commands.setProgression('Verse:\nA | D | E7 | A'),
    rhythmCommands.setRun(bar(1), 0, {
      count: 2,
      noteTicks: 480,
      kind: 'in the key',
      direction: 'up',
    }),
    rhythmCommands.setBarRules(bar(2), { stop: 960 }),
    rhythmCommands.setSectionRules(0, { level: 'accent' }),
  ].reduce(
    (now, command) => command.apply(now),
    newSong({ title: 'Any', instrument: 'guitar', progression: 'A', tempo: 90 }),
  );
  const typed = (line: string) => commands.setProgression(line).apply(song);

  it('is nothing where the bars stay, or go somewhere else', () => {
    expect(notKept(song, song)).toEqual([]);
    expect(notKept(song, typed('Verse:\nA | D | E7 | A | D'))).toEqual([]);
    expect(notKept(song, typed('Verse:\nG | A | D | E7 | A'))).toEqual([]);
  });

  it('is named by its place, for a bar, a chord and a section', () => {
    expect(notKept(song, typed('Verse:\nA | D'))).toEqual(['the stop of bar 3 of Verse']);
    expect(notKept(song, typed('Bridge:\nG | C'))).toEqual(
      expect.arrayContaining(['the run into D in bar 2 of Verse', 'the stop of bar 3 of Verse']),
    );
  });

  it('is never invented: what any command but typing leaves is all there', () => {
    fc.assert(
      fc.property(documents, fc.integer({ min: 20, max: 200 }), (any, tempo) => {
        expect(notKept(any, commands.setTempo(tempo).apply(any))).toEqual([]);
        expect(notKept(any, structuredClone(any))).toEqual([]);
      }),
      tries(40),
    );
  });
});

describe('the wedge of a section', () => {
  it('is a build where its ends differ, a loudness where not, and nothing as played', () => {
    expect(withWedge({}, { from: 'normal', to: 'normal' })).toEqual({});
    expect(withWedge({}, { from: 'accent', to: 'accent' })).toEqual({ level: 'accent' });
    expect(withWedge({}, { from: 'ghost', to: 'strong' })).toEqual({
      build: { from: 'ghost', to: 'strong' },
    });
    const downs = { build: { from: 'ghost', to: 'strong', downs: true } } as const;
    expect(withWedge(downs, { from: 'normal', to: 'strong' }).build).toMatchObject({ downs: true });
    for (const from of ['ghost', 'normal', 'accent', 'strong'] as const) {
      for (const to of ['ghost', 'normal', 'accent', 'strong'] as const) {
        const made = withWedge({}, { from, to });
        expect(wedgeEnds(JSON.parse(JSON.stringify(made)))).toEqual({ from, to });
      }
    }
  });
});
