import { useIntervalFn } from '@vueuse/core';
import { computed, ref } from 'vue';
import { gapsOf } from '#core/hand';

/** How long a change is timed, in seconds. */
export const TIMED_SECONDS = 30;

/**
 * Times a change to and fro: `ready` is told each time that the next chord is there, by whoever hears or sees
 * it: keys and pads, or an ear that listens.
 * @param clock seconds, going forward
 * @param done called with the gaps in milliseconds once the time is over, or it is ended
 */
export function useChangeTimer(
  done: (gaps: number[]) => void,
  clock: () => number = () => performance.now() / 1000,
) {
  const running = ref(false);
  const moments = ref<number[]>([]);
  const now = ref(0);
  let began = 0;
  const ticking = useIntervalFn(
    () => {
      now.value = clock();
      if (left.value <= 0) end();
    },
    100,
    { immediate: false },
  );
  const left = computed(() => Math.max(0, TIMED_SECONDS - (now.value - began)));

  function start(): void {
    began = now.value = clock();
    moments.value = [];
    running.value = true;
    ticking.resume();
  }

  function ready(at: number = clock()): void {
    if (running.value) moments.value = [...moments.value, at];
  }

  function end(): void {
    if (!running.value) return;
    running.value = false;
    ticking.pause();
    done(gapsOf(moments.value));
  }

  return { running, moments, left, start, ready, end };
}
