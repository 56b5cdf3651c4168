<script setup lang="ts">
import { computed } from 'vue';
import ChooseFile from '../../fields/ChooseFile.vue';
import { usePlayerStore } from '../../stores/player';

/** Before a song has a recording: what this station is for, in one picture, and the one button that begins it. */
defineEmits<{ file: [file: File] }>();
const player = usePlayerStore();

const WIDTH = 640;
const BEATS = 16;
const MIDDLE = 96;
const beats = Array.from({ length: BEATS }, (_, beat) => beat);
const beatAt = (beat: number) => 20 + (beat * (WIDTH - 40)) / BEATS;
/** A recording as it is drawn: loud on each beat, and dying away. */
const wave = Array.from({ length: BEATS * 10 }, (_, step) => {
  const loud = (step % 10 < 1 ? 44 : 30) * Math.exp(-(step % 10) / 7);
  return { x: beatAt(step / 10), half: Math.max(2, loud * (0.8 + 0.2 * Math.sin(step * step))) };
});
/** The song's own first chords, on the first beat of a bar. */
const flags = computed(() => {
  const own = player.changes.slice(0, 4).map(({ symbol }) => symbol);
  return own.map((symbol, bar) => ({ symbol, x: beatAt(bar * 4) }));
});
</script>

<template>
  <section class="none" aria-label="Bring a recording">
    <svg :viewBox="`0 0 ${WIDTH} 150`" aria-hidden="true">
      <line
        v-for="beat in beats"
        :key="beat"
        :x1="beatAt(beat)"
        :x2="beatAt(beat)"
        :y1="beat % 4 === 0 ? 34 : 46"
        y2="146"
        :class="beat % 4 === 0 ? 'bar' : 'beat'"
      />
      <line
        v-for="{ x, half } in wave"
        :key="x"
        :x1="x"
        :x2="x"
        :y1="MIDDLE - half"
        :y2="MIDDLE + half"
        class="wave"
      />
      <text v-for="{ symbol, x } in flags" :key="x" :x="x" y="24">{{ symbol }}</text>
    </svg>
    <p>
      Its beats are found, your chords stand where they land in it, and you play along: slower, in
      another key, or four bars round and round.
    </p>
    <ChooseFile label="Choose a recording" accept="audio/*" @file="$emit('file', $event)" />
    <p class="quiet">
      A sound file of your own, up to fifteen minutes. It is kept beside the song, on this machine,
      and sent nowhere. Listen at a level at which you could still talk to somebody; ears that ring
      need rest.
    </p>
  </section>
</template>

<style scoped>
.none {
  display: grid;
  gap: 1rem;
  justify-items: start;
  max-width: 44rem;
}

svg {
  width: 100%;
  padding: 0.6rem;
  border: 1px solid var(--line);
  border-radius: var(--radius);
  background: var(--paper-raised);
}

.wave {
  stroke: var(--brass);
  stroke-width: 2;
  stroke-linecap: round;
}

.bar {
  stroke: var(--ink-soft);
}

.beat {
  stroke: var(--string);
}

text {
  font-family: var(--display);
  font-size: 20px;
  font-weight: 700;
  fill: var(--ink);
}
</style>
