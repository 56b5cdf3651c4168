<script setup lang="ts">
import Button from 'primevue/button';
import Slider from 'primevue/slider';
import ToggleButton from 'primevue/togglebutton';
import { computed, nextTick, ref, shallowRef, useTemplateRef } from 'vue';
import {
  commands,
  hasTunes as anyTunes,
  loosePass,
  type Pattern,
  rhythmCommands,
  type Variation,
  VARIATIONS,
} from '#core';
import { useSongStore } from '../../stores/song';
import PatternPair from './PatternPair.vue';

/** One press each: the pattern varied at once, with before and after to see and to hear. */
const props = defineProps<{ pattern: Pattern; strings: number; chord: string | null }>();
const songs = useSongStore();

const GROUPS: { label: string; group: Variation['group'] }[] = [
  { label: 'Easier', group: 'easier' },
  { label: 'Fuller', group: 'fuller' },
  { label: 'Time', group: 'time' },
  { label: 'Meter', group: 'meter' },
  { label: 'Strokes', group: 'strokes' },
  { label: 'Picked', group: 'picked' },
];
const groups = GROUPS.map(({ label, group }) => ({
  label,
  variations: VARIATIONS.filter((variation) => variation.group === group),
}));

const hasTunes = computed(() => songs.song !== null && anyTunes(songs.song));

const done = shallowRef<{ name: string; before: Pattern; after: Pattern } | null>(null);
const told = ref<string | null>(null);

const sides = useTemplateRef<HTMLElement>('sides');

async function vary({ name, apply }: Variation): Promise<void> {
  const before = props.pattern;
  const after = apply(before);
  told.value = null;
  if (after === null) {
    told.value = `${name}: this pattern cannot be written so; it stays as it is.`;
  } else if (JSON.stringify(after) === JSON.stringify(before)) {
    told.value = `${name}: it is so already.`;
  } else {
    songs.runOnRhythm(commands.takeEdited(name.toLowerCase(), after));
    done.value = { name, before, after };
    await nextTick();
    sides.value?.scrollIntoView({ block: 'nearest' });
  }
}

function putBack(): void {
  const last = done.value;
  if (!last) return;
  if (songs.undoName === last.name.toLowerCase()) songs.stepBack();
  else songs.runOnRhythm(commands.takeEdited('put it back', last.before));
  done.value = null;
}

const pair = computed(() =>
  done.value
    ? [
        { label: 'Before', pattern: done.value.before },
        { label: `After: ${done.value.name.toLowerCase()}`, pattern: done.value.after },
      ]
    : [],
);

const HALF = 0.5;
const SEEDS = 9999;
const loose = computed({
  get: () => props.pattern.loose !== undefined,
  set: (on: boolean) =>
    songs.runOnRhythm(commands.setLoose(on ? { density: HALF, seed: 1 } : undefined)),
});
const density = computed({
  get: () => Math.round((props.pattern.loose?.density ?? HALF) * 100),
  set: (value: number) => {
    const { loose: now } = props.pattern;
    if (now) songs.runOnRhythm(commands.setLoose({ ...now, density: value / 100 }), true);
  },
});
function shuffle(): void {
  const { loose: now } = props.pattern;
  if (now) songs.runOnRhythm(commands.setLoose({ ...now, seed: (now.seed * 31 + 7) % SEEDS }));
}
/** The first turn, as a pattern that no longer varies. */
function keepTurn(): void {
  const { loose: _, ...fixed } = loosePass(props.pattern, 0, new Set([0]));
  songs.runOnRhythm(commands.takeEdited('keep this turn', fixed));
}
</script>

<template>
  <div class="variations">
    <div class="groups">
      <div v-for="group in groups" :key="group.label" role="group" :aria-label="group.label">
        <h2 class="sub">{{ group.label }}</h2>
        <Button
          v-for="variation in group.variations"
          :key="variation.id"
          size="small"
          severity="secondary"
          :label="variation.name"
          :title="variation.says"
          @click="vary(variation)"
        />
        <Button
          v-if="group.label === 'Easier' && hasTunes"
          size="small"
          severity="secondary"
          label="Without single notes"
          title="the lines of notes of the whole song go; the strums stay"
          @click="songs.run(rhythmCommands.takeTunes())"
        />
      </div>
    </div>
    <p v-if="told" role="status">{{ told }}</p>
    <div v-if="done" ref="sides" class="sides">
      <PatternPair :patterns="pair" :strings="strings" :chord="chord" />
      <p>
        <Button size="small" label="Put it back" icon="pi pi-undo" @click="putBack" />
      </p>
    </div>
    <div class="loose">
      <ToggleButton v-model="loose" on-label="Loose" off-label="Loose" aria-label="Loose" />
      <span class="quiet">
        The arm goes on, the hits vary from turn to turn; accents and landings stay.
      </span>
      <template v-if="loose">
        <span id="density" class="label">how many</span>
        <Slider v-model="density" class="slider" :min="0" :max="100" aria-labelledby="density" />
        <span>{{ density }} %</span>
        <Button size="small" text icon="pi pi-refresh" label="Shuffle" @click="shuffle" />
        <Button size="small" text label="Keep one turn" @click="keepTurn" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.variations {
  display: grid;
  gap: 0.9rem;
}

.groups {
  display: flex;
  flex-wrap: wrap;
  gap: 0.8rem 1.6rem;
}

.groups > div {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.35rem;
}

h2.sub {
  font-size: 1rem;
  margin-right: 0.2rem;
}

.sides {
  scroll-margin-block: 4.5rem calc(var(--stage-bar) + 1rem);
}

.loose {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem 0.8rem;
}

.slider {
  width: 12rem;
}
</style>
