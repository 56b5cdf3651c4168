import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { progressions } from '../arbitraries.test-kit';
import { rhythmCommands } from '../edit';
import { said } from '../pattern/said.test-kit';
import { tries } from '../properties.test-kit';
import type { Song } from '../schema';
import { newSong } from '../song';
import { arrangement, runsThroughout, usualRun } from '.';

const songOf = (progression: string, words = 'bass, down, bass, down'): Song => ({
  ...newSong({ title: 'Weir', instrument: 'guitar', progression }),
  pattern: said(words),
});
const placed = (song: Song) =>
  rhythmCommands.setRuns(runsThroughout(arrangement(song), usualRun(song))).apply(song);

describe('bass runs throughout a song', () => {
  it('go in quarters where the pattern strikes on the beats alone, and as the song says', () => {
    expect(usualRun(songOf('G | C'))).toEqual({ count: 2, noteTicks: 960 });
    expect(usualRun(songOf('G | C', 'down, down up, down, down up')).noteTicks).toBe(480);
    const three = rhythmCommands.setUsualRun({ count: 3, noteTicks: 480 }).apply(songOf('G | C'));
    expect(usualRun(three)).toEqual({ count: 3, noteTicks: 480 });
    expect(rhythmCommands.setUsualRun(null).apply(three)).toEqual(songOf('G | C'));
  });

  it('lead into every chord that has room, arrive on it, and can be taken away at once', () => {
    const song = songOf('G | C | G . C . | D');
    const places = runsThroughout(arrangement(song), usualRun(song));
    // Two beats of a chord leave no room for two quarters: it would not be heard once.
    expect(places.map(({ bar, at }) => [bar, at])).toEqual([
      [1, 0],
      [2, 0],
    ]);
    const after = placed(song);
    const { strikes, lostRuns } = arrangement(after).performance;
    expect(lostRuns).toEqual([]);
    expect(strikes.filter(({ run }) => run).map(({ tick }) => tick / 960)).toEqual([2, 3, 6, 7]);
    expect(runsThroughout(arrangement(after), usualRun(after))).toEqual([]);
    expect(rhythmCommands.takeRuns().apply(after)).toEqual(song);
  });

  it('fit each time that a line comes, or are not placed', () => {
    const song = songOf('G | C | D | G x2');
    const { lostRuns } = arrangement(placed(song)).performance;
    expect(lostRuns).toEqual([]);
  });

  it('are in the key of what is played, whatever is written besides', () => {
    const song = songOf('Verse:\nG | C | D | G\nCoda:\nF# | B | C# | F# | B | C#');
    const verse: Song = { ...song, order: [{ name: 'Verse', times: 1 }] };
    expect(arrangement(placed(verse)).performance.lostRuns).toEqual([]);
  });

  it('never lose one, whatever the song', () => {
    fc.assert(
      fc.property(progressions, (text) => {
        expect(arrangement(placed(songOf(text))).performance.lostRuns).toEqual([]);
      }),
      tries(100),
    );
  });
});
