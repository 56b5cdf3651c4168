import { arrange, type Format, type Song } from '#core';
import { WRITERS } from '#core/files';

/**
 * What is worked out from a song away from the thread that answers requests: its performance as JSON, or a
 * file. Each takes the document and gives what is sent.
 */
export type TaskName = 'performance' | Format['id'];
export type TaskAnswer = string | Uint8Array;

export function runTask(task: TaskName, song: Song): TaskAnswer {
  return task === 'performance' ? JSON.stringify(arrange(song)) : WRITERS[task](song);
}

/** Works something out from a song; rejects with a `Refusal` 503 where it takes too long or too much. */
export type Compute = (task: TaskName, song: Song) => Promise<TaskAnswer>;
