<script setup lang="ts">
import Button from 'primevue/button';
import Slider from 'primevue/slider';
import ToggleSwitch from 'primevue/toggleswitch';
import FormRow from '../../fields/FormRow.vue';
import { computed, nextTick, ref, shallowRef, useTemplateRef } from 'vue';
import type { Pattern } from '#core/schema';
import { loosePass, type Variation, VARIATIONS } from '#core/pattern';
import { hasTunes as anyTunes } from '#core/song';
import { commands, rhythmCommands } from '#core/edit';
import WristPath from '../../path/WristPath.vue';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';
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
/** Each variation with what it makes of the strum: itself where nothing changes, null where it cannot be written so. */
const groups = computed(() =>
  GROUPS.map(({ label, group }) => ({
    label,
    variations: VARIATIONS.filter((variation) => variation.group === group).map((variation) => {
      const after = variation.apply(props.pattern);
      const same = after !== null && JSON.stringify(after) === JSON.stringify(props.pattern);
      return { variation, after: same ? props.pattern : after };
    }),
  })),
);
const view = useViewStore();

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
  songs.runOnRhythm(commands.takeEdited('keep this time round', fixed));
}
</script>

<template>
  <div class="variations">
    <div v-for="group in groups" :key="group.label" role="group" :aria-label="group.label">
      <h2 class="sub">{{ group.label }}</h2>
      <ul>
        <li v-for="{ variation, after } in group.variations" :key="variation.id">
          <button
            type="button"
            class="variation"
            :aria-label="variation.name"
            :aria-describedby="`says-${variation.id}`"
            @click="vary(variation)"
          >
            <span>
              <b>{{ variation.name }}</b>
              <span :id="`says-${variation.id}`" class="quiet">{{
                after === null
                  ? 'not for this strum'
                  : after === pattern
                    ? 'it is so already'
                    : variation.says
              }}</span>
            </span>
            <WristPath
              v-if="after !== null && after !== pattern"
              :pattern="after"
              :strings="strings"
              :flipped="view.bassAtBottom"
              size="small"
              aria-hidden="true"
            />
          </button>
        </li>
        <li v-if="group.label === 'Easier' && hasTunes">
          <button
            type="button"
            class="variation"
            aria-label="Without notes"
            @click="songs.run(rhythmCommands.takeTunes())"
          >
            <span>
              <b>Without notes</b>
              <span class="quiet">the notes of the whole song go; the strums stay</span>
            </span>
          </button>
        </li>
      </ul>
    </div>
    <p v-if="told" role="status">{{ told }}</p>
    <div v-if="done" ref="sides" class="sides">
      <PatternPair :patterns="pair" :strings="strings" :chord="chord" />
      <p>
        <Button size="small" label="Put it back" icon="pi pi-undo" @click="putBack" />
      </p>
    </div>
    <div class="loose">
      <FormRow v-slot="{ labelId }" label="Loose">
        <ToggleSwitch v-model="loose" :aria-labelledby="labelId" />
        <span class="quiet">hits vary each time round; accents and landings stay</span>
      </FormRow>
      <template v-if="loose">
        <FormRow v-slot="{ labelId }" label="How many">
          <Slider v-model="density" class="slider" :min="0" :max="100" :aria-labelledby="labelId" />
          <span>{{ density }} %</span>
        </FormRow>
        <FormRow label="This time">
          <Button size="small" text icon="pi pi-refresh" label="Shuffle" @click="shuffle" />
          <Button size="small" text label="Keep this time round" @click="keepTurn" />
        </FormRow>
      </template>
    </div>
  </div>
</template>

<style scoped>
.variations {
  display: grid;
  gap: 0.9rem;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  border-top: 1px solid var(--line);
}

.variation {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 7.5rem;
  gap: 0.6rem;
  align-items: center;
  width: 100%;
  min-height: 2.75rem;
  padding: 0.45rem 0.2rem;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}

.variation:hover {
  background: var(--paper-raised);
}

.variation b,
.variation .quiet {
  display: block;
}

h2.sub {
  font-size: 1.1rem;
  margin-bottom: 0.3rem;
}

.sides {
  scroll-margin-block: 4.5rem calc(var(--stage-bar) + 1rem);
}

.loose {
  border-top: 1px solid var(--line);
  padding-top: 0.4rem;
}

.slider {
  flex: 1;
  min-width: 6rem;
}
</style>
