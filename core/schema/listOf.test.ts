import { describe, expect, it, vi } from 'vitest';
import { listOf, MAX_PROBLEMS } from './listOf';
import { z } from './zod';

const rows = listOf(z.strictObject({ at: z.int() }), 1000, 1);

describe('a list that may be long', () => {
  it('is read as a list is', () => {
    expect(rows.parse([{ at: 1 }, { at: 2 }])).toEqual([{ at: 1 }, { at: 2 }]);
    expect(rows.safeParse([]).success).toBe(false);
    expect(rows.safeParse('x').success).toBe(false);
  });

  it('tells the place of what is wrong, and stops at the first twenty', () => {
    const { error } = z.object({ rows }).safeParse({ rows: [{ at: 1 }, { at: 'x' }, 7] });
    expect(error!.issues.map(({ path }) => path)).toEqual([
      ['rows', 1, 'at'],
      ['rows', 2],
    ]);
    const many = rows.safeParse(Array.from({ length: 1000 }, () => ({})));
    expect(many.error!.issues).toHaveLength(MAX_PROBLEMS);
  });

  it('is not looked through where it is longer than it may be', () => {
    const item = z.any();
    const look = vi.spyOn(item, 'safeParse');
    expect(listOf(item, 3).safeParse([1, 2, 3, 4]).success).toBe(false);
    expect(look).not.toHaveBeenCalled();
  });
});
