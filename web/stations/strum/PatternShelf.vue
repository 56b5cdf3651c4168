<script setup lang="ts">
import { useAsyncState } from '@vueuse/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import ChooseOne from '../../fields/ChooseOne.vue';
import { computed, ref } from 'vue';
import type { Pattern } from '#core/schema';
import { builtInPatterns, UKULELE, busyness, difficulty, ownTags, strokeKey } from '#core/pattern';
import { commands } from '#core/edit';
import { previewPattern } from '#core/arrange';
import { api } from '../../remote/client';
import { savePicture } from '../../shell/picture';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import CompareView from './CompareView.vue';
import ShelfRow, { type ShelfEntry } from './ShelfRow.vue';

/** The shelf of patterns: those that come with the app and the player's own. */
const props = defineProps<{
  pattern: Pattern;
  strings: number;
  chord: string | null;
  tempo: number;
}>();
const emit = defineEmits<{ used: [] }>();
const songs = useSongStore();
const player = usePlayerStore();

const stored = useAsyncState(() => api.listPatterns(), [], { onError: () => undefined });
const told = ref<string | null>(null);

const entries = computed<ShelfEntry[]>(() => {
  const own = stored.state.value.map(({ id, document }) => ({ id, pattern: document }));
  const all = [...own, ...builtInPatterns().map((pattern) => ({ id: null, pattern }))];
  return all.map(({ id, pattern }) => ({
    key: id ?? `with the app: ${pattern.name}`,
    id,
    pattern,
    tags: [...ownTags(pattern), ...(pattern.tags ?? [])],
    busy: busyness(pattern),
    difficulty: difficulty(pattern, props.tempo),
    strokes: strokeKey(pattern),
  }));
});

const search = ref('');
const ANY = 'any tag';
const tag = ref(ANY);
type Order = 'name' | 'busy' | 'easy' | 'hard';
const order = ref<Order>('name');
const orders: { label: string; value: Order }[] = [
  { label: 'by name', value: 'name' },
  { label: 'busiest first', value: 'busy' },
  { label: 'easiest first', value: 'easy' },
  { label: 'hardest first', value: 'hard' },
];
const tags = computed(() => {
  const all = [...new Set(entries.value.flatMap((entry) => entry.tags))].sort();
  return [ANY, ...all];
});

const ORDERING: Record<Order, (a: ShelfEntry, b: ShelfEntry) => number> = {
  name: (a, b) => a.pattern.name.localeCompare(b.pattern.name),
  busy: (a, b) => b.busy - a.busy,
  easy: (a, b) => a.difficulty.score - b.difficulty.score,
  hard: (a, b) => b.difficulty.score - a.difficulty.score,
};
const shown = computed(() => {
  const words = search.value.toLowerCase().split(/\s+/).filter(Boolean);
  const matches = (entry: ShelfEntry) => {
    const text = `${entry.pattern.name} ${entry.tags.join(' ')}`.toLowerCase();
    return (
      words.every((word) => text.includes(word)) &&
      (tag.value === ANY || entry.tags.includes(tag.value))
    );
  };
  const sorted = entries.value.filter(matches).sort(ORDERING[order.value]);
  // By name, what is for this instrument comes first.
  if (order.value !== 'name' || !onUkulele.value) return sorted;
  const isFor = ({ tags: own }: ShelfEntry) => Number(own.includes(UKULELE));
  return sorted.sort((a, b) => isFor(b) - isFor(a));
});
const onUkulele = computed(() =>
  ['ukulele', 'baritone'].includes(songs.song?.instrument.family ?? ''),
);

/** What of the shelf has the same strokes as the song's pattern. */
const twin = computed(() => {
  const key = strokeKey(props.pattern);
  return entries.value.find((entry) => entry.strokes === key) ?? null;
});

const name = computed({
  get: () => props.pattern.name,
  set: (value: string | undefined) => {
    if (value?.trim()) songs.runOnRhythm(commands.renamePattern(value), true);
  },
});
const MAX_TAGS = 12;
const tagText = computed({
  get: () => (props.pattern.tags ?? []).join(', '),
  set: (value: string) => {
    const words = value
      .split(',')
      .map((word) => word.trim().slice(0, 24))
      .filter(Boolean);
    songs.runOnRhythm(commands.setTags([...new Set(words)].slice(0, MAX_TAGS)));
  },
});

