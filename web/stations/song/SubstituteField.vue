<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import type { Placement, TimeRound } from '#core/schema';
import { parseChord } from '#core/neck';
import { roundWords } from '#core/song';
import { barCommands, type BarPlace } from '#core/edit';
import ChooseOne from '../../fields/ChooseOne.vue';
import { useSongStore } from '../../stores/song';
import { text } from './text';

/** Chords that stand in for one, some of the times that its section comes round. */
const props = defineProps<{ place: BarPlace; placement: Placement; name: string }>();
const songs = useSongStore();

const times = ([2, 3, 4, 'last', 1] as TimeRound[]).map((value) => ({
  label: roundWords(value),
  value,
}));
const time = ref<TimeRound>(2);
const symbol = ref('');
const wrong = computed(() => symbol.value !== '' && !parseChord(symbol.value));
const others = computed(() => props.placement.substitutes ?? []);

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
    <span v-for="other in others" :key="String(other.time)" class="other">
      {{ roundWords(other.time) }}: <b>{{ other.symbol }}</b>
      <Button
        icon="pi pi-times"
        text
        rounded
        size="small"
        :aria-label="`No other chord than ${name} the ${roundWords(other.time)}`"
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
      {{ text.noChord(symbol) }}
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
