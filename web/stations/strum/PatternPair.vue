<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import type { Pattern } from '#core/schema';
import { describeMeter } from '#core/time';
import { previewPattern } from '#core/arrange';
import WristPath from '../../path/WristPath.vue';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';

/** Two patterns side by side, each to be heard. */
const props = defineProps<{
  patterns: { label: string; pattern: Pattern }[];
  strings: number;
  /** The chord they are heard on. */
  chord: string | null;
}>();

const songs = useSongStore();
const player = usePlayerStore();
const view = useViewStore();

const rows = computed(() =>
  props.patterns.map(({ label, pattern }) => ({
    label,
    pattern,
    says: `${describeMeter(pattern.meter)}, ${pattern.beats.length} beats`,
  })),
);

function hear(pattern: Pattern): void {
  const { song } = songs;
  if (!song) return;
  void player.audition(previewPattern(song, pattern, props.chord), {
    click: true,
    meter: pattern.meter,
  });
}
</script>

<template>
  <div class="pair">
    <figure v-for="row in rows" :key="row.label">
      <figcaption>
        <b>{{ row.label }}</b>
        <span class="quiet">{{ row.says }}</span>
        <Button
          size="small"
          icon="pi pi-play"
          text
          rounded
          :aria-label="`Hear ${row.label}`"
          @click="hear(row.pattern)"
        />
      </figcaption>
      <WristPath
        :pattern="row.pattern"
        :strings="strings"
        size="middle"
        :width="540"
        :flipped="view.bassAtBottom"
      />
    </figure>
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(22rem, 100%), 1fr));
  gap: 1rem;
}

figure {
  margin: 0;
}

figcaption {
  display: flex;
  align-items: center;
  gap: 0.6rem;
}
</style>
