<script setup lang="ts">
import { cloneForWorker } from '../../workers/cloneForWorker';
import Button from 'primevue/button';
import ChooseOne from '../../fields/ChooseOne.vue';
import { computed, ref, watch } from 'vue';
import type { Song } from '#core/schema';
import { beatTicks } from '#core/time';
import {
  type BassRun,
  describeChange,
  describeRun,
  fingerChange,
  guessKey,
  runs,
  shapeChoices,
  type SmoothestSet,
} from '#core/neck';
import { songChanges } from '#core/song';
import { commands } from '#core/edit';
import { previewRun } from '#core/arrange';
import type { QuickestSet } from '#core/hand';
import ChordDiagram from '../../chords/ChordDiagram.vue';
import { useFrettedStore } from '../../stores/fretted';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import { useHandStore } from '../../stores/hand';
import { handWorker } from '../../workers/hand';
import { neckWorker } from '../../workers/neck';

/** Every change of the song: what the fingers do, bass runs into it, and the smoothest set for all. */
const props = defineProps<{ song: Song }>();
const songs = useSongStore();
const player = usePlayerStore();
const heldChords = useFrettedStore();

const all = computed(() => songChanges(props.song));

const pairs = computed(() =>
  all.value.changes.flatMap((pair) => {
    const [from, to] = [heldChords.of(pair.from), heldChords.of(pair.to)];
    if (!from || !to) return [];
    const change = fingerChange(from.shape, to.shape);
    const of = (kind: string) =>
      change.moves.filter((move) => move.kind === kind).map((move) => move.finger);
    const key = `${pair.from} to ${pair.to}`;
    return [
      { key, ...pair, held: { from, to }, change, anchors: of('stays'), guides: of('slides') },
    ];
  }),
);

const picked = ref<string | null>(null);
const shown = computed(
  () => pairs.value.find((pair) => pair.key === picked.value) ?? pairs.value[0] ?? null,
);
const options = computed(() =>
  [...pairs.value]
    .sort((a, b) => b.change.cost - a.change.cost)
    .map((pair) => ({
      label: `${pair.key}${pair.times > 1 ? `, ${pair.times} times` : ''}`,
      value: pair.key,
    })),
);

const NOTE_COUNTS = [1, 2, 3, 4];
const noteTicks = computed(() => beatTicks(props.song.meter));
const answers = computed(() => {
  const pair = shown.value;
  if (!pair) return [];
  const { instrument, capo } = props.song;
  const key = guessKey(all.value.sequence);
  return NOTE_COUNTS.map((count) => ({
    count,
    ...runs(pair.held.from, pair.held.to, count, {
      instrument,
      capo,
      key,
      available: pair.available,
      noteTicks: noteTicks.value,
    }),
  }));
});

const runWords = (run: BassRun) => describeRun(props.song.instrument, run);

function hear(run: BassRun): void {
  const pair = shown.value;
  if (!pair) return;
  const { tempo, meter } = props.song;
  void player.audition(
    previewRun(pair.held.from, pair.held.to, run, noteTicks.value, tempo, meter),
  );
}

const smooth = ref<SmoothestSet | null>(null);
const searching = ref(false);

async function search(): Promise<void> {
  searching.value = true;
  try {
    // Plain copies, since reactive ones cannot be sent to a worker.
    const choices = shapeChoices(heldChords.chords, props.song);
    const [sent, sequence] = cloneForWorker([choices, all.value.sequence] as const);
    smooth.value = await neckWorker().smoothestSet(sent, sequence);
    quick.value = null;
  } finally {
    searching.value = false;
  }
}
// A set that was found for other chords or shapes is not offered any more.
watch(
  [() => props.song.sections, () => props.song.instrument, () => props.song.chosenShapes],
  () => {
    smooth.value = null;
    quick.value = null;
  },
);

const hand = useHandStore();
const quick = ref<QuickestSet | null>(null);
async function searchQuickest(): Promise<void> {
  searching.value = true;
  try {
    const [song, timings] = cloneForWorker([props.song, hand.timings] as const);
    quick.value = await handWorker().quickest(song, timings);
    smooth.value = null;
  } finally {
    searching.value = false;
  }
}
const quickWords = computed(() => {
  if (!quick.value) return '';
  const { before, after, shapes, exact } = quick.value;
  if (shapes.size === 0) return 'No other shapes or fingers would make the song any faster.';
  const most = after === null ? 'at any tempo' : `up to ${Math.floor(after)}`;
  const cut = exact ? '' : ' It is the best found in the time allowed.';
  return `Possible ${most} with these, up to ${Math.floor(before ?? 0)} with those you have.${cut}`;
});
/** What would be other than it is. */
const others = computed(() =>
  [...(quick.value?.shapes ?? smooth.value?.shapes ?? [])].filter(([symbol, shape]) => {
    const now = heldChords.of(symbol)?.shape;
    return (
      String(now?.frets) !== String(shape.frets) || String(now?.fingers) !== String(shape.fingers)
    );
  }),
);

