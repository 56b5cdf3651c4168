<script setup lang="ts">
import { useAsyncState, useDebounceFn, useLocalStorage } from '@vueuse/core';
import Button from 'primevue/button';
import { computed, defineAsyncComponent, nextTick, ref, useTemplateRef, watch } from 'vue';
import { RouterLink, useRouter } from 'vue-router';
import { plural } from '#core/plain';
import { type Pattern, type SongSummary, MAX_TITLE_LETTERS } from '#core/schema';
import { daysAgo, describeNext } from '#core/log';
import { api } from '../../remote/client';
import WristPath from '../../path/WristPath.vue';
import { hasDrafts } from '../../stores/drafts';
import { useSongStore } from '../../stores/song';
import { focusNext } from '../../frame/announce';
import OpenFile from './OpenFile.vue';
import SongGlance from './SongGlance.vue';
import { firstScreen, firstScreenIsThere } from '../../frame/firstScreen';
import { useVisibleSongs } from './visibleSongs';
import { lastShelf, readShelf } from './lastShelf';
import type { Sort } from './sorts';

const songs = useSongStore();
const router = useRouter();
const list = useAsyncState(
  async () => {
    await songs.flush();
    return readShelf();
  },
  // What was there last is there at once; it is read anew.
  lastShelf.songs,
  { onError: () => undefined, resetOnExecute: false, onSuccess: () => void more() },
);
/** It comes as soon as the songs are there to be looked through. */
const ShelfSearch = defineAsyncComponent(async () => {
  await firstScreen;
  return import('./ShelfSearch.vue');
});
const EmptyShelf = defineAsyncComponent(() => import('./EmptyShelf.vue'));
const opener = useTemplateRef<{ open: () => void }>('opener');
/** Fetched when it is first asked for: the shelf is usable before. */
const Dialog = defineAsyncComponent(() => import('primevue/dialog'));

/** What the log knows of each song; the shelf is there without it. */
const practised = useAsyncState(() => api.readLogSummary({}), null, {
  immediate: false,
  onError: () => undefined,
});
const ofSong = computed(
  () => new Map((practised.state.value?.songs ?? []).map((song) => [song.songId, song])),
);
const next = computed(() =>
  practised.state.value ? describeNext([...practised.state.value.songs]) : null,
);
const today = new Date().toISOString().slice(0, 10);
/** Clean against its goal, and when it was last played. */
function known(id: string): string {
  const song = ofSong.value.get(id);
  if (!song) return '';
  const clean = song.clean === null ? 'begun' : `clean at ${song.clean}`;
  const goal = song.goal === null ? '' : ` of ${song.goal}`;
  return `${clean}${goal}, ${daysAgo(song.last.slice(0, 10), today)}`;
}
/** How far a song is from its goal, for sorting; the unpractised last. */
const missing = (id: string) => {
  const song = ofSong.value.get(id);
  return song?.goal ? 1 - (song.clean ?? 0) / song.goal : -1;
};

/** What cannot be read is looked for apart: every document is read for it. */
const unreadable = useAsyncState(api.listUnreadable, [], {
  immediate: false,
  onError: () => undefined,
});
/** Milliseconds that the pointer rests on a name before its song is asked for. */
const RESTS_FOR = 60;
const foresee = useDebounceFn((id: string) => songs.foresee(id), RESTS_FOR);

/** The patterns lie below the songs, and follow them. */
const patterns = useAsyncState(
  async () => {
    lastShelf.patterns = await api.listPatterns();
    return lastShelf.patterns;
  },
  lastShelf.patterns,
  { immediate: false, onError: () => undefined, resetOnExecute: false },
);
/** An edit that was on its way as a page was left may arrive after the shelf was asked for. */
let onItsWay = hasDrafts();
/** What may come after the songs: once they are shown, so that nothing keeps them waiting. */
async function more(): Promise<void> {
  await nextTick();
  firstScreenIsThere();
  await Promise.all([patterns.execute(), practised.execute(), unreadable.execute()]);
  if (!onItsWay) return;
  onItsWay = false;
  await list.execute();
}
const leaving = ref<{
  kind: 'song' | 'pattern';
  name: string;
  remove: () => Promise<unknown>;
} | null>(null);
const everLeft = ref(false);
watch(leaving, () => (everLeft.value = true));

const answer = computed(() => {
  if (list.error.value) return 'The shelf cannot be reached: the server is away.';
  const count = list.state.value?.length;
  if (count === undefined) return 'Looking at the shelf…';
  if (count === 0) return 'Your shelf is empty. Three ways to begin:';
  return `${plural(count, 'song')} on your shelf.`;
});

