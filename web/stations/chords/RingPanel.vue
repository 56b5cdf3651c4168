<script setup lang="ts">
import { messageOf } from '#core/plain';
import { useEventListener, useIntervalFn } from '@vueuse/core';
import Button from 'primevue/button';
import ProgressBar from 'primevue/progressbar';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import type { Song } from '#core/schema';
import { stringLabel } from '#core/neck';
import {
  IN_TUNE,
  pitchAt,
  type Recording,
  type RingReport,
  type Tuned,
  tunedString,
} from '#core/take';
import { Capture, whyNot } from '../../audio/capture';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import ChooseFile from '../../fields/ChooseFile.vue';
import { useFrettedStore } from '../../stores/fretted';
import { useMixerStore } from '../../stores/mixer';
import { usePlayerStore } from '../../stores/player';
import { earWorker } from '../../workers/ear';
import { cloneForWorker } from '../../workers/cloneForWorker';
import { readSoundFile } from '../../workers/soundFile';

/** Does it ring? The strings of a shape plucked one by one, and heard; and the same ear for tuning. */
const props = defineProps<{ symbol: string; song: Song }>();
const player = usePlayerStore();
const fretted = useFrettedStore();
const mixer = useMixerStore();
const held = computed(() => fretted.of(props.symbol));

const doing = ref<'ring' | 'tune' | null>(null);
const capture = shallowRef<Capture | null>(null);
const level = ref(0);
const told = ref<string | null>(null);
const busy = ref(false);
const report = shallowRef<RingReport | null>(null);
watch(
  () => props.symbol,
  () => (report.value = null),
);

async function open(what: 'ring' | 'tune'): Promise<void> {
  told.value = null;
  report.value = null;
  player.stop();
  try {
    capture.value = await Capture.open(
      {
        heard: (now) => (level.value = now),
        lost: () => {
          told.value = 'The microphone went away.';
          void close();
        },
      },
      mixer.microphone,
    );
    doing.value = what;
  } catch (error) {
    told.value = whyNot(error, 'A sound file works without one.');
  }
}
async function close(): Promise<Recording | null> {
  const now = capture.value;
  capture.value = null;
  doing.value = null;
  return now ? now.close() : null;
}
onBeforeUnmount(() => void close());

async function judge(recording: Recording): Promise<void> {
  if (!held.value) return;
  busy.value = true;
  try {
    const { instrument } = props.song;
    const [on, shape, pitches] = cloneForWorker([
      instrument,
      held.value.shape,
      held.value.pitches,
    ] as const);
    report.value = await earWorker().ring(recording, on, shape, [...pitches]);
  } catch (error) {
    told.value = messageOf(error);
  } finally {
    busy.value = false;
  }
}
async function stop(): Promise<void> {
  const recording = await close();
  if (recording) await judge(recording);
}
async function read(file: File): Promise<void> {
  told.value = null;
  try {
    await judge(await readSoundFile(file));
  } catch (error) {
    told.value = messageOf(error);
  }
}

/** Samples that a pitch is looked for in, and how sure it has to be. */
const LOOKED_AT = 4800;
const SURE = 0.7;
const NEAR = 15;
const tuning = shallowRef<Tuned | null>(null);
/** The string that is being tuned, or a guess from what is heard. */
const GUESS = -1;
const chosen = ref(GUESS);
const choices = computed(() => [
  { label: 'Guess', value: GUESS },
  ...props.song.instrument.strings.map((_, string) => ({
    label: stringLabel(props.song.instrument, string),
    value: string,
  })),
]);
watch(chosen, () => (tuning.value = null));
/** Strings by their numbers, as players count them: 1 is the farthest from the thumb; 0 guesses. */
function chooseByKey({ key }: KeyboardEvent): void {
  if (doing.value !== 'tune' || !/^\d$/.test(key)) return;
  const string = props.song.instrument.strings.length - Number(key);
  if (key === '0') chosen.value = GUESS;
  else if (string >= 0) chosen.value = string;
}
useEventListener('keydown', chooseByKey);
useIntervalFn(() => {
  if (doing.value !== 'tune' || !capture.value) return;
  const now = capture.value.latest(LOOKED_AT);
  const found = pitchAt(now, 0, now.samples.length);
  if (!found || found.clear < SURE || level.value < 0.01) return;
  const wanted = chosen.value === GUESS ? null : chosen.value;
  tuning.value = tunedString(
    found.midi,
    props.song.instrument,
    wanted,
    tuning.value?.string ?? null,
  );
}, 150);
const tunes = computed(() => {
  if (tuning.value) return tuning.value.says;
  const name = chosen.value === GUESS ? null : choices.value[chosen.value + 1]?.label;
  return name ? `Pluck the ${name} string.` : 'Pluck an open string.';
});
const SIGNS = {
  rings: 'pi-check',
  damped: 'pi-times',
  buzzes: 'pi-exclamation-triangle',
  wrong: 'pi-times',
  'out of tune': 'pi-exclamation-triangle',
  'not heard': 'pi-question',
} as const;
</script>

