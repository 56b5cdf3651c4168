<script setup lang="ts">
import Button from 'primevue/button';
import Slider from 'primevue/slider';
import ToggleButton from 'primevue/togglebutton';
import { computed, ref } from 'vue';
import ChooseFile from '../../fields/ChooseFile.vue';
import { useAlongStore } from '../../stores/along';

/** The file, and what is heard of it: levels, the click and the song's own part on its beats. */
const level = defineModel<number>('level', { required: true });
const click = defineModel<boolean>('click', { required: true });
const part = defineModel<boolean>('part', { required: true });
const along = useAlongStore();
const asking = ref(false);

const size = computed(() => {
  const bytes = along.info?.bytes ?? 0;
  return bytes > 2 ** 20 ? `${(bytes / 2 ** 20).toFixed(1)} MB` : `${Math.ceil(bytes / 1024)} kB`;
});
const length = computed(() => {
  const whole = Math.round(along.duration);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
});
const percent = computed({
  get: () => Math.round(level.value * 100),
  set: (value: number) => (level.value = value / 100),
});
</script>

<template>
  <div class="file">
    <h3>Heard together</h3>
    <label for="along-level">The recording</label>
    <Slider
      v-model="percent"
      input-id="along-level"
      :min="0"
      :max="100"
      aria-label="The recording"
    />
    <div class="row">
      <ToggleButton
        v-model="click"
        size="small"
        on-label="click on its beats"
        off-label="click on its beats"
        :disabled="!along.map"
      />
      <ToggleButton
        v-model="part"
        size="small"
        on-label="the song’s own sound"
        off-label="the song’s own sound"
        :disabled="!along.map"
      />
    </div>
    <p class="quiet">
      Not too loud: over headphones a recording that is turned up to drown the strings can hurt the
      ears. If they ring afterwards, turn it down and rest.
    </p>
    <h3>The file</h3>
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
  display: grid;
  gap: 0.7rem;
  align-content: start;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
}
</style>
