import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type { ChartAnswer, ChartReading, ChartRule, ChartWish } from '#core/formats';

/** A chart that was read from a file and is being looked at before a song is made of it. */
export const useIncomingStore = defineStore('incoming', () => {
  const chart = shallowRef<ChartReading | null>(null);
  /** In a chart that writes H for B: its B is a B flat. */
  const flat = ref(true);
  const rule = ref<ChartRule>('bar');
  /** True while the way leads from a song that was just made to its strum. */
  const justMade = ref(false);
  /** True where the chart is one that was there, in another meter. */
  const isReadAgain = ref(false);
  let again: (wish: ChartWish) => Promise<ChartAnswer | null> = () => Promise.resolve(null);
  /** How it was read last. */
  let wished: ChartWish = {};

  /**
   * A chart to look through.
   * @param readAgain reads the file otherwise, where it leaves something open
   */
  function open(read: ChartReading, readAgain: typeof again): void {
    chart.value = read;
    rule.value = 'bar';
    isReadAgain.value = false;
    again = readAgain;
    wished = {};
  }

  /** Reads the file otherwise where it leaves something open; the chart stays where that cannot be. */
  async function readIn(wish: ChartWish): Promise<void> {
    const before = chart.value;
    wished = { ...wished, ...wish };
    const answer = await again(wished);
    if (!answer || !('chart' in answer) || chart.value !== before) return;
    isReadAgain.value = true;
    chart.value = answer.chart;
  }
  return { chart, flat, rule, justMade, isReadAgain, open, readIn };
});
