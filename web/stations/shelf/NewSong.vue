<script setup lang="ts">
import { StorageSerializers, useLocalStorage } from '@vueuse/core';
import Button from 'primevue/button';
import ToggleSwitch from 'primevue/toggleswitch';
import InputText from 'primevue/inputtext';
import ChooseOne from '../../fields/ChooseOne.vue';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { messageOf, plural } from '#core/plain';
import { type Meter, songSchema, MAX_TITLE_LETTERS } from '#core/schema';
import { METERS, meterByName, meterName } from '#core/time';
import { newSong, readProgression, songChords } from '#core/song';
import { arrangement } from '#core/arrange';
import { chartProgression, type ChartRule, withChart } from '#core/formats';
import { api } from '../../remote/client';
import { useIncomingStore } from '../../stores/incoming';
import { useInstrumentsStore } from '../../stores/instruments';
import MeterField from '../../fields/MeterField.vue';
import BarRows from '../../path/BarRows.vue';
import ProgressionField from '../../fields/ProgressionField.vue';
import { text } from './text';

interface Form {
  title: string;
  /** A built-in one by its id, or one of the player's own. */
  instrument: string;
  meter: Meter;
  progression: string;
}

/** The form is kept in the browser until the song is made. */
const blank: Form = { title: '', instrument: 'guitar', meter: METERS['4/4'], progression: '' };
const form = useLocalStorage<Form>('plucky-wrist:new-song-2', blank, {
  serializer: StorageSerializers.object,
  mergeDefaults: true,
});
const router = useRouter();
const incoming = useIncomingStore();
const rules: { label: string; value: ChartRule }[] = [
  { label: 'a bar', value: 'bar' },
  { label: 'half a bar', value: 'half' },
  { label: 'two bars', value: 'two' },
];
const hasLyrics = computed(
  () =>
    incoming.chart?.sections.some(({ lines }) =>
      lines.some(({ verses = [] }) => verses.some((verse) => verse.length > 0)),
    ) ?? false,
);
/** Things of a chart that were left out and are listed. */
const MAX_LEFT = 20;

// A chart that was opened fills the form; how long its chords last is chosen while it is looked at.
watch(
  () => [incoming.chart, incoming.rule, incoming.flat] as const,
  ([chart, rule, flat], before) => {
    if (!chart) return;
    form.value.progression = chartProgression(chart, rule, flat);
    if (before?.[0] === chart) return;
    // One that is read again in another meter keeps the name that may have been typed meanwhile.
    if (!incoming.isReadAgain) form.value.title = chart.title ?? '';
    form.value.meter = chart.meter ?? METERS['4/4'];
    if (chart.instrument && !incoming.isReadAgain) form.value.instrument = chart.instrument;
  },
  { immediate: true },
);
/** A file that says no meter is read again in the one that is chosen. */
const MAX_LIKELY = 3;
const likely = computed(() =>
  (incoming.chart?.likelyMeters ?? [])
    .slice(0, MAX_LIKELY)
    .map((meter) => ({ label: meterName(meter), value: meterName(meter) })),
);
const meter = computed({
  get: () => form.value.meter,
  set: (chosen: Meter) => {
    form.value.meter = chosen;
    if (likely.value.length > 0) void incoming.readIn({ meter: chosen });
  },
});
/** Notes of tablature of which nothing says when they come are read one after another, so long each. */
const LENGTHS = [
  { label: 'eighths', value: 480 },
  { label: 'quarters', value: 960 },
  { label: 'sixteenths', value: 240 },
];
const noteTicks = ref(480);
function setLength(ticks: number): void {
  noteTicks.value = ticks;
  void incoming.readIn({ noteTicks: ticks });
}
const trouble = ref<string | null>(null);
const making = ref(false);

/** Every instrument that is built in, and the player's own; a new tuning is made on the Chords station. */
const instruments = useInstrumentsStore();

const made = computed(() =>
  newSong({
    title: form.value.title.trim() || 'Untitled',
    instrument: instruments.find(form.value.instrument) ?? 'guitar',
    meter: form.value.meter,
    progression: form.value.progression,
    ...(incoming.chart?.tempo && { tempo: incoming.chart.tempo }),
  }),
);
/** With the rhythm and the words of the chart, where its lines still have the chords that they stand under. */
const song = computed(() => (incoming.chart ? withChart(made.value, incoming.chart) : made.value));
const arranged = computed(() => arrangement(song.value));
const problems = computed(() => readProgression(form.value.progression, form.value.meter).problems);

const answer = computed(() => {
  const bars = song.value.sections.flatMap((section) => section.lines.flatMap((line) => line.bars));
  if (bars.length === 0) return 'Which chords, and how long does each one last?';
  const chords = songChords(song.value).length;
  return `${plural(bars.length, 'bar')}, ${plural(chords, 'chord')}.`;
});

