<script setup lang="ts">
import TransposeField from '../../fields/TransposeField.vue';
import { useMediaQuery } from '@vueuse/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, useTemplateRef, watch } from 'vue';
import { plural } from '#core/plain';
import { type DegreeStyle, type Meter, type Song, MAX_TITLE_LETTERS } from '#core/schema';
import { beatTicks, describeMeter } from '#core/time';
import { keyName } from '#core/neck';
import { printProgression, readProgression, songChords, songKey } from '#core/song';
import { commands, notKept } from '#core/edit';
import { rhythmMap, whyDifferent, type ChordFlag, flagsWithin } from '#core/arrange';
import BarRows from '../../path/BarRows.vue';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import MeterField from '../../fields/MeterField.vue';
import ProgressionField from '../../fields/ProgressionField.vue';
import NowNext from '../../shell/NowNext.vue';
import BarPanel from './BarPanel.vue';
import ExportButtons from './ExportButtons.vue';
import OrderPanel from './OrderPanel.vue';
import RhythmStrip from './RhythmStrip.vue';
import RulesPanel from './RulesPanel.vue';
import SectionHead from './SectionHead.vue';
import StationFrame from '../../frame/StationFrame.vue';
import { useOpenTool } from '../../frame/openTool';
import SelectionBar from './SelectionBar.vue';
import TunePanel from './TunePanel.vue';
import WordsPanel from './WordsPanel.vue';
import { useBarSelection } from './barSelection';
import { usePlantFlag } from './plantFlag';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import { useHandStore } from '../../stores/hand';
import { useViewStore } from '../../stores/view';

const songs = useSongStore();
const player = usePlayerStore();
const view = useViewStore();
const hand = useHandStore();
const selection = useBarSelection();
const plantFlag = usePlantFlag();
const song = computed<Song>(() => songs.song!);

/** The line as it is being typed; read again from the bars as soon as they say something else. */
const printed = (of: Song) => printProgression(of.sections, of.meter, of.order, of);
/** In words, so that only another key or another way to write is one. */
const writtenIn = computed(() =>
  JSON.stringify([song.value.key, song.value.degrees, song.value.endings]),
);
const typed = ref(printed(song.value));
const reading = computed(() => readProgression(typed.value, song.value.meter));

watch(
  () => [song.value.sections, song.value.meter, song.value.order, writtenIn.value] as const,
  () => {
    const { sections, order } = reading.value;
    const said = printProgression(sections, song.value.meter, order, reading.value);
    if (said !== printed(song.value)) typed.value = printed(song.value);
  },
);

/** The song before the line was typed, and what the bars that were typed could not keep of it. */
let before: Song | null = null;
const lost = ref<string[]>([]);
function type(text: string): void {
  before ??= song.value;
  typed.value = text;
  songs.run(commands.setProgression(text), true);
}

/** Leaving the field shows the line as the bars read back, and says what did not go with it. */
function settle(): void {
  typed.value = printed(song.value);
  lost.value = before ? notKept(before, song.value) : [];
  before = null;
}
const MAX_LOST = 4;
const lostWords = computed(() => {
  const some = lost.value.slice(0, MAX_LOST).join(', ');
  const more = lost.value.length - MAX_LOST;
  return more > 0 ? `${some} and ${more} more` : some;
});
function takeBack(): void {
  songs.stepBack();
  lost.value = [];
}

const title = computed({
  get: () => song.value.title,
  set: (value: string | undefined) => {
    if (value?.trim()) songs.run(commands.setTitle(value), true);
  },
});

const meter = computed({
  get: () => song.value.meter,
  set: (value: Meter) => songs.run(commands.setMeter(value)),
});

