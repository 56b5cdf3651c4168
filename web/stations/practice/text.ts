import { plural } from '#core/plain';

/** Sentences of Practice that hang on what was heard, each of them whole. */
export const text = {
  /** How one change of a take went. @example 'A to Bm: 80 ms late, the old chord 2 times' */
  change(change: { from: string; to: string; median: number | null; chordLate: number }): string {
    const { from, to, median, chordLate } = change;
    const old = chordLate > 0 ? `, the old chord ${plural(chordLate, 'time')}` : '';
    if (median === null) return `${from} to ${to}: not heard${old}`;
    const way = median >= 0 ? 'late' : 'early';
    return `${from} to ${to}: ${Math.round(Math.abs(median))} ms ${way}${old}`;
  },

  /** What a take was. @example '3 Nov, in full, bars 1 to 8, microphone, sound of 1.2 MB' */
  take(take: {
    day: string;
    rung: string;
    from: number;
    to: number;
    source: string;
    soundBytes?: number | undefined;
  }): string {
    const { day, rung, from, to, source, soundBytes } = take;
    const sound = soundBytes === undefined ? '' : `, sound of ${(soundBytes / 1e6).toFixed(1)} MB`;
    return `${day}, ${rung}, bars ${from} to ${to}, ${source}${sound}`;
  },

  headphones: (cautioned: boolean) =>
    [
      'With headphones it hears you alone, which is surest; a click from the loudspeaker works too.',
      ...(cautioned ? [] : ['Keep the level in headphones moderate.']),
      'Its sound is kept only where you say so.',
    ].join(' '),
};
