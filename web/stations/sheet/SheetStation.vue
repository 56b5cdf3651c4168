<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core';
import Button from 'primevue/button';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import { messageOf, plural } from '#core/plain';
import type { InstrumentId, Song } from '#core/schema';
import { INSTRUMENT_IDS, INSTRUMENTS } from '#core/neck';
import {
  type Audience,
  type Notation,
  type Paper,
  type Sheet,
  type SheetWish,
  USUAL_SHEET,
} from '#core/sheet';
import ChooseOne from '../../fields/ChooseOne.vue';
import FormRow from '../../fields/FormRow.vue';
import StationFrame from '../../frame/StationFrame.vue';
import { useOpenTool } from '../../frame/openTool';
import { download } from '../../shell/download';
import { downloadPng } from '../../shell/picture';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';
import { cloneForWorker } from '../../workers/cloneForWorker';
import { sheetWorker } from '../../workers/sheet';
import BookletPanel from './BookletPanel.vue';
import CirclePanel from './CirclePanel.vue';
import { BARS_AS, OWN, READS } from './readers';
import SheetPage from './SheetPage.vue';

/** The song on paper: for whom, on which paper, and out as a PDF file, a drawing, or from the printer. */
const songs = useSongStore();
const view = useViewStore();
const song = computed<Song>(() => songs.song!);

const TOOLS = ['whom', 'circle', 'booklet'] as const;
const panel = useOpenTool<(typeof TOOLS)[number]>(() => TOOLS);
const panels: { label: string; value: (typeof TOOLS)[number] }[] = [
  { label: 'For whom', value: 'whom' },
  { label: 'Everyone’s sheets', value: 'circle' },
  { label: 'Booklet', value: 'booklet' },
];

const audience = ref<Audience>('player');
const instrument = ref<InstrumentId | typeof OWN>(OWN);
const paper = ref<Paper>('a4');
const landscape = ref(false);
const large = ref(false);
const notation = ref<Notation>('path');
const instruments = computed(() => [
  { label: `the song’s: ${song.value.instrument.name}`, value: OWN },
  ...INSTRUMENT_IDS.map((value) => ({ label: INSTRUMENTS[value].name, value })),
]);
const papers = [
  { label: 'A4', value: 'a4' },
  { label: 'Letter', value: 'letter' },
];

const wish = computed<SheetWish>(() => ({
  ...USUAL_SHEET,
  audience: audience.value,
  instrument: instrument.value === OWN ? null : instrument.value,
  paper: paper.value,
  landscape: landscape.value,
  large: large.value,
  notation: notation.value,
  leftHanded: view.leftHanded,
  counting: view.counting,
}));
const sheet = shallowRef<Sheet | null>(null);
const trouble = ref<string | null>(null);
let asked = 0;
const layOut = useDebounceFn(async () => {
  const number = (asked += 1);
  try {
    const [sent, wanted] = cloneForWorker([song.value, wish.value] as const);
    const made = await sheetWorker().sheet(sent, wanted);
    if (number === asked) sheet.value = made;
    trouble.value = null;
  } catch (error) {
    trouble.value = messageOf(error);
  }
}, 60);
watch([song, wish], () => void layOut(), { immediate: true, deep: true });

/** Pages that are drawn at once; a song of an hour has many. */
const AT_ONCE = 6;
const shown = ref(AT_ONCE);
watch([song, wish], () => (shown.value = AT_ONCE));

const answer = computed(() => {
  if (!sheet.value) return 'Laying it out…';
  const { pages } = sheet.value;
  const size = paper.value === 'a4' ? 'A4' : 'Letter';
  return `${plural(pages.length, 'page')}, ${size}, for ${READS.find(({ value }) => value === audience.value)!.label.replace(/:.*/, '')}.`;
});

const busy = ref(false);
async function out(work: () => Promise<void>): Promise<void> {
  busy.value = true;
  try {
    await work();
    trouble.value = null;
  } catch (error) {
    trouble.value = messageOf(error);
  } finally {
    busy.value = false;
  }
}
async function savePdf(wishes: SheetWish[], name: string): Promise<void> {
  await out(async () => {
    const [sent, wanted] = cloneForWorker([song.value, wishes] as const);
    const bytes = await sheetWorker().pdf([sent], wanted, name);
    download(new Uint8Array(bytes), 'application/pdf', { title: name, ending: 'pdf' });
  });
}
/** Each page as a drawing of its own, with its letters in it. */
const drawings = (save: (svg: string, name: string) => void | Promise<void>) =>
  out(async () => {
    const { pages } = sheet.value ?? { pages: [] };
    for (const [index, page] of pages.entries()) {
      const svg = await sheetWorker().svg(cloneForWorker(page));
      const { title } = song.value;
      await save(svg, pages.length > 1 ? `${title} ${index + 1}` : title);
    }
  });
