import { QueryTypes } from 'sequelize';
import type { Seconds } from '#core/plain';
import type { LogSummary } from '#core/schema';
import type { Database } from '../database';
import type { LogFilter } from './entries';
import { slotsOf } from './slots';

const DAY = 86_400_000;

/** Which song is meant, and how far the player's clock is from that of Greenwich, in milliseconds. */
export interface SummaryQuery extends LogFilter {
  zone: number;
}

/** Songs that one answer lists, the latest first. */
const MAX_SONGS = 200;
/** What was left lately: of the takes of so many days before the last. */
const LATELY = 28 * DAY;

/** A clean take of the whole song with both hands, as the index of such rows has it. */
const CLEAN = `trouble = 'clean' AND kind = 'take' AND whole = 1 AND hands = 'both' AND songId IS NOT NULL`;

/** Every song that has rows, one step of an index for each. */
const PLAYED = `
  WITH RECURSIVE one(songId) AS (SELECT min(songId) FROM entries WHERE songId IS NOT NULL
    UNION ALL SELECT (SELECT min(songId) FROM entries WHERE songId > one.songId) FROM one WHERE songId IS NOT NULL)
  SELECT songId FROM one WHERE songId IS NOT NULL`;

/** Every day of the log, each from its stretch of an index: grouping all rows by their day would sort them all. */
const ALL_DAYS = `
  WITH RECURSIVE days(number, last) AS (
    SELECT ((SELECT min(madeAt) FROM entries) + :zone) / ${DAY}, ((SELECT max(madeAt) FROM entries) + :zone) / ${DAY}
    UNION ALL SELECT number + 1, last FROM days WHERE number < last)
  SELECT date(number * 86400, 'unixepoch') AS day, seconds, takes FROM (
    SELECT number,
      (SELECT round(sum(seconds), 1) FROM entries
        WHERE madeAt >= number * ${DAY} - :zone AND madeAt < (number + 1) * ${DAY} - :zone) AS seconds,
      (SELECT count(*) FROM entries WHERE kind = 'take'
        AND madeAt >= number * ${DAY} - :zone AND madeAt < (number + 1) * ${DAY} - :zone) AS takes
    FROM days) WHERE seconds IS NOT NULL`;

/** The quickest clean take of each evening of some songs, by rung, in the order of the evenings. */
export function cleanEvenings(
  { sequelize }: Pick<Database, 'sequelize'>,
  { song, since = 0, until, zone }: Omit<SummaryQuery, 'song'> & { song: string | string[] },
): Promise<LogSummary['clean']> {
  return sequelize.query<LogSummary['clean'][number]>(
    `SELECT date(number * 86400, 'unixepoch') AS day, songId, rung, tempo FROM (
      SELECT (madeAt + :zone) / ${DAY} AS number, songId, rung, max(tempo) AS tempo
      FROM entries WHERE ${CLEAN} AND songId IN (:songs) AND madeAt >= :since AND madeAt < :until
      GROUP BY songId, rung, number) ORDER BY number`,
    {
      type: QueryTypes.SELECT,
      replacements: { zone, since, until: until ?? Number.MAX_SAFE_INTEGER, songs: [song].flat() },
    },
  );
}

/**
 * What the log comes to. All of it is counted by the database, by days of the player's own clock.
 */
