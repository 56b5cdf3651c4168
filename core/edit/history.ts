import type { Song } from '../schema';
import type { Command } from './commands';

/** A song with the way back and forth. */
export interface History {
  song: Song;
  past: { name: string; song: Song }[];
  future: { name: string; song: Song }[];
}

/** Steps kept for undo; songs share what did not change between them. */
const DEPTH = 500;

export function startHistory(song: Song): History {
  return { song, past: [], future: [] };
}

/**
 * Does a command. One that changes nothing leaves no step.
 * @param joins a step to merge with: typing in one field is undone as one
 */
export function perform(history: History, command: Command, joins = false): History {
  const song = command.apply(history.song);
  if (song === history.song) return history;
  const last = history.past.at(-1);
  if (joins && last?.name === command.name) return { ...history, song, future: [] };
  const past = [...history.past, { name: command.name, song: history.song }].slice(-DEPTH);
  return { song, past, future: [] };
}

/** Steps back; the same history where there is nothing to undo. */
export function undo(history: History): History {
  const step = history.past.at(-1);
  if (!step) return history;
  return {
    song: step.song,
    past: history.past.slice(0, -1),
    future: [{ name: step.name, song: history.song }, ...history.future],
  };
}

/** Steps forth again. */
export function redo(history: History): History {
  const step = history.future[0];
  if (!step) return history;
  return {
    song: step.song,
    past: [...history.past, { name: step.name, song: history.song }],
    future: history.future.slice(1),
  };
}
