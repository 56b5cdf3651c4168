<script setup lang="ts">
import InputNumber from 'primevue/inputnumber';
import InputText from 'primevue/inputtext';
import { computed } from 'vue';
import { commands } from '#core/edit';
import FormRow from '../../fields/FormRow.vue';
import { usePracticeStore } from '../../stores/practice';
import { useSongStore } from '../../stores/song';
import BesidePanel from './BesidePanel.vue';

/** What the song is practised for, the rules of climbing, and what is played beside the ladder. */
const practice = usePracticeStore();
const songs = useSongStore();
const wishes = computed(() => songs.song?.practice ?? {});
const set = (change: Parameters<typeof commands.setPractice>[0], name: string) =>
  songs.run(commands.setPractice(change, name), true);

const goal = computed({
  get: () => practice.rules.goal,
  set: (value: number | null) => {
    if (value !== null)
      set({ goal: value === songs.song?.tempo ? undefined : value }, 'set the goal');
  },
});
const by = computed({
  get: () => wishes.value.by ?? '',
  set: (value: string) => {
    if (value === '' || /^\d{4}-\d{2}-\d{2}$/.test(value))
      set({ by: value === '' ? undefined : value }, 'set the day of the goal');
  },
});
const step = computed({
  get: () => practice.rules.step,
  set: (value: number | null) => {
    if (value !== null) set({ step: value }, 'set the step');
  },
});
const clean = computed({
  get: () => practice.rules.clean,
  set: (value: number | null) => {
    if (value !== null) set({ clean: value }, 'set how often clean');
  },
});
const pauseAfter = computed({
  get: () => practice.pauseAfter,
  set: (value: number | null) => {
    if (value !== null) practice.pauseAfter = value;
  },
});
</script>

<template>
  <section aria-label="Goal and rules">
    <FormRow label="Goal" for="goal">
      <InputNumber v-model="goal" input-id="goal" :min="20" :max="300" show-buttons />
    </FormRow>
    <FormRow label="By the day" for="by">
      <InputText id="by" v-model.lazy="by" type="date" />
    </FormRow>
    <FormRow label="Step" for="step">
      <InputNumber v-model="step" input-id="step" :min="1" :max="20" show-buttons />
    </FormRow>
    <FormRow label="Clean, in a row" for="clean">
      <InputNumber v-model="clean" input-id="clean" :min="1" :max="5" show-buttons />
    </FormRow>
    <FormRow label="Rest after, minutes" for="pause">
      <InputNumber v-model="pauseAfter" input-id="pause" :min="0" :max="120" show-buttons />
    </FormRow>
    <p class="quiet">
      A rung begins at three quarters of what was clean, or at what your changes allow. Clean as
      often as said, it goes up: twice the step while more than a quarter is missing, half of it
      near the goal. The same trouble twice: the place alone, then slower.
    </p>
    <BesidePanel />
  </section>
</template>

<style scoped>
section {
  --form-labels: 9rem;

  display: grid;
  gap: 0.3rem;
}
</style>
