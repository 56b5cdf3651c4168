import type { Arrangement } from '../arrange';
import { isNoChord, parseChord, transposeChord, usesFlats, guessKey } from '../neck';
import { ordinal, type Seconds, type Ticks } from '../plain';
import type { Song } from '../schema';
import { itemAt, passageName } from '../song';
import type { ChordGuess } from './chordEar';
import { secondsOf, tickOf } from './beatMap';
import type { Laid } from './layout';

/** A chord of the song, as long as it is held, and where it lies in the recording. */
export interface Stretch {
  tick: Ticks;
  symbol: string;
  /** Seconds of the recording. */
  from: Seconds;
  to: Seconds;
  /** The bar as it is played, from 1, and which time its section comes round. */
  bar: number;
  section: string;
  time: number;
}

/** A place at which the recording has another chord than the song. */
export interface Difference extends Stretch {
  /** What was heard instead, and how sure that is, 0 to 1. */
  heard: string;
  sure: number;
  /** One sentence. */
  says: string;
}

/** A passage of the song in the recording: bars from 1, seconds. */
export interface HeardPassage {
  section: string;
  time: number;
  first: number;
  last: number;
  from: Seconds;
  to: Seconds;
}

/** A passage of the song as it is played, without where it lies. */
type Passage = Omit<HeardPassage, 'from' | 'to'>;

function passages({ bars, song }: Arrangement): Passage[] {
  const found: Passage[] = [];
  const times = new Map<string, number>();
  let passage = -1;
  for (const bar of bars) {
    if (bar.passage !== passage) {
      passage = bar.passage;
      const section = passageName(song, bar);
      const place = `${bar.section}/${section}`;
      const time = (times.get(place) ?? 0) + 1;
      times.set(place, time);
      found.push({ section, time, first: bar.index + 1, last: bar.index + 1 });
    } else found.at(-1)!.last = bar.index + 1;
  }
  return found;
}

/** Where a stretch of the song sounds in the recording. */
interface Sounding {
  from: Seconds;
  to: Seconds;
  /** Ticks of the song that sound of it. */
  begins: Ticks;
  ends: Ticks;
}

/** Each time that a stretch of the song sounds in the recording, as far as that goes. */
function soundsAt({ map, pieces }: Laid, from: Ticks, to: Ticks): Sounding[] {
  const until = tickOf(map, map.pulses.at(-1)!);
  return pieces.flatMap((piece) => {
    const { shift } = piece;
    if (shift === null) return [];
    const first = Math.max(piece.from, from - shift);
    const last = Math.min(piece.to, to - shift, until);
    if (first >= last) return [];
    const seconds = { from: secondsOf(map, first), to: secondsOf(map, last) };
    return [{ ...seconds, begins: first + shift, ends: last + shift }];
  });
}

/** Where every passage of the song lies in the recording, as far as that goes, in the order of the recording. */
export function passagesOn(laid: Laid, arranged: Arrangement): HeardPassage[] {
  const { bars } = arranged;
  const number = (tick: Ticks) => itemAt(bars, tick)!.index + 1;
  return passages(arranged)
    .flatMap((passage) => {
      const last = bars[passage.last - 1]!;
      const sounds = soundsAt(laid, bars[passage.first - 1]!.tick, last.tick + last.ticks);
      return sounds.map(({ from, to, begins, ends }) => ({
        ...passage,
        first: number(begins),
        last: number(Math.ceil(ends) - 1),
        from,
        to,
      }));
    })
    .sort((a, b) => a.from - b.from);
}

/** Every chord of the song where it lies in the recording, as far as that goes, in the order of the recording. */
export function stretchesOn(laid: Laid, arranged: Arrangement): Stretch[] {
  const { bars, changes } = arranged;
  const last = bars.at(-1);
  if (!last) return [];
  const end = last.tick + last.ticks;
  const all = passages(arranged);
  return changes
    .flatMap(({ tick, symbol }, index) => {
      const bar = itemAt(bars, tick);
      const number = (bar?.index ?? 0) + 1;
      const passage = all.find(({ first, last: latest }) => first <= number && number <= latest);
      if (!bar || !passage || isNoChord(symbol)) return [];
      const { section, time } = passage;
      return soundsAt(laid, tick, changes[index + 1]?.tick ?? end).map((sounding) => ({
        tick,
        symbol,
        from: sounding.from,
        to: sounding.to,
        bar: number,
        section,
        time,
      }));
    })
    .sort((a, b) => a.from - b.from);
}

