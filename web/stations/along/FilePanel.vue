<script setup lang="ts">
import Button from 'primevue/button';
import Slider from 'primevue/slider';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, ref } from 'vue';
import { clock, plural } from '#core/plain';
import ChooseFile from '../../fields/ChooseFile.vue';
import ChooseOne from '../../fields/ChooseOne.vue';
import FormRow from '../../fields/FormRow.vue';
import { useAlongStore } from '../../stores/along';
import { useAlongPlayStore } from '../../stores/alongPlay';

/** The file, and what is heard of it: levels, the click and the song's own part on its beats. */
const along = useAlongStore();
const play = useAlongPlayStore();
const asking = ref(false);

const size = computed(() => {
  const bytes = along.info?.bytes ?? 0;
  return bytes > 2 ** 20 ? `${(bytes / 2 ** 20).toFixed(1)} MB` : `${Math.ceil(bytes / 1024)} kB`;
});
const length = computed(() => clock(Math.round(along.duration)));
const percent = computed({
  get: () => Math.round(play.level * 100),
  set: (value: number) => (play.level = value / 100),
});
/** Semitones up and down within which a recording still sounds like itself. */
const FARTHEST = 7;
const shifts = Array.from({ length: 2 * FARTHEST + 1 }, (_, step) => step - FARTHEST).map(
  (value) => ({
    label:
      value === 0
        ? 'as recorded'
        : `${plural(Math.abs(value), 'semitone')} ${value > 0 ? 'higher' : 'lower'}`,
    value,
  }),
);
</script>

<template>
  <div class="file">
    <h2 class="sub">Heard together</h2>
    <FormRow v-slot="{ labelId }" label="The recording">
      <Slider v-model="percent" class="level" :min="0" :max="100" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow v-slot="{ labelId }" label="Pitch">
      <ChooseOne v-model="play.shift" :options="shifts" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow v-slot="{ labelId }" label="Click on its beats">
      <ToggleSwitch v-model="play.click" :disabled="!along.map" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow v-slot="{ labelId }" label="The song’s own sound">
      <ToggleSwitch v-model="play.part" :disabled="!along.map" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow v-slot="{ labelId }" label="A bar counted in">
      <ToggleSwitch v-model="play.countIn" :disabled="!along.map" :aria-labelledby="labelId" />
    </FormRow>
    <p class="quiet">Another pitch suits a capo, or a key that lies better under the hand.</p>
    <p class="quiet">
      Not too loud: over headphones a recording that is turned up to drown the strings can hurt the
      ears. If they ring afterwards, turn it down and rest.
    </p>
    <h2 class="sub">The file</h2>
    <p>
      {{ along.info?.name }}<br />
      <span class="quiet">{{ length }}, {{ size }}; it stays on this machine.</span>
    </p>
    <div class="row">
      <ChooseFile
        label="Another recording"
        accept="audio/*"
        look="outlined"
        @file="along.bring($event)"
      />
      <Button v-if="!asking" label="Delete it" text @click="asking = true" />
      <template v-else>
        <Button label="Delete the recording" severity="danger" @click="along.remove()" />
        <Button label="Cancel" text @click="asking = false" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.file {
  --form-labels: 10rem;

  display: grid;
  gap: 0.4rem;
  align-content: start;
}

.level {
  flex: 1;
  margin-right: 0.7rem;
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
}
</style>
