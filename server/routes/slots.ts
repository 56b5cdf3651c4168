import { QueryTypes } from 'sequelize';
import type { Milliseconds } from '#core/plain';
import type { LogSummary, TakeJudgement } from '#core/schema';
import type { Database } from '../database';

const DAY = 86_400_000;
/** What counts as now: takes of a week up to the last; and as a month ago: those around it. */
const NOW = 7 * DAY;
const MONTH = { from: 21 * DAY, to: 45 * DAY };
/** Takes that are looked at, the latest first. */
const MOST = 60;

type Slots = Pick<TakeJudgement['bySlot'][number], 'place' | 'slot' | 'median' | 'count'>[];

/** How late each slot came, over some takes: their middles, by how often it was struck. */
function latenessOf(takes: Slots[]): Map<string, { slot: number; ms: Milliseconds }> {
  const sums = new Map<string, { slot: number; ms: Milliseconds; count: number }>();
  for (const { place, slot, median, count } of takes.flat()) {
    if (median === null || count === 0) continue;
    const known = sums.get(place) ?? { slot, ms: 0, count: 0 };
    sums.set(place, { slot, ms: known.ms + median * count, count: known.count + count });
  }
  return new Map(
    [...sums].map(([place, { slot, ms, count }]) => [
      place,
      { slot, ms: Number((ms / count).toFixed(1)) },
    ]),
  );
}

/**
 * How late the strokes of each slot of a song came in the last week that it was played, against a month before.
 * @returns nothing where no take of it was heard
 */
export async function slotsOf(
  { sequelize }: Pick<Database, 'sequelize'>,
  song: string,
): Promise<LogSummary['slots']> {
  const rows = await sequelize.query<{ at: number; slots: string }>(
    `SELECT unixepoch(madeAt) * 1000 AS at, json_extract(judgement, '$.bySlot') AS slots FROM takes
     WHERE songId = :song AND coalesce(rung, 'song') = 'song' ORDER BY madeAt DESC LIMIT ${MOST}`,
    { type: QueryTypes.SELECT, replacements: { song } },
  );
  const last = rows[0]?.at;
  if (last === undefined) return [];
  const taken = (from: number, to: number) =>
    latenessOf(
      rows
        .filter(({ at }) => last - at >= from && last - at < to)
        .map(({ slots }) => JSON.parse(slots) as Slots),
    );
  const now = taken(0, NOW);
  const before = taken(MONTH.from, MONTH.to);
  const order = new Map([...before, ...now].map(([place, { slot }]) => [place, slot]));
  return [...order]
    .sort((a, b) => a[1] - b[1])
    .map(([place]) => ({
      place,
      now: now.get(place)?.ms ?? null,
      before: before.get(place)?.ms ?? null,
    }));
}
