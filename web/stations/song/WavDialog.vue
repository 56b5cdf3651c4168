<script setup lang="ts">
import { messageOf } from '#core/plain';
import { cloneForWorker } from '../../workers/cloneForWorker';
import { proxy } from 'comlink';
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputNumber from 'primevue/inputnumber';
import ProgressBar from 'primevue/progressbar';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, onBeforeUnmount, ref } from 'vue';
import type { Song } from '#core/schema';
import type { Span } from '#core/time';
import { patternTicks } from '#core/stroke';
import { songChords } from '#core/song';
import { arrange, previewPattern } from '#core/arrange';
import type { Mix } from '#core/sound';
import mixdownUrl from '../../audio/mixdown.worker.ts?worker&url';
import type { MixdownDesk } from '../../audio/mixdown.worker';
import ChooseOne from '../../fields/ChooseOne.vue';
import { download } from '../../shell/download';
import { useMixerStore } from '../../stores/mixer';
import { usePlayerStore } from '../../stores/player';
import { remoteOf } from '../../workers/remote';

/** The song, a section, the chosen loop or the pattern as a sound file. */
const props = defineProps<{ song: Song }>();
const open = defineModel<boolean>('open', { required: true });
const mixer = useMixerStore();
const player = usePlayerStore();

const SAMPLE_RATE = 44100;
const PATTERN_TURNS = 4;
const WHOLE = 'whole';
const LOOP = 'loop';
const PATTERN = 'pattern';

const what = ref<string>(WHOLE);
const tempo = ref(Math.round(props.song.tempo));
const click = ref(false);
const drums = ref(false);
const progress = ref<number | null>(null);
const trouble = ref('');
let worker: Worker | null = null;

const passages = computed(() => {
  const spans = new Map<number, { name: string; span: Span }>();
  for (const { passage, section, tick, ticks } of player.bars) {
    const known = spans.get(passage);
    const name = props.song.sections[section]!.name || 'the song';
    const span = { from: known?.span.from ?? tick, to: tick + ticks };
    spans.set(passage, { name, span });
  }
  return [...spans.values()];
});
const choices = computed(() => {
  const seen = new Set<string>();
  const sections = passages.value.flatMap(({ name }, index) => {
    if (seen.has(name)) return [];
    seen.add(name);
    return [{ label: name, value: String(index) }];
  });
  return [
    { label: 'the whole song', value: WHOLE },
    ...(player.loopBars ? [{ label: 'the bars of the loop', value: LOOP }] : []),
    ...(sections.length > 1 ? sections : []),
    { label: `the pattern, ${PATTERN_TURNS} times`, value: PATTERN },
  ];
});

function mixOf(): Mix {
  const song = { ...props.song, tempo: tempo.value };
  const common = {
    meter: song.meter,
    family: song.instrument.family,
    click: click.value ? mixer.clickMode : null,
    groove: drums.value ? (player.groove ?? player.usualGroove) : null,
    levels: { ...mixer.levels },
    sampleRate: SAMPLE_RATE,
  };
  if (what.value === PATTERN) {
    const { beats } = song.pattern;
    const pattern = { ...song.pattern, beats: Array(PATTERN_TURNS).fill(beats).flat() };
    const performance = previewPattern(song, pattern, songChords(song)[0] ?? null);
    return { ...common, performance, to: patternTicks(pattern) };
  }
  const performance = arrange(song);
  const span =
    what.value === WHOLE
      ? null
      : what.value === LOOP
        ? player.loop
        : passages.value[Number(what.value)]!.span;
  return { ...common, performance, ...(span && { from: span.from, to: span.to }) };
}

async function make(): Promise<void> {
  trouble.value = '';
  progress.value = 0;
  worker = new Worker(mixdownUrl, { type: 'module' });
  const desk = remoteOf<MixdownDesk>(worker);
  const mine = worker;
  try {
    const told = proxy((share: number) => {
      if (worker === mine) progress.value = Math.round(share * 100);
    });
    const file = await desk.wav(cloneForWorker(mixOf()), told);
    const chosen = choices.value.find(({ value }) => value === what.value)!.label;
    const title = what.value === WHOLE ? props.song.title : `${props.song.title} ${chosen}`;
    download(file, 'audio/wav', { title, ending: 'wav' });
    open.value = false;
  } catch (error) {
    trouble.value = `The file was not made: ${messageOf(error)}`;
  } finally {
    if (worker === mine) cancel();
  }
}

/** Ends the work where it is; nothing was written. */
function cancel(): void {
  worker?.terminate();
  worker = null;
  progress.value = null;
}
onBeforeUnmount(cancel);
</script>

<template>
  <Dialog
    v-model:visible="open"
    modal
    header="A sound file"
    :style="{ width: 'min(30rem, 94vw)' }"
    @hide="cancel"
  >
    <div class="form">
      <div class="row">
        <span class="label">of</span>
        <ChooseOne v-model="what" :options="choices" aria-label="What the file plays" />
      </div>
      <div class="row">
        <label class="label" for="wav-tempo">at</label>
        <InputNumber
          v-model="tempo"
          input-id="wav-tempo"
          class="tempo"
          show-buttons
          :min="20"
          :max="300"
          :allow-empty="false"
          aria-label="Tempo of the file"
        />
      </div>
      <div class="row">
        <ToggleSwitch v-model="click" input-id="wav-click" />
        <label for="wav-click">with the click</label>
        <ToggleSwitch v-model="drums" input-id="wav-drums" />
        <label for="wav-drums">with drums</label>
      </div>
      <ProgressBar v-if="progress !== null" :value="progress" aria-label="Progress" />
      <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
      <div class="row">
        <Button
          v-if="progress === null"
          label="Make the WAV file"
          icon="pi pi-download"
          @click="make"
        />
        <Button v-else label="Cancel" outlined @click="cancel" />
      </div>
    </div>
  </Dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 0.9rem;
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem 0.7rem;
}

.row > .label {
  min-width: 2rem;
}

.tempo :deep(input) {
  width: 6rem;
}

.trouble {
  color: var(--coral);
}
</style>
