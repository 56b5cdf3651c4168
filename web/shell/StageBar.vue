<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import Dialog from 'primevue/dialog';
import ChooseOne from '../fields/ChooseOne.vue';
import ToggleButton from 'primevue/togglebutton';
import { computed, defineAsyncComponent, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { beatTicks, commands, modulo, pulseNote } from '#core';
import { usePlayerStore } from '../stores/player';
import { useSongStore } from '../stores/song';
import { isControl, isTyping } from './keys';
import { useMixerStore } from '../stores/mixer';

/** At the foot of every screen: play, tempo, loop, count-in, click, and where we are. */
const songs = useSongStore();
const player = usePlayerStore();
const mixer = useMixerStore();
const router = useRouter();
const route = useRoute();
const SoundPanel = defineAsyncComponent(() => import('./SoundPanel.vue'));
const mixing = ref(false);
const stand = computed(() =>
  songs.id && (route.name === 'song' || route.name === 'strum')
    ? { name: 'stand', params: { id: songs.id, of: route.name } }
    : null,
);
/** The tempo that is heard, where it is not the one that is set. */
const heardTempo = computed(() => {
  if (mixer.speed === 1 && !mixer.ramp) return null;
  const now = player.heard?.tempo;
  return now === undefined ? null : Math.round(now);
});

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  const free = !event.defaultPrevented && !isTyping(event.target) && !isControl(event.target);
  if (event.key !== ' ' || event.ctrlKey || event.metaKey || !free) return;
  event.preventDefault();
  player.toggle();
});

// Plain values throughout: the bar is drawn again only when what it shows has changed.
const meter = computed(() => songs.song?.meter);
const sounding = computed(() => player.playing || player.auditioning);
const lastBar = computed(() => player.bars.length);
const pulse = computed(() => (meter.value ? pulseNote(meter.value) : null));

/** The count that is heard, from 1; in a count-in too. */
const count = computed(() => {
  const { heard, bar } = player;
  if (!meter.value || !bar) return null;
  if (!heard) return 1;
  const beat = Math.floor((heard.tick - bar.tick + bar.lead) / beatTicks(bar.meter));
  const { beats } = bar.meter;
  return modulo(beat, beats) + 1;
});
const where = computed(() => {
  if (player.heard?.countIn) return 'count-in';
  return player.bar ? `bar ${player.bar.index + 1} of ${lastBar.value}` : null;
});

const tempo = computed({
  get: () => songs.song?.tempo ?? 80,
  set: (value: number | null) => {
    if (value !== null && value >= 20 && value <= 300) songs.run(commands.setTempo(value), true);
  },
});

const countIns = [
  { label: 'No count-in', value: 0 },
  { label: '1 bar in', value: 1 },
  { label: '2 bars in', value: 2 },
];
const countIn = computed({
  get: () => songs.song?.countIn ?? 1,
  set: (bars: number) => songs.run(commands.setCountIn(bars)),
});

const firstLoopBar = computed({
  get: () => (player.loopBars?.first ?? 0) + 1,
  set: (value: number | null) => {
    if (value !== null) setLoop(value - 1, Math.max(value - 1, lastOf()));
  },
});
const lastLoopBar = computed({
  get: () => Math.min(lastBar.value, lastOf() + 1),
  set: (value: number | null) => {
    if (value !== null) setLoop(Math.min(firstLoopBar.value, value) - 1, value - 1);
  },
});

function lastOf(): number {
  return player.loopBars?.last ?? lastBar.value - 1;
}

function setLoop(first: number, last: number): void {
  const whole = first <= 0 && last >= lastBar.value - 1;
  player.loopBars = whole ? null : { first, last };
}
</script>

