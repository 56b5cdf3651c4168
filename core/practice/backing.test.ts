import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { said } from '../pattern/said.test-kit';
import type { Song } from '../schema';
import { newSong } from '../song';
import { backingOf } from './backing';
import { rungSong } from './rungSong';
import { changeDrill, patternAlone, randomChanges } from './tour';

const start = newSong({ title: 'Sluice', instrument: 'guitar', progression: 'G | C | D | G' });
const song: Song = { ...start, pattern: said('down miss, DOWN up, miss up, down up') };
const whole = arrangement(song);
const landings = arrangement(rungSong(whole, 'landings')).performance;

describe('what sounds behind a player', () => {
  it('is nothing, or all that is played', () => {
    expect(backingOf(landings, whole.performance, 'nothing').strikes).toEqual([]);
    expect(backingOf(landings, whole.performance, 'all')).toBe(landings);
  });

  it('is the rest of the song, together with the player just the song', () => {
    const rest = backingOf(landings, whole.performance, 'rest');
    const ticks = [...rest.strikes, ...landings.strikes]
      .map(({ tick }) => tick)
      .sort((a, b) => a - b);
    expect(ticks).toEqual(whole.performance.strikes.map(({ tick }) => tick));
    expect(rest.strikes.length).toBe(6 * 4 - 4);
  });

  it('is the bass runs alone where the player plays the song in full', () => {
    const { sections } = song;
    const bars = sections[0]!.lines[0]!.bars;
    const run = { kind: 'in the key', direction: 'up', count: 2, noteTicks: 960 } as const;
    const into = { ...bars[1]!, chords: [{ ...bars[1]!.chords[0]!, run }] };
    const lines = [{ times: 1, bars: [bars[0]!, into, ...bars.slice(2)] }];
    const { performance } = arrangement({ ...song, sections: [{ ...sections[0]!, lines }] });
    expect(performance.lostRuns).toEqual([]);
    const rest = backingOf(performance, performance, 'rest');
    expect(rest.strikes.map((strike) => strike.run)).toEqual([true, true]);
  });

  it('is nothing beside what is not as long as the song', () => {
    const drill = arrangement(changeDrill(song, song.pattern, ['C', 'F'])).performance;
    expect(backingOf(drill, whole.performance, 'rest').strikes).toEqual([]);
  });
});

describe('what is practised beside the ladder', () => {
  const chords = (of: Song) => arrangement(of).changes.map(({ symbol }) => symbol);

  it('goes to and fro between two chords', () => {
    const drill = changeDrill(song, song.pattern, ['C', 'F']);
    expect(drill.title).toBe('C to F and back');
    expect(chords(drill)).toEqual(['C', 'F', 'C', 'F', 'C', 'F', 'C', 'F']);
    expect(() => changeDrill(song, song.pattern, ['C'])).toThrow('two chords');
  });

  it('shuffles the changes, the same for one seed', () => {
    const one = randomChanges(song, song.pattern, ['C', 'F', 'G'], 3);
    expect(chords(one)).toHaveLength(16);
    expect(randomChanges(song, song.pattern, ['C', 'F', 'G'], 3).sections).toEqual(one.sections);
    expect(() => randomChanges(song, song.pattern, ['C', 'C'], 3)).not.toThrow();
  });

  it('takes a pattern alone on one chord, or on two in turn', () => {
    const alone = patternAlone(song, song.pattern, ['G']);
    expect(chords(alone)).toEqual(['G']);
    expect(arrangement(alone).bars).toHaveLength(8);
    expect(chords(patternAlone(song, song.pattern, ['G', 'Em']))).toHaveLength(8);
  });
});
