import type { Pattern, Song } from '../schema';
import { type HeldChord, holdChord } from '../neck';
import { armReport, type SoundingStroke } from '../stroke';
import { secondsPerTick } from '../time';
import { rakeSeconds, type Touch, type TouchContext, touchOf } from './touch';

/** One stroke, where it is played. */
export interface Stroked {
  stroke: SoundingStroke;
  /** The chord under the hand; undefined before the first. */
  symbol: string | undefined;
  /** Whose arm strikes it: a fast one rakes faster. */
  pattern: Pattern;
  velocity: number;
  /** Length of its slot. */
  ticks: number;
  lastBass: TouchContext['lastBass'];
}

type Known = Pick<Stroked, 'velocity' | 'ticks' | 'lastBass'> & { touch: Touch };

/**
 * The chords of a song as they are held, and what strokes sound on them. The same stroke on the same chord
 * sounds the same strings, however often it comes: each is worked out once.
 * @example touchesOf(song).hold('A')?.pitches // [null, 45, 52, 57, 61, 64]
 */
export function touchesOf(song: Song): {
  /** Null where the symbol cannot be read. */
  hold: (symbol: string) => HeldChord | null;
  touch: (stroked: Stroked) => Touch;
} {
  const perTick = secondsPerTick(song.tempo, song.meter);
  const held = new Map<string, HeldChord | null>();
  const hold = (symbol: string) => {
    if (!held.has(symbol)) held.set(symbol, holdChord(symbol, song));
    return held.get(symbol) ?? null;
  };
  const rakes = new Map<Pattern, number>();
  const rakeOf = (pattern: Pattern) => {
    const known = rakes.get(pattern) ?? rakeSeconds(armReport(pattern, song.tempo).rate);
    rakes.set(pattern, known);
    return known;
  };
  const struck = new Map<SoundingStroke, Map<string | undefined, Known[]>>();
  const knownOf = (stroke: SoundingStroke, symbol: string | undefined) => {
    const onChords = struck.get(stroke) ?? new Map<string | undefined, Known[]>();
    struck.set(stroke, onChords);
    const known = onChords.get(symbol) ?? [];
    onChords.set(symbol, known);
    return known;
  };
  const touch = ({ stroke, symbol, pattern, velocity, ticks, lastBass }: Stroked): Touch => {
    const known = knownOf(stroke, symbol);
    const same = known.find(
      (other) =>
        other.velocity === velocity && other.ticks === ticks && other.lastBass === lastBass,
    );
    if (same) return same.touch;
    const fresh = touchOf(stroke, {
      held: symbol === undefined ? null : hold(symbol),
      options: song,
      velocity,
      rake: rakeOf(pattern),
      slotSeconds: ticks * perTick,
      lastBass,
    });
    known.push({ velocity, ticks, lastBass, touch: fresh });
    return fresh;
  };
  return { hold, touch };
}
