<script setup lang="ts">
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import Dialog from 'primevue/dialog';
import ChooseOne from '../fields/ChooseOne.vue';
import ToggleButton from 'primevue/togglebutton';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { RouterLink, useRoute, useRouter } from 'vue-router';
import { modulo } from '#core/plain';
import { beatTicks, pulseNote, tappedTempo } from '#core/time';
import { itemAt } from '#core/song';
import { commands } from '#core/edit';
import { usePlayerStore } from '../stores/player';
import { useSongStore } from '../stores/song';
import { useRegion } from '../frame/regions';
import { isControl, usePageKeys } from '../frame/keys';
import { stagePlay } from '../frame/stagePlay';
import { useMixerStore } from '../stores/mixer';
import { useHandStore } from '../stores/hand';

/** At the foot of every screen: play, tempo, loop, count-in, click, and where we are. */
const songs = useSongStore();
const player = usePlayerStore();
const mixer = useMixerStore();
const hand = useHandStore();
const router = useRouter();
const route = useRoute();
const SoundPanel = defineAsyncComponent(() => import('./SoundPanel.vue'));
const mixing = ref(false);
// What is set for the sound of one station is not in the way at the next.
watch(
  () => route.name,
  () => (mixing.value = false),
);
const stand = computed(() =>
  songs.id && (route.name === 'song' || route.name === 'strum')
    ? { name: 'stand', params: { id: songs.id, of: route.name } }
    : null,
);
/** What is done to the tempo that is set: slower, or climbing; and what is heard of it. */
const changed = computed(() => {
  const { speed, ramp } = mixer;
  if (speed === 1 && !ramp) return '';
  const now = player.heard?.tempo;
  const does = [speed === 1 ? '' : `${Math.round(speed * 100)} %`, ramp ? 'climbs' : ''];
  const heard = now === undefined ? [] : [`now ${Math.round(now)}`];
  return [...does.filter(Boolean), ...heard].join(', ');
});

useRegion('stage', 'bar');
/** On a narrow screen: what has no room in the row. */
const opened = ref(false);

usePageKeys(({ key, target }) => {
  if (key === ' ' && !isControl(target)) toggle();
  else if (key === ',') tempo.value = Math.max(20, Math.round(tempo.value / 2));
  else if (key === '.') tempo.value = Math.min(300, tempo.value * 2);
  else return false;
  return true;
});

/** Moments at which the tempo was tapped, in milliseconds; a pause begins anew. */
let taps: number[] = [];
function tapTempo(event: MouseEvent): void {
  const heard = tappedTempo(taps, event.timeStamp);
  taps = heard.taps;
  if (heard.tempo !== null) tempo.value = heard.tempo;
}

// Plain values throughout: the bar is drawn again only when what it shows has changed.
const meter = computed(() => songs.song?.meter);
/** What a press of Play does: the song, or what the station has taken it for. */
const play = computed(() => {
  const own = stagePlay.value;
  const running = own?.running ?? (player.playing || player.auditioning);
  return {
    running,
    name: own?.label ?? (running ? 'Stop' : 'Play'),
    disabled: own ? (own.disabled ?? false) : player.bars.length === 0 || player.starting,
    busy: own?.busy ?? false,
    spelled: own !== null,
  };
});
const toggle = () => (stagePlay.value ? stagePlay.value.toggle() : player.toggle());
/** What is heard, and the bar that it is in; before that the bar that was chosen. */
const heard = computed(() => (stagePlay.value ? stagePlay.value.heard : player.heard));
const bar = computed(() => {
  const own = stagePlay.value?.heard;
  return own ? itemAt(player.bars, own.countIn ? (own.start ?? 0) : own.tick) : player.bar;
});
const lastBar = computed(() => player.bars.length);
const pulse = computed(() => (meter.value ? pulseNote(meter.value) : null));
/** The note that a tempo counts, as it is printed. */
const SIGNS: Record<string, string> = { quarter: '♩', 'dotted quarter': '♩.', eighth: '♪' };
const pulseSign = computed(() => SIGNS[pulse.value ?? ''] ?? pulse.value);