/** Share of a stretch, and seconds at most, in which the chord before it may still ring on open strings. */
const RINGS_ON = 0.35;
const RINGS_AT_MOST = 1;

/**
 * The part of a stretch that says which chord it is: without its beginning, where the strings of the chord before
 * still sound that are not struck anew.
 */
export function readFrom({ from, to }: Pick<Stretch, 'from' | 'to'>): {
  from: Seconds;
  to: Seconds;
} {
  return { from: from + Math.min(RINGS_AT_MOST, RINGS_ON * (to - from)), to };
}

/** How sure a reading must be before the recording is said to have another chord. */
const SURE = 0.55;
/** The same where both chords have two tones in common: an ear takes one for the other. */
const SURE_OF_NEAR = 0.75;

function sureEnough({ symbol, sure }: ChordGuess, written: string): boolean {
  const [heard, own] = [parseChord(symbol), parseChord(written)];
  const common = own?.tones.filter((tone) => heard?.tones.includes(tone)).length ?? 0;
  return sure >= (common >= 2 ? SURE_OF_NEAR : SURE);
}

/** True for chords with the same root and the same third: what else is in them an ear cannot be sure of. */
function alike(one: string, other: string): boolean {
  const [a, b] = [parseChord(one), parseChord(other)];
  if (!a || !b) return one === other;
  const third = (tones: number[], root: number) =>
    tones.map((tone) => (tone - root + 12) % 12).find((step) => step === 3 || step === 4);
  return a.root === b.root && third(a.tones, a.root) === third(b.tones, b.root);
}

/**
 * Where the recording seems to have another chord than the song: the third time of a verse, say. A chord that is
 * among the readings counts as agreeing.
 * @param guesses readings of each stretch, named as the song names its shapes
 * @example differences(stretchesOn(map, arranged), guesses)[0]?.says // 'Bar 22, the third time of Verse: ...'
 */
export function differences(stretches: Stretch[], guesses: ChordGuess[][]): Difference[] {
  const found = stretches.flatMap((stretch, index) => {
    const [best] = guesses[index] ?? [];
    const agrees = (guesses[index] ?? []).some(({ symbol }) => alike(symbol, stretch.symbol));
    if (!best || agrees || !sureEnough(best, stretch.symbol)) return [];
    return [{ ...stretch, heard: best.symbol, sure: best.sure }];
  });
  const comesRound = new Set(
    stretches.filter(({ time }) => time > 1).map(({ section }) => section),
  );
  return found.map((one) => {
    const name = one.section === '' ? 'this part' : one.section;
    const where = comesRound.has(one.section) ? `, the ${ordinal(one.time)} time of ${name}` : '';
    const percent = Math.round(one.sure * 100);
    const says = `Bar ${one.bar}${where}: ${one.heard} was heard (${percent} % sure), the song has ${one.symbol}.`;
    return { ...one, says };
  });
}

/**
 * Semitones from a chord as it sounds in the recording to the shape that plays it: a capo and a tuning that is
 * higher make the shape lower, and so the other way round.
 * @param shift semitones by which the recording is played higher
 */
export function shapeShift(
  { capo, instrument }: Pick<Song, 'capo' | 'instrument'>,
  shift = 0,
): number {
  return shift - capo - instrument.offset;
}

/** Readings as the song names its shapes. */
export function namedAsShapes(guesses: ChordGuess[], semitones: number): ChordGuess[] {
  if (semitones === 0) return guesses;
  return guesses.map(({ symbol, sure }) => {
    const flats = usesFlats(guessKey([transposeChord(symbol, semitones, false)]));
    return { symbol: transposeChord(symbol, semitones, flats), sure };
  });
}
