<script setup lang="ts">
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputNumber from 'primevue/inputnumber';
import InputText from 'primevue/inputtext';
import ChooseOne from './ChooseOne.vue';
import ChooseBeside from './ChooseBeside.vue';
import ToggleButton from 'primevue/togglebutton';
import { computed, reactive, ref } from 'vue';
import { type Meter, meterSchema } from '#core/schema';
import { countCycle, describeMeter, METER_NAMES, METERS, sameMeter } from '#core/time';

/** A meter: one of those on offer, or the player's own grouping or count cycle. */
const meter = defineModel<Meter>({ required: true });

const OWN = 'own';
const named = computed(() => METER_NAMES.find((name) => sameMeter(METERS[name], meter.value)));
const options = computed(() => [
  ...METER_NAMES.map((name) => ({ label: describeMeter(METERS[name]), value: name as string })),
  ...(named.value ? [] : [{ label: describeMeter(meter.value), value: 'now' }]),
  { label: 'Another…', value: OWN },
]);
const choice = computed({
  get: () => named.value ?? 'now',
  set: (value: string) => {
    if (value === OWN) open();
    else if (value in METERS) meter.value = METERS[value as keyof typeof METERS];
  },
});

const editing = ref(false);
const problem = ref<string | null>(null);
const kinds = [
  { label: 'Beats in groups', value: 'groups' },
  { label: 'Count cycle', value: 'cycle' },
];
const units = [
  { label: 'quarters', value: 4 },
  { label: 'eighths', value: 8 },
  { label: 'sixteenths', value: 16 },
];
const form = reactive({
  kind: 'groups',
  groups: '2+2+3',
  unit: 8 as Meter['unit'],
  counts: 12,
  first: 1,
  accents: [] as number[],
});

function open(): void {
  const { groups, unit, beats, cycle } = meter.value;
  form.kind = cycle ? 'cycle' : 'groups';
  form.groups = groups.join('+');
  form.unit = unit;
  form.counts = cycle ? beats : 12;
  form.first = cycle?.first ?? 12;
  form.accents = cycle
    ? cycle.accents.map((place) => ((place + cycle.first - 1) % beats) + 1)
    : [12, 3, 6, 8, 10];
  problem.value = null;
  editing.value = true;
}

/** The counts of the cycle in the order in which they come. */
const counts = computed(() =>
  Array.from({ length: form.counts }, (_, place) => ((place + form.first - 1) % form.counts) + 1),
);

function accent(count: number, on: boolean): void {
  form.accents = form.accents.filter((other) => other !== count);
  if (on) form.accents.push(count);
}

function made(): unknown {
  if (form.kind === 'cycle') {
    const within = form.accents.filter((count) => count <= form.counts);
    return countCycle(form.counts, within, Math.min(form.first, form.counts));
  }
  const groups = form.groups
    .split(/[^\d]+/)
    .filter(Boolean)
    .map(Number);
  return { beats: groups.reduce((sum, size) => sum + size, 0), unit: form.unit, groups };
}

function take(): void {
  const checked = meterSchema.safeParse(made());
  if (!checked.success) {
    problem.value = 'A bar has 1 to 16 beats, in groups like 2+2+3. Nothing was changed.';
    return;
  }
  meter.value = checked.data;
  editing.value = false;
}
</script>

<template>
  <div class="meter">
    <label id="meter-label">Meter</label>
    <ChooseOne
      :key="String(editing)"
      v-model="choice"
      aria-labelledby="meter-label"
      :options="options"
    />
    <Dialog v-model:visible="editing" modal header="Another meter">
      <form class="form" @submit.prevent="take">
        <ChooseBeside v-model="form.kind" :options="kinds" aria-label="Kind of meter" />
        <template v-if="form.kind === 'groups'">
          <label for="meter-groups">Groups of beats in a bar</label>
          <InputText id="meter-groups" v-model="form.groups" maxlength="40" autocomplete="off" />
          <span id="meter-unit">Beats are</span>
          <ChooseOne v-model="form.unit" aria-labelledby="meter-unit" :options="units" />
        </template>
        <template v-else>
          <div class="pair">
            <label for="cycle-counts">Counts in the cycle</label>
            <InputNumber
              v-model="form.counts"
              input-id="cycle-counts"
              :min="2"
              :max="16"
              show-buttons
              :allow-empty="false"
            />
            <label for="cycle-first">It begins on the count of</label>
            <InputNumber
              v-model="form.first"
              input-id="cycle-first"
              :min="1"
              :max="form.counts"
              show-buttons
              :allow-empty="false"
            />
          </div>
          <span id="cycle-accents">Accents on</span>
          <div class="accents" role="group" aria-labelledby="cycle-accents">
            <ToggleButton
              v-for="count in counts"
              :key="count"
              :model-value="form.accents.includes(count)"
              :on-label="String(count)"
              :off-label="String(count)"
              :aria-label="`Accent on ${count}`"
              @update:model-value="(on: boolean) => accent(count, on)"
            />
          </div>
        </template>
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <div class="actions">
          <Button type="button" label="Cancel" text @click="editing = false" />
          <Button type="submit" label="Use this meter" />
        </div>
      </form>
    </Dialog>
  </div>
</template>

<style scoped>
.meter {
  display: flex;
  align-items: center;
  gap: 0.5rem;
}

.meter > :deep(.p-select) {
  max-width: 13rem;
}

.form {
  display: grid;
  gap: 0.5rem;
  min-width: min(28rem, 80vw);
}

.pair {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
  gap: 0.5rem;
}

.accents {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem;
}

.problem {
  color: var(--coral);
  font-weight: 600;
}

.actions {
  display: flex;
  justify-content: flex-end;
  gap: 0.5rem;
  margin-top: 0.6rem;
}
</style>
