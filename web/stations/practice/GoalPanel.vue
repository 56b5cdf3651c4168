<script setup lang="ts">
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import {
  commands,
  keyChords,
  guessKey,
  keyName,
  songChords,
  tour,
  type TourOf,
  type TourOrder,
} from '#core';
import ChooseOne from '../../fields/ChooseOne.vue';
import { usePracticeStore } from '../../stores/practice';
import { useSongStore } from '../../stores/song';

/** What the song is practised for, the rules of climbing, and tours through the chords. */
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

const key = computed(() => guessKey(songs.song ? songChords(songs.song) : []));
const through = ref<'key' | 'majors' | 'minors'>('key');
const order = ref<TourOrder>('fifths');
const throughs = computed(() => [
  { label: `the chords of ${keyName(key.value)}`, value: 'key' },
  { label: 'all majors', value: 'majors' },
  { label: 'all minors', value: 'minors' },
]);
const orders = [
  { label: 'by fifths', value: 'fifths' },
  { label: 'step by step', value: 'steps' },
  { label: 'shuffled', value: 'shuffled' },
];
let seed = 0;
function setOut(): void {
  const { song } = songs;
  if (!song) return;
  const of: TourOf = through.value === 'key' ? { key: key.value } : through.value;
  seed += 1;
  practice.setLoop(null);
  practice.aside = tour(song, song.pattern, of, order.value, seed);
}
</script>

<template>
  <section aria-label="Goal and rules">
    <div class="fields">
      <label for="goal">Goal</label>
      <InputNumber v-model="goal" input-id="goal" :min="20" :max="300" show-buttons />
      <label for="by">by</label>
      <InputText id="by" v-model.lazy="by" type="date" />
      <label for="step">Step</label>
      <InputNumber v-model="step" input-id="step" :min="1" :max="20" show-buttons />
      <label for="clean">Clean, in a row</label>
      <InputNumber v-model="clean" input-id="clean" :min="1" :max="5" show-buttons />
      <label for="pause">A pause after, minutes</label>
      <InputNumber v-model="pauseAfter" input-id="pause" :min="0" :max="120" show-buttons />
    </div>
    <p class="quiet">
      A rung begins at three quarters of what was clean, or at what your changes allow. Clean as
      often as said, it goes up: twice the step while more than a quarter is missing, half of it
      near the goal. The same trouble twice: the place alone, then slower.
    </p>
    <h2>A tour</h2>
    <p class="quiet">
      The pattern through many chords, each with its bass: {{ keyChords(key).join(' ') }}.
    </p>
    <div class="row">
      <ChooseOne v-model="through" :options="throughs" aria-label="Through" />
      <ChooseOne v-model="order" :options="orders" aria-label="In which order" />
      <Button
        v-if="practice.aside"
        label="Back to the ladder"
        icon="pi pi-arrow-left"
        outlined
        @click="practice.aside = null"
      />
      <Button v-else label="Set out" icon="pi pi-compass" outlined @click="setOut" />
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.7rem;
}

h2 {
  font-size: 1.05rem;
}

.fields {
  display: grid;
  grid-template-columns: auto minmax(0, 10rem);
  align-items: center;
  gap: 0.5rem 0.9rem;
}

.fields :deep(input) {
  width: 100%;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
}
</style>
