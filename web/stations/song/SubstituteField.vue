<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import {
  barCommands,
  type BarPlace,
  nearestChords,
  parseChord,
  type Placement,
  type TimeRound,
} from '#core';
import ChooseOne from '../../fields/ChooseOne.vue';
import { useSongStore } from '../../stores/song';

/** Chords that stand in for one, some of the times that its section comes round. */
const props = defineProps<{ place: BarPlace; placement: Placement; name: string }>();
const songs = useSongStore();

const times: { label: string; value: TimeRound }[] = [
  { label: '2nd time', value: 2 },
  { label: '3rd time', value: 3 },
  { label: '4th time', value: 4 },
  { label: 'last time', value: 'last' },
  { label: '1st time', value: 1 },
];
const time = ref<TimeRound>(2);
const symbol = ref('');
const wrong = computed(() => symbol.value !== '' && !parseChord(symbol.value));
const others = computed(() => props.placement.substitutes ?? []);
const nameOf = (asked: TimeRound) =>
  times.find(({ value }) => value === asked)?.label ?? `${asked}th time`;

function set(asked: TimeRound, chord: string | null): void {
  songs.run(barCommands.setSubstitute(props.place, props.placement.at, asked, chord));
}
function add(): void {
  if (!parseChord(symbol.value)) return;
  set(time.value, symbol.value);
  symbol.value = '';
}
</script>

<template>
  <form class="field" @submit.prevent="add">
    <span class="label">another chord, or {{ placement.symbol }}' in another shape,</span>
    <span v-for="other in others" :key="String(other.time)" class="other">
      {{ nameOf(other.time) }}: <b>{{ other.symbol }}</b>
      <Button
        icon="pi pi-times"
        text
        rounded
        size="small"
        :aria-label="`No other chord than ${name} the ${nameOf(other.time)}`"
        @click="set(other.time, null)"
      />
    </span>
    <ChooseOne v-model="time" :options="times" :aria-label="`Time of another chord than ${name}`" />
    <InputText
      v-model.trim="symbol"
      size="small"
      class="symbol"
      maxlength="24"
      :invalid="wrong"
      :aria-label="`Replace ${name} with`"
      placeholder="Am7"
    />
    <Button size="small" text type="submit" label="Replace" :disabled="symbol === '' || wrong" />
    <span v-if="wrong" class="wrong" role="alert">
      “{{ symbol }}” is not a chord we know{{
        nearestChords(symbol).length > 0 ? `; ${nearestChords(symbol).join(', ')}?` : '.'
      }}
    </span>
  </form>
</template>

<style scoped>
.field {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem 0.6rem;
}

.symbol {
  width: 6rem;
}

.wrong {
  color: var(--coral);
}
</style>
