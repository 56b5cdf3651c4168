<script setup lang="ts">
import { useAsyncState } from '@vueuse/core';
import Button from 'primevue/button';
import Checkbox from 'primevue/checkbox';
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import { messageOf, plural } from '#core/plain';
import type { Song } from '#core/schema';
import { changeover, easiestOrder, type SheetWish } from '#core/sheet';
import { api } from '../../remote/client';
import { download } from '../../shell/download';
import { cloneForWorker } from '../../workers/cloneForWorker';
import { sheetWorker } from '../../workers/sheet';

/** Songs of an evening as one booklet: which, in which order, and what is done between them. */
const props = defineProps<{ wish: SheetWish }>();

interface Listed {
  id: string;
  song: Song;
  chosen: boolean;
}
const rows = ref<Listed[]>([]);
const shelf = useAsyncState(
  async () => {
    const list = await api.listSongs();
    return Promise.all(list.map(({ id }) => api.readSong(id)));
  },
  null,
  { onError: () => undefined },
);
watch(shelf.state, (songs) => {
  rows.value = (songs ?? []).map(({ id, document }) => ({ id, song: document, chosen: true }));
});
const chosen = computed(() => rows.value.filter((row) => row.chosen));
const title = ref('Lantern evening');

/** What is done before each chosen song. */
const before = computed(() => {
  const words = new Map<string, string>();
  chosen.value.forEach(({ id, song }, index) => {
    const last = chosen.value[index - 1];
    if (last) words.set(id, changeover(last.song, song).does.join(' '));
  });
  return words;
});
const effort = computed(() => [...before.value.values()].filter(Boolean).length);

function move(index: number, by: 1 | -1): void {
  const [one, other] = [rows.value[index]!, rows.value[index + by]];
  if (other) rows.value = rows.value.with(index, other).with(index + by, one);
}
function least(): void {
  const some = chosen.value;
  const order = easiestOrder(some.map(({ song }) => song));
  rows.value = [...order.map((at) => some[at]!), ...rows.value.filter((row) => !row.chosen)];
}
const busy = ref(false);
const trouble = ref<string | null>(null);
async function save(): Promise<void> {
  busy.value = true;
  trouble.value = null;
  try {
    const [songs, wish] = cloneForWorker([
      chosen.value.map(({ song }) => song),
      props.wish,
    ] as const);
    const name = title.value.trim() || 'Booklet';
    const bytes = await sheetWorker().booklet(songs, wish, name);
    download(new Uint8Array(bytes), 'application/pdf', { title: name, ending: 'pdf' });
  } catch (error) {
    trouble.value = messageOf(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <section class="tool" aria-label="Booklet">
    <p class="quiet">
      Songs of an evening in one file, with contents and what has to be done between them. For whom,
      paper and print are as chosen under For whom.
    </p>
    <label for="booklet-title">Title</label>
    <InputText id="booklet-title" v-model="title" maxlength="80" />
    <p v-if="shelf.error.value" role="alert">The shelf cannot be reached: the server is away.</p>
    <VueDraggable
      v-model="rows"
      tag="ol"
      handle=".grip"
      :animation="120"
      aria-label="Songs in order"
    >
      <li v-for="(row, index) in rows" :key="row.id">
        <p v-if="row.chosen && before.get(row.id)" class="between">{{ before.get(row.id) }}</p>
        <div class="song">
          <i class="pi pi-bars grip" aria-hidden="true" />
          <Checkbox v-model="row.chosen" binary :input-id="`in-${row.id}`" />
          <label class="title" :for="`in-${row.id}`">{{ row.song.title }}</label>
          <Button
            icon="pi pi-arrow-up"
            text
            rounded
            size="small"
            :disabled="index === 0"
            :aria-label="`${row.song.title}: earlier`"
            @click="move(index, -1)"
          />
          <Button
            icon="pi pi-arrow-down"
            text
            rounded
            size="small"
            :disabled="index === rows.length - 1"
            :aria-label="`${row.song.title}: later`"
            @click="move(index, 1)"
          />
        </div>
      </li>
    </VueDraggable>
    <p role="status" class="quiet">
      {{ plural(chosen.length, 'song') }}; something is done between {{ effort }} of them.
    </p>
    <div class="row">
      <Button
        label="Save the booklet"
        icon="pi pi-file-pdf"
        :disabled="chosen.length === 0"
        :loading="busy"
        @click="save"
      />
      <Button
        label="Least to do between"
        icon="pi pi-sort-alt"
        outlined
        :disabled="chosen.length < 3"
        @click="least"
      />
    </div>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
  </section>
</template>

<style scoped>
.tool {
  display: grid;
  gap: 0.6rem;
  align-content: start;
}

ol {
  list-style: none;
  margin: 0;
  padding: 0;
}

.song {
  display: grid;
  grid-template-columns: auto auto 1fr auto auto;
  align-items: center;
  gap: 0.5rem;
}

.grip {
  cursor: grab;
  color: var(--ink-soft);
}

.between {
  margin-left: 1.6rem;
  font-size: 0.9rem;
  color: var(--brass-ink);
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
}
</style>
