import { QueryTypes } from 'sequelize';
import {
  describeTrend,
  dueAgain,
  goalTrend,
  type Plan,
  type PlannedSong,
  rungName,
  stepRules,
  tonight,
} from '#core';
import type { Database } from '../database';
import { cleanEvenings, summaryOf } from './summary';

const DAY = 86_400_000;
/** Songs that a plan is made from, the latest first, and how far back their takes count. */
const MOST_PLANNED = 40;
const REMEMBERED = 400 * DAY;

/** Tonight's plan, from the log and from the goals of the songs. */
export async function planOf(database: Database, minutes: number, zone: number): Promise<Plan> {
  const { sequelize } = database;
  const now = Date.now();
  const dayOf = (at: number) => new Date(at + zone).toISOString().slice(0, 10);
  const today = dayOf(now);
  const { songs } = await summaryOf(database, { zone });
  const known = songs.filter(({ goal }) => goal !== null).slice(0, MOST_PLANNED);
  const ids = known.map(({ songId }) => songId);
  const since = now - REMEMBERED;
  const clean = ids.length === 0 ? [] : await cleanEvenings(database, { song: ids, since, zone });
  const reviews =
    ids.length === 0
      ? []
      : await sequelize.query<{
          songId: string;
          madeAt: number;
          trouble: string;
          within: number | null;
          rung: string;
          tempo: number;
        }>(
          `SELECT songId, max(madeAt) AS madeAt, trouble, within, rung, tempo FROM entries
           WHERE kind = 'take' AND trouble IS NOT NULL AND trouble <> 'unjudged' AND songId IN (:ids) AND madeAt > :since
           GROUP BY songId, (madeAt + :zone) / ${DAY} ORDER BY madeAt`,
          { type: QueryTypes.SELECT, replacements: { ids, since, zone } },
        );
  const planned = known.map(({ songId, song, goal, by, clean: best, left }): PlannedSong => {
    const own = reviews.filter((review) => review.songId === songId);
    const due = dueAgain(
      own.map(({ madeAt, trouble, within }) => ({
        at: new Date(madeAt),
        trouble: trouble as 'clean',
        within,
      })),
    );
    const last = own.at(-1);
    const rung = (last?.rung ?? 'song') as PlannedSong['next']['rung'];
    const rules = stepRules({ tempo: goal! });
    const tempo = Math.round(
      Math.min(
        goal!,
        last?.trouble === 'clean' ? last.tempo + rules.step / 2 : (last?.tempo ?? goal! * 0.75),
      ),
    );
    return {
      songId,
      song,
      goal: goal!,
      by,
      clean: best,
      next: { rung, name: rungName(rung), tempo },
      due: due && dayOf(due.getTime()),
      left,
    };
  });
  return {
    minutes,
    items: tonight(planned, minutes, today),
    goals: known
      .filter(({ clean: best, goal }) => best !== null && goal !== null)
      .map(({ songId, song, goal, by }) => {
        const evenings = clean.filter((one) => one.songId === songId && one.rung === 'song');
        const trend = goalTrend(evenings, goal!, today);
        return {
          songId,
          song,
          says: describeTrend(trend, goal!, by, today),
          likely: trend?.likely ?? null,
        };
      }),
  };
}
