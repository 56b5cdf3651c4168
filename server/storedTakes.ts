import { type StoredTake, storedTakeSchema, type TakeSummary } from '#core/schema';
import type { TakeRow } from './models';

/** What of a take is left out where it is nothing. */
export const laddered = ({ rung, hands, answer }: Pick<TakeRow, 'rung' | 'hands' | 'answer'>) => ({
  ...(rung !== null && { rung }),
  ...(hands !== null && { hands }),
  ...(answer !== null && { answer }),
});

/** A take as it is listed, without what was heard stroke by stroke. */
export function summaryOfRow(row: TakeRow): TakeSummary {
  const { madeAt, rung, hands, answer, judgement: _, ...rest } = row.get({ plain: true });
  const summary = { ...rest, ...laddered({ rung, hands, answer }), madeAt: madeAt.toISOString() };
  return summary as TakeSummary;
}

/** A take just as it is kept, whether or not this version can read it. */
export function keptTake(row: TakeRow) {
  const { madeAt, judgement, trouble: _, sentence: __, ...rest } = row.get({ plain: true });
  const { rung, hands, answer, ...others } = rest;
  return {
    ...others,
    ...laddered({ rung, hands, answer }),
    madeAt: madeAt.toISOString(),
    judgement: JSON.parse(judgement) as unknown,
  };
}

/** A take as it is kept; null where a later version wrote it and this one cannot read it. */
export const takeOfRow = (row: TakeRow): StoredTake | null =>
  storedTakeSchema.safeParse(keptTake(row)).data ?? null;

/** The columns of a take. */
export const takeColumns = ({ judgement, madeAt, rung, hands, answer, ...rest }: StoredTake) => ({
  ...rest,
  rung: rung ?? null,
  hands: hands ?? null,
  answer: answer ?? null,
  madeAt: new Date(madeAt),
  trouble: judgement.verdict.trouble,
  sentence: judgement.verdict.sentence,
  judgement: JSON.stringify(judgement),
});
