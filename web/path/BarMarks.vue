<script setup lang="ts">
/** A place of a bar at which something can be set: what, whether it is so now, and where. */
export interface BarMark {
  id: string;
  tick: number;
  /** In words, for the eye and the ear. */
  label: string;
  /** A letter or two for where there is room for no more. */
  sign: string;
  on: boolean;
}

/** What a bar does at its places, set where it happens: a row of marks under the large path. */
defineProps<{ marks: BarMark[]; left: (tick: number) => string }>();
const emit = defineEmits<{ set: [id: string] }>();
</script>

<template>
  <div class="marks" role="group" aria-label="At the places of this bar">
    <button
      v-for="mark in marks"
      :key="mark.id"
      type="button"
      :class="{ on: mark.on }"
      :style="{ left: left(mark.tick) }"
      :aria-pressed="mark.on"
      :aria-label="mark.label"
      :title="mark.label"
      @click="emit('set', mark.id)"
    >
      {{ mark.sign }}
    </button>
  </div>
</template>

<style scoped>
/* Over the slots of a path that takes strokes. */
.marks {
  position: relative;
  z-index: 1;
  pointer-events: none;
  height: 2rem;
}

button {
  position: absolute;
  pointer-events: auto;
  transform: translateX(-50%);
  min-width: 1.7rem;
  height: 1.7rem;
  padding: 0 0.3rem;
  border: 1px solid var(--string);
  border-radius: 1rem;
  background: none;
  color: var(--ink-soft);
  font: inherit;
  font-size: 0.85rem;
  line-height: 1;
  cursor: pointer;
}

@media (pointer: coarse) {
  .marks {
    height: 2.9rem;
  }

  /* Twelve places of a bar are closer to each other than that. */
  button {
    min-width: 1.9rem;
    height: 2.75rem;
  }
}

button:hover {
  background: var(--brass-soft);
}

button.on {
  border-color: var(--spruce);
  background: var(--spruce);
  color: var(--spruce-ink);
}
</style>
