import { describe, expect, it } from 'vitest';
import { patternAction } from './patternKeys';

const press = (key: string, held: Partial<Parameters<typeof patternAction>[0]> = {}) =>
  patternAction({ key, ...held }, 'up');

describe('keys on the wrist path', () => {
  it('strum with the arrows, accented with Shift', () => {
    expect(press('ArrowDown')).toEqual({
      do: 'place',
      stroke: { kind: 'strum', dir: 'down', accent: 'normal' },
    });
    expect(press('ArrowUp', { shiftKey: true })).toMatchObject({
      stroke: { dir: 'up', accent: 'accent' },
    });
  });

  it('place the other strokes with single letters, large or small', () => {
    expect(press('m')).toMatchObject({ stroke: { kind: 'miss' } });
    expect(press('C')).toMatchObject({ stroke: { kind: 'chuck', dir: 'up' } });
    expect(press('b')).toMatchObject({ stroke: { kind: 'bass' } });
    expect(press('h')).toMatchObject({ stroke: { kind: 'hold' } });
  });

  it('divide, accent, move and erase', () => {
    expect(press('3')).toEqual({ do: 'divide', division: 3 });
    expect(press('a')).toEqual({ do: 'accent' });
    expect(press('ArrowLeft')).toEqual({ do: 'move', by: -1 });
    expect(press('End')).toEqual({ do: 'edge', to: 'last' });
    expect(press('Backspace')).toEqual({ do: 'erase' });
  });

  it('leave other keys, and keys of the browser, alone', () => {
    expect(press('5')).toBeNull();
    expect(press('q')).toBeNull();
    expect(press(' ')).toBeNull();
    expect(press('b', { ctrlKey: true })).toBeNull();
    expect(press('ArrowDown', { altKey: true })).toBeNull();
  });
});
