<script setup lang="ts">
/** What a form seldom needs, folded away under what it is about. */
defineProps<{ about: string; open?: boolean }>();
</script>

<template>
  <details class="more" :open="open">
    <summary>More: {{ about }}</summary>
    <div class="rows"><slot /></div>
  </details>
</template>

<style scoped>
.more {
  border-top: 1px solid var(--line);
}

summary {
  color: var(--ink-soft);
  cursor: pointer;
  padding: 0.6rem 0;
  min-height: 2.75rem;
}

.rows {
  display: grid;
  gap: 0.4rem;
}
</style>
