<script setup lang="ts">
import { computed } from 'vue';
import {
  type BassSchool,
  describeBass,
  describeStrings,
  holdChord,
  INSTRUMENTS,
  type InstrumentId,
  parseChord,
} from '#core';
import ChordDiagram from './ChordDiagram.vue';

/** Takes just what it depends on, so that an edit elsewhere does not draw it again. */
const props = defineProps<{
  symbol: string;
  instrument: InstrumentId;
  capo: number;
  bassSchool: BassSchool;
  live?: boolean;
  small?: boolean;
}>();

const neck = computed(() => INSTRUMENTS[props.instrument]);
const held = computed(() =>
  holdChord(props.symbol, {
    instrument: props.instrument,
    capo: props.capo,
    bassSchool: props.bassSchool,
  }),
);
const chord = computed(() => parseChord(props.symbol));
</script>

<template>
  <article class="card" :class="{ live, small }">
    <h3>{{ symbol }}</h3>
    <template v-if="held">
      <ChordDiagram :held="held" :instrument="instrument" class="drawing" />
      <dl>
        <div>
          <dt>Strum</dt>
          <dd>{{ describeStrings(neck, held.shape) }}</dd>
        </div>
        <div>
          <dt><span class="dot" aria-hidden="true" />Bass</dt>
          <dd>{{ describeBass(neck, held.bass) }}</dd>
        </div>
        <div v-if="!small">
          <dt>Notes</dt>
          <dd>{{ chord?.noteNames.join(' ') }}</dd>
        </div>
      </dl>
    </template>
    <p v-else class="missing">
      {{
        chord
          ? `We have no ${neck.name.toLowerCase()} shape for this chord, so it stays silent.`
          : 'Not a chord we know, so it stays silent. Mend it in the line on the Song station.'
      }}
    </p>
  </article>
</template>

<style scoped>
.card {
  display: grid;
  grid-template-columns: auto 1fr;
  grid-template-rows: auto 1fr;
  column-gap: 0.8rem;
  align-items: start;
  background: var(--paper-raised);
  border-radius: var(--radius);
  padding: 0.9rem 0.8rem;
  border-left: 4px solid transparent;
}

.card.live {
  border-left-color: var(--brass);
}

h3 {
  font-size: 1.5rem;
  grid-column: 2;
}

.drawing {
  grid-column: 1;
  grid-row: 1 / span 2;
  width: 7.4rem;
}

dl {
  margin: 0.4rem 0 0;
  display: grid;
  gap: 0.35rem;
}

dt {
  font-size: 0.85rem;
  color: var(--ink-soft);
}

dd {
  margin: 0;
  line-height: 1.25;
}

.dot {
  display: inline-block;
  width: 0.6rem;
  height: 0.6rem;
  border-radius: 50%;
  background: var(--brass);
  margin-right: 0.35rem;
}

.missing {
  grid-column: 1 / -1;
  color: var(--coral);
}

.small {
  padding: 0.5rem 0.8rem;
}

.small h3 {
  font-size: 1.3rem;
}

.small .drawing {
  width: 6rem;
}

.small dl {
  gap: 0.1rem;
  font-size: 0.95rem;
}

.small dl div {
  display: flex;
  gap: 0.5rem;
}

.small dt {
  min-width: 3.2rem;
}
</style>
