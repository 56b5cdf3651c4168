<script setup lang="ts">
import Button from 'primevue/button';
import Menu from 'primevue/menu';
import { computed, ref } from 'vue';
import type { SectionRules } from '#core/schema';
import { barCommands, rhythmCommands } from '#core/edit';
import { useClipStore } from '../../stores/clip';
import { useSongStore } from '../../stores/song';
import LoudnessWedge from './LoudnessWedge.vue';

/** The name of a section over its bars, and what can be done with the whole of it. */
const props = defineProps<{ index: number; name: string; rules: SectionRules }>();
const songs = useSongStore();
const clip = useClipStore();
const menu = ref<InstanceType<typeof Menu>>();

function loud(changed: Pick<SectionRules, 'level' | 'build'>): void {
  songs.run(rhythmCommands.setSectionRules(props.index, changed));
}

const title = computed(() => props.name || 'The song');
function copy(): void {
  clip.section = songs.song?.sections[props.index] ?? null;
}
const items = computed(() => [
  { label: 'Copy the section', icon: 'pi pi-copy', command: copy },
  {
    label: 'Duplicate section',
    icon: 'pi pi-clone',
    command: () => {
      const section = songs.song?.sections[props.index];
      if (section) songs.run(barCommands.insertSection(props.index, section));
    },
  },
  {
    label: clip.section
      ? `Paste “${clip.section.name || 'a section'}” after it`
      : 'Nothing to paste',
    icon: 'pi pi-file-import',
    disabled: clip.section === null,
    command: () => {
      if (clip.section) songs.run(barCommands.insertSection(props.index, clip.section));
    },
  },
  {
    label: 'Delete section',
    icon: 'pi pi-trash',
    command: () => songs.run(barCommands.removeSection(props.index)),
  },
]);
</script>

<template>
  <div class="head" :data-section="index">
    <h2>{{ title }}</h2>
    <Button
      icon="pi pi-ellipsis-h"
      text
      rounded
      size="small"
      :aria-label="`With ${title}`"
      aria-haspopup="true"
      @click="menu?.toggle($event)"
    />
    <Menu ref="menu" :model="items" popup />
    <LoudnessWedge :rules="rules" :name="title" @set="loud" />
  </div>
</template>

<style scoped>
.head :deep(.p-button) {
  padding: 0;
  width: 1.7rem;
  height: 1.5rem;
}

.head {
  display: flex;
  align-items: center;
  gap: 0.3rem;
}

@media (pointer: coarse) {
  .head :deep(.p-button) {
    width: 2.75rem;
    height: 2.75rem;
  }

  .head {
    gap: 0.7rem;
  }
}

h2 {
  font-size: 1.05rem;
}
</style>
