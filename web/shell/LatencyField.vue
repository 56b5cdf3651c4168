<script setup lang="ts">
import { useTapKeys } from '../frame/keys';
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue';
import { TAPS_NEEDED, tappedLatency } from '#core/time';
import { ROUND_TRIP_CLICKS, roundTrip } from '#core/take';
import { Capture, whyNot } from '../audio/capture';
import { useMixerStore } from '../stores/mixer';
import { usePlayerStore } from '../stores/player';
import { earWorker } from '../workers/ear';

/**
 * How late this device sounds: set once by hand, or measured by tapping along with the click; and how long a click
 * takes from its loudspeaker into its microphone, which the microphone listens to.
 */
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

/** Clicks are played and listened to: the microphone is open meanwhile. */
const capture = shallowRef<Capture | null>(null);
/** Milliseconds before the first click, and after the last. */
const [BEFORE, AFTER] = [700, 900];
const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));

async function listen(): Promise<void> {
  told.value = '';
  player.stop();
  try {
    capture.value = await Capture.open(
      { heard: () => {}, lost: () => void endListening('The microphone went away.') },
      mixer.microphone,
    );
  } catch (error) {
    told.value = whyNot(error, 'Taps work without one.');
    return;
  }
  const open = capture.value;
  await pause(BEFORE);
  if (capture.value !== open) return;
  const clicks = open.clicks(ROUND_TRIP_CLICKS);
  await pause(1000 * ROUND_TRIP_CLICKS.at(-1)! + AFTER);
  if (capture.value !== open) return;
  capture.value = null;
  const heard = await earWorker().onsetsOf(await open.close());
  const found = roundTrip(
    clicks,
    heard.map(({ seconds }) => seconds),
  );
  if (!found) {
    told.value =
      'The microphone did not hear the clicks. Take the headphones off, turn the loudspeaker up, and try once more.';
    return;
  }
  const [delay, spread] = [Math.round(found.delay * 1000), Math.round(found.spread * 1000)];
  mixer.roundTrips = { ...mixer.roundTrips, [mixer.microphone]: { delay, spread } };
  told.value = `The microphone heard ${found.heard} of ${clicks.length} clicks.`;
}
async function endListening(why: string): Promise<void> {
  const open = capture.value;
  capture.value = null;
  if (!open) return;
  told.value = why;
  await open.close();
}
onBeforeUnmount(() => void endListening(''));

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
    <Button
      size="small"
      text
      :label="capture ? 'Stop listening' : 'Measure by microphone'"
      title="Clicks from the loudspeaker are listened to"
      :disabled="measuring"
      @click="capture ? endListening('') : listen()"
    />
    <p v-if="capture" class="quiet" role="status">
      Clicks for five seconds. Let nothing else sound.
    </p>
    <p v-else-if="mixer.roundTrip" class="quiet">
      From the loudspeaker into this microphone: {{ mixer.roundTrip.delay }} ms, give or take
      {{ mixer.roundTrip.spread }}.
    </p>
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