const answer = computed(() => {
  const bars = player.bars.length;
  if (bars === 0) return 'No bars yet: type the chords below.';
  const changes = player.performance!.landings;
  const gaps = changes.slice(1).map(({ tick }, index) => ({
    ticks: tick - changes[index]!.tick,
    from: changes[index]!.symbol,
    to: changes[index + 1]!.symbol,
  }));
  const quickest = gaps.reduce<(typeof gaps)[number] | null>(
    (least, gap) => (least && least.ticks <= gap.ticks ? least : gap),
    null,
  );
  const size = plural(bars, 'bar');
  if (!quickest) return `${size} on one chord.`;
  const beats = quickest.ticks / beatTicks(song.value.meter);
  const count = plural(beats, 'beat');
  const first = `${size}, ${plural(gaps.length, 'change')}. Tightest: ${quickest.from} to ${quickest.to} in ${count}.`;
  const held = hand.over === null ? '' : `Changes OK up to ${hand.over}.`;
  return [first, runShare.value, held].filter(Boolean).join(' ');
});

/** Above this share of changes, runs tire the ear. */
const MANY_RUNS = 1 / 3;
const runShare = computed(() => {
  const changes = player.changes.slice(1);
  const carrying = changes.filter(({ placement }) => placement.run).length;
  if (carrying === 0) return '';
  const share = `${carrying} of ${changes.length} changes ${carrying === 1 ? 'carries' : 'carry'} a run`;
  return carrying / changes.length > MANY_RUNS ? `${share}: so many tire the ear.` : `${share}.`;
});

const chosen = computed(() => player.bars[player.selectedBar] ?? player.bars[0] ?? null);
const shownBar = computed(() => live.value?.bar ?? chosen.value);
const flags = computed<ChordFlag[]>(() => {
  const bar = shownBar.value;
  if (!bar) return [];
  return flagsWithin(player.changes, bar);
});
const different = computed(() => {
  const seen = new Set<string>();
  return player.bars.flatMap((bar) => {
    const key = `${bar.section}/${bar.line}/${bar.bar}`;
    if (seen.has(key)) return [];
    seen.add(key);
    return whyDifferent(bar, player.parts[bar.index] ?? []) ?? [];
  });
});

const TOOLS = ['line', 'bar', 'notes', 'words', 'order', 'rules', 'files'] as const;
type Panel = (typeof TOOLS)[number];
const panel = useOpenTool<Panel>(() => TOOLS);
const panels: { label: string; value: Panel }[] = [
  { label: 'Progression', value: 'line' },
  { label: 'Bar', value: 'bar' },
  { label: 'Notes', value: 'notes' },
  { label: 'Lyrics', value: 'words' },
  { label: 'Order', value: 'order' },
  { label: 'Rules', value: 'rules' },
  { label: 'Files', value: 'files' },
];

const key = computed(() => songKey(song.value));
/** What the song stands on, in one line. */
const settings = computed(() => {
  const { title: name, meter: counted, tempo } = song.value;
  return `${name} · ${describeMeter(counted)} · ${keyName(key.value)} · at ${tempo}`;
});

/** The line writes chords by name, or by the steps of the key: the named one, or the likeliest, which it then names. */
const CHORDS_AS = [
  { label: 'names', value: 'names' },
  { label: '1 4 5', value: 'numbers' },
  { label: 'I IV V', value: 'roman' },
];
const chordsAs = computed({
  get: () => song.value.degrees ?? 'names',
  set: (value: DegreeStyle | 'names') =>
    songs.run(commands.writeChords(key.value, value === 'names' ? null : value)),
});

/** The rhythms of the song, and the mark of each bar. */
const map = computed(() => rhythmMap(song.value.pattern, player.parts));
const strip = useTemplateRef('strip');

/** Two bars in a row are what a phone has room for. */
const narrow = useMediaQuery('(max-width: 40rem)');
const inRow = computed(() => (narrow.value ? 2 : view.barsInRow));

const live = computed(() =>
  player.heard && !player.heard.countIn && player.bar
    ? { bar: player.bar, tick: player.heard.tick - player.bar.tick }
    : null,
);

