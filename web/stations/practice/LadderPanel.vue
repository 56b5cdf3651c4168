<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import type { RungId } from '#core/schema';
import { commands } from '#core/edit';
import { cleanTempo } from '#core/practice';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import { usePracticeStore } from '../../stores/practice';
import { useSongStore } from '../../stores/song';

/** The ladder at the edge: what is done and how quick, where we are, and what comes next. */
const practice = usePracticeStore();
const songs = useSongStore();

const rows = computed(() => {
  const at = practice.rungs.findIndex(({ id }) => id === practice.rung);
  return practice.rungs
    .map((rung, index) => ({
      ...rung,
      index,
      clean: cleanTempo(practice.taken, rung.id, practice.rules),
      tried: practice.taken.some(({ rung: id }) => id === rung.id),
      here: index === at && !practice.drill,
    }))
    .reverse();
});
const left = computed(() =>
  practice.all.filter(({ id }) => !practice.rungs.some((rung) => rung.id === id)),
);
const hands = [
  { label: 'Both hands', value: 'both' },
  { label: 'Strumming', value: 'strumming' },
  { label: 'Fretting', value: 'fretting' },
];

function keep(rungs: RungId[], name: string): void {
  const usual = practice.all.map(({ id }) => id);
  songs.run(
    commands.setPractice({ rungs: rungs.join() === usual.join() ? undefined : rungs }, name),
  );
}
const ids = computed(() => practice.rungs.map(({ id }) => id));
const leaveOut = (id: RungId) =>
  keep(
    ids.value.filter((one) => one !== id),
    'leave a rung out',
  );
const putIn = (id: RungId) =>
  keep(
    practice.all.map((one) => one.id).filter((one) => one === id || ids.value.includes(one)),
    'put a rung in',
  );
function move(index: number, by: 1 | -1): void {
  const [one, other] = [ids.value[index]!, ids.value[index + by]];
  if (other) keep(ids.value.with(index, other).with(index + by, one), 'move a rung');
}
</script>

<template>
  <section aria-label="Ladder">
    <ChooseBeside v-model="practice.hands" :options="hands" aria-label="Hands" size="small" />
    <ol class="rungs" reversed>
      <li
        v-for="rung in rows"
        :key="rung.id"
        :class="{ here: rung.here, done: rung.clean !== null }"
      >
        <button
          type="button"
          class="rung"
          :aria-current="rung.here ? 'step' : undefined"
          :title="rung.does"
          @click="practice.choose(rung.id)"
        >
          <span class="bar" aria-hidden="true" />
          <span class="name">{{ rung.name }}</span>
          <span class="at">{{
            rung.clean !== null ? `clean at ${rung.clean}` : rung.tried ? 'begun' : ''
          }}</span>
        </button>
        <template v-if="rung.here">
          <Button
            icon="pi pi-arrow-up"
            text
            rounded
            size="small"
            :disabled="rung.index === ids.length - 1"
            :aria-label="`${rung.name}: later`"
            @click="move(rung.index, 1)"
          />
          <Button
            icon="pi pi-arrow-down"
            text
            rounded
            size="small"
            :disabled="rung.index === 0"
            :aria-label="`${rung.name}: earlier`"
            @click="move(rung.index, -1)"
          />
          <Button
            icon="pi pi-times"
            text
            rounded
            size="small"
            :disabled="ids.length === 1"
            :aria-label="`${rung.name}: leave out`"
            @click="leaveOut(rung.id)"
          />
        </template>
      </li>
    </ol>
    <p v-if="practice.now" class="quiet">{{ practice.now.does }}</p>
    <div v-if="left.length > 0" class="left">
      <span class="quiet">Left out:</span>
      <Button
        v-for="rung in left"
        :key="rung.id"
        :label="rung.name"
        icon="pi pi-plus"
        size="small"
        text
        @click="putIn(rung.id)"
      />
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.6rem;
  justify-items: start;
}

.rungs {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
  display: grid;
  gap: 0.15rem;
}

li {
  display: flex;
  align-items: center;
}

.rung {
  flex: 1;
  min-width: 0;
  display: grid;
  grid-template-columns: 3.2rem 1fr auto;
  align-items: center;
  gap: 0.7rem;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  padding: 0.22rem 0.2rem;
  cursor: pointer;
  border-radius: var(--radius);
}

.rung:hover {
  background: var(--paper-sunk);
}

/* A rung between two rails: hollow while it is to come, filled when it was clean. */
.bar {
  height: 0.7rem;
  border: 2px solid var(--string);
  border-radius: 0.35rem;
  box-shadow:
    -5px 0 0 -2px var(--string),
    5px 0 0 -2px var(--string);
}

.done .bar {
  background: var(--spruce);
  border-color: var(--spruce);
}

.here .bar {
  border-color: var(--brass);
  border-width: 3px;
}

.here .name {
  font-weight: 700;
}

.at {
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}

.left {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
}
</style>
