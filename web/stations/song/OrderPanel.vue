<script setup lang="ts">
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import SelectButton from 'primevue/selectbutton';
import { computed } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import { plural } from '#core/plain';
import type { Passage, Song } from '#core/schema';
import { writtenKey } from '#core/neck';
import { songKey } from '#core/song';
import { barCommands, passageLengths, passageList } from '#core/edit';
import ChooseOne from '../../fields/ChooseOne.vue';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';

/** The order in which sections are played: passages to drag, to repeat, to add and to take out. */
const props = defineProps<{ song: Song }>();
const songs = useSongStore();
const player = usePlayerStore();

const passages = computed(() => passageList(props.song));
/** Sections can be called for by their names, so those without one are only played as written. */
const names = computed(() => [
  ...new Set(props.song.sections.map(({ name }) => name).filter(Boolean)),
]);
const lengths = computed(() => passageLengths(props.song, player.bars));
/** Dragged items need a name of their own, and a passage may come twice. */
const items = computed(() => passages.value.map((passage, index) => ({ ...passage, id: index })));

function move(from: number, to: number): void {
  if (to >= 0 && to < passages.value.length && from !== to)
    songs.run(barCommands.movePassage(from, to));
}
function set(order: Passage[]): void {
  songs.run(barCommands.setOrder(order));
}
function setTimes(index: number, times: number): void {
  set(passages.value.with(index, { ...passages.value[index]!, times }));
}
/** Other keys, up and down; the one that it is written in in the middle. */
const keys = computed(() => {
  const { tonic, minor } = songKey(props.song);
  return Array.from({ length: 23 }, (_, at) => 11 - at).map((shift) => ({
    value: shift,
    label:
      shift === 0
        ? `in ${writtenKey({ tonic, minor })}`
        : `${shift > 0 ? '+' : '−'}${Math.abs(shift)}, in ${writtenKey({ tonic: (tonic + shift + 12) % 12, minor })}`,
  }));
});
function setShift(index: number, shift: number): void {
  const { shift: _, ...passage } = passages.value[index]!;
  set(passages.value.with(index, shift === 0 ? passage : { ...passage, shift }));
}
/** The whole section, or so many of its last lines. */
function parts(name: string) {
  const lines = props.song.sections.find((section) => section.name === name)?.lines.length ?? 1;
  return Array.from({ length: lines }, (_, at) => ({
    value: at,
    label: at === 0 ? 'all of it' : at === 1 ? 'its last line' : `its last ${at} lines`,
  }));
}
function setPart(index: number, count: number): void {
  const { lastLines: _, ...passage } = passages.value[index]!;
  set(passages.value.with(index, count === 0 ? passage : { ...passage, lastLines: count }));
}
/** How times round are counted matters where a passage repeats and something is only for some of the times. */
const hasTimes = computed(
  () =>
    props.song.endings !== undefined ||
    (passages.value.some(({ times }) => times > 1) &&
      props.song.sections.some(({ lines }) =>
        lines.some(
          ({ only, bars }) =>
            only !== undefined || bars.some(({ chords }) => chords.some((one) => one.substitutes)),
        ),
      )),
);
const COUNTED = [
  { label: 'in each passage', value: 'passage' as const },
  { label: 'over the song', value: 'song' as const },
];
function dropped({ oldIndex, newIndex }: { oldIndex?: number; newIndex?: number }): void {
  if (oldIndex !== undefined && newIndex !== undefined) move(oldIndex, newIndex);
}
</script>

<template>
  <section class="panel" aria-label="Order of the sections">
    <VueDraggable
      :model-value="items"
      tag="ol"
      class="passages"
      handle=".grip"
      :animation="120"
      @update="dropped"
    >
      <li v-for="(item, index) in items" :key="item.id" class="passage">
        <div class="head">
          <i class="pi pi-bars grip" data-testid="grip" aria-hidden="true" />
          <span class="name" data-testid="passage">{{ item.name || 'without a name' }}</span>
          <span class="label">{{ plural(lengths[index]!, 'bar') }}</span>
          <Button
            icon="pi pi-arrow-up"
            text
            rounded
            size="small"
            :disabled="index === 0"
            :aria-label="`${item.name}, passage ${index + 1}: earlier`"
            @click="move(index, index - 1)"
          />
          <Button
            icon="pi pi-arrow-down"
            text
            rounded
            size="small"
            :disabled="index === items.length - 1"
            :aria-label="`${item.name}, passage ${index + 1}: later`"
            @click="move(index, index + 1)"
          />
          <Button
            v-if="song.order"
            icon="pi pi-times"
            text
            rounded
            size="small"
            :aria-label="`${item.name}, passage ${index + 1}: leave out`"
            @click="set(passages.toSpliced(index, 1))"
          />
        </div>
        <div v-if="item.name" class="how">
          <InputNumber
            :model-value="item.times"
            show-buttons
            class="times"
            :min="1"
            :max="32"
            :allow-empty="false"
            suffix="×"
            :aria-label="`Times of ${item.name}, passage ${index + 1}`"
            @update:model-value="(times: number) => setTimes(index, times)"
          />
          <ChooseOne
            v-if="parts(item.name).length > 1 || item.lastLines"
            :model-value="item.lastLines ?? 0"
            :options="parts(item.name)"
            :aria-label="`How much of ${item.name}, passage ${index + 1}`"
            @update:model-value="(count: number) => setPart(index, count)"
          />
          <ChooseOne
            :model-value="item.shift ?? 0"
            :options="keys"
            :aria-label="`Key of ${item.name}, passage ${index + 1}`"
            @update:model-value="(shift: number) => setShift(index, shift)"
          />
        </div>
      </li>
    </VueDraggable>
    <div class="more">
      <span class="label">then</span>
      <Button
        v-for="name in names"
        :key="name"
        size="small"
        outlined
        icon="pi pi-plus"
        :label="name"
        :aria-label="`Play ${name} once more, at the end`"
        @click="set([...passages.filter((passage) => passage.name), { name, times: 1 }])"
      />
      <Button
        v-if="song.order"
        size="small"
        text
        label="As they are written"
        @click="songs.run(barCommands.setOrder(null))"
      />
    </div>
    <div v-if="hasTimes" class="more">
      <span class="label">1st time, last time: counted</span>
      <SelectButton
        :model-value="song.endings ?? 'passage'"
        :options="COUNTED"
        option-label="label"
        option-value="value"
        :allow-empty="false"
        size="small"
        aria-label="How endings are counted"
        @update:model-value="
          (over: 'song' | 'passage') => songs.run(barCommands.countEndings(over))
        "
      />
    </div>
    <p v-if="names.length === 0" class="quiet">
      Give sections a name in the line, “Verse:”, and they can be played in any order.
    </p>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 0.7rem;
}

.passages {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
}

.passage {
  background: var(--paper-raised);
  border-radius: var(--radius);
  padding: 0.25rem 0.5rem 0.5rem 0.7rem;
}

.head,
.how {
  display: flex;
  align-items: center;
  gap: 0.3rem;
}

.how > :not(.times) {
  flex: 1 1 0;
  min-width: 0;
}

.grip {
  cursor: grab;
  color: var(--ink-soft);
  padding: 0.4rem 0.3rem;
}

.name {
  flex: 1;
  font-family: var(--display);
  font-weight: 600;
  font-size: 1.05rem;
}

.times {
  width: 5rem;
}

.times :deep(input) {
  width: 100%;
  padding-inline: 0.4rem;
}

.more {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem;
}
</style>