<template>
  <section aria-label="Does it ring?">
    <p v-if="doing !== 'tune'" class="quiet">
      Hold {{ symbol }} and pluck its strings one by one, slowly, from the one nearest your thumb.
    </p>
    <template v-if="doing === 'ring'">
      <ProgressBar :value="Math.round(level * 100)" :show-value="false" aria-label="Level" />
      <Button label="That was all" icon="pi pi-stop" @click="stop" />
    </template>
    <template v-else-if="doing === 'tune'">
      <ChooseBeside v-model="chosen" :options="choices" aria-label="String that you tune" />
      <p class="quiet">
        The keys 1 to {{ song.instrument.strings.length }} choose a string, 1 the farthest from your
        thumb; 0 guesses.
      </p>
      <p class="tune" role="status">{{ tunes }}</p>
      <div class="needle" aria-hidden="true">
        <span
          v-if="tuning"
          :class="{ good: Math.abs(tuning.cents) <= IN_TUNE }"
          :style="{ left: `${50 + Math.max(-48, Math.min(48, (tuning.cents / 50) * 48))}%` }"
        />
      </div>
      <Button label="Done tuning" icon="pi pi-stop" @click="close" />
    </template>
    <div v-else class="row">
      <Button
        :label="`Listen to ${symbol}`"
        icon="pi pi-microphone"
        :loading="busy"
        :disabled="!held"
        @click="open('ring')"
      />
      <Button label="Tune the strings" icon="pi pi-sliders-v" outlined @click="open('tune')" />
      <ChooseFile label="or a sound file" accept="audio/*,.wav" look="text" @file="read" />
    </div>
    <p v-if="told" role="alert" class="trouble">{{ told }}</p>
    <template v-if="report">
      <div role="status">
        <h2>{{ report.sentence }}</h2>
      </div>
      <ul>
        <li
          v-for="one in report.strings"
          :key="one.string"
          :class="{ good: one.sounds === 'rings' }"
        >
          <i class="pi" :class="SIGNS[one.sounds]" aria-hidden="true" /> {{ one.says }}
          <span v-if="one.cents !== null && Math.abs(one.cents) > NEAR" class="quiet"
            >{{ one.cents > 0 ? '+' : '' }}{{ one.cents }} cents</span
          >
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.7rem;
  justify-items: start;
}

section :deep(.p-progressbar) {
  width: 100%;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

h2 {
  font-size: 1.05rem;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.4rem;
}

li:not(.good) {
  border-left: 4px solid var(--coral);
  padding-left: 0.6rem;
}

.tune {
  font-family: var(--display);
  font-size: 1.4rem;
  font-weight: 650;
}

.needle {
  position: relative;
  width: 100%;
  height: 1.6rem;
  border-radius: var(--radius);
  background: linear-gradient(var(--brass), var(--brass)) center / 2px 100% no-repeat
    var(--paper-raised);
}

.needle span {
  position: absolute;
  top: 0.2rem;
  width: 0.5rem;
  height: 1.2rem;
  margin-left: -0.25rem;
  border-radius: 0.25rem;
  background: var(--coral);
}

.needle .good {
  background: var(--spruce);
}

.trouble {
  border-left: 4px solid var(--coral);
  padding-left: 0.6rem;
}
</style>
