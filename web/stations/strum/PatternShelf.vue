<script setup lang="ts">
import { useAsyncState } from '@vueuse/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import { commands } from '#core';
import { api } from '../../remote/client';
import { useSongStore } from '../../stores/song';

/** The pattern's name, and the way to and from the shelf. */
const songs = useSongStore();

const name = computed({
  get: () => songs.song?.pattern.name ?? '',
  set: (value: string | undefined) => {
    if (value?.trim()) songs.run(commands.renamePattern(value), true);
  },
});

const shelf = useAsyncState(() => api.listPatterns(), [], { onError: () => undefined });
const taken = ref<string | null>(null);
const told = ref<string | null>(null);

function take(id: string): void {
  const stored = shelf.state.value.find((candidate) => candidate.id === id);
  if (stored) songs.run(commands.takePattern(stored.document));
  taken.value = null;
}

async function keep(): Promise<void> {
  const pattern = songs.song?.pattern;
  if (!pattern) return;
  told.value = await api
    .createPattern(pattern)
    .then((stored) => `“${stored.document.name}” is on the shelf.`)
    .catch((error: Error) => `${error.message} The pattern stays in this song.`);
  await shelf.execute();
}
</script>

<template>
  <div class="shelf">
    <label for="pattern-name" class="heard-only">Name of the pattern</label>
    <InputText id="pattern-name" v-model="name" maxlength="80" />
    <Button label="Keep on the shelf" text @click="keep" />
    <Select
      v-model="taken"
      :options="shelf.state.value"
      option-label="document.name"
      option-value="id"
      placeholder="Take from the shelf"
      aria-label="Take a pattern from the shelf"
      @update:model-value="take"
    />
    <span v-if="told" role="status">{{ told }}</span>
  </div>
</template>

<style scoped>
.shelf {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
}
</style>
