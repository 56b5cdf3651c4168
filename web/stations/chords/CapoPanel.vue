<script setup lang="ts">
import { cloneForWorker } from '../../workers/cloneForWorker';
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import { useAsyncState, watchDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { Song } from '#core/schema';
import { type CapoOption, keyName, usesFlats } from '#core/neck';
import { songChanges } from '#core/song';
import { commands } from '#core/edit';
import FormRow from '../../fields/FormRow.vue';
import { useSongStore } from '../../stores/song';
import { neckWorker } from '../../workers/neck';
import { text } from './text';

/** Where a capo makes the set easiest, in the key that sounds now or near it for a singer. */
const props = defineProps<{ song: Song }>();
const songs = useSongStore();
const lower = ref(0);
const higher = ref(0);

const sequence = computed(() => songChanges(props.song).sequence);
const found = useAsyncState(
  () =>
    neckWorker().capoOptions({
      instrument: cloneForWorker(props.song.instrument),
      sequence: [...sequence.value],
      capo: props.song.capo,
      lowest: -lower.value,
      highest: higher.value,
    }),
  [] as CapoOption[],
  { resetOnExecute: false },
);
watchDebounced(
  () => [lower.value, higher.value, sequence.value, props.song.capo, props.song.instrument],
  () => found.execute(),
  { debounce: 150 },
);

const SHOWN = 6;
const isNow = (option: CapoOption) => option.capo === props.song.capo && option.shift === 0;
const rows = computed(() => {
  const best = found.state.value.slice(0, SHOWN);
  const now = found.state.value.find(isNow);
  return now && !best.includes(now) ? [...best, now] : best;
});

function take(option: CapoOption): void {
  songs.run(commands.takeCapo(option.capo, option.shift, usesFlats(option.fingeredKey)));
}
</script>

<template>
  <section class="capo" aria-label="Capo finder">
    <FormRow label="Lower by" for="lower">
      <InputNumber v-model="lower" input-id="lower" :min="0" :max="6" class="tiny" show-buttons />
      <span class="quiet">semitones at most</span>
    </FormRow>
    <FormRow label="Higher by" for="higher">
      <InputNumber v-model="higher" input-id="higher" :min="0" :max="6" class="tiny" show-buttons />
      <span class="quiet">semitones at most</span>
    </FormRow>
    <ol>
      <li
        v-for="option in rows"
        :key="`${option.capo}/${option.shift}`"
        :class="{ now: isNow(option) }"
      >
        <div>
          <strong>{{ option.capo === 0 ? 'No capo' : `Capo ${option.capo}` }}</strong>
          {{ text.capo(keyName(option.soundingKey), option.sounds, option.barres) }}
        </div>
        <div class="chords">
          <span v-for="chord in option.chords" :key="chord.written">
            {{ chord.fingered
            }}<small v-if="chord.sounding !== chord.fingered"> sounds {{ chord.sounding }}</small>
          </span>
        </div>
        <span v-if="isNow(option)" class="quiet">as it is now</span>
        <Button
          v-else
          size="small"
          label="Use it"
          :aria-label="`Use capo ${option.capo}, fingered in ${keyName(option.fingeredKey)}`"
          @click="take(option)"
        />
      </li>
    </ol>
    <p v-if="found.isReady.value && rows.length === 0" class="quiet">No chords to move yet.</p>
  </section>
</template>

<style scoped>
.capo {
  display: grid;
  gap: 0.6rem;
  align-content: start;
}

.tiny :deep(input) {
  width: 3.6rem;
  text-align: center;
}

ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.6rem;
}

li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0.1rem 0.8rem;
  align-items: center;
  padding: 0.5rem 0.7rem;
  border-radius: var(--radius);
  background: var(--paper-raised);
}

li > :last-child {
  grid-row: 1 / span 2;
  grid-column: 2;
}

.now {
  background: none;
}

.chords {
  display: flex;
  flex-wrap: wrap;
  gap: 0.1rem 0.9rem;
  font-family: var(--display);
  font-weight: 600;
}

small {
  font-family: var(--text);
  font-weight: 400;
  color: var(--ink-soft);
}
</style>
