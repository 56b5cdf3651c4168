<script setup lang="ts">
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import ChooseOne from '../../fields/ChooseOne.vue';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import FrettingRow from './FrettingRow.vue';
import FormMore from '../../fields/FormMore.vue';
import FormRow from '../../fields/FormRow.vue';
import ToggleButton from 'primevue/togglebutton';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed } from 'vue';
import type {
  Accent,
  BassTarget,
  Instrument,
  PluckingFinger,
  Stroke,
  TapPlace,
} from '#core/schema';
import {
  chooseStrings,
  FINGER_NAMES,
  fingerOf,
  isPitched,
  nextTap,
  sayString,
  setFinger,
  setTap,
  sounds,
  stringPhrase,
  setRoll,
  takesFinger,
  takesRest,
  takesSweep,
  toggleOpen,
  togglePalm,
  toggleRest,
  toggleSweep,
  turnStroke,
} from '#core/stroke';
import { stringLabel } from '#core/neck';

/** All that can be said about the stroke under the cursor, or about every stroke that is selected. */
const props = defineProps<{
  stroke: Stroke;
  /** The sentence of its place. */
  place: string;
  instrument: Instrument;
  /** How many slots are selected; 1 for the cursor alone. */
  count: number;
}>();
const emit = defineEmits<{
  change: [name: string, change: (stroke: Stroke) => Stroke];
  build: [from: Accent, to: Accent];
  unbuild: [];
}>();

const accents: { label: string; value: Accent }[] = [
  { label: 'very soft', value: 'ghost' },
  { label: 'normal', value: 'normal' },
  { label: 'accent', value: 'accent' },
  { label: 'hard', value: 'strong' },
];
const has = (part: string) =>
  part in props.stroke && Boolean((props.stroke as Record<string, unknown>)[part]);
const pitched = computed(() => isPitched(props.stroke));
const accent = computed(() => ('accent' in props.stroke ? props.stroke.accent : null));
const dir = computed(() => ('dir' in props.stroke ? props.stroke.dir : null));
const tap = computed(() => ('tap' in props.stroke ? (props.stroke.tap ?? 'none') : 'none'));
const finger = computed<PluckingFinger | 'none' | null>(() => {
  const { stroke } = props;
  return stroke.kind === 'pick' || takesFinger(stroke) ? (fingerOf(stroke) ?? 'none') : null;
});

const fingers: { label: string; value: PluckingFinger | 'none' }[] = [
  { label: 'any', value: 'none' },
  ...(['p', 'i', 'm', 'a', 'c'] as const).map((value) => ({
    label: `${value}, ${FINGER_NAMES[value]}`,
    value,
  })),
];
const directions = [
  { label: '↓ down', value: 'down' },
  { label: '↑ up', value: 'up' },
];
const taps: { label: string; value: TapPlace | 'none' }[] = [
  { label: 'none', value: 'none' },
  { label: 'tap', value: 'body' },
  { label: 'slap', value: 'strings' },
];
/** What is folded away for this stroke, in words. */
const rare = computed(() =>
  [
    pitched.value && 'open strings',
    takesRest(props.stroke) && 'rest stroke',
    takesSweep(props.stroke) && 'sweep',
  ]
    .filter(Boolean)
    .join(', '),
);
const hasRare = computed(() => has('open') || has('rest') || has('sweep'));

/** The strings that can be chosen: by number for a strum, from the root and by number for a pick. */
const stringChoices = computed(() => {
  const { strings } = props.instrument;
  const byNumber = strings.map((_, string) => ({
    value: strings.length - string,
    label: stringLabel(props.instrument, string),
  }));
  if (props.stroke.kind === 'strum') {
    return byNumber.map(({ value, label }) => ({
      value: String(value),
      label: `${value}`,
      says: label,
    }));
  }
  const relative = ['R', '1', '2', '3'].map((value) => ({
    value,
    label: sayString(value),
    says: stringPhrase(value),
  }));
  return [
    ...relative,
    ...byNumber.map(({ value, label }) => ({
      value: `s${value}`,
      label: String(value),
      says: label,
    })),
  ];
});
const chosen = computed(() => {
  const { stroke } = props;
  if (stroke.kind === 'pick') return stroke.strings.map(({ string }) => string);
  return stroke.kind === 'strum' && Array.isArray(stroke.reach) ? stroke.reach.map(String) : [];
});
function toggleString(value: string, on: boolean): void {
  const next = on ? [...chosen.value, value] : chosen.value.filter((other) => other !== value);
  emit('change', 'choose strings', (stroke) => chooseStrings(stroke, next));
}

