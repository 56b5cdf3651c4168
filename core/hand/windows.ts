import type { Centimetres, Milliseconds, Seconds, SecondsPerTick, Ticks } from '../plain';
import type { Arrangement, Strike } from '../arrange';
import { type FingerMove, type FingerPlace, type FrettedChord, soundingLength } from '../neck';
import { firstFrom, itemAt, type Landing } from '../song';
import { beatTicks, secondsPerTick } from '../time';
import type { Shape } from '../schema';
import { type FingerNeed, changeDuration } from './need';
import { type Hand, pairOf } from './timed';

/** The time that one finger has for a change, beside what it needs. */
export interface FingerWindow extends FingerNeed {
  /** Seconds from the start of the song: when it may leave, and when its note is struck. */
  freeFrom: Seconds;
  wantedAt: Seconds;
  /** Milliseconds between them, at the song's tempo. */
  window: Milliseconds;
  /** The tempo at which it needs all the time it has; null for a finger that needs none. */
  ceiling: number | null;
}

/** A change of chord at one place of the song, as the hand meets it. */
export interface HandChange {
  /** Which landing of the song it is, from 0. */
  index: number;
  tick: Ticks;
  from: FrettedChord;
  to: FrettedChord;
  fingers: FingerWindow[];
  /** Fingers of the new shape whose strings are not struck before the next change. */
  idle: number[];
  /** The finger that holds the change back; null where nothing moves. */
  tightest: FingerWindow | null;
}

/** The strikes around a landing: from the landing before it to the one after it. */
export interface Around {
  before: Strike[];
  after: Strike[];
  /** Seconds of the landing before it. */
  since: Seconds;
}

/** What windows are worked out with. */
interface Setting {
  tempo: number;
  /** Of the strings from capo to bridge. */
  scale: Centimetres;
  hand: Hand;
  /** Seconds that a finger stays down where the strings are to ring to the end of the bar. */
  ring: (strike: Strike) => Seconds;
}

/** Seconds at which a strike sounds a string as a finger presses it; null where it does not. */
function soundsAt(strike: Strike, { fret, strings }: FingerPlace, last: boolean): Seconds | null {
  let found: Seconds | null = null;
  for (const note of strike.notes) {
    if (note.fret !== fret || !strings.includes(note.string)) continue;
    const at = strike.seconds + note.delay;
    if (found === null || (last ? at > found : at < found)) found = at;
  }
  return found;
}

/** Seconds at which any of the strings sounds otherwise than a finger will press it. */
function soundsOtherwise(strike: Strike, { fret, strings }: FingerPlace): Seconds | null {
  let last: Seconds | null = null;
  for (const note of strike.notes) {
    if (note.fret >= fret || !strings.includes(note.string)) continue;
    const at = strike.seconds + note.delay;
    if (last === null || at > last) last = at;
  }
  return last;
}

const lastOf = (strikes: Strike[], of: (strike: Strike) => Seconds | null): Seconds | null => {
  for (let index = strikes.length - 1; index >= 0; index -= 1) {
    const at = of(strikes[index]!);
    if (at !== null) return at;
  }
  return null;
};
const firstOf = (strikes: Strike[], of: (strike: Strike) => Seconds | null): Seconds | null => {
  for (const strike of strikes) {
    const at = of(strike);
    if (at !== null) return at;
  }
  return null;
};

/** When a finger has to be where it goes: at its note, or off a string that sounds without it. */
function wantedAt({ kind, from, to }: FingerMove, target: FrettedChord, after: Strike[]) {
  if (kind !== 'lifts') return firstOf(after, (strike) => soundsAt(strike, to!, false));
  const open = from!.strings.filter((string) => {
    const fret = target.shape.frets[string];
    return fret !== null && fret !== undefined && fret < from!.fret;
  });
  return firstOf(after, (strike) =>
    open.reduce<number | null>((first, string) => {
      const at = soundsAt(strike, { fret: target.shape.frets[string]!, strings: [string] }, false);
      return at !== null && (first === null || at < first) ? at : first;
    }, null),
  );
}

/**
 * When a finger may leave: after the last strike that sounds its string as it presses it, a free one after
 * the last that sounds the string it comes to without it. Strokes on open or damped strings, and those
 * that do not reach the string, need nothing.
 */
