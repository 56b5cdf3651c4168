import { computed } from 'vue';
import { barNumbers, type PlayedBar } from '#core/song';
import { asPlayed, barCount, barPatterns, flagsWithin, struckStrings } from '#core/arrange';
import { usePlayerStore } from '../stores/player';
import { useViewStore } from '../stores/view';

/** How each bar is drawn as it is played: its pattern, its flags, and what is counted. */
export function useBarDrawing() {
  const player = usePlayerStore();
  const view = useViewStore();
  const numbers = computed(() => barNumbers(player.bars, player.changes));
  const drawings = computed(() => barPatterns(player.parts));
  const strings = computed(() => player.activeSong?.instrument.strings.length ?? 6);

  function drawn(of: PlayedBar) {
    const plain = drawings.value[of.index];
    if (!plain) return null;
    const strikes = (player.performance?.strikes ?? []).filter((strike) => strike.bar === of.index);
    const pattern = asPlayed(
      plain.pattern,
      strikes,
      of,
      strings.value,
      player.performance?.leftOut,
    );
    const flags = flagsWithin(player.performance?.landings ?? [], of);
    const counts = barCount(of, pattern, numbers.value[of.index] ?? 1, view.counting);
    const reach = struckStrings(pattern, strikes, of.tick);
    return { pattern, phase: plain.phase, reach, flags, counts };
  }
  return { numbers, strings, drawn };
}
