<script lang="ts">
import type { Pattern } from '#core/schema';
import type { Difficulty } from '#core/pattern';

export interface ShelfEntry {
  key: string;
  /** Where it is stored; null for one that comes with the app. */
  id: string | null;
  pattern: Pattern;
  tags: string[];
  /** Sounding strokes a beat. */
  busy: number;
  difficulty: Difficulty;
  strokes: string;
}
</script>

<script setup lang="ts">
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import WristPath from '../../path/WristPath.vue';
import { useViewStore } from '../../stores/view';

/** One pattern of the shelf. */
const props = defineProps<{ entry: ShelfEntry; strings: number }>();
const emit = defineEmits<{ take: []; hear: []; compare: []; remove: [] }>();
const view = useViewStore();

const why = computed(() =>
  props.entry.difficulty.parts.map(({ what, points }) => `${what} (${points})`).join(', '),
);
const sure = ref(false);
function remove(): void {
  if (sure.value) emit('remove');
  sure.value = !sure.value;
}
</script>

<template>
  <li class="shelf-row">
    <WristPath
      :pattern="entry.pattern"
      :strings="strings"
      size="small"
      :flipped="view.bassAtBottom"
    />
    <div>
      <p class="name">{{ entry.pattern.name }}</p>
      <p class="quiet">{{ entry.tags.join(' · ') }}</p>
      <p class="quiet" :title="why">
        difficulty {{ entry.difficulty.score }}: {{ why }}; {{ entry.busy.toFixed(1) }} a beat
      </p>
      <div class="do">
        <Button
          size="small"
          label="Use"
          :aria-label="`Use ${entry.pattern.name}`"
          @click="emit('take')"
        />
        <Button
          size="small"
          text
          icon="pi pi-play"
          :aria-label="`Hear ${entry.pattern.name}`"
          @click="emit('hear')"
        />
        <Button
          size="small"
          text
          label="Compare"
          :aria-label="`Compare with ${entry.pattern.name}`"
          @click="emit('compare')"
        />
        <Button
          v-if="entry.id"
          size="small"
          text
          severity="danger"
          :label="sure ? 'Really delete it?' : 'Delete'"
          :aria-label="`${sure ? 'Really delete' : 'Delete'} ${entry.pattern.name}`"
          @click="remove"
          @blur="sure = false"
        />
      </div>
    </div>
  </li>
</template>

<style scoped>
.shelf-row {
  display: grid;
  grid-template-columns: 11rem minmax(0, 1fr);
  gap: 0.9rem;
  align-items: start;
}

.name {
  font-weight: 600;
}

.do {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem;
  margin-top: 0.2rem;
}
</style>
