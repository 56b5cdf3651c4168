import type { Accent, Division, Pattern, PatternBeat, Stroke } from '../schema';
import { naturalDirections } from './arm';
import { slots, strokeDirection } from './grid';
import { strokeWord } from './words';

/** How loudness is written: DOWN accented, DOWN! strong, (down) barely heard. */
function withAccent(word: string, accent: Accent): string {
  if (accent === 'ghost') return `(${word})`;
  if (accent === 'normal') return word;
  return accent === 'accent' ? word.toUpperCase() : `${word.toUpperCase()}!`;
}

/**
 * The pattern in words, as players speak it: the strokes of a beat together, beats set apart by
 * commas. `parsePattern` reads it back.
 * @example say(pattern) // 'bass miss, DOWN up, miss up, chuck up'
 */
export function say(pattern: Pattern): string {
  const natural = naturalDirections(pattern);
  const words = slots(pattern).map(({ index, stroke }) => {
    const turned = stroke.kind === 'chuck' && stroke.dir !== natural[index];
    const word = turned ? `chuck-${stroke.dir}` : strokeWord(stroke);
    return 'accent' in stroke ? withAccent(word, stroke.accent) : word;
  });
  let next = 0;
  return pattern.beats
    .map(({ division }) => words.slice(next, (next += division)).join(' '))
    .join(', ');
}

/** What could not be read, and where in the text. */
export interface SayProblem {
  from: number;
  to: number;
  message: string;
}

export type SayReading = { pattern: Pattern } | { problem: SayProblem };

/** A word as it was read; a chuck that does not say its way takes the arm's. */
interface Spoken {
  from: number;
  to: number;
  stroke: Stroke | 'chuck';
  accent: Accent;
}

const WORDS: Record<string, Stroke['kind'] | 'down' | 'up' | 'chuck-down' | 'chuck-up'> = {
  down: 'down',
  d: 'down',
  '↓': 'down',
  up: 'up',
  u: 'up',
  '↑': 'up',
  miss: 'miss',
  '-': 'miss',
  '·': 'miss',
  _: 'miss',
  hold: 'hold',
  h: 'hold',
  '=': 'hold',
  chuck: 'chuck',
  mute: 'chuck',
  x: 'chuck',
  'chuck-down': 'chuck-down',
  'chuck-up': 'chuck-up',
  bass: 'bass',
  b: 'bass',
};

/** A whole word, or a run of single letters and signs, each with its loudness. */
const TOKEN = /\(?[^\s,()!]+\)?!{0,2}/g;
const LETTERS = /^[dubxh↓↑\-·_=]+$/i;

function spoken(word: string, from: number, accent: Accent): Spoken | null {
  const kind = WORDS[word.toLowerCase()];
  if (kind === undefined) return null;
  const place = { from, to: from + word.length, accent };
  switch (kind) {
    case 'down':
    case 'up':
      return { ...place, stroke: { kind: 'strum', dir: kind, accent } };
    case 'chuck-down':
    case 'chuck-up':
      return {
        ...place,
        stroke: { kind: 'chuck', dir: kind === 'chuck-up' ? 'up' : 'down', accent },
      };
    case 'chuck':
      return { ...place, stroke: 'chuck' };
    case 'bass':
      return { ...place, stroke: { kind: 'bass', accent } };
    default:
      return { ...place, stroke: { kind } as Stroke };
  }
}

/** Reads one token: a word, or a run of letters like `B-DU`. */
function readToken(token: string, from: number): Spoken[] | SayProblem {
  const ghost = token.startsWith('(');
  const bangs = /!*$/.exec(token)![0].length;
  const core = token.replace(/^\(/, '').replace(/!*$/, '').replace(/\)$/, '');
  const start = from + (ghost ? 1 : 0);
  const shouted = core.length > 1 && core === core.toUpperCase() && core !== core.toLowerCase();
  const loud: Accent = bangs > 1 ? 'strong' : bangs === 1 ? 'accent' : 'normal';

  const isWord = core.toLowerCase() in WORDS;
  if (isWord) {
    // DOWN is accented, and DOWN! more so; a single letter has only its sign.
    const accent: Accent = ghost ? 'ghost' : shouted ? (bangs > 0 ? 'strong' : 'accent') : loud;
    return [spoken(core, start, accent)!];
  }
  if (LETTERS.test(core)) {
    const letters = [...core];
    return letters.map((letter, index) => {
      const accent = ghost ? 'ghost' : index === letters.length - 1 ? loud : 'normal';
      return spoken(letter, start + index, accent)!;
    });
  }
  const message = `“${core}” is no stroke: say down, up, miss, hold, chuck or bass.`;
  return { from, to: from + token.length, message };
}