async function remove(): Promise<void> {
  await leaving.value?.remove();
  leaving.value = null;
  await list.execute();
  void focusNext(() => station.value?.querySelector('.deleted button'));
}
const station = useTemplateRef<HTMLElement>('station');

/** What was deleted last, to be put back with one press. */
const deleted = ref<{ name: string; putBack: () => Promise<unknown> } | null>(null);
async function putBack(): Promise<void> {
  const back = deleted.value?.name;
  await deleted.value?.putBack();
  deleted.value = null;
  await list.execute();
  void focusNext(() =>
    [...(station.value?.querySelectorAll<HTMLElement>('li a') ?? [])].find(
      (link) => link.textContent.trim() === back,
    ),
  );
}

async function duplicate({ id, title }: SongSummary): Promise<void> {
  const { document } = await api.readSong(id);
  const taken = new Set(list.state.value?.map((song) => song.title));
  let copy = `${title} (copy)`;
  for (let number = 2; taken.has(copy); number += 1) copy = `${title} (copy ${number})`;
  await api.createSong({ ...document, title: copy.slice(0, MAX_TITLE_LETTERS) });
  await list.execute();
}

const searched = useLocalStorage('plucky-wrist:shelf-search', '');
const sort = useLocalStorage<Sort>('plucky-wrist:shelf-sort', 'recent');
const orders: Partial<Record<string, (a: SongSummary, b: SongSummary) => number>> = {
  tempo: (a, b) => a.tempo - b.tempo,
  played: (a, b) =>
    (ofSong.value.get(b.id)?.last ?? '').localeCompare(ofSong.value.get(a.id)?.last ?? ''),
  goal: (a, b) => missing(b.id) - missing(a.id),
};
const shown = computed(() => {
  const words = searched.value.toLowerCase().split(/\s+/).filter(Boolean);
  const found = (list.state.value ?? []).filter(({ id, title, instrument, meter, glance }) => {
    const chords = glance?.chords.join(' ') ?? '';
    const text = `${title} ${instrument} ${meter} ${known(id)} ${chords}`.toLowerCase();
    return words.every((word) => text.includes(word));
  });
  return found.sort((a, b) =>
    sort.value === 'recent'
      ? b.updatedAt.localeCompare(a.updatedAt) || a.title.localeCompare(b.title)
      : (orders[sort.value]?.(a, b) ?? 0) || a.title.localeCompare(b.title),
  );
});
/** Of a long shelf, only what is in sight is drawn. */
const rows = useTemplateRef<HTMLElement>('rows');
const { inSight, room } = useVisibleSongs(shown, rows);
/** Songs of one name are told apart by when they were edited. */
const twins = computed(() => {
  const counts = new Map<string, number>();
  for (const { title } of list.state.value ?? []) {
    counts.set(title, (counts.get(title) ?? 0) + 1);
  }
  return counts;
});
const edited = (when: string) =>
  new Date(when).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
/** Above so many songs they are looked for. */
const MANY = 4;

async function removePattern({ id, document }: { id: string; document: Pattern }): Promise<void> {
  await api.deletePattern(id);
  deleted.value = { name: document.name, putBack: () => api.createPattern(document) };
}

function askToRemoveSong(song: SongSummary): void {
  const removeSong = async () => {
    const { document, revision } = await api.readSong(song.id);
    if (songs.id === song.id) songs.close();
    await api.deleteSong(song.id);
    deleted.value = {
      name: song.title,
      putBack: () => api.createSong(document, { id: song.id, revision }),
    };
  };
  leaving.value = { kind: 'song', name: song.title, remove: removeSong };
}
</script>

