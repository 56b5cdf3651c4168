import {
  arrange,
  arrangement,
  type ChangeTime,
  type Format,
  handFrom,
  type Song,
  songHand,
} from '#core';
import { WRITERS } from '#core/files';

/**
 * What is worked out from a song away from the thread that answers requests: its performance as JSON, a file,
 * or what the hand has time for. Each takes the document and gives what is sent.
 */
export type TaskName = 'performance' | 'changes' | Format['id'];

/** What a task takes beside the song. */
export interface TaskInput {
  /** For `changes`: what was timed on these strings. */
  timings?: ChangeTime[];
}

/** @returns the bytes to send; text in UTF-8 */
export function runTask(task: TaskName, song: Song, input: TaskInput = {}): Uint8Array {
  const made = make(task, song, input);
  return typeof made === 'string' ? new TextEncoder().encode(made) : made;
}

function make(task: TaskName, song: Song, { timings = [] }: TaskInput): string | Uint8Array {
  switch (task) {
    case 'performance':
      return JSON.stringify(arrange(song));
    case 'changes':
      return JSON.stringify(songHand(arrangement(song), handFrom(timings, song.instrument)));
    default:
      return WRITERS[task](song);
  }
}

/** Works something out from a song; rejects with a `Refusal` 503 where it takes too long or too much. */
export type Compute = (task: TaskName, song: Song, input?: TaskInput) => Promise<Uint8Array>;
