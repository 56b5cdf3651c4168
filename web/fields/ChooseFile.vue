<script setup lang="ts">
/** A button that lets a file be chosen from this machine; the same one may be chosen again. */
withDefaults(
  defineProps<{
    label: string;
    accept: string;
    look?: 'full' | 'outlined' | 'text';
  }>(),
  { look: 'full' },
);
const emit = defineEmits<{ file: [file: File] }>();

function choose(event: Event): void {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (file) emit('file', file);
}
</script>

<template>
  <label class="file p-button" :class="look === 'full' ? '' : `p-button-${look}`">
    {{ label }}
    <input type="file" :accept="accept" class="heard-only" @change="choose" />
  </label>
</template>

<style scoped>
.file {
  cursor: pointer;
}

.file:focus-within {
  outline: 3px solid var(--brass);
  outline-offset: 2px;
}
</style>
