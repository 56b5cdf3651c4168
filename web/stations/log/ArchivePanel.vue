<script setup lang="ts">
import Button from 'primevue/button';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, ref, shallowRef } from 'vue';
import { messageOf, plural } from '#core/plain';
import type { ArchiveLook } from '#core/schema';
import ChooseFile from '../../fields/ChooseFile.vue';
import { api } from '../../remote/client';
import { download } from '../../shell/download';
import { DRAFTS } from '../../stores/drafts';
import { useLogStore } from '../../stores/log';
import { UNSENT } from '../../stores/unsent';
import { text } from './text';

/** Songs, patterns, log and settings as one file that a person can keep, and back from it. */
const log = useLogStore();
const file = shallowRef<File | null>(null);
const look = shallowRef<ArchiveLook | null>(null);
const newer = ref(false);
const withSettings = ref(false);
const withRecordings = ref(false);
const told = ref<string | null>(null);
const busy = ref(false);
const PREFIX = 'plucky-wrist:';
/** How the app is set up, and not what waits in this browser for the server. */
const isSetting = (name: string) =>
  name.startsWith(PREFIX) && !name.startsWith(DRAFTS) && name !== UNSENT;

async function tried(work: () => Promise<void>): Promise<void> {
  busy.value = true;
  told.value = null;
  try {
    await work();
  } catch (error) {
    told.value = messageOf(error);
  } finally {
    busy.value = false;
  }
}
const save = () =>
  tried(async () => {
    const settings = Object.fromEntries(
      Object.entries(localStorage).filter(
        ([name, value]) => isSetting(name) && String(value).length <= 4000,
      ) as [string, string][],
    );
    const day = new Date().toISOString().slice(0, 10);
    const archive = await api.makeArchive(settings, withRecordings.value);
    download(archive, 'application/zip', { title: `Plucky Wrist ${day}`, ending: 'zip' });
  });

async function choose(chosen: File): Promise<void> {
  look.value = null;
  file.value = chosen;
  await tried(async () => {
    look.value = await api.lookIntoArchive(chosen);
  });
}
const take = () =>
  tried(async () => {
    if (!file.value || !look.value) return;
    await api.importArchive(file.value, newer.value);
    if (withSettings.value) {
      for (const [name, value] of Object.entries(look.value.settings)) {
        if (isSetting(name)) localStorage.setItem(name, value);
      }
    }
    look.value = null;
    told.value = 'It is all here.';
    await Promise.all([log.load(), log.loadPlan()]);
  });

const KINDS = [
  ['songs', 'song'],
  ['patterns', 'pattern'],
  ['rows', 'row of the log'],
  ['takes', 'take'],
  ['timings', 'timed change'],
  ['instruments', 'instrument'],
  ['recordings', 'recording'],
] as const;
const brings = computed(() => {
  const found = look.value;
  if (!found) return [];
  return KINDS.map(([kind, word]) => {
    const { fresh, same } = found[kind];
    const words =
      word === 'row of the log' ? plural(fresh, word, 'rows of the log') : plural(fresh, word);
    return `${words} to take in, ${same} known`;
  });
});
const newers = computed(() => look.value?.differing.filter((one) => one.newer) ?? []);
const SHOWN = 6;
</script>

<template>
  <section aria-label="Everything as one file">
    <h2>Everything</h2>
    <p class="quiet">
      Songs, patterns, log and settings in one ZIP file, to be kept somewhere safe.
    </p>
    <label class="row">
      <ToggleSwitch v-model="withRecordings" /> with the recordings, which are large
    </label>
    <div class="row">
      <Button
        label="Save an archive"
        icon="pi pi-download"
        outlined
        :loading="busy"
        @click="save"
      />
      <ChooseFile
        label="Bring one in"
        accept=".zip,application/zip"
        look="outlined"
        @file="choose"
      />
    </div>
    <template v-if="look">
      <ul>
        <li v-for="line in brings" :key="line">{{ line }}</li>
        <li v-for="one in look.differing.slice(0, SHOWN)" :key="one.name">
          {{ text.differs(one.name, one.newer) }}
        </li>
        <li v-for="one in look.problems.slice(0, SHOWN)" :key="one.file">
          {{ one.file }} cannot be read: {{ one.message }}
        </li>
      </ul>
      <label v-if="newers.length > 0" class="row">
        <ToggleSwitch v-model="newer" /> take what is newer in the archive
      </label>
      <label v-if="Object.keys(look.settings).length > 0" class="row">
        <ToggleSwitch v-model="withSettings" /> set the app up as it was
      </label>
      <Button label="Bring it in" icon="pi pi-check" :loading="busy" @click="take" />
    </template>
    <p v-if="told" role="status">{{ told }}</p>
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
  align-items: center;
  gap: 0.5rem;
}

ul {
  margin: 0;
  padding-left: 1.1rem;
}
</style>
