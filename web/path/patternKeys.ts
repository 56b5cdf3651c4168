import type { Direction, Division, Stroke } from '#core/schema';
import {
  nextFinger,
  nextGrace,
  nextLegato,
  nextReach,
  nextTap,
  stepAccent,
  toggleOpen,
  togglePalm,
  toggleRest,
  toggleSweep,
  turnStroke,
} from '#core/stroke';

/** What a key does on the wrist path. */
export type PatternAction =
  | { do: 'place'; stroke: Stroke }
  | { do: 'change'; name: string; change: (stroke: Stroke) => Stroke }
  | { do: 'divide'; division: Division }
  | { do: 'move'; by: number }
  | { do: 'select'; by: number }
  | { do: 'select-all' | 'deselect' }
  | { do: 'edge'; to: 'first' | 'last' }
  | { do: 'erase' | 'clear' }
  | { do: 'copy' | 'cut' | 'paste' | 'repeat' }
  | { do: 'shift'; by: 1 | -1 };

export interface KeyPress {
  key: string;
  shiftKey?: boolean;
  ctrlKey?: boolean;
  metaKey?: boolean;
  altKey?: boolean;
}

export interface KeyHelp {
  keys: string[];
  does: string;
}

/** All keys, by what they are for. */
export const KEY_HELP: { title: string; entries: KeyHelp[] }[] = [
  {
    title: 'Strokes',
    entries: [
      { keys: ['↓', '↑'], does: 'strum down, up' },
      { keys: ['Shift'], does: 'with any stroke: accented' },
      { keys: ['M'], does: 'miss, the arm passes' },
      { keys: ['H'], does: 'hold, the arm rests' },
      { keys: ['C'], does: 'chuck' },
      { keys: ['B'], does: 'bass note, the root' },
      { keys: ['F'], does: 'bass note, the fifth' },
      { keys: ['J'], does: 'bass note, whichever was not last' },
      { keys: ['P'], does: 'pick the root string' },
      { keys: ['R'], does: 'roll' },
      { keys: ['T'], does: 'tap' },
      { keys: ['G'], does: 'fretting hand: hammer-on, pull-off, slide' },
    ],
  },
  {
    title: 'How it is played',
    entries: [
      { keys: ['A'], does: 'louder' },
      { keys: ['Q'], does: 'quieter' },
      { keys: ['N'], does: 'flip it: down or up' },
      { keys: ['S'], does: 'all strings, bass side, treble side' },
      { keys: ['L'], does: 'palm laid on the strings' },
      { keys: ['O'], does: 'on open strings' },
      { keys: ['K'], does: 'with a tap, a slap' },
      { keys: ['I'], does: 'finger: p i m a c' },
      { keys: ['W'], does: 'ornament: hammered on, pulled off, slid into' },
      { keys: ['V'], does: 'the pick rests on the next string' },
      { keys: ['Y'], does: 'one sweep with the stroke before it' },
    ],
  },
  {
    title: 'The grid',
    entries: [
      { keys: ['1', '2', '3', '4', '6', '8'], does: 'divide the beat' },
      { keys: ['←', '→'], does: 'go along' },
      { keys: ['Home', 'End'], does: 'first, last place' },
    ],
  },
  {
    title: 'Spans',
    entries: [
      { keys: ['Shift ←', 'Shift →'], does: 'select' },
      { keys: ['Ctrl A', 'Esc'], does: 'select all, nothing' },
      { keys: ['Ctrl C', 'Ctrl X', 'Ctrl V'], does: 'copy, cut, paste' },
      { keys: ['E'], does: 'echo: say the span again after itself' },
      { keys: [',', '.'], does: 'shift the span earlier, later' },
      { keys: ['Delete'], does: 'make it all misses' },
      { keys: ['Ctrl Z'], does: 'undo' },
    ],
  },
  {
    title: 'In “Say it”',
    entries: [
      { keys: ['1 2 & 3'], does: 'its counts: each takes the direction of the arm' },
      { keys: ['-3 &'], does: 'the 3 is counted, not struck' },
      { keys: ['D DU -UDU'], does: 'strokes in a row: they go with the arm' },
      { keys: ['D, DU, -U'], does: 'commas set beats apart, | sets bars apart' },
      { keys: ['DOWN', 'down!'], does: 'accented; (up) is very soft' },
      { keys: ['down.i', 's6.p'], does: 'with this finger: p i m a c' },
      { keys: ['palm-down', 'tap+bass'], does: 'played so, or with a tap' },
      { keys: ['sweep-down.p'], does: 'one movement with the stroke before it' },
      { keys: ['roll:amip'], does: 'a roll, with these fingers' },
    ],
  },
];

