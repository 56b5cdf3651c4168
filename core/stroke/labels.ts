import type {
  Pattern,
  PickedString,
  PluckingFinger,
  Stroke,
  StrumReach,
  TapPlace,
} from '../schema';
import { spokenPlace } from '../time';
import { naturalDirections } from './arm';
import { gracesOf, sweeps } from './kinds';
import { gracePhrase, legatoPhrase, legatoSign, stringPhrase } from './legato';
import { sayPicked } from './picked';
import { divisions, slots, sounds, strokeDirection } from './grid';

const TAP_WORDS: Record<TapPlace, string> = { body: 'tap', strings: 'slap' };

/** The strings of a pick as they are written: `R`, `R+1`, `3`, together `1+2`. */
function pickWord(strings: PickedString[]): string {
  return sayPicked(strings.map(({ string }) => ({ string })));
}

/**
 * The stroke in the word that players say aloud.
 * @example strokeWord({ kind: 'strum', dir: 'down', accent: 'normal' }) // 'down'
 */
export function strokeWord(stroke: Stroke): string {
  switch (stroke.kind) {
    case 'strum':
      return stroke.dir;
    case 'bass':
      return typeof stroke.note === 'string' ? stroke.note : 'bass';
    case 'pick':
      return pickWord(stroke.strings);
    case 'legato':
      return stroke.steps[0]!.how;
    case 'tap':
      return TAP_WORDS[stroke.on];
    default:
      return stroke.kind;
  }
}

/**
 * The stroke in a sign or two, where there is no room for the word.
 * @example strokeSign({ kind: 'chuck', dir: 'down', accent: 'normal' }) // 'x'
 */
export function strokeSign(stroke: Stroke): string {
  switch (stroke.kind) {
    case 'strum':
      return stroke.dir === 'down' ? '↓' : '↑';
    case 'bass':
      return stroke.note === 'fifth' ? 'F' : 'B';
    case 'pick':
      return pickWord(stroke.strings);
    case 'chuck':
      return 'x';
    case 'roll':
      return '≋';
    case 'legato':
      return legatoSign(stroke.steps);
    case 'tap':
      return '○';
    case 'miss':
      return '·';
    case 'hold':
      return '–';
  }
}

/**
 * What is said aloud for a stroke while it is played, with its syllables: short words, so that they fit.
 * @example spokenWord({ kind: 'miss' }) // null
 */
export function spokenWord(stroke: Stroke): { word: string; syllables: number } | null {
  if (!sounds(stroke)) return null;
  const words: Record<string, { word: string; syllables: number }> = {
    fifth: { word: 'fifth', syllables: 1 },
    alternate: { word: 'other', syllables: 2 },
    pick: { word: 'pick', syllables: 1 },
  };
  const said = stroke.kind === 'pick' ? 'pick' : strokeWord(stroke);
  return words[said] ?? { word: said, syllables: 1 };
}

const ACCENT_WORDS = { ghost: 'very soft', normal: '', accent: 'accented', strong: 'hard' };
/** Fingers of the striking hand, by their letters. */
export const FINGER_NAMES: Record<PluckingFinger, string> = {
  p: 'thumb',
  i: 'index',
  m: 'middle',
  a: 'ring',
  c: 'little',
};
const FINGER_WORDS = {
  p: 'with the thumb',
  i: 'with the index finger',
  m: 'with the middle finger',
  a: 'with the ring finger',
  c: 'with the little finger',
};

function reachPhrase(reach: StrumReach | undefined): string {
  if (reach === undefined) return 'all strings';
  if (reach === 'bass') return 'bass side';
  if (reach === 'treble') return 'treble side';
  return `${reach.length === 1 ? 'string' : 'strings'} ${reach.join(' ')}`;
}

const HELD_WORDS = ['', 'first', 'second', 'third', 'little'];

