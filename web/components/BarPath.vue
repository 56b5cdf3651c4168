<script setup lang="ts">
import type { Pattern } from '#core';
import type { Flag } from './PathFlags.vue';
import WristPath from './WristPath.vue';

/** One bar of a song as it is written: a small wrist path with its flags and its number. */
defineProps<{
  pattern: Pattern;
  strings: number;
  flags: Flag[];
  number: number;
  /** In words, for a screen reader. */
  label: string;
  live: boolean;
  selected: boolean;
  heard: number | null;
}>();
defineEmits<{ choose: [] }>();
</script>

<template>
  <button
    type="button"
    class="bar"
    :class="{ live, selected }"
    :aria-label="label"
    :aria-pressed="selected"
    @click="$emit('choose')"
  >
    <span class="number" aria-hidden="true">{{ number }}</span>
    <WristPath :pattern="pattern" :strings="strings" :flags="flags" :heard="heard" size="small" />
  </button>
</template>

<style scoped>
.bar {
  border: 0;
  background: none;
  padding: 0.25rem 0.4rem 0.35rem;
  text-align: left;
  color: inherit;
  cursor: pointer;
  border-radius: var(--radius);
  border-bottom: 3px solid transparent;
  display: block;
  position: relative;
}

.bar:hover {
  background: var(--paper-raised);
}

.bar.selected {
  background: var(--paper-raised);
}

.bar.live {
  border-bottom-color: var(--brass);
}

.number {
  position: absolute;
  right: 0.5rem;
  top: 0.2rem;
  font-size: 0.8rem;
  color: var(--ink-soft);
}
</style>