const reaches = [
  { label: 'all', value: 'all' },
  { label: 'bass', value: 'bass' },
  { label: 'treble', value: 'treble' },
  { label: 'pick strings', value: 'chosen' },
];
const reach = computed({
  get: () => {
    if (props.stroke.kind !== 'strum') return 'all';
    return Array.isArray(props.stroke.reach) ? 'chosen' : (props.stroke.reach ?? 'all');
  },
  set: (value: string) => {
    const top = props.instrument.strings.slice(-3).map((_, order) => String(3 - order));
    emit('change', 'change the reach', (stroke) => {
      if (stroke.kind !== 'strum') return stroke;
      const { reach: _, ...rest } = stroke;
      if (value === 'all') return rest;
      return value === 'chosen'
        ? chooseStrings(rest, top)
        : { ...rest, reach: value as 'bass' | 'treble' };
    });
  },
});

const basses = [
  { label: 'root', value: 'root' },
  { label: 'fifth', value: 'fifth' },
  { label: 'alternate', value: 'alternate' },
  { label: 'string…', value: 'explicit' },
];
const bassNote = computed(() => (props.stroke.kind === 'bass' ? props.stroke.note : undefined));
const explicit = computed(() => (typeof bassNote.value === 'object' ? bassNote.value : null));
function withNote(note: BassTarget | undefined): void {
  emit('change', 'choose the bass note', (stroke) => {
    if (stroke.kind !== 'bass') return stroke;
    const { note: _, ...rest } = stroke;
    return note === undefined ? rest : { ...rest, note };
  });
}
const bass = computed({
  get: () => (explicit.value ? 'explicit' : ((bassNote.value as string | undefined) ?? 'root')),
  set: (value: string) => {
    if (value === 'root') withNote(undefined);
    else if (value === 'explicit') withNote({ string: props.instrument.strings.length, fret: 0 });
    else withNote(value as 'fifth' | 'alternate');
  },
});

function setHits(hits: number | null): void {
  if (hits !== null) emit('change', 'roll', (stroke) => setRoll(stroke, hits));
}
/** Fingers of a roll, one after the other; the thumb may come last, or first. */
const ROLLS = ['none', 'amip', 'pima', 'ami', 'ima', 'mi', 'im', 'camip', 'pimac'];
const rolls = ROLLS.map((value) => ({
  value,
  label:
    value === 'none'
      ? 'any fingers'
      : [...value].map((one) => FINGER_NAMES[one as PluckingFinger]).join(', '),
}));
const rollFingers = computed({
  get: () => (props.stroke.kind === 'roll' && props.stroke.fingers?.join('')) || 'none',
  set: (value: string) =>
    emit('change', 'choose the fingers of a roll', (stroke) => {
      if (stroke.kind !== 'roll') return stroke;
      if (value === 'none') return setRoll(stroke, stroke.hits);
      return setRoll(stroke, value.length, [...value] as PluckingFinger[]);
    }),
});
</script>

