import { type PlayedBar, rhythmCommands } from '#core';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';

/** Takes a flag of a bar from one of its ticks to another; a push stays a push. */
export function usePlantFlag() {
  const songs = useSongStore();
  const player = usePlayerStore();
  return (bar: PlayedBar, from: number, to: number): void => {
    const landing = player.changes.find(({ tick }) => tick === bar.tick + from);
    if (!landing || !bar.content.chords.includes(landing.placement)) return;
    const { at, push } = landing.placement;
    const { section, line, bar: index } = bar;
    songs.run(rhythmCommands.moveChord({ section, line, bar: index }, at, to + push));
  };
}
