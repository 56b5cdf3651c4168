import { z } from './zod';

/** Problems after which a long list is not looked through any further. */
export const MAX_PROBLEMS = 20;

/**
 * A list that may be long: its length is asked before its items, and it stops at the first twenty problems. A list of
 * the same kind by `z.array` makes a problem of every item, and lists of a hundred thousand of them keep others waiting.
 * @param item schema of one item; it may not change what it reads into a promise
 * @param most items at most
 * @example listOf(z.int(), 3).safeParse([1, 'x']).error!.issues[0]!.path // [1]
 */
export function listOf<T extends z.ZodType>(item: T, most: number, least = 0) {
  return z
    .array(z.unknown())
    .min(least)
    .max(most)
    .transform((items, context): z.output<T>[] => {
      const read: z.output<T>[] = [];
      let problems = 0;
      for (const [index, one] of items.entries()) {
        const { success, data, error } = item.safeParse(one);
        if (success) {
          read.push(data);
          continue;
        }
        for (const issue of error.issues) {
          context.issues.push({ ...issue, path: [index, ...issue.path], input: one } as never);
          problems += 1;
        }
        if (problems >= MAX_PROBLEMS) break;
      }
      return problems > 0 ? z.NEVER : read;
    });
}
