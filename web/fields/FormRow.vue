<script setup lang="ts">
import { useId, useTemplateRef } from 'vue';

/**
 * A row of a tool's form: its label in the column of labels, its control in the one of controls, both edges aligned.
 * A control takes its name from the label by the id that the slot gives, or says a longer one itself.
 */
defineProps<{
  label: string;
  /** The id of the control, where it is a field that a label can point at. */
  for?: string;
}>();
const id = useId();
/** Its name is as good as the control itself: a switch switches, anything else takes the focus. */
const control = useTemplateRef('control');
function press(): void {
  const first = control.value?.querySelector<HTMLElement>('[role=switch], [role=combobox], input');
  if (first?.role === 'switch') first.click();
  else first?.focus();
}
</script>

<template>
  <div class="form-row">
    <label v-if="$props.for" :id="id" :for="$props.for" class="name">{{ label }}</label>
    <span v-else :id="id" class="name" @click="press">{{ label }}</span>
    <div ref="control" class="control"><slot :label-id="id" /></div>
  </div>
</template>

<style scoped>
.form-row {
  display: grid;
  grid-template-columns: var(--form-labels, 6.4rem) minmax(0, 1fr);
  gap: 0.3rem 0.7rem;
  align-items: center;
  width: 100%;
  min-height: 2.75rem;
}

.name {
  color: var(--ink-soft);
  overflow-wrap: anywhere;
}

.name::first-letter {
  text-transform: uppercase;
}

.control {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem 0.5rem;
}

.control > :deep(.p-select),
.control > :deep(.p-selectbutton),
.control > :deep(.p-inputtext) {
  flex: 1 1 auto;
  min-width: 0;
}

.control > :deep(.p-inputnumber:not(.tiny)) {
  flex: 1 1 8rem;
  min-width: 0;
  max-width: 11rem;
}

.control > :deep(.p-inputnumber:not(.tiny) input) {
  width: 100%;
}

.control > :deep(.p-select) {
  flex-basis: 8rem;
}

.control > :deep(.p-selectbutton) {
  background: color-mix(in srgb, var(--ink) 8%, transparent);
  border-radius: var(--radius);
}

.control > :deep(.p-selectbutton .p-togglebutton) {
  background: transparent;
  /* Softer ink is too faint on this ground. */
  color: var(--ink);
  flex: 1 1 auto;
  padding-inline: 0.15rem;
}

.control > :deep(.p-selectbutton .p-togglebutton-content) {
  padding-inline: 0.4rem;
}

.control > :deep(.rhythm) {
  flex: 1;
}

.control :deep(.rhythm .p-select) {
  flex: 1;
  max-width: none;
}
</style>
