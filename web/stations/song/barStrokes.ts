import { computed, ref, type Ref, watch } from 'vue';
import type { Pattern, Stroke } from '#core/schema';
import { naturalDirections, slots, sounds } from '#core/stroke';
import { placeStroke, strum } from '#core/pattern';
import { patternAction } from '../../path/patternKeys';

/**
 * Strokes placed on the path of one bar, by pointer and by the keys of Strum: the bar then has a strum of its own.
 * @param now what the bar plays
 * @param drawn the pattern that is drawn; null where none is
 * @param say takes the bar's rhythm with the stroke on it
 */
export function useBarStrokes(
  now: Ref<Pattern>,
  drawn: () => Pattern | null,
  say: (pattern: Pattern) => void,
) {
  /** The slot that keys act on; null until the path is touched. */
  const cursor = ref<number | null>(null);
  const grid = computed(() => slots(now.value));
  const natural = computed(() => naturalDirections(now.value));
  watch(
    () => grid.value.length,
    () => (cursor.value = null),
  );
  /** What is drawn is what the bar is said to play: notes of a run or of a line are placed elsewhere. */
  const isPlain = computed(() => {
    const pattern = drawn();
    return pattern !== null && slots(pattern).length === grid.value.length;
  });
  const put = (slot: number, stroke: Stroke) => say(placeStroke(now.value, slot, stroke));

  /** A swipe places a stroke; a tap chooses one, and changes the one that is chosen. */
  function touch(slot: number, gesture: 'tap' | 'down' | 'up', accented: boolean): void {
    const accent = accented ? 'accent' : 'normal';
    const was = cursor.value;
    cursor.value = slot;
    if (gesture !== 'tap') return put(slot, strum(gesture, accent));
    if (was !== slot) return;
    const isStruck = sounds(grid.value[slot]!.stroke);
    put(slot, isStruck && !accented ? { kind: 'miss' } : strum(natural.value[slot]!, accent));
  }

  function pressKey(event: KeyboardEvent): void {
    // A flag, or a mark under the path, has keys of its own.
    if (event.target !== event.currentTarget || !isPlain.value) return;
    const at = cursor.value ?? 0;
    const action = patternAction(event, natural.value[at] ?? 'down');
    const { length } = grid.value;
    const go = (slot: number) => (cursor.value = (slot + length) % length);
    switch (action?.do) {
      case 'place':
        put(at, action.stroke);
        go(at + 1);
        break;
      case 'change':
        put(at, action.change(grid.value[at]!.stroke));
        break;
      case 'erase':
        go(at - 1);
        put(cursor.value!, { kind: 'miss' });
        break;
      case 'move':
        go(at + action.by);
        break;
      case 'edge':
        go(action.to === 'first' ? 0 : -1);
        break;
      default:
        return;
    }
    event.preventDefault();
    event.stopPropagation();
  }

  return { cursor, isPlain, touch, pressKey };
}
