<script setup lang="ts">
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import type { Song } from '#core/schema';
import { guessKey, keyChords, keyName } from '#core/neck';
import { songChords } from '#core/song';
import { changeDrill, randomChanges, tour, type TourOf, type TourOrder } from '#core/practice';
import ChooseOne from '../../fields/ChooseOne.vue';
import FormRow from '../../fields/FormRow.vue';
import { useHandStore } from '../../stores/hand';
import { usePracticeStore } from '../../stores/practice';
import { useSongStore } from '../../stores/song';

/** What is played beside the ladder: tours through many chords, the changes of the song shuffled, one change. */
const practice = usePracticeStore();
const songs = useSongStore();
const hand = useHandStore();

const chords = computed(() => (songs.song ? songChords(songs.song) : []));
const key = computed(() => guessKey(chords.value));
type Through = 'key' | 'majors' | 'minors' | 'random' | 'change';
const through = ref<Through>('key');
const throughs = computed(() => [
  { label: `a tour of the chords of ${keyName(key.value)}`, value: 'key' as const },
  { label: 'a tour of all majors', value: 'majors' as const },
  { label: 'a tour of all minors', value: 'minors' as const },
  ...(chords.value.length > 1
    ? [
        { label: 'the song’s changes in random order', value: 'random' as const },
        { label: 'one change, to and fro', value: 'change' as const },
      ]
    : []),
]);
const order = ref<TourOrder>('fifths');
const orders: { label: string; value: TourOrder }[] = [
  { label: 'by fifths', value: 'fifths' },
  { label: 'step by step', value: 'steps' },
  { label: 'shuffled', value: 'shuffled' },
];
/** The changes of the song, the tightest first. */
const changes = computed(() =>
  (hand.found?.changes ?? []).map(({ from, to }) => ({
    label: `${from} to ${to}`,
    value: `${from} ${to}`,
  })),
);
const picked = ref<string | null>(null);
const change = computed({
  get: () => picked.value ?? changes.value[0]?.value ?? '',
  set: (value: string) => (picked.value = value),
});

let seed = 0;
function made(song: Song): Song | null {
  switch (through.value) {
    case 'random':
      return randomChanges(song, song.pattern, chords.value, seed);
    case 'change':
      return change.value ? changeDrill(song, song.pattern, change.value.split(' ')) : null;
    default: {
      const of: TourOf = through.value === 'key' ? { key: key.value } : through.value;
      return tour(song, song.pattern, of, order.value, seed);
    }
  }
}
function setOut(): void {
  seed += 1;
  const song = songs.song && made(songs.song);
  if (song) practice.setOut(song);
}
</script>

<template>
  <section aria-label="Beside the ladder">
    <h2>Beside the ladder</h2>
    <p class="quiet">
      The pattern through other chords, each with its bass, heard and judged like a rung. In
      {{ keyName(key) }} lie {{ keyChords(key).join(' ') }}.
    </p>
    <FormRow v-slot="{ labelId }" label="Through">
      <ChooseOne v-model="through" :options="throughs" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow v-if="through === 'change'" v-slot="{ labelId }" label="Which change">
      <ChooseOne v-model="change" :options="changes" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow v-else-if="through !== 'random'" v-slot="{ labelId }" label="In which order">
      <ChooseOne v-model="order" :options="orders" :aria-labelledby="labelId" />
    </FormRow>
    <div class="row">
      <Button
        v-if="practice.drill"
        label="Back to the ladder"
        icon="pi pi-arrow-left"
        outlined
        @click="practice.drill = null"
      />
      <Button v-else label="Set out" icon="pi pi-compass" outlined @click="setOut" />
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.4rem;
}

h2 {
  font-size: 1.05rem;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
}
</style>