const saving = computed(() => {
  if (!smooth.value) return null;
  const { before, after } = smooth.value;
  const share = before > 0 ? Math.round((1 - after / before) * 100) : 0;
  return {
    share,
    changes: smooth.value.changes.filter((change) => change.before !== change.after),
  };
});

const easier = computed(
  () => smooth.value?.changes.filter(({ before, after }) => after < before) ?? [],
);

/** A share of the movement in words: nobody counts it in per cent. */
function less(share: number): string {
  if (share < 8) return 'A little';
  if (share < 18) return 'An eighth';
  if (share < 29) return 'A quarter';
  if (share < 42) return 'A third';
  return share < 60 ? 'Half' : 'Much';
}

function takeSet(): void {
  const shapes = quick.value?.shapes ?? smooth.value?.shapes;
  if (shapes) songs.run(commands.takeShapes(shapes));
  smooth.value = null;
  quick.value = null;
}
</script>

<template>
  <section class="changes" aria-label="Changes">
    <div class="smooth">
      <Button
        label="Find the smoothest set"
        icon="pi pi-sparkles"
        :loading="searching"
        @click="search"
      />
      <Button
        label="Find the set that can go fastest"
        icon="pi pi-forward"
        outlined
        :loading="searching"
        @click="searchQuickest"
      />
      <template v-if="quick">
        <p role="status">{{ quickWords }}</p>
        <Button v-if="quick.shapes.size > 0" label="Use this set" @click="takeSet" />
      </template>
      <div v-if="others.length > 0" class="set">
        <figure v-for="[symbol, shape] in others" :key="symbol">
          <ChordDiagram
            :shape="shape"
            :instrument="song.instrument"
            :label="`${symbol} in the set`"
          />
          <figcaption>{{ symbol }}</figcaption>
        </figure>
      </div>
      <template v-if="smooth && saving">
        <p role="status">
          {{
            saving.changes.length === 0
              ? 'The first-choice shapes are the smoothest already.'
              : `${less(saving.share)} less movement than with the first-choice shapes.${smooth.exact ? '' : ' It is the best found in the time allowed.'}`
          }}
        </p>
        <p v-if="easier.length > 0" class="quiet">
          Easier: {{ easier.map(({ from, to }) => `${from} to ${to}`).join(', ') }}.
        </p>
        <Button v-if="saving.changes.length > 0" label="Use this set" @click="takeSet" />
      </template>
    </div>
    <template v-if="shown">
      <ChooseOne
        :model-value="shown.key"
        :options="options"
        aria-label="Change"
        @update:model-value="picked = $event"
      />
      <div class="pair">
        <figure>
          <ChordDiagram
            :shape="shown.held.from.shape"
            :instrument="song.instrument"
            :anchors="shown.anchors"
            :guides="shown.guides"
            :label="`${shown.from}, before the change`"
          />
          <figcaption>{{ shown.from }}</figcaption>
        </figure>
        <figure>
          <ChordDiagram
            :shape="shown.held.to.shape"
            :instrument="song.instrument"
            :anchors="shown.anchors"
            :guides="shown.guides"
            :label="`${shown.to}, after the change`"
          />
          <figcaption>{{ shown.to }}</figcaption>
        </figure>
      </div>
      <p class="sentence">{{ describeChange(song.instrument, shown.change) }}</p>
      <p v-if="shown.anchors.length > 0 || shown.guides.length > 0" class="quiet">
        Square: stays. Triangle: slides along its string.
      </p>
      <h3>Bass runs into {{ shown.to }}</h3>
      <ul class="runs" aria-label="Bass runs">
        <li v-for="answer in answers" :key="answer.count">
          <span class="count">{{ answer.count }}</span>
          <span v-if="answer.none" class="quiet">{{ answer.none }}</span>
          <template v-else>
            <Button
              v-for="run in answer.runs.slice(0, 2)"
              :key="runWords(run)"
              size="small"
              severity="secondary"
              icon="pi pi-volume-up"
              :label="runWords(run)"
              :title="`${run.direction}, ${run.kind}`"
              @click="hear(run)"
            />
          </template>
        </li>
      </ul>
    </template>
    <p v-else class="quiet">
      One chord, no changes: type more of the progression on the Song station.
    </p>
  </section>
</template>

<style scoped>
.changes {
  display: grid;
  gap: 0.6rem;
  align-content: start;
  justify-items: start;
}

.smooth {
  display: grid;
  gap: 0.4rem;
  justify-items: start;
}

.set {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

.set figure {
  width: 5rem;
}

.pair {
  display: flex;
  gap: 1rem;
}

figure {
  margin: 0;
  width: 8.5rem;
}

figcaption {
  font-family: var(--display);
  font-weight: 600;
  text-align: center;
}

.sentence {
  font-size: 1.1rem;
}

h3 {
  font-size: 1.1rem;
}

.runs {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.4rem;
}

.runs li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem;
}

.count {
  font-family: var(--display);
  font-weight: 700;
  min-width: 1.2rem;
}
</style>
