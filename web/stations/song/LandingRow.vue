<script setup lang="ts">
import Button from 'primevue/button';
import FormRow from '../../fields/FormRow.vue';
import ToggleSwitch from 'primevue/toggleswitch';
import ChooseOne from '../../fields/ChooseOne.vue';
import { computed } from 'vue';
import { plural } from '#core/plain';
import type { Arrival, OpenStrokes, Pattern, RunWish, Song, UsualRun } from '#core/schema';
import { patternTicks } from '#core/stroke';
import { type BassRun, describeRun, runs } from '#core/neck';
import type { Landing } from '#core/song';
import { barCommands, type BarPlace, patternOf, rhythmCommands } from '#core/edit';
import { previewRun, runKey, usualRun } from '#core/arrange';
import { useFrettedStore } from '../../stores/fretted';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import RhythmPicker from './RhythmPicker.vue';
import { RUN_COUNTS, RUN_LENGTHS } from './runChoices';
import SubstituteField from './SubstituteField.vue';

/** One chord of the bar: how long it lasts, what leads into it, and whether it brings its own rhythm. */
const props = defineProps<{
  song: Song;
  place: BarPlace;
  landing: Landing;
  /** The chord before, and the tick of the one after; null at the ends of the song. */
  before: Landing | null;
  nextTick: number;
  beat: number;
  /** The count it lands on, in words. */
  where: string;
  pattern: Pattern;
  lost: string | null;
}>();
const songs = useSongStore();
const player = usePlayerStore();
const held = useFrettedStore();

const lasts = computed(() => {
  const ticks = props.nextTick - props.landing.tick;
  const beats = plural(ticks / props.beat, 'beat');
  const times = ticks / patternTicks(props.pattern);
  if (!Number.isInteger(times)) return beats;
  return `${beats}, ${times === 1 ? 'once' : `${times} times`} through its pattern`;
});

const RULE = 'rule';
const transitions = [
  { label: 'as the song', value: RULE },
  { label: 'none', value: 0 },
  { label: '1 open stroke', value: 1 },
  { label: '2 open strokes', value: 2 },
  { label: '3 open strokes', value: 3 },
];
const transition = computed({
  get: () => props.landing.placement.openStrokes ?? RULE,
  set: (value: OpenStrokes | typeof RULE) =>
    songs.run(
      rhythmCommands.setOpenStrokesOf(
        props.place,
        props.landing.placement.at,
        value === RULE ? null : value,
        props.landing.placement.travel ?? props.song.travel,
      ),
    ),
});

const AS_PATTERN = 'pattern';
const landingWays = [
  { label: 'as the strum', value: AS_PATTERN },
  { label: 'bass note first', value: 'bass' },
  { label: 'bass side first', value: 'bass side' },
  { label: 'treble side first', value: 'treble side' },
  { label: 'the whole chord', value: 'whole' },
  { label: 'rolled', value: 'roll' },
  { label: 'slid into', value: 'slide' },
  { label: 'hammered into', value: 'hammer' },
  { label: 'pulled off to', value: 'pull' },
];
const arrival = computed({
  get: () => props.landing.placement.arrive ?? AS_PATTERN,
  set: (value: Arrival | typeof AS_PATTERN) =>
    songs.run(
      rhythmCommands.setArrival(
        [{ ...props.place, at: props.landing.placement.at }],
        value === AS_PATTERN ? null : value,
      ),
    ),
});

const wish = computed(() => props.landing.placement.run ?? null);
/** Chosen here, they are the song's: the next run goes alike. */
const usual = computed(() => usualRun(props.song));
const setUsual = (changed: Partial<UsualRun>) =>
  songs.run(rhythmCommands.setUsualRun({ ...usual.value, ...changed }));
const count = computed({
  get: () => usual.value.count,
  set: (value: number) => setUsual({ count: value }),
});
const noteTicks = computed({
  get: () => usual.value.noteTicks,
  set: (value: RunWish['noteTicks']) => setUsual({ noteTicks: value }),
});

const suggested = computed(() => {
  const from = props.before && held.of(props.before.symbol);
  const to = held.of(props.landing.symbol);
  if (!from || !to || !props.before) return { runs: [], none: null };
  return runs(from, to, count.value, {
    instrument: props.song.instrument,
    capo: props.song.capo,
    key: runKey(props.song, player.changes),
    noteTicks: noteTicks.value,
    available: props.landing.tick - props.before.tick,
  });
});

