<script setup lang="ts">
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import InputText from 'primevue/inputtext';
import { ref } from 'vue';
import { type Entry, type SaidTrouble, saidTroubleSchema } from '#core/schema';
import { rungName } from '#core/practice';
import { troubleWord } from '#core/log';
import ChooseOne from '../../fields/ChooseOne.vue';
import { useLogStore } from '../../stores/log';

/** The rows of the log, the newest first: put right, taken out, put back. */
const log = useLogStore();
const when = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
});
const SOURCES: Record<string, string> = {
  microphone: 'heard',
  file: 'sound file',
  taps: 'tapped',
  midi: 'MIDI',
  example: 'example',
  word: 'own word',
  'by hand': 'by hand',
};
const KINDS: Record<Entry['kind'], string> = {
  take: 'take',
  change: 'timed change',
  wrist: 'wrist test',
  practice: 'practice',
  note: 'note',
};

/** What a row says, besides its date. */
function says(entry: Entry): string {
  const { kind, tempo, trouble, rung, from, to, whole, change, median, seconds, text } = entry;
  const parts: (string | null | false)[] = [];
  if (kind === 'take') {
    parts.push(
      `${trouble ? troubleWord(trouble) : 'taken'} at ${tempo}`,
      rung && rung !== 'song' && rungName(rung).toLowerCase(),
      !whole && from !== null && `bars ${from} to ${to}`,
      trouble !== 'clean' && change,
    );
  } else if (kind === 'change') {
    parts.push(change, median !== null && `${Math.round(median)} ms`);
  } else if (kind === 'wrist') parts.push(tempo !== null && `${tempo} moves a second`);
  else if (kind === 'practice')
    parts.push(`${Math.round(seconds / 60)} minutes`, tempo !== null && `at ${tempo}`);
  parts.push(text);
  return parts.filter(Boolean).join(', ');
}

const editing = ref<string | null>(null);
const tempo = ref<number | null>(null);
const minutes = ref<number | null>(null);
const trouble = ref<SaidTrouble | ''>('');
const text = ref('');
const troubles = [
  { label: 'not said', value: '' },
  ...saidTroubleSchema.options.map((value) => ({ label: troubleWord(value), value })),
];
function edit(entry: Entry): void {
  editing.value = entry.id;
  tempo.value = entry.tempo;
  minutes.value = Math.round(entry.seconds / 6) / 10;
  trouble.value = entry.trouble ?? '';
  text.value = entry.text ?? '';
}
async function keep(entry: Entry): Promise<void> {
  await log.change(entry.id, {
    tempo: tempo.value,
    seconds: (minutes.value ?? 0) * 60,
    trouble: trouble.value === '' ? null : trouble.value,
    text: text.value.trim() === '' ? null : text.value.trim(),
  });
  editing.value = null;
}
</script>

<template>
  <section aria-label="Rows of the log">
    <p v-if="log.removed" class="removed" role="status">
      A row is deleted.
      <Button label="Put it back" size="small" text @click="log.putBack()" />
    </p>
    <p v-if="log.rows.length === 0" class="quiet">No row.</p>
    <ul v-else>
      <li v-for="entry in log.rows" :key="entry.id">
        <div class="row">
          <span class="when">{{ when.format(new Date(entry.madeAt)) }}</span>
          <span class="song">{{ entry.song || KINDS[entry.kind] }}</span>
          <span class="says">{{ says(entry) }}</span>
          <span class="source">{{ entry.source ? SOURCES[entry.source] : '' }}</span>
          <Button
            icon="pi pi-pencil"
            text
            rounded
            size="small"
            :aria-label="`Edit the row of ${when.format(new Date(entry.madeAt))}`"
            :aria-expanded="editing === entry.id"
            @click="editing === entry.id ? (editing = null) : edit(entry)"
          />
          <Button
            icon="pi pi-times"
            text
            rounded
            size="small"
            :aria-label="`Delete the row of ${when.format(new Date(entry.madeAt))}`"
            @click="log.remove(entry)"
          />
        </div>
        <form v-if="editing === entry.id" class="fields" @submit.prevent="keep(entry)">
          <label>Tempo <InputNumber v-model="tempo" :min="0" :max="400" /></label>
          <label
            >Minutes <InputNumber v-model="minutes" :min="0" :max="1440" :max-fraction-digits="1"
          /></label>
          <ChooseOne v-model="trouble" :options="troubles" aria-label="How it went" />
          <InputText v-model="text" aria-label="Note" placeholder="a note" maxlength="2000" />
          <Button type="submit" label="Keep" size="small" />
        </form>
      </li>
    </ul>
    <Button
      v-if="log.rows.length < log.total"
      :label="`More: ${log.rows.length} of ${log.total} shown`"
      text
      @click="log.more()"
    />
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  border-bottom: 1px solid var(--paper-sunk);
}

.row {
  display: grid;
  grid-template-columns: 8.5rem minmax(8rem, 14rem) minmax(0, 1fr) auto auto auto;
  align-items: center;
  gap: 0 0.8rem;
}

.when,
.source {
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}

.song {
  font-weight: 650;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.fields {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
  padding: 0.4rem 0 0.8rem;
}

.fields label {
  display: flex;
  align-items: center;
  gap: 0.4rem;
}

.fields :deep(.p-inputnumber-input) {
  width: 5rem;
}

@media (max-width: 52rem) {
  .row {
    grid-template-columns: minmax(0, 1fr) auto auto;
  }

  .when {
    grid-column: 1;
  }

  .song,
  .says,
  .source {
    grid-column: 1;
  }

  .row button:nth-last-of-type(2) {
    grid-area: 1 / 2;
  }

  .row button:last-of-type {
    grid-area: 1 / 3;
  }
}
</style>
