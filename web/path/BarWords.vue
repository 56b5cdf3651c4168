<script setup lang="ts">
import { computed } from 'vue';
import type { SungPiece } from '#core/song';

/** Words under a bar, each as far along as it is sung; where they are crowded they push on. */
const props = defineProps<{
  pieces: SungPiece[];
  /** Where the bar begins, and its length, in ticks. */
  from: number;
  ticks: number;
  /** The place that is heard, in ticks of the song. */
  now?: number | null;
}>();
const parts = computed(() =>
  props.pieces.map(({ tick, text }, index) => {
    const end = props.pieces[index + 1]?.tick ?? props.from + props.ticks;
    const sung = props.now != null && tick <= props.now && props.now < end;
    return { text, share: Math.max(1, end - tick), sung };
  }),
);
const lead = computed(() => (props.pieces[0]?.tick ?? props.from) - props.from);
</script>

<template>
  <span class="words">
    <span v-if="lead > 0" :style="{ flexGrow: lead }" class="lead" />
    <span
      v-for="(part, index) in parts"
      :key="index"
      class="piece"
      :class="{ sung: part.sung }"
      :style="{ flexGrow: part.share }"
      >{{ part.text }}</span
    >
  </span>
</template>

<style scoped>
.words {
  display: flex;
  gap: 0.25em;
  overflow: hidden;
  white-space: nowrap;
  text-align: left;
  /* Half a slot: a word begins where its stroke is. */
  padding-left: 5%;
}

.piece {
  flex-basis: 0;
  min-width: max-content;
}

.lead {
  flex-basis: 0;
  min-width: 0;
}

.sung {
  color: var(--brass-ink);
  font-weight: 650;
}
</style>
