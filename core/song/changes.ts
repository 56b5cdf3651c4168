import type { Song } from '../schema';
import type { PassageSong } from './passages';
import { landings, playedBars } from './timeline';

/** One kind of chord change of a song. */
export interface SongChange {
  from: string;
  to: string;
  /** How often the song makes it. */
  times: number;
  /** The least time that the chord before it has, in ticks. */
  available: number;
}

/**
 * The chords of a song in the order in which they are played, and the changes between them, each kind
 * once.
 * @example songChanges(song).changes[0] // { from: 'A', to: 'Bm', times: 2, available: 3840 }
 */
export function songChanges(song: PassageSong & Pick<Song, 'meter'>): {
  sequence: string[];
  changes: SongChange[];
} {
  const landed = landings(playedBars(song));
  const found = new Map<string, SongChange>();
  landed.slice(1).forEach(({ tick, symbol }, index) => {
    const before = landed[index]!;
    const key = `${before.symbol} ${symbol}`;
    const available = tick - before.tick;
    const known = found.get(key) ?? { from: before.symbol, to: symbol, times: 0, available };
    found.set(key, {
      ...known,
      times: known.times + 1,
      available: Math.min(known.available, available),
    });
  });
  return { sequence: landed.map(({ symbol }) => symbol), changes: [...found.values()] };
}
