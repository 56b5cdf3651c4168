import type { Seconds, Ticks } from '../plain';
import type { Pattern, Song } from '../schema';
import { fretChords, type FrettedChord } from '../neck';
import { armReport } from '../pattern';
import { type SoundingStroke } from '../stroke';
import { secondsPerTick } from '../time';
import { fingersOf, rakeSeconds, type Voicing, type VoicingContext, voicingOf } from './voicing';

/** One stroke, where it is played. */
export interface Stroked {
  stroke: SoundingStroke;
  /** The chord under the hand; undefined before the first. */
  symbol: string | undefined;
  /** Whose arm strikes it: a fast one rakes faster. */
  pattern: Pattern;
  velocity: number;
  /** Length of its slot. */
  ticks: Ticks;
  lastBass: VoicingContext['lastBass'];
}

/** How fast the arm of a pattern rakes at the tempo that it was last asked for. */
const rakes = new WeakMap<Pattern, { tempo: number; seconds: Seconds }>();

type Known = Pick<Stroked, 'velocity' | 'ticks' | 'lastBass'> & { touch: Voicing };

/**
 * The chords of a song as they are held, and what strokes sound on them. The same stroke on the same chord
 * sounds the same strings, however often it comes: each is worked out once.
 * @example voicingsOf(song).hold('A')?.pitches // [null, 45, 52, 57, 61, 64]
 */
export function voicingsOf(song: Song): {
  /** Null where the symbol cannot be read. */
  hold: (symbol: string) => FrettedChord | null;
  touch: (stroked: Stroked) => Voicing;
} {
  const perTick = secondsPerTick(song.tempo, song.meter);
  const hold = fretChords(song);
  const rakeOf = (pattern: Pattern) => {
    const known = rakes.get(pattern);
    if (known?.tempo === song.tempo) return known.seconds;
    const seconds = rakeSeconds(armReport(pattern, song.tempo).rate);
    rakes.set(pattern, { tempo: song.tempo, seconds });
    return seconds;
  };
  const struck = new Map<SoundingStroke, Map<string | undefined, Known[]>>();
  const knownOf = (stroke: SoundingStroke, symbol: string | undefined) => {
    const onChords = struck.get(stroke) ?? new Map<string | undefined, Known[]>();
    struck.set(stroke, onChords);
    const known = onChords.get(symbol) ?? [];
    onChords.set(symbol, known);
    return known;
  };
  const touch = ({ stroke, symbol, pattern, velocity, ticks, lastBass }: Stroked): Voicing => {
    const known = knownOf(stroke, symbol);
    const same = known.find(
      (other) =>
        other.velocity === velocity && other.ticks === ticks && other.lastBass === lastBass,
    );
    if (same) return same.touch;
    const fresh = voicingOf(stroke, {
      held: symbol === undefined ? null : hold(symbol),
      options: song,
      velocity,
      rake: rakeOf(pattern),
      slotSeconds: ticks * perTick,
      lastBass,
      taken: fingersOf(pattern),
    });
    known.push({ velocity, ticks, lastBass, touch: fresh });
    return fresh;
  };
  return { hold, touch };
}
