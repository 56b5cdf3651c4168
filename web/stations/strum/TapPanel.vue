<script setup lang="ts">
import { useTapKeys } from '../../frame/keys';
import Button from 'primevue/button';
import SelectButton from 'primevue/selectbutton';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import { computed, ref, shallowRef, watch } from 'vue';
import type { Direction, Pattern } from '#core/schema';
import { beatTicks, placeName, secondsPerTick } from '#core/time';
import { divisions } from '#core/stroke';
import {
  divisionTag,
  hearTaps,
  setLength,
  type Tap,
  type TappedGrid,
  tapLengths,
} from '#core/pattern';
import { commands } from '#core/edit';
import { previewPattern } from '#core/arrange';
import FormRow from '../../fields/FormRow.vue';
import WristPath from '../../path/WristPath.vue';
import PlayInPanel from './PlayInPanel.vue';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';

/** The pattern tapped on two keys or two pads to a click; nothing is taken until it is accepted. */
const props = defineProps<{ pattern: Pattern; strings: number; chord: string | null }>();
const songs = useSongStore();
const player = usePlayerStore();
const view = useViewStore();

const beats = ref(props.pattern.meter.beats);
const lengths = computed(() => tapLengths(props.pattern.meter));
watch(
  () => props.pattern.meter.beats,
  (now) => (beats.value = now),
);

/** What has been tapped so far; null where nothing is being tapped. */
const taps = shallowRef<Tap[] | null>(null);
const lit = ref<Direction | null>(null);
const grids = shallowRef<TappedGrid[]>([]);
const chosen = ref(0);
const told = ref<string | null>(null);

const counting = computed(() => taps.value !== null && player.auditionPosition?.countIn !== false);

async function start(): Promise<void> {
  const { song } = songs;
  if (!song) return;
  grids.value = [];
  told.value = null;
  const ticks = beats.value * beatTicks(props.pattern.meter);
  const silent = {
    ...previewPattern(song, setLength(props.pattern, beats.value), null),
    strikes: [],
    ticks,
  };
  await player.audition(silent, { click: true, countIn: 1, meter: props.pattern.meter });
  taps.value = [];
}

function tap(dir: Direction): void {
  const now = player.position();
  if (!taps.value || !now) return;
  taps.value = [...taps.value, { tick: now.tick, dir }];
  lit.value = dir;
  setTimeout(() => (lit.value = null), 120);
}

/** Taps in the count-in were only warming up, but for one that was a little early. */
function finish(): void {
  const early = -beatTicks(props.pattern.meter) / 8;
  const heard = (taps.value ?? []).filter(({ tick }) => tick >= early);
  taps.value = null;
  chosen.value = 0;
  grids.value = hearTaps(heard, props.pattern, beats.value);
  if (grids.value.length === 0) told.value = 'No tap was heard. The pattern is as it was.';
}

watch(
  () => player.auditioning,
  (sounding) => {
    if (!sounding && taps.value !== null) finish();
  },
);

const KEYS: Record<string, Direction> = { ArrowDown: 'down', ArrowUp: 'up', f: 'down', j: 'up' };
useTapKeys(
  () => Boolean(taps.value),
  ({ key }) => {
    const dir = KEYS[key];
    if (dir) tap(dir);
    return dir !== undefined;
  },
);

const grid = computed(() => grids.value[chosen.value] ?? null);
const choices = computed(() =>
  grids.value.slice(0, 3).map(({ divisions: rows, pattern }, value) => ({
    value,
    label: new Set(rows).size > 1 ? 'mixed' : divisionTag(pattern),
  })),
);
const errors = computed(() => {
  if (!grid.value) return [];
  const { pattern } = grid.value;
  const rows = divisions(pattern);
  const perTick = secondsPerTick(songs.song?.tempo ?? 80, pattern.meter);
  return grid.value.errors.map(({ slot, ticks }) => {
    const ms = Math.round(ticks * perTick * 1000);
    const how = ms === 0 ? 'on it' : ms > 0 ? `${ms} ms late` : `${-ms} ms early`;
    return { slot, place: placeName(rows, pattern.meter, slot), how, far: Math.abs(ms) > 40 };
  });
});
const summary = computed(() => {
  if (!grid.value) return '';
  const perTick = secondsPerTick(songs.song?.tempo ?? 80, props.pattern.meter);
  const mean = Math.round(grid.value.spread * perTick * 1000);
  const lost = grid.value.dropped ? `, ${grid.value.dropped} left over` : '';
  return `${errors.value.length} taps, ${mean} ms off on average${lost}.`;
});

