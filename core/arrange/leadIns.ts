import type { SecondsPerTick, Ticks } from '../plain';
import type { Song } from '../schema';
import { type BassRun, type FrettedChord, guessKey, type Key, runs } from '../neck';
import { beatTicks, secondsPerTick } from '../time';
import type { Performance, Strike } from './performance';
import { firstFrom, itemAt, type Landing, type PlayedBar } from '../song';

/** What happens just before a chord lands: strokes on open strings while the hand travels, and bass runs. */

/** More strokes than this before a landing may take more than the beat before it. */
const WITHIN_A_BEAT = 2;

/**
 * Plays the last strokes before each landing for a hand that travels, as many as the landing or the song
 * asks for: on open strings, damped, or not at all. They lie within the beat before it, three of them
 * within two beats. The stroke that another chord lands with is neither damped nor left out.
 * @param travelling the same strike on open strings, or damped; null for one that has no use for it
 */
export function withTransitionStrokes(
  song: Pick<Song, 'openStrokes' | 'travel' | 'meter'>,
  strikes: Strike[],
  changes: Landing[],
  travelling: (index: number, how: 'open' | 'damped') => Strike | null,
): Pick<Performance, 'strikes' | 'leftOut'> {
  const beat = beatTicks(song.meter);
  const asked = changes
    .slice(1)
    .filter(({ placement }) => placement.openStrokes ?? song.openStrokes);
  if (asked.length === 0) return { strikes, leftOut: [] };
  const played: (Strike | null)[] = [...strikes];
  for (const { tick, placement } of asked) {
    let left: number = placement.openStrokes ?? song.openStrokes ?? 0;
    const how = placement.travel ?? song.travel ?? 'open';
    const within = left > WITHIN_A_BEAT ? 2 * beat : beat;
    for (let index = firstFrom(strikes, tick) - 1; index >= 0 && left > 0; index -= 1) {
      const strike = strikes[index]!;
      if (strike.tick < tick - within) break;
      if (how !== 'open' && strike.landing) break;
      if (how === 'left out') {
        if (strike.notes.length === 0) continue;
        played[index] = null;
      } else {
        const stroke = travelling(index, how);
        if (!stroke) continue;
        played[index] = stroke;
      }
      left -= 1;
    }
  }
  return {
    strikes: played.filter((strike) => strike !== null),
    leftOut: played.flatMap((strike, index) => (strike ? [] : [strikes[index]!.tick])),
  };
}

/**
 * The key that runs are in: the named one, else that of what is played. Offered in another they would be lost.
 * @example runKey(song, arrangement(song).changes).tonic // 7
 */
export const runKey = (song: Pick<Song, 'key'>, changes: Landing[]): Key =>
  song.key ?? guessKey([...new Set(changes.map(({ symbol }) => symbol))]);

/**
 * Puts the bass runs in that landings ask for: the pattern makes way for them. A run that no longer
 * fits is told and nothing is lost. Its notes swing as the pattern would.
 * @param lateAt ticks by which swing delays a place in the song
 * @param key that the song is in
 */
export function withRuns(
  song: Song,
  strikes: Strike[],
  bars: PlayedBar[],
  changes: Landing[],
  {
    hold,
    lateAt,
    key: keyOf,
  }: {
    hold: (symbol: string) => FrettedChord | null;
    lateAt: (tick: Ticks) => Ticks;
    key: () => Key;
  },
): Pick<Performance, 'strikes' | 'lostRuns'> {
  const lostRuns: Performance['lostRuns'] = [];
  const asked = changes.flatMap((landing, index) =>
    landing.placement.run
      ? [{ landing, before: changes[index - 1], wish: landing.placement.run }]
      : [],
  );
  if (asked.length === 0) return { strikes, lostRuns };
  const key = keyOf();
  const perTick = secondsPerTick(song.tempo, song.meter);
  /** Strikes up to the last run, in order; runs come in the order of their landings. */
  const all: Strike[] = [];
  const known = new Map<string, ReturnType<typeof runs>>();
  let next = 0;
  for (const { landing, before, wish } of asked) {
    const { tick, symbol } = landing;
    const from = before && hold(before.symbol);
    const to = hold(symbol);
    const lose = (message: string) => lostRuns.push({ tick, symbol, message });
    if (!before || !from || !to) {
      lose(`The run into ${symbol} has no chord to come from.`);
      continue;
    }
    const { instrument, capo } = song;
    const { count, noteTicks } = wish;
    const available = tick - before.tick;
    const asking = `${before.symbol} ${symbol} ${count} ${noteTicks} ${available}`;
    const answer =
      known.get(asking) ?? runs(from, to, count, { instrument, capo, key, noteTicks, available });
    known.set(asking, answer);
    const run = answer.runs.find(
      ({ kind, direction }) => kind === wish.kind && direction === wish.direction,
    );
    if (!run) {
      lose(answer.none ?? `The run into ${symbol} no longer lies under the hand; choose another.`);
      continue;
    }
    const begin = tick - count * noteTicks;
    while (next < strikes.length && strikes[next]!.tick < begin) all.push(strikes[next++]!);
    while (next < strikes.length && strikes[next]!.tick < tick) next += 1;
    // A run that begins before the one before it has ended takes its place from there.
    while (all.length > 0 && all.at(-1)!.tick >= begin) all.pop();
    run.notes.forEach((note, index) => {
      const at = begin + index * noteTicks;
      const place = {
        tick: at,
        ticks: noteTicks,
        late: lateAt(at),
        bar: itemAt(bars, at)?.index ?? 0,
      };
      all.push(runStrike(note, place, before.symbol, perTick));
    });
  }
  return { strikes: [...all, ...strikes.slice(next)], lostRuns };
}

/**
 * Draws together the strings of a roll or a slow strum that would go on after the hand has left for
 * the next chord, as where it is pushed into the middle of the slot.
 */
export function clearOfLandings(
  strikes: Strike[],
  landings: Performance['landings'],
  perTick: SecondsPerTick,
): Strike[] {
  const clear = [...strikes];
  for (const { tick, late } of landings) {
    const index = firstFrom(strikes, tick) - 1;
    const strike = strikes[index];
    const last = strike?.notes.at(-1)?.delay ?? 0;
    const available = strike ? (tick + late) * perTick - strike.seconds : 0;
    if (!strike || last <= available) continue;
    const share = (ROOM_USED * Math.max(0, available)) / last;
    const notes = strike.notes.map((note) => ({ ...note, delay: note.delay * share }));
    clear[index] = { ...strike, notes };
  }
  return clear;
}

/** Share of the room before a landing that a roll is drawn into. */
const ROOM_USED = 0.9;
const RUN_VELOCITY = 0.72;

function runStrike(
  note: BassRun['notes'][number],
  place: Pick<Strike, 'tick' | 'ticks' | 'late' | 'bar'>,
  chord: string,
  perTick: SecondsPerTick,
): Strike {
  const { string, fret, midi } = note;
  return {
    kind: 'bass',
    dir: 'down',
    accent: 'normal',
    ...place,
    seconds: (place.tick + place.late) * perTick,
    slot: 0,
    chord,
    landing: false,
    transition: false,
    run: true,
    palm: false,
    flesh: false,
    tap: null,
    velocity: RUN_VELOCITY,
    notes: [{ string, fret, midi, delay: 0, velocity: RUN_VELOCITY }],
    damps: [],
  };
}
