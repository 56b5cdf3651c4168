import { useEventListener, useResizeObserver, useVirtualList } from '@vueuse/core';
import { computed, nextTick, onBeforeUnmount, onMounted, type Ref, ref, watch } from 'vue';

/** Pixels of a row before one is measured. */
const ROW = 56;
/** Fewer rows than this are all drawn. */
const FEW = 60;
/** Rows that are drawn above and below what is in sight; what stands over the list is among them. */
const AROUND = 14;

/** How far down the shelf was when it was left, for the way back to it. */
let place = 0;

/**
 * The songs of a long shelf that are in sight, and the room that the others take.
 * @param songs all of them, in order
 * @param list the list on the page, whose rows are all as high
 */
export function useVisibleSongs<Song>(songs: Ref<Song[]>, list: Ref<HTMLElement | null>) {
  const height = ref(ROW);
  const {
    list: near,
    containerProps,
    wrapperProps,
    scrollTo,
  } = useVirtualList(songs, {
    itemHeight: () => height.value,
    overscan: AROUND,
  });
  const all = computed(() => songs.value.length <= FEW);
  const inSight = computed(() =>
    all.value
      ? songs.value.map((song, at) => ({ song, at }))
      : near.value.map(({ data, index }) => ({ song: data, at: index })),
  );
  const room = computed(() => (all.value ? {} : wrapperProps.value.style));

  const scroller = () => document.getElementById('main');
  useResizeObserver(list, () => {
    const row = list.value?.querySelector('li');
    if (row && !all.value) height.value = row.getBoundingClientRect().height;
  });
  onMounted(async () => {
    containerProps.ref.value = scroller();
    useEventListener(scroller(), 'scroll', containerProps.onScroll);
    await nextTick();
    scroller()?.scrollTo({ top: place });
    containerProps.onScroll();
  });
  // Another order, or other words to search for, begin at the top.
  watch(
    () => songs.value.length,
    (now, before) => {
      if (now < before / 2) scrollTo(0);
    },
  );
  onBeforeUnmount(() => (place = scroller()?.scrollTop ?? 0));

  return { inSight, room };
}
