import { describe, expect, it } from 'vitest';
import { KEY_HELP, patternAction } from './patternKeys';

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
    expect(press('F')).toMatchObject({ stroke: { kind: 'bass', note: 'fifth' } });
    expect(press('p')).toMatchObject({
      stroke: { kind: 'pick', dir: 'up', strings: [{ string: 'R' }] },
    });
    expect(press('r', { shiftKey: true })).toMatchObject({
      stroke: { kind: 'roll', accent: 'accent' },
    });
    expect(press('t')).toMatchObject({ stroke: { kind: 'tap', on: 'body' } });
  });

  it('divide, accent, move and erase', () => {
    expect(press('3')).toEqual({ do: 'divide', division: 3 });
    expect(press('8')).toEqual({ do: 'divide', division: 8 });
    expect(press('ArrowLeft')).toEqual({ do: 'move', by: -1 });
    expect(press('End')).toEqual({ do: 'edge', to: 'last' });
    expect(press('Backspace')).toEqual({ do: 'erase' });
  });

  it('select, copy, shift and say again', () => {
    expect(press('ArrowRight', { shiftKey: true })).toEqual({ do: 'select', by: 1 });
    expect(press('c', { ctrlKey: true })).toEqual({ do: 'copy' });
    expect(press('v', { metaKey: true })).toEqual({ do: 'paste' });
    expect(press('e')).toEqual({ do: 'repeat' });
    expect(press(',')).toEqual({ do: 'shift', by: -1 });
    // The page answers with its help.
    expect(press('?', { shiftKey: true })).toBeNull();
  });

  it('tell every key in the list that is shown', () => {
    const keys = KEY_HELP.flatMap(({ entries }) => entries.flatMap((entry) => entry.keys));
    const letters = keys.filter((key) => key.length === 1 && !'↓↑←→'.includes(key));
    for (const key of letters) expect(press(key), key).not.toBeNull();
    expect(new Set(keys).size).toBe(keys.length);
  });

  it('join a stroke to the one before it, and part them again', () => {
    const change = press('y');
    if (change?.do !== 'change') throw new Error('no change');
    const down = { kind: 'strum', dir: 'down', accent: 'normal' } as const;
    expect(change.change(down)).toEqual({ ...down, sweep: true });
    expect(change.change({ ...down, sweep: true })).toEqual(down);
    expect(change.change({ kind: 'miss' })).toEqual({ kind: 'miss' });
  });

  it('change how a stroke is played', () => {
    const change = press('l');
    if (change?.do !== 'change') throw new Error('no change');
    expect(change.change({ kind: 'bass', accent: 'normal' })).toEqual({
      kind: 'bass',
      accent: 'normal',
      palm: true,
    });
  });

  it('leave other keys, and keys of the browser, alone', () => {
    expect(press('5')).toBeNull();
    expect(press('7')).toBeNull();
    expect(press('z')).toBeNull();
    expect(press(' ')).toBeNull();
    expect(press('b', { ctrlKey: true })).toBeNull();
    expect(press('ArrowDown', { altKey: true })).toBeNull();
  });
});
