import { useResizeObserver, useScroll } from '@vueuse/core';
import { computed, type Ref } from 'vue';

/** Share of what is in sight that one press goes on by. */
const BY = 0.7;

/**
 * Whether a row that scrolls sideways has more than is in sight, and a way to go there.
 * @param row the element that scrolls
 * @returns whether there is more at its end, and what goes on to it
 */
export function useOverflow(row: Ref<HTMLElement | null | undefined>) {
  const { arrivedState, measure } = useScroll(row, { behavior: 'smooth' });
  useResizeObserver(row, measure);
  const hasMore = computed(() => !arrivedState.right);
  function goOn(): void {
    const { value } = row;
    value?.scrollBy({ left: value.clientWidth * BY });
  }
  return { hasMore, goOn, measure };
}
