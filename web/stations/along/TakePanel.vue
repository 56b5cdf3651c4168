<script setup lang="ts">
import Button from 'primevue/button';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { plural } from '#core/plain';
import type { TakeOnset } from '#core/schema';
import { takeOnMap } from '#core/along';
import { Capture, whyNot } from '../../audio/capture';
import { useTapKeys } from '../../frame/keys';
import { useStagePlay } from '../../frame/stagePlay';
import { useAlongStore } from '../../stores/along';
import { useAlongPlayStore } from '../../stores/alongPlay';
import { useMixerStore } from '../../stores/mixer';
import { useSongStore } from '../../stores/song';
import { useTakesStore } from '../../stores/takes';
import { alongWorker } from '../../workers/along';
import { cloneForWorker } from '../../workers/cloneForWorker';

/** A take along with the recording: judged against its beats, and not against a clock. */
const props = defineProps<{
  /** Seconds by which presses come after what is heard. */
  late: number;
}>();
const play = useAlongPlayStore();
const along = useAlongStore();
const songs = useSongStore();
const takes = useTakesStore();
const mixer = useMixerStore();

const KEYS: Record<string, TakeOnset['direction']> = { f: 'down', j: 'up' };
const way = ref<'taps' | 'microphone' | null>(null);
const taps = shallowRef<TakeOnset[]>([]);
const capture = shallowRef<Capture | null>(null);
const told = ref<string | null>(null);
/** Where the recording would have been as the microphone began. */
let origin = 0;

function tap(direction: TakeOnset['direction']): void {
  const seconds = Math.max(0, play.heardNow() - props.late * play.speed);
  taps.value = [...taps.value, { seconds, direction }];
}
useTapKeys(
  () => way.value === 'taps' && play.playing,
  ({ key }) => {
    if (!(key.toLowerCase() in KEYS)) return false;
    tap(KEYS[key.toLowerCase()]);
    return true;
  },
);

async function begin(how: 'taps' | 'microphone'): Promise<void> {
  told.value = null;
  taps.value = [];
  if (how === 'microphone') {
    try {
      capture.value = await Capture.open(
        { heard: () => {}, lost: () => void end() },
        mixer.microphone,
      );
    } catch (error) {
      told.value = whyNot(error);
      return;
    }
  }
  way.value = how;
  origin = await play.playSince(performance.now());
}

async function end(): Promise<void> {
  const { laid } = along;
  const { song } = songs;
  const how = way.value;
  way.value = null;
  play.pause();
  const open = capture.value;
  capture.value = null;
  if (!laid || !song || !how) return;
  const heard = open
    ? await alongWorker().heard(await open.close(), origin, play.speed)
    : taps.value;
  if (heard.length === 0) {
    told.value = 'Nothing was heard, so there is nothing to judge.';
    return;
  }
  await takes.fromOnsets(takeOnMap(laid, cloneForWorker(heard), song), how);
}
useStagePlay(() =>
  way.value === null
    ? null
    : { label: 'End the take', running: true, heard: play.heard, ownControls: true, toggle: end },
);
/** A recording that is paused, or comes to its end, ends the take. */
watch(
  () => play.playing,
  (plays, before) => {
    if (before && !plays && way.value) void end();
  },
);
onBeforeUnmount(() => {
  way.value = null;
  void capture.value?.close();
});

const verdict = computed(() => takes.latest?.judgement.verdict ?? null);
const places = computed(
  () =>
    takes.latest?.judgement.bySlot.flatMap(({ place, median }) =>
      median === null ? [] : [{ place, ms: Math.round(median) }],
    ) ?? [],
);
const said = (ms: number) =>
  Math.abs(ms) < 5 ? 'on time' : `${Math.abs(ms)} ms ${ms > 0 ? 'late' : 'early'}`;
</script>

<template>
  <div class="take">
    <p v-if="!along.map">First the beats: a take is judged against them.</p>
    <template v-else>
      <p>
        Play along from where the recording stands. With the microphone, the recording belongs in
        headphones only.
      </p>
      <div v-if="way === null" class="row">
        <Button label="Tap a take" severity="secondary" @click="begin('taps')" />
        <Button
          label="Play a take"
          severity="secondary"
          icon="pi pi-microphone"
          @click="begin('microphone')"
        />
      </div>
      <template v-else>
        <p v-if="way === 'taps'" aria-live="polite">
          <kbd>F</kbd> down, <kbd>J</kbd> up: {{ plural(taps.length, 'stroke') }}.
        </p>
        <div v-if="way === 'taps'" class="row">
          <Button label="Down" severity="secondary" @click="tap('down')" />
          <Button label="Up" severity="secondary" @click="tap('up')" />
        </div>
      </template>
      <p v-if="told ?? takes.trouble" role="alert">{{ told ?? takes.trouble }}</p>
      <p v-else-if="takes.judging" role="status">Judging.</p>
      <template v-else-if="verdict && way === null">
        <h2 class="sub">{{ verdict.sentence }}</h2>
        <ul aria-label="Lateness by place">
          <li v-for="{ place, ms } in places" :key="place">{{ place }}: {{ said(ms) }}</li>
        </ul>
        <p class="quiet">It is kept with the takes of Practice.</p>
      </template>
    </template>
  </div>
</template>

<style scoped>
.take {
  display: grid;
  gap: 0.7rem;
  align-content: start;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
}
</style>
