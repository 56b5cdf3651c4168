import type { Grace, LegatoHow, LegatoStep } from '../schema';
import { MAX_LEGATO } from '../schema';
import { readPicked, readString, sayPicked, sayString, stringPlace } from './picked';

/**
 * The words of the fretting hand. In a slot of its own, one movement or several in order:
 *
 *   hammer          the shape is completed on the strings that ring
 *   hammer:s3f4     pull:s3f2     slide:1^2+2^2     hammer:s3f4>pull:s3f2
 *   slide:next      slide:away    the whole shape, into the next chord or off the strings
 *   slide:shape                   to the frets of the shape
 *
 * As an ornament of a stroke, after its word: `2:hammer2` is struck two frets lower and hammered on,
 * `2:<slide1` arrives on time, `2:slide-2` comes down from above, `down:hammer2@1` on the first string
 * alone, `down:hammer2@R+1` on the one above the root.
 */
const STEP = /^(hammer|pull|slide)(?::(.+))?$/i;
const GRACE = /^(<?)(hammer|pull|slide)(-?)(1[0-2]|[1-9])(?:@(r(?:\+[1-7])?|s?[1-8]))?$/i;

/**
 * Reads what the fretting hand does in a slot; null where it is something else.
 * @example readLegato('hammer:s3f4>pull:s3f2')?.length // 2
 */
export function readLegato(word: string): LegatoStep[] | null {
  const parts = word.split('>');
  if (parts.length > MAX_LEGATO) return null;
  const steps: LegatoStep[] = [];
  for (const part of parts) {
    const found = STEP.exec(part);
    if (!found) return null;
    const how = found[1]!.toLowerCase() as LegatoHow;
    const where = found[2]?.toLowerCase();
    // Where a slide goes has to be said: to the fret that is held already nothing slides.
    if (where === undefined && how === 'slide') return null;
    if (where === undefined || where === 'shape') {
      steps.push({ how });
    } else if (where === 'next' || where === 'away') {
      if (how !== 'slide') return null;
      steps.push({ how, to: where });
    } else {
      const strings = readPicked(where);
      if (!strings) return null;
      steps.push({ how, strings });
    }
  }
  return steps;
}

/** The same in the words that `readLegato` reads. */
export function sayLegato(steps: LegatoStep[]): string {
  return steps
    .map(({ how, strings, to }) => {
      const where = to ?? (strings && sayPicked(strings));
      if (where !== undefined) return `${how}:${where}`;
      return how === 'slide' ? 'slide:shape' : how;
    })
    .join('>');
}

/**
 * Reads an ornament; null where it is none.
 * @example readGrace('<slide-2@1') // { how: 'slide', frets: 2, above: true, before: true, string: 's1' }
 */
export function readGrace(word: string): Grace | null {
  const found = GRACE.exec(word);
  if (!found) return null;
  const how = found[2]!.toLowerCase() as LegatoHow;
  if (found[3] && how !== 'slide') return null;
  const string = found[5] && readString(found[5]);
  return {
    how,
    frets: Number(found[4]),
    ...(found[3] && { above: true as const }),
    ...(found[1] && { before: true as const }),
    ...(string && { string }),
  };
}

export function sayGrace({ how, frets, above, before, string }: Grace): string {
  return `${before ? '<' : ''}${how}${above ? '-' : ''}${frets}${string ? `@${sayString(string)}` : ''}`;
}

const DONE: Record<LegatoHow, string> = {
  hammer: 'hammered on',
  pull: 'pulled off',
  slide: 'slid',
};

function frets(count: number): string {
  return count === 1 ? 'one fret' : `${count} frets`;
}

/**
 * A string in words.
 * @example stringPhrase('s2') // 'string 2'
 */
export function stringPhrase(name: string): string {
  const place = stringPlace(name);
  if ('number' in place) return `string ${place.number}`;
  if (place.above === 0) return 'the root string';
  return `${place.above} ${place.above === 1 ? 'string' : 'strings'} above the root`;
}

/** An ornament as a screen reader says it. */
export function gracePhrase({ how, frets: away, above, before, string }: Grace): string {
  const from = how === 'pull' || above ? 'above' : 'below';
  const where = string ? ` on ${stringPhrase(string)}` : '';
  return `${DONE[how]} from ${frets(away)} ${from}${where}${before ? ', before its time' : ''}`;
}

const NAMES: Record<LegatoHow, string> = {
  hammer: 'hammer-on',
  pull: 'pull-off',
  slide: 'slide',
};

/** What the fretting hand does in a slot, as a screen reader says it. */
export function legatoPhrase(steps: LegatoStep[]): string {
  return steps
    .map(({ how, strings, to }) => {
      if (to === 'next') return 'slide into the next chord';
      if (to === 'away') return 'slide off the strings';
      return `${NAMES[how]} ${strings ? `to ${sayPicked(strings)}` : 'to the shape'}`;
    })
    .join(', then ');
}

/** The sign where there is no room for the word: the letter that tablature has over its arc. */
export function legatoSign(steps: LegatoStep[]): string {
  return steps.map(({ how }) => ({ hammer: 'h', pull: 'p', slide: 's' })[how]).join('');
}
