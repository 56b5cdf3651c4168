<script setup lang="ts">
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { Song } from '#core/schema';
import { barTicks } from '#core/time';
import { shuffleChanges } from '#core/neck';
import { previewSteps } from '#core/arrange';
import { randomChanges } from '#core/practice';
import ChordDiagram from '../../chords/ChordDiagram.vue';
import { useFrettedStore } from '../../stores/fretted';
import { useHandStore } from '../../stores/hand';
import { usePlayerStore } from '../../stores/player';
import { usePracticeStore } from '../../stores/practice';
import { useSongStore } from '../../stores/song';
import { text } from './text';

/** The song's chords in new orders, a bar each, to practise the changes between all of them. */
const props = defineProps<{ song: Song }>();
const player = usePlayerStore();
const heldChords = useFrettedStore();
const hand = useHandStore();
const practice = usePracticeStore();
const songs = useSongStore();
const router = useRouter();
/** No faster than the slowest change of the song. */
const tempo = computed(() =>
  Math.max(20, Math.min(props.song.tempo, Math.floor(hand.found?.ceiling ?? props.song.tempo))),
);

const BARS = 16;
const seed = ref(1);
const held = computed(() => heldChords.chords.flatMap((symbol) => heldChords.of(symbol) ?? []));
const order = computed(() =>
  shuffleChanges(
    held.value.map(({ symbol }) => symbol),
    BARS,
    seed.value,
  ),
);
const bar = computed(() => barTicks(props.song.meter));
const at = computed(() => {
  const now = player.auditionPosition;
  return now && !now.countIn ? Math.floor(now.tick / bar.value) % BARS : 0;
});
const shown = computed(() => {
  const of = (index: number) =>
    held.value.find(({ symbol }) => symbol === order.value[index % BARS]);
  return { now: of(at.value), next: of(at.value + 1) };
});

function play(): void {
  const steps = order.value.flatMap((symbol, index) => {
    const chord = held.value.find((candidate) => candidate.symbol === symbol)!;
    return [
      { tick: index * bar.value, held: chord, note: chord.bass },
      { tick: index * bar.value + bar.value / props.song.meter.beats, held: chord },
    ];
  });
  const round = previewSteps(steps, BARS * bar.value, tempo.value, props.song.meter);
  void player.audition(round, { click: true, loop: true });
}

/** With the song's own pattern on the Practice station, where it is heard and judged. */
function practise(): void {
  const symbols = held.value.map(({ symbol }) => symbol);
  practice.asked = {
    song: randomChanges(props.song, props.song.pattern, symbols, seed.value),
    tempo: tempo.value,
  };
  void router.push({ name: 'practice', params: { id: songs.id } });
}
</script>

<template>
  <section class="shuffle" aria-label="Changes in random order">
    <div class="actions">
      <Button
        :label="player.auditioning ? 'Stop' : 'Play them with the click'"
        :icon="player.auditioning ? 'pi pi-stop' : 'pi pi-play'"
        :disabled="held.length < 2"
        @click="player.auditioning ? player.stop() : play()"
      />
      <Button
        label="Shuffle again"
        icon="pi pi-refresh"
        text
        :disabled="held.length < 2"
        @click="(player.stop(), (seed += 1))"
      />
      <Button
        label="Practise them"
        icon="pi pi-arrow-right"
        text
        :disabled="held.length < 2"
        @click="practise"
      />
    </div>
    <div v-if="shown.now && shown.next" class="big">
      <figure>
        <ChordDiagram
          :shape="shown.now.shape"
          :instrument="song.instrument"
          :bass="shown.now.bass"
          :label="`Now: ${shown.now.symbol}`"
        />
        <figcaption>{{ shown.now.symbol }}</figcaption>
      </figure>
      <figure class="next">
        <ChordDiagram
          :shape="shown.next.shape"
          :instrument="song.instrument"
          :bass="shown.next.bass"
          :label="`Next: ${shown.next.symbol}`"
        />
        <figcaption>next {{ shown.next.symbol }}</figcaption>
      </figure>
    </div>
    <ol>
      <li
        v-for="(symbol, index) in order"
        :key="index"
        :class="{ live: player.auditioning && index === at }"
        :aria-current="player.auditioning && index === at ? 'step' : undefined"
      >
        {{ symbol }}
      </li>
    </ol>
    <p class="quiet">{{ text.tempo(tempo, song.tempo) }}</p>
    <p class="quiet">Stop when the hand, wrist or forearm hurts or tingles. Rest often.</p>
  </section>
</template>

<style scoped>
.shuffle {
  display: grid;
  gap: 0.8rem;
  align-content: start;
}

.big {
  display: flex;
  gap: 1.2rem;
  align-items: end;
}

figure {
  margin: 0;
  width: 10rem;
}

.next {
  width: 7rem;
  opacity: 0.75;
}

figcaption {
  font-family: var(--display);
  font-weight: 700;
  font-size: 1.6rem;
  text-align: center;
}

.next figcaption {
  font-size: 1.1rem;
}

ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 0.9rem;
  font-family: var(--display);
}

.live {
  color: var(--brass-ink);
  font-weight: 700;
}
</style>
