import type { Sequelize } from 'sequelize';

/** Answers that are kept at most: the questions that a player asks again and again are few. */
const MOST = 40;
/** After a write so long, what is asked often is counted again before it is asked. */
const AFTER_WRITE = 400;

const WRITES = [
  'afterCreate',
  'afterUpdate',
  'afterDestroy',
  'afterUpsert',
  'afterBulkCreate',
  'afterBulkUpdate',
  'afterBulkDestroy',
] as const;

interface Kept {
  version: number;
  answer: Promise<unknown>;
  make: () => Promise<unknown>;
}

/** Remembers an answer until something is written. */
export type Remember = <T>(key: string, make: () => Promise<T>) => Promise<T>;

const known = new WeakMap<Sequelize, Remember>();

/**
 * What is counted over the whole log is counted once, and again after each write: in the background, so that the
 * player who asks next need not wait for it.
 * @example rememberedIn(sequelize)('plan 20', () => planOf(database, 20, 0))
 */
export function rememberedIn(sequelize: Sequelize): Remember {
  const there = known.get(sequelize);
  if (there) return there;
  let version = 0;
  let soon: NodeJS.Timeout | null = null;
  const kept = new Map<string, Kept>();
  const anew = (key: string, make: () => Promise<unknown>) => {
    const answer = make();
    kept.delete(key);
    kept.set(key, { version, answer, make });
    // A failed answer is not kept, or the question could never be asked again.
    answer.catch(() => kept.delete(key));
    for (const oldest of [...kept.keys()].slice(0, Math.max(0, kept.size - MOST))) {
      kept.delete(oldest);
    }
    return answer;
  };
  const written = () => {
    version += 1;
    if (soon) clearTimeout(soon);
    soon = setTimeout(() => {
      for (const [key, { make }] of [...kept].slice(-2)) anew(key, make).catch(() => {});
    }, AFTER_WRITE).unref();
  };
  for (const hook of WRITES) {
    sequelize.addHook(hook, `remembered-${hook}`, (_: unknown, options: unknown) => {
      written();
      // What is counted before a transaction ends does not hold what it writes.
      (
        options as { transaction?: { afterCommit: (does: () => void) => void } } | undefined
      )?.transaction?.afterCommit(written);
    });
  }
  sequelize.addHook('beforeDisconnect', 'remembered-end', () => {
    if (soon) clearTimeout(soon);
  });
  const remember: Remember = (key, make) => {
    const found = kept.get(key);
    const answer = found?.version === version ? found.answer : anew(key, make);
    return answer as Promise<never>;
  };
  known.set(sequelize, remember);
  return remember;
}