const divisionOf = (count: number): Division | null =>
  count >= 1 && count <= 4 ? (count as Division) : null;

/**
 * Reads a pattern from words, letters or arrows.
 *
 * Where there are as many groups between commas as beats, each group fills its beat. Otherwise the
 * strokes are fitted to the arm: downs fall on the numbers, ups on the &s, and what is passed over is
 * missed; eighths first, then sixteenths.
 *
 * @param base gives the meter, the arm and the name
 * @returns the pattern, or the place that cannot be read and why
 * @example parsePattern('D DU -UDU', newPattern(METERS['4/4'])) // down on 1, down up on 2, up after 3, down up on 4
 */
export function parsePattern(text: string, base: Pattern): SayReading {
  const groups: Spoken[][] = [];
  for (const part of text.matchAll(/[^,]+/g)) {
    const group: Spoken[] = [];
    for (const token of part[0].matchAll(TOKEN)) {
      const read = readToken(token[0], part.index + token.index);
      if (!Array.isArray(read)) return { problem: read };
      group.push(...read);
    }
    if (group.length > 0) groups.push(group);
  }
  if (groups.length === 0) {
    return {
      problem: { from: 0, to: Math.max(1, text.length), message: 'Say at least one stroke.' },
    };
  }
  return groups.length === base.beats.length && groups.every((group) => divisionOf(group.length))
    ? byBeats(groups, base)
    : byArm(groups.flat(), base);
}

function byBeats(groups: Spoken[][], base: Pattern): SayReading {
  const misses = groups.map((group): PatternBeat => {
    const division = divisionOf(group.length)!;
    return { division, slots: group.map(() => ({ kind: 'miss' })) };
  });
  const natural = naturalDirections({ ...base, beats: misses });
  let slot = 0;
  const beats = groups.map((group, beat): PatternBeat => ({
    division: misses[beat]!.division,
    slots: group.map(({ stroke, accent }) => {
      const dir = natural[slot++]!;
      return stroke === 'chuck' ? { kind: 'chuck', dir, accent } : stroke;
    }),
  }));
  return { pattern: { ...base, beats } };
}

/** Divisions that a line without beats is fitted to, in turn. */
const FITS: Division[] = [2, 4];

function byArm(strokes: Spoken[], base: Pattern): SayReading {
  let late: Spoken | null = null;
  for (const division of FITS) {
    const grid: Pattern = {
      ...base,
      beats: base.beats.map(() => ({
        division,
        slots: Array.from({ length: division }, () => ({ kind: 'miss' })),
      })),
    };
    const natural = naturalDirections(grid);
    const placed: Stroke[] = natural.map(() => ({ kind: 'miss' }));
    let slot = 0;
    const left = strokes.findIndex(({ stroke, accent }) => {
      const wanted = stroke === 'chuck' ? null : strokeDirection(stroke);
      while (wanted !== null && slot < natural.length && natural[slot] !== wanted) slot += 1;
      if (slot >= natural.length) return true;
      placed[slot] = stroke === 'chuck' ? { kind: 'chuck', dir: natural[slot]!, accent } : stroke;
      slot += 1;
      return false;
    });
    if (left < 0) {
      const beats = base.beats.map((_, beat): PatternBeat => ({
        division,
        slots: placed.slice(beat * division, (beat + 1) * division),
      }));
      return { pattern: { ...base, beats } };
    }
    late = strokes[left]!;
  }
  const { from, to } = late!;
  const message = `From here on it does not fit into ${base.beats.length} beats, in eighths or in sixteenths.`;
  return { problem: { from, to, message } };
}
