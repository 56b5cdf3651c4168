<script setup lang="ts">
import Button from 'primevue/button';
import Select from 'primevue/select';
import type { ArmSchool, Division } from '#core';

/** The strokes as buttons, for pointer and touch: each presses its key on the path. */
defineProps<{ beat: number; division: Division; school: ArmSchool }>();
const emit = defineEmits<{ press: [key: string]; school: [school: ArmSchool] }>();

const tools = [
  { label: 'Down', icon: 'pi pi-arrow-down', key: 'ArrowDown' },
  { label: 'Up', icon: 'pi pi-arrow-up', key: 'ArrowUp' },
  { label: 'Miss', icon: 'pi pi-ellipsis-h', key: 'm' },
  { label: 'Chuck', icon: 'pi pi-hashtag', key: 'c' },
  { label: 'Bass', icon: 'pi pi-circle-fill', key: 'b' },
  { label: 'Hold', icon: 'pi pi-minus', key: 'h' },
  { label: 'Accent', icon: 'pi pi-chevron-up', key: 'a' },
];

const divisions: { label: string; value: Division }[] = [
  { label: 'beat whole', value: 1 },
  { label: 'in 2', value: 2 },
  { label: 'in 3', value: 3 },
  { label: 'in 4', value: 4 },
];

const schools: { label: string; value: ArmSchool }[] = [
  { label: 'down and up in turn', value: 'alternate' },
  { label: 'each beat from a down', value: 'restart' },
  { label: 'all downs', value: 'all-downs' },
  { label: 'free', value: 'free' },
];
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
    <Select
      :model-value="division"
      :options="divisions"
      option-label="label"
      option-value="value"
      :aria-label="`Beat ${beat + 1} divided`"
      @update:model-value="(value: Division) => emit('press', String(value))"
    />
    <span id="school-label" class="label">Arm</span>
    <Select
      :model-value="school"
      :options="schools"
      option-label="label"
      option-value="value"
      aria-labelledby="school-label"
      @update:model-value="(value: ArmSchool) => emit('school', value)"
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
</style>
