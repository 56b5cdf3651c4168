<script setup lang="ts">
import { messageOf } from '#core/plain';
import Button from 'primevue/button';
import { useObjectUrl } from '@vueuse/core';
import { computed, onBeforeUnmount, ref, shallowRef, useTemplateRef, watch } from 'vue';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import { api } from '../../remote/client';
import { useSongStore } from '../../stores/song';
import { type JudgedTake, useTakesStore } from '../../stores/takes';

/** The sound of a take: listened to from any bar, at any speed; kept only where the player says so. */
const props = defineProps<{ take: JudgedTake }>();
const songs = useSongStore();
const takes = useTakesStore();

const kept = computed(() => takes.list.find(({ id }) => id === props.take.id)?.soundBytes ?? null);
/** The sound of a take of this visit, while it is not kept. */
const fresh = shallowRef<Blob | null>(null);
watch(
  () => props.take.judgement,
  async (judgement) => {
    fresh.value = null;
    const sound = await takes.soundOf(judgement).catch(() => null);
    if (props.take.judgement === judgement) fresh.value = sound;
  },
  { immediate: true },
);
const freshUrl = useObjectUrl(fresh);
const source = computed(() => {
  if (kept.value !== null && songs.id && props.take.id)
    return api.takeSoundUrl(songs.id, props.take.id);
  return freshUrl.value ?? null;
});

const SPEEDS = [
  { label: 'half', value: 0.5 },
  { label: 'three quarters', value: 0.75 },
  { label: 'as played', value: 1 },
];
const speed = ref(1);
const audio = useTemplateRef<HTMLAudioElement>('audio');
watch([speed, audio], () => {
  if (!audio.value) return;
  audio.value.playbackRate = speed.value;
  audio.value.preservesPitch = true;
});
onBeforeUnmount(() => audio.value?.pause());

/** Plays from a second of the take on. */
function playFrom(seconds: number): void {
  if (!audio.value) return;
  audio.value.currentTime = Math.max(0, seconds);
  void audio.value.play();
}
defineExpose({ playFrom, there: computed(() => source.value !== null) });

const told = ref<string | null>(null);
const megabytes = (bytes: number) => `${Math.max(0.1, bytes / 1e6).toFixed(1)} MB`;
async function keep(): Promise<void> {
  told.value = null;
  try {
    await takes.keepSound(fresh.value!);
  } catch (error) {
    told.value = messageOf(error);
  }
}
async function drop(): Promise<void> {
  told.value = null;
  try {
    await takes.dropSound();
  } catch (error) {
    told.value = messageOf(error);
  }
}
</script>

<template>
  <div v-if="source" class="sound" role="group" aria-label="The sound of this take">
    <audio ref="audio" controls preload="metadata" :src="source" />
    <ChooseBeside v-model="speed" :options="SPEEDS" size="small" aria-label="Speed of the take" />
    <Button
      v-if="kept !== null"
      size="small"
      text
      :label="`Delete the sound, ${megabytes(kept)}`"
      @click="drop"
    />
    <Button
      v-else-if="fresh && take.id"
      size="small"
      text
      icon="pi pi-save"
      :label="`Keep the sound, ${megabytes(fresh.size)}`"
      @click="keep"
    />
    <span v-if="told" role="alert">{{ told }}</span>
  </div>
</template>

<style scoped>
.sound {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem 0.8rem;
}

audio {
  height: 2.2rem;
  width: 13rem;
  max-width: 100%;
}
</style>
