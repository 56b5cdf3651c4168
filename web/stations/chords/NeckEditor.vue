<script setup lang="ts">
import Button from 'primevue/button';
import { useEventListener } from '@vueuse/core';
import InputText from 'primevue/inputtext';
import { type ComponentPublicInstance, computed, onMounted, ref, useTemplateRef } from 'vue';
import type { Instrument, Shape } from '#core/schema';
import {
  assignFingers,
  detectChords,
  moveShape,
  readShape,
  stringLabel,
  writeShape,
  stringThickness,
} from '#core/neck';
import { songKey } from '#core/song';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';

/** A shape made on the neck: written, or each fret pressed, a string open or left out, fingers of its own. */
const props = defineProps<{ symbol: string; instrument: Instrument; start: Shape }>();
const emit = defineEmits<{ make: [shape: Shape]; close: [] }>();
const view = useViewStore();
const songs = useSongStore();

const ROWS = 5;
const frets = ref<(number | null)[]>([...props.start.frets]);
/** Fingers that the player has set, by string; null where they are found. */
const own = ref<(number | null)[]>(props.start.frets.map(() => null));
const pressed = () => frets.value.filter((fret) => fret !== null && fret > 0) as number[];
const lowest = Math.min(...pressed(), Infinity);
const first = ref(Math.max(...pressed(), 0) <= ROWS ? 1 : lowest);

const thickness = computed(() => stringThickness(props.instrument));
const strings = computed(() => {
  const all = props.instrument.strings.map((_, string) => string);
  return view.leftHanded ? all.reverse() : all;
});
const rows = computed(() => Array.from({ length: ROWS }, (_, row) => first.value + row));

function press(string: number, fret: number | null): void {
  // A press that was dragged along has done its work already.
  if (laid.value) return void (laid.value = false);
  frets.value = frets.value.with(string, frets.value[string] === fret ? null : fret);
  own.value = own.value.with(string, null);
  typed.value = null;
}

/** Where a finger was put down that is dragged over other strings: it lies on them all. */
const down = ref<{ string: number; fret: number } | null>(null);
const laid = ref(false);
function putDown(event: PointerEvent, string: number, fret: number): void {
  (event.target as HTMLElement).releasePointerCapture?.(event.pointerId);
  down.value = { string, fret };
  laid.value = false;
}
useEventListener('pointerup', () => (down.value = null));
function dragOver(string: number, fret: number): void {
  if (!down.value || down.value.fret !== fret || down.value.string === string) return;
  const finger =
    own.value[down.value.string] ??
    (frets.value[down.value.string] === fret ? fingers.value?.[down.value.string] : null) ??
    1;
  const [from, to] = [Math.min(down.value.string, string), Math.max(down.value.string, string)];
  frets.value = frets.value.map((before, at) => (at >= from && at <= to ? fret : before));
  own.value = own.value.map((before, at) => (at >= from && at <= to ? finger || 1 : before));
  laid.value = true;
  typed.value = null;
}

/** What is typed, as long as it is; else the shape as it is written. */
const typed = ref<string | null>(null);
const problem = computed(() => {
  if (typed.value === null || typed.value.trim() === '') return '';
  const read = readShape(typed.value, props.instrument);
  return 'problem' in read ? read.problem : '';
});
const field = useTemplateRef<ComponentPublicInstance>('field');
onMounted(() => (field.value?.$el as HTMLElement | undefined)?.focus());
function type(text: string | undefined): void {
  typed.value = text ?? '';
  const read = readShape(typed.value, props.instrument);
  if (!('shape' in read)) return;
  frets.value = read.shape.frets;
  own.value = typed.value.includes('/') ? read.shape.fingers : frets.value.map(() => null);
  show();
}
function clear(): void {
  frets.value = frets.value.map(() => null);
  own.value = frets.value.map(() => null);
  typed.value = null;
}

/** A number sets the finger of a string: on one that does not sound it touches it. */
function number(event: KeyboardEvent, string: number): void {
  if (!/^[0-4]$/.test(event.key) || frets.value[string] === 0) return;
  event.preventDefault();
  own.value = own.value.with(string, Number(event.key));
  typed.value = null;
}

