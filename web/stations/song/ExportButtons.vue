<script setup lang="ts">
import Button from 'primevue/button';
import { defineAsyncComponent, ref } from 'vue';
import { type Format, FORMATS, type Song } from '#core';
import { api } from '../../remote/client';
import { useSongStore } from '../../stores/song';

/** The song as files, from the server; as sound, from what is here. */
defineProps<{ song: Song; empty: boolean }>();
const songs = useSongStore();
const WavDialog = defineAsyncComponent(() => import('./WavDialog.vue'));

/** Made from what the server has, so the latest edit goes there first. */
async function take(format: Format): Promise<void> {
  await songs.flush();
  if (songs.id) window.location.assign(api.exportUrl(songs.id, format));
}

const listening = ref(false);
</script>

<template>
  <div class="exports">
    <Button
      v-for="(format, index) in FORMATS"
      :key="format.id"
      outlined
      :icon="index === 0 ? 'pi pi-download' : undefined"
      :label="format.label"
      :title="format.carries"
      :disabled="empty && format.needsBars"
      @click="take(format)"
    />
    <Button outlined label="WAV" :disabled="empty" @click="listening = true" />
    <WavDialog v-if="listening" v-model:open="listening" :song="song" />
  </div>
</template>

<style scoped>
.exports {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}
</style>
