import { arrange, type Format, type Song } from '#core';
import { WRITERS } from '#core/files';

/**
 * What is worked out from a song away from the thread that answers requests: its performance as JSON, or a
 * file. Each takes the document and gives what is sent.
 */
export type TaskName = 'performance' | Format['id'];

/** @returns the bytes to send; text in UTF-8 */
export function runTask(task: TaskName, song: Song): Uint8Array {
  const made = task === 'performance' ? JSON.stringify(arrange(song)) : WRITERS[task](song);
  return typeof made === 'string' ? new TextEncoder().encode(made) : made;
}

/** Works something out from a song; rejects with a `Refusal` 503 where it takes too long or too much. */
export type Compute = (task: TaskName, song: Song) => Promise<Uint8Array>;
