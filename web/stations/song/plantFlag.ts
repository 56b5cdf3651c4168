import type { PlayedBar } from '#core/song';
import { plantChord } from '#core/edit';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';

/** Takes a flag of a bar from one of its ticks to another, or over its bar line; where it cannot, it is said. */
export function usePlantFlag() {
  const songs = useSongStore();
  const player = usePlayerStore();
  return (bar: PlayedBar, from: number, to: number): void => {
    const landing = player.changes.find(({ tick }) => tick === bar.tick + from);
    if (!landing) return;
    const done = plantChord(player.bars, landing, bar.tick + to);
    if (typeof done === 'string') return songs.tell(done);
    songs.run(done);
    if (to < 0) songs.tell(`${landing.symbol} lands before its bar, on the off-beat.`);
  };
}
