<script setup lang="ts">
import type { Point } from '#core/path';

/** The hand that rides the curve while it plays: a pick held over the strings. */
defineProps<{ at: Point; big: boolean }>();
</script>

<template>
  <g
    class="hand"
    data-testid="riding-hand"
    :transform="`translate(${at.x} ${at.y}) scale(${big ? 1 : 0.5})`"
  >
    <circle r="15" class="halo" />
    <path d="M-10,-9Q0,-15 10,-9Q9,4 0,13Q-9,4 -10,-9Z" />
  </g>
</template>

<style scoped>
.halo {
  fill: var(--brass);
  opacity: 0.25;
}

path {
  fill: var(--brass);
  stroke: var(--paper);
  stroke-width: 1.5;
}
</style>
