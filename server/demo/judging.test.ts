import { expect, it } from 'vitest';
import { arrangement } from '#core/arrange';
import { judgeOnsets } from '#core/take';
import { isRight, LEAD, onsetsOf, struggles } from '../../core/take/struggles.test-kit';
import { demoSongs } from './songs';

const TEMPOS = [80];

it('every song of the demo is judged as a teacher would, in 98 of 100 takes', async () => {
  const lines: string[] = [];
  let [all, right] = [0, 0];
  for (const song of demoSongs) {
    let [takes, good] = [0, 0];
    const wrong = new Map<string, number>();
    for (const tempo of TEMPOS) {
      const arranged = arrangement({ ...song, tempo });
      for (const [index, one] of struggles(arranged.song).entries()) {
        const taken = onsetsOf(arranged, { seed: 7 * index + tempo, ...one.habits });
        const judged = judgeOnsets(arranged, taken, { begins: LEAD });
        takes += 1;
        if (isRight(one, judged)) {
          good += 1;
          continue;
        }
        const { trouble, then } = judged.verdict;
        const said = `${one.what} (${one.how}): ${trouble}${then ? `, then ${then.trouble}` : ''}`;
        wrong.set(said, (wrong.get(said) ?? 0) + 1);
      }
    }
    all += takes;
    right += good;
    const others = [...wrong].map(([what, count]) =>
      count > 1 ? `${what}, ${count} times` : what,
    );
    lines.push(`| ${song.title} | ${takes} | ${good} | ${others.join('; ')} |`);
  }
  expect(right / all).toBeGreaterThanOrEqual(0.98);
  const table = [
    '# What takes of the songs of Kettle Lock are judged as',
    '',
    'Made by `server/demo/judging.test.ts`: every struggle that a song has room for, told as onsets, at',
    `${TEMPOS.join(', ')}. What is not as a teacher would say it stands in the last column.`,
    '',
    '| song | takes | right | otherwise |',
    '| --- | --: | --: | --- |',
    ...lines,
    '',
  ].join('\n');
  await expect(table).toMatchFileSnapshot('../../docs/judging-songs.md');
}, 300_000);
