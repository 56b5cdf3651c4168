import type { Song } from '#core/schema';
import { move } from 'piscina';
import { runTask, type TaskInput, type TaskName } from './tasks';

/** Runs in a thread of the pool; what it made is handed over and not copied. */
export default async function work(asked: { task: TaskName; song: Song; input?: TaskInput }) {
  return move(await runTask(asked.task, asked.song, asked.input));
}
