import type { Bar, Placement, Song } from '../schema';

/** What a song loses when its chords are typed anew. */

/** Something that hangs on a bar, a chord or a section besides its chords. */
interface Hanging {
  /** The same for the same thing, wherever it stands. */
  key: string;
  words: string;
}

const BAR_WORDS = {
  pattern: 'strum',
  split: 'way of sharing it',
  skipFirst: 'left-out first stroke',
  stop: 'stop',
  tune: 'notes',
  words: 'words',
} as const;

const CHORD_WORDS = {
  run: 'run into',
  openStrokes: 'open strokes before',
  travel: 'transition strokes before',
  arrive: 'way of striking',
} as const;

function ofBar(bar: Bar, where: string): Hanging[] {
  return Object.entries(BAR_WORDS).flatMap(([part, words]) => {
    const value = bar.rules?.[part as keyof typeof BAR_WORDS];
    return value === undefined
      ? []
      : [{ key: `${part} ${JSON.stringify(value)}`, words: `the ${words} of ${where}` }];
  });
}

function ofChord(chord: Placement, where: string): Hanging[] {
  return Object.entries(CHORD_WORDS).flatMap(([part, words]) => {
    const value = chord[part as keyof typeof CHORD_WORDS];
    return value === undefined
      ? []
      : [
          {
            key: `${part} ${chord.symbol} ${JSON.stringify(value)}`,
            words: `the ${words} ${chord.symbol} in ${where}`,
          },
        ];
  });
}

function hanging({ sections }: Song): Hanging[] {
  let number = 0;
  return sections.flatMap((section): Hanging[] => {
    const own = Object.entries(section.rules ?? {}).map(([part, value]) => ({
      key: `section ${part} ${JSON.stringify(value)}`,
      words: `what ${section.name || 'a section'} says of its ${part === 'pattern' ? 'strum' : part === 'split' ? 'shared bars' : part === 'meets' ? 'notes' : 'loudness'}`,
    }));
    const bars = section.lines.flatMap(({ bars: row }) =>
      row.flatMap((bar) => {
        number += 1;
        const where = `bar ${number}${section.name ? ` of ${section.name}` : ''}`;
        return [...ofBar(bar, where), ...bar.chords.flatMap((chord) => ofChord(chord, where))];
      }),
    );
    return [...own, ...bars];
  });
}

/**
 * What hung on the bars of a song and no longer does, in words, by the bars as they were written; empty where all
 * of it was kept, wherever it went.
 * @example notKept(song, song) // []
 */
export function notKept(before: Song, after: Song): string[] {
  if (before.sections === after.sections) return [];
  const left = new Map<string, number>();
  for (const { key } of hanging(after)) left.set(key, (left.get(key) ?? 0) + 1);
  return hanging(before).flatMap(({ key, words }) => {
    const count = left.get(key) ?? 0;
    if (count > 0) {
      left.set(key, count - 1);
      return [];
    }
    return [words];
  });
}
