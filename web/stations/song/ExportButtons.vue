<script setup lang="ts">
import Button from 'primevue/button';
import { defineAsyncComponent, ref, useTemplateRef, watch } from 'vue';
import type { Song } from '#core/schema';
import { type Format, FORMATS } from '#core/formats';
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
/** The focus goes back to where it was opened from. */
const wav = useTemplateRef<{ $el: HTMLElement }>('wav');
watch(listening, (open) => {
  if (!open) setTimeout(() => wav.value?.$el.focus());
});
</script>

<template>
  <ul class="files" aria-label="Save as a file">
    <li v-for="format in FORMATS" :key="format.id">
      <Button
        outlined
        icon="pi pi-download"
        :label="format.label"
        :disabled="empty && format.needsBars"
        @click="take(format)"
      />
      <span class="quiet">{{ format.carries }}</span>
    </li>
    <li>
      <Button
        ref="wav"
        outlined
        icon="pi pi-volume-up"
        label="WAV"
        :disabled="empty"
        @click="listening = true"
      />
      <span class="quiet">the sound of it, as it is played here</span>
    </li>
  </ul>
  <WavDialog v-if="listening" v-model:open="listening" :song="song" />
</template>

<style scoped>
.files {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.7rem;
}

.files li {
  display: grid;
  grid-template-columns: 9rem 1fr;
  align-items: center;
  gap: 0.8rem;
}
</style>
