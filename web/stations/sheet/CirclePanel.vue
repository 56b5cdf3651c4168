<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, nextTick, ref } from 'vue';
import { plural } from '#core/plain';
import { INSTRUMENT_IDS, INSTRUMENTS } from '#core/neck';
import type { SheetWish } from '#core/sheet';
import ChooseOne from '../../fields/ChooseOne.vue';
import FormRow from '../../fields/FormRow.vue';
import { useViewStore } from '../../stores/view';
import {
  another,
  MAX_READERS,
  BARS_AS,
  OWN,
  type Reader,
  readReaders,
  READS,
  sayReader,
  wishOf,
} from './readers';

/** Everyone in the circle, each with a sheet of their own, all in one file. */
const props = defineProps<{ wish: SheetWish; busy: boolean }>();
const emit = defineEmits<{ save: [wishes: SheetWish[]] }>();
const view = useViewStore();
const readers = computed<Reader[]>(() => readReaders(view.circle));
const set = (list: Reader[]) => (view.circle = list);
const change = (index: number, part: Partial<Reader>) =>
  set(readers.value.map((one, at) => (at === index ? { ...one, ...part } : one)));

const INSTRUMENT_CHOICES = [
  { label: 'as the song is', value: OWN },
  ...INSTRUMENT_IDS.map((value) => ({ label: INSTRUMENTS[value].name, value })),
];
const list = ref<HTMLElement | null>(null);
const opened = ref(-1);
async function add(): Promise<void> {
  set([...readers.value, another(readers.value)]);
  opened.value = readers.value.length - 1;
  await nextTick();
  list.value?.querySelector<HTMLInputElement>('li:last-child input')?.select();
}
async function remove(index: number): Promise<void> {
  set(readers.value.filter((_, at) => at !== index));
  opened.value = -1;
  await nextTick();
  const rows = list.value?.querySelectorAll<HTMLElement>('summary');
  rows?.[Math.min(index, rows.length - 1)]?.focus();
}
function toggled(index: number, event: Event): void {
  const { open } = event.target as HTMLDetailsElement;
  if (open) opened.value = index;
  else if (opened.value === index) opened.value = -1;
}
const save = () =>
  emit(
    'save',
    readers.value.map((reader) => wishOf(reader, props.wish)),
  );
</script>

<template>
  <section class="tool" aria-label="Everyone’s sheets">
    <p>
      People or places: each gets a sheet of this song, all in one file. The list is kept for every
      song; paper is as chosen under For whom.
    </p>
    <div class="row">
      <Button
        :label="`Save ${plural(readers.length, 'sheet')}`"
        icon="pi pi-file-pdf"
        :disabled="readers.length === 0"
        :loading="busy"
        @click="save"
      />
      <Button
        label="Add a reader"
        icon="pi pi-plus"
        outlined
        :disabled="readers.length >= MAX_READERS"
        @click="add"
      />
    </div>
    <ol ref="list" aria-label="Who is in the circle">
      <li v-for="(reader, index) in readers" :key="index">
        <details :open="opened === index" @toggle="toggled(index, $event)">
          <summary>
            <span class="name">{{ reader.name || `reader ${index + 1}` }}</span>
            <span class="quiet">{{ sayReader(reader) }}</span>
          </summary>
          <div class="form">
            <FormRow label="Name" :for="`reader-${index}`">
              <InputText
                :id="`reader-${index}`"
                :model-value="reader.name"
                maxlength="40"
                @update:model-value="change(index, { name: $event ?? '' })"
              />
            </FormRow>
            <FormRow v-slot="{ labelId }" label="For">
              <ChooseOne
                :model-value="reader.audience"
                :options="READS"
                :aria-labelledby="labelId"
                @update:model-value="change(index, { audience: $event })"
              />
            </FormRow>
            <FormRow v-slot="{ labelId }" label="Instrument">
              <ChooseOne
                :model-value="reader.instrument"
                :options="INSTRUMENT_CHOICES"
                :aria-labelledby="labelId"
                @update:model-value="change(index, { instrument: $event })"
              />
            </FormRow>
            <FormRow v-if="reader.audience !== 'singer'" v-slot="{ labelId }" label="Show bars as">
              <ChooseOne
                :model-value="reader.notation"
                :options="BARS_AS"
                :aria-labelledby="labelId"
                @update:model-value="change(index, { notation: $event })"
              />
            </FormRow>
            <FormRow label="Large print" :for="`large-${index}`">
              <ToggleSwitch
                :input-id="`large-${index}`"
                :model-value="reader.large"
                @update:model-value="change(index, { large: $event })"
              />
            </FormRow>
            <FormRow label="Left-handed" :for="`left-${index}`">
              <ToggleSwitch
                :input-id="`left-${index}`"
                :model-value="reader.leftHanded"
                @update:model-value="change(index, { leftHanded: $event })"
              />
            </FormRow>
            <Button
              class="away"
              :label="`Take ${reader.name || 'this reader'} off the list`"
              icon="pi pi-trash"
              size="small"
              text
              @click="remove(index)"
            />
          </div>
        </details>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.tool {
  display: grid;
  gap: 0.6rem;
  justify-items: start;
}

ol {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
}

li {
  border-bottom: 1px solid var(--line);
}

summary {
  display: grid;
  padding: 0.5rem 0;
  min-height: 2.75rem;
  cursor: pointer;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
}

.name {
  font-weight: 650;
}

.form {
  display: grid;
  gap: 0.3rem;
  padding-bottom: 0.8rem;
}

.away {
  justify-self: start;
}
</style>
