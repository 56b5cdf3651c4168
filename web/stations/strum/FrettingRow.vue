<script setup lang="ts">
import InputNumber from 'primevue/inputnumber';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed } from 'vue';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import ChooseOne from '../../fields/ChooseOne.vue';
import FormRow from '../../fields/FormRow.vue';
import type { Grace, Instrument, LegatoHow, LegatoStep, Stroke } from '#core/schema';
import { pickAt, setGrace, setLegato, stringPlace, takesGrace } from '#core/stroke';

/** What the fretting hand does in a stroke: frets of a pick, ornaments, and slots that it sounds by itself. */
const props = defineProps<{ stroke: Stroke; instrument: Instrument }>();
const emit = defineEmits<{ change: [name: string, change: (stroke: Stroke) => Stroke] }>();

const hows: { label: string; value: LegatoHow }[] = [
  { label: 'hammer-on', value: 'hammer' },
  { label: 'pull-off', value: 'pull' },
  { label: 'slide', value: 'slide' },
];
const step = computed<LegatoStep | null>(() =>
  props.stroke.kind === 'legato' ? props.stroke.steps[0]! : null,
);
const target = computed(() => {
  if (!step.value) return 'shape';
  return step.value.to ?? (step.value.strings ? 'string' : 'shape');
});
const targets = computed(() => [
  { label: 'to the shape', value: 'shape' },
  { label: 'on one string', value: 'string' },
  ...(step.value?.how === 'slide'
    ? [
        { label: 'into the next chord', value: 'next' },
        { label: 'off the strings', value: 'away' },
      ]
    : []),
]);
const place = computed(() => {
  const [first] = step.value?.strings ?? [];
  const named = first && stringPlace(first.string);
  const number = named && 'number' in named ? named.number : 1;
  return { string: number, fret: first?.fret ?? 0 };
});
function setStep(made: LegatoStep): void {
  emit('change', 'sound it with the fretting hand', (stroke) =>
    stroke.kind === 'legato' ? setLegato(stroke, [made, ...stroke.steps.slice(1)]) : stroke,
  );
}
const onString = (string: number, fret: number): LegatoStep => ({
  how: step.value!.how,
  strings: [{ string: `s${string}`, fret }],
});
function setTarget(value: string): void {
  const { how } = step.value!;
  if (value === 'string') setStep(onString(1, 2));
  else if (value === 'next' || value === 'away') setStep({ how: 'slide', to: value });
  else setStep({ how });
}
function setHow(how: LegatoHow): void {
  const { to: _, ...rest } = step.value!;
  setStep({ ...rest, how });
}

const fret = computed(() =>
  props.stroke.kind === 'pick' ? (props.stroke.strings[0]!.fret ?? null) : null,
);

const GRACES: Record<string, Grace | undefined> = {
  none: undefined,
  hammer1: { how: 'hammer', frets: 1 },
  hammer2: { how: 'hammer', frets: 2 },
  pull2: { how: 'pull', frets: 2 },
  below: { how: 'slide', frets: 2 },
  above: { how: 'slide', frets: 2, above: true },
};
const graces = [
  { label: 'none', value: 'none' },
  { label: 'hammered on, 1 fret', value: 'hammer1' },
  { label: 'hammered on, 2 frets', value: 'hammer2' },
  { label: 'pulled off, 2 frets', value: 'pull2' },
  { label: 'slid up into', value: 'below' },
  { label: 'slid down into', value: 'above' },
];
const grace = computed(() => (takesGrace(props.stroke) ? props.stroke.grace : undefined));
const ornament = computed(() => {
  const now = grace.value;
  if (!now) return 'none';
  if (now.how === 'slide') return now.above ? 'above' : 'below';
  if (now.how === 'pull') return 'pull2';
  return now.frets === 1 ? 'hammer1' : 'hammer2';
});
function setOrnament(value: string): void {
  emit('change', 'ornament', (stroke) => setGrace(stroke, GRACES[value]));
}
function setBefore(before: boolean): void {
  emit('change', 'ornament', (stroke) => {
    if (!takesGrace(stroke) || !stroke.grace) return stroke;
    const { before: _, ...rest } = stroke.grace;
    return setGrace(stroke, before ? { ...rest, before: true } : rest);
  });
}
</script>

<template>
  <div v-if="step" class="rows" role="group" aria-label="Fingers on the neck">
    <FormRow label="Sounds by">
      <ChooseBeside
        :model-value="step.how"
        :options="hows"
        aria-label="How it sounds"
        size="small"
        @update:model-value="setHow"
      />
    </FormRow>
    <FormRow label="Goes to">
      <ChooseOne
        :model-value="target"
        :options="targets"
        aria-label="Where it goes"
        @update:model-value="setTarget"
      />
    </FormRow>
    <FormRow v-if="target === 'string'" label="String" for="legato-string">
      <InputNumber
        :model-value="place.string"
        input-id="legato-string"
        class="tiny"
        :min="1"
        :max="instrument.strings.length"
        :allow-empty="false"
        @update:model-value="(string: number | null) => setStep(onString(string ?? 1, place.fret))"
      />
      <label class="label" for="legato-fret">fret</label>
      <InputNumber
        :model-value="place.fret"
        input-id="legato-fret"
        class="tiny"
        :min="0"
        :max="Math.min(24, instrument.frets)"
        :allow-empty="false"
        @update:model-value="(to: number | null) => setStep(onString(place.string, to ?? 0))"
      />
    </FormRow>
    <p class="quiet">The arm misses; a ringing string moves to another fret.</p>
  </div>
  <div v-else-if="takesGrace(stroke)" class="rows" role="group" aria-label="Fingers on the neck">
    <FormRow v-if="stroke.kind === 'pick'" label="Fret" for="pick-fret">
      <InputNumber
        :model-value="fret"
        input-id="pick-fret"
        class="tiny"
        placeholder="own"
        :min="0"
        :max="Math.min(24, instrument.frets)"
        @update:model-value="
          (to: number | null) =>
            emit('change', 'choose a fret', (one) => pickAt(one, to ?? undefined))
        "
      />
    </FormRow>
    <FormRow label="Ornament">
      <ChooseOne
        :model-value="ornament"
        :options="graces"
        aria-label="Ornament"
        @update:model-value="setOrnament"
      />
    </FormRow>
    <FormRow v-if="grace" v-slot="{ labelId }" label="Before its time">
      <ToggleSwitch
        :model-value="grace.before === true"
        :aria-labelledby="labelId"
        @update:model-value="setBefore"
      />
    </FormRow>
  </div>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 0.4rem;
}

.tiny :deep(input) {
  width: 3.6rem;
  text-align: center;
}
</style>
