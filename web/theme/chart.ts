import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  type ChartConfiguration,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
} from 'chart.js';
import { onBeforeUnmount, onMounted, type Ref, shallowRef, watch, type WatchSource } from 'vue';
import { type Colours, useColours } from './colours';

/** Only what is drawn with is brought along. */
Chart.register(
  BarController,
  BarElement,
  CategoryScale,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
);

/**
 * A drawing of numbers that is made anew when they, or the colours of the theme, change. It answers to no
 * pointer: what it says, something beside it says in words.
 * @param canvas to draw on; it takes the size of the box around it
 * @param configuration what is drawn, with the colours as they are
 * @param sources what it is made of
 */
export function useChart(
  canvas: Ref<HTMLCanvasElement | undefined>,
  configuration: (colours: Colours) => ChartConfiguration,
  sources: WatchSource[],
): void {
  const chart = shallowRef<Chart | null>(null);
  const colours = useColours();
  function draw(): void {
    if (!canvas.value) return;
    chart.value?.destroy();
    const made = configuration(colours.value);
    made.options = {
      ...made.options,
      responsive: true,
      maintainAspectRatio: false,
      animation: false,
      events: [],
    };
    chart.value = new Chart(canvas.value, made);
  }
  onMounted(draw);
  watch([...sources, colours], draw);
  onBeforeUnmount(() => chart.value?.destroy());
}
