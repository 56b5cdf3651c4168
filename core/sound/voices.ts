import type { Seconds, Ticks } from '../plain';
import { secondsPerTick } from '../time';
import type { Meter } from '../schema';
import type { Performance } from '../arrange';

/** One string sounding, from its pluck to the moment something stops it. Times in seconds. */
export interface Voice {
  string: number;
  midi: number;
  start: Seconds;
  end: Seconds;
  velocity: number;
  palm: boolean;
  /** Strummed and picked, a single bass note, or a note of a line: what a file keeps apart. */
  role: 'strum' | 'bass' | 'line';
  /** Sounded by the fretting hand: joined to the note before it on its string. */
  legato?: true;
}

/**
 * Which string rings from when to when: a string rings until it is struck again, damped by a
 * chuck, or left by the hand as another chord lands; the last ones to the end of the song.
 * It says what the cues say (a test holds them together), in a tenth of their memory.
 * @param meter the song's, for the time of the landings
 * @example voices(arrange(song), song.meter)[0] // { string: 1, midi: 45, start: 0, end: 0.667, velocity: 0.6, palm: false, role: 'strum' }
 */
export function voices(performance: Performance, meter: Meter): Voice[] {
  const perTick = secondsPerTick(performance.tempo, meter);
  const momentOf = ({ tick, late }: { tick: Ticks; late: Ticks }) => (tick + late) * perTick;
  const close = performance.seconds + performance.tail * perTick;
  const ringing = new Map<number, Voice>();
  const done: Voice[] = [];
  const stop = (string: number, time: Seconds) => {
    const voice = ringing.get(string);
    if (!voice) return;
    ringing.delete(string);
    const end = Math.min(time, close);
    if (end > voice.start) done.push({ ...voice, end });
  };
  let next = 0;
  const stopAll = (time: Seconds) => [...ringing.keys()].forEach((string) => stop(string, time));
  for (const strike of performance.strikes) {
    while ((performance.landings[next]?.tick ?? Infinity) <= strike.tick) {
      const landing = performance.landings[next]!;
      if (!landing.slides) stopAll(momentOf(landing));
      next += 1;
    }
    strike.damps.forEach((string) => stop(string, strike.seconds));
    for (const { string, midi, delay, velocity, legato } of strike.notes) {
      const start = strike.seconds + delay;
      stop(string, start);
      const single = strike.kind === 'pick' || strike.kind === 'legato';
      const role = strike.tune && single ? 'line' : strike.kind === 'bass' ? 'bass' : 'strum';
      ringing.set(string, {
        string,
        midi,
        start,
        end: start,
        velocity,
        palm: strike.palm,
        role,
        ...(legato && { legato: true as const }),
      });
    }
  }
  for (const landing of performance.landings.slice(next)) stopAll(momentOf(landing));
  stopAll(close);
  return done.sort((a, b) => a.start - b.start || a.string - b.string);
}
