import { z } from './zod';

/** Control characters, and the two code points that no XML file may hold. */
const UNPRINTABLE = /[\p{Cc}\uFFFE\uFFFF]/gu;
const HALF_A_CHARACTER = /\p{Surrogate}/u;

/**
 * Text as it is kept: composed (NFC), a space for every control character, no spaces at its ends.
 * @example cleanText('Sill\u0000e\u0301 ') // 'Sill é'
 */
export function cleanText(text: string): string {
  return text.replaceAll(UNPRINTABLE, ' ').normalize('NFC').trim();
}

/**
 * A name or another short text, of so many letters. It is kept clean, whatever was sent; half a
 * character (a lone surrogate) is refused, since no file could hold it.
 * @param least 0 where it may be empty
 */
export function textSchema(most: number, least = 1) {
  return z
    .string()
    .refine((text) => !HALF_A_CHARACTER.test(text), 'the text holds half a character')
    .overwrite(cleanText)
    .min(least)
    .max(most);
}
