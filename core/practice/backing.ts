import type { Performance } from '../arrange';

/** What sounds beside the click while a take is played. */
export type Backing = 'nothing' | 'all' | 'rest';

/**
 * What sounds behind a player: nothing, all that is played, or what is left of the song when the player's own part
 * is taken out of it. Of a rung that thins the song that is the strokes it leaves out; of the song in full, the
 * bass runs and lines of notes between the strokes of the arm.
 * @param played what the player plays
 * @param whole the song in full, as long as what is played; null where there is none
 * @example backingOf(arrange(song), null, 'nothing').strikes // []
 */
export function backingOf(
  played: Performance,
  whole: Performance | null,
  backing: Backing,
): Performance {
  if (backing === 'all') return played;
  if (backing === 'nothing' || !whole || whole.ticks !== played.ticks) {
    return { ...played, strikes: [] };
  }
  const byTheArm = played.strikes.filter(({ run, tune }) => !run && !tune);
  const own = new Set(byTheArm.map(({ tick }) => tick));
  const strikes = whole.strikes.filter(({ tick }) => !own.has(tick));
  return { ...played, landings: whole.landings, strikes };
}