const notesOf = (run: BassRun) => describeRun(props.song.instrument, run);

function hear(run: BassRun): void {
  const from = props.before && held.of(props.before.symbol);
  const to = held.of(props.landing.symbol);
  const { tempo, meter } = props.song;
  if (from && to) void player.audition(previewRun(from, to, run, noteTicks.value, tempo, meter));
}

function placeRun(run: BassRun): void {
  const { kind, direction } = run;
  const made = { count: count.value, noteTicks: noteTicks.value, kind, direction };
  songs.run(rhythmCommands.setRun(props.place, props.landing.placement.at, made));
}

const wished = computed(() => {
  if (!wish.value) return null;
  const { count: notes, noteTicks: ticks, kind, direction } = wish.value;
  return `A run of ${notes} in ${ticks === 960 ? 'quarters' : 'eighths'}, ${direction} ${kind}, leads into it.`;
});
const chordTarget = computed(() => ({ of: 'chord', symbol: props.landing.symbol }) as const);
const hasOwn = computed(() => patternOf(props.song, chordTarget.value) !== null);
const ready = computed(() => props.before !== null);
</script>

<template>
  <li class="landing">
    <h3>
      {{ landing.symbol }} <span class="quiet">lands on {{ where }}, lasts {{ lasts }}</span>
    </h3>
    <FormRow :label="`Every ${landing.symbol}`">
      <RhythmPicker :target="chordTarget" :owner="`every ${landing.symbol}`" :now="pattern" />
      <span v-if="hasOwn" class="quiet">wherever it comes</span>
    </FormRow>
    <FormRow label="First stroke">
      <ChooseOne
        v-model="arrival"
        :options="ready ? landingWays : landingWays.slice(0, -2)"
        :aria-label="`How ${landing.symbol} is first struck`"
      />
    </FormRow>
    <FormRow v-if="ready" label="Transition">
      <ChooseOne
        v-model="transition"
        :options="transitions"
        :aria-label="`Open strokes before ${landing.symbol}`"
      />
    </FormRow>
    <FormRow label="Held">
      <ToggleSwitch
        :model-value="landing.placement.fermata === true"
        :aria-label="`${landing.symbol} is struck once and held`"
        @update:model-value="
          (on: boolean) => songs.run(barCommands.setFermata(place, landing.placement.at, on))
        "
      />
      <span class="quiet">struck once, then rings</span>
    </FormRow>
    <FormRow label="On repeats">
      <SubstituteField :place="place" :placement="landing.placement" :name="landing.symbol" />
    </FormRow>
    <FormRow v-if="ready" label="Bass run">
      <template v-if="wished">
        <span>{{ wished }}</span>
        <span v-if="lost" class="lost" role="alert">{{ lost }} It is kept, and silent.</span>
        <Button
          size="small"
          text
          label="Delete the run"
          @click="songs.run(rhythmCommands.setRun(place, landing.placement.at, null))"
        />
      </template>
      <template v-else>
        <ChooseOne
          v-model="count"
          :options="RUN_COUNTS"
          :aria-label="`Notes of a run into ${landing.symbol}`"
        />
        <ChooseOne
          v-model="noteTicks"
          :options="RUN_LENGTHS"
          :aria-label="`Length of its notes before ${landing.symbol}`"
        />
        <span v-for="run in suggested.runs" :key="notesOf(run)" class="run">
          <Button
            size="small"
            severity="secondary"
            :label="`${run.direction} ${run.kind}: ${notesOf(run)}`"
            :aria-label="`Place a run into ${landing.symbol}, ${run.direction} ${run.kind}`"
            @click="placeRun(run)"
          />
          <Button
            size="small"
            text
            rounded
            icon="pi pi-play"
            :aria-label="`Hear the run into ${landing.symbol}, ${run.direction} ${run.kind}`"
            @click="hear(run)"
          />
        </span>
        <span v-if="suggested.none" class="quiet">{{ suggested.none }}</span>
      </template>
    </FormRow>
  </li>
</template>

<style scoped>
.landing {
  display: grid;
  gap: 0.4rem;
}

h3 {
  font-family: var(--display);
  font-size: 1.05rem;
  margin: 0;
  border-top: 1px solid var(--line);
  padding-top: 0.5rem;
}

h3 .quiet {
  font-family: var(--text);
  font-weight: 400;
}

.run {
  display: flex;
  align-items: center;
}

.lost {
  color: var(--coral);
  font-weight: 600;
}
</style>
