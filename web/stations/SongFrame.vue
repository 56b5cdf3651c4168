<script setup lang="ts">
import { ref, watch } from 'vue';
import { RouterLink, RouterView } from 'vue-router';
import type { InstrumentId } from '#core/schema';
import { INSTRUMENTS } from '#core/neck';
import { Away } from '../remote/client';
import { useSongStore } from '../stores/song';
import { useViewStore } from '../stores/view';

/** Opens the song of the address for the stations inside. */
const props = defineProps<{ id: string }>();
const songs = useSongStore();
const trouble = ref<string | null>(null);

watch(
  () => props.id,
  async (id) => {
    trouble.value = null;
    await songs.open(id).catch((error: unknown) => {
      trouble.value =
        error instanceof Away
          ? 'The server cannot be reached, so the song cannot be opened yet.'
          : error instanceof Error
            ? error.message
            : String(error);
    });
  },
  { immediate: true },
);
const view = useViewStore();
watch(
  () => songs.song?.instrument.name,
  (name) => {
    const used = Object.entries(INSTRUMENTS).find(([, one]) => one.name === name);
    if (used) view.lastInstrument = used[0] as InstrumentId;
  },
  { immediate: true },
);
</script>

<template>
  <section v-if="trouble" class="station" role="alert">
    <h1 class="answer">{{ trouble }}</h1>
    <p>Your songs are on the <RouterLink :to="{ name: 'shelf' }">shelf</RouterLink>.</p>
  </section>
  <RouterView v-else-if="songs.song && songs.id === id" />
</template>
