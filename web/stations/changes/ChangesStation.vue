<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { Song } from '#core/schema';
import { secondsPerTick } from '#core/time';
import { changeDrill } from '#core/practice';
import StationFrame from '../../frame/StationFrame.vue';
import { useOpenTool } from '../../frame/openTool';
import { useHandStore } from '../../stores/hand';
import { usePlayerStore } from '../../stores/player';
import { usePracticeStore } from '../../stores/practice';
import { useSongStore } from '../../stores/song';
import AdvicePanel from './AdvicePanel.vue';
import CeilingChart from './CeilingChart.vue';
import LandingStrip from './LandingStrip.vue';
import ShufflePanel from './ShufflePanel.vue';
import TimePanel from './TimePanel.vue';
import WholePanel from './WholePanel.vue';

const songs = useSongStore();
const player = usePlayerStore();
const hand = useHandStore();
const practice = usePracticeStore();
const router = useRouter();
/** Pulses a minute below which nobody practises. */
const SLOWEST = 30;
const song = computed<Song>(() => songs.song!);
const found = computed(() => hand.found);

const TOOLS = ['advice', 'time', 'order', 'whole'] as const;
type Panel = (typeof TOOLS)[number];
const panel = useOpenTool<Panel>(() => TOOLS);
const panels: { label: string; value: Panel }[] = [
  { label: 'What helps', value: 'advice' },
  { label: 'Time it', value: 'time' },
  { label: 'Random order', value: 'order' },
  { label: 'Through the song', value: 'whole' },
];

/** The change that is looked at, by its name: it keeps its place as the song is edited. */
const picked = ref<string | null>(null);
const changes = computed(() => found.value?.changes ?? []);
const chosen = computed(
  () =>
    changes.value.find(({ from, to }) => `${from} ${to}` === picked.value) ??
    changes.value[0] ??
    null,
);

/** The first one that is shown stays the one that is looked at, also when another comes to hold the song. */
watch(
  changes,
  ([first]) => {
    if (first && (picked.value === null || !chosen.value))
      picked.value = `${first.from} ${first.to}`;
  },
  { immediate: true },
);

const answer = computed(() => {
  if (hand.trouble) return 'The changes could not be worked out; the next edit tries again.';
  return found.value?.sentence ?? 'Working out what your hand has time for…';
});

/** Seconds at which the new chord lands, swing included. */
const landing = computed(() => {
  const tick = chosen.value?.tick ?? 0;
  const late = player.performance?.landings.find((one) => one.tick === tick)?.late ?? 0;
  return (tick + late) * secondsPerTick(song.value.tempo, song.value.meter);
});

/** As high as its rows, where they are few. */
const listHeight = computed(() => `${changes.value.length * 30 + 4}px`);

const BARS_SHOWN = 8;
const places = computed(() => [...new Set(chosen.value?.bars ?? [])].slice(0, BARS_SHOWN));

/** The change to and fro on the Practice station, at a tempo at which there is time for it. */
function practise(): void {
  const { from, to, ceiling } = chosen.value!;
  const { pattern, tempo } = song.value;
  practice.asked = {
    song: changeDrill(song.value, pattern, [from, to]),
    tempo: Math.max(SLOWEST, Math.min(tempo, Math.floor(ceiling ?? tempo))),
  };
  void router.push({ name: 'practice', params: { id: songs.id } });
}

/** Goes to a bar of the change and plays it round and round, with the bar before it. */
function loop(bar: number): void {
  player.stop();
  const last = bar - 1;
  const first = Math.max(0, last - 1);
  player.selectedBar = first;
  player.looping = true;
  player.loopBars = { first, last };
  void player.play();
}
</script>

<template>
  <StationFrame v-model:tool="panel" :answer="answer" :tools="panels" work="Changes">
    <template v-if="changes.length > 0 && chosen">
      <div class="list">
        <CeilingChart
          :changes="changes"
          :tempo="song.tempo"
          :chosen="chosen"
          @choose="picked = `${$event.from} ${$event.to}`"
        />
      </div>
      <p class="quiet key">
        Each bar ends at the tempo up to which that change works; the dashed line is the song’s
        {{ song.tempo }}.
      </p>
      <section class="one" :aria-label="`${chosen.from} to ${chosen.to}`">
        <div class="title">
          <h2>{{ chosen.sentence }}</h2>
          <p class="places">
            <span v-if="chosen.measured" class="measured">timed</span>
            <button type="button" @click="practise">practise it</button>
            <button
              v-for="bar in places"
              :key="bar"
              type="button"
              :aria-label="`Loop bar ${bar}`"
              :title="`Play round the change in bar ${bar}`"
              @click="loop(bar)"
            >
              bar {{ bar }}
            </button>
          </p>
        </div>
        <LandingStrip
          :change="chosen"
          :instrument="song.instrument"
          :strikes="player.performance?.strikes ?? []"
          :landing="landing"
        />
      </section>
    </template>
    <p v-else-if="found" class="quiet">
      A song of two chords or more has changes: write them on the Song station.
    </p>

    <template #tool>
      <AdvicePanel
        v-if="panel === 'advice' && chosen"
        :key="`${chosen.from} ${chosen.to}`"
        :song="song"
        :change="chosen"
        :behind="hand.behind"
      />
      <TimePanel v-else-if="panel === 'time'" :song="song" :change="chosen" />
      <ShufflePanel v-else-if="panel === 'order'" :song="song" />
      <WholePanel v-else-if="panel === 'whole' && found" :song="song" :found="found" />
    </template>
  </StationFrame>
</template>

<style scoped>
.list {
  height: 15.2rem;
  max-height: v-bind(listHeight);
  overflow: auto;
  scrollbar-width: thin;
  flex: none;
}

.key {
  font-size: 0.9rem;
}

.one {
  display: grid;
  gap: 0.5rem;
  padding-top: 0.5rem;
  border-top: 1px solid var(--line);
}

.title {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: baseline;
  gap: 0.3rem 1rem;
}

h2 {
  font-size: 1.15rem;
}

.places {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
}

.places button {
  border: 0;
  border-radius: 1rem;
  padding: 0.15rem 0.7rem;
  background: var(--paper-sunk);
  color: inherit;
  cursor: pointer;
}

.measured {
  color: var(--brass-ink);
  font-weight: 650;
}
</style>
