import { type LegatoHow, type Meter, MAX_TUNE_NOTES, type TuneNote } from '../schema';
import { readGrace, sayGrace } from '../stroke';
import { barTicks, beatTicks } from '../time';

/**
 * A line of notes as text: counts and notes in turn.
 *
 *   1 s3f0 & s3f2 2 hammer s3f4 3 pull s3f2 & slide s4f2! 4 (s4f0)
 *
 * A note is its string and fret, `s3f2`, and may say which finger holds it: `s3f2.1`. Notes at once are set together by
 * a plus, each on its own string: `s5f3+s2f1`. A number is a beat, `&`
 * half of it, `e` and `a` its second and last quarter, `trip` and `let` its thirds; where no count is said
 * before a note, it comes half a beat after the last. An ornament follows: `s3f2:<slide1`. `2@40` is 40 ticks after the second beat.
 */
const NOTE = /^(\()?s([1-8])f(\d{1,2})(?:\.([1-4]))?(\))?(!{0,2})$/i;
const PARTS: Record<string, number> = { '&': 1 / 2, e: 1 / 4, a: 3 / 4, trip: 1 / 3, let: 2 / 3 };
const HIGHEST_FRET = 24;

export interface TuneProblem {
  /** Letters from the start of the text. */
  from: number;
  to: number;
  message: string;
}

/** One note of a word, without its time; null where it is none. */
function readNote(text: string): Omit<TuneNote, 'at'> | null {
  const [place = '', ...ornaments] = text.replace(/\)$/, '').split(':');
  const found = NOTE.exec(text.startsWith('(') ? `${place})` : place);
  const grace = ornaments.length === 1 ? readGrace(ornaments[0]!) : null;
  if (!found || (ornaments.length > 0 && !grace)) return null;
  const closed = text.endsWith(')');
  if (Boolean(found[1]) !== closed || Number(found[3]) > HIGHEST_FRET) return null;
  const bangs = found[6]!.length;
  const loud = bangs === 2 ? 'strong' : bangs === 1 ? 'accent' : undefined;
  const accent = found[1] ? 'ghost' : loud;
  return {
    string: Number(found[2]),
    fret: Number(found[3]),
    ...(grace && { grace }),
    ...(accent && { accent }),
    ...(found[4] && { held: Number(found[4]) }),
  };
}

/**
 * Reads the notes of a bar.
 * @returns the notes in order; or the first word that cannot be read, and why
 * @example readTune('1 s3f0 & hammer s3f2', METERS['4/4'], 6) // { notes: [{ at: 0, ... }, { at: 480, how: 'hammer', ... }] }
 */
export function readTune(
  text: string,
  meter: Meter,
  strings: number,
): { notes: TuneNote[] } | { problem: TuneProblem } {
  const beat = beatTicks(meter);
  const whole = barTicks(meter);
  const notes: TuneNote[] = [];
  let at = 0;
  let counted = true;
  let beatNow = 0;
  let how: LegatoHow | undefined;
  for (const word of text.matchAll(/\S+/g)) {
    const fail = (message: string) => ({
      problem: { from: word.index, to: word.index + word[0].length, message },
    });
    const lower = word[0].toLowerCase();
    const number = /^(\d{1,2})(?:@(\d{1,4}))?$/.exec(lower);
    if (number) {
      beatNow = Number(number[1]) - 1;
      at = beatNow * beat + Number(number[2] ?? 0);
      if (beatNow < 0 || at >= whole) return fail(`The bar has ${meter.beats} beats.`);
      counted = true;
    } else if (Object.hasOwn(PARTS, lower)) {
      at = Math.round((beatNow + PARTS[lower]!) * beat);
      counted = true;
    } else if (lower === 'hammer' || lower === 'pull' || lower === 'slide') {
      how = lower;
    } else {
      if (!counted) at += beat / 2;
      const last = notes.at(-1);
      if (at >= whole) return fail('The bar is full.');
      if (last && at <= last.at) return fail('A note comes after the one before it.');
      const together = lower.split('+').map(readNote);
      for (const note of together) {
        if (!note) {
          return fail(`“${word[0]}” is no note: say a string and a fret, as s3f2, or a count.`);
        }
        if (note.string > strings) return fail(`There are ${strings} strings.`);
      }
      const found = together.filter((note) => note !== null);
      if (notes.length + found.length > MAX_TUNE_NOTES) {
        return fail(`A bar holds ${MAX_TUNE_NOTES} notes.`);
      }
      if (found.length > 1 && how)
        return fail('Notes at once are struck: a hammer, pull or slide comes alone.');
      if (new Set(found.map(({ string }) => string)).size < found.length) {
        return fail('Notes at once need a string each.');
      }
      found.sort((a, b) => b.string - a.string);
      notes.push(...found.map((note) => ({ at, ...note, ...(how && { how }) })));
      how = undefined;
      counted = false;
      beatNow = Math.floor(at / beat);
    }
  }
  if (how) {
    const from = text.toLowerCase().lastIndexOf(how);
    return { problem: { from, to: from + how.length, message: `“${how}” wants a note after it.` } };
  }
  return { notes };
}

/**
 * Prints the notes of a bar as `readTune` reads them, each with its count.
 * @example sayTune([{ at: 480, string: 3, fret: 2 }], METERS['4/4']) // '1 & s3f2'
 */
export function sayTune(notes: TuneNote[], meter: Meter): string {
  const beat = beatTicks(meter);
  let beatNow = -1;
  return notes
    .map((note, index) => {
      const { at, how } = note;
      if (notes[index - 1]?.at === at) return `+${sayNote(note)}`;
      const into = Math.floor(at / beat);
      const rest = at - into * beat;
      const part = Object.entries(PARTS).find(
        ([, share]) => Math.round(share * beat) === rest,
      )?.[0];
      const words: string[] = [];
      if (rest === 0) words.push(String(into + 1));
      else if (part === undefined) words.push(`${into + 1}@${rest}`);
      else words.push(...(into === beatNow ? [part] : [String(into + 1), part]));
      beatNow = into;
      if (how) words.push(how);
      words.push(sayNote(note));
      return (index > 0 ? ' ' : '') + words.join(' ');
    })
    .join('');
}

function sayNote({ string, fret, grace, accent, held }: TuneNote): string {
  const place = `s${string}f${fret}${held ? `.${held}` : ''}`;
  const loud = accent === 'strong' ? '!!' : accent === 'accent' ? '!' : '';
  const ornament = grace ? `:${sayGrace(grace)}` : '';
  return accent === 'ghost' ? `(${place}${ornament})` : place + loud + ornament;
}
