<script setup lang="ts">
import { messageOf } from '#core/plain';
import Button from 'primevue/button';
import { nextTick, ref, shallowRef, useTemplateRef } from 'vue';
import { type RouteLocationRaw, useRouter } from 'vue-router';
import type { SongIsHere } from './openFile';

/** Opens a song that this app wrote, a take that was sent, or a chart to look through first. */
const router = useRouter();
const input = useTemplateRef<HTMLInputElement>('input');
const trouble = ref<string | null>(null);
const name = ref('');
/** A song of the same title is on the shelf: what is to become of both is asked. */
const here = shallowRef<SongIsHere | null>(null);
const ask = useTemplateRef<HTMLElement>('ask');

defineExpose({ open: () => input.value?.click() });

async function read(event: Event): Promise<void> {
  const field = event.target as HTMLInputElement;
  const file = field.files?.[0];
  field.value = '';
  if (!file) return;
  here.value = null;
  name.value = file.name;
  // What reads files is fetched with the first of them: the shelf is usable before.
  const { openFile, SongIsHere } = await import('./openFile');
  await go(() =>
    openFile(file).catch(async (error: unknown) => {
      if (!(error instanceof SongIsHere)) throw error;
      here.value = error;
      await nextTick();
      ask.value?.focus();
      return null;
    }),
  );
}

/** Goes to what a file became; what is wrong with it is said here. */
async function go(opened: () => Promise<RouteLocationRaw | null>): Promise<void> {
  trouble.value = null;
  try {
    const way = await opened();
    if (way) await router.push(way);
  } catch (error) {
    const why = messageOf(error);
    trouble.value = `“${name.value}” was not opened: ${why} Nothing was changed.`;
  }
}
async function answer(how: 'replace' | 'both'): Promise<void> {
  const song = here.value;
  here.value = null;
  if (!song) return;
  const { keepBoth, replaceSong } = await import('./openFile');
  await go(() => (how === 'both' ? keepBoth(song) : replaceSong(song)));
}
</script>

<template>
  <div class="open-file">
    <Button label="Open a file" icon="pi pi-folder-open" outlined @click="input?.click()" />
    <input
      ref="input"
      type="file"
      class="heard-only"
      tabindex="-1"
      accept=".json,.cho,.chordpro,.chopro,.crd,.pro,.txt,.mid,.midi,.musicxml,.mxl,.xml,.zip,application/zip,text/plain,application/json,audio/midi"
      aria-label="A song or a chart to open"
      @change="read"
    />
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <div
      v-if="here"
      ref="ask"
      class="ask"
      role="group"
      tabindex="-1"
      aria-label="A song of this title is on the shelf"
      @keydown.esc="here = null"
    >
      <p>{{ here.message }}</p>
      <Button label="Keep both" size="small" @click="answer('both')" />
      <Button
        label="Replace the one on the shelf"
        severity="secondary"
        size="small"
        @click="answer('replace')"
      />
      <Button label="Cancel" text size="small" @click="here = null" />
    </div>
  </div>
</template>

<style scoped>
.open-file {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: flex-end;
  gap: 0.8rem;
}

.ask {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
}

.ask p {
  margin: 0;
}

.trouble {
  color: var(--coral);
  font-weight: 600;
}
</style>
