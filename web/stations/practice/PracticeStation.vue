<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import { commands, plural, secondsPerTick, type Song } from '#core';
import StationFrame from '../../frame/StationFrame.vue';
import { useOpenTool } from '../../frame/openTool';
import { useHandStore } from '../../stores/hand';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import { useTakesStore } from '../../stores/takes';
import ListenPanel from './ListenPanel.vue';
import SlotChart from './SlotChart.vue';
import TakeBars from './TakeBars.vue';
import TakesPanel from './TakesPanel.vue';

const songs = useSongStore();
const player = usePlayerStore();
const hand = useHandStore();
const takes = useTakesStore();
const song = computed<Song>(() => songs.song!);

const TOOLS = ['listen', 'takes'] as const;
type Panel = (typeof TOOLS)[number];
const panel = useOpenTool<Panel>(() => TOOLS);
const panels: { label: string; value: Panel }[] = [
  { label: 'Listen', value: 'listen' },
  { label: 'Takes', value: 'takes' },
];

const shown = computed(() => takes.shown);
const answer = computed(() => {
  if (shown.value) return shown.value.judgement.verdict.sentence;
  if (player.bars.length === 0) return 'No bars yet: write the progression on the Song station.';
  const { from, to } = takes.part;
  const ceiling = hand.found?.ceiling ?? null;
  const held =
    ceiling !== null && ceiling < song.value.tempo
      ? `; your hand can do ${Math.floor(ceiling)}`
      : '';
  return `Play bars ${from} to ${to} at ${song.value.tempo}${held}. It listens and says what happened.`;
});

const advice = computed(() => {
  const verdict = shown.value?.judgement.verdict;
  if (!verdict || verdict.trouble === 'unjudged') return null;
  const by = { up: 'Go up to', stay: 'Stay at', down: 'Go down to' } as const;
  return { ...verdict, label: `${by[verdict.advice]} ${verdict.tempo}` };
});
const HANDS = {
  strumming: 'strumming hand',
  fretting: 'fretting hand',
  both: 'both hands',
} as const;
const facts = computed(() => {
  const take = shown.value;
  if (!take || take.judgement.strokes.length === 0) return '';
  const { strokes, missed, added, drift, lag, verdict } = take.judgement;
  const sure = verdict.sure > 0.8 ? 'sure' : verdict.sure > 0.55 ? 'fairly sure' : 'not sure';
  return [
    `${plural(strokes.length, 'stroke')} heard, ${missed.length} missed, ${added.length} added`,
    `tempo ${drift >= 0 ? '+' : ''}${drift.toFixed(1)} % at the end`,
    ...(Math.abs(lag) >= 5
      ? [
          `${Math.round(Math.abs(lag))} ms ${lag > 0 ? 'behind' : 'before'} the count-in throughout, taken off`,
        ]
      : []),
    ...(verdict.hand ? [HANDS[verdict.hand]] : []),
    sure,
  ].join(' · ');
});

function follow(): void {
  if (!advice.value) return;
  songs.run(commands.setTempo(advice.value.tempo));
}
function loopPlace(): void {
  const loop = advice.value?.loop;
  if (!loop) return;
  player.looping = true;
  player.loopBars = { first: loop.from - 1, last: loop.to - 1 };
  player.selectedBar = loop.from - 1;
}
const perTick = computed(() =>
  secondsPerTick(shown.value?.tempo ?? song.value.tempo, song.value.meter),
);
const changes = computed(() =>
  [...(shown.value?.judgement.byChange ?? [])]
    .sort((a, b) => (b.median ?? 0) - (a.median ?? 0))
    .slice(0, 6),
);
/** A take of a song that was changed since lies on bars that are no more. */
const fits = computed(() => (shown.value ? shown.value.to <= player.bars.length : false));

function hear(bar: number): void {
  player.selectedBar = bar;
  player.stop();
  void player.play();
}
</script>

<template>
  <StationFrame v-model:tool="panel" :answer="answer" :tools="panels" work="Take">
    <template v-if="shown">
      <div v-if="advice" class="advice">
        <Button
          :label="advice.label"
          :icon="
            advice.advice === 'up'
              ? 'pi pi-arrow-up'
              : advice.advice === 'down'
                ? 'pi pi-arrow-down'
                : 'pi pi-equals'
          "
          :disabled="advice.tempo === song.tempo"
          @click="follow"
        />
        <Button
          v-if="advice.loop"
          :label="`Loop bars ${advice.loop.from} to ${advice.loop.to}`"
          icon="pi pi-replay"
          outlined
          @click="loopPlace"
        />
        <span class="quiet">{{ facts }}</span>
      </div>
      <p v-if="shown.source === 'example'" class="example">A made-up player, as an example.</p>
      <template v-if="shown.judgement.strokes.length > 0 && fits">
        <TakeBars
          class="take"
          :bars="player.bars"
          :strikes="player.performance?.strikes ?? []"
          :judgement="shown.judgement"
          :per-tick="perTick"
          :first="shown.from - 1"
          :last="shown.to - 1"
          :live="player.heard ? (player.bar?.index ?? null) : null"
          @choose="hear"
        />
        <p class="quiet">
          Broad: what was meant. Thin: what was played. Hollow: missed. A dotted ring: added.
        </p>
        <div class="below">
          <SlotChart :judgement="shown.judgement" />
          <section v-if="changes.length > 0" aria-label="Changes in this take">
            <h2>Landings, the latest first</h2>
            <ul>
              <li v-for="change in changes" :key="`${change.from} ${change.to}`">
                {{ change.from }} to {{ change.to }}:
                {{
                  change.median === null
                    ? 'not heard'
                    : `${Math.round(Math.abs(change.median))} ms ${change.median >= 0 ? 'late' : 'early'}`
                }}{{
                  change.chordLate > 0 ? `, the old chord ${plural(change.chordLate, 'time')}` : ''
                }}
              </li>
            </ul>
          </section>
        </div>
      </template>
    </template>
    <div v-else class="first">
      <p>
        Play along with the click, tap it, or give it a sound file. You are told which strokes came
        early or late, which landing waited for the chord, and which hand it is.
      </p>
      <p class="quiet">To see how that looks, try the example player.</p>
    </div>

    <template #tool>
      <ListenPanel v-if="panel === 'listen'" :song="song" />
      <TakesPanel v-else />
    </template>
  </StationFrame>
</template>

<style scoped>
.advice {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
}

.example {
  font-weight: 650;
  color: var(--brass-ink);
}

/* The chart below stays in sight; the bars scroll alone. */
.take {
  min-height: 10rem;
  max-height: 17rem;
  overflow: auto;
  scrollbar-width: thin;
  padding: 0.15rem;
}

.below {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(12rem, 2fr);
  gap: 1.2rem;
}

h2 {
  font-size: 1rem;
}

ul {
  margin: 0.3rem 0 0;
  padding-left: 1.1rem;
}

.first {
  display: grid;
  gap: 0.5rem;
  max-width: 34rem;
}

@media (max-width: 40rem) {
  .below {
    grid-template-columns: 1fr;
  }
}
</style>
