import type { Direction, Division, Stroke } from '#core';

/** What a key does on the wrist path. */
export type PatternAction =
  | { do: 'place'; stroke: Stroke }
  | { do: 'accent' }
  | { do: 'divide'; division: Division }
  | { do: 'move'; by: number }
  | { do: 'edge'; to: 'first' | 'last' }
  | { do: 'erase' };

export interface KeyPress {
  key: string;
  shiftKey?: boolean;
  ctrlKey?: boolean;
  metaKey?: boolean;
  altKey?: boolean;
}

/** The keys as they are shown to the player. */
export const KEY_CARD = [
  { keys: ['↓', '↑'], does: 'down, up' },
  { keys: ['Shift'], does: 'with it: accented' },
  { keys: ['M'], does: 'miss' },
  { keys: ['C'], does: 'chuck' },
  { keys: ['B'], does: 'bass note' },
  { keys: ['H'], does: 'hold' },
  { keys: ['A'], does: 'accent on, off' },
  { keys: ['1', '2', '3', '4'], does: 'divide the beat' },
  { keys: ['←', '→'], does: 'go along' },
] as const;

/**
 * The action of a key, or null where it has none.
 * @param natural the arm's own direction in the slot, which a chuck takes
 */
export function patternAction(press: KeyPress, natural: Direction): PatternAction | null {
  if (press.ctrlKey || press.metaKey || press.altKey) return null;
  const accent = press.shiftKey ? 'accent' : 'normal';
  switch (press.key) {
    case 'ArrowDown':
      return { do: 'place', stroke: { kind: 'strum', dir: 'down', accent } };
    case 'ArrowUp':
      return { do: 'place', stroke: { kind: 'strum', dir: 'up', accent } };
    case 'ArrowLeft':
      return { do: 'move', by: -1 };
    case 'ArrowRight':
      return { do: 'move', by: 1 };
    case 'Home':
      return { do: 'edge', to: 'first' };
    case 'End':
      return { do: 'edge', to: 'last' };
    case 'Backspace':
      return { do: 'erase' };
    case 'Delete':
      return { do: 'place', stroke: { kind: 'miss' } };
  }
  switch (press.key.toLowerCase()) {
    case 'm':
      return { do: 'place', stroke: { kind: 'miss' } };
    case 'c':
      return { do: 'place', stroke: { kind: 'chuck', dir: natural, accent } };
    case 'b':
      return { do: 'place', stroke: { kind: 'bass', accent } };
    case 'h':
      return { do: 'place', stroke: { kind: 'hold' } };
    case 'a':
      return { do: 'accent' };
    case '1':
    case '2':
    case '3':
    case '4':
      return { do: 'divide', division: Number(press.key) as Division };
  }
  return null;
}
