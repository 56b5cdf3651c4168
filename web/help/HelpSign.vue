<script setup lang="ts">
import type { Sign } from './signs';

/** One sign as it is drawn. */
defineProps<{ sign: Sign }>();
</script>

<template>
  <svg class="sign" viewBox="0 0 64 40" aria-hidden="true" focusable="false">
    <path v-for="(part, index) in sign.parts" :key="index" :class="part.looks" :d="part.d" />
    <text v-if="sign.text" :class="sign.text.looks" :x="sign.text.x" :y="sign.text.y">
      {{ sign.text.letters }}
    </text>
  </svg>
</template>

<style scoped>
.sign {
  width: 4rem;
  height: 2.5rem;
  flex: none;
}

path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}

.string {
  stroke: var(--string);
  stroke-width: 1.2;
}

.arm {
  stroke: var(--arm);
  stroke-width: 1.4;
}

.pass {
  stroke: var(--arm);
  stroke-dasharray: 2 3;
}

.rest {
  stroke: var(--arm);
  stroke-width: 3;
}

.kink {
  stroke: var(--coral);
}

.brush {
  fill: var(--ink);
  stroke: none;
}

.hollow {
  fill: var(--paper-raised);
  stroke-width: 1.4;
}

.dot {
  fill: var(--brass);
  stroke: none;
}

.flag {
  fill: var(--spruce);
  stroke: none;
}

.mark {
  stroke: var(--coral);
  stroke-width: 4;
  stroke-linecap: round;
}

.wedge {
  fill: var(--ink-soft);
  opacity: 0.6;
  stroke: none;
}

text {
  text-anchor: middle;
  font-size: 11px;
  font-weight: 700;
  fill: var(--ink);
}

.glyph {
  font-size: 24px;
}

.light {
  fill: var(--paper-raised);
}

.soft {
  fill: var(--ink-soft);
}
</style>
