import type { Ticks } from '../plain';
import type { InstrumentId, Meter, Pattern, Tune } from '../schema';

/** Where a file cannot be read, counted from 1. */
export interface FileProblem {
  line: number;
  column: number;
  message: string;
}

/** What a file says. Chords have no length yet, but where it draws bars. */
export interface ChartReading {
  title: string | null;
  tempo: number | null;
  meter: Meter | null;
  /** Where the file says none: the meters that it may be in, the likeliest first; it is read in one of them. */
  likelyMeters?: Meter[];
  capo: number | null;
  sections: { name: string; lines: ChartLine[] }[];
  /** Names of sections as they come, those that are only called for again included. */
  order: string[];
  /** The line of text that this app wrote, where it did, and the words of its lines. */
  progression: string | null;
  ownWords: { section: number; line: number; verse: number; text: string }[];
  /** The rhythm that most of its bars have, where it has one. */
  pattern: Pattern | null;
  /** How chords are held, where it has frets: by symbol, each with strings from 1, the highest, and their frets. */
  shapes: { symbol: string; frets: Map<number, number> }[];
  /** Strings of its tablature; 0 where it has none. */
  strings: number;
  /** The instrument that its strings are of, where that can be told. */
  instrument?: InstrumentId;
  /** Bars of tablature of which nothing says when their notes come: they are read one after another. */
  unsureBars?: number;
  /** What stood among the chords and is none, with its line from 1: it is left out, and nothing else is. */
  left: { line: number; text: string }[];
  /** It writes H for B, so that its B may be a B flat: for the player to say. */
  german: boolean;
}

/** What is sung from a chord of a line on, or from a place in one of its bars; -1 for before the first chord. */
export type ChartPiece =
  { chord: number; text: string } | { bar: number; at: number; text: string };

/** What is played in a bar, where a file says it: its own rhythm, notes on their strings, or both. */
export interface ChartBar {
  pattern: Pattern | null;
  tune: Tune | null;
}

/** How a file is to be read where it leaves that open. */
export interface ChartWish {
  meter?: Meter;
  /** Ticks of each note of tablature where neither counts nor spacing say when it comes. */
  noteTicks?: Ticks;
}

/**
 * The chords of a line, in bars where the file has bar lines, how often it is played, and its words, verse by
 * verse: a section that comes again with other words is the same section.
 */
export type ChartLine = ({ chords: string[] } | { bars: string }) & {
  times: number;
  verses?: ChartPiece[][];
  /** For each of its bars. */
  played?: ChartBar[];
};

export type ChartAnswer = { chart: ChartReading } | { problem: FileProblem };
