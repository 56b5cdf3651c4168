import type { Arrangement } from '../arrange';
import { isNoChord, parseChord } from '../neck';
import { modulo } from '../plain';
import type { BeatMap, LaidPart } from '../schema';
import { itemAt } from '../song';
import { pulseTicks } from '../time';
import { type Chroma, triadOdds } from './chordEar';
import { pulsesPerBar } from './beats';
import { firstWholeBar } from './layout';

/**
 * Where the song lies in a recording, told by its chords: every pulse of the recording is held against every pulse of
 * the song, and the way through both is looked for on which most chords agree (dynamic programming). The way may wait
 * before the song, leave it where a passage ends, and begin a passage anew, each at a price.
 */

/** What a pulse of the recording gains that is not the song, against the odds of a chord among 24 triads. */
const NOT_THE_SONG = -1.9;
/** Leaving the song before its end, coming back into it, and going from one passage to another. */
const LEAVE = 4;
const COME_BACK = 3;
const JUMP = 7;
/** Coming in where no bar line is. */
const OFF_LINE = 10;
/** By so much the way that was found must be better than the song from the first bar on. */
const BETTER = 6;
/** Share of the recording that the song has to sound in: a song that is being written from it is no measure of it. */
const LEAST_SHARE = 0.4;
/** Pulses of the recording times pulses of the song that are looked through. */
const MAX_CELLS = 12_000_000;

/** What the recording may be, for each pulse: the logarithm of the odds of the 12 major and 12 minor triads. */
export function oddsOfPulses(chromas: Chroma[]): Float32Array[] {
  return chromas.map(triadOdds);
}

/** The triads of a chord symbol, as places among the odds; none where it is no chord, or neither major nor minor. */
function triadsOf(symbol: string): number[] {
  const chord = parseChord(symbol);
  if (!chord) return [];
  const has = (step: number) => chord.tones.some((tone) => modulo(tone - chord.root, 12) === step);
  if (has(4)) return [chord.root];
  if (has(3)) return [chord.root + 12];
  return [chord.root, chord.root + 12];
}

/**
 * @param odds of each pulse of the recording, from the first, as `oddsOfPulses` gives them
 * @param semitones by which the recording sounds higher than the names of the song's chords
 * @returns the layout; null where the song may as well lie on the first bar, or the chords do not tell
 * @example findSong(map, odds, arrangement(song), 0) // [{ pulse: 0, bar: null }, { pulse: 8, bar: 0 }]
 */
export function findSong(
  map: BeatMap,
  odds: Float32Array[],
  { bars, changes }: Pick<Arrangement, 'bars' | 'changes'>,
  semitones: number,
): LaidPart[] | null {
  const ticks = pulseTicks(map.meter);
  const last = bars.at(-1);
  if (!last || odds.length === 0) return null;
  const whole = firstWholeBar(bars);
  const begin = bars[whole]!.tick;
  const size = Math.floor((last.tick + last.ticks - begin) / ticks);
  if (size < 1 || size * odds.length > MAX_CELLS) return null;
  // One chord is found anywhere: it tells nothing.
  if (new Set(changes.map(({ symbol }) => String(triadsOf(symbol)))).size < 2) return null;

  // The triads that each pulse of the song asks for, and the bars and passages that begin on it.
  const asked = Array.from({ length: size }, (_, pulse) => {
    const symbol = itemAt(changes, begin + (pulse + 0.5) * ticks)?.symbol;
    if (symbol === undefined || isNoChord(symbol)) return [];
    return triadsOf(symbol).map((at) => modulo(at + semitones, 12) + (at >= 12 ? 12 : 0));
  });
  // Bars begin where they were tapped; only a song whose bars differ in length may come in between.
  const each = pulsesPerBar(map.meter);
  const lengths = new Set(bars.slice(whole).map((bar) => bar.ticks));
  const between = lengths.size > 1 ? OFF_LINE : Infinity;
  const offLine = (at: number) => (modulo(at - map.one, each) === 0 ? 0 : between);
  const barAt = new Map<number, number>();
  const opens = new Set<number>();
  bars.forEach(({ tick, passage, index }) => {
    const pulse = (tick - begin) / ticks;
    if (index < whole || !Number.isInteger(pulse)) return;
    barAt.set(pulse, index);
    if (index === whole || bars[index - 1]!.passage !== passage) opens.add(pulse);
  });
  const fits = (row: Float32Array, pulse: number) => {
    const triads = asked[pulse]!;
    if (triads.length === 0) return NOT_THE_SONG;
    return Math.max(...triads.map((at) => row[at]!)) - 0.05;
  };

  // States: each pulse of the song, and outside of it.
  const OUT = size;
  let score = new Float64Array(size + 1).fill(-Infinity);
  const came: Int32Array[] = [];
  odds.forEach((row, at) => {
    const next = new Float64Array(size + 1).fill(-Infinity);
    const from = new Int32Array(size + 1).fill(-1);
    let end = OUT;
    for (let pulse = 0; pulse < size; pulse += 1) {
      if (opens.has((pulse + 1) % size) && score[pulse]! > score[end]!) end = pulse;
    }
    const left = at === 0 ? 0 : Math.max(score[OUT]!, score[size - 1]!);
    const early = score[end]! - LEAVE;
    next[OUT] = NOT_THE_SONG + Math.max(left, early);
    if (at > 0) from[OUT] = early > left ? end : score[OUT]! >= score[size - 1]! ? OUT : size - 1;
    for (let pulse = 0; pulse < size; pulse += 1) {
      let best = pulse > 0 ? score[pulse - 1]! : -Infinity;
      let source = pulse - 1;
      const enter = (value: number, state: number) => {
        if (value > best) [best, source] = [value, state];
      };
      const off = offLine(at);
      if (at === 0) enter(pulse === 0 ? -off : barAt.has(pulse) ? -COME_BACK - off : -Infinity, -1);
      else if (opens.has(pulse)) {
        enter(score[OUT]! - (pulse === 0 ? 0 : COME_BACK) - off, OUT);
        if (end !== pulse - 1) enter(score[end]! - JUMP - off, end);
      }
      next[pulse] = best + fits(row, pulse);
      from[pulse] = source;
    }
    score = next;
    came.push(from);
  });

  let state = score.indexOf(Math.max(...score));
  const found = score[state]!;
  const way: number[] = [];
  for (let at = odds.length - 1; at >= 0; at -= 1) {
    way.unshift(state);
    state = came[at]![state]!;
  }
  // As it would be without a word: the song on the first bar, and nothing after it.
  const usual = odds.reduce((sum, row, at) => {
    const pulse = at - map.one;
    return sum + (pulse >= 0 && pulse < size ? fits(row, pulse) : NOT_THE_SONG);
  }, 0);
  const nothing = odds.length * NOT_THE_SONG;
  if (found < Math.max(usual, nothing) + BETTER) return null;
  const sounds = way.filter((now) => now !== OUT).length;
  if (sounds < LEAST_SHARE * odds.length) return null;

  const parts: LaidPart[] = [];
  way.forEach((now, at) => {
    const before = way[at - 1];
    if (now === OUT) {
      // After the end of the song there is nothing to be said.
      if (before !== OUT && before !== size - 1) parts.push({ pulse: at, bar: null });
    } else if (now !== (before ?? -2) + 1 || before === OUT) {
      const bar = barAt.get(now);
      if (bar !== undefined) parts.push({ pulse: at, bar });
    }
  });
  return parts.some(({ bar }) => bar !== null) ? parts : null;
}