<template>
  <div class="stroke" role="group" aria-label="This stroke">
    <p class="place">{{ count > 1 ? `${count} places selected` : place }}</p>
    <div v-if="count > 1" class="row">
      <Button
        size="small"
        label="Build soft to loud"
        severity="secondary"
        @click="emit('build', 'ghost', 'strong')"
      />
      <Button
        size="small"
        label="Fall loud to soft"
        severity="secondary"
        @click="emit('build', 'strong', 'ghost')"
      />
      <Button size="small" label="Even" text @click="emit('unbuild')" />
    </div>
    <template v-if="sounds(stroke)">
      <FormRow label="Loudness">
        <ChooseBeside
          :model-value="accent"
          :options="accents"
          aria-label="Loudness"
          size="small"
          @update:model-value="
            (value: Accent) =>
              emit('change', 'change an accent', (one) =>
                'accent' in one ? { ...one, accent: value } : one,
              )
          "
        />
      </FormRow>
      <FormRow v-if="dir" label="Direction">
        <ChooseBeside
          :model-value="dir"
          :options="directions"
          aria-label="Direction"
          size="small"
          @update:model-value="emit('change', 'flip a stroke', turnStroke)"
        />
      </FormRow>
      <FormRow v-if="stroke.kind === 'strum'" label="Reach">
        <ChooseBeside v-model="reach" :options="reaches" aria-label="Reach" size="small" />
      </FormRow>
      <FormRow v-if="stroke.kind === 'bass'" label="Bass note">
        <ChooseBeside v-model="bass" :options="basses" aria-label="Bass note" size="small" />
      </FormRow>
      <FormRow v-if="explicit" label="String" for="bass-string">
        <InputNumber
          :model-value="explicit.string"
          input-id="bass-string"
          class="tiny"
          :min="1"
          :max="instrument.strings.length"
          :allow-empty="false"
          @update:model-value="
            (string: number | null) => withNote({ ...explicit!, string: string ?? 1 })
          "
        />
        <label class="label" for="bass-fret">fret</label>
        <InputNumber
          :model-value="explicit.fret"
          input-id="bass-fret"
          class="tiny"
          :min="0"
          :max="Math.min(24, instrument.frets)"
          :allow-empty="false"
          @update:model-value="(fret: number | null) => withNote({ ...explicit!, fret: fret ?? 0 })"
        />
      </FormRow>
      <FormRow v-if="stroke.kind === 'pick' || reach === 'chosen'" label="Strings">
        <div class="strings" role="group" aria-label="Strings">
          <ToggleButton
            v-for="choice in stringChoices"
            :key="choice.value"
            size="small"
            :model-value="chosen.includes(choice.value)"
            :on-label="choice.label"
            :off-label="choice.label"
            :aria-label="choice.says"
            :title="choice.says"
            @update:model-value="(on: boolean) => toggleString(choice.value, on)"
          />
        </div>
      </FormRow>
      <FrettingRow
        :stroke="stroke"
        :instrument="instrument"
        @change="(name, change) => emit('change', name, change)"
      />
      <template v-if="stroke.kind !== 'legato'">
        <template v-if="stroke.kind === 'roll'">
          <FormRow label="Strokes" for="roll-hits">
            <InputNumber
              :model-value="stroke.hits"
              input-id="roll-hits"
              class="hits"
              :min="2"
              :max="5"
              show-buttons
              :allow-empty="false"
              @update:model-value="setHits"
            />
          </FormRow>
          <FormRow label="Fingers">
            <ChooseOne v-model="rollFingers" :options="rolls" aria-label="Fingers of the roll" />
          </FormRow>
        </template>
        <FormRow v-if="finger !== null" label="Finger">
          <ChooseOne
            :model-value="finger"
            :options="fingers"
            aria-label="Finger"
            @update:model-value="
              (value: PluckingFinger | 'none') =>
                emit('change', 'choose a finger', (stroke) =>
                  setFinger(stroke, value === 'none' ? undefined : value),
                )
            "
          />
        </FormRow>
        <FormRow label="Tap">
          <ChooseBeside
            v-if="stroke.kind !== 'tap'"
            :model-value="tap"
            :options="taps"
            aria-label="A tap with it"
            size="small"
            @update:model-value="
              (value: TapPlace | 'none') =>
                emit('change', 'tap with it', (stroke) =>
                  setTap(stroke, value === 'none' ? undefined : value),
                )
            "
          />
          <ChooseBeside
            v-else
            :model-value="stroke.on"
            :options="taps.slice(1)"
            aria-label="Where the tap falls"
            size="small"
            @update:model-value="emit('change', 'tap', nextTap)"
          />
        </FormRow>
        <FormRow v-if="pitched" v-slot="{ labelId }" label="Palm-muted">
          <ToggleSwitch
            :model-value="has('palm')"
            :aria-labelledby="labelId"
            @update:model-value="emit('change', 'mute with the palm', togglePalm)"
          />
        </FormRow>
        <FormMore v-if="pitched || takesSweep(stroke)" :about="rare" :open="hasRare">
          <FormRow v-if="pitched" v-slot="{ labelId }" label="Open strings">
            <ToggleSwitch
              :model-value="has('open')"
              :aria-labelledby="labelId"
              @update:model-value="emit('change', 'play on open strings', toggleOpen)"
            />
          </FormRow>
          <FormRow v-if="takesRest(stroke)" v-slot="{ labelId }" label="Rest stroke">
            <ToggleSwitch
              :model-value="stroke.rest === true"
              :aria-labelledby="labelId"
              @update:model-value="emit('change', 'rest on the next string', toggleRest)"
            />
            <span class="quiet">comes to rest on the next string</span>
          </FormRow>
          <FormRow v-if="takesSweep(stroke)" v-slot="{ labelId }" label="Sweep">
            <ToggleSwitch
              :model-value="has('sweep')"
              :aria-labelledby="labelId"
              @update:model-value="emit('change', 'play in one sweep', toggleSweep)"
            />
            <span class="quiet">one movement with the stroke before</span>
          </FormRow>
        </FormMore>
      </template>
      <p v-if="stroke.kind === 'tap' || tap !== 'none'" class="quiet">
        Tap lightly, on a tap plate, without rings: wood dents and strings break.
      </p>
    </template>
    <p v-else class="quiet">
      Nothing sounds here. Arrow down or up strums; the other strokes are buttons above.
    </p>
  </div>
</template>

<style scoped>
.stroke {
  display: grid;
  gap: 0.5rem;
  align-content: start;
}

.place {
  font-weight: 600;
}

.place::first-letter {
  text-transform: uppercase;
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem;
}

.strings {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem;
}

.hits :deep(input) {
  width: 5rem;
}

.tiny :deep(input) {
  width: 3.6rem;
  text-align: center;
}
</style>
