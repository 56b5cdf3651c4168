<script setup lang="ts">
import { computed } from 'vue';
import { plural } from '#core/plain';
import { beatTicks } from '#core/time';
import { usePlayerStore } from '../stores/player';
import { nowNext } from './nowNext';

/** While it plays: the chord under the hand, the one that comes, and the beats until it does. */
const player = usePlayerStore();

const heard = computed(() => player.heard);
const bar = computed(() => player.bar);
const beat = computed(() => (bar.value ? beatTicks(bar.value.meter) : 960));
const all = computed(() =>
  nowNext(
    player.performance?.landings ?? [],
    heard.value?.countIn ? (heard.value.start ?? 0) - 1 : (heard.value?.tick ?? 0),
    player.loop,
  ),
);
const left = computed(() => Math.max(1, Math.ceil(all.value.wait / beat.value)));
const soon = computed(() => {
  const bars = bar.value ? all.value.wait / bar.value.ticks : 0;
  if (heard.value?.countIn) return 'comes in';
  if (left.value > (bar.value?.meter.beats ?? 4)) return `in ${Math.ceil(bars)} bars`;
  return `in ${plural(left.value, 'beat')}`;
});
</script>

<template>
  <p v-if="heard" class="now" aria-label="Chord now and next" aria-live="off">
    <span class="chord">{{ heard.countIn ? '' : (all.now ?? '–') }}</span>
    <template v-if="all.next">
      <span class="wait">{{ soon }}</span>
      <span class="chord next" :class="{ close: left <= 1 && !heard.countIn }">{{ all.next }}</span>
    </template>
  </p>
</template>

<style scoped>
.now {
  display: flex;
  align-items: baseline;
  gap: 1.2rem;
  font-family: var(--display);
  font-variant-numeric: tabular-nums;
}

.chord {
  font-size: 3.4rem;
  font-weight: 700;
  line-height: 1;
  letter-spacing: -0.02em;
}

.next {
  color: var(--ink-soft);
  font-weight: 600;
}

.close {
  color: var(--brass-ink);
}

.wait {
  font-size: 1.2rem;
  color: var(--ink-soft);
  min-width: 6rem;
}
</style>
