<script setup lang="ts">
import Button from 'primevue/button';
import { ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';

/** Opens a song that this app wrote, a take that was sent, or a chart to look through first. */
const router = useRouter();
const input = useTemplateRef<HTMLInputElement>('input');
const trouble = ref<string | null>(null);

async function read(event: Event): Promise<void> {
  const field = event.target as HTMLInputElement;
  const file = field.files?.[0];
  field.value = '';
  if (!file) return;
  trouble.value = null;
  try {
    // What reads files is fetched with the first of them: the shelf is usable before.
    const { openFile } = await import('./openFile');
    await router.push(await openFile(file));
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    trouble.value = `“${file.name}” was not opened: ${why} Nothing was changed.`;
  }
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
      accept=".json,.cho,.chordpro,.chopro,.crd,.pro,.txt,.mid,.midi,.musicxml,.xml,.zip,application/zip,text/plain,application/json,audio/midi"
      aria-label="A song or a chart to open"
      @change="read"
    />
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
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

.trouble {
  color: var(--coral);
  font-weight: 600;
}
</style>
