<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import ToggleButton from 'primevue/togglebutton';
import { computed, onMounted, ref, useTemplateRef } from 'vue';
import { storeToRefs } from 'pinia';
import { onBeforeRouteLeave, useRouter } from 'vue-router';
import { clock, ordinal, plural } from '#core/plain';
import {
  beginSong,
  movePulse,
  nearestBar,
  nearestPulse,
  secondsOf,
  songSecondsAt,
} from '#core/along';
import ChooseOne from '../../fields/ChooseOne.vue';
import { usePageKeys, useTapKeys } from '../../frame/keys';
import { useStagePlay } from '../../frame/stagePlay';
import { useOpenTool } from '../../frame/openTool';
import StationFrame from '../../frame/StationFrame.vue';
import WristPath from '../../path/WristPath.vue';
import { useBarDrawing } from '../../shell/barDrawing';
import { useAlongStore } from '../../stores/along';
import { FASTEST, SLOWEST, useAlongPlayStore } from '../../stores/alongPlay';
import { useMixerStore } from '../../stores/mixer';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';
import BeatsPanel from './BeatsPanel.vue';
import ChordsPanel from './ChordsPanel.vue';
import NoRecording from './NoRecording.vue';
import FilePanel from './FilePanel.vue';
import RhythmPanel from './RhythmPanel.vue';
import TakePanel from './TakePanel.vue';
import WaveStrip from './WaveStrip.vue';

/** Along with a recording: its beats, where its chords land, and the song played to it. */
const along = useAlongStore();
const songs = useSongStore();
const player = usePlayerStore();
const mixer = useMixerStore();
const view = useViewStore();

const TOOLS = ['beats', 'chords', 'rhythm', 'take', 'heard'] as const;
type Panel = (typeof TOOLS)[number];
const panel = useOpenTool<Panel>(() => TOOLS);
const panels: { label: string; value: Panel }[] = [
  { label: 'Beats', value: 'beats' },
  { label: 'Chords', value: 'chords' },
  { label: 'Strum', value: 'rhythm' },
  { label: 'Take', value: 'take' },
  { label: 'Heard', value: 'heard' },
];

const play = useAlongPlayStore();
const { seconds, playing, speed, tick, bar, looping, first, last } = storeToRefs(play);
const { media, toggle, seek } = play;
onMounted(() => {
  player.stop();
  void along.enter();
});

/** Presses come after what is heard: as late as was measured for this device. */
const late = computed(() => mixer.latency / 1000);
const taps = ref<number[]>([]);
/** A pause between taps begins a new row of them. */
const PAUSE = 2.5;
function tap(): void {
  const now = play.heardNow() - late.value * speed.value;
  const last = taps.value.at(-1);
  const apart = last === undefined ? 0 : now - last;
  taps.value = last !== undefined && apart > 0.1 && apart < PAUSE ? [...taps.value, now] : [now];
}

const NUDGE = 0.01;
function nudge(by: number): void {
  const { map } = along;
  if (!map) return;
  const nearest = nearestBar(along.bars, seconds.value);
  if (nearest) along.setMap(movePulse(map, nearest.pulse, nearest.seconds + by));
}
/** The song begins on the beat that is nearest. */
function beginHere(): void {
  const { map } = along;
  if (!map) return;
  const pulse = nearestPulse(
    map.pulses,
    play.heardNow() - late.value * speed.value * Number(playing.value),
  );
  along.setLayout(beginSong(along.layout, pulse, along.songBars));
}
useStagePlay(() =>
  along.info
    ? {
        label: playing.value || play.counting ? 'Pause the recording' : 'Play the recording',
        running: playing.value || play.counting,
        // Where it stands, too, while it is paused.
        heard: play.heard ?? (tick.value === null ? null : { tick: tick.value, countIn: false }),
        ownControls: true,
        toggle,
      }
    : null,
);
useTapKeys(
  () => playing.value,
  ({ key, ctrlKey, metaKey, altKey }) => {
    if (ctrlKey || metaKey || altKey || key.toLowerCase() !== 't') return false;
    tap();
    return true;
  },
);
usePageKeys(({ key }) => {
  switch (key.toLowerCase()) {
    case 'l':
      if (!along.map) return false;
      along.land(play.heardNow(), late.value * speed.value);
      return true;
    case 's':
      if (!along.map) return false;
      beginHere();
      return true;
    case '[':
      nudge(-NUDGE);
      return true;
    case ']':
      nudge(NUDGE);
      return true;
  }
  return false;
});