function frettedAway(above: number | undefined): string {
  if (above === undefined) return '';
  const count = Math.abs(above);
  return `, ${count} ${count === 1 ? 'fret' : 'frets'} ${above < 0 ? 'below' : 'above'} the shape`;
}

function pickedPhrase({ string, fret, above, finger, held }: PickedString): string {
  const where = stringPhrase(string);
  const at = fret !== undefined ? `${where} at fret ${fret}` : where + frettedAway(above);
  return [at, finger && FINGER_WORDS[finger], held && `held by the ${HELD_WORDS[held]} finger`]
    .filter(Boolean)
    .join(' ');
}

function strokePhrase(stroke: Stroke): string {
  switch (stroke.kind) {
    case 'strum':
      return `${stroke.dir}, ${reachPhrase(stroke.reach)}`;
    case 'chuck':
      return `chuck, ${stroke.dir}`;
    case 'bass': {
      const { note } = stroke;
      if (note === undefined) return 'bass note, down';
      if (note === 'fifth') return 'bass note on the fifth, down';
      if (note === 'alternate') return 'alternate bass note, down';
      return `bass note on string ${note.string}, ${note.fret === 0 ? 'open' : `fret ${note.fret}`}, down`;
    }
    case 'pick':
      return `${stroke.strings.length > 1 ? 'pinch' : 'pick'} ${stroke.strings
        .map(pickedPhrase)
        .join(' and ')}, ${stroke.dir}`;
    case 'roll':
      return [`roll of ${stroke.hits}`, stroke.fingers?.join(' '), stroke.dir]
        .filter(Boolean)
        .join(', ');
    case 'legato':
      return `${legatoPhrase(stroke.steps)}, the arm passes`;
    case 'tap':
      return stroke.on === 'body' ? 'tap on the body' : 'slap on the strings';
    case 'miss':
      return 'miss, the arm passes';
    case 'hold':
      return 'hold, the arm rests';
  }
}

/**
 * A stroke in full, as a screen reader says it.
 * @example describeStroke(strum('up', 'accent')) // 'up, all strings, accented'
 */
export function describeStroke(stroke: Stroke): string {
  if (!sounds(stroke)) return strokePhrase(stroke);
  return [
    strokePhrase(stroke),
    'finger' in stroke && stroke.finger ? FINGER_WORDS[stroke.finger] : '',
    'palm' in stroke && stroke.palm ? 'palm-muted' : '',
    'open' in stroke && stroke.open ? 'on open strings' : '',
    'rest' in stroke && stroke.rest ? 'the pick comes to rest on the next string' : '',
    'sweep' in stroke && stroke.sweep ? 'in one sweep with the stroke before' : '',
    ...gracesOf(stroke).map(gracePhrase),
    'tap' in stroke && stroke.tap ? `with a ${TAP_WORDS[stroke.tap]}` : '',
    ACCENT_WORDS[stroke.accent],
  ]
    .filter(Boolean)
    .join(', ');
}

/**
 * Every slot as a sentence for a screen reader.
 * @example slotSentences(pattern)[3] // 'beat 2, and: up, all strings, accented, against the arm'
 */
export function slotSentences(pattern: Pattern): string[] {
  const natural = naturalDirections(pattern);
  const rows = divisions(pattern);
  const judged = judgesDirections(pattern);
  const grid = slots(pattern);
  const swept = sweeps(grid);
  return grid.map(({ index, stroke }) => {
    const place = spokenPlace(rows, pattern.meter, index);
    const dir = strokeDirection(stroke);
    const against =
      judged && dir !== null && dir !== natural[index] && !swept.has(index)
        ? ', against the arm'
        : '';
    return `${place}: ${describeStroke(stroke)}${against}`;
  });
}

/** Whether strokes against the arm are pointed out: not in a free arm, nor where they are meant. */
export function judgesDirections(pattern: Pattern): boolean {
  return pattern.arm.school !== 'free' && !pattern.meant?.includes('against');
}
