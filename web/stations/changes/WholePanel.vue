<script setup lang="ts">
import { computed } from 'vue';
import { plural } from '#core/plain';
import type { Song } from '#core/schema';
import { fingerWord } from '#core/neck';
import type { SongHand } from '#core/hand';
import { useHandStore } from '../../stores/hand';

/** What goes through the whole song: fingers that stay, fingers that no stroke needs, and the hand itself. */
const props = defineProps<{ song: Song; found: SongHand }>();
const hand = useHandStore();

const list = (fingers: number[]) => new Intl.ListFormat('en').format(fingers.map(fingerWord));
const idle = computed(() =>
  props.found.idle.map(
    ({ symbol, fingers }) =>
      `${symbol}: ${list(fingers)} ${fingers.length > 1 ? 'are optional fingers' : 'is an optional finger'}: no stroke reaches ${fingers.length > 1 ? 'their strings' : 'its string'}.`,
  ),
);
const measured = computed(() => props.found.changes.filter((change) => change.measured).length);
</script>

<template>
  <section class="whole" aria-label="Through the song">
    <h2>Fingers that stay</h2>
    <ul v-if="found.anchors.length > 0">
      <li v-for="anchor in found.anchors" :key="anchor">{{ anchor }}</li>
    </ul>
    <p v-else class="quiet">No finger stays through three chords in a row.</p>
    <h2>Fingers that may stay off</h2>
    <ul v-if="idle.length > 0">
      <li v-for="line in idle" :key="line">{{ line }}</li>
    </ul>
    <p v-else class="quiet">The pattern strikes every string that a finger holds.</p>
    <template v-if="found.unknown.length > 0">
      <h2>Not measured</h2>
      <ul>
        <li v-for="chord in found.unknown" :key="chord.symbol">
          {{ chord.symbol }}: {{ chord.why }}.
        </li>
      </ul>
    </template>
    <h2>Your hand</h2>
    <p>
      {{
        hand.timings.length === 0
          ? 'Estimated: no change was timed on these strings yet. Time a few, and what follows is yours.'
          : `${plural(hand.timings.length, 'timing')} on ${song.instrument.name}; ${plural(measured, 'change')} of this song measured, the others scaled to your hand.`
      }}
    </p>
    <p class="quiet">
      Times and tempos are estimates, no prescription. A teacher sees more than a table; a clinician
      helps with pain that stays.
    </p>
  </section>
</template>

<style scoped>
.whole {
  display: grid;
  gap: 0.5rem;
}

h2 {
  font-size: 1.1rem;
}

ul {
  margin: 0;
  padding-left: 1.1rem;
}
</style>
