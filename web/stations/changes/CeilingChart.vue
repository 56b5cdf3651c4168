<script setup lang="ts">
import type { Chart } from 'chart.js';
import { useMediaQuery } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { HandKind } from '#core/hand';
import { useChart } from '../../theme/chart';
import type { Colours } from '../../theme/colours';

/**
 * The changes of a song with the tempo up to which the hand has time for each. The names at the side are
 * buttons; the drawing says the same as they do.
 */
const props = defineProps<{
  changes: HandKind[];
  tempo: number;
  /** The one that is looked at. */
  chosen: HandKind | null;
}>();
defineEmits<{ choose: [change: HandKind] }>();

/** Pixels of a row: one under a finger is as high as a fingertip. */
const coarse = useMediaQuery('(pointer: coarse)');
const row = computed(() => (coarse.value ? 46 : 30));
/** The tempos that are drawn; beyond the upper one every song is easy. */
const [LEAST, MOST] = [20, 240];

const upTo = () =>
  Math.min(
    MOST,
    Math.max(props.tempo * 1.35, ...props.changes.map(({ ceiling }) => ceiling ?? LEAST)),
  );

/** The song's tempo as a line over all bars. */
const tempoLine = ({ ink }: Colours) => ({
  id: 'tempo-line',
  afterDatasetsDraw({ ctx, chartArea, scales }: Chart) {
    const x = scales.x!.getPixelForValue(props.tempo);
    ctx.save();
    ctx.strokeStyle = ink;
    ctx.lineWidth = 1.5;
    ctx.setLineDash([5, 4]);
    ctx.beginPath();
    ctx.moveTo(x, chartArea.top);
    ctx.lineTo(x, chartArea.bottom);
    ctx.stroke();
    ctx.restore();
  },
});

/** The tempo is written at the end of each bar. */
const values = ({ ink, paper }: Colours) => ({
  id: 'values',
  afterDatasetsDraw({ ctx, chartArea, scales }: Chart) {
    ctx.save();
    ctx.font = '600 13px "Atkinson Hyperlegible Next Variable", sans-serif';
    ctx.textBaseline = 'middle';
    props.changes.forEach(({ ceiling }, index) => {
      const words =
        ceiling === null ? 'always' : ceiling >= MOST ? `over ${MOST}` : `${Math.floor(ceiling)}`;
      const end = scales.x!.getPixelForValue(Math.min(upTo(), ceiling ?? upTo()));
      const width = ctx.measureText(words).width;
      const inside = end + width + 10 > chartArea.right;
      const [left, middle] = [
        inside ? end - width - 8 : end + 8,
        scales.y!.getPixelForValue(index),
      ];
      if (!inside) {
        // The line of the tempo does not run through the figures.
        ctx.fillStyle = paper;
        ctx.fillRect(left - 2, middle - 8, width + 4, 16);
      }
      ctx.fillStyle = inside ? paper : ink;
      ctx.fillText(words, left, middle);
    });
    ctx.restore();
  },
});

function data({ coral, spruce, arm }: Colours) {
  return {
    labels: props.changes.map(({ from, to }) => `${from} to ${to}`),
    datasets: [
      {
        data: props.changes.map(({ ceiling }) => Math.min(upTo(), ceiling ?? upTo())),
        backgroundColor: props.changes.map((change) => {
          if (change.ceiling !== null && change.ceiling < props.tempo) return coral;
          return change === props.chosen ? spruce : arm;
        }),
        borderRadius: 3,
        barThickness: 14,
      },
    ],
  };
}

const canvas = ref<HTMLCanvasElement>();
useChart(
  canvas,
  (colours) => ({
    type: 'bar',
    data: data(colours),
    plugins: [tempoLine(colours), values(colours)],
    options: {
      indexAxis: 'y',
      layout: { padding: 0 },
      scales: {
        x: { min: LEAST, max: upTo(), display: false },
        y: { display: false },
      },
    },
  }),
  [() => props.changes, () => props.tempo, () => props.chosen],
);

const short = ({ ceiling }: HandKind) => ceiling !== null && ceiling < props.tempo;
</script>

<template>
  <div class="ceilings">
    <ul aria-label="Changes, the one that holds the song back first">
      <li v-for="change in changes" :key="`${change.from} ${change.to}`">
        <button
          type="button"
          :aria-pressed="change === chosen"
          :aria-label="`${change.sentence}; ${change.times === 1 ? 'once' : `${change.times} times`}`"
          :class="{ short: short(change) }"
          @click="$emit('choose', change)"
        >
          <span class="name">{{ change.from }} to {{ change.to }}</span>
          <span class="times">{{ change.times }}×</span>
        </button>
      </li>
    </ul>
    <div class="bars" aria-hidden="true" :style="{ height: `${changes.length * row}px` }">
      <canvas ref="canvas" />
    </div>
  </div>
</template>

<style scoped>
.ceilings {
  display: grid;
  grid-template-columns: minmax(8.5rem, auto) 1fr;
  align-items: start;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  height: v-bind('`${row}px`');
}

button {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 0.6rem;
  width: 100%;
  height: calc(100% - 2px);
  padding: 0 0.6rem 0 0.4rem;
  border: 0;
  border-left: 4px solid transparent;
  background: none;
  color: inherit;
  cursor: pointer;
  text-align: left;
}

button[aria-pressed='true'] {
  background: var(--paper-sunk);
  border-left-color: var(--spruce);
  font-weight: 700;
}

.name {
  white-space: nowrap;
}

.short .name {
  color: var(--coral);
}

/* Coral on the ground of the chosen row is too faint to read. */
button[aria-pressed='true'] .name {
  color: var(--ink);
}

.times {
  color: var(--ink-soft);
  font-size: 0.9rem;
}

/* As high as the names beside it: the drawing takes the size of its box. */
.bars {
  position: relative;
  min-width: 0;
  overflow: hidden;
}
</style>
