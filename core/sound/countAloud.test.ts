import { expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { barNumbers, newSong, playedBars } from '../song';
import { METERS } from '../time';
import { countAloud } from '.';

it('counts every beat, the bars of a held chord in place of the one, and a pick-up from where it comes in', () => {
  const song = newSong({ title: 'T', instrument: 'guitar', progression: '(pickup 1) D7 | G | .' });
  const { bars, changes } = arrangement(song);
  const said = countAloud(bars, barNumbers(bars, changes));
  expect(said.map(({ word }) => word)).toEqual(['4', '1', '2', '3', '4', '2', '2', '3', '4']);
  expect(said.map(({ tick }) => tick)).toEqual(Array.from({ length: 9 }, (_, beat) => beat * 960));
  const seven = newSong({
    title: 'T',
    instrument: 'guitar',
    progression: 'A',
    meter: { ...METERS['6/8'], beats: 7, groups: [4, 3] },
  });
  expect(countAloud(playedBars(seven)).map(({ syllables }) => syllables)).toEqual([
    1, 1, 1, 1, 1, 1, 2,
  ]);
});
