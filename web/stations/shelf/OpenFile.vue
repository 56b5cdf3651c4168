<script setup lang="ts">
import Button from 'primevue/button';
import { ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import { type ChartAnswer, foreignFile, readChart, songSchema } from '#core';
import { api } from '../../remote/client';
import { useIncomingStore } from '../../stores/incoming';
import { openSentTake } from '../../remote/sentTake';
import { readForeign } from '../../workers/readers';

/** Opens a song that this app wrote (JSON), or a chart (ChordPro, chords over words) to look through first. */
const router = useRouter();
const incoming = useIncomingStore();
const input = useTemplateRef<HTMLInputElement>('input');
const trouble = ref<string | null>(null);
const MOST_BYTES = 10_000_000;
const MOST_BYTES_OF_TAKE = 120_000_000;
const OPENS =
  'A song of this app (JSON), ChordPro, MusicXML, ABC, MIDI files, and charts of chords over words can be opened.';

async function read(event: Event): Promise<void> {
  const field = event.target as HTMLInputElement;
  const file = field.files?.[0];
  field.value = '';
  if (!file) return;
  trouble.value = null;
  try {
    const start = new TextDecoder('latin1').decode(await file.slice(0, 2000).arrayBuffer());
    const most = start.startsWith('PK') ? MOST_BYTES_OF_TAKE : MOST_BYTES;
    if (file.size > most) throw new Error(`it is larger than ${most / 1_000_000} MB.`);
    if (start.startsWith('PK')) return void (await router.push(await openSentTake(file)));
    const foreign = foreignFile(start);
    if (foreign) throw new Error(`it is ${foreign}. ${OPENS}`);
    if (!/^(MThd|\s*<|%abc|(%[^\n]*\n|\s)*X:\s*\d)/.test(start))
      return await open(await file.text());
    const answer = await readForeign(new Uint8Array(await file.arrayBuffer()));
    if (!answer) throw new Error(`it is no file that can be read. ${OPENS}`);
    await lookThrough(answer);
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    trouble.value = `“${file.name}” was not opened: ${why} Nothing was changed.`;
  }
}

async function open(text: string): Promise<void> {
  if (/^\s*\{\s*"/.test(text)) return openSong(text);
  await lookThrough(readChart(text));
}

/** Puts what was read into the form of a new song, to be looked through. */
async function lookThrough(answer: ChartAnswer): Promise<void> {
  if ('problem' in answer) {
    const { line, column, message } = answer.problem;
    throw new Error(`line ${line}, column ${column}: ${message}`);
  }
  incoming.chart = answer.chart;
  incoming.rule = 'bar';
  await router.push({ name: 'new' });
}

/** Where in a text a JSON reader stopped, from its own words. */
function placeOf(text: string, message: string): string {
  const at = Number(/position (\d+)/.exec(message)?.[1] ?? text.length);
  const before = text.slice(0, at).split('\n');
  return `line ${before.length}, column ${before.at(-1)!.length + 1}`;
}

async function openSong(text: string): Promise<void> {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch (error) {
    throw new Error(`${placeOf(text, String(error))}: this is not whole JSON.`, { cause: error });
  }
  if (typeof raw !== 'object' || raw === null || !('schema' in raw && 'sections' in raw)) {
    throw new Error(`it is JSON of another program. ${OPENS}`);
  }
  const checked = songSchema.safeParse(raw);
  if (!checked.success) {
    const [issue] = checked.error.issues;
    throw new Error(`${issue!.path.join('.') || 'the document'}: ${issue!.message}.`);
  }
  const stored = await api.createSong(checked.data);
  await router.push({ name: 'song', params: { id: stored.id } });
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
