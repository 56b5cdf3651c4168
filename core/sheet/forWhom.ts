import { commands, withEachRhythm } from '../edit';
import { barres, fretChords, INSTRUMENTS, parseChord, standIns, usesFlats } from '../neck';
import { VARIATIONS } from '../pattern';
import { plainSong } from '../practice';
import { type InstrumentId, instrumentIdSchema, type Pattern, type Song } from '../schema';
import { songChords, songKey } from '../song';

/** Who a sheet is for: the one who plays, the one who leads, one who begins. */
export const AUDIENCES = ['player', 'leader', 'beginner'] as const;
export type Audience = (typeof AUDIENCES)[number];

/** A song as it is put before somebody, and what was left out of it, each in a few words. */
export interface Put {
  song: Song;
  left: string[];
}

/**
 * Reads who a sheet is for: `player`, `leader`, `beginner`, the id of an instrument, or both with a dash.
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

/** The song on another instrument, in the same key: a capo's semitones go into the chords. */
export function onInstrument(song: Song, id: InstrumentId): Song {
  const other = commands.setInstrument(INSTRUMENTS[id]).apply(song);
  if (other === song || song.capo === 0) return other;
  const key = songKey(song);
  const flats = usesFlats({ ...key, tonic: (key.tonic + song.capo) % 12 });
  return { ...commands.transpose(song.capo, flats).apply(other), capo: 0 };
}

const EASIER = VARIATIONS.find(({ id }) => id === 'relative')!;

/** The song for one who begins: the beats and marked off-beats, no runs, and shapes that are easier to hold. */
function easier(song: Song): Put {
  const left: string[] = [];
  const plain = plainSong(song);
  if (plain !== song) left.push('no bass runs and no other chords');
  let thinned = false;
  const thin = (pattern: Pattern): Pattern => {
    const easy = EASIER.apply(pattern) ?? pattern;
    thinned ||= easy !== pattern && JSON.stringify(easy) !== JSON.stringify(pattern);
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
  if (thinned) left.push('the beats and the marked off-beats only');
  const hold = fretChords(plain);
  const chosen = songChords(plain).flatMap((symbol) => {
    const held = hold(symbol);
    const chord = parseChord(symbol);
    if (!held || !chord || plain.chosenShapes.some((one) => one.symbol === symbol && one.locked))
      return [];
    // Only what a hand that begins cannot hold yet: a barre, or four fingers at once.
    const fingersDown = new Set(held.shape.fingers.filter((finger) => finger > 0)).size;
    if (barres(held.shape).length === 0 && fingersDown < 4) return [];
    const [stand] = standIns(plain.instrument, chord, held.shape);
    if (!stand) return [];
    const as = stand.symbol === symbol ? '' : ` as ${stand.symbol}`;
    left.push(`${symbol}${as}: ${stand.lost}`);
    const { frets, fingers } = stand.shape;
    return [{ symbol, shape: { frets, fingers }, locked: false }];
  });
  const kept = plain.chosenShapes.filter(
    ({ symbol }) => !chosen.some((one) => one.symbol === symbol),
  );
  return { song: { ...plain, ...rhythms, sections, chosenShapes: [...kept, ...chosen] }, left };
}

/**
 * The song as it is put before somebody.
 * @example putBefore(song, 'player', null).left // []
 */
export function putBefore(song: Song, audience: Audience, instrument: InstrumentId | null): Put {
  const own = instrument === null ? song : onInstrument(song, instrument);
  return audience === 'beginner' ? easier(own) : { song: own, left: [] };
}
