<script setup lang="ts">
import Button from 'primevue/button';
import { defineAsyncComponent, ref } from 'vue';
import { type Song, toChordPro } from '#core';
import { api } from '../../remote/client';
import { download } from '../../shell/download';
import { useSongStore } from '../../stores/song';

/** The song as files: MIDI and MusicXML from the server, ChordPro and JSON from what is here. */
const props = defineProps<{ song: Song; empty: boolean }>();
const songs = useSongStore();
const WavDialog = defineAsyncComponent(() => import('./WavDialog.vue'));

/** Made from what the server has, so the latest edit goes there first. */
async function fromServer(ending: 'mid' | 'musicxml'): Promise<void> {
  await songs.flush();
  if (songs.id) window.location.assign(api.exportUrl(songs.id, ending));
}

const saves = (ending: string) => ({ title: props.song.title, ending });
const listening = ref(false);
</script>

<template>
  <div class="exports">
    <Button
      outlined
      icon="pi pi-download"
      label="MIDI file"
      :disabled="empty"
      @click="fromServer('mid')"
    />
    <Button outlined label="MusicXML" :disabled="empty" @click="fromServer('musicxml')" />
    <Button
      outlined
      label="ChordPro"
      :disabled="empty"
      @click="download(toChordPro(song), 'text/plain', saves('cho'))"
    />
    <Button
      outlined
      label="JSON"
      @click="download(JSON.stringify(song, null, 2), 'application/json', saves('json'))"
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
