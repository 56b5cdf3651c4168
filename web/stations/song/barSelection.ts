import { computed, ref, watch } from 'vue';
import { plural } from '#core/plain';
import type { PlayedBar } from '#core/song';
import { barCommands, type BarPlace, type BarSpan, barsOfSpan } from '#core/edit';
import { announce } from '../../frame/announce';
import { useClipStore } from '../../stores/clip';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';

const placeOf = ({ section, line, bar }: PlayedBar): BarPlace => ({ section, line, bar });

/** The bars that are chosen, and what can be done with them: the buttons and the keys act alike. */
export function useBarSelection() {
  const songs = useSongStore();
  const player = usePlayerStore();
  const clip = useClipStore();
  /** The end that stays while Shift chooses on, as it is played; null where one bar is chosen. */
  const anchor = ref<number | null>(null);

  const focus = computed(() => player.bars[player.selectedBar] ?? player.bars[0] ?? null);
  const start = computed(() =>
    anchor.value === null ? focus.value : (player.bars[anchor.value] ?? focus.value),
  );
  const span = computed<BarSpan | null>(() =>
    focus.value && start.value ? { from: placeOf(start.value), to: placeOf(focus.value) } : null,
  );
  const chosen = computed(() =>
    span.value && songs.song ? barsOfSpan(songs.song, span.value) : [],
  );

  function choose(bar: PlayedBar, extend: boolean): void {
    if (bar.index < 0) return;
    if (extend) anchor.value ??= player.selectedBar;
    else anchor.value = null;
    player.selectedBar = bar.index;
  }

  /** From the first of the chosen bars to the last, as they are played, round and round. */
  function loop(): void {
    if (!focus.value || !start.value) return;
    const [first, last] = [focus.value.index, start.value.index].sort((one, other) => one - other);
    player.loopBars = { first: first!, last: last! };
    player.looping = true;
  }

  /** The chosen bars by their numbers. */
  function named(): string {
    const [first, last] = [start.value?.index ?? 0, focus.value?.index ?? 0].sort((a, b) => a - b);
    return first === last ? `Bar ${first! + 1} is` : `Bars ${first! + 1} to ${last! + 1} are`;
  }

  function copy(): void {
    clip.bars = chosen.value;
    announce(`${named()} copied.`);
  }

  function takeOut(): void {
    if (!span.value) return;
    announce(`${named()} deleted.`);
    const back = Math.min(start.value!.index, focus.value!.index);
    songs.run(barCommands.removeBars(span.value));
    anchor.value = null;
    player.selectedBar = Math.max(0, Math.min(back, player.bars.length - 1));
  }

  function cut(): void {
    copy();
    takeOut();
  }

  function paste(): void {
    if (clip.bars.length === 0) return;
    if (!focus.value) return;
    const first = Math.min(start.value!.index, focus.value.index);
    const place = placeOf(player.bars[first]!);
    announce(`${plural(clip.bars.length, 'bar')} pasted.`);
    songs.run(barCommands.insertBars(place, clip.bars));
    anchor.value = first;
    player.selectedBar = Math.min(first + clip.bars.length, player.bars.length) - 1;
  }

  function pasteOver(): void {
    if (span.value && clip.bars.length > 0)
      songs.run(barCommands.replaceBars(span.value, clip.bars));
    anchor.value = null;
  }

  function repeat(): void {
    if (!span.value) return;
    announce(`${named()} repeated.`);
    songs.run(barCommands.repeatBars(span.value));
  }

  /** Does what a key asks for; false where it asks for nothing here. */
  function key({ key: name, ctrlKey, metaKey }: KeyboardEvent): boolean {
    const act = ctrlKey || metaKey ? WITH_COMMAND[name.toLowerCase()] : ALONE[name.toLowerCase()];
    act?.();
    return act !== undefined;
  }
  const WITH_COMMAND: Record<string, () => void> = { c: copy, x: cut, v: paste, d: repeat };
  const ALONE: Record<string, () => void> = { delete: takeOut, backspace: takeOut, l: loop };

  watch(
    () => player.bars.length,
    (count) => {
      if (anchor.value !== null && anchor.value >= count) anchor.value = null;
    },
  );

  /** Where the chosen bars are written. */
  function places(): BarPlace[] {
    const [first, last] = [start.value?.index ?? 0, focus.value?.index ?? 0].sort((a, b) => a - b);
    const all = player.bars.slice(first, last! + 1).map(placeOf);
    return [
      ...new Map(
        all.map((place) => [`${place.section}/${place.line}/${place.bar}`, place]),
      ).values(),
    ];
  }

  return { span, chosen, choose, loop, copy, cut, takeOut, paste, pasteOver, repeat, key, places };
}
