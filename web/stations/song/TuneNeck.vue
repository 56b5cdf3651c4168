<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import ToggleSwitch from 'primevue/toggleswitch';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import ChooseOne from '../../fields/ChooseOne.vue';
import FormRow from '../../fields/FormRow.vue';
import type { LegatoHow, Meter, TuneNote } from '#core/schema';
import { countNumber } from '#core/time';
import { addNote, nearestPlace, placeNote, removeNote, tuneGrid, type TunePart } from '#core/song';
import { useStrings } from '../../path/turned';
import { useViewStore } from '../../stores/view';

/**
 * A line of notes put on the neck one by one: each falls on the place that is chosen, and the place goes on; while
 * the bar sounds it falls where it is heard.
 */
const props = defineProps<{
  notes: TuneNote[];
  meter: Meter;
  /** Ticks of the bar that a pick-up leaves out. */
  lead: number;
  /** Open strings from the thumb on, as they are named. */
  strings: string[];
  frets: number;
  /** The frets of the chord under the hand at each time, from the thumb on. */
  chordAt: (tick: number) => (number | null)[] | null;
  /** What is heard, in ticks from the bar line; null while the bar does not sound. */
  heard: number | null;
}>();
const emit = defineEmits<{ write: [notes: TuneNote[]]; onward: [] }>();
const view = useViewStore();

const parts = ref<TunePart>(2);
const PARTS: { label: string; value: TunePart }[] = [
  { label: 'beats', value: 1 },
  { label: 'halves of a beat', value: 2 },
  { label: 'thirds of a beat', value: 3 },
  { label: 'quarters of a beat', value: 4 },
];
const how = ref<LegatoHow | 'struck'>('struck');
const HOWS: { label: string; value: LegatoHow | 'struck' }[] = [
  { label: 'struck', value: 'struck' },
  { label: 'hammer', value: 'hammer' },
  { label: 'pull', value: 'pull' },
  { label: 'slide', value: 'slide' },
];

const places = computed(() => {
  const grid = tuneGrid(props.meter, parts.value, props.lead);
  // Notes that lie between the places of this grid are shown, and stay.
  const between = props.notes
    .filter(({ at }, index) => props.notes[index - 1]?.at !== at)
    .filter(({ at }) => !grid.some((place) => place.at === at))
    .map(({ at }) => ({ at, name: `${at} ticks after the bar line` }));
  return [...grid, ...between]
    .sort((one, other) => one.at - other.at)
    .map((place) => ({ ...place, notes: props.notes.filter(({ at }) => at === place.at) }));
});
const cursor = ref(props.lead);
/** Notes go beside those on their place, and the place stays. */
const together = ref(false);
const place = computed(
  () => places.value.find(({ at }) => at === cursor.value) ?? places.value[0]!,
);
watch(
  [parts, () => props.lead],
  () => (cursor.value = nearestPlace(props.meter, parts.value, cursor.value, props.lead)),
);

const beatOf = (at: number) => {
  const grid = tuneGrid(props.meter, 1);
  const index = grid.findIndex((beat) => beat.at === at);
  return index < 0 ? '·' : String(countNumber(props.meter, index));
};
const sayNote = ({ string, fret, how: by }: TuneNote) =>
  `${by ? `${by} ` : ''}string ${string}, ${fret === 0 ? 'open' : `fret ${fret}`}`;

/** As thick as it is low. */
const drawnStrings = useStrings();
const thickness = (string: number) => `${1 + 2 * (drawnStrings.value?.thickness[string] ?? 0.5)}px`;

/** The strings as they are drawn: the one nearest the thumb first, or last where the player wants it so. */
const rows = computed(() => {
  const count = props.strings.length;
  const all = props.strings.map((name, index) => ({ name, index, number: count - index }));
  return view.bassAtBottom ? all.reverse() : all;
});
const columns = computed(() => {
  const all = Array.from({ length: props.frets + 1 }, (_, fret) => fret);
  return view.leftHanded ? all.reverse() : all;
});
const under = computed(() => props.chordAt(cursor.value));

const spot = ref({ row: 0, column: 0 });
const neck = useTemplateRef<HTMLElement>('neck');
async function go(rowBy: number, columnBy: number): Promise<void> {
  const within = (at: number, length: number) => Math.max(0, Math.min(length - 1, at));
  spot.value = {
    row: within(spot.value.row + rowBy, rows.value.length),
    column: within(spot.value.column + columnBy, columns.value.length),
  };
  await nextTick();
  neck.value?.querySelector<HTMLElement>('button[tabindex="0"]')?.focus();
}

function put(string: number, fret: number): void {
  const sounding = props.heard !== null;
  const at = sounding
    ? nearestPlace(props.meter, parts.value, props.heard!, props.lead)
    : place.value.at;
  const note: TuneNote = { at, string, fret, ...(how.value !== 'struck' && { how: how.value }) };
  if (together.value) {
    emit('write', addNote(props.notes, note));
    cursor.value = at;
    return;
  }
  emit('write', placeNote(props.notes, note));
  const next = places.value.findIndex((one) => one.at === at) + 1;
  if (sounding) cursor.value = at;
  else if (next < places.value.length) cursor.value = places.value[next]!.at;
  else {
    cursor.value = props.lead;
    emit('onward');
  }
}
function back(): void {
  const index = places.value.findIndex(({ at }) => at === cursor.value);
  const before = places.value.slice(0, index).findLast(({ notes }) => notes.length > 0);
  if (!before) return;
  emit('write', removeNote(props.notes, before.at));
  cursor.value = before.at;
}