<template>
  <section ref="station" class="station">
    <div class="top">
      <h1 class="answer">{{ answer }}</h1>
      <div class="make">
        <OpenFile ref="opener" />
        <Button label="New song" icon="pi pi-plus" @click="router.push({ name: 'new' })" />
      </div>
    </div>
    <EmptyShelf v-if="list.state.value?.length === 0" @open="opener?.open()" />
    <p v-if="list.state.value?.length" class="next">{{ next }}</p>
    <Button v-if="list.error.value" class="again" label="Try again" @click="list.execute()" />
    <p v-if="deleted" class="deleted" role="status">
      “{{ deleted.name }}” was deleted.
      <Button size="small" text icon="pi pi-undo" label="Put it back" @click="putBack" />
    </p>
    <div v-if="(list.state.value?.length ?? 0) > MANY" class="find">
      <ShelfSearch v-model:searched="searched" v-model:sort="sort" :found="shown.length" />
    </div>
    <ul v-if="list.state.value" ref="rows" class="songs" aria-label="Songs" :style="room">
      <li
        v-for="{ song, at } in inSight"
        :key="song.id"
        :aria-setsize="shown.length"
        :aria-posinset="at + 1"
      >
        <RouterLink
          :to="{ name: 'song', params: { id: song.id } }"
          @pointerenter="foresee(song.id)"
          @focus="foresee(song.id)"
          @pointerdown="songs.foresee(song.id)"
          >{{ song.title
          }}<span v-if="twins.get(song.title)! > 1" class="twin">{{
            edited(song.updatedAt)
          }}</span></RouterLink
        >
        <SongGlance v-if="song.glance" :glance="song.glance" class="seen" />
        <span v-else class="seen" />
        <span class="quiet known">{{ known(song.id) }}</span>
        <span class="quiet">{{ song.instrument }}</span>
        <span class="quiet">{{ song.meter }}</span>
        <span class="quiet">at {{ song.tempo }}</span>
        <Button
          icon="pi pi-copy"
          text
          rounded
          severity="secondary"
          :aria-label="`Duplicate ${song.title}`"
          title="Duplicate"
          @click="duplicate(song)"
        />
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
    <p v-if="list.state.value" class="elsewhere">
      <RouterLink :to="{ name: 'patterns' }">Practise a pattern without a song</RouterLink>
      <RouterLink :to="{ name: 'phone' }">On my phone</RouterLink>
      <RouterLink :to="{ name: 'about' }">About</RouterLink>
    </p>
    <template v-if="patterns.state.value.length > 0">
      <h2>Patterns</h2>
      <ul class="patterns" aria-label="Patterns">
        <li v-for="stored in patterns.state.value" :key="stored.id">
          <WristPath :pattern="stored.document" :strings="6" size="small" />
          <RouterLink :to="{ name: 'patterns', query: { pattern: stored.document.name } }">{{
            stored.document.name
          }}</RouterLink>
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
                remove: () => removePattern(stored),
              }
            "
          />
        </li>
      </ul>
    </template>
    <template v-if="unreadable.state.value.length > 0">
      <h2>Cannot be read</h2>
      <p class="quiet">
        These are kept just as they are; nothing writes over them. Their text can be saved as a
        file.
      </p>
      <ul class="songs unreadable" aria-label="Cannot be read">
        <li v-for="kept in unreadable.state.value" :key="kept.id">
          <span>{{ kept.name }}</span>
          <span class="quiet">{{ kept.kind }}: {{ kept.problem }}</span>
          <a :href="api.textUrl(kept.kind, kept.id)" download>Save the text of {{ kept.name }}</a>
        </li>
      </ul>
    </template>
    <Dialog
      v-if="everLeft"
      :visible="leaving !== null"
      modal
      :header="`Delete this ${leaving?.kind}?`"
      @update:visible="leaving = null"
    >
      <p class="ask">“{{ leaving?.name }}” is deleted; right after, it can be put back.</p>
      <template #footer>
        <Button label="Keep it" text autofocus @click="leaving = null" />
        <Button label="Delete" severity="danger" @click="remove" />
      </template>
    </Dialog>
  </section>
</template>

<style scoped>
.find,
.deleted {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
}

.twin {
  margin-left: 0.8rem;
  font-family: var(--text);
  font-size: 0.85rem;
  font-weight: 400;
  color: var(--ink-soft);
}

/* As high as what comes into them: the songs do not move under the hand that opens one. */
.find {
  min-height: 2.7rem;
}

.next {
  min-height: 1.5em;
}

.elsewhere {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem 2rem;
}

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
  grid-template-columns: minmax(10rem, 1fr) 15rem 15rem 6rem 4.8rem 4rem auto auto;
  content-visibility: auto;
  contain-intrinsic-size: auto 3.3rem;
  gap: 0.7rem;
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
    grid-template-columns: 1fr auto auto;
    gap: 0.5rem;
  }

  .songs li > span:not(.known) {
    display: none;
  }

  .songs li > a {
    grid-area: 1 / 1;
  }

  .songs li > .known:not(:empty) {
    grid-area: 2 / 1 / auto / -1;
  }

  .songs li > button:nth-last-of-type(2) {
    grid-area: 1 / 2;
  }

  .songs li > button:last-of-type {
    grid-area: 1 / 3;
  }
}
</style>
