<script setup lang="ts">
import Button from 'primevue/button';
import ProgressBar from 'primevue/progressbar';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { messageOf, plural } from '#core/plain';
import type { Pattern } from '#core/schema';
import { beatTicks, placeName } from '#core/time';
import { divisions } from '#core/stroke';
import { setLength } from '#core/pattern';
import { commands } from '#core/edit';
import { previewPattern } from '#core/arrange';
import type { Recording } from '#core/take';
import type { PlayedIn } from '#core/along';
import FormRow from '../../fields/FormRow.vue';
import { Capture, whyNot } from '../../audio/capture';
import ChooseFile from '../../fields/ChooseFile.vue';
import WristPath from '../../path/WristPath.vue';
import { useFrettedStore } from '../../stores/fretted';
import { useMixerStore } from '../../stores/mixer';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';
import { earWorker } from '../../workers/ear';
import { cloneForWorker } from '../../workers/cloneForWorker';
import { readSoundFile } from '../../workers/soundFile';

/** The pattern played on the instrument, or from a file, and heard; nothing is taken until it is accepted. */
const props = defineProps<{
  pattern: Pattern;
  strings: number;
  /** The chord that is held while it is played. */
  chord: string | null;
  /** Beats of the pattern that is played. */
  beats: number;
}>();
const songs = useSongStore();
const player = usePlayerStore();
const mixer = useMixerStore();
const fretted = useFrettedStore();
const view = useViewStore();

/** Turns of the pattern that are listened to. */
const TURNS = 4;
/** Seconds before the first beat that are listened to as well: a stroke may come early. */
const EARLY = 0.2;

const capture = shallowRef<Capture | null>(null);
const level = ref(0);
const busy = ref(false);
const told = ref<string | null>(null);
const heard = shallowRef<PlayedIn | null>(null);
/** Where in what was captured the first beat lies, in seconds; null until it has come. */
let began: number | null = null;

const counting = computed(
  () => capture.value !== null && player.auditionPosition?.countIn !== false,
);
watch(counting, (now, before) => {
  if (before && !now && capture.value) began = capture.value.seconds;
});

async function start(): Promise<void> {
  const { song } = songs;
  if (!song) return;
  told.value = null;
  heard.value = null;
  began = null;
  try {
    capture.value = await Capture.open(
      {
        heard: (now) => (level.value = now),
        lost: () => {
          told.value = 'The microphone went away. The pattern is as it was.';
          void close();
        },
      },
      mixer.microphone,
    );
  } catch (error) {
    told.value = whyNot(error, 'A sound file works without one.');
    return;
  }
  const { meter } = props.pattern;
  const silent = {
    ...previewPattern(song, setLength(props.pattern, props.beats), null),
    strikes: [],
    ticks: TURNS * props.beats * beatTicks(meter),
  };
  await player.audition(silent, { countIn: 1, meter });
}
async function close(): Promise<Recording | null> {
  const now = capture.value;
  capture.value = null;
  return now ? now.close() : null;
}
onBeforeUnmount(() => void close());

watch(
  () => player.auditioning,
  async (sounding) => {
    if (sounding || !capture.value) return;
    const recording = await close();
    if (!recording || began === null) return;
    const from = Math.max(0, Math.round((began - EARLY) * recording.sampleRate));
    await listen({ ...recording, samples: recording.samples.slice(from) });
  },
);

async function listen(recording: Recording): Promise<void> {
  const { song } = songs;
  if (!song) return;
  busy.value = true;
  try {
    const chord = props.chord ? fretted.of(props.chord) : null;
    const [base, held] = cloneForWorker([setLength(props.pattern, props.beats), chord] as const);
    heard.value = await earWorker().playIn(recording, song.tempo * mixer.speed, base, held);
    if (!heard.value) told.value = 'Too little was heard. The pattern is as it was.';
  } catch (error) {
    told.value = messageOf(error);
  } finally {
    busy.value = false;
  }
}
async function read(file: File): Promise<void> {
  told.value = null;
  heard.value = null;
  try {
    await listen(await readSoundFile(file));
  } catch (error) {
    told.value = messageOf(error);
  }
}

const summary = computed(() => {
  if (!heard.value) return '';
  const { strokes, bars, tempo, ways } = heard.value;
  const how = ways > 0 ? '' : ' Their ways could not be heard: they go with the arm.';
  return `${plural(strokes, 'stroke')} in ${plural(bars, 'turn')}, at ${Math.round(tempo)}.${how}`;
});
const unsure = computed(() => {
  if (!heard.value) return '';
  const { pattern, unsure: slots } = heard.value;
  const rows = divisions(pattern);
  return slots.map((slot) => placeName(rows, pattern.meter, slot)).join(', ');
});

function hear(): void {
  const { song } = songs;
  if (song && heard.value)
    void player.audition(previewPattern(song, heard.value.pattern, props.chord), { click: true });
}
function take(): void {
  if (heard.value)
    songs.runOnRhythm(commands.takeEdited('play the pattern in', heard.value.pattern));
  told.value = unsure.value
    ? `Used. Look at ${unsure.value}; undo brings back what was there.`
    : 'Used. Undo brings back what was there.';
  heard.value = null;
}
const chordName = computed(() => props.chord ?? 'any chord');
</script>

<template>
  <section class="play-in" aria-label="Play it in">
    <FormRow label="By playing">
      <template v-if="capture">
        <Button label="Stop" icon="pi pi-stop" severity="secondary" @click="player.stop()" />
        <p role="status">{{ counting ? 'Counting in …' : 'Play.' }}</p>
        <ProgressBar
          class="level"
          :value="Math.round(level * 100)"
          :show-value="false"
          aria-label="Level"
        />
      </template>
      <template v-else>
        <Button label="Play it in" icon="pi pi-microphone" :loading="busy" @click="start" />
        <ChooseFile label="From a sound file" accept="audio/*,.wav" look="text" @file="read" />
      </template>
    </FormRow>
    <p class="quiet">
      One bar of clicks, then play it {{ TURNS }} times on {{ chordName }}, from the first beat on.
      A file begins with its first stroke.
    </p>
    <template v-if="heard">
      <p role="status">
        {{ summary }} <template v-if="unsure">Not sure of {{ unsure }}.</template>
      </p>
      <WristPath
        :pattern="heard.pattern"
        :strings="strings"
        :marked="heard.unsure"
        size="middle"
        :width="900"
        :flipped="view.bassAtBottom"
      />
      <div class="row">
        <Button size="small" text icon="pi pi-play" label="Hear it" @click="hear" />
        <Button size="small" label="Use it" @click="take" />
        <Button size="small" text label="Cancel" @click="heard = null" />
      </div>
    </template>
    <p v-if="told" role="status">{{ told }}</p>
  </section>
</template>

<style scoped>
.play-in {
  display: grid;
  gap: 0.6rem;
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.8rem;
}

.level {
  flex: 1 1 8rem;
}
</style>
