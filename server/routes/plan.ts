import { QueryTypes } from 'sequelize';
import type { Plan } from '#core/schema';
import { nextStep, rungName, type RungTake, rungTakeOf, stepRules } from '#core/practice';
import {
  describeTrend,
  type DueThing,
  dueAgain,
  goalTrend,
  type PlannedSong,
  tonight,
} from '#core/log';
import type { Database } from '../database';
import { entryOfRow } from './entries';
import { cleanEvenings, summaryOf } from './summary';

const DAY = 86_400_000;
/** Songs that a plan is made from, the latest first, and how far back their takes count. */
const MAX_PLANNED = 40;
const REMEMBERED = 400 * DAY;
/** Takes of a song from which its next tempo follows. */
const LATEST = 12;

/** Rungs on which the rhythm of a song is practised by itself. */
const RHYTHM_RUNGS = ['arm', 'strong beats', 'beats', 'damped', 'one chord'];
/** Rows of changes and rhythms that are looked at, the latest first. */
const MAX_ROWS = 3000;
/** A change that takes no more than this share over its quickest evening went well. */
const AS_QUICK = 1.15;

/** Changes and rhythms that were practised by themselves, with when they are due again. */
async function dueThings(
  { sequelize }: Pick<Database, 'sequelize'>,
  songs: { songId: string; song: string; goal: number | null; left: string | null }[],
  since: number,
  zone: number,
  dayOf: (at: number) => string,
): Promise<DueThing[]> {
  if (songs.length === 0) return [];
  const ask = <Row extends object>(sql: string) =>
    sequelize.query<Row>(sql, {
      type: QueryTypes.SELECT,
      replacements: { since, ids: songs.map(({ songId }) => songId), rungs: RHYTHM_RUNGS },
    });
  const [changes, rhythms] = await Promise.all([
    ask<{ change: string; madeAt: number; median: number }>(`
      SELECT change, madeAt, median FROM entries WHERE kind = 'change' AND median IS NOT NULL
        AND madeAt > :since ORDER BY madeAt DESC LIMIT ${MAX_ROWS}`),
    ask<{ songId: string; madeAt: number; trouble: string; within: number | null; name: string }>(`
      SELECT e.songId, e.madeAt, e.trouble, e.within, json_extract(s.document, '$.pattern.name') AS name
      FROM (SELECT songId, madeAt, trouble, within FROM entries
        WHERE kind = 'take' AND songId IN (:ids) AND rung IN (:rungs) AND trouble IS NOT NULL AND madeAt > :since
        ORDER BY madeAt DESC LIMIT ${MAX_ROWS}) AS e
      JOIN songs AS s ON s.id = e.songId`),
  ]);
  const due = (reviews: Parameters<typeof dueAgain>[0]) => {
    const at = dueAgain(reviews, zone);
    return at && dayOf(at.getTime());
  };
  const found: DueThing[] = [];
  for (const [change, rows] of grouped(changes, (row) => row.change)) {
    const quickest = Math.min(...rows.map(({ median }) => median));
    const day = due(
      rows.map(({ madeAt, median }) => ({
        at: new Date(madeAt),
        trouble: median <= quickest * AS_QUICK ? ('clean' as const) : ('so-so' as const),
        within: null,
      })),
    );
    const of = songs.find(({ left }) => left === change) ?? songs[0]!;
    const what = `${change}, to and fro`;
    if (day) found.push({ what, songId: of.songId, rung: null, tempo: null, due: day });
  }
  for (const [name, rows] of grouped(rhythms, (row) => row.name)) {
    const day = due(
      rows.map(({ madeAt, trouble, within }) => ({
        at: new Date(madeAt),
        trouble: trouble as 'clean',
        within,
      })),
    );
    const of = songs.find(({ songId }) => songId === rows[0]!.songId)!;
    const tempo = of.goal === null ? null : Math.round(of.goal * 0.85);
    const what = `The rhythm “${name}”, on damped strings`;
    if (day) found.push({ what, songId: of.songId, rung: 'damped', tempo, due: day });
  }
  return found;
}

function grouped<Row>(rows: Row[], by: (row: Row) => string): Map<string, Row[]> {
  const groups = new Map<string, Row[]>();
  for (const row of rows) groups.set(by(row), [...(groups.get(by(row)) ?? []), row]);
  return groups;
}

/** Tonight's plan, from the log and from the goals of the songs. */
export async function planOf(database: Database, minutes: number, zone: number): Promise<Plan> {
  const { sequelize, entries } = database;
  const now = Date.now();
  const dayOf = (at: number) => new Date(at + zone).toISOString().slice(0, 10);
  const today = dayOf(now);
  const { songs } = await summaryOf(database, { zone });
  const known = songs.filter(({ goal }) => goal !== null).slice(0, MAX_PLANNED);
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
      zone,
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
  const others = await dueThings(database, known, since, zone, dayOf);
  return {
    minutes,
    items: tonight(planned, minutes, today, others),
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
