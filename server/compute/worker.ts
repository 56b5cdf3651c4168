import type { Song } from '#core';
import { runTask, type TaskAnswer, type TaskName } from './tasks';

/** Runs in a thread of the pool. */
export default function work({ task, song }: { task: TaskName; song: Song }): TaskAnswer {
  return runTask(task, song);
}
