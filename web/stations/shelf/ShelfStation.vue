<script setup lang="ts">
import { useAsyncState } from '@vueuse/core';
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import { computed, ref } from 'vue';
import { RouterLink, useRouter } from 'vue-router';
import { plural, type SongSummary } from '#core';
import { api } from '../../remote/client';
import WristPath from '../../path/WristPath.vue';
import { useSongStore } from '../../stores/song';
import OpenFile from './OpenFile.vue';

const songs = useSongStore();
const router = useRouter();
const list = useAsyncState(
  async () => {
    await songs.flush();
    const [shelf, patterns, unreadable] = await Promise.all([
      api.listSongs(),
      api.listPatterns(),
      api.listUnreadable(),
    ]);
    return { shelf, patterns, unreadable };
  },
  null,
  { onError: () => undefined },
);
const leaving = ref<{
  kind: 'song' | 'pattern';
  name: string;
  remove: () => Promise<unknown>;
} | null>(null);

const answer = computed(() => {
  if (list.error.value) return 'The shelf cannot be reached: the server is away.';
  const count = list.state.value?.shelf.length;
  if (count === undefined) return 'Looking at the shelf…';
  if (count === 0) return 'Your shelf is empty. Start with the chords of one song.';
  return `${plural(count, 'song')} on your shelf.`;
});

async function remove(): Promise<void> {
  await leaving.value?.remove();
  leaving.value = null;
  await list.execute();
}

function askToRemoveSong(song: SongSummary): void {
  const removeSong = async () => {
    if (songs.id === song.id) songs.close();
    await api.deleteSong(song.id);
  };
  leaving.value = { kind: 'song', name: song.title, remove: removeSong };
}
</script>

<template>
  <section class="station">
    <div class="top">
      <h1 class="answer">{{ answer }}</h1>
      <div class="make">
        <OpenFile />
        <Button label="New song" icon="pi pi-plus" @click="router.push({ name: 'new' })" />
      </div>
    </div>
    <Button v-if="list.error.value" class="again" label="Try again" @click="list.execute()" />
    <ul v-if="list.state.value" class="songs" aria-label="Songs">
      <li v-for="song in list.state.value.shelf" :key="song.id">
        <RouterLink :to="{ name: 'song', params: { id: song.id } }">{{ song.title }}</RouterLink>
        <span class="quiet">{{ song.instrument }}</span>
        <span class="quiet">{{ song.meter }}</span>
        <span class="quiet">at {{ song.tempo }}</span>
        <Button
          icon="pi pi-trash"
          text
          rounded
          severity="secondary"
          :aria-label="`Delete ${song.title}`"
          @click="askToRemoveSong(song)"
        />
      </li>
    </ul>
    <template v-if="list.state.value && list.state.value.patterns.length > 0">
      <h2>Patterns</h2>
      <ul class="patterns" aria-label="Patterns">
        <li v-for="stored in list.state.value.patterns" :key="stored.id">
          <WristPath :pattern="stored.document" :strings="6" size="small" />
          <span>{{ stored.document.name }}</span>
          <Button
            icon="pi pi-trash"
            text
            rounded
            severity="secondary"
            :aria-label="`Delete ${stored.document.name}`"
            @click="
              leaving = {
                kind: 'pattern',
                name: stored.document.name,
                remove: () => api.deletePattern(stored.id),
              }
            "
          />
        </li>
      </ul>
    </template>
    <template v-if="list.state.value && list.state.value.unreadable.length > 0">
      <h2>Cannot be read</h2>
      <p class="quiet">
        These are kept just as they are; nothing writes over them. Their text can be saved as a
        file.
      </p>
      <ul class="songs unreadable" aria-label="Cannot be read">
        <li v-for="kept in list.state.value.unreadable" :key="kept.id">
          <span>{{ kept.name }}</span>
          <span class="quiet">{{ kept.kind }}: {{ kept.problem }}</span>
          <a :href="api.textUrl(kept.kind, kept.id)" download>Save the text of {{ kept.name }}</a>
        </li>
      </ul>
    </template>
    <Dialog
      :visible="leaving !== null"
      modal
      :header="`Delete this ${leaving?.kind}?`"
      @update:visible="leaving = null"
    >
      <p class="ask">“{{ leaving?.name }}” is deleted for good.</p>
      <template #footer>
        <Button label="Keep it" text autofocus @click="leaving = null" />
        <Button label="Delete" severity="danger" @click="remove" />
      </template>
    </Dialog>
  </section>
</template>

<style scoped>
.make {
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: 0.6rem;
}

.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 1rem;
}

.again {
  justify-self: start;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

.songs li {
  display: grid;
  grid-template-columns: 1fr 7rem 4rem 5rem auto;
  gap: 1rem;
  align-items: center;
  padding: 0.45rem 0;
  border-bottom: 1px solid var(--line);
}

.unreadable li {
  grid-template-columns: 12rem 1fr auto;
}

.songs:not(.unreadable) a {
  font-family: var(--display);
  font-size: 1.3rem;
  font-weight: 600;
  text-decoration: none;
}

.songs a:hover {
  text-decoration: underline;
  text-decoration-color: var(--brass);
  text-underline-offset: 5px;
}

h2 {
  font-size: 1.2rem;
  margin-top: 0.6rem;
}

.patterns {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr));
  gap: 0.5rem 2rem;
}

.patterns li {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
}

.patterns .wrist-path {
  grid-column: 1 / -1;
}

@media (max-width: 46rem) {
  .songs li {
    grid-template-columns: 1fr auto auto auto;
    gap: 0.5rem;
  }

  .songs li span:first-of-type {
    display: none;
  }
}
</style>
