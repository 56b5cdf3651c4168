import { describe, expect, it } from 'vitest';
import { moveShape } from '.';

describe('a shape that is taken along the neck', () => {
  it('keeps its form, open strings open and left-out ones left out', () => {
    expect(moveShape([null, 3, 5, 5, 5, 3], 7, 20)).toEqual([null, 10, 12, 12, 12, 10]);
    expect(moveShape([0, 2, 2, 1, 0, 0], 4, 20)).toEqual([0, 6, 6, 5, 0, 0]);
    expect(moveShape(moveShape([0, 2, 2, 1, 0, 0], 4, 20)!, -4, 20)).toEqual([0, 2, 2, 1, 0, 0]);
  });

  it('stays on the neck', () => {
    expect(moveShape([null, 3, 5, 5, 5, 3], -3, 20)).toBeNull();
    expect(moveShape([null, 3, 5, 5, 5, 3], 16, 20)).toBeNull();
    expect(moveShape([0, null, 0, 0, 0, 0], 1, 20)).toBeNull();
  });
});
