import { MAX_BAR_TICKS, MAX_VERSES, MAX_WORDS, MAX_WORD_LETTERS } from './limits';
import { textSchema } from './text';
import { z } from './zod';

/** Signs that the line of words is written with, which no word can have: bars, spaces, places without a word. */
const HAS_SIGNS = /[|_]|^\s|\s$|\s\s|^\.+$|^\/\d{1,2}$/;

/** Words that are sung from a place in the bar on: a syllable, a word, or as many as go to one chord. */
export const wordSchema = z.strictObject({
  /** Which time the bar comes round, from 1. */
  verse: z.int().min(1).max(MAX_VERSES),
  /** In ticks from where the bar begins to sound. */
  at: z.int().min(0).max(MAX_BAR_TICKS),
  /** A hyphen at the end goes on into the next. */
  text: textSchema(MAX_WORD_LETTERS).refine((text) => !HAS_SIGNS.test(text), {
    message: 'a word has no bar line, no underscore and no space at its ends',
  }),
});
export type Word = z.infer<typeof wordSchema>;

/** All words under a bar: the verses one after another, each in the order of its places. */
export const wordsSchema = z
  .array(wordSchema)
  .min(1)
  .max(MAX_WORDS)
  .refine(
    (words) =>
      words.every((word, index) => {
        const before = words[index - 1];
        return (
          !before ||
          before.verse < word.verse ||
          (before.verse === word.verse && before.at < word.at)
        );
      }),
    { message: 'words come verse by verse, one after another' },
  );
