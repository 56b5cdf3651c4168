<script setup lang="ts">
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputNumber from 'primevue/inputnumber';
import InputText from 'primevue/inputtext';
import ChooseOne from '../../fields/ChooseOne.vue';
import { computed, ref, watch } from 'vue';
import { type Family, familySchema, type Instrument, instrumentSchema } from '#core/schema';
import { builtInId, printTuning, readTuning, scaleLengthOf, UKULELE_SIZES } from '#core/neck';
import { useInstrumentsStore } from '../../stores/instruments';

/** Built-in instruments and tunings, and the player's own. */
const instrument = defineModel<Instrument>({ required: true });

const kept = useInstrumentsStore();
/** One that no list knows, as of a song that was opened from a file; and one that is to be made. */
const THIS = 'this';
const NEW = 'new';
const choice = computed({
  get: () => builtInId(instrument.value) ?? kept.ownId(instrument.value) ?? THIS,
  set: (id: string) => {
    const chosen = kept.find(id);
    if (id === NEW) open();
    else if (chosen) instrument.value = chosen;
  },
});
const options = computed(() => [
  ...kept.options,
  ...(choice.value === THIS ? [{ label: instrument.value.name, value: THIS }] : []),
  { label: 'My own tuning…', value: NEW },
]);

/** A ukulele's size: how far its frets are apart says how far the hand goes. */
const size = computed({
  get: () => scaleLengthOf(instrument.value),
  set: (scaleLength: number) => (instrument.value = { ...instrument.value, scaleLength }),
});
const sizes = computed(() => [
  ...UKULELE_SIZES.map(({ name, scale }) => ({ label: `${name}, ${scale} cm`, value: scale })),
  ...(UKULELE_SIZES.some(({ scale }) => scale === size.value)
    ? []
    : [{ label: `${size.value} cm`, value: size.value }]),
]);

const FAMILIES: Record<Family, string> = {
  guitar: 'a guitar',
  nylon: 'a guitar with nylon strings',
  ukulele: 'a ukulele',
  baritone: 'a baritone ukulele',
  mandolin: 'a mandolin',
  banjo: 'a banjo',
};
const families = familySchema.options.map((value) => ({ label: FAMILIES[value], value }));

const editing = ref(false);
const form = ref({ name: '', tuning: '', frets: 18, family: 'guitar' as Family, scale: 65 });
const problem = ref<string | null>(null);
/** As its kind is commonly built. */
function scaleOfKind(family: Family): number {
  const { scaleLength: _, ...kind } = instrument.value;
  return scaleLengthOf({ ...kind, family, strings: [] });
}
watch(
  () => form.value.family,
  (family) => {
    if (!editing.value) return;
    form.value.scale = scaleOfKind(family);
  },
);

function open(): void {
  const now = instrument.value;
  form.value = {
    name: builtInId(now) ? `My ${now.name.toLowerCase()}` : now.name,
    tuning: printTuning(now),
    frets: now.frets,
    family: now.family,
    scale: scaleLengthOf(now),
  };
  problem.value = null;
  editing.value = true;
}

function take(): void {
  const read = readTuning(form.value.tuning);
  if ('problem' in read) {
    problem.value = read.problem;
    return;
  }
  const { name, frets, family, scale } = form.value;
  const made = instrumentSchema.safeParse({
    name,
    frets,
    family,
    strings: read.strings,
    offset: 0,
    ...(scale !== scaleOfKind(family) && { scaleLength: scale }),
  });
  if (!made.success) {
    problem.value = `Not yet: ${made.error.issues[0]!.message}.`;
    return;
  }
  instrument.value = made.data;
  void kept.keep(made.data);
  editing.value = false;
}
</script>

<template>
  <div class="picker">
    <span id="instrument-label">Instrument</span>
    <ChooseOne
      :key="String(editing)"
      v-model="choice"
      aria-labelledby="instrument-label"
      :options="options"
    />
    <template v-if="instrument.family === 'ukulele'">
      <span id="size-label">Size</span>
      <ChooseOne v-model="size" aria-labelledby="size-label" :options="sizes" />
    </template>
    <Button
      v-if="choice === THIS || kept.ownId(instrument) !== null"
      icon="pi pi-pencil"
      text
      rounded
      aria-label="Change my tuning"
      @click="open"
    />
    <Dialog v-model:visible="editing" modal header="My own tuning" class="own">
      <form class="form" @submit.prevent="take">
        <label for="own-name">Name</label>
        <InputText id="own-name" v-model="form.name" maxlength="60" />
        <label for="own-tuning">Strings, from the one nearest your thumb</label>
        <InputText id="own-tuning" v-model="form.tuning" placeholder="D3 G3 B3 E4" />
        <label for="own-frets">Frets</label>
        <InputNumber v-model="form.frets" input-id="own-frets" :min="5" :max="36" show-buttons />
        <label for="own-scale">From nut to bridge</label>
        <InputNumber
          v-model="form.scale"
          input-id="own-scale"
          :min="20"
          :max="110"
          suffix=" cm"
          show-buttons
        />
        <span id="own-family">It sounds like</span>
        <ChooseOne v-model="form.family" aria-labelledby="own-family" :options="families" />
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <div class="actions">
          <Button type="button" label="Cancel" text @click="editing = false" />
          <Button type="submit" label="Use this tuning" />
        </div>
      </form>
    </Dialog>
  </div>
</template>

<style scoped>
.picker {
  display: flex;
  align-items: center;
  gap: 0.6rem;
}

.form {
  display: grid;
  gap: 0.4rem;
  min-width: min(26rem, 80vw);
}

.problem {
  color: var(--coral);
  font-weight: 600;
}

.actions {
  display: flex;
  justify-content: flex-end;
  gap: 0.5rem;
  margin-top: 0.6rem;
}
</style>