/** Bars that a loop may name: those of the song where it lies on the recording, else those of the recording. */
const mostBars = computed(() => Math.max(1, ...along.bars.map((one) => one.song ?? one.number)));
const { strings, drawn } = useBarDrawing();
const pathBox = useTemplateRef<HTMLElement>('pathBox');
const { width: pathWidth } = useElementSize(pathBox);
const shown = computed(() => (bar.value ? drawn(bar.value) : null));
const nextChord = computed(() => {
  const { laid } = along;
  if (!laid) return null;
  const now = tick.value;
  // Before the song begins, and where it rests, its next part is what comes.
  const comes = laid.pieces.find(
    ({ from, shift }) => shift !== null && secondsOf(laid.map, from) > seconds.value,
  );
  const after = now ?? (comes ? comes.from + comes.shift! - 1 : Infinity);
  const change = player.changes.find((one) => one.tick > after);
  if (!change) return null;
  const at = songSecondsAt(
    laid,
    change.tick,
    comes && now === null ? Infinity : seconds.value + 60,
  );
  return { symbol: change.symbol, wait: Math.max(0, at - seconds.value) / speed.value };
});
const chordNow = computed(() => {
  const now = tick.value;
  return now === null ? '–' : (player.changes.findLast((one) => one.tick <= now)?.symbol ?? '–');
});

const chords = computed(() => {
  const { map } = along;
  if (!map) return [];
  const landed = along.landings.map(({ tick: at, symbol }) => ({
    seconds: secondsOf(map, at),
    symbol: symbol ?? '?',
  }));
  return landed;
});
function move(pulse: number, to: number): void {
  if (along.map) along.setMap(movePulse(along.map, pulse, to));
}

const speeds = Array.from(
  { length: Math.round((FASTEST - SLOWEST) * 10) + 1 },
  (_, step) => (Math.round(SLOWEST * 10) + step) / 10,
).map((value) => ({
  label: value === 1 ? 'as recorded' : `${Math.round(value * 100)} %`,
  value,
}));
const router = useRouter();
const stand = () => router.push({ name: 'stand', params: { id: songs.id, of: 'along' } });
onBeforeRouteLeave(({ name }) => {
  if (name !== 'stand') play.pause();
});

const sentence = computed(() => {
  if (along.busy) return along.busy;
  if (play.counting) return 'Counted in…';
  if (!along.info) return 'Bring a recording, and play along with it.';
  if (!along.map) return 'Tap a few bars: the rest of the beats is found.';
  const named = along.landings.filter(({ symbol }) => symbol !== null).length;
  const heard = named > 0 ? ` ${plural(named, 'landing')} named.` : '';
  const intro = along.bars.findIndex(({ song }) => song !== null);
  const begins =
    along.layout.length > 0 && intro > 0 ? ` The song begins in the ${ordinal(intro + 1)}.` : '';
  const where = bar.value ? ` Bar ${bar.value.index + 1}: ${chordNow.value}.` : '';
  return `${plural(along.bars.length, 'bar')} found in it.${begins}${heard}${where}`;
});
</script>

