<script setup lang="ts">
import Button from 'primevue/button';
import ChooseOne from '../../components/ChooseOne.vue';
import { computed } from 'vue';
import { comparePatterns, type Pattern } from '#core';
import WristPath from '../../components/WristPath.vue';
import { useViewStore } from '../../stores/view';

/** Two patterns, one laid over the other where they are as long, with what differs in words. */
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

const WIDTH = 1000;
const differences = computed(() => comparePatterns(props.one, props.two));
const alike = computed(
  () =>
    props.one.beats.length === props.two.beats.length &&
    props.one.meter.unit === props.two.meter.unit,
);
</script>

<template>
  <section class="compare" aria-label="Comparison">
    <p>
      <ChooseOne v-model="first" :options="choices" aria-label="The first of the two" />
      in ink, <b class="other">{{ two.name }}</b> {{ alike ? 'in outline.' : 'below it.' }}
      <Button size="small" text label="Close" @click="$emit('close')" />
    </p>
    <div class="paths" :class="{ laid: alike }">
      <WristPath
        :pattern="one"
        :strings="strings"
        size="middle"
        :width="WIDTH"
        :flipped="view.bassAtBottom"
      />
      <WristPath
        :pattern="two"
        :strings="strings"
        size="middle"
        :width="WIDTH"
        :flipped="view.bassAtBottom"
        :overlay="alike"
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
}

.paths {
  display: grid;
  max-width: 1000px;
}

.laid > * {
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
