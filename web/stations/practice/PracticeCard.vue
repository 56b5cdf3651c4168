<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import Button from 'primevue/button';
import ProgressBar from 'primevue/progressbar';
import { computed, useTemplateRef } from 'vue';
import { modulo, plural } from '#core/plain';
import { beatTicks, secondsPerTick } from '#core/time';
import { slotSentences } from '#core/stroke';
import { itemAt } from '#core/song';
import { type Mark, marksOf, toleranceOf } from '#core/take';
import { nextCall } from '#core/practice';
import WristPath from '../../path/WristPath.vue';
import { useBarDrawing } from '../../shell/barDrawing';
import { nowNext } from '../../shell/nowNext';
import { usePlayerStore } from '../../stores/player';
import { usePracticeStore } from '../../stores/practice';
import { useTakesStore } from '../../stores/takes';
import { useViewStore } from '../../stores/view';
import type { TakeRun } from './takeRun';

/** What is played now: the chord, the one that comes, the count, the path of the bar, and one big button. */
const props = defineProps<{
  run: TakeRun;
  large?: boolean;
  /** The buttons alone: what was played stands under them. */
  compact?: boolean;
}>();
const player = usePlayerStore();
const practice = usePracticeStore();
const takes = useTakesStore();
const view = useViewStore();
const { drawn, strings } = useBarDrawing();
const box = useTemplateRef('box');
const { width } = useElementSize(box);

/** The place in the song that is heard. */
const tick = computed(() => {
  const heard = props.run.heard.value;
  if (!heard) return null;
  if (!heard.countIn) return heard.tick;
  return player.auditionPosition ? (heard.start ?? 0) : null;
});
const bar = computed(() =>
  tick.value === null
    ? (player.bars[takes.part.from - 1] ?? player.bars[0])
    : itemAt(player.bars, tick.value),
);
const here = computed(() => (bar.value ? drawn(bar.value) : null));
const barName = computed(() => `bar ${(bar.value?.index ?? 0) + 1}`);
const counting = computed(() => props.run.counting.value || player.heard?.countIn === true);
const moving = computed(() => tick.value !== null && !counting.value);
const at = computed(() => tick.value ?? bar.value?.tick ?? 0);

/** What was struck so far, by the territories that the judge has. */
const marks = computed<Mark[]>(() => {
  const { performance, activeSong } = player;
  if (!performance || !activeSong || !props.run.running.value) return [];
  const strikes = performance.strikes.filter(({ kind }) => kind !== 'legato');
  const perTick = secondsPerTick(activeSong.tempo, activeSong.meter);
  const tolerance = toleranceOf(strikes.map(({ seconds }) => seconds)) / 1000 / perTick;
  return marksOf(strikes, props.run.marks.value, tolerance);
});
/** Those of this bar, in ticks of it. */
const played = computed(() => {
  const now = bar.value;
  if (!now) return [];
  return marks.value.flatMap((mark) =>
    mark.tick >= now.tick && mark.tick < now.tick + now.ticks
      ? [{ ...mark, at: mark.tick - now.tick }]
      : [],
  );
});

const chords = computed(() => nowNext(player.performance?.landings ?? [], at.value, player.loop));
const beat = computed(() => (bar.value ? beatTicks(bar.value.meter) : 960));
const toGo = computed(() => {
  if (!bar.value || !chords.value.next) return '';
  const bars = Math.floor(chords.value.wait / bar.value.ticks);
  if (bars >= 1) return `in ${plural(bars, 'bar')}`;
  return `in ${plural(Math.ceil(chords.value.wait / beat.value), 'beat')}`;
});
/** The next landing, called as far ahead as the player asks. */
const call = computed(() => {
  if (!moving.value || !bar.value || practice.calls === 'off') return null;
  const ahead = practice.calls === 'bar' ? bar.value.ticks : beat.value;
  const next = nextCall(player.performance?.landings ?? [], at.value, ahead);
  return next && (next.ticks <= beat.value ? `ready, and ${next.symbol}` : `${next.symbol} next`);
});
const count = computed(() => {
  if (!bar.value) return null;
  const alone = player.auditionPosition ?? player.heard;
  if (!alone) return null;
  const into = alone.countIn ? alone.tick : at.value - bar.value.tick + bar.value.lead;
  return modulo(Math.floor(into / beat.value), bar.value.meter.beats) + 1;
});

const words = [
  { label: 'Clean', value: 'clean' },
  { label: 'So-so', value: 'so-so' },
  { label: 'Not yet', value: 'not yet' },
] as const;
</script>

