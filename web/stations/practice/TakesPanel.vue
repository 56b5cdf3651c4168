<script setup lang="ts">
import { messageOf } from '#core/plain';
import Button from 'primevue/button';
import ChooseFile from '../../fields/ChooseFile.vue';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { TakeSummary } from '#core/schema';
import { rungName } from '#core/practice';
import { troubleWord } from '#core/log';
import { openSentTake } from '../../remote/sentTake';
import { useSongStore } from '../../stores/song';
import { usePlayerStore } from '../../stores/player';
import { usePracticeStore } from '../../stores/practice';
import { useTakesStore } from '../../stores/takes';
import { text } from './text';

/** The takes of this song that were judged, newest first. */
const takes = useTakesStore();
const practice = usePracticeStore();
const player = usePlayerStore();
const when = new Intl.DateTimeFormat('en', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
});
const SOURCES = {
  microphone: 'microphone',
  file: 'sound file',
  taps: 'taps',
  midi: 'MIDI',
  example: 'example player',
} as const;
async function look(take: TakeSummary): Promise<void> {
  practice.go({
    rung: take.rung ?? 'song',
    tempo: take.tempo,
    loop:
      take.from === 1 && take.to >= player.bars.length ? null : { from: take.from, to: take.to },
  });
  await takes.open(take.id);
}
/** A file that was sent: its song, and the take in it. */
const router = useRouter();
const told = ref<string | null>(null);
async function openFile(file: File): Promise<void> {
  told.value = null;
  try {
    await router.push(await openSentTake(file));
  } catch (error) {
    told.value = `“${file.name}” was not opened: ${messageOf(error)}`;
  }
}
/** The take that the address names, once it is there. */
const songs = useSongStore();
const route = useRoute();
watch(
  () => [route.query.take, songs.id, player.bars.length > 0] as const,
  async ([asked, id, there]) => {
    if (typeof asked !== 'string' || !id || !there || route.params.id !== id) return;
    await takes.reload();
    const take = takes.list.find((row) => row.id === asked);
    if (take) await look(take);
    const { take: _, ...query } = route.query;
    await router.replace({ query });
  },
  { immediate: true },
);
const rows = computed(() =>
  takes.list.map((take) => ({ ...take, day: when.format(new Date(take.madeAt)) })),
);
/** What it was, in a line. */
const describe = (take: (typeof rows.value)[number]) =>
  text.take({
    ...take,
    rung: rungName(take.rung ?? 'song').toLowerCase(),
    source: SOURCES[take.source],
  });
</script>

<template>
  <section class="takes" aria-label="Takes">
    <ChooseFile
      v-if="songs.id"
      label="Open a take that was sent"
      accept=".zip,application/zip"
      look="text"
      @file="openFile"
    />
    <p v-if="told" role="alert" class="told">{{ told }}</p>
    <p v-if="rows.length === 0" class="quiet">
      No take yet. Each one that is judged is listed here; its sound is kept only where you say so.
    </p>
    <ul>
      <li v-for="take in rows" :key="take.id" :class="{ shown: take.id === takes.shown?.id }">
        <button type="button" :aria-label="`Look at the take of ${take.day}`" @click="look(take)">
          <strong>{{ troubleWord(take.trouble) }} at {{ take.tempo }}</strong>
          <span class="quiet">{{ describe(take) }}</span>
          <span>{{ take.sentence }}</span>
          <span v-if="take.answer" class="quiet">Answered: {{ take.answer }}</span>
        </button>
        <Button
          icon="pi pi-times"
          text
          rounded
          size="small"
          :aria-label="`Delete the take of ${take.day}`"
          @click="takes.remove(take.id)"
        />
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.4rem;
}

li {
  display: flex;
  align-items: start;
  background: var(--paper-raised);
  border-radius: var(--radius);
}

li.shown {
  box-shadow: 0 0 0 2px var(--spruce);
}

li > button:first-child {
  flex: 1;
  display: grid;
  gap: 0.1rem;
  border: 0;
  background: none;
  color: inherit;
  padding: 0.5rem 0.7rem;
  text-align: left;
  cursor: pointer;
}
</style>