const saveSvg = () =>
  drawings((svg, title) => download(svg, 'image/svg+xml', { title, ending: 'svg' }));
const savePng = () => drawings(downloadPng);
/** Prints, and draws for it what was not drawn yet. */
async function print(): Promise<void> {
  shown.value = Infinity;
  await nextTick();
  window.print();
}

const saveCircle = (wishes: SheetWish[]) => savePdf(wishes, `${song.value.title} for the circle`);
</script>

<template>
  <StationFrame v-model:tool="panel" :answer="answer" :tools="panels" work="Sheet">
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-if="sheet && sheet.left.length > 0" class="quiet">
      Left out: {{ sheet.left.join('; ') }}.
    </p>
    <div v-if="sheet" class="pages" tabindex="0" role="group" aria-label="Pages">
      <SheetPage
        v-for="(page, index) in sheet.pages.slice(0, shown)"
        :key="index"
        :page="page"
        :label="`Page ${index + 1} of ${sheet.pages.length}`"
      />
    </div>
    <Button
      v-if="sheet && sheet.pages.length > shown"
      :label="`Show the other ${plural(sheet.pages.length - shown, 'page')}`"
      text
      @click="shown = Infinity"
    />
    <template #tool>
      <section v-if="panel === 'whom'" class="tool" aria-label="For whom">
        <FormRow v-slot="{ labelId }" label="For">
          <ChooseOne v-model="audience" :options="READS" :aria-labelledby="labelId" />
        </FormRow>
        <FormRow v-slot="{ labelId }" label="Instrument">
          <ChooseOne v-model="instrument" :options="instruments" :aria-labelledby="labelId" />
        </FormRow>
        <FormRow v-if="audience !== 'singer'" v-slot="{ labelId }" label="Show bars as">
          <ChooseOne v-model="notation" :options="BARS_AS" :aria-labelledby="labelId" />
        </FormRow>
        <FormRow v-slot="{ labelId }" label="Paper">
          <ChooseOne v-model="paper" :options="papers" :aria-labelledby="labelId" />
        </FormRow>
        <FormRow v-slot="{ labelId }" label="Landscape">
          <ToggleSwitch v-model="landscape" :aria-labelledby="labelId" />
        </FormRow>
        <FormRow v-slot="{ labelId }" label="Large print">
          <ToggleSwitch v-model="large" :aria-labelledby="labelId" />
        </FormRow>
        <FormRow v-slot="{ labelId }" label="Left-handed diagrams">
          <ToggleSwitch v-model="view.leftHanded" :aria-labelledby="labelId" />
        </FormRow>
        <div class="row">
          <Button
            label="Save as PDF"
            icon="pi pi-file-pdf"
            :loading="busy"
            @click="savePdf([wish], song.title)"
          />
          <Button label="Print" icon="pi pi-print" outlined @click="print" />
        </div>
        <div class="row">
          <Button label="SVG" size="small" text @click="saveSvg" />
          <Button label="PNG" size="small" text @click="savePng" />
        </div>
      </section>
      <BookletPanel v-else-if="panel === 'booklet'" :wish="wish" />
      <CirclePanel v-else :wish="wish" :busy="busy" @save="saveCircle" />
    </template>
  </StationFrame>
</template>

<style scoped>
.pages {
  display: grid;
  gap: 1rem;
  justify-items: center;
  padding-bottom: 1rem;
}

.tool {
  display: grid;
  gap: 0.6rem;
  justify-items: start;
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
}
</style>

<style>
@media print {
  @page {
    margin: 0;
  }

  body * {
    visibility: hidden;
  }

  .pages,
  .pages * {
    visibility: visible;
  }

  /* What scrolls on a screen lies on as many pages as it needs. */
  html,
  body,
  #app,
  .house,
  main,
  .frame,
  .frame * {
    height: auto !important;
    overflow: visible !important;
  }

  .pages {
    position: absolute;
    inset: 0 auto auto 0;
    width: 100%;
    gap: 0;
    padding: 0;
  }

  .pages .page {
    box-shadow: none;
    max-width: none;
  }

  .pages .page:not(:last-child) {
    break-after: page;
  }
}
</style>