<template>
  <div ref="box" class="card" :class="{ large }">
    <p v-if="!compact" class="chords" aria-label="Chord now and next">
      <span class="now" :class="{ waiting: counting }">{{ chords.now ?? '–' }}</span>
      <template v-if="chords.next">
        <span class="wait">{{ toGo }}</span>
        <span class="next">{{ chords.next }}</span>
      </template>
      <span v-if="count !== null" class="count" aria-hidden="true">{{ count }}</span>
      <span v-if="call" class="call" role="status">{{ call }}</span>
    </p>
    <!-- The drawing in words; while it moves the chords and the count are what matters. -->
    <ol v-if="!compact && here && !moving" class="heard-only" :aria-label="`Strokes of ${barName}`">
      <li v-for="sentence in slotSentences(here.pattern)" :key="sentence">{{ sentence }}</li>
    </ol>
    <WristPath
      v-if="!compact && here && width > 0"
      :pattern="here.pattern"
      :phase="here.phase"
      :reach="here.reach"
      :strings="strings"
      :flags="here.flags"
      :counts="here.counts"
      :heard="moving && bar ? at - bar.tick : null"
      :flipped="view.bassAtBottom"
      :width="width"
      class="path"
    >
      <template #default="{ left }">
        <div
          v-if="run.running.value !== null && run.running.value !== 'word'"
          class="marks"
          aria-hidden="true"
        >
          <i
            v-for="mark in played"
            :key="mark.tick"
            data-testid="struck"
            :class="[mark.is.replace(' ', '-'), { landing: mark.landing }]"
            :style="{ left: left(mark.at) }"
          />
        </div>
      </template>
    </WristPath>
    <div class="go">
      <template v-if="run.asks.value">
        <span class="ask">How was it?</span>
        <Button
          v-for="word in words"
          :key="word.value"
          :label="word.label"
          :outlined="word.value !== 'clean'"
          size="large"
          @click="run.say(word.value)"
        />
      </template>
      <template v-else>
        <slot />
        <Button
          v-if="large"
          class="play"
          size="large"
          :label="run.label.value"
          :icon="run.running.value ? 'pi pi-stop' : 'pi pi-play'"
          :loading="takes.judging"
          :disabled="player.bars.length === 0"
          @click="run.toggle"
        />
        <Button
          v-else-if="!run.running.value"
          label="Hear it"
          icon="pi pi-volume-up"
          :text="compact"
          :outlined="!compact"
          :disabled="player.bars.length === 0"
          @click="run.hear"
        />
      </template>
      <span v-if="run.running.value" role="status" class="state">{{
        counting ? 'Count-in…' : 'Play.'
      }}</span>
      <span v-else-if="takes.judging" role="status" class="state">Listening to the take…</span>
    </div>
    <template v-if="run.running.value === 'microphone'">
      <ProgressBar
        :value="Math.round(run.level.value * 100)"
        :show-value="false"
        aria-label="Level"
      />
      <p v-if="run.clipped.value" class="trouble">
        Too loud: the sound is cut off at the top. Move away a little.
      </p>
    </template>
    <div v-if="run.running.value === 'taps'" class="pads">
      <button type="button" @pointerdown.prevent="run.tap('down')">Down</button>
      <button type="button" @pointerdown.prevent="run.tap('up')">Up</button>
    </div>
  </div>
</template>

<style scoped>
.card {
  display: grid;
  gap: 0.5rem;
  min-width: 0;
}

.chords {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 1rem;
  font-family: var(--display);
  font-variant-numeric: tabular-nums;
  min-height: 3.6rem;
}

.now {
  font-size: 3.4rem;
  font-weight: 700;
  line-height: 1;
}

.waiting {
  opacity: 0.45;
}

.wait {
  color: var(--ink-soft);
}

.next {
  font-size: 2.4rem;
  font-weight: 650;
  color: var(--brass-ink);
  line-height: 1;
}

.count {
  margin-left: auto;
  font-size: 2.4rem;
  font-weight: 700;
}

.call {
  color: var(--brass-ink);
  font-weight: 650;
}

/* What was struck, where it was: quiet, and no judgement. */
.marks {
  position: relative;
  height: 0.9rem;
  border-top: 1px solid var(--string);
}

.marks i {
  position: absolute;
  top: 0.1rem;
  width: 0.2rem;
  height: 0.7rem;
  transform: translateX(-50%);
  border-radius: 0.1rem;
  background: var(--ink-soft);
}

/* A landing is wider; what is early or late leans that way; what was not meant is a ring. */
.marks i.landing {
  width: 0.4rem;
}

.marks i.late {
  background: var(--coral);
  transform: translateX(-50%) skewX(24deg);
}

.marks i.early {
  background: var(--coral);
  transform: translateX(-50%) skewX(-24deg);
}

.marks i.added {
  width: 0.5rem;
  height: 0.5rem;
  top: 0.2rem;
  border: 2px solid var(--coral);
  border-radius: 50%;
  background: none;
}

.go {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
}

.ask,
.state {
  font-family: var(--display);
  font-weight: 650;
  font-size: 1.2rem;
}

.trouble {
  border-left: 4px solid var(--coral);
  padding-left: 0.6rem;
}

.pads {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.6rem;
}

.pads button {
  min-height: 5rem;
  border: 2px solid var(--brass);
  border-radius: var(--radius);
  background: var(--paper-raised);
  color: inherit;
  font-size: 1.2rem;
  touch-action: manipulation;
}

.large .now {
  font-size: clamp(4rem, 20vh, 12rem);
}

.large .next {
  font-size: clamp(2.6rem, 11vh, 7rem);
}

.large .count {
  font-size: clamp(2.6rem, 11vh, 7rem);
}

@media (max-width: 40rem) {
  .play {
    width: 100%;
  }

  .chords {
    min-height: 3rem;
    gap: 0.6rem;
  }

  .now {
    font-size: 2.6rem;
  }
}
</style>
