<script setup lang="ts">
/** Stands at the end of a row that scrolls sideways: a fade over what does not fit, and a press that goes on. */
defineProps<{ shown: boolean; label: string }>();
const emit = defineEmits<{ press: [] }>();
</script>

<template>
  <!-- For the pointer: with keys and by ear all of the row is reached anyway. -->
  <span v-if="shown" class="more" aria-hidden="true">
    <button type="button" tabindex="-1" :title="label" @click="emit('press')">
      <i class="pi pi-angle-right" />
    </button>
  </span>
</template>

<style scoped>
.more {
  position: absolute;
  inset: 0 0 0 auto;
  display: flex;
  align-items: center;
  padding-left: 2rem;
  pointer-events: none;
  background: linear-gradient(to right, transparent, var(--behind, var(--paper)) 60%);
}

button {
  pointer-events: auto;
  min-width: 2.75rem;
  min-height: 2.75rem;
  border: 0;
  background: none;
  color: var(--ink);
  cursor: pointer;
}
</style>