/** The count that is heard, from 1; in a count-in too. */
const count = computed(() => {
  const now = bar.value;
  if (!meter.value || !now) return null;
  if (!heard.value) return 1;
  const beat = Math.floor((heard.value.tick - now.tick + now.lead) / beatTicks(now.meter));
  return modulo(beat, now.meter.beats) + 1;
});
const where = computed(() => {
  if (heard.value?.countIn) return 'count-in';
  return bar.value ? `bar ${bar.value.index + 1} of ${lastBar.value}` : null;
});

const tempo = computed({
  get: () => player.activeSong?.tempo ?? 80,
  set: (value: number | null) => {
    if (value !== null && value >= 20 && value <= 300) player.setTempo(value);
  },
});

const countIns = [
  { label: 'No count-in', value: 0 },
  { label: '1-bar count-in', value: 1 },
  { label: '2-bar count-in', value: 2 },
];
const countIn = computed({
  get: () => songs.song?.countIn ?? 1,
  set: (bars: number) => songs.run(commands.setCountIn(bars)),
});

/** The last bar that a loop may have; 1 where there is none yet. */
const loopEnd = computed(() => Math.max(1, lastBar.value));
const firstLoopBar = computed({
  get: () => (player.loopBars?.first ?? 0) + 1,
  set: (value: number | null) => {
    if (value !== null) setLoop(value - 1, Math.max(value - 1, lastOf()));
  },
});
const lastLoopBar = computed({
  get: () => Math.min(loopEnd.value, Math.max(1, lastOf() + 1)),
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
  <footer ref="bar" class="stage-bar" aria-label="Stage bar">
    <Button
      class="play"
      :class="{ spelled: play.spelled }"
      :icon="play.running ? 'pi pi-stop' : 'pi pi-play'"
      rounded
      :label="play.spelled ? play.name : undefined"
      :aria-label="play.name"
      :disabled="play.disabled"
      :loading="play.busy"
      @click="toggle"
    />
    <p v-if="count" class="where" role="status" :aria-live="play.running ? 'off' : 'polite'">
      <span class="count">{{ count }}</span>
      <span class="bar">{{ where }}</span>
    </p>
    <p v-else class="where quiet">
      {{ pulse ? 'Write a progression to play.' : 'Open a song to play it.' }}
    </p>

    <Button
      v-show="pulse"
      class="opener"
      :icon="opened ? 'pi pi-angle-down' : 'pi pi-angle-up'"
      text
      rounded
      aria-label="More of the stage bar"
      :aria-expanded="opened"
      @click="opened = !opened"
    />
    <!-- Controls of what has taken Play are put here. -->
    <div v-show="stagePlay?.ownControls" id="stage-own" class="rest own" :class="{ opened }" />
    <!-- They are made before a song is open, so that opening one does not wait for them. -->
    <div v-show="pulse && !stagePlay?.ownControls" class="within">
      <div class="group">
        <label class="label" for="tempo">Tempo {{ pulseSign }}</label>
        <InputNumber
          v-model="tempo"
          input-id="tempo"
          :aria-label="`Tempo, ${pulse}`"
          class="number"
          show-buttons
          :min="20"
          :max="300"
          :max-fraction-digits="0"
          :allow-empty="false"
        />
        <Button
          class="tap"
          size="small"
          text
          label="Tap tempo"
          aria-label="Tap tempo"
          title="Tap the beat; , halves the tempo and . doubles it"
          @click="tapTempo"
        />
        <span v-if="changed" class="heard-tempo" role="status">{{ changed }}</span>
        <RouterLink
          v-if="hand.over !== null && songs.id"
          class="over"
          :to="{ name: 'changes', params: { id: songs.id } }"
          :title="hand.found?.sentence"
          ><span class="heard-only">Changes </span>OK to {{ hand.over }}</RouterLink
        >
      </div>
      <div class="rest" :class="{ opened }">
        <div class="group loop">
          <ToggleButton
            v-model="player.looping"
            on-label="Loop"
            off-label="Loop"
            on-icon="pi pi-replay"
            off-icon="pi pi-replay"
            aria-label="Loop"
          />
          <div v-if="player.looping" v-show="lastBar > 0" class="within">
            <label class="heard-only" for="loop-from">bars</label>
            <InputNumber
              v-model="firstLoopBar"
              input-id="loop-from"
              class="tiny"
              :min="1"
              :max="loopEnd"
              :allow-empty="false"
              aria-label="First bar of the loop"
            />
            <label class="label" for="loop-to">to</label>
            <InputNumber
              v-model="lastLoopBar"
              input-id="loop-to"
              class="tiny"
              :min="1"
              :max="loopEnd"
              :allow-empty="false"
              aria-label="Last bar of the loop"
            />
          </div>
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
          v-show="stand"
          icon="pi pi-expand"
          text
          rounded
          aria-label="Stand view"
          title="Stand view: full screen, to read from a distance"
          @click="stand && router.push(stand)"
        />
      </div>
    </div>
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
/* What is in it stands in the row as if it were not there. */
.within {
  display: contents;
}

.stage-bar {
  position: relative;
  min-height: var(--stage-bar);
  z-index: 20;
  display: flex;
  align-items: center;
  gap: 0.5rem 1rem;
  padding: 0.35rem 2rem;
  background: var(--paper-sunk);
}

.play {
  width: 3.4rem;
  height: 3.4rem;
  flex: none;
}

.play :deep(.p-button-icon) {
  font-size: 1.3rem;
}

/* What it does is written on it: that takes the room of what is said less often. */
.play.spelled + .where {
  min-width: 7.6rem;
}

.play.spelled {
  width: auto;
  padding-inline: 1.1rem;
  font-weight: 650;
}

.where {
  display: flex;
  align-items: baseline;
  gap: 0.7rem;
  min-width: 9.5rem;
  white-space: nowrap;
}

.count {
  font-family: var(--display);
  font-size: 2.4rem;
  line-height: 1;
  font-weight: 700;
  min-width: 1.6rem;
}

.heard-tempo {
  font-weight: 600;
  color: var(--brass-ink);
  white-space: nowrap;
}

.group,
.rest {
  display: flex;
  align-items: center;
  gap: 0.5rem;
}

.rest {
  flex: 1;
  gap: 0.5rem 0.9rem;
}

.number :deep(input) {
  width: 5.9rem;
  font-weight: 600;
}

.tiny :deep(input) {
  width: 3.1rem;
  text-align: center;
}

.stage-bar .label,
.stage-bar :deep(.p-button-label) {
  white-space: nowrap;
}

.opener {
  display: none;
  order: 1;
  margin-left: auto;
}

/* One row everywhere: what has no room opens upwards. */
@media not all and (min-width: 1100px) {
  .stage-bar {
    padding: 0.3rem 0.8rem;
  }

  .opener {
    display: inline-flex;
  }

  .rest {
    display: none;
  }

  .rest.opened {
    display: flex;
    flex-wrap: wrap;
    position: absolute;
    inset: auto 0 100%;
    padding: 0.8rem;
    background: var(--paper-sunk);
    border-top: 1px solid var(--line);
  }
}

@media (max-width: 40rem) {
  .stage-bar {
    gap: 0.5rem;
  }

  .play {
    width: 2.9rem;
    height: 2.9rem;
  }

  .play.spelled {
    max-width: 7.8rem;
    padding-inline: 0.7rem;
    line-height: 1.1;
  }

  .stage-bar .play.spelled :deep(.p-button-label) {
    white-space: normal;
    text-align: left;
  }

  .play.spelled + .where {
    min-width: 0;
  }

  .play.spelled + .where .bar {
    display: none;
  }

  .where {
    min-width: 0;
    gap: 0.35rem;
    font-size: 0.85rem;
  }

  .count {
    font-size: 1.9rem;
    min-width: 1.3rem;
  }

  .group .label[for='tempo'] {
    display: none;
  }

  .stage-bar .tap :deep(.p-button-label) {
    white-space: normal;
    line-height: 1.1;
  }

  .stage-bar .tap {
    padding-inline: 0.3rem;
    max-width: 3.6rem;
  }
}

.over {
  color: inherit;
  font-size: 0.9rem;
  text-decoration-line: underline;
  text-decoration-color: var(--coral);
  text-decoration-thickness: 2px;
  text-underline-offset: 3px;
  white-space: nowrap;
}
/* Play that is written out takes its room; the changes have a station that says the same. */
@media (max-width: 90rem) {
  .play.spelled ~ .within .over {
    display: none;
  }
}

@media (max-width: 40rem) {
  .over {
    display: none;
  }
}
</style>
