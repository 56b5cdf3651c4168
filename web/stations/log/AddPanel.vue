<script setup lang="ts">
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import ChooseOne from '../../fields/ChooseOne.vue';
import FormRow from '../../fields/FormRow.vue';
import { useLogStore } from '../../stores/log';

/** A row for what was done away from the screen, or a note. */
const log = useLogStore();
const kind = ref<'practice' | 'note'>('practice');
const kinds = [
  { label: 'Practice', value: 'practice' },
  { label: 'A note', value: 'note' },
];
/** An empty choice would be shown as none. */
const NONE = 'none';
const song = ref(NONE);
const songs = computed(() => [
  { label: 'no song', value: NONE },
  ...log.songs.map(({ id, title }) => ({ label: title, value: id })),
]);
const minutes = ref<number | null>(20);
const text = ref('');
/** The moment as a date field has it, in the player's own clock. */
const local = (date: Date) =>
  new Date(date.getTime() - date.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
const at = ref(local(new Date()));
const said = ref('');
const ready = computed(() =>
  kind.value === 'note' ? text.value.trim() !== '' : (minutes.value ?? 0) > 0,
);

async function add(): Promise<void> {
  const date = new Date(at.value);
  const added = await log.add({
    kind: kind.value,
    ...(Number.isFinite(date.getTime()) && { madeAt: date.toISOString() }),
    ...(song.value !== NONE && { songId: song.value }),
    ...(kind.value === 'practice' && { seconds: (minutes.value ?? 0) * 60 }),
    ...(text.value.trim() !== '' && { text: text.value.trim() }),
  });
  if (!added) return;
  said.value = 'It is in the log.';
  text.value = '';
}
</script>

<template>
  <form aria-label="Add a row" @submit.prevent="add">
    <ChooseBeside v-model="kind" :options="kinds" aria-label="What" size="small" />
    <FormRow label="When" for="at">
      <InputText id="at" v-model="at" type="datetime-local" />
    </FormRow>
    <FormRow v-if="kind === 'practice'" label="Minutes" for="minutes">
      <InputNumber v-model="minutes" input-id="minutes" :min="1" :max="1440" show-buttons />
    </FormRow>
    <FormRow label="Song">
      <ChooseOne v-model="song" :options="songs" aria-label="Song of the row" />
    </FormRow>
    <FormRow label="Note" for="text">
      <InputText
        id="text"
        v-model="text"
        maxlength="2000"
        :placeholder="kind === 'note' ? '' : 'if you like'"
      />
    </FormRow>
    <Button type="submit" label="Add it" icon="pi pi-plus" :disabled="!ready" />
    <p v-if="said" role="status" class="quiet">{{ said }}</p>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 0.3rem;
  justify-items: start;
}
</style>
