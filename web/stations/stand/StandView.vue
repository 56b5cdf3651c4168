<script setup lang="ts">
import { usePageKeys } from '../../frame/keys';
import { useFullscreen, useWakeLock, useWindowSize } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, watch } from 'vue';
import { onBeforeRouteLeave, useRouter } from 'vue-router';
import { plural } from '#core/plain';
import type { Song } from '#core/schema';
import { beatTicks, beatWeights, countNumber, pulseTicks } from '#core/time';
import { hasLyrics, joinedWords, lyricsByBar } from '#core/song';
import { useBarDrawing } from '../../shell/barDrawing';
import { nowNext } from '../../shell/nowNext';
import BarWords from '../../path/BarWords.vue';
import WristPath from '../../path/WristPath.vue';
import { useAlongStore } from '../../stores/along';
import { useAlongPlayStore } from '../../stores/alongPlay';
import { useMixerStore } from '../../stores/mixer';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';

/**
 * To be read from the chair, two metres away: the chord now and next, the count, and the path with the
 * hand that rides it. Any key goes on or stops, a pedal that types one too; Escape leaves.
 */
const props = defineProps<{ of: 'song' | 'strum' | 'along' }>();
const songs = useSongStore();
const player = usePlayerStore();
const along = useAlongStore();
const recording = useAlongPlayStore();
const mixer = useMixerStore();
const view = useViewStore();
const router = useRouter();
const { width, height } = useWindowSize();
const lock = useWakeLock();
const full = useFullscreen(document.documentElement);

const song = computed<Song>(() => songs.song!);
/** What plays: the song, or the recording beside it. */
const recorded = computed(() => props.of === 'along');
const sounding = computed(() => (recorded.value ? recording.heard : player.heard));
const playing = computed(() =>
  recorded.value ? recording.playing || recording.counting : player.playing,
);
const toggle = () => (recorded.value ? recording.toggle() : player.toggle());
const heard = computed(() => (sounding.value && !sounding.value.countIn ? sounding.value : null));
const bar = computed(() => (recorded.value ? recording.bar : player.bar) ?? player.bars[0] ?? null);

const { numbers, strings, drawn } = useBarDrawing();
const here = computed(() => (bar.value ? drawn(bar.value) : null));
/** The bar that comes: the loop's first after its last. */
const comes = computed(() => {
  if (!bar.value) return null;
  const { bars } = player;
  const loop = recorded.value ? null : player.loop;
  const end = bar.value.tick + bar.value.ticks;
  if (loop && end >= loop.to) return bars.find(({ tick }) => tick >= loop.from) ?? null;
  return bars[bar.value.index + 1] ?? null;
});
/** What is sung, bar by bar as it is played. */
const sung = computed(() => (hasLyrics(song.value) ? lyricsByBar(song.value, player.bars) : []));
const wordsOf = (index: number) => (sung.value[index] ?? []).map(({ text }) => text);
const next = computed(() => (comes.value && props.of === 'song' ? drawn(comes.value) : null));

const chords = computed(() =>
  nowNext(
    player.performance?.landings ?? [],
    heard.value?.tick ?? sounding.value?.start ?? bar.value?.tick ?? 0,
    recorded.value ? null : player.loop,
  ),
);
const toGo = computed(() => {
  if (!bar.value || !chords.value.next) return '';
  const beats = Math.ceil(chords.value.wait / beatTicks(bar.value.meter));
  const bars = Math.floor(chords.value.wait / bar.value.ticks);
  if (bars >= 1) return `in ${plural(bars, 'bar')}`;
  return `in ${plural(beats, 'beat')}`;
});

/** The beats of the bar, and the one that is heard. */
const beats = computed(() => {
  if (!bar.value) return [];
  const { meter } = bar.value;
  return Array.from({ length: meter.beats }, (_, beat) => countNumber(meter, beat));
});
const beat = computed(() => {
  const now = sounding.value;
  if (!now || !bar.value) return null;
  const { tick, lead, meter } = bar.value;
  const at = Math.floor((now.tick - tick + lead) / beatTicks(meter));
  return ((at % meter.beats) + meter.beats) % meter.beats;
});

/** More flashes a second than this are dangerous to some: then only the first beat flashes. */
const MAX_FLASHES = 2.5;
const flashing = computed(() => {
  if (!mixer.flash || beat.value === null || !bar.value) return null;
  const weight = beatWeights(bar.value.meter)[beat.value];
  const { meter } = bar.value;
  const pulses = (sounding.value?.tempo ?? song.value.tempo) / 60;
  const perSecond = (pulses * pulseTicks(meter)) / beatTicks(meter);
  if (weight !== 'bar' && perSecond > MAX_FLASHES) return null;
  return `${bar.value.index}/${beat.value}`;
});

function leave(): void {
  void router.push({ name: props.of, params: { id: songs.id } });
}
usePageKeys(({ key, target, repeat }) => {
  if (repeat || key === 'Tab' || key === 'Shift') return false;
  const button = (target as HTMLElement).closest?.('button');
  if (button && (key === ' ' || key === 'Enter')) return false;
  if (key === 'Escape') leave();
  else toggle();
  return true;
});

onMounted(() => {
  void lock.request('screen').catch(() => undefined);
  if (recorded.value) void along.enter();
});
watch(playing, (on) => {
  if (on && !lock.isActive.value) void lock.request('screen').catch(() => undefined);
});
onBeforeRouteLeave(({ name }) => {
  if (recorded.value && name !== 'along') recording.pause();
});
onBeforeUnmount(() => {
  void lock.release().catch(() => undefined);
  if (full.isFullscreen.value) void full.exit();
});
</script>

