<script setup lang="ts">
import { useTapKeys } from '../frame/keys';
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import { computed, ref } from 'vue';
import { TAPS_NEEDED, tappedLatency } from '#core';
import { useMixerStore } from '../stores/mixer';
import { usePlayerStore } from '../stores/player';

/** How late this device sounds: set once by hand, or measured by tapping along with the click. */
const mixer = useMixerStore();
const player = usePlayerStore();

const measuring = ref(false);
const taps = ref<number[]>([]);
const told = ref('');
const ENOUGH = TAPS_NEEDED + 4;

const left = computed(() => ENOUGH - taps.value.length);

function begin(): void {
  taps.value = [];
  told.value = '';
  measuring.value = true;
  if (!player.playing) void player.play();
}

function tap(): void {
  taps.value = [...taps.value, player.clock().now];
  if (taps.value.length < ENOUGH) return;
  measuring.value = false;
  const { clicks, device } = player.clock();
  const found = tappedLatency(taps.value, clicks);
  if (!found) {
    told.value = 'Those taps were not near the click. Turn the click on and try once more.';
    return;
  }
  // What the device itself tells of is taken off already.
  mixer.latency = Math.round(Math.max(0, found.delay - device) * 1000);
  told.value = `Your taps come ${Math.round(found.delay * 1000)} ms after the click, give or take ${Math.round(found.spread * 1000)}.`;
}

useTapKeys(
  () => measuring.value,
  ({ key }) => {
    if (key === 'Tab' || key === 'Escape') return false;
    tap();
    return true;
  },
);
</script>

<template>
  <div class="latency">
    <label class="label" for="latency">Sound delay</label>
    <InputNumber
      v-model="mixer.latency"
      input-id="latency"
      class="milliseconds"
      :min="0"
      :max="500"
      suffix=" ms"
      :allow-empty="false"
    />
    <Button
      v-if="!measuring"
      size="small"
      text
      label="Measure"
      title="Tap any key along with the click"
      @click="begin"
    />
    <button v-else type="button" class="pad" @pointerdown.prevent="tap">
      tap with the click: {{ left }} more
    </button>
    <p v-if="told" class="quiet" role="status">{{ told }}</p>
  </div>
</template>

<style scoped>
.latency {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.35rem 0.6rem;
}

.milliseconds :deep(input) {
  width: 5rem;
}

.pad {
  border: 2px solid var(--brass);
  background: none;
  color: inherit;
  border-radius: var(--radius);
  padding: 0.5rem 1rem;
  cursor: pointer;
}
</style>
