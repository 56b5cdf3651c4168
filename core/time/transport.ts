/**
 * The transport turns the song's ticks into moments of a clock, in windows that are taken a little
 * ahead of time. It is plain data: whoever owns the clock calls `advance` and schedules what lies
 * in the windows. Tempo and loop may change at any time; what was handed out stays as it was and
 * the rest follows without a gap.
 */

import type { Seconds, SecondsPerTick, Ticks } from '../plain';

export interface Span {
  /** First tick of the span. */
  from: Ticks;
  /** The tick after its last. */
  to: Ticks;
}

/** A stretch at one tempo without a jump. */
interface Leg {
  /** Clock time, in seconds, at which `tick` sounds. */
  time: Seconds;
  tick: Ticks;
  secondsPerTick: SecondsPerTick;
}

/** A tempo that climbs turn by turn. */
export interface Ramp {
  /** Turns at one tempo. */
  every: number;
  /** Pulses a minute that are added after them; below zero it falls. */
  by: number;
  /** Where it ends. */
  until: number;
  /** Goes back the way it came once it is there, and up again. */
  back: boolean;
}

/**
 * The tempo of a turn.
 * @param start the tempo of the first turn
 * @param turn from 0
 * @example rampTempo(60, { every: 2, by: 4, until: 80, back: false }, 3) // 64
 */
export function rampTempo(start: number, { every, by, until, back }: Ramp, turn: number): number {
  const steps = Math.ceil(Math.max(0, by === 0 ? 0 : (until - start) / by));
  const climbed = Math.floor(turn / Math.max(1, every));
  if (steps === 0) return start;
  const round = climbed % (2 * steps);
  const at = back ? (round <= steps ? round : 2 * steps - round) : Math.min(climbed, steps);
  return at === steps ? until : start + at * by;
}

export interface Transport {
  /** Recent legs, oldest first; the last is the one being handed out. */
  legs: Leg[];
  /** The next tick to hand out. */
  cursor: Ticks;
  /** Where the present leg ends: the loop's end, the song's, or the bar line before a jump. */
  end: Ticks;
  /** Ticks below this are count-in. */
  countInUntil: Ticks;
  loop: Span | null;
  songEnd: Ticks;
  /** How often the loop has gone back to its beginning. */
  turn: number;
  finished: boolean;
}

/** Ticks `from` (included) to `to` (excluded) and where they fall on the clock. */
export interface Window extends Span {
  countIn: boolean;
  /** Clock time, in seconds, of tick `from`. */
  time: Seconds;
  secondsPerTick: SecondsPerTick;
}

const LEGS_KEPT = 4;

/**
 * Starts at a tick, after a count-in.
 * @param options.time clock time in seconds at which the count-in (or the music) begins
 * @param options.from the first tick of the music
 * @param options.countIn length of the count-in in ticks
 * @example startTransport({ time: 0, from: 0, countIn: 3840, secondsPerTick: 1 / 1920, loop: null, songEnd: 15360 })
 */
export function startTransport(options: {
  time: Seconds;
  from: Ticks;
  countIn: Ticks;
  secondsPerTick: SecondsPerTick;
  loop: Span | null;
  songEnd: Ticks;
}): Transport {
  const tick = options.from - options.countIn;
  return {
    legs: [{ time: options.time, tick, secondsPerTick: options.secondsPerTick }],
    cursor: tick,
    end: options.loop?.to ?? options.songEnd,
    countInUntil: options.from,
    loop: options.loop,
    songEnd: options.songEnd,
    turn: 0,
    finished: false,
  };
}

function lastLeg(transport: Transport): Leg {
  return transport.legs[transport.legs.length - 1]!;
}

function timeAt(leg: Leg, tick: Ticks): Seconds {
  return leg.time + (tick - leg.tick) * leg.secondsPerTick;
}

function withLeg(transport: Transport, leg: Leg): Transport {
  return { ...transport, legs: [...transport.legs, leg].slice(-LEGS_KEPT), cursor: leg.tick };
}

/**
 * Hands out everything that sounds before a moment.
 * @param until clock time in seconds
 * @param turnTempo seconds a tick lasts in a turn of the loop, where the tempo climbs; null for as it is
 * @returns the transport to go on with, and the windows in the order in which they sound
 */
export function advance(
  transport: Transport,
  until: number,
  turnTempo: ((turn: number) => number) | null = null,
): { transport: Transport; windows: Window[] } {
  const windows: Window[] = [];
  let now = transport;
  while (!now.finished) {
    const leg = lastLeg(now);
    const reach = leg.tick + (until - leg.time) / leg.secondsPerTick;
    const countIn = now.cursor < now.countInUntil;
    const stop = countIn ? now.countInUntil : now.end;
    const to = Math.min(stop, reach);
    if (to > now.cursor) {
      windows.push({
        from: now.cursor,
        to,
        countIn,
        time: timeAt(leg, now.cursor),
        secondsPerTick: leg.secondsPerTick,
      });
      now = { ...now, cursor: to };
    }
    if (reach <= stop) break;
    if (countIn) continue;
    now = now.loop
      ? withLeg(
          { ...now, end: now.loop.to, countInUntil: now.loop.from, turn: now.turn + 1 },
          {
            // A song that became shorter under the player's hands may end behind us.
            time: timeAt(leg, Math.max(now.end, now.cursor)),
            tick: now.loop.from,
            secondsPerTick: turnTempo?.(now.turn + 1) ?? leg.secondsPerTick,
          },
        )
      : { ...now, finished: true };
  }
  return { transport: now, windows };
}

/** Goes on at another tempo from the next tick that has not been handed out. */
export function changeTempo(transport: Transport, secondsPerTick: SecondsPerTick): Transport {
  const leg = lastLeg(transport);
  if (leg.secondsPerTick === secondsPerTick) return transport;
  const tick = transport.cursor;
  return withLeg(transport, { time: timeAt(leg, tick), tick, secondsPerTick });
}

/**
 * Sets or clears the loop. A player outside the new loop finishes the bar and then jumps into it.
 * @param barEnd the bar line after the present place, in ticks
 */
export function changeLoop(
  transport: Transport,
  loop: Span | null,
  songEnd: number,
  barEnd: (tick: Ticks) => number,
): Transport {
  const place = Math.max(transport.cursor, transport.countInUntil);
  const inside = loop !== null && place >= loop.from && place < loop.to;
  const end = loop === null ? songEnd : inside ? loop.to : barEnd(place);
  return { ...transport, loop, songEnd, end };
}

/**
 * The tick that sounds at a moment; below the first tick of the music during a count-in.
 * @param time clock time in seconds
 */
export function tickAt(transport: Transport, time: number): number {
  const leg = transport.legs.findLast((candidate) => candidate.time <= time) ?? transport.legs[0]!;
  return leg.tick + Math.max(0, time - leg.time) / leg.secondsPerTick;
}
