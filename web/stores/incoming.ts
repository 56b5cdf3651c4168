import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type { ChartReading, ChartRule } from '#core';

/** A chart that was read from a file and is being looked at before a song is made of it. */
export const useIncomingStore = defineStore('incoming', () => {
  const chart = shallowRef<ChartReading | null>(null);
  /** In a chart that writes H for B: its B is a B flat. */
  const flat = ref(true);
  const rule = ref<ChartRule>('bar');
  /** True while the way leads from a song that was just made to its strum. */
  const justMade = ref(false);
  return { chart, flat, rule, justMade };
});
