import { arrange, type Song, toMidi, toMusicXml } from '#core';

/**
 * What is worked out from a song away from the thread that answers requests. Each takes the document and
 * gives what is sent: text or bytes.
 */
export const tasks = {
  performance: (song: Song) => JSON.stringify(arrange(song)),
  midi: (song: Song) => toMidi(song),
  musicxml: (song: Song) => toMusicXml(song),
};

export type TaskName = keyof typeof tasks;
export type TaskAnswer = string | Uint8Array;

/** Works something out from a song; rejects with a `Refusal` 503 where it takes too long or too much. */
export type Compute = (task: TaskName, song: Song) => Promise<TaskAnswer>;
