<script setup lang="ts">
import { useAsyncState } from '@vueuse/core';
import Button from 'primevue/button';
import ChooseOne from '../../fields/ChooseOne.vue';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import type { Pattern } from '#core/schema';
import { builtInPatterns } from '#core/pattern';
import { patternOf, rhythmCommands, type RhythmTarget } from '#core/edit';
import { api } from '../../remote/client';
import { useSongStore } from '../../stores/song';

/** Which rhythm a section, a chord or a bar has: the one it would have anyway, or one of its own. */
const props = defineProps<{
  target: RhythmTarget;
  /** In words, for the label: "this bar". */
  owner: string;
  /** What it is played with as it is. */
  now: Pattern;
}>();
const songs = useSongStore();
const router = useRouter();

const SAME = 'same';
const OWN = 'own';
const stored = useAsyncState(() => api.listPatterns(), [], { onError: () => undefined });
const own = computed(() => (songs.song ? patternOf(songs.song, props.target) : null));
const shelf = computed(() => [
  ...stored.state.value.map(({ document }) => document),
  ...builtInPatterns(),
]);
const options = computed(() => [
  { label: 'the song’s strum', value: SAME },
  {
    label: own.value ? `its own: ${own.value.name}` : 'its own, from what it plays now',
    value: OWN,
  },
  ...shelf.value.map(({ name }, index) => ({ label: name, value: String(index) })),
]);
const choice = computed({
  get: () => (own.value ? OWN : SAME),
  set: (value: string) => {
    if (value === SAME) give(null);
    else if (value === OWN) give(own.value ?? props.now);
    else give(shelf.value[Number(value)]!);
  },
});

function give(pattern: Pattern | null): void {
  songs.run(rhythmCommands.setRhythm(props.target, pattern));
}

async function edit(): Promise<void> {
  songs.target = props.target;
  await router.push({ name: 'strum', params: { id: songs.id } });
}
</script>

<template>
  <div class="rhythm">
    <ChooseOne v-model="choice" :options="options" :aria-label="`Strum of ${owner}`" />
    <Button
      v-if="own"
      size="small"
      text
      icon="pi pi-pencil"
      label="On Strum"
      :aria-label="`Build the strum of ${owner} on Strum`"
      @click="edit"
    />
  </div>
</template>

<style scoped>
.rhythm {
  display: flex;
  align-items: center;
  gap: 0.3rem;
}

.rhythm :deep(.p-select) {
  max-width: 16rem;
}
</style>
