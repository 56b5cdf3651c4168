<script setup lang="ts">
import { useNow } from '@vueuse/core';
import Button from 'primevue/button';
import { computed } from 'vue';
import { useLogStore } from '../stores/log';
import { usePlanWay } from './planWay';

/** While an evening is gone through: what it is now, how long still, and what comes next. */
const log = useLogStore();
const { goTo } = usePlanWay();
const now = useNow({ interval: 1000 });

const running = computed(() => log.running);
const item = computed(() => running.value?.items[running.value.at] ?? null);
const next = computed(() => running.value?.items[running.value.at + 1] ?? null);
const left = computed(() => {
  if (!running.value || !item.value) return '';
  const seconds = item.value.minutes * 60 - (now.value.getTime() - running.value.since) / 1000;
  const whole = Math.max(0, Math.ceil(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
});
function goOn(): void {
  const following = log.goOn();
  if (following) goTo(following);
}
</script>

<template>
  <aside v-if="running && item" class="strip" aria-label="Tonight">
    <span class="left">{{ left }}</span>
    <span class="what">
      <strong>{{ running.at + 1 }} of {{ running.items.length }}: {{ item.what }}</strong>
      <span v-if="next" class="quiet">then {{ next.what }}</span>
    </span>
    <Button :label="next ? 'Next' : 'Done'" icon="pi pi-arrow-right" size="small" @click="goOn" />
    <Button label="Stop the plan" size="small" text @click="log.running = null" />
  </aside>
</template>

<style scoped>
.strip {
  display: flex;
  align-items: center;
  gap: 0.8rem;
  padding: 0.2rem 2rem;
  background: var(--paper-sunk);
}

.left {
  font-family: var(--display);
  font-weight: 700;
  font-size: 1.2rem;
  font-variant-numeric: tabular-nums;
  color: var(--brass-ink);
}

.what {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0 0.8rem;
}

@media (max-width: 40rem) {
  .strip {
    padding: 0.2rem 0.8rem;
  }

  .what .quiet {
    display: none;
  }
}
</style>
