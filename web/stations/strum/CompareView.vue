<script setup lang="ts">
import Button from 'primevue/button';
import ChooseOne from '../../fields/ChooseOne.vue';
import { computed, onMounted, useTemplateRef, watch } from 'vue';
import type { Pattern } from '#core/schema';
import { patternTicks } from '#core/stroke';
import { alongside, comparePatterns } from '#core/pattern';
import { FRAMES } from '#core/path';
import WristPath from '../../path/WristPath.vue';
import { useViewStore } from '../../stores/view';

/** Two patterns, one laid over the other, with what differs in words; the shorter goes round again. */
const props = defineProps<{
  one: Pattern;
  two: Pattern;
  strings: number;
  /** What the first may be, by name. */
  choices: { label: string; value: string }[];
}>();
defineEmits<{ close: [] }>();
const first = defineModel<string>('first', { required: true });
const view = useViewStore();

/** It opens above a long shelf, from any row of it. */
const section = useTemplateRef('section');
const show = () => section.value?.scrollIntoView({ block: 'nearest' });
onMounted(show);
watch(() => props.two, show, { flush: 'post' });

const WIDTH = 1000;
const differences = computed(() => comparePatterns(props.one, props.two));
const { pad } = FRAMES.middle;
/** Both over the same time, each as wide as its ticks. */
const rows = computed(() => {
  const pair = alongside(props.one, props.two);
  const longest = Math.max(...pair.map(patternTicks));
  return pair.map((pattern) => ({
    pattern,
    width: 2 * pad + ((WIDTH - 2 * pad) * patternTicks(pattern)) / longest,
  }));
});
const rounds = computed(() => {
  const [shorter, longer] = [props.one, props.two].map(patternTicks).toSorted((a, b) => a - b);
  return shorter === longer ? '' : ' The shorter one goes round again.';
});
</script>

<template>
  <section ref="section" class="compare" aria-label="Comparison">
    <p>
      <ChooseOne v-model="first" :options="choices" aria-label="The first of the two" />
      in ink, <b class="other">{{ two.name }}</b> in outline.{{ rounds }}
      <Button size="small" text label="Close" @click="$emit('close')" />
    </p>
    <div class="paths" role="group" aria-label="Both patterns">
      <WristPath
        v-for="({ pattern, width }, row) in rows"
        :key="row"
        :pattern="pattern"
        :strings="strings"
        size="middle"
        :width="width"
        :style="{ width: `${(100 * width) / WIDTH}%` }"
        :flipped="view.bassAtBottom"
        :overlay="row === 1"
      />
    </div>
    <ul v-if="differences.length > 0">
      <li v-for="difference in differences" :key="difference">{{ difference }}</li>
    </ul>
    <p v-else>The same strokes, in the same places.</p>
  </section>
</template>

<style scoped>
.compare {
  display: grid;
  gap: 0.5rem;
  padding: 0.8rem 1rem;
  background: var(--paper-raised);
  border-radius: var(--radius);
  scroll-margin: 1rem;
}

.paths {
  display: grid;
  max-width: 1000px;
}

.paths > * {
  grid-area: 1 / 1;
}

.other {
  color: var(--coral);
}

ul {
  margin: 0;
  padding-left: 1.2rem;
  columns: 2 24rem;
}
</style>
