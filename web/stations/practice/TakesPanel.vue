<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import { rungName, type TakeSummary } from '#core';
import { usePlayerStore } from '../../stores/player';
import { usePracticeStore } from '../../stores/practice';
import { useTakesStore } from '../../stores/takes';

/** The takes of this song that were judged, newest first. */
const takes = useTakesStore();
const practice = usePracticeStore();
const player = usePlayerStore();
const when = new Intl.DateTimeFormat('en', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
});
const SOURCES = {
  microphone: 'microphone',
  file: 'sound file',
  taps: 'taps',
  midi: 'MIDI',
  example: 'example player',
} as const;
async function look(take: TakeSummary): Promise<void> {
  practice.go({
    rung: take.rung ?? 'song',
    tempo: take.tempo,
    loop:
      take.from === 1 && take.to >= player.bars.length ? null : { from: take.from, to: take.to },
  });
  await takes.open(take.id);
}
const rows = computed(() =>
  takes.list.map((take) => ({ ...take, day: when.format(new Date(take.madeAt)) })),
);
</script>

<template>
  <section class="takes" aria-label="Takes">
    <p v-if="rows.length === 0" class="quiet">
      No take yet. Each one that is judged is listed here; its sound is kept only where you say so.
    </p>
    <ul>
      <li v-for="take in rows" :key="take.id" :class="{ shown: take.id === takes.shown?.id }">
        <button type="button" :aria-label="`Look at the take of ${take.day}`" @click="look(take)">
          <strong
            >{{ take.trouble === 'clean' ? 'clean' : take.trouble }} at {{ take.tempo }}</strong
          >
          <span class="quiet"
            >{{ take.day }}, {{ rungName(take.rung ?? 'song').toLowerCase() }}, bars
            {{ take.from }} to {{ take.to }}, {{ SOURCES[take.source]
            }}{{
              take.soundBytes === undefined
                ? ''
                : `, sound of ${(take.soundBytes / 1e6).toFixed(1)} MB`
            }}</span
          >
          <span>{{ take.sentence }}</span>
        </button>
        <Button
          icon="pi pi-times"
          text
          rounded
          size="small"
          :aria-label="`Delete the take of ${take.day}`"
          @click="takes.remove(take.id)"
        />
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.4rem;
}

li {
  display: flex;
  align-items: start;
  background: var(--paper-raised);
  border-radius: var(--radius);
}

li.shown {
  box-shadow: 0 0 0 2px var(--spruce);
}

li > button:first-child {
  flex: 1;
  display: grid;
  gap: 0.1rem;
  border: 0;
  background: none;
  color: inherit;
  padding: 0.5rem 0.7rem;
  text-align: left;
  cursor: pointer;
}
</style>
