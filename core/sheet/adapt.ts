import { commands, withEachRhythm } from '../edit';
import {
  barres,
  fretChords,
  INSTRUMENTS,
  parseChord,
  type StandIn,
  standIns,
  tuningKey,
  usesFlats,
} from '../neck';
import { modulo } from '../plain';
import { VARIATIONS } from '../pattern';
import { plainSong } from '../practice';
import {
  type InstrumentId,
  instrumentIdSchema,
  type Pattern,
  type Shape,
  type Song,
  type Stroke,
} from '../schema';
import { songChords, songKey } from '../song';
import { MISS } from '../stroke';
import { easierKey, fingersDown, isHard } from './easierKey';

/** Who a sheet is for: the one who plays, the one who leads, one who begins, one who sings. */
export const AUDIENCES = ['player', 'leader', 'beginner', 'singer'] as const;
export type Audience = (typeof AUDIENCES)[number];

/** A song as it is put before somebody, and what was left out of it, each in a few words. */
export interface Adapted {
  song: Song;
  left: string[];
  /** What helps whom it is for, and what comes next, in a sentence or two. */
  next?: string;
}

/**
 * Reads who a sheet is for: `player`, `leader`, `beginner`, `singer`, the id of an instrument, or both with a dash.
 * @returns null where it names neither
 * @example readAudience('ukulele-beginner') // { audience: 'beginner', instrument: 'ukulele' }
 */
export function readAudience(
  text: string,
): { audience: Audience; instrument: InstrumentId | null } | null {
  const audience = AUDIENCES.find((one) => text === one || text.endsWith(`-${one}`)) ?? null;
  const rest = audience === null ? text : text.slice(0, -audience.length).replace(/-$/, '');
  if (rest === '') return { audience: audience ?? 'player', instrument: null };
  const instrument = instrumentIdSchema.safeParse(rest);
  return instrument.success
    ? { audience: audience ?? 'player', instrument: instrument.data }
    : null;
}

/**
 * The song on another instrument, at the same pitch: the semitones of its capo and of its tuning go into the chords. One
 * that is fretted alike is the song's own instrument, with its capo and its tuning.
 * @example onInstrument({ ...song, capo: 2 }, 'ukulele').capo // 0, its chords two semitones higher
 */
export function onInstrument(song: Song, id: InstrumentId): Song {
  const instrument = INSTRUMENTS[id];
  if (tuningKey(song.instrument) === tuningKey(instrument)) return song;
  const other = { ...commands.setInstrument(instrument).apply(song), capo: 0 };
  const semitones = song.capo + song.instrument.offset - instrument.offset;
  if (semitones === 0) return other;
  const key = songKey(song);
  const flats = usesFlats({ ...key, tonic: modulo(key.tonic + semitones, 12) });
  return commands.transpose(semitones, flats).apply(other);
}

const MARKED = VARIATIONS.find(({ id }) => id === 'relative')!;

/** Frets from the lowest finger to the highest. */
function stretch({ frets }: Shape): number {
  const held = frets.filter((fret): fret is number => fret !== null && fret > 0);
  return held.length > 0 ? Math.max(...held) - Math.min(...held) : 0;
}

/** A stand-in asks for fewer fingers or less stretch, and for more of neither; a barre that goes is worth a finger. */
function isEasier({ shape }: StandIn, now: Shape): boolean {
  const barre = barres(now).length > 0 && barres(shape).length === 0;
  const fingers = fingersDown(shape) - fingersDown(now) - (barre ? 1 : 0);
  const wider = stretch(shape) - stretch(now);
  return fingers <= 0 && wider <= 0 && (fingers < 0 || wider < 0);
}

/** The unit of a meter whose beats are counted one by one. */
const QUARTERS = 4;
const DOWN: Stroke = { kind: 'strum', dir: 'down', accent: 'normal' };

/** One down a beat, and no beat without one: where eighths are counted a beat is a group of them. */
export function onTheBeat(pattern: Pattern): Pattern {
  const { schema, arm, meter, beats } = pattern;
  const starts = new Set<number>();
  let at = 0;
  for (const group of meter.groups) {
    starts.add(at);
    at += group;
  }
  const grouped = meter.unit > QUARTERS;
  const isBeat = (beat: number) => !grouped || starts.has(beat % meter.beats);
  return {
    schema,
    name: 'One down a beat',
    meter,
    arm,
    beats: beats.map((_, beat) => ({ division: 1, slots: [isBeat(beat) ? DOWN : MISS] })),
  };
}

const NO_STRUM = 'the strum, for one down a beat';

/** What one who begins takes up once that goes. */
function nextOf(pattern: Pattern): string {
  const marked = MARKED.apply(pattern);
  const steps = marked && marked !== pattern ? 'the beats and the marked off-beats, then ' : '';
  return `Once that goes: ${steps}the strum as it is.`;
}

/** The song for one who begins: one down a beat, no runs, and shapes that are easier to hold. */
function easier(song: Song): Adapted {
  const left: string[] = [];
  const plain = plainSong(song);
  if (plain !== song) left.push('bass runs and chords for another time');
  let thinned = false;
  const thin = (pattern: Pattern): Pattern => {
    const easy = onTheBeat(pattern);
    if (JSON.stringify(easy.beats) === JSON.stringify(pattern.beats)) return pattern;
    thinned = true;
    return easy;
  };
  const sections = plain.sections.map((section) => ({
    ...section,
    ...(section.rules?.pattern && {
      rules: { ...section.rules, pattern: thin(section.rules.pattern) },
    }),
    lines: section.lines.map((row) => ({
      ...row,
      bars: row.bars.map((bar) => withEachRhythm(bar, thin)),
    })),
  }));
  const rhythms = {
    pattern: thin(plain.pattern),
    ...(plain.chordPatterns && {
      chordPatterns: plain.chordPatterns.map((one) => ({ ...one, pattern: thin(one.pattern) })),
    }),
  };
  if (thinned) left.push(NO_STRUM);
  const hold = fretChords(plain);
  const chosen = songChords(plain).flatMap((symbol) => {
    const held = hold(symbol);
    const chord = parseChord(symbol);
    if (!held || !chord || plain.chosenShapes.some((one) => one.symbol === symbol && one.locked))
      return [];
    if (!isHard(held.shape)) return [];
    const stand = standIns(plain.instrument, chord, held.shape).find((one) =>
      isEasier(one, held.shape),
    );
    if (!stand) return [];
    const as = stand.symbol === symbol ? '' : ` as ${stand.symbol}`;
    left.push(`${symbol}${as}: ${stand.lost}`);
    const { frets, fingers } = stand.shape;
    return [{ symbol, shape: { frets, fingers }, locked: false }];
  });
  const kept = plain.chosenShapes.filter(
    ({ symbol }) => !chosen.some((one) => one.symbol === symbol),
  );
  const made = { ...plain, ...rhythms, sections, chosenShapes: [...kept, ...chosen] };
  const says = [easierKey(made), left.includes(NO_STRUM) ? nextOf(plain.pattern) : null];
  const next = says.filter(Boolean).join(' ');
  return { song: made, left, ...(next && { next }) };
}

/**
 * The song as it is put before somebody.
 * @example adaptFor(song, 'player', null).left // []
 */
export function adaptFor(song: Song, audience: Audience, instrument: InstrumentId | null): Adapted {
  const own = instrument === null ? song : onInstrument(song, instrument);
  return audience === 'beginner' ? easier(own) : { song: own, left: [] };
}
