<script setup lang="ts">
import { useTapKeys } from '../../frame/keys';
import { useIntervalFn } from '@vueuse/core';
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import { computed, ref } from 'vue';
import type { Pattern } from '#core/schema';
import { placeName } from '#core/time';
import { divisions } from '#core/stroke';
import { type ArmReport, WRIST_TEST_SECONDS, wristLimit } from '#core/pattern';
import FormRow from '../../fields/FormRow.vue';
import { useUnsentStore } from '../../stores/unsent';
import { useViewStore } from '../../stores/view';

/** How fast the arm has to be, how fast this player's is, and the test that measures it. */
const props = defineProps<{ report: ArmReport; pattern: Pattern; tempo: number }>();
const view = useViewStore();
const unsent = useUnsentStore();

const where = computed(() =>
  placeName(divisions(props.pattern), props.pattern.meter, props.report.busiestSlot),
);
const limit = computed({
  get: () => view.armLimit,
  set: (value: number | null) => {
    if (value !== null && value >= 1) view.armLimit = value;
  },
});
const atLimit = computed(() => Math.floor(props.report.tempoAtLimit));

/** Moments of the taps, in seconds from the first; null where no test is on. */
const taps = ref<number[] | null>(null);
const left = ref(WRIST_TEST_SECONDS);
const measured = ref<number | null>(null);
const told = ref<string | null>(null);
let began = 0;

const clock = useIntervalFn(
  () => {
    if (taps.value?.length) left.value = WRIST_TEST_SECONDS - (performance.now() - began) / 1000;
    if (left.value <= 0) finish();
  },
  100,
  { immediate: false },
);

function start(): void {
  taps.value = [];
  left.value = WRIST_TEST_SECONDS;
  measured.value = null;
  told.value = null;
  clock.resume();
}

function tap(event: Event): void {
  if (!taps.value) return;
  if (taps.value.length === 0) began = event.timeStamp;
  taps.value.push((event.timeStamp - began) / 1000);
}

function finish(): void {
  const found = wristLimit(taps.value ?? []);
  clock.pause();
  taps.value = null;
  measured.value = found;
  told.value =
    found === null
      ? 'Too few taps to tell. Nothing was changed.'
      : `You keep up ${found.toFixed(1)} moves a second.`;
  // The log has every test; where it cannot be kept, the limit is what counts.
  if (found !== null) {
    const tempo = Number(found.toFixed(1));
    void unsent
      .giveEntry({ kind: 'wrist', tempo, seconds: WRIST_TEST_SECONDS - Math.max(0, left.value) })
      .catch(() => undefined);
  }
}

function take(): void {
  if (measured.value !== null) view.armLimit = measured.value;
  measured.value = null;
}

useTapKeys(
  () => Boolean(taps.value),
  (event) => {
    if (event.key === 'Escape') finish();
    else if (event.key.length > 1 && !event.key.startsWith('Arrow')) return false;
    else tap(event);
    return true;
  },
);
</script>

<template>
  <div class="arm-panel">
    <dl>
      <div>
        <dt>The arm makes</dt>
        <dd>{{ report.rate.toFixed(1) }}</dd>
        <dt>moves a second at {{ tempo }}</dt>
      </div>
      <div>
        <dt>At its busiest, on {{ where }}</dt>
        <dd>{{ report.busiest.toFixed(1) }}</dd>
        <dt>moves a second</dt>
      </div>
      <div>
        <dt>That reaches your limit at</dt>
        <dd>{{ atLimit }}</dd>
        <dt>beats a minute</dt>
      </div>
    </dl>
    <FormRow label="My limit" for="arm-limit">
      <InputNumber
        v-model="limit"
        input-id="arm-limit"
        class="tiny"
        :min="1"
        :max="30"
        :max-fraction-digits="1"
        :allow-empty="false"
      />
      <span class="quiet">moves a second</span>
    </FormRow>
    <FormRow v-if="!taps" label="Measure it">
      <Button label="20 seconds of taps" severity="secondary" @click="start" />
    </FormRow>
    <div v-if="taps" class="row">
      <Button class="pad" label="Tap on every down" @pointerdown="tap" />
      <p role="status">
        {{
          taps.length === 0
            ? 'Swing loosely from the wrist and tap here, or any letter, on every down.'
            : `${Math.max(0, left).toFixed(0)} seconds left, ${taps.length} taps`
        }}
      </p>
      <Button text label="I am done" @click="finish" />
    </div>
    <p v-if="told" role="status">
      {{ told }}
      <Button v-if="measured !== null" size="small" label="Make it my limit" @click="take" />
    </p>
    <p class="quiet">
      Limits here are estimates. Small motion, loose wrist; stop when hand, wrist or forearm hurts,
      tingles or goes numb, and see a clinician for pain that stays.
    </p>
  </div>
</template>

<style scoped>
.arm-panel {
  display: grid;
  gap: 0.8rem;
}

dl {
  display: flex;
  flex-wrap: wrap;
  gap: 0.8rem 2.5rem;
  margin: 0;
}

dd {
  margin: 0;
  font-family: var(--display);
  font-size: 2rem;
  font-weight: 700;
  line-height: 1.1;
}

dt {
  color: var(--ink-soft);
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.8rem;
}

.pad {
  min-width: 14rem;
  min-height: 5rem;
  touch-action: manipulation;
}

.tiny :deep(input) {
  width: 4.2rem;
  text-align: center;
}
</style>
