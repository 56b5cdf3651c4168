import { QueryTypes } from 'sequelize';
import type { LogSummary } from '#core';
import type { Database } from '../database';
import type { LogFilter } from './entries';

const DAY = 86_400_000;

/** Which song is meant, and how far the player's clock is from that of Greenwich, in milliseconds. */
export interface SummaryQuery extends LogFilter {
  zone: number;
}

/** Songs that one answer lists, the latest first. */
const MOST_SONGS = 200;
/** What was left lately: of the takes of so many days before the last. */
const LATELY = 28 * DAY;

/**
 * What the log comes to. All of it is counted by the database, by days of the player's own clock.
 */
export async function summaryOf(
  { sequelize }: Pick<Database, 'sequelize'>,
  { song, since, until, zone }: SummaryQuery,
): Promise<LogSummary> {
  const replacements = {
    zone,
    song: song ?? null,
    since: since ?? null,
    until: until ?? null,
    lately: LATELY,
  };
  const where = [
    song === undefined ? null : 'songId = :song',
    since === undefined ? null : 'madeAt >= :since',
    until === undefined ? null : 'madeAt < :until',
  ].filter((one) => one !== null);
  const among = (more: string | null = null) => {
    const all = more === null ? where : [...where, more];
    return all.length === 0 ? '' : `WHERE ${all.join(' AND ')}`;
  };
  const dayOf = `date((madeAt + :zone) / 1000, 'unixepoch')`;
  const ask = <Row extends object>(sql: string) =>
    sequelize.query<Row>(sql, { type: QueryTypes.SELECT, replacements });
  const [days, verdicts, songs, clean, changes] = await Promise.all([
    // Grouped by the number of the day first: the text of a date is made once a day and not once a row.
    ask<LogSummary['days'][number]>(`
      SELECT date(number * 86400, 'unixepoch') AS day, seconds, takes FROM (
        SELECT (madeAt + :zone) / ${DAY} AS number, round(sum(seconds), 1) AS seconds, sum(kind = 'take') AS takes
        FROM entries ${among()} GROUP BY number ORDER BY number)`),
    ask<LogSummary['verdicts'][number]>(`
      SELECT trouble, count(*) AS count FROM entries ${among('trouble IS NOT NULL')}
      GROUP BY trouble ORDER BY count DESC`),
    ask<{
      songId: string;
      song: string;
      last: number;
      seconds: number;
      goal: number | null;
      by: string | null;
    }>(`
      SELECT found.songId, coalesce(songs.title, found.song, '') AS song, found.last, found.seconds,
        coalesce(json_extract(songs.document, '$.practice.goal'), songs.tempo) AS goal,
        json_extract(songs.document, '$.practice.by') AS "by"
      FROM (SELECT songId, max(song) AS song, max(madeAt) AS last, round(sum(seconds), 1) AS seconds
        FROM entries ${among('songId IS NOT NULL')} GROUP BY songId) AS found
      LEFT JOIN songs ON songs.id = found.songId ORDER BY last DESC LIMIT ${MOST_SONGS}`),
    ask<LogSummary['clean'][number]>(`
      SELECT ${dayOf} AS day, songId, rung, max(tempo) AS tempo
      FROM entries ${among(`trouble = 'clean' AND kind = 'take' AND whole AND hands = 'both' AND songId IS NOT NULL AND tempo >= 20`)}
      GROUP BY day, songId, rung ORDER BY day`),
    ask<LogSummary['changes'][number]>(`
      SELECT ${dayOf} AS day, change, round(avg(median), 1) AS ms
      FROM entries ${among(`kind = 'change' AND median IS NOT NULL`)}
      GROUP BY day, change ORDER BY day`),
  ]);
  const left = await ask<{ songId: string; change: string }>(`
    SELECT songId, change FROM (
      SELECT songId, change, row_number() OVER (PARTITION BY songId ORDER BY count(*) DESC, max(madeAt) DESC) AS place
      FROM entries ${among(`kind = 'take' AND change IS NOT NULL AND songId IS NOT NULL AND trouble IN ('landings', 'chord-late') AND madeAt > (SELECT max(madeAt) FROM entries) - :lately`)}
      GROUP BY songId, change) WHERE place = 1`);
  const leftOf = new Map(left.map(({ songId, change }) => [songId, change]));
  const inFull = clean.filter(({ rung }) => rung === 'song');
  return {
    evenings: days.length,
    seconds: days.reduce((sum, { seconds }) => sum + seconds, 0),
    days,
    verdicts,
    songs: songs.map(({ last, goal, by, ...rest }) => {
      const own = inFull.filter(({ songId }) => songId === rest.songId);
      return {
        ...rest,
        last: new Date(last).toISOString(),
        goal: goal ?? null,
        by: by ?? null,
        clean: own.length > 0 ? Math.max(...own.map(({ tempo }) => tempo)) : null,
        first: own[0]?.tempo ?? null,
        left: leftOf.get(rest.songId) ?? null,
      };
    }),
    clean,
    changes,
  };
}
