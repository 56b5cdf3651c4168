<script setup lang="ts">
import Button from 'primevue/button';
import { computed, ref, shallowRef } from 'vue';
import { messageOf, plural } from '#core/plain';
import {
  CSV_FIELDS,
  type CsvField,
  type CsvTable,
  guessColumns,
  readRows,
  readTable,
} from '#core/log';
import ChooseFile from '../../fields/ChooseFile.vue';
import ChooseOne from '../../fields/ChooseOne.vue';
import { useLogStore } from '../../stores/log';
import ArchivePanel from './ArchivePanel.vue';

/** The log as a file, and rows from a file of the player's own. */
const log = useLogStore();
const table = shallowRef<CsvTable | null>(null);
const columns = ref<Partial<Record<CsvField, number>>>({});
const told = ref<string | null>(null);
const LARGEST = 10 * 2 ** 20;

async function read(file: File): Promise<void> {
  table.value = null;
  told.value = null;
  if (file.size > LARGEST) {
    told.value = 'This file is larger than 10 MB.';
    return;
  }
  try {
    table.value = readTable(await file.text());
    columns.value = guessColumns(table.value.header);
  } catch (error) {
    told.value = messageOf(error);
  }
}
const NAMES: Record<CsvField, string> = {
  date: 'Date',
  song: 'Song',
  tempo: 'Tempo',
  minutes: 'Minutes',
  went: 'How it went',
  note: 'Note',
};
const NONE = -1;
const choices = computed(() => [
  { label: 'none', value: NONE },
  ...(table.value?.header ?? []).map((label, value) => ({
    label: label || `column ${value + 1}`,
    value,
  })),
]);
const choose = (field: CsvField, at: number) => {
  const { [field]: _, ...rest } = columns.value;
  columns.value = at === NONE ? rest : { ...rest, [field]: at };
};
const found = computed(() => table.value && readRows(table.value, columns.value));
const SHOWN = 8;

async function take(): Promise<void> {
  if (!found.value) return;
  const made = await log.addMany(found.value.entries);
  if (!made) return;
  told.value = `${plural(made.added, 'row')} added${made.known > 0 ? `; ${made.known} were in the log already` : ''}.`;
  table.value = null;
}
</script>

<template>
  <section aria-label="Files of the log">
    <h2>Out</h2>
    <div class="row">
      <a class="p-button p-button-outlined" :href="log.fileUrl('export.csv')" download="log.csv"
        >CSV, for a spreadsheet</a
      >
      <a class="p-button p-button-outlined" :href="log.fileUrl('export.json')" download="log.json"
        >JSON, everything</a
      >
    </div>
    <p class="quiet">The rows that are shown by the settings above, all of their pages.</p>
    <h2>In</h2>
    <ChooseFile label="Choose a CSV file" accept=".csv,text/csv" @file="read" />
    <p class="quiet">One written by hand will do: a date, a song, a tempo, minutes.</p>
    <template v-if="table && found">
      <div class="columns">
        <template v-for="field in CSV_FIELDS" :key="field">
          <span :id="`column-${field}`">{{ NAMES[field] }}</span>
          <ChooseOne
            :model-value="columns[field] ?? NONE"
            :options="choices"
            :aria-labelledby="`column-${field}`"
            @update:model-value="(at: number) => choose(field, at)"
          />
        </template>
      </div>
      <template v-if="found.problems.length > 0">
        <p role="alert" class="trouble">
          Nothing is added while {{ plural(found.problems.length, 'line') }} cannot be read:
        </p>
        <ul>
          <li v-for="problem in found.problems.slice(0, SHOWN)" :key="problem.line">
            line {{ problem.line }}: {{ problem.message }}
          </li>
          <li v-if="found.problems.length > SHOWN">and {{ found.problems.length - SHOWN }} more</li>
        </ul>
      </template>
      <Button
        v-else
        :label="`Add ${plural(found.entries.length, 'row')}`"
        icon="pi pi-check"
        @click="take"
      />
    </template>
    <p v-if="told" role="status">{{ told }}</p>
    <ArchivePanel />
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.6rem;
  justify-items: start;
}

h2 {
  font-size: 1.05rem;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

.columns {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0.4rem 0.8rem;
  align-items: center;
}

.trouble {
  border-left: 4px solid var(--coral);
  padding-left: 0.6rem;
}

a.p-button {
  text-decoration: none;
}
</style>
