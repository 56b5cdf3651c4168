import type { Ticks } from '../plain';
import type { Strike } from '../arrange';
import type { PlayedBar } from '../song';
import type { SheetItem } from './paper';

/** What is drawn for the bars of a sheet: the wrist path, frets on strings, slashes on a staff, or two of them. */
export const NOTATIONS = ['path', 'tab', 'slashes', 'path and tab', 'path and slashes'] as const;
export type Notation = (typeof NOTATIONS)[number];

/** A bar that is engraved: what is struck in it, and where its ticks lie from its left edge, in points. */
export interface EngravedBar {
  bar: PlayedBar;
  strikes: Strike[];
  xOf: (ticks: Ticks) => number;
  /** Letters of the picking fingers, by the tick of the stroke. */
  fingers: Map<number, string>;
}

/** A row of bars beside each other. */
export interface EngravedRow {
  kind: 'tab' | 'slashes';
  bars: EngravedBar[];
  /** Points that each bar is wide. */
  each: number;
  /** Of the letters, in points. */
  size: number;
  strings: number;
  /** Their names, from the thumb side: they stand at the head of tablature. */
  names?: string[];
  /** Nobody has a pick on it, as on a ukulele: strums have arrows whether or not a finger is named. */
  withoutPick?: boolean;
}

/** Draws a row; the package that it is done with is large, so it is handed in by who has loaded it. */
export type Engraver = (row: EngravedRow) => { items: SheetItem[]; height: number };
