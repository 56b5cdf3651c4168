<script setup lang="ts">
import Menu from 'primevue/menu';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { plural } from '#core/plain';
import { isNoChord } from '#core/neck';
import { songChords } from '#core/song';
import { rhythmCommands, type RhythmTarget } from '#core/edit';
import type { MappedRhythm } from '#core/arrange';
import WristPath from '../../path/WristPath.vue';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import type { useBarSelection } from './barSelection';

/**
 * The rhythms of the song over its bars: each a short path with a letter that its bars bear. One is laid by dragging
 * it on a bar, a chord's flag or the name of a section, from its menu, or with its number on the chosen bars.
 */
const props = defineProps<{
  rhythms: MappedRhythm[];
  selection: ReturnType<typeof useBarSelection>;
}>();
const songs = useSongStore();
const player = usePlayerStore();
const router = useRouter();

const strings = computed(() => songs.song?.instrument.strings.length ?? 6);
const bar = computed(() => player.bars[player.selectedBar] ?? player.bars[0] ?? null);
const chosen = computed<RhythmTarget[]>(() =>
  props.selection.places().map((place) => ({ of: 'bar', ...place })),
);

function lay(targets: RhythmTarget[], { pattern }: MappedRhythm): void {
  songs.run(rhythmCommands.layRhythm(targets, pattern));
}

const menu = ref<InstanceType<typeof Menu>>();
const open = ref<MappedRhythm | null>(null);
const items = computed(() => {
  const rhythm = open.value;
  const { song } = songs;
  if (!rhythm || !song || !bar.value) return [];
  const { section } = bar.value;
  const name = song.sections[section]!.name || 'this section';
  const chords = songChords(song).filter((symbol) => !isNoChord(symbol));
  return [
    {
      label: `On ${plural(chosen.value.length, 'chosen bar')}`,
      command: () => lay(chosen.value, rhythm),
    },
    { label: `On all of ${name}`, command: () => lay([{ of: 'section', section }], rhythm) },
    {
      label: 'On every',
      items: chords.map((symbol) => ({
        label: symbol,
        command: () => lay([{ of: 'chord', symbol }], rhythm),
      })),
    },
    {
      label: 'Edit it',
      icon: 'pi pi-pencil',
      command: () => {
        const first = rhythm.bars[0];
        if (first !== undefined) player.selectedBar = first - 1;
        void router.push({ name: 'strum', params: { id: songs.id } });
      },
    },
  ];
});
function toggle(event: MouseEvent, rhythm: MappedRhythm): void {
  open.value = rhythm;
  menu.value?.toggle(event);
}
function drag(event: DragEvent, rhythm: MappedRhythm): void {
  event.dataTransfer?.setData(DRAGGED, rhythm.mark);
}
const DRAGGED = 'application/x-plucky-rhythm';

/** Where a rhythm is dropped: on a chord's flag, on a bar, or on the name of a section. */
function targetAt(element: HTMLElement): RhythmTarget[] {
  const head = element.closest<HTMLElement>('[data-section]');
  if (head) return [{ of: 'section', section: Number(head.dataset['section']) }];
  const flag = element.closest<HTMLElement>('[data-chord]');
  if (flag) return [{ of: 'chord', symbol: flag.dataset['chord']! }];
  const place = element.closest<HTMLElement>('[data-place]')?.dataset['place'];
  if (!place) return [];
  const [section, line, at] = place.split('/').map(Number) as [number, number, number];
  return [{ of: 'bar', section, line, bar: at }];
}
function over(event: DragEvent): void {
  if (!event.dataTransfer?.types.includes(DRAGGED)) return;
  if (targetAt(event.target as HTMLElement).length > 0) event.preventDefault();
}
function drop(event: DragEvent): void {
  const mark = event.dataTransfer?.getData(DRAGGED);
  const rhythm = props.rhythms.find((one) => one.mark === mark);
  const targets = targetAt(event.target as HTMLElement);
  if (!rhythm || targets.length === 0) return;
  event.preventDefault();
  lay(targets, rhythm);
}

/** The number of a rhythm lays it on the chosen bars, 0 takes theirs off. */
function key(name: string): boolean {
  if (!/^\d$/.test(name)) return false;
  if (name === '0') songs.run(rhythmCommands.layRhythm(chosen.value, null));
  const rhythm = props.rhythms[Number(name) - 1];
  if (rhythm) lay(chosen.value, rhythm);
  return name === '0' || rhythm !== undefined;
}
defineExpose({ over, drop, key });
</script>

<template>
  <div class="strip" role="group" aria-label="Strums of the song">
    <button
      v-for="(rhythm, index) in rhythms"
      :key="rhythm.mark"
      type="button"
      draggable="true"
      aria-haspopup="menu"
      :title="`Drag it on a bar, a chord or a section; ${index + 1} lays it on the chosen bars`"
      @click="toggle($event, rhythm)"
      @dragstart="drag($event, rhythm)"
    >
      <b>{{ rhythm.mark }}</b>
      <WristPath :pattern="rhythm.pattern" :strings="strings" size="small" dense class="path" />
      <span class="name">{{ rhythm.pattern.name }}</span>
      <span class="quiet">{{ plural(rhythm.bars.length, 'bar') }}</span>
    </button>
    <Menu ref="menu" :model="items" popup />
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  gap: 0.4rem;
  overflow-x: auto;
  padding: 0.1rem;
  /* What scrolls sideways would else be pressed flat by the bars below it. */
  flex: none;
  min-height: 2.9rem;
}

button {
  display: flex;
  align-items: center;
  gap: 0.5rem;
  flex: none;
  border: 1px solid var(--line);
  border-radius: var(--radius);
  background: var(--paper-raised);
  color: inherit;
  font: inherit;
  padding: 0.1rem 0.6rem;
  cursor: grab;
  min-height: 2.75rem;
}

b {
  font-family: var(--display);
  color: var(--brass-ink);
}

.path {
  width: 5.6rem;
  height: auto;
  pointer-events: none;
}

.name {
  max-width: 11rem;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