/** The next finger on a string: found by itself, 1 to 4, none. */
function step(string: number): void {
  const now = own.value[string];
  const next = now === null || now === undefined ? 1 : now === 4 ? 0 : now === 0 ? null : now + 1;
  own.value = own.value.with(string, next);
  typed.value = null;
}

/** The whole shape along the neck; null where it would leave it. */
const moved = (by: number) => moveShape(frets.value, by, props.instrument.frets);
function move(by: number): void {
  const next = moved(by);
  if (!next) return;
  frets.value = next;
  typed.value = null;
  show();
}
/** Brings the fingers into the part of the neck that is drawn. */
function show(): void {
  const held = pressed();
  if (held.length === 0) return;
  if (Math.max(...held) <= ROWS) first.value = 1;
  else if (Math.max(...held) > first.value + ROWS - 1 || Math.min(...held) < first.value) {
    first.value = Math.max(1, Math.min(...held));
  }
}

const usual = computed(() => assignFingers(frets.value, true));
const fingers = computed(() =>
  own.value.some((finger) => finger !== null)
    ? frets.value.map((fret, string) => {
        if (fret === 0) return 0;
        const set = own.value[string] ?? null;
        return fret === null ? (set ?? 0) : (set ?? usual.value?.[string] ?? 0);
      })
    : usual.value,
);
const shape = computed<Shape>(() => ({
  frets: frets.value,
  fingers: fingers.value ?? frets.value.map(() => 0),
}));
const written = computed(() =>
  frets.value.every((fret) => fret === null) ? '' : writeShape(shape.value),
);
const names = computed(() =>
  detectChords(
    frets.value.flatMap((fret, string) =>
      fret === null ? [] : [props.instrument.strings[string]! + fret],
    ),
    songs.song ? songKey(songs.song) : undefined,
  ),
);
const words = computed(() => {
  const sounding = frets.value.filter((fret) => fret !== null).length;
  if (sounding === 0) return 'No string sounds yet.';
  const name =
    names.value.length > 0
      ? `This is ${names.value.slice(0, 2).join(', or ')}.`
      : 'This has no name that we know.';
  const silent = props.instrument.strings.flatMap((_, string) =>
    frets.value[string] === null ? [stringLabel(props.instrument, string)] : [],
  );
  const left = silent.length > 0 ? ` Not held: ${silent.join(', ')}.` : '';
  const held = fingers.value ? '' : ' Four fingers cannot hold it; you may still keep it.';
  return `${name}${left}${held}`;
});
const canKeep = computed(() => frets.value.some((fret) => fret !== null));

function keep(): void {
  emit('make', shape.value);
}

function fingerLabel(string: number): string {
  const finger = fingers.value?.[string];
  const touches = frets.value[string] === null ? ' touches it' : '';
  const now = finger ? `finger ${finger}${touches}` : 'no finger';
  return `${stringLabel(props.instrument, string)} string: ${now}; another`;
}

const at = (string: number, fret: number | null) =>
  `${stringLabel(props.instrument, string)} string, ${fret === null ? 'left out' : fret === 0 ? 'open' : `fret ${fret}`}`;
</script>

