<script setup lang="ts">
import InputNumber from 'primevue/inputnumber';
import Select from 'primevue/select';
import { computed } from 'vue';
import { commands, holdChord, INSTRUMENTS, type Song, songChords, stringLabel } from '#core';
import ChordCard from '../../components/ChordCard.vue';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';

const songs = useSongStore();
const player = usePlayerStore();
const song = computed<Song>(() => songs.song!);
const chords = computed(() => songChords(song.value));

const liveChord = computed(() => {
  const { heard } = player;
  if (!heard || heard.countIn) return null;
  return player.performance?.landings.findLast(({ tick }) => tick <= heard.tick)?.symbol ?? null;
});

const answer = computed(() => {
  if (chords.value.length === 0) return 'No chords yet: write the progression on the Song station.';
  const held = chords.value.flatMap((symbol) => holdChord(symbol, song.value) ?? []);
  const instrument = INSTRUMENTS[song.value.instrument];
  const strings = [...new Set(held.map(({ bass }) => bass.string))].sort((a, b) => a - b);
  const names = strings.map((string) => stringLabel(instrument, string));
  const list = new Intl.ListFormat('en').format(names);
  const plural = (count: number, word: string) => `${count} ${word}${count === 1 ? '' : 's'}`;
  return `${plural(chords.value.length, 'chord')}; the bass notes lie on ${plural(strings.length, 'string')}: ${list}.`;
});

const schools = [
  { label: 'the lowest string that sounds the root', value: 'root' },
  { label: 'the lowest string of the shape', value: 'lowest' },
];
const instruments = Object.values(INSTRUMENTS).map(({ id, name }) => ({ label: name, value: id }));

const school = computed({
  get: () => song.value.bassSchool,
  set: (value: Song['bassSchool']) => songs.run(commands.setBassSchool(value)),
});
const instrument = computed({
  get: () => song.value.instrument,
  set: (value: Song['instrument']) => songs.run(commands.setInstrument(value)),
});
const capo = computed({
  get: () => song.value.capo,
  set: (value: number | null) => songs.run(commands.setCapo(value ?? 0), true),
});
</script>

<template>
  <section class="station">
    <h1 class="answer">{{ answer }}</h1>
    <div class="settings">
      <label id="instrument-label">Instrument</label>
      <Select
        v-model="instrument"
        aria-labelledby="instrument-label"
        :options="instruments"
        option-label="label"
        option-value="value"
      />
      <label for="capo">Capo at fret</label>
      <InputNumber v-model="capo" input-id="capo" :min="0" :max="9" show-buttons class="capo" />
      <label id="bass-label">A bass strike takes</label>
      <Select
        v-model="school"
        aria-labelledby="bass-label"
        :options="schools"
        option-label="label"
        option-value="value"
      />
    </div>
    <div class="cards">
      <ChordCard
        v-for="symbol in chords"
        :key="symbol"
        :symbol="symbol"
        :instrument="song.instrument"
        :capo="song.capo"
        :bass-school="song.bassSchool"
        :live="symbol === liveChord"
      />
    </div>
  </section>
</template>

<style scoped>
.settings {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem 0.8rem;
}

.settings > :nth-child(odd):not(:first-child) {
  margin-left: 1.2rem;
}

.capo :deep(input) {
  width: 5.6rem;
}

.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(17rem, 1fr));
  gap: 1rem;
}
</style>
