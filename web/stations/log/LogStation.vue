<script setup lang="ts">
import { computed, onMounted, watch } from 'vue';
import { useRoute } from 'vue-router';
import { entryKindSchema, saidTroubleSchema } from '#core/schema';
import { describeLog, troubleWord } from '#core/log';
import ChooseOne from '../../fields/ChooseOne.vue';
import StationFrame from '../../frame/StationFrame.vue';
import { useOpenTool } from '../../frame/openTool';
import { useLogStore } from '../../stores/log';
import AddPanel from './AddPanel.vue';
import FilesPanel from './FilesPanel.vue';
import LogCharts from './LogCharts.vue';
import LogRows from './LogRows.vue';
import PlanPanel from './PlanPanel.vue';

/** What was clean when, and what to do tonight. */
const log = useLogStore();
const route = useRoute();

const TOOLS = ['plan', 'add', 'files'] as const;
const panel = useOpenTool<(typeof TOOLS)[number]>(() => TOOLS);
const panels: { label: string; value: (typeof TOOLS)[number] }[] = [
  { label: 'Tonight', value: 'plan' },
  { label: 'Add a row', value: 'add' },
  { label: 'Files', value: 'files' },
];

onMounted(() => {
  const { song } = route.query;
  log.filter = { song: typeof song === 'string' ? song : null, kind: null, verdict: null };
  void log.load();
});
watch(
  () => log.filter,
  () => void log.load(),
  { deep: true },
);

const answer = computed(() => (log.summary ? describeLog(log.summary) : 'Looking at the log…'));

const ALL = '';
const songs = computed(() => [
  { label: 'all songs', value: ALL },
  ...log.songs.map(({ id, title }) => ({ label: title, value: id })),
]);
const KINDS: Record<string, string> = {
  take: 'takes',
  change: 'timed changes',
  wrist: 'wrist tests',
  practice: 'practice',
  note: 'notes',
};
const kinds = [
  { label: 'everything', value: ALL },
  ...entryKindSchema.options.map((kind) => ({ label: KINDS[kind]!, value: kind })),
];
const verdicts = [
  { label: 'any verdict', value: ALL },
  ...saidTroubleSchema.options.map((trouble) => ({ label: troubleWord(trouble), value: trouble })),
];
const field = (name: 'song' | 'kind' | 'verdict') =>
  computed({
    get: () => log.filter[name] ?? ALL,
    set: (value: string) => {
      log.filter = { ...log.filter, [name]: value === ALL ? null : value };
    },
  });
const [song, kind, verdict] = [field('song'), field('kind'), field('verdict')];
const settings = computed(() => {
  const name = <T extends { label: string; value: string }>(list: T[], value: string) =>
    list.find((one) => one.value === value)?.label ?? value;
  return [
    name(songs.value, song.value),
    name(kinds, kind.value),
    name(verdicts, verdict.value),
  ].join(' · ');
});
</script>

<template>
  <StationFrame
    v-model:tool="panel"
    :answer="answer"
    :settings="settings"
    :tools="panels"
    work="Log"
  >
    <template #settings>
      <ChooseOne v-model="song" placeholder="all songs" :options="songs" aria-label="Song" />
      <ChooseOne
        v-model="kind"
        placeholder="everything"
        :options="kinds"
        aria-label="Kind of row"
      />
      <ChooseOne
        v-model="verdict"
        placeholder="any verdict"
        :options="verdicts"
        aria-label="Verdict"
      />
    </template>
    <p v-if="log.trouble" class="trouble" role="alert">{{ log.trouble }}</p>
    <LogCharts v-if="log.summary" :summary="log.summary" :song="log.filter.song" />
    <LogRows />

    <template #tool>
      <PlanPanel v-if="panel === 'plan'" />
      <AddPanel v-else-if="panel === 'add'" />
      <FilesPanel v-else />
    </template>
  </StationFrame>
</template>

<style scoped>
.trouble {
  border-left: 4px solid var(--coral);
  padding-left: 0.6rem;
}
</style>