/** The few that are always in view. */
export const KEY_CARD: KeyHelp[] = [
  { keys: ['↓', '↑'], does: 'down, up' },
  { keys: ['Shift'], does: 'accented' },
  { keys: ['M'], does: 'miss' },
  { keys: ['H'], does: 'hold' },
  { keys: ['C'], does: 'chuck' },
  { keys: ['B'], does: 'bass' },
  { keys: ['P'], does: 'pick' },
  { keys: ['R'], does: 'roll' },
  { keys: ['T'], does: 'tap' },
  { keys: ['1–8'], does: 'divide' },
  { keys: ['?'], does: 'all keys' },
];

const CHANGES: Record<string, { name: string; change: (stroke: Stroke) => Stroke }> = {
  a: { name: 'play louder', change: (stroke) => stepAccent(stroke, 1) },
  q: { name: 'play quieter', change: (stroke) => stepAccent(stroke, -1) },
  n: { name: 'flip a stroke', change: turnStroke },
  s: { name: 'change the reach', change: nextReach },
  l: { name: 'mute with the palm', change: togglePalm },
  o: { name: 'play on open strings', change: toggleOpen },
  k: { name: 'tap with it', change: nextTap },
  i: { name: 'choose a finger', change: nextFinger },
  w: { name: 'ornament', change: nextGrace },
  v: { name: 'rest on the next string', change: toggleRest },
  y: { name: 'play in one sweep', change: toggleSweep },
};

/** A key with Control or Command. */
function withCommand(key: string): PatternAction | null {
  switch (key.toLowerCase()) {
    case 'a':
      return { do: 'select-all' };
    case 'c':
      return { do: 'copy' };
    case 'x':
      return { do: 'cut' };
    case 'v':
      return { do: 'paste' };
  }
  return null;
}

/** Strokes by their key. */
function strokeOf(key: string, natural: Direction, accent: 'normal' | 'accent'): Stroke | null {
  switch (key) {
    case 'm':
      return { kind: 'miss' };
    case 'h':
      return { kind: 'hold' };
    case 'c':
      return { kind: 'chuck', dir: natural, accent };
    case 'b':
      return { kind: 'bass', accent };
    case 'f':
      return { kind: 'bass', accent, note: 'fifth' };
    case 'j':
      return { kind: 'bass', accent, note: 'alternate' };
    case 'p':
      return { kind: 'pick', dir: natural, accent, strings: [{ string: 'R' }] };
    case 'r':
      return { kind: 'roll', dir: natural, accent, hits: 4 };
    case 't':
      return { kind: 'tap', accent, on: 'body' };
    case 'g':
      return nextLegato({ kind: 'miss' });
  }
  return null;
}

const DIVISION_KEYS = ['1', '2', '3', '4', '6', '8'];

/**
 * The action of a key, or null where it has none.
 * @param natural the arm's own direction in the slot, which strokes take that have none of their own
 */
export function patternAction(press: KeyPress, natural: Direction): PatternAction | null {
  if (press.altKey) return null;
  if (press.ctrlKey || press.metaKey) return withCommand(press.key);
  const accent = press.shiftKey ? 'accent' : 'normal';
  switch (press.key) {
    case 'ArrowDown':
      return { do: 'place', stroke: { kind: 'strum', dir: 'down', accent } };
    case 'ArrowUp':
      return { do: 'place', stroke: { kind: 'strum', dir: 'up', accent } };
    case 'ArrowLeft':
    case 'ArrowRight': {
      const by = press.key === 'ArrowLeft' ? -1 : 1;
      return { do: press.shiftKey ? 'select' : 'move', by };
    }
    case 'Home':
      return { do: 'edge', to: 'first' };
    case 'End':
      return { do: 'edge', to: 'last' };
    case 'Backspace':
      return { do: 'erase' };
    case 'Delete':
      return { do: 'clear' };
    case 'Escape':
      return { do: 'deselect' };
    case ',':
      return { do: 'shift', by: -1 };
    case '.':
      return { do: 'shift', by: 1 };
  }
  const key = press.key.toLowerCase();
  if (key === 'e') return { do: 'repeat' };
  if (DIVISION_KEYS.includes(key)) return { do: 'divide', division: Number(key) as Division };
  const change = CHANGES[key];
  if (change) return { do: 'change', ...change };
  const stroke = strokeOf(key, natural, accent);
  return stroke && { do: 'place', stroke };
}
