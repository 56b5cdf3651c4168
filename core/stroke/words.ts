import type { Pattern, Stroke } from '../schema';
import { spokenPlace } from '../time';
import { naturalDirections } from './arm';
import { divisions, slots, strokeDirection } from './grid';

/**
 * The stroke in the words that players say aloud.
 * @example strokeWord({ kind: 'strum', dir: 'down', accent: 'normal' }) // 'down'
 */
export function strokeWord(stroke: Stroke): string {
  return stroke.kind === 'strum' ? stroke.dir : stroke.kind;
}

const ACCENT_WORDS = { ghost: 'barely heard', normal: '', accent: 'accented', strong: 'driven' };

function strokePhrase(stroke: Stroke): string {
  switch (stroke.kind) {
    case 'strum':
      return `${stroke.dir}, all strings`;
    case 'chuck':
      return `chuck, ${stroke.dir}`;
    case 'bass':
      return 'bass note, down';
    case 'miss':
      return 'miss, the arm passes';
    case 'hold':
      return 'hold, the arm rests';
  }
}

/**
 * Every slot as a sentence for a screen reader.
 * @example slotSentences(pattern)[3] // 'beat 2, and: up, all strings, accented, against the arm'
 */
export function slotSentences(pattern: Pattern): string[] {
  const natural = naturalDirections(pattern);
  const judged = pattern.arm.school !== 'free';
  return slots(pattern).map(({ index, stroke }) => {
    const place = spokenPlace(divisions(pattern), pattern.meter.beats, index);
    const dir = strokeDirection(stroke);
    return [
      `${place}: ${strokePhrase(stroke)}`,
      'accent' in stroke ? ACCENT_WORDS[stroke.accent] : '',
      judged && dir !== null && dir !== natural[index] ? 'against the arm' : '',
    ]
      .filter(Boolean)
      .join(', ');
  });
}