<template>
  <StationFrame
    v-model:tool="panel"
    :answer="sentence"
    :tools="along.info ? panels : []"
    work="Recording"
  >
    <template v-if="along.map" #beside>
      <Button
        icon="pi pi-expand"
        text
        rounded
        aria-label="Stand view"
        title="Stand view: full screen, to read from a distance"
        @click="stand"
      />
    </template>
    <p v-if="along.trouble" class="trouble" role="alert">{{ along.trouble }}</p>
    <NoRecording v-if="!along.info && !along.busy" @file="along.bring($event)" />
    <template v-else-if="along.peaks.length > 0">
      <WaveStrip
        :key="along.url ?? ''"
        :media="media"
        :peaks="along.peaks"
        :duration="along.duration"
        :bars="along.bars"
        :laid="along.layout.length > 0"
        :chords="chords"
        @move="move"
      />
      <Teleport to="#stage-own" defer>
        <span class="clock">{{ clock(seconds) }} of {{ clock(along.duration) }}</span>
        <ChooseOne v-model="speed" :options="speeds" aria-label="Speed of the recording" />
        <ToggleButton
          v-model="looping"
          on-label="Loop"
          off-label="Loop"
          :disabled="!along.map"
          aria-label="Loop bars of the recording"
        />
        <template v-if="along.map">
          <label for="along-first">bars</label>
          <InputNumber
            v-model="first"
            input-id="along-first"
            class="tiny"
            :min="1"
            :max="mostBars"
            :allow-empty="false"
          />
          <label for="along-last">to</label>
          <InputNumber
            v-model="last"
            input-id="along-last"
            class="tiny"
            :min="1"
            :max="mostBars"
            :allow-empty="false"
          />
        </template>
        <Button
          icon="pi pi-undo"
          text
          aria-label="Undo on the recording"
          title="Undo on the recording"
          :disabled="along.past.length === 0"
          @click="along.undo()"
        />
        <Button
          icon="pi pi-refresh"
          text
          aria-label="Redo on the recording"
          title="Redo on the recording"
          :disabled="along.future.length === 0"
          @click="along.redo()"
        />
      </Teleport>
      <div class="pads">
        <Button label="Tap a beat" severity="secondary" :disabled="!playing" @click="tap">
          <template #icon><kbd>T</kbd></template>
        </Button>
        <Button
          label="A chord changes"
          severity="secondary"
          :disabled="!along.map"
          @click="along.land(play.heardNow(), late * speed)"
        >
          <template #icon><kbd>L</kbd></template>
        </Button>
      </div>
      <template v-if="along.map">
        <p class="now" aria-label="Chord now and next">
          <b>{{ chordNow }}</b>
          <template v-if="nextChord">
            <span class="quiet">{{ nextChord.wait.toFixed(1) }} s</span> {{ nextChord.symbol }}
          </template>
        </p>
        <div ref="pathBox">
          <WristPath
            v-if="shown"
            :pattern="shown.pattern"
            :phase="shown.phase"
            :reach="shown.reach"
            :strings="strings"
            :flags="shown.flags"
            :counts="shown.counts"
            :heard="bar && tick !== null ? tick - bar.tick : null"
            :flipped="view.bassAtBottom"
            :caption="`bar ${(bar?.index ?? 0) + 1}`"
            size="middle"
            :width="Math.min(760, pathWidth)"
          />
          <p v-else class="quiet">This is not the song.</p>
        </div>
      </template>
    </template>
    <template #tool>
      <BeatsPanel
        v-if="panel === 'beats'"
        :taps="taps"
        :seconds="seconds"
        @clear="taps = []"
        @seek="seek"
        @begin="beginHere"
      />
      <ChordsPanel v-else-if="panel === 'chords'" @seek="seek" />
      <RhythmPanel v-else-if="panel === 'rhythm'" :first="first" :last="last" />
      <TakePanel v-else-if="panel === 'take'" :late="late" />
      <FilePanel v-else />
    </template>
  </StationFrame>
</template>

<style scoped>
.pads {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
}

.clock {
  font-variant-numeric: tabular-nums;
}

.tiny :deep(input) {
  width: 3.6rem;
  text-align: center;
}

.now {
  display: flex;
  align-items: baseline;
  gap: 0.6rem;
  font-size: 1.6rem;
  margin: 0;
}

.pads :deep(.p-button) {
  min-height: 2.75rem;
}

.trouble {
  color: var(--coral);
}
</style>