<template>
  <section class="stand" aria-label="Stand view">
    <div
      v-if="flashing"
      :key="flashing"
      class="flash"
      data-testid="flash"
      :class="{ first: beat === 0 }"
    />
    <header>
      <p class="chord" data-testid="now" :class="{ waiting: sounding?.countIn }">
        {{ chords.now ?? '–' }}
      </p>
      <p v-if="chords.next" class="then" data-testid="then">
        <span>{{ toGo }}</span>
        <b>{{ chords.next }}</b>
      </p>
      <div class="corner">
        <button type="button" @click="full.toggle()">
          {{ full.isFullscreen.value ? 'Window' : 'Full screen' }}
        </button>
        <button type="button" @click="leave">Leave</button>
      </div>
    </header>
    <ol class="beats" aria-hidden="true">
      <li
        v-for="(number, index) in beats"
        :key="index"
        :class="{ now: index === beat }"
        :data-testid="index === beat ? 'beat' : undefined"
      >
        {{ index === 0 && bar && (numbers[bar.index] ?? 1) > 1 ? numbers[bar.index] : number }}
      </li>
    </ol>
    <WristPath
      v-if="here"
      :pattern="here.pattern"
      :phase="here.phase"
      :reach="here.reach"
      :strings="strings"
      :flags="here.flags"
      :counts="here.counts"
      :heard="heard && bar ? heard.tick - bar.tick : null"
      :flipped="view.bassAtBottom"
      :width="Math.min(1180, width - (width < 640 ? 32 : 64))"
      class="path"
    />
    <p v-if="sung.length > 0" class="sung" aria-label="Lyrics">
      <BarWords
        v-if="bar"
        :pieces="sung[bar.index] ?? []"
        :from="bar.tick"
        :ticks="bar.ticks"
        :now="heard?.tick ?? null"
      />
      <span class="quiet">{{ comes ? joinedWords(wordsOf(comes.index)) : '' }}</span>
    </p>
    <div v-if="next && height > (sung.length > 0 ? 940 : 640)" class="next">
      <WristPath
        :pattern="next.pattern"
        :phase="next.phase"
        :reach="next.reach"
        :strings="strings"
        :flags="next.flags"
        :flipped="view.bassAtBottom"
        size="middle"
        :width="560"
      />
    </div>
    <footer>
      <span v-if="sounding?.countIn">count-in</span>
      <span v-else-if="bar">bar {{ bar.index + 1 }} of {{ player.bars.length }}</span>
      <span>{{ song.title }}</span>
      <span>{{ Math.round(sounding?.tempo ?? song.tempo * mixer.speed) }}</span>
      <button type="button" class="play" @click="toggle">
        <i class="pi" :class="playing ? 'pi-stop' : 'pi-play'" aria-hidden="true" />
        {{ playing ? 'Stop' : 'Play' }}
      </button>
      <span v-if="!playing">any key or a pedal plays</span>
    </footer>
  </section>
</template>

<style scoped>
.stand {
  position: fixed;
  inset: 0;
  z-index: 30;
  background: var(--paper);
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr) auto auto auto;
  gap: 1.2vh;
  padding: 2vh 32px;
  overflow: hidden;
}

header {
  display: flex;
  align-items: baseline;
  gap: 3vw;
  font-family: var(--display);
}

.chord {
  font-size: clamp(5rem, 22vh, 15rem);
  font-weight: 750;
  line-height: 0.95;
  letter-spacing: -0.03em;
}

.waiting {
  opacity: 0.45;
}

.then {
  display: flex;
  align-items: baseline;
  gap: 1.5vw;
  font-size: clamp(1.6rem, 5vh, 3.2rem);
  color: var(--ink-soft);
}

.then b {
  font-size: clamp(3rem, 13vh, 9rem);
  font-weight: 650;
  color: var(--brass-ink);
  line-height: 1;
}

.corner {
  margin-left: auto;
  align-self: start;
  display: flex;
  gap: 0.6rem;
}

.play,
.corner button {
  border: 0;
  background: var(--paper-sunk);
  color: var(--ink-soft);
  border-radius: var(--radius);
  padding: 0.5rem 1rem;
  font-size: 1rem;
  cursor: pointer;
}

.beats {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  gap: 2vw;
  font-family: var(--display);
  font-size: clamp(2.4rem, 9vh, 6rem);
  font-weight: 700;
  line-height: 1;
  color: var(--string);
}

.beats li {
  min-width: 1em;
}

.beats .now {
  color: var(--brass-ink);
}

.path {
  align-self: center;
  min-height: 0;
}

/** Words and the bar that comes have their rows also where they are not there. */
.sung {
  grid-row: 4;
  display: grid;
  gap: 0.2em;
  font-size: clamp(1.4rem, 4.5vh, 2.6rem);
  min-width: 0;
}

.sung .quiet {
  font-size: 0.7em;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.next {
  grid-row: 5;
  opacity: 0.75;
  justify-self: end;
}

footer {
  grid-row: 6;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2.5vw;
  font-size: 1.3rem;
  color: var(--ink-soft);
}

.flash {
  position: absolute;
  inset: 0;
  background: var(--brass);
  opacity: 0;
  animation: flash 0.18s ease-out;
  pointer-events: none;
}

.flash.first {
  background: var(--coral);
}

@keyframes flash {
  from {
    opacity: 0.45;
  }

  to {
    opacity: 0;
  }
}

@media (max-width: 40rem) {
  .stand {
    padding: 1.5vh 16px;
  }

  header {
    flex-wrap: wrap;
  }

  .chord {
    font-size: clamp(4rem, 13vh, 8rem);
  }

  .then b {
    font-size: clamp(2rem, 8vh, 5rem);
  }

  .beats {
    font-size: clamp(2rem, 6vh, 4rem);
  }

  .corner {
    order: -1;
    flex-basis: 100%;
    justify-content: end;
  }
}
</style>
