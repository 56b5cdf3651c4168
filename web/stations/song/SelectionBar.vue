<script setup lang="ts">
import { plural } from '#core/plain';
import Button from 'primevue/button';
import { computed } from 'vue';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import { useClipStore } from '../../stores/clip';
import { useViewStore } from '../../stores/view';
import type { useBarSelection } from './barSelection';

/** Above the rows: how close one looks, and what can be done with the chosen bars. */
const props = defineProps<{ selection: ReturnType<typeof useBarSelection> }>();
const view = useViewStore();
const clip = useClipStore();

const distances = [
  { label: '4 in a row', value: 4 },
  { label: '8 in a row', value: 8 },
];
const count = computed(() => props.selection.chosen.value.length);
const held = computed(() => clip.bars.length);
</script>

<template>
  <div class="selection" role="toolbar" aria-label="Chosen bars">
    <ChooseBeside
      v-model="view.barsInRow"
      class="distance"
      size="small"
      :options="distances"
      aria-label="Bars in a row"
    />
    <span class="label" role="status">{{ plural(count, 'bar') }} chosen</span>
    <Button size="small" text label="Loop these" title="L" @click="selection.loop()" />
    <Button size="small" text label="Copy" title="Ctrl C" @click="selection.copy()" />
    <Button size="small" text label="Cut" title="Ctrl X" @click="selection.cut()" />
    <template v-if="held > 0">
      <Button
        size="small"
        text
        :label="`Paste ${held} before`"
        title="Ctrl V"
        @click="selection.paste()"
      />
      <Button size="small" text label="Paste over" @click="selection.pasteOver()" />
    </template>
    <Button size="small" text label="Repeat" title="Ctrl D" @click="selection.repeat()" />
    <Button size="small" text label="Delete" title="Delete" @click="selection.takeOut()" />
  </div>
</template>

<style scoped>
.selection {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.1rem 0.35rem;
}

.label {
  margin-left: 0.6rem;
}

/* On a phone two in a row are what there is room for, and what is done with them is one row. */
@media (max-width: 40rem) {
  .distance {
    display: none;
  }

  .selection {
    gap: 0;
  }

  .label {
    flex-basis: 100%;
    margin-left: 0.3rem;
  }

  .selection :deep(.p-button) {
    padding-inline: 0.45rem;
  }
}
</style>
