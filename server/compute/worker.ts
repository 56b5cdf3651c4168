import type { Song } from '#core';
import { move } from 'piscina';
import { runTask, type TaskName } from './tasks';

/** Runs in a thread of the pool; what it made is handed over and not copied. */
export default function work({ task, song }: { task: TaskName; song: Song }) {
  return move(runTask(task, song));
}
