<script setup lang="ts">
import { StorageSerializers, useLocalStorage } from '@vueuse/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import SelectButton from 'primevue/selectbutton';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import {
  type InstrumentId,
  INSTRUMENTS,
  METER_NAMES,
  type MeterName,
  METERS,
  newSong,
  readProgression,
  songChords,
  songSchema,
} from '#core';
import { api } from '../../remote/client';
import BarRows from '../../components/BarRows.vue';
import ProgressionField from '../../components/ProgressionField.vue';

interface Form {
  title: string;
  instrument: InstrumentId;
  meter: MeterName;
  progression: string;
}

/** The form is kept in the browser until the song is made. */
const blank: Form = { title: '', instrument: 'guitar', meter: '4/4', progression: '' };
const form = useLocalStorage<Form>('plucky-wrist:new-song', blank, {
  serializer: StorageSerializers.object,
  mergeDefaults: true,
});
const router = useRouter();
const trouble = ref<string | null>(null);
const making = ref(false);

/** The two that most start with; every other is a choice on the Chords station. */
const instruments = (['guitar', 'ukulele'] as const).map((id) => ({
  id,
  name: INSTRUMENTS[id].name,
}));
const meters = METER_NAMES.map((name) => ({ name }));

const song = computed(() =>
  newSong({
    title: form.value.title.trim() || 'Untitled',
    instrument: form.value.instrument,
    meter: METERS[form.value.meter],
    progression: form.value.progression,
  }),
);
const problems = computed(
  () => readProgression(form.value.progression, METERS[form.value.meter]).problems,
);

const answer = computed(() => {
  const bars = song.value.sections.flatMap((section) => section.lines.flatMap((line) => line.bars));
  if (bars.length === 0) return 'Which chords, and how long does each one last?';
  const chords = songChords(song.value).length;
  return `${bars.length} ${bars.length === 1 ? 'bar' : 'bars'}, ${chords} ${chords === 1 ? 'chord' : 'chords'}.`;
});

async function make(): Promise<void> {
  const checked = songSchema.safeParse(song.value);
  if (!checked.success) {
    trouble.value = `The song cannot be made yet: ${checked.error.issues[0]!.message}.`;
    return;
  }
  making.value = true;
  trouble.value = null;
  try {
    const stored = await api.createSong(checked.data);
    form.value = { ...blank };
    await router.push({ name: 'strum', params: { id: stored.id } });
  } catch (error) {
    trouble.value = `${error instanceof Error ? error.message : String(error)} What you typed is kept here.`;
  } finally {
    making.value = false;
  }
}
</script>

<template>
  <section class="station">
    <h1 class="answer">{{ answer }}</h1>
    <form class="form" @submit.prevent="make">
      <div class="fields">
        <div class="grow">
          <label for="title">Name</label>
          <InputText id="title" v-model="form.title" fluid maxlength="120" autocomplete="off" />
        </div>
        <div>
          <span id="instrument-label" class="name">Instrument</span>
          <SelectButton
            v-model="form.instrument"
            :options="instruments"
            option-label="name"
            option-value="id"
            :allow-empty="false"
            aria-labelledby="instrument-label"
          />
        </div>
        <div>
          <span id="meter-label" class="name">Meter</span>
          <SelectButton
            v-model="form.meter"
            :options="meters"
            option-label="name"
            option-value="name"
            :allow-empty="false"
            aria-labelledby="meter-label"
          />
        </div>
      </div>
      <ProgressionField v-model="form.progression" :problems="problems" />
      <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
      <div class="actions">
        <Button
          type="submit"
          label="Make the song"
          icon="pi pi-arrow-right"
          icon-pos="right"
          :loading="making"
        />
        <span class="quiet">Next you build its strum.</span>
      </div>
    </form>
    <BarRows :song="song" />
  </section>
</template>

<style scoped>
.form {
  display: grid;
  gap: 1rem;
}

.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 1rem 2rem;
}

.fields > div {
  display: grid;
  gap: 0.3rem;
  justify-items: start;
}

.grow {
  flex: 1;
  min-width: min(16rem, 100%);
}

label,
.name {
  font-weight: 600;
}

.actions {
  display: flex;
  align-items: center;
  gap: 1rem;
}

.trouble {
  color: var(--coral);
  font-weight: 600;
}
</style>