/** Keys on the rows act on the chosen bars; Enter looks at the bar. */
function onKey(event: KeyboardEvent): void {
  if (event.defaultPrevented || event.altKey) return;
  if (!(event.target as HTMLElement).closest('button.bar')) return;
  if (event.key === 'Enter') panel.value = 'bar';
  else if (!event.ctrlKey && !event.metaKey && strip.value?.key(event.key)) {
    event.preventDefault();
    return;
  } else if (!selection.key(event)) return;
  event.preventDefault();
}
</script>

<template>
  <StationFrame
    v-model:tool="panel"
    :answer="answer"
    :settings="settings"
    :tools="panels"
    work="Bars"
  >
    <template #settings>
      <label for="title" class="heard-only">Name of the song</label>
      <InputText id="title" v-model="title" class="title" :maxlength="MAX_TITLE_LETTERS" />
      <MeterField v-model="meter" />
      <TransposeField
        v-if="songChords(song).length > 0"
        :now="key"
        @transpose="(by, flats) => songs.run(commands.transpose(by, flats))"
      />
    </template>

    <div class="over-bars">
      <SelectionBar :selection="selection" />
      <NowNext v-if="player.playing" />
    </div>
    <RhythmStrip
      v-if="map.rhythms.length > 1 || panel === 'rules'"
      ref="strip"
      :rhythms="map.rhythms"
      :selection="selection"
    />
    <div class="bars" @keydown="onKey" @dragover="strip?.over($event)" @drop="strip?.drop($event)">
      <BarRows
        v-if="player.arranged"
        :arranged="player.arranged"
        :selected="chosen"
        :span="selection.span.value"
        :strikes="player.performance?.strikes"
        :left-out="player.performance?.leftOut"
        :live="live"
        :in-row="inRow"
        :marks="map.rhythms.length > 1 ? map.marks : []"
        plantable
        @choose="selection.choose"
        @plant="plantFlag"
      >
        <template #section="{ index, title: name }"
          ><SectionHead :index="index" :name="name" :rules="song.sections[index]?.rules ?? {}"
        /></template>
      </BarRows>
    </div>

    <template #tool>
      <BarPanel
        v-if="panel === 'bar' && shownBar"
        :song="song"
        :bar="shownBar"
        :flags="flags"
        :heard="live ? live.tick : null"
        @notes="panel = 'notes'"
      />
      <TunePanel
        v-else-if="panel === 'notes' && shownBar"
        :song="song"
        :bar="shownBar"
        :heard="live ? live.tick : null"
      />
      <WordsPanel v-else-if="panel === 'words'" :song="song" />
      <OrderPanel v-else-if="panel === 'order'" :song="song" />
      <RulesPanel
        v-else-if="panel === 'rules' && shownBar"
        :song="song"
        :section="shownBar.section"
        :different="different"
      />
      <ExportButtons v-else-if="panel === 'files'" :song="song" :empty="player.bars.length === 0" />
      <template v-else>
        <ProgressionField
          :model-value="typed"
          :problems="reading.problems"
          @update:model-value="type"
          @focusout="settle"
        />
        <div class="written">
          <span id="written-label" class="label">chords written as</span>
          <ChooseBeside
            v-model="chordsAs"
            size="small"
            :options="CHORDS_AS"
            aria-labelledby="written-label"
          />
        </div>
        <p v-if="lost.length > 0" class="lost" role="status">
          Not kept: {{ lostWords }}.
          <Button size="small" text icon="pi pi-undo" label="Put the line back" @click="takeBack" />
        </p>
      </template>
    </template>
  </StationFrame>
</template>

<style scoped>
.written {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem 0.6rem;
}

.over-bars {
  display: grid;
  gap: 0.3rem;
  position: sticky;
  top: -0.2rem;
  z-index: 2;
  background: var(--paper);
}

.bars {
  display: grid;
  gap: 0.6rem;
}

.title {
  width: 22rem;
  max-width: 100%;
  font-weight: 600;
}
</style>