async function keep(): Promise<void> {
  const again = twin.value ? ` It has the strokes of “${twin.value.pattern.name}”.` : '';
  told.value = await api
    .createPattern(props.pattern)
    .then(({ document }) => `“${document.name}” is on the shelf.${again}`)
    .catch((error: Error) => `${error.message} The pattern stays in this song.`);
  await stored.execute();
}

function take({ pattern }: ShelfEntry): void {
  songs.runOnRhythm(commands.takePattern(pattern));
  told.value = `“${pattern.name}” is in the song. Undo brings back what was there.`;
  emit('used');
}

function hear({ pattern }: ShelfEntry): void {
  const { song } = songs;
  if (!song) return;
  void player.audition(previewPattern(song, pattern, props.chord), {
    click: true,
    meter: pattern.meter,
  });
}

async function remove({ id, pattern }: ShelfEntry): Promise<void> {
  if (!id) return;
  told.value = await api
    .deletePattern(id)
    .then(() => `“${pattern.name}” is deleted.`)
    .catch((error: Error) => `${error.message} Nothing was taken off.`);
  await stored.execute();
}

/** The song's rhythm as a file of its own. */
const FILES = [
  { label: 'Text', ending: 'txt' },
  { label: 'SVG', ending: 'svg' },
  { label: 'PNG', ending: 'png' },
  { label: 'MIDI', ending: 'mid' },
] as const;
async function away(ending: (typeof FILES)[number]['ending']): Promise<void> {
  await songs.flush();
  const { id } = songs;
  if (!id) return;
  if (ending !== 'png') return window.location.assign(api.patternUrl(id, ending));
  await savePicture(api.patternUrl(id, 'svg'), props.pattern.name).catch(
    (error: Error) => (told.value = error.message),
  );
}

/** The two that are compared: the song's own pattern, unless another is chosen, and one of the shelf. */
const OURS = 'ours';
const first = ref(OURS);
const firsts = computed(() => [
  { label: `${props.pattern.name}, in this song`, value: OURS },
  ...entries.value.map(({ key, pattern }) => ({ label: pattern.name, value: key })),
]);
const one = computed(
  () => entries.value.find(({ key }) => key === first.value)?.pattern ?? props.pattern,
);
const compared = ref<string | null>(null);
const other = computed(() => entries.value.find(({ key }) => key === compared.value) ?? null);
</script>

<template>
  <div class="pattern-shelf">
    <div class="row">
      <label for="pattern-name">This pattern</label>
      <InputText id="pattern-name" v-model="name" maxlength="80" aria-label="Name of the pattern" />
      <InputText
        v-model.lazy="tagText"
        placeholder="tags, with commas"
        aria-label="Tags of the pattern"
        maxlength="300"
      />
      <Button label="Keep on the shelf" @click="keep" />
      <span v-if="twin && !told" class="quiet">Same strokes as “{{ twin.pattern.name }}”.</span>
      <span v-if="told" role="status">{{ told }}</span>
    </div>
    <div v-if="songs.id && songs.target.of === 'song'" class="row">
      <span id="pattern-away">Save as a file</span>
      <div role="group" aria-labelledby="pattern-away">
        <Button
          v-for="{ label, ending } in FILES"
          :key="label"
          :label="label"
          size="small"
          text
          @click="away(ending)"
        />
      </div>
    </div>
    <CompareView
      v-if="other"
      v-model:first="first"
      :choices="firsts"
      :one="one"
      :two="other.pattern"
      :strings="strings"
      @close="compared = null"
    />
    <div class="row">
      <InputText
        v-model="search"
        placeholder="Search names and tags"
        aria-label="Search the patterns"
      />
      <Select v-model="tag" :options="tags" aria-label="Tag" />
      <ChooseOne v-model="order" :options="orders" aria-label="Order" />
      <span class="quiet">{{ shown.length }} of {{ entries.length }} patterns</span>
    </div>
    <ul class="list" aria-label="Patterns on the shelf">
      <ShelfRow
        v-for="entry in shown"
        :key="entry.key"
        :entry="entry"
        :strings="strings"
        @take="take(entry)"
        @hear="hear(entry)"
        @compare="compared = entry.key"
        @remove="remove(entry)"
      />
    </ul>
    <p v-if="shown.length === 0" class="quiet">No pattern has all of that; take a word away.</p>
  </div>
</template>

<style scoped>
.pattern-shelf {
  display: grid;
  gap: 0.8rem;
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
}

.list {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(27rem, 100%), 1fr));
  gap: 0.8rem 1.6rem;
}
</style>
