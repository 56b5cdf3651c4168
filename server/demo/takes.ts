import { randomUUID } from 'node:crypto';
import type { Song } from '#core/schema';
import { playedBars } from '#core/song';
import { arrangement } from '#core/arrange';
import { type Habits, judgeOnsets, playTake } from '#core/take';
import type { Database } from '../database';

/** Takes of the circle that were heard: late at the changes a month ago, and steadier of late. */

export const TAKEN = 'The Lamplighter’s Round';
const DAY = 86_400_000;
const TAKES: { days: number; habits: Habits }[] = [
  { days: 31, habits: { seed: 5, jitter: 14, landingsLate: 62 } },
  { days: 29, habits: { seed: 6, jitter: 13, landingsLate: 55 } },
  { days: 3, habits: { seed: 7, jitter: 9, landingsLate: 14 } },
  { days: 1, habits: { seed: 8, jitter: 8, landingsLate: 8 } },
];

/** A take of a made-up player, as it is kept. */
function judged(song: Song, habits: Habits) {
  const arranged = arrangement(song);
  const { strikes } = playTake(arranged.performance, song.meter, habits);
  return judgeOnsets(
    arranged,
    strikes.map(({ seconds, dir, velocity }) => ({
      seconds: Math.max(0, seconds + 0.5),
      direction: dir,
      loudness: Math.min(1, velocity),
    })),
  );
}

export async function keepDemoTakes(
  { takes }: Pick<Database, 'takes'>,
  songId: string,
  song: Song,
  now: number,
): Promise<void> {
  await takes.bulkCreate(
    TAKES.map(({ days, habits }) => {
      const judgement = judged(song, habits);
      const { trouble, sentence } = judgement.verdict;
      return {
        id: randomUUID(),
        songId,
        madeAt: new Date(now - days * DAY),
        tempo: song.tempo,
        from: 1,
        to: playedBars(song).length,
        source: 'example',
        trouble,
        sentence,
        rung: null,
        hands: null,
        judgement: JSON.stringify(judgement),
      };
    }),
  );
}
