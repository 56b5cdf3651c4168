import { usePreferredReducedMotion } from '@vueuse/core';
import { computed, type Ref } from 'vue';
import type { Ticks } from '#core/plain';
import type { Pattern } from '#core/schema';
import { patternTicks, slots } from '#core/stroke';
import { firstFrom, itemAt } from '#core/song';
import type { Reach } from '#core/path';
import { type ChordFlag, flagAt, passAt, passPattern } from '#core/arrange';
import { usePlayerStore } from '../../stores/player';

/** The time round of the pattern that is looked at, or heard: its chords, and the strings of each slot. */
export function useTurn(pattern: Ref<Pattern>) {
  const player = usePlayerStore();

  const calm = usePreferredReducedMotion();
  const grid = computed(() => slots(pattern.value));
  const length = computed(() => patternTicks(pattern.value));

  const partAt = (bar: number, tick: Ticks) =>
    player.parts[bar]?.find(
      (part) =>
        part.pattern === pattern.value && tick >= part.tick && tick < part.tick + part.ticks,
    );

  /** While it plays, the turn that is heard; else that of the bar looked at, or of the first bar that has it. */
  const turn = computed(() => {
    const { bar, heard: now } = player;
    if (!bar) return null;
    if (now && !now.countIn) {
      const tick = Math.min(Math.max(bar.tick, now.tick), bar.tick + bar.ticks - 1);
      const part = partAt(bar.index, tick);
      return part ? passAt(part, tick) : null;
    }
    const mine = ({ pattern: played }: { pattern: Pattern }) => played === pattern.value;
    const part = player.parts[bar.index]?.find(mine) ?? player.parts.flat().find(mine);
    return part ? passAt(part, part.tick) : null;
  });
  const start = computed(() => turn.value?.start ?? null);
  /** Where the last of its strokes can be, cut where another section begins. */
  const end = computed(() => (start.value === null ? 0 : start.value + length.value));
  /** The bar in which it begins, from 0. */
  const bar = computed(() =>
    start.value === null ? null : (itemAt(player.bars, Math.max(0, start.value))?.index ?? null),
  );

  const flags = computed<ChordFlag[]>(() => {
    const changes = player.performance?.landings ?? [];
    const from = start.value;
    if (from === null) return [];
    const inside = changes.slice(firstFrom(changes, from), firstFrom(changes, end.value));
    const shown = inside.map((change) => flagAt(change.tick - from, change.symbol));
    const before = itemAt(changes, from);
    if (before && before.tick < from) shown.unshift(flagAt(0, before.symbol));
    return shown;
  });
  const chords = computed(() => [...new Set(flags.value.map((flag) => flag.symbol))]);

  const reach = computed(() => {
    const found = new Map<number, Reach>();
    const strikes = player.performance?.strikes ?? [];
    if (start.value === null) return found;
    const inside = strikes.slice(firstFrom(strikes, start.value), firstFrom(strikes, end.value));
    for (const strike of inside) {
      // Only strokes of this pattern: others share its bars, and runs take its place.
      if (strike.run || grid.value[strike.slot]?.tick !== strike.tick - start.value) continue;
      const touched = [...new Set(strike.notes.map((note) => note.string))].sort((a, b) => a - b);
      if (touched.length === 0) continue;
      found.set(strike.slot, {
        first: touched[0]!,
        last: touched.at(-1)!,
        bass: strike.kind === 'bass' ? touched[0]! : null,
        touched,
      });
    }
    return found;
  });

  /** What the fretting hand was to sound in this turn and cannot. */
  const silent = computed(() => {
    const from = start.value;
    if (from === null) return [];
    const said = (player.performance?.silent ?? []).filter(
      ({ tick }) => tick >= from && tick < end.value,
    );
    return [...new Set(said.map(({ message }) => message))];
  });

  /** Ticks into the turn that are heard. */
  const heard = computed(() => {
    const now = player.heard;
    if (!now || now.countIn || start.value === null) return null;
    const at = now.tick - start.value;
    // Where motion is unwelcome, the hand goes from stroke to stroke.
    return calm.value === 'reduce'
      ? (grid.value.findLast(({ tick }) => tick <= at)?.tick ?? 0)
      : at;
  });
  const liveChord = computed(() => {
    const at = heard.value;
    return at === null ? null : (flags.value.findLast(({ tick }) => tick <= at)?.symbol ?? null);
  });

  /** The strokes of this turn: those of a loose pattern vary while it plays. */
  const shown = computed<Pattern>(() => {
    if (!pattern.value.loose || !player.playing || !turn.value) return pattern.value;
    return passPattern(turn.value, player.changes);
  });

  return { flags, chords, reach, silent, heard, liveChord, shown, bar };
}
