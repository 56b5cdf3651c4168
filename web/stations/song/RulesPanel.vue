<script setup lang="ts">
import ChooseOne from '../../fields/ChooseOne.vue';
import Button from 'primevue/button';
import FormRow from '../../fields/FormRow.vue';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed } from 'vue';
import { plural } from '#core/plain';
import type {
  Accent,
  OpenStrokes,
  Travel,
  SectionRules,
  Song,
  SplitRule,
  TuneMeets,
  UsualRun,
} from '#core/schema';
import { hasTunes } from '#core/song';
import { rhythmCommands, SECTION_LEVELS } from '#core/edit';
import { runsThroughout, usualRun, SPLIT_LABELS } from '#core/arrange';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import { TUNE_MEETS } from './tuneMeets';
import RhythmPicker from './RhythmPicker.vue';
import { RUN_COUNTS, RUN_LENGTHS } from './runChoices';

/** What the section of the chosen bar, and the song, say of rhythm; the bars that differ, and why. */
const props = defineProps<{ song: Song; section: number; different: string[] }>();
const songs = useSongStore();

const section = computed(() => props.song.sections[props.section]);
const name = computed(() => section.value?.name || `section ${props.section + 1}`);
const rules = computed<SectionRules>(() => section.value?.rules ?? {});
const target = computed(() => ({ of: 'section', section: props.section }) as const);

function set(changed: Partial<SectionRules>): void {
  songs.run(rhythmCommands.setSectionRules(props.section, changed));
}

const player = usePlayerStore();
const usual = computed(() => usualRun(props.song));
const setUsual = (changed: Partial<UsualRun>) =>
  songs.run(rhythmCommands.setUsualRun({ ...usual.value, ...changed }));
/** Chords that a run can lead into and that have none, and how many have one. */
const runPlaces = computed(() =>
  player.arranged ? runsThroughout(player.arranged, usual.value) : [],
);
const runCount = computed(
  () =>
    props.song.sections
      .flatMap(({ lines }) => lines.flatMap(({ bars }) => bars.flatMap(({ chords }) => chords)))
      .filter(({ run }) => run).length,
);

const AS_SONG = 'song';
const sectionSplits = [{ label: 'as the song', value: AS_SONG }, ...SPLIT_LABELS];
/** How lines of notes meet the pattern; asked for only where the song has one. */
const hasTune = computed(() => hasTunes(props.song));
const sectionMeets = [{ label: 'as the song', value: AS_SONG }, ...TUNE_MEETS];
type BuildName = 'none' | 'up' | 'down';
const builds: { label: string; value: BuildName }[] = [
  { label: 'no build', value: 'none' },
  { label: 'builds soft to loud', value: 'up' },
  { label: 'falls loud to soft', value: 'down' },
];
const build = computed({
  get: (): BuildName =>
    !rules.value.build ? 'none' : rules.value.build.from === 'ghost' ? 'up' : 'down',
  set: (value: BuildName) => {
    const downs = rules.value.build?.downs;
    const kept = downs ? { downs } : {};
    if (value === 'none') set({ build: undefined });
    else if (value === 'up') set({ build: { from: 'ghost', to: 'strong', ...kept } });
    else set({ build: { from: 'strong', to: 'ghost', ...kept } });
  },
});
function setDowns(on: boolean): void {
  const { build: now } = rules.value;
  if (!now) return;
  const { downs: _, ...rest } = now;
  set({ build: on ? { ...rest, downs: true } : rest });
}

const open: { label: string; value: OpenStrokes }[] = [
  { label: 'none', value: 0 },
  { label: '1 stroke', value: 1 },
  { label: '2 strokes', value: 2 },
  { label: '3 strokes', value: 3 },
];
const travel: { label: string; value: Travel }[] = [
  { label: 'on open strings', value: 'open' },
  { label: 'damped', value: 'damped' },
  { label: 'left out, the arm goes on', value: 'left out' },
];
</script>