function hear(): void {
  const { song } = songs;
  if (song && grid.value)
    void player.audition(previewPattern(song, grid.value.pattern, props.chord), { click: true });
}

function take(): void {
  if (grid.value) songs.runOnRhythm(commands.takeEdited('tap the pattern in', grid.value.pattern));
  told.value = 'Taken. Undo brings back what was there.';
  grids.value = [];
}
</script>

<template>
  <div class="tap-panel">
    <FormRow v-slot="{ labelId }" label="Length">
      <SelectButton
        v-model="beats"
        :options="lengths"
        option-label="label"
        option-value="beats"
        :allow-empty="false"
        :aria-labelledby="labelId"
      />
    </FormRow>
    <FormRow label="By taps">
      <Button v-if="!taps" label="Count me in" icon="pi pi-play" @click="start" />
      <Button v-else label="Stop" icon="pi pi-stop" severity="secondary" @click="player.stop()" />
    </FormRow>
    <p role="status" class="quiet">
      {{
        taps === null
          ? 'One bar of clicks, then tap down and up on the arrow keys, F and J, or the pads.'
          : counting
            ? 'Counting in …'
            : `Tap it: ${taps.length} so far`
      }}
    </p>
    <div v-if="taps" class="pads">
      <button type="button" :class="{ lit: lit === 'down' }" @pointerdown.prevent="tap('down')">
        Down <kbd>↓</kbd> <kbd>F</kbd>
      </button>
      <button type="button" :class="{ lit: lit === 'up' }" @pointerdown.prevent="tap('up')">
        Up <kbd>↑</kbd> <kbd>J</kbd>
      </button>
    </div>
    <template v-if="grid">
      <div class="row">
        <ChooseBeside v-model="chosen" :options="choices" aria-label="Heard as" />
        <span>{{ summary }}</span>
        <Button size="small" text icon="pi pi-play" label="Hear it" @click="hear" />
        <Button size="small" label="Use it" @click="take" />
        <Button size="small" text label="Cancel" @click="grids = []" />
      </div>
      <WristPath
        class="heard-as"
        :pattern="grid.pattern"
        :strings="strings"
        size="middle"
        :width="900"
        :flipped="view.bassAtBottom"
      />
      <ul class="errors" aria-label="How far off each tap was">
        <li v-for="error in errors" :key="error.slot" :class="{ far: error.far }">
          <b>{{ error.place }}</b> {{ error.how }}
        </li>
      </ul>
    </template>
    <p v-if="told" role="status">{{ told }}</p>
    <PlayInPanel v-if="!taps" :pattern="pattern" :strings="strings" :chord="chord" :beats="beats" />
  </div>
</template>

<style scoped>
.tap-panel {
  display: grid;
  gap: 0.8rem;
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.8rem;
}

.pads {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1rem;
  max-width: 48rem;
}

.pads button {
  min-height: 7rem;
  border: 0;
  border-radius: var(--radius);
  background: var(--paper-sunk);
  color: var(--ink);
  font-family: var(--display);
  font-size: 1.4rem;
  font-weight: 650;
  touch-action: manipulation;
  cursor: pointer;
}

.pads .lit {
  background: var(--brass-soft);
}

.heard-as {
  max-width: 900px;
}

.errors {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 1.2rem;
}

.far {
  color: var(--coral);
}
</style>