const STEPS: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};
function onKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const step = STEPS[event.key];
  if (step) void go(...step);
  else if (event.key === 'Backspace') back();
  else return;
  event.preventDefault();
}
</script>

<template>
  <div class="tune-neck">
    <FormRow v-slot="{ labelId }" label="Notes fall on">
      <ChooseOne v-model="parts" :options="PARTS" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow label="The note is">
      <ChooseBeside v-model="how" :options="HOWS" aria-label="How the note sounds" size="small" />
    </FormRow>
    <FormRow v-slot="{ labelId }" label="Together">
      <ToggleSwitch v-model="together" :aria-labelledby="labelId" />
      <span class="quiet">at once with the notes there</span>
    </FormRow>
    <div class="places" role="group" aria-label="Places of the bar">
      <button
        v-for="one in places"
        :key="one.at"
        type="button"
        :class="{ now: one.at === place.at, beat: beatOf(one.at) !== '·' }"
        :aria-pressed="one.at === place.at"
        :aria-label="`On ${one.name}: ${one.notes.length > 0 ? one.notes.map(sayNote).join(' and ') : 'no note'}`"
        @click="cursor = one.at"
        @keydown.delete.prevent="emit('write', removeNote(notes, one.at))"
      >
        <small>{{ beatOf(one.at) }}</small>
        <span>{{ one.notes.map(({ string, fret }) => `s${string}f${fret}`).join(' ') }}</span>
      </button>
    </div>
    <div class="scroll">
      <table ref="neck" role="grid" aria-label="The neck" @keydown="onKey">
        <tbody>
          <tr
            v-for="(row, at) in rows"
            :key="row.index"
            :style="{ '--thick': thickness(row.index) }"
          >
            <th scope="row">{{ row.name }}</th>
            <td
              v-for="(fret, column) in columns"
              :key="fret"
              role="gridcell"
              :class="{ nut: fret === 0 }"
            >
              <button
                type="button"
                :tabindex="spot.row === at && spot.column === column ? 0 : -1"
                :aria-label="`String ${row.number}, ${fret === 0 ? 'open' : `fret ${fret}`}`"
                :class="{
                  on: place.notes.some((note) => note.string === row.number && note.fret === fret),
                  held: under?.[row.index] === fret,
                }"
                @focus="spot = { row: at, column }"
                @click="put(row.number, fret)"
              />
            </td>
          </tr>
        </tbody>
        <tfoot aria-hidden="true">
          <tr>
            <th />
            <td v-for="fret in columns" :key="fret">{{ fret === 0 ? '' : fret }}</td>
          </tr>
        </tfoot>
      </table>
    </div>
    <p class="quiet">
      {{
        heard === null
          ? `The next note falls on ${place.name}. Rings are the chord. Backspace takes the last note back.`
          : 'Tap notes as you hear the bar: each falls on the place that is nearest.'
      }}
    </p>
  </div>
</template>

<style scoped>
.tune-neck {
  display: grid;
  gap: 0.5rem;
  grid-template-columns: minmax(0, 1fr);
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem 0.6rem;
}

.places {
  display: flex;
  flex-wrap: wrap;
  gap: 0.15rem;
}

.places button {
  display: grid;
  justify-items: center;
  min-width: 2.4rem;
  min-height: 2.6rem;
  padding: 0.1rem 0.25rem;
  border: 0;
  border-bottom: 3px solid var(--string);
  background: none;
  color: inherit;
  cursor: pointer;
}

.places .beat {
  border-bottom-color: var(--ink-soft);
}

.places .now {
  background: var(--brass-soft);
  border-bottom-color: var(--brass);
}

.places small {
  color: var(--ink-soft);
}

.places span {
  font-size: 0.85em;
  font-weight: 600;
  min-height: 1.2em;
}

.scroll {
  overflow-x: auto;
  padding-bottom: 0.3rem;
}

table {
  border-collapse: collapse;
}

th {
  white-space: nowrap;
  padding-right: 0.5rem;
  font-weight: 400;
  color: var(--ink-soft);
}

td {
  padding: 0;
  min-width: 2rem;
  text-align: center;
}

tbody td {
  border-right: 2px solid var(--string);
  background: linear-gradient(var(--string), var(--string)) center / 100% var(--thick, 2px)
    no-repeat;
}

tbody td.nut {
  border-right: 5px solid var(--ink);
  background: none;
}

tfoot td {
  color: var(--ink-soft);
  font-size: 0.85em;
}

td button {
  display: block;
  width: 1.7rem;
  height: 1.7rem;
  margin: 0.05rem auto;
  border: 2px solid transparent;
  border-radius: 50%;
  background: none;
  cursor: pointer;
}

td button:hover {
  background: var(--brass-soft);
}

td button.held {
  border-color: var(--ink-soft);
  background: var(--paper);
}

td button.on {
  border-color: var(--ink);
  background: var(--ink);
}

@media (max-width: 40rem) {
  .places button {
    min-width: 2.1rem;
    min-height: 2.2rem;
  }

  .row > :deep(.p-select) {
    max-width: 9.5rem;
  }
}

@media (pointer: coarse) {
  .places button {
    min-width: 2.75rem;
    min-height: 2.75rem;
  }

  td button {
    width: 2.75rem;
    height: 2.75rem;
  }
}
</style>
