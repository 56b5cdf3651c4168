<script setup lang="ts">
import { computed } from 'vue';
import type { Instrument, OwnAlternate } from '#core/schema';
import {
  alternateOf,
  describeAlternate,
  describeBass,
  describeStrings,
  fingerWord,
  type FrettedChord,
  isNoChord,
  parseChord,
} from '#core/neck';
import ChordDiagram from './ChordDiagram.vue';

/** Takes just what it depends on, so that an edit elsewhere does not draw it again. */
const props = defineProps<{
  symbol: string;
  held: FrettedChord | null;
  instrument: Instrument;
  capo: number;
  /** The alternate basses that the player wants. */
  alternates?: OwnAlternate[] | undefined;
  live?: boolean;
  small?: boolean;
  /** What the chord sounds as, where a capo or the tuning makes it another. */
  sounding?: string | null;
  /** Fingers that no stroke of the song needs on this chord. */
  idle?: number[];
}>();

/** Such fingers stand in brackets: they may stay off. */
const inCase = computed(() => {
  const names = (props.idle ?? []).map(fingerWord);
  return names.length > 0 ? `(${new Intl.ListFormat('en').format(names)} optional)` : '';
});

const alternate = computed(() => {
  const { held, instrument, capo, alternates } = props;
  return held && alternateOf(held, { instrument, capo }, alternates);
});
const label = computed(() => {
  const { held, instrument } = props;
  if (!held) return props.symbol;
  const strings = describeStrings(instrument, held.shape);
  return `${held.symbol}: ${strings}; bass on ${describeBass(instrument, held.bass)}`;
});
const missing = computed(() => {
  if (isNoChord(props.symbol)) return 'No chord: the hand damps and the arm goes on.';
  return parseChord(props.symbol)
    ? `We find no shape for it on ${props.instrument.name}, so it stays silent. Draw your own shape, or choose another chord.`
    : 'Not a chord we know, so it stays silent. Mend it in the line on the Song station.';
});
</script>

<template>
  <article class="card" :class="{ live, small, bare: !held }" :aria-current="live || undefined">
    <h2 class="sub">
      {{ symbol }}
      <span v-if="sounding" class="sounding">sounds {{ sounding }}</span>
    </h2>
    <template v-if="held">
      <ChordDiagram
        class="drawing"
        :shape="held.shape"
        :instrument="instrument"
        :bass="held.bass"
        :alternate="small ? null : alternate"
        :label="label"
      />
      <dl>
        <div>
          <dt>Strum</dt>
          <dd>
            {{ describeStrings(instrument, held.shape) }}
            <span v-if="inCase" class="in-case">{{ inCase }}</span>
          </dd>
        </div>
        <div>
          <dt><span class="dot" aria-hidden="true" />Bass</dt>
          <dd>{{ describeBass(instrument, held.bass) }}</dd>
        </div>
        <div v-if="!small && alternate">
          <dt><span class="dot hollow" aria-hidden="true" />Alternate</dt>
          <dd>{{ describeAlternate(instrument, alternate) }}</dd>
        </div>
      </dl>
    </template>
    <p v-else class="missing" :class="{ quiet: isNoChord(symbol) }">{{ missing }}</p>
    <slot />
  </article>
</template>

<style scoped>
.in-case {
  color: var(--ink-soft);
}

.card {
  display: grid;
  grid-template-columns: auto 1fr;
  grid-template-rows: auto 1fr;
  column-gap: 0.8rem;
  align-items: start;
  background: var(--paper-raised);
  border-radius: var(--radius);
  padding: 0.8rem;
  border-left: 4px solid transparent;
}

.card.live {
  border-left-color: var(--brass);
}

h2.sub {
  font-size: 1.5rem;
  grid-column: 2;
}

.bare h2 {
  grid-column: 1 / -1;
}

.sounding {
  font-family: var(--text);
  font-size: 0.9rem;
  font-weight: 400;
  color: var(--ink-soft);
}

.drawing {
  grid-column: 1;
  grid-row: 1 / span 2;
  width: 7rem;
}

dl {
  margin: 0.3rem 0 0;
  display: grid;
  gap: 0.25rem;
}

dt {
  font-size: 0.85rem;
  color: var(--ink-soft);
}

dd {
  margin: 0;
  line-height: 1.2;
}

.dot {
  display: inline-block;
  width: 0.6rem;
  height: 0.6rem;
  border-radius: 50%;
  background: var(--brass);
  border: 2px solid var(--brass);
  margin-right: 0.35rem;
}

.dot.hollow {
  background: none;
}

.missing {
  grid-column: 1 / -1;
  color: var(--coral);
}

.missing.quiet {
  color: var(--ink-soft);
}

.small {
  padding: 0.5rem 0.8rem;
}

.small h2 {
  font-size: 1.3rem;
}

.small .drawing {
  width: 6rem;
  height: 7.2rem;
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
