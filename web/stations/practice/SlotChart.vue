<script setup lang="ts">
import type { Chart, ChartConfiguration } from 'chart.js';
import { ref } from 'vue';
import type { TakeJudgement } from '#core/schema';
import { useChart } from '../../theme/chart';
import type { Colours } from '../../theme/colours';

/** How late each slot of the pattern comes: the middle half as a bar, its middle as a line. */
const props = defineProps<{ judgement: TakeJudgement }>();

/** The middle of each slot, the moment that was meant, and how far is still in time. */
const lines = ({ ink, arm }: Colours) => ({
  id: 'lines',
  afterDatasetsDraw({ ctx, chartArea, scales }: Chart) {
    const y = (value: number) => scales.y!.getPixelForValue(value);
    ctx.save();
    ctx.strokeStyle = ink;
    ctx.lineWidth = 2;
    props.judgement.bySlot.forEach(({ median }, index) => {
      if (median === null) return;
      const middle = scales.x!.getPixelForValue(index);
      ctx.beginPath();
      ctx.moveTo(middle - 9, y(median));
      ctx.lineTo(middle + 9, y(median));
      ctx.stroke();
    });
    ctx.strokeStyle = arm;
    ctx.lineWidth = 1;
    ctx.setLineDash([4, 4]);
    for (const value of [0, props.judgement.tolerance, -props.judgement.tolerance]) {
      ctx.beginPath();
      ctx.moveTo(chartArea.left, y(value));
      ctx.lineTo(chartArea.right, y(value));
      ctx.stroke();
    }
    ctx.restore();
  },
});

function configuration(colours: Colours): ChartConfiguration {
  const { coral, brass, inkSoft } = colours;
  const { bySlot, tolerance } = props.judgement;
  const widest = Math.max(
    tolerance * 1.5,
    ...bySlot.map(({ median, spread }) => Math.abs(median ?? 0) + (spread ?? 0)),
  );
  const reach = Math.ceil(widest / 20) * 20;
  return {
    type: 'bar',
    plugins: [lines(colours)],
    data: {
      labels: bySlot.map(({ place }) => place.replace(/^the /, '')),
      datasets: [
        {
          data: bySlot.map(({ median, spread }): [number, number] => {
            const half = Math.max(1.5, (spread ?? 0) / 2);
            return [(median ?? 0) - half, (median ?? 0) + half];
          }),
          backgroundColor: bySlot.map(({ median }) =>
            Math.abs(median ?? 0) > tolerance ? coral : brass,
          ),
          maxBarThickness: 22,
          borderRadius: 3,
          borderSkipped: false,
        },
      ],
    },
    options: {
      scales: {
        x: { grid: { display: false }, ticks: { color: inkSoft } },
        y: {
          min: -reach,
          max: reach,
          // Late is to the right on paper, and down here: what comes late hangs.
          reverse: true,
          grid: { display: false },
          ticks: { color: inkSoft, maxTicksLimit: 5 },
        },
      },
    },
  };
}
const canvas = ref<HTMLCanvasElement>();
useChart(canvas, configuration, [() => props.judgement]);

const said = (value: number | null) =>
  value === null
    ? 'not heard'
    : Math.abs(value) < 1
      ? 'on it'
      : `${Math.round(Math.abs(value))} ms ${value > 0 ? 'late' : 'early'}`;
</script>

<template>
  <figure class="slots">
    <figcaption>Early and late, by the count (ms)</figcaption>
    <div class="box" aria-hidden="true"><canvas ref="canvas" /></div>
    <table class="heard-only">
      <caption>
        How late each stroke of the pattern comes
      </caption>
      <tbody>
        <tr v-for="slot in judgement.bySlot" :key="slot.slot">
          <th scope="row">{{ slot.place }}</th>
          <td>{{ said(slot.median) }}, {{ slot.missed }} of {{ slot.count }} missed</td>
        </tr>
      </tbody>
    </table>
  </figure>
</template>

<style scoped>
.slots {
  margin: 0;
}

figcaption {
  font-weight: 650;
}

.box {
  position: relative;
  height: 9rem;
}
</style>
