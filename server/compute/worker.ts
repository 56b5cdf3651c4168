import type { Song } from '#core';
import { type TaskAnswer, type TaskName, tasks } from './tasks';

/** Runs in a thread of the pool. */
export default function work({ task, song }: { task: TaskName; song: Song }): TaskAnswer {
  return tasks[task](song);
}