<template>
  <section class="panel" aria-label="Rules of the strum">
    <h2>{{ name }}</h2>
    <FormRow label="Strum">
      <RhythmPicker :target="target" :owner="name" :now="rules.pattern ?? song.pattern" />
    </FormRow>
    <FormRow label="Shared bars">
      <ChooseOne
        :model-value="rules.split ?? AS_SONG"
        :options="sectionSplits"
        :aria-label="`Shared bars of ${name}`"
        @update:model-value="
          (value: SplitRule | typeof AS_SONG) =>
            set({ split: value === AS_SONG ? undefined : value })
        "
      />
    </FormRow>
    <FormRow label="Loudness">
      <ChooseOne
        :model-value="rules.level ?? 'normal'"
        :options="SECTION_LEVELS"
        :aria-label="`Loudness of ${name}`"
        @update:model-value="
          (value: Accent) => set({ level: value === 'normal' ? undefined : value })
        "
      />
    </FormRow>
    <FormRow label="Build">
      <ChooseOne v-model="build" :options="builds" :aria-label="`Build of ${name}`" />
    </FormRow>
    <FormRow v-if="rules.build" v-slot="{ labelId }" label="All downs">
      <ToggleSwitch
        :model-value="rules.build.downs === true"
        :aria-labelledby="labelId"
        @update:model-value="setDowns"
      />
    </FormRow>
    <FormRow v-if="hasTune" label="Notes">
      <ChooseOne
        :model-value="rules.meets ?? AS_SONG"
        :options="sectionMeets"
        :aria-label="`Notes of ${name}`"
        @update:model-value="
          (value: TuneMeets | typeof AS_SONG) =>
            set({ meets: value === AS_SONG ? undefined : value })
        "
      />
    </FormRow>
    <h2>The song</h2>
    <FormRow v-if="hasTune" label="Notes">
      <ChooseOne
        :model-value="song.meets ?? 'in place'"
        :options="TUNE_MEETS"
        aria-label="Notes of the song"
        @update:model-value="(value: TuneMeets) => songs.run(rhythmCommands.setMeets(value))"
      />
    </FormRow>
    <FormRow label="Shared bars">
      <ChooseOne
        :model-value="song.split ?? 'roll'"
        :options="SPLIT_LABELS"
        aria-label="Shared bars of the song"
        @update:model-value="(value: SplitRule) => songs.run(rhythmCommands.setSplit(value))"
      />
    </FormRow>
    <FormRow label="Transition strokes">
      <ChooseOne
        :model-value="song.openStrokes ?? 0"
        :options="open"
        aria-label="Strokes while the hand travels"
        @update:model-value="
          (value: OpenStrokes) => songs.run(rhythmCommands.setOpenStrokes(value, song.travel))
        "
      />
      <ChooseOne
        v-if="song.openStrokes"
        :model-value="song.travel ?? 'open'"
        :options="travel"
        aria-label="How they are played"
        @update:model-value="
          (value: Travel) => songs.run(rhythmCommands.setOpenStrokes(song.openStrokes ?? 1, value))
        "
      />
    </FormRow>
    <FormRow label="Bass runs">
      <ChooseOne
        :model-value="usual.count"
        :options="RUN_COUNTS"
        aria-label="Notes of a bass run of the song"
        @update:model-value="(count: number) => setUsual({ count })"
      />
      <ChooseOne
        :model-value="usual.noteTicks"
        :options="RUN_LENGTHS"
        aria-label="Length of the notes of a bass run"
        @update:model-value="(noteTicks: UsualRun['noteTicks']) => setUsual({ noteTicks })"
      />
      <Button
        size="small"
        severity="secondary"
        :label="
          runPlaces.length === 1
            ? 'Place it into 1 change'
            : `Place them into ${runPlaces.length} changes`
        "
        :disabled="runPlaces.length === 0"
        @click="songs.run(rhythmCommands.setRuns(runPlaces))"
      />
      <Button
        v-if="runCount > 0"
        size="small"
        text
        :label="`Delete ${plural(runCount, 'run')}`"
        @click="songs.run(rhythmCommands.takeRuns())"
      />
      <span v-if="runPlaces.length === 0 && runCount === 0" class="quiet">
        No change has room for one.
      </span>
    </FormRow>
    <template v-if="different.length > 0">
      <h2>Bars that differ</h2>
      <ul class="different" aria-label="Bars that differ">
        <li v-for="line in different" :key="line">{{ line }}</li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 0.6rem;
  align-content: start;
}

h2:not(:first-child) {
  margin-top: 0.6rem;
}

.different {
  margin: 0;
  padding-left: 1.2rem;
}

.different li::first-letter {
  text-transform: uppercase;
}
</style>
