<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import { modulo } from '#core/plain';
import { type Key, keyName, usesFlats } from '#core/neck';
import ChooseOne from './ChooseOne.vue';

/** Another key for the whole song: a semitone down or up, or to a key by name. */
const props = defineProps<{ now: Key }>();
const emit = defineEmits<{ transpose: [semitones: number, flats: boolean] }>();

const keys = computed(() =>
  Array.from({ length: 12 }, (_, tonic) => {
    const key = { tonic, minor: props.now.minor };
    return { label: keyName(key), value: tonic };
  }),
);
const move = (semitones: number) => {
  const tonic = modulo(props.now.tonic + semitones, 12);
  emit('transpose', semitones, usesFlats({ ...props.now, tonic }));
};
/** The shorter way round. */
function go(tonic: number): void {
  const up = modulo(tonic - props.now.tonic, 12);
  if (up !== 0) move(up > 6 ? up - 12 : up);
}
</script>

<template>
  <div class="transpose" role="group" aria-label="Transpose">
    <span id="transpose-label" class="label">Transpose to</span>
    <ChooseOne
      :model-value="now.tonic"
      :options="keys"
      aria-labelledby="transpose-label"
      @update:model-value="go"
    />
    <Button
      icon="pi pi-minus"
      text
      rounded
      aria-label="A semitone down"
      title="A semitone down"
      @click="move(-1)"
    />
    <Button
      icon="pi pi-plus"
      text
      rounded
      aria-label="A semitone up"
      title="A semitone up"
      @click="move(1)"
    />
  </div>
</template>

<style scoped>
.transpose {
  display: flex;
  align-items: center;
  gap: 0.3rem;
}
</style>