<template>
  <footer class="stage-bar" aria-label="Stage bar">
    <Button
      class="play"
      :icon="sounding ? 'pi pi-stop' : 'pi pi-play'"
      rounded
      :aria-label="sounding ? 'Stop' : 'Play'"
      :disabled="lastBar === 0 || player.starting"
      @click="player.toggle()"
    />
    <p v-if="count" class="where" role="status" :aria-live="player.playing ? 'off' : 'polite'">
      <span class="count">{{ count }}</span>
      <span class="bar">{{ where }}</span>
    </p>
    <p v-else class="where quiet">
      {{ pulse ? 'Write a progression to play.' : 'Open a song to play it.' }}
    </p>

    <template v-if="pulse">
      <div class="group">
        <label class="label" for="tempo">Tempo, {{ pulse }}</label>
        <InputNumber
          v-model="tempo"
          input-id="tempo"
          class="number"
          show-buttons
          :min="20"
          :max="300"
          :max-fraction-digits="0"
          :allow-empty="false"
        />
        <span v-if="heardTempo !== null" class="heard-tempo">now {{ heardTempo }}</span>
      </div>
      <div class="group loop">
        <ToggleButton
          v-model="player.looping"
          on-label="Loop"
          off-label="Loop"
          on-icon="pi pi-replay"
          off-icon="pi pi-replay"
          aria-label="Loop"
        />
        <template v-if="player.looping && lastBar > 0">
          <label class="label" for="loop-from">bars</label>
          <InputNumber
            v-model="firstLoopBar"
            input-id="loop-from"
            class="tiny"
            :min="1"
            :max="lastBar"
            :allow-empty="false"
            aria-label="First bar of the loop"
          />
          <label class="label" for="loop-to">to</label>
          <InputNumber
            v-model="lastLoopBar"
            input-id="loop-to"
            class="tiny"
            :min="1"
            :max="lastBar"
            :allow-empty="false"
            aria-label="Last bar of the loop"
          />
        </template>
      </div>
      <ChooseOne v-model="countIn" :options="countIns" aria-label="Count-in" />
      <ToggleButton
        v-model="player.click"
        on-label="Click"
        off-label="Click"
        on-icon="pi pi-check"
        off-icon="pi pi-minus"
        aria-label="Click"
      />
      <Button
        icon="pi pi-sliders-h"
        text
        rounded
        aria-label="Sound"
        aria-haspopup="dialog"
        title="Mixer, drums, speed"
        :aria-expanded="mixing"
        @click="mixing = !mixing"
      />
      <Dialog
        v-model:visible="mixing"
        header="Sound"
        position="bottomright"
        :modal="false"
        :draggable="false"
        class="mixer"
      >
        <SoundPanel />
      </Dialog>
      <Button
        v-if="stand"
        icon="pi pi-expand"
        text
        rounded
        aria-label="Stand view"
        title="Full screen, to be read from the chair"
        @click="router.push(stand)"
      />
    </template>
  </footer>
</template>

<style>
/* It stands over the stage bar, and what plays stays in sight and in reach. */
.mixer.p-dialog {
  margin-bottom: calc(var(--stage-bar) + 0.6rem);
  max-height: calc(100vh - var(--stage-bar) - 2rem);
}
</style>

<style scoped>
.stage-bar {
  position: fixed;
  inset: auto 0 0;
  min-height: 5.25rem;
  z-index: 20;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem 1.5rem;
  padding: 0.6rem 2rem;
  background: var(--paper-sunk);
}

.play {
  width: 3.6rem;
  height: 3.6rem;
}

.play :deep(.p-button-icon) {
  font-size: 1.3rem;
}

.where {
  display: flex;
  align-items: baseline;
  gap: 0.7rem;
  min-width: 11rem;
}

.count {
  font-family: var(--display);
  font-size: 2.6rem;
  line-height: 1;
  font-weight: 700;
  min-width: 1.8rem;
}

.heard-tempo {
  font-weight: 600;
  color: var(--brass-ink);
  min-width: 4.2rem;
}

.group {
  display: flex;
  align-items: center;
  gap: 0.5rem;
}

.number :deep(input) {
  width: 6.4rem;
  font-weight: 600;
}

.tiny :deep(input) {
  width: 3.4rem;
  text-align: center;
}

@media (max-width: 62rem) {
  .stage-bar {
    padding: 0.5rem 1rem;
    gap: 0.4rem 0.8rem;
  }

  .where {
    min-width: 7rem;
  }
}
</style>