export async function summaryOf(
  database: Pick<Database, 'sequelize'>,
  { song, since, until, zone }: SummaryQuery,
): Promise<LogSummary> {
  const { sequelize } = database;
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
  const number = `(madeAt + :zone) / ${DAY}`;
  // Grouped by the number of the day: its text is made once a group and not once a row.
  const text = `date(number * 86400, 'unixepoch') AS day`;
  /** The clean takes in full of the song of an outer row. */
  const of = (outer: string) => among(`${CLEAN} AND rung = 'song' AND songId = ${outer}.songId`);
  const ask = <Row extends object>(sql: string) =>
    sequelize.query<Row>(sql, { type: QueryTypes.SELECT, replacements });
  const [slots, days, verdicts, songs, clean, best, first, changes, left] = await Promise.all([
    song === undefined ? [] : slotsOf(database, song),
    ask<LogSummary['days'][number]>(
      where.length === 0
        ? ALL_DAYS
        : `
      SELECT ${text}, seconds, takes FROM (
        SELECT ${number} AS number, round(sum(seconds), 1) AS seconds, sum(kind = 'take') AS takes
        FROM entries ${among()} GROUP BY number ORDER BY number)`,
    ),
    ask<LogSummary['verdicts'][number]>(`
      SELECT trouble, count(*) AS count FROM entries ${among('trouble IS NOT NULL')}
      GROUP BY trouble ORDER BY count DESC`),
    ask<{
      songId: string;
      song: string;
      last: number;
      seconds: Seconds;
      goal: number | null;
      by: string | null;
    }>(`
      SELECT found.songId, found.last, found.seconds, json_extract(songs.document, '$.practice.by') AS "by",
        coalesce(songs.title, (SELECT song FROM entries WHERE songId = found.songId LIMIT 1), '') AS song,
        coalesce(json_extract(songs.document, '$.practice.goal'), songs.tempo) AS goal
      FROM (SELECT songId, max(madeAt) AS last, round(sum(seconds), 1) AS seconds
        FROM entries ${among('songId IS NOT NULL')} GROUP BY songId ORDER BY last DESC LIMIT ${MAX_SONGS}) AS found
      LEFT JOIN songs ON songs.id = found.songId ORDER BY last DESC`),
    song === undefined ? [] : cleanEvenings(database, { song, since, until, zone }),
    ask<{ songId: string; clean: number }>(`
      SELECT songId, (SELECT max(tempo) FROM entries ${of('some')}) AS clean FROM (${PLAYED}) AS some`),
    ask<{ songId: string; tempo: number }>(`
      SELECT songId, (SELECT max(tempo) FROM entries ${of('some')}
        AND madeAt >= some.number * ${DAY} - :zone AND madeAt < (some.number + 1) * ${DAY} - :zone) AS tempo
      FROM (SELECT songId, (SELECT ${number} FROM entries ${of('played')} ORDER BY madeAt LIMIT 1) AS number
        FROM (${PLAYED}) AS played) AS some`),
    ask<LogSummary['changes'][number]>(`
      SELECT ${text}, change, ms FROM (
        SELECT ${number} AS number, change, round(avg(median), 1) AS ms
        FROM entries ${where.length === 0 ? 'INDEXED BY entries_changes' : ''} ${among(`kind = 'change' AND median IS NOT NULL`)}
        GROUP BY change, number) ORDER BY number`),
    ask<{ songId: string; change: string }>(`
      SELECT songId, change, max(many * 1e15 + late) FROM (
        SELECT songId, change, count(*) AS many, max(madeAt) AS late
        FROM entries ${among(`kind = 'take' AND change IS NOT NULL AND songId IS NOT NULL AND trouble IN ('landings', 'chord-late', 'landings-out', 'waits') AND madeAt > (SELECT max(madeAt) FROM entries) - :lately`)}
        GROUP BY songId, change) GROUP BY songId`),
  ]);
  const leftOf = new Map(left.map(({ songId, change }) => [songId, change]));
  const cleanOf = new Map(best.map(({ songId, clean: tempo }) => [songId, tempo]));
  const firstOf = new Map(first.map(({ songId, tempo }) => [songId, tempo]));
  return {
    evenings: days.length,
    seconds: days.reduce((sum, { seconds }) => sum + seconds, 0),
    days,
    verdicts,
    songs: songs.map(({ last, ...rest }) => ({
      ...rest,
      last: new Date(last).toISOString(),
      clean: cleanOf.get(rest.songId) ?? null,
      first: firstOf.get(rest.songId) ?? null,
      left: leftOf.get(rest.songId) ?? null,
    })),
    clean,
    slots,
    changes,
  };
}