const field = useTemplateRef<HTMLElement>('field');
const focusOn = (id: string) => field.value?.querySelector<HTMLElement>(`#${id}`)?.focus();
onMounted(() => focusOn('title'));

async function make(): Promise<void> {
  if (making.value) return;
  if (arranged.value.bars.length === 0) {
    trouble.value = 'Write the chords first: “C | Am | F | G7” are four bars.';
    focusOn('progression');
    return;
  }
  const checked = songSchema.safeParse({ ...song.value, capo: incoming.chart?.capo ?? 0 });
  if (!checked.success) {
    trouble.value = `The song cannot be made yet: ${checked.error.issues[0]!.message}.`;
    return;
  }
  making.value = true;
  trouble.value = null;
  try {
    const stored = await api.createSong(checked.data);
    form.value = { ...blank };
    incoming.chart = null;
    incoming.justMade = true;
    await router.push({ name: 'strum', params: { id: stored.id } });
  } catch (error) {
    trouble.value = `${messageOf(error)} What you typed is kept here.`;
  } finally {
    making.value = false;
  }
}
</script>

<template>
  <section class="station">
    <h1 class="answer">{{ answer }}</h1>
    <form
      ref="field"
      class="form"
      @submit.prevent="make"
      @keydown.ctrl.enter.prevent="make"
      @keydown.meta.enter.prevent="make"
    >
      <div class="fields">
        <div class="grow">
          <label for="title">Name</label>
          <InputText
            id="title"
            v-model="form.title"
            fluid
            :maxlength="MAX_TITLE_LETTERS"
            autocomplete="off"
            @keydown.enter.exact.prevent="focusOn('progression')"
          />
        </div>
        <div>
          <span id="instrument-label" class="name">Instrument</span>
          <ChooseOne
            v-model="form.instrument"
            :options="instruments.options"
            aria-labelledby="instrument-label"
          />
        </div>
        <div>
          <MeterField v-model="meter" />
        </div>
      </div>
      <p v-if="incoming.chart && incoming.chart.progression === null" class="from-file">
        <span id="lasts">From the file: each chord lasts</span>
        <ChooseBeside v-model="incoming.rule" :options="rules" aria-labelledby="lasts" />
        <span class="quiet">{{ text.barsStay(hasLyrics) }}</span>
      </p>
      <p v-if="likely.length > 0" class="from-file">
        <span id="likely">The file does not say its meter. Likeliest first:</span>
        <ChooseBeside
          :model-value="meterName(meter)"
          :options="likely"
          aria-labelledby="likely"
          @update:model-value="(name: string) => (meter = meterByName(name)!)"
        />
        <span class="quiet">Another one reads it again.</span>
      </p>
      <p v-if="incoming.chart?.unsureBars" class="from-file">
        <span id="lengths">{{ text.unsureBars(incoming.chart.unsureBars) }}</span>
        <ChooseBeside
          :model-value="noteTicks"
          :options="LENGTHS"
          aria-labelledby="lengths"
          @update:model-value="setLength"
        />
      </p>
      <label v-if="incoming.chart?.german" class="from-file">
        <ToggleSwitch v-model="incoming.flat" />
        The file writes H for B: its B is a B flat
      </label>
      <details v-if="incoming.chart && incoming.chart.left.length > 0" class="left">
        <summary>{{ text.leftOut(incoming.chart.left.length) }}</summary>
        <ul>
          <li v-for="(one, index) in incoming.chart.left.slice(0, MAX_LEFT)" :key="index">
            line {{ one.line }}: {{ one.text }}
          </li>
          <li v-if="incoming.chart.left.length > MAX_LEFT">
            and {{ incoming.chart.left.length - MAX_LEFT }} more
          </li>
        </ul>
      </details>
      <ProgressionField v-model="form.progression" :problems="problems" />
      <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
      <div class="actions">
        <Button
          type="submit"
          label="Make the song"
          icon="pi pi-arrow-right"
          icon-pos="right"
          :loading="making"
        />
        <span class="quiet"
          >Next you build its strum. <kbd>Ctrl</kbd> <kbd>Enter</kbd> makes it.</span
        >
      </div>
    </form>
    <BarRows :arranged="arranged" />
  </section>
</template>

<style scoped>
.form {
  display: grid;
  gap: 1rem;
}

.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 1rem 2rem;
}

.fields > div {
  display: grid;
  gap: 0.3rem;
  justify-items: start;
}

.fields :deep(.meter) {
  flex-direction: column;
  align-items: start;
  gap: 0.3rem;
}

.grow {
  flex: 1;
  min-width: min(16rem, 100%);
}

label,
.name,
.fields :deep(.meter > label) {
  font-weight: 600;
}

.from-file {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem 0.8rem;
}

.actions {
  display: flex;
  align-items: center;
  gap: 1rem;
}

.trouble {
  color: var(--coral);
  font-weight: 600;
}
</style>