function freeFrom({ from, to }: FingerMove, { before, since }: Around, { ring }: Setting): Seconds {
  const held = from
    ? lastOf(before, (strike) => {
        const at = strike.transition ? null : soundsAt(strike, from, true);
        return at === null ? null : at + ring(strike);
      })
    : null;
  const free = to
    ? lastOf(before, (strike) => (strike.transition ? null : soundsOtherwise(strike, to)))
    : null;
  return held ?? free ?? since;
}

/**
 * The windows of a change: for each finger the time from when it may leave to when its note is struck.
 * Fingers whose strings are not struck before the next change are left out and told as idle.
 */
export function handChange(
  place: Pick<HandChange, 'index' | 'tick' | 'from' | 'to'>,
  around: Around,
  setting: Setting,
): HandChange {
  const wanted = new Map<number, number>();
  const isWanted = (move: FingerMove) => {
    const at = wantedAt(move, place.to, around.after);
    if (at !== null) wanted.set(move.finger, at);
    return at !== null;
  };
  const [from, to] = [place.from.shape, place.to.shape];
  const times = slownessOf(from, to, setting);
  const need = changeDuration(from, to, setting.scale, isWanted);
  const fingers = need.fingers.map((finger): FingerWindow => {
    const free = freeFrom(finger.move, around, setting);
    const at = wanted.get(finger.move.finger)!;
    const window = Math.max(0, (at - free) * 1000);
    const ms = finger.ms * times;
    const ceiling = ms === 0 ? null : (setting.tempo * window) / ms;
    // Field by field, as it is made for every finger at every change that is tried.
    return { move: finger.move, ms, freeFrom: free, wantedAt: at, window, ceiling };
  });
  const held = [1, 2, 3, 4].filter((finger) => place.to.shape.fingers.includes(finger));
  const idle = held.filter((finger) => !wanted.has(finger));
  const tightest = fingers.reduce<FingerWindow | null>(
    (least, finger) =>
      finger.ceiling !== null && (least?.ceiling == null || finger.ceiling < least.ceiling)
        ? finger
        : least,
    null,
  );
  const { index, tick } = place;
  return { index, tick, from: place.from, to: place.to, fingers, idle, tightest };
}

/** What the model's needs of a change are multiplied by: so that it comes to what was measured, if it was. */
function slownessOf(from: Shape, to: Shape, { hand, scale }: Setting): number {
  if (hand.measured.size === 0) return hand.factor;
  const measured = hand.measured.get(pairOf(from, to));
  const whole = measured === undefined ? 0 : changeDuration(from, to, scale).ms;
  return measured === undefined || whole === 0 ? hand.factor : measured / whole;
}

/** The strikes from the landing before a change to the one after it. */
export function strikesAround(
  strikes: Strike[],
  changes: Landing[],
  index: number,
  perTick: SecondsPerTick,
): Around {
  const { tick } = changes[index]!;
  const before = changes[index - 1]?.tick ?? 0;
  const next = changes[index + 1]?.tick ?? Infinity;
  const [first, middle] = [firstFrom(strikes, before), firstFrom(strikes, tick)];
  const end = next === Infinity ? strikes.length : firstFrom(strikes, next);
  return {
    before: strikes.slice(first, middle),
    after: strikes.slice(middle, end),
    since: before * perTick,
  };
}

/**
 * What the windows of a song are worked out with: a chord that is held, or that all stop on, rings until
 * the beat before the next change.
 */
export function settingOf(
  { song, bars, changes }: Pick<Arrangement, 'song' | 'bars' | 'changes'>,
  hand: Hand,
): Setting {
  const { meter } = song;
  const perTick = secondsPerTick(song.tempo, meter);
  const ring = (strike: Strike): Seconds => {
    const bar = bars[strike.bar];
    const stop = bar?.content.rules?.stop;
    const landing = itemAt(changes, strike.tick);
    const held =
      (bar && stop !== undefined && strike.tick === bar.tick + stop) ||
      (landing?.placement.fermata === true && landing.tick === strike.tick);
    if (!held) return 0;
    const next = changes[firstFrom(changes, strike.tick + 1)]?.tick;
    if (next === undefined) return 0;
    return Math.max(0, next - beatTicks(meter) - strike.tick) * perTick;
  };
  return { tempo: song.tempo, scale: soundingLength(song.instrument, song.capo), hand, ring };
}
