<script setup lang="ts">
import InputNumber from 'primevue/inputnumber';
import Select from 'primevue/select';
import ChooseOne from '../../fields/ChooseOne.vue';
import { computed } from 'vue';
import { plural } from '#core/plain';
import {
  type ArmStyle,
  type Division,
  DIVISIONS,
  type Feel,
  type Meter,
  type Pattern,
} from '#core/schema';
import { canSwing } from '#core/time';
import { patternLengths, setLength } from '#core/pattern';
import { commands } from '#core/edit';
import MeterField from '../../fields/MeterField.vue';
import { ARM_WORDS, COUNT_WORDS } from './gridLine';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';

/** What the whole pattern stands on: meter, length, feel, arm; and how it is counted. */
const props = defineProps<{ pattern: Pattern }>();
const songs = useSongStore();
const view = useViewStore();

// By parts, so that a stroke that is placed leaves the fields alone.
const barMeter = computed(() => props.pattern.meter);
const beatCount = computed(() => props.pattern.beats.length);
const swing = computed(() => props.pattern.feel);

const meter = computed({
  get: () => barMeter.value,
  set: (value: Meter) => songs.run(commands.setMeter(value)),
});

/** A cycle is the same whichever count it begins on: only the numbers under it move. */
const firstCounts = computed(() => {
  const { beats, cycle } = barMeter.value;
  const offered = [...new Set([beats, 1, cycle?.first ?? 1])];
  return offered.map((value) => ({ label: `begins on ${value}`, value }));
});
const firstCount = computed({
  get: () => barMeter.value.cycle?.first ?? 1,
  set: (first: number) => {
    const { cycle } = barMeter.value;
    if (cycle) songs.run(commands.setMeter({ ...barMeter.value, cycle: { ...cycle, first } }));
  },
});

const lengths = computed(() => {
  const all = patternLengths(barMeter.value);
  return all.some(({ beats }) => beats === beatCount.value)
    ? all
    : [{ label: `${beatCount.value} beats`, beats: beatCount.value }, ...all];
});
const length = computed({
  get: () => beatCount.value,
  set: (beats: number) =>
    songs.runOnRhythm(commands.takeEdited('change the length', setLength(props.pattern, beats))),
});

type FeelName = 'straight' | Feel['on'];
const feels = computed(() =>
  (['straight', 'eighths', 'sixteenths'] as const)
    .filter((on) => on === 'straight' || canSwing({ on, percent: 60 }, barMeter.value))
    .map((value) => ({ label: value === 'straight' ? value : `swung ${value}`, value })),
);
const SHUFFLE = 67;
const feel = computed({
  get: (): FeelName => swing.value?.on ?? 'straight',
  set: (on: FeelName) =>
    songs.runOnRhythm(
      commands.setFeel(
        on === 'straight' ? undefined : { on, percent: props.pattern.feel?.percent ?? SHUFFLE },
      ),
    ),
});
const percent = computed({
  get: () => swing.value?.percent ?? 50,
  set: (value: number | null) => {
    const { feel: now } = props.pattern;
    if (now && value !== null)
      songs.runOnRhythm(commands.setFeel({ ...now, percent: value }), true);
  },
});

const school = computed({
  get: () => props.pattern.arm.school,
  set: (value: ArmStyle) => songs.runOnRhythm(commands.setArmStyle(value)),
});
const rates = DIVISIONS.map((value) => ({
  label: `${plural(value, 'move')} a beat`,
  value,
}));
const rate = computed({
  get: () => props.pattern.arm.halfSwings,
  set: (value: Division) => songs.runOnRhythm(commands.setArmRate(value)),
});
</script>

<template>
  <div class="grid-bar">
    <MeterField v-model="meter" />
    <Select
      v-model="length"
      aria-label="Length of the pattern"
      :options="lengths"
      option-label="label"
      option-value="beats"
    />
    <ChooseOne v-model="feel" aria-label="Feel" :options="feels" />
    <InputNumber
      v-if="swing"
      v-model="percent"
      class="percent"
      :min="50"
      :max="75"
      suffix=" %"
      :allow-empty="false"
      aria-label="How much it swings"
    />
    <span id="school-label" class="label">Arm</span>
    <ChooseOne v-model="school" :options="ARM_WORDS" aria-labelledby="school-label" />
    <ChooseOne v-model="rate" :options="rates" aria-label="Arm moves in a beat" />
    <span id="count-label" class="label">Count</span>
    <ChooseOne v-model="view.counting" :options="COUNT_WORDS" aria-labelledby="count-label" />
    <ChooseOne
      v-if="barMeter.cycle"
      v-model="firstCount"
      :options="firstCounts"
      aria-label="The count that the cycle begins on"
    />
  </div>
</template>

<style scoped>
.grid-bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
}

.percent :deep(input) {
  width: 4.2rem;
}
</style>
