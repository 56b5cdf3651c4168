import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { said } from '../pattern/said.test-kit';
import { newSong } from '../song';
import { judgeSound } from './judge';
import { type Habits, playTake, takeSound } from './player';

/** Chords and scatter, heard through the app's own strings. */

const RATE = 22_050;
const LEAD = 0.8;
const EIGHTHS = 'down miss, down up, miss up, down up';

const songOf = (progression: string, tempo = 80, words = EIGHTHS) => ({
  ...newSong({ title: 'Sluice', instrument: 'guitar', progression }),
  tempo,
  pattern: said(words),
});
/** The verdict on one song where another is played in its place. */
function heardAs(
  meant: ReturnType<typeof songOf>,
  played = meant,
  habits: Omit<Habits, 'seed'> = { jitter: 8 },
) {
  const { performance } = arrangement(played);
  const take = playTake(performance, played.meter, { seed: 5, ...habits });
  const samples = takeSound(take, played.meter, 'guitar', RATE, { lead: LEAD, noise: 26, seed: 3 });
  return judgeSound(arrangement(meant), { samples, sampleRate: RATE }, { begins: LEAD }).verdict;
}

describe('another chord than the one that was meant', () => {
  it.each([
    ['C | G7 | C | G7', 'C | G | C | G', /G7 sounds as G in 1[12] strokes, first in bar 2/],
    ['Em | Am7 | D | Am7', 'Em | Am | D | Am', 'Am7 sounds as Am in 12 strokes, first in bar 2'],
    ['C | F | Am | G', 'C | Am | Am | G', 'F sounds as Am in 6 strokes, first in bar 2'],
  ])('%s held as %s is said', (meant, held, sentence) => {
    const verdict = heardAs(songOf(meant), songOf(held));
    expect(verdict.trouble).toBe('chord');
    expect(verdict.sentence).toMatch(sentence);
  });

  it('is not said where sevenths are held', () => {
    const song = songOf('C | G7 | Am7 | D7 | Cmaj7 | G7');
    expect(heardAs(song).trouble).toBe('clean');
  });
});

describe('a clock that goes on', () => {
  it.each([
    ['rushing', { jitter: 8, drift: 4 }],
    ['dragging', { jitter: 8, drift: -4 }],
  ] as const)('%s slowly is no stop', (trouble, habits) => {
    const slow = songOf('G | Em | C | D | Am | C . D . | G | D', 40);
    expect(heardAs(slow, slow, habits).trouble).toBe(trouble);
  });

  it('where strokes scatter, no change is blamed for it', () => {
    const quick = songOf('G | Em | C | D | Am | C . D . | G | D', 160);
    expect(heardAs(quick, quick, { jitter: 38 }).trouble).toBe('uneven');
  });
});
