<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import type { ChangeTime } from '#core/schema';
import { timedChange } from '#core/hand';
import { text } from './text';

/** The timings of one change, newest first, with how they went over time. */
const props = defineProps<{ timings: ChangeTime[] }>();
defineEmits<{ remove: [id: string] }>();

const SHOWN = 8;
const date = new Intl.DateTimeFormat('en', { day: 'numeric', month: 'short' });
const rows = computed(() =>
  props.timings.map((timing) => ({
    ...timing,
    ...timedChange(timing.gaps),
    day: date.format(new Date(timing.madeAt)),
  })),
);
const [WIDTH, HEIGHT] = [240, 48];
const line = computed(() => {
  const all = [...rows.value].reverse();
  const slowest = Math.max(...all.map(({ median }) => median));
  return all
    .map(({ median }, index) => {
      const x = all.length > 1 ? (index / (all.length - 1)) * WIDTH : WIDTH / 2;
      return `${x.toFixed(1)},${(HEIGHT - (median / slowest) * HEIGHT * 0.9).toFixed(1)}`;
    })
    .join(' ');
});
const told = computed(() => {
  const [last, first] = [rows.value[0]!, rows.value.at(-1)!];
  if (last === first) return `Timed once: ${last.median} ms.`;
  const by = first.median - last.median;
  const how = by > 0 ? `${by} ms quicker` : by < 0 ? `${-by} ms slower` : 'as quick';
  return `${how} than on ${first.day}.`;
});
</script>

<template>
  <div class="history">
    <h3>Timed so far</h3>
    <p>{{ told }}</p>
    <svg v-if="rows.length > 1" :viewBox="`-4 -4 ${WIDTH + 8} ${HEIGHT + 8}`" aria-hidden="true">
      <polyline :points="line" />
    </svg>
    <ul>
      <li v-for="row in rows.slice(0, SHOWN)" :key="row.id">
        <span>{{ text.timing(row) }}</span>
        <Button
          size="small"
          text
          rounded
          icon="pi pi-times"
          :aria-label="`Remove the timing of ${row.day}`"
          @click="$emit('remove', row.id)"
        />
      </li>
    </ul>
  </div>
</template>

<style scoped>
.history {
  width: 100%;
}

h3 {
  font-size: 1rem;
}

svg {
  width: 15rem;
  max-width: 100%;
}

polyline {
  fill: none;
  stroke: var(--spruce);
  stroke-width: 2.5;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
</style>