<template>
  <div class="editor">
    <label for="shape-typed">Frets, from the thumb’s side</label>
    <InputText
      id="shape-typed"
      ref="field"
      :model-value="typed ?? written"
      placeholder="x35500, or 0 7 6 6 7 x"
      autocomplete="off"
      spellcheck="false"
      maxlength="60"
      :invalid="problem !== ''"
      aria-describedby="shape-problem"
      @update:model-value="type"
      @focus="($event.target as HTMLInputElement).select()"
      @blur="typed = null"
      @keydown.enter.prevent="canKeep && problem === '' && keep()"
    />
    <p id="shape-problem" class="problem" role="status">{{ problem }}</p>
    <p role="status" class="named">{{ words }}</p>
    <table aria-label="Strings and frets">
      <tbody>
        <tr class="nut">
          <td v-for="string in strings" :key="string">
            <button
              type="button"
              :aria-label="frets[string] === null ? at(string, null) : at(string, 0)"
              :aria-pressed="frets[string] === 0"
              @click="press(string, 0)"
            >
              {{ frets[string] === null ? '×' : frets[string] === 0 ? '○' : '' }}
            </button>
          </td>
          <th aria-hidden="true" />
        </tr>
        <tr v-for="fret in rows" :key="fret">
          <td
            v-for="string in strings"
            :key="string"
            :style="{ '--thick': `${1 + 2 * thickness[string]!}px` }"
          >
            <button
              type="button"
              :aria-label="at(string, fret)"
              :aria-pressed="frets[string] === fret"
              :class="{ on: frets[string] === fret }"
              @pointerdown="putDown($event, string, fret)"
              @pointerenter="dragOver(string, fret)"
              @keydown="number($event, string)"
              @click="press(string, fret)"
            >
              <span v-if="frets[string] === fret">{{ fingers?.[string] || '' }}</span>
            </button>
          </td>
          <th scope="row">{{ fret }}</th>
        </tr>
        <tr class="fingers">
          <td v-for="string in strings" :key="string">
            <button
              v-if="frets[string] !== 0"
              type="button"
              :title="
                frets[string] === null ? 'A finger that touches it and does not press' : undefined
              "
              :aria-label="fingerLabel(string)"
              :class="{ own: own[string] !== null, touches: frets[string] === null }"
              @keydown="number($event, string)"
              @click="step(string)"
            >
              {{ fingers?.[string] || '–' }}
            </button>
          </td>
          <th scope="row">finger</th>
        </tr>
      </tbody>
    </table>
    <div class="actions">
      <Button
        icon="pi pi-arrow-up"
        text
        rounded
        aria-label="Down the neck"
        :disabled="first === 1"
        @click="first -= 1"
      />
      <Button
        icon="pi pi-arrow-down"
        text
        rounded
        aria-label="Up the neck"
        :disabled="first + ROWS > instrument.frets"
        @click="first += 1"
      />
      <Button
        size="small"
        text
        label="Shape up a fret"
        :disabled="moved(1) === null"
        @click="move(1)"
      />
      <Button
        size="small"
        text
        label="Shape down a fret"
        :disabled="moved(-1) === null"
        @click="move(-1)"
      />
      <Button size="small" text label="Clear" :disabled="!canKeep" @click="clear" />
      <Button label="Cancel" text @click="emit('close')" />
      <Button :label="`Keep for ${symbol}`" :disabled="!canKeep" @click="keep" />
    </div>
  </div>
</template>

<style scoped>
.editor {
  display: grid;
  gap: 0.5rem;
}

.named {
  font-weight: 600;
}

table {
  border-collapse: collapse;
  justify-self: start;
}

td {
  padding: 0;
  width: 2.6rem;
  height: 2.2rem;
  border-bottom: 2px solid var(--string);
  background: linear-gradient(var(--string), var(--string)) center / var(--thick, 2px) 100%
    no-repeat;
}

.nut td {
  background: none;
  border-bottom: 5px solid var(--ink);
}

.fingers td {
  background: none;
  border-bottom: 0;
}

.fingers .touches {
  color: var(--ink-soft);
  font-style: italic;
}

.fingers .own {
  font-weight: 700;
}

label {
  font-weight: 600;
}

.problem {
  margin: 0;
  min-height: 1.4em;
  color: var(--coral);
}

th {
  padding-left: 0.6rem;
  font-weight: 400;
  color: var(--ink-soft);
}

td button {
  touch-action: pan-y;
  display: block;
  width: 2rem;
  height: 2rem;
  margin: auto;
  border: 0;
  border-radius: 50%;
  background: none;
  color: inherit;
  cursor: pointer;
}

td button:hover {
  background: var(--brass-soft);
}

td button.on {
  background: var(--ink);
  color: var(--paper);
  font-weight: 700;
}

.actions {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.3rem;
}
</style>
