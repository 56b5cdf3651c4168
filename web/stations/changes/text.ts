import { plural } from '#core/plain';

/** Sentences of Changes that hang on what was measured, each of them whole. */
export const text = {
  /** @example text.tempo(57, 92) // 'At 57, as fast as your slowest change goes.' */
  tempo: (tempo: number, song: number) =>
    tempo < song
      ? `At ${tempo}, as fast as your slowest change goes.`
      : `At ${tempo}, as the song.`,

  /** A row of timings. @example '3 Nov: 420 ms, 31 changes, Ada (example)' */
  timing(row: {
    day: string;
    median: number;
    changes: number;
    player?: string | undefined;
    source: string;
  }): string {
    const player = row.player ? `, ${row.player}` : '';
    const example = row.source === 'example' ? ' (example)' : '';
    return `${row.day}: ${row.median} ms, ${plural(row.changes, 'change')}${player}${example}`;
  },

  /** What the middle half says, and what was left out. */
  spread(spread: number, slips: number): string {
    if (slips === 0) return `The middle half is within ${spread} ms.`;
    return `The middle half is within ${spread} ms; ${plural(slips, 'slip')} left out, far from the others.`;
  },
};
