<script setup lang="ts">
import type { Glance } from '#core/schema';

/** What a song is known by: a bar of its rhythm, as small as a stamp, and its first chords. */
defineProps<{ glance: Glance }>();
</script>

<template>
  <span class="glance">
    <svg viewBox="0 22 250 66" aria-hidden="true" focusable="false">
      <path class="arm" :d="glance.arm" />
      <path class="strokes" :d="glance.strokes" />
      <circle v-for="[x, y] in glance.dots" :key="`${x} ${y}`" :cx="x" :cy="y" r="6" />
    </svg>
    <span class="chords quiet">{{ glance.chords.join(' ') }}{{ glance.more ? ' …' : '' }}</span>
  </span>
</template>

<style scoped>
.glance {
  display: flex;
  align-items: center;
  gap: 0.6rem;
  min-width: 0;
}

svg {
  width: 5.4rem;
  height: auto;
  flex: none;
}

.arm {
  fill: none;
  stroke: var(--arm);
  stroke-width: 1.6;
}

.strokes {
  fill: none;
  stroke: var(--ink);
  stroke-width: 5;
}

circle {
  fill: var(--brass);
}

.chords {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
