<script setup lang="ts">
import Button from 'primevue/button';
import ChooseOne from '../../fields/ChooseOne.vue';
import { type Division, DIVISIONS } from '#core/schema';

/** The strokes as buttons, for pointer and touch: each presses its key on the path. */
defineProps<{ beat: number; division: Division }>();
const emit = defineEmits<{ press: [key: string] }>();

const tools = [
  { label: 'Down', icon: 'pi pi-arrow-down', key: 'ArrowDown' },
  { label: 'Up', icon: 'pi pi-arrow-up', key: 'ArrowUp' },
  { label: 'Miss', icon: 'pi pi-ellipsis-h', key: 'm' },
  { label: 'Hold', icon: 'pi pi-minus', key: 'h' },
  { label: 'Chuck', icon: 'pi pi-hashtag', key: 'c' },
  { label: 'Bass', icon: 'pi pi-circle-fill', key: 'b' },
  { label: 'Pick', icon: 'pi pi-circle', key: 'p' },
  { label: 'Roll', icon: 'pi pi-align-justify', key: 'r' },
  { label: 'Tap', icon: 'pi pi-bullseye', key: 't' },
  { label: 'Legato', icon: 'pi pi-link', key: 'g' },
];

const divisions = DIVISIONS.map((value) => ({
  label: value === 1 ? 'beat whole' : `in ${value}`,
  value,
}));
</script>

<template>
  <div class="tools" role="group" aria-label="Strokes">
    <Button
      v-for="tool in tools"
      :key="tool.label"
      v-memo="[]"
      :label="tool.label"
      :icon="tool.icon"
      severity="secondary"
      @click="emit('press', tool.key)"
    />
    <ChooseOne
      :model-value="division"
      :options="divisions"
      :aria-label="`Beat ${beat + 1} divided`"
      @update:model-value="(value: Division) => emit('press', String(value))"
    />
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
}

@media (max-width: 40rem) {
  .tools {
    gap: 0.3rem;
  }

  .tools :deep(.p-button) {
    padding: 0.5rem 0.6rem;
    min-height: 2.75rem;
  }
}
</style>
