import { QueryTypes } from 'sequelize';
import {
  describeTrend,
  dueAgain,
  goalTrend,
  nextStep,
  type Plan,
  type PlannedSong,
  rungName,
  type RungTake,
  rungTakeOf,
  stepRules,
  tonight,
} from '#core';
import type { Database } from '../database';
import { entryOfRow } from './entries';
import { cleanEvenings, summaryOf } from './summary';

const DAY = 86_400_000;
/** Songs that a plan is made from, the latest first, and how far back their takes count. */
const MOST_PLANNED = 40;
const REMEMBERED = 400 * DAY;
/** Takes of a song from which its next tempo follows. */
const LATEST = 12;

/** Tonight's plan, from the log and from the goals of the songs. */
export async function planOf(database: Database, minutes: number, zone: number): Promise<Plan> {
  const { sequelize, entries } = database;
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
        }>(
          `SELECT songId, max(madeAt) AS madeAt, trouble, within FROM entries
           WHERE kind = 'take' AND trouble IS NOT NULL AND trouble <> 'unjudged' AND songId IN (:ids) AND madeAt > :since
           GROUP BY songId, (madeAt + :zone) / ${DAY} ORDER BY madeAt`,
          { type: QueryTypes.SELECT, replacements: { ids, since, zone } },
        );
  const latest = new Map<string, RungTake[]>();
  for (const songId of ids) {
    const rows = await entries.findAll({
      where: { songId, kind: 'take', hands: 'both' },
      order: [['madeAt', 'DESC']],
      limit: LATEST,
    });
    const takes = rows.flatMap((row) => entryOfRow(row) ?? []).map(rungTakeOf);
    latest.set(songId, takes.reverse());
  }
  const planned = known.map(({ songId, song, goal, by, clean: best, left }): PlannedSong => {
    const own = reviews.filter((review) => review.songId === songId);
    const due = dueAgain(
      own.map(({ madeAt, trouble, within }) => ({
        at: new Date(madeAt),
        trouble: trouble as 'clean',
        within,
      })),
    );
    // On the rung of the last take, by the rules of Practice. Which rung comes after it is for the ladder to say.
    const takes = latest.get(songId) ?? [];
    const rung = takes.at(-1)?.rung ?? 'song';
    const rules = stepRules({ tempo: goal! });
    const { tempo } = nextStep([rung], takes, rules, { ceiling: null, arm: null });
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
