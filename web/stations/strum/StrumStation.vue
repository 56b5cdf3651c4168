<script setup lang="ts">
import Button from 'primevue/button';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import {
  armReport,
  commands,
  type Division,
  firstFrom,
  isNoChord,
  itemAt,
  naturalDirections,
  parseChord,
  type Song,
  slots,
  sounds,
  type Stroke,
  strum,
} from '#core';
import ChordCard from '../../components/ChordCard.vue';
import type { Flag } from '../../components/PathFlags.vue';
import WristPath from '../../components/WristPath.vue';
import type { Reach } from '../../components/wristPath';
import { useHeldStore } from '../../stores/held';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import PatternShelf from './PatternShelf.vue';
import SayLine from './SayLine.vue';
import StrokeTools from './StrokeTools.vue';
import { KEY_CARD, type KeyPress, patternAction, type PatternAction } from './patternKeys';

const songs = useSongStore();
const player = usePlayerStore();
const heldChords = useHeldStore();
const song = computed<Song>(() => songs.song!);
const pattern = computed(() => song.value.pattern);
const grid = computed(() => slots(pattern.value));
const natural = computed(() => naturalDirections(pattern.value));
const report = computed(() => armReport(pattern.value, song.value.tempo));

const cursor = ref(0);
watch(grid, (now) => (cursor.value = Math.min(cursor.value, now.length - 1)));
const here = computed(() => grid.value[cursor.value] ?? grid.value[0]!);

/** The bar that the pattern is drawn on: its chords, and the strings that each stroke reaches. */
const bar = computed(() => player.bar);

const flags = computed<Flag[]>(() => {
  const changes = player.performance?.landings ?? [];
  if (!bar.value) return [];
  const { tick, ticks } = bar.value;
  const inside = changes.slice(firstFrom(changes, tick), firstFrom(changes, tick + ticks));
  const flag = (at: number, symbol: string) => ({
    tick: at,
    symbol,
    known: parseChord(symbol) !== null || isNoChord(symbol),
  });
  const shown = inside.map((change) => flag(change.tick - tick, change.symbol));
  const before = itemAt(changes, tick);
  if (before && before.tick < tick) shown.unshift(flag(0, before.symbol));
  return shown;
});
const barChords = computed(() => [...new Set(flags.value.map((flag) => flag.symbol))]);

const reach = computed(() => {
  const found = new Map<number, Reach>();
  const strikes = player.performance?.strikes ?? [];
  if (!bar.value) return found;
  const { tick, ticks } = bar.value;
  for (const strike of strikes.slice(firstFrom(strikes, tick), firstFrom(strikes, tick + ticks))) {
    const touched = strike.notes.map((note) => note.string);
    if (touched.length === 0) continue;
    found.set(strike.slot, {
      first: Math.min(...touched),
      last: Math.max(...touched),
      bass: strike.kind === 'bass' ? touched[0]! : null,
    });
  }
  return found;
});

const heard = computed(() => {
  const now = player.heard;
  return now && !now.countIn && bar.value ? now.tick - bar.value.tick : null;
});
const liveChord = computed(() => {
  const at = heard.value;
  return at === null ? null : (flags.value.findLast(({ tick }) => tick <= at)?.symbol ?? null);
});

const answer = computed(() => {
  const all = grid.value.length;
  const sounding = grid.value.filter(({ stroke }) => sounds(stroke)).length;
  const { against, rate, busiest } = report.value;
  const at = `at ${song.value.tempo}`;
  if (against.length > 0) {
    const strokes = against.length === 1 ? '1 stroke goes' : `${against.length} strokes go`;
    return `${strokes} against the arm: up to ${busiest.toFixed(1)} half-swings a second ${at}.`;
  }
  return `${sounding} of ${all} swings sound; the arm makes ${rate.toFixed(1)} half-swings a second ${at}.`;
});

function place(slot: number, stroke: Stroke): void {
  songs.run(commands.setStroke(slot, stroke));
}

function moveTo(slot: number): void {
  cursor.value = (slot + grid.value.length) % grid.value.length;
}

function toggleAccent(): void {
  const { stroke } = here.value;
  if (!sounds(stroke)) return;
  const loud = stroke.accent === 'accent' || stroke.accent === 'strong';
  songs.run(commands.setAccent(cursor.value, loud ? 'normal' : 'accent'));
}

async function divide(division: Division): Promise<void> {
  const { beat } = here.value;
  if (pattern.value.beats[beat]!.division === division) return;
  songs.run(commands.divideBeat(beat, division));
  await nextTick();
  cursor.value = grid.value.find((slot) => slot.beat === beat)!.index;
}

function act(action: PatternAction): void {
  switch (action.do) {
    case 'place':
      place(cursor.value, action.stroke);
      moveTo(cursor.value + 1);
      break;
    case 'erase':
      moveTo(cursor.value - 1);
      place(cursor.value, { kind: 'miss' });
      break;
    case 'accent':
      toggleAccent();
      break;
    case 'divide':
      void divide(action.division);
      break;
    case 'move':
      moveTo(cursor.value + action.by);
      break;
    case 'edge':
      moveTo(action.to === 'first' ? 0 : -1);
  }
}

/** Does what a key does; false where it has no meaning here. */
function press(key: KeyPress): boolean {
  const action = patternAction(key, natural.value[cursor.value]!);
  if (action) act(action);
  return action !== null;
}

function onKey(event: KeyboardEvent): void {
  if (press(event)) event.preventDefault();
}

/** A tap puts the arm's own stroke where it missed, or takes the stroke away; a swipe places one. */
function touch(slot: number, gesture: 'tap' | 'down' | 'up', accented: boolean): void {
  const accent = accented ? 'accent' : 'normal';
  if (gesture !== 'tap') return place(slot, strum(gesture, accent));
  const sounding = sounds(grid.value[slot]!.stroke);
  place(slot, sounding && !accented ? { kind: 'miss' } : strum(natural.value[slot]!, accent));
}

const path = useTemplateRef<HTMLElement>('path');
function focusPath(): void {
  path.value?.querySelector<HTMLElement>('[role=listbox]')?.focus();
}

function step(by: number): void {
  const last = player.bars.length - 1;
  player.selectedBar = Math.min(last, Math.max(0, player.selectedBar + by));
}
</script>

<template>
  <section class="station">
    <div class="top">
      <h1 class="answer">{{ answer }}</h1>
      <div v-if="bar" class="bar-choice">
        <Button
          icon="pi pi-chevron-left"
          text
          rounded
          aria-label="Bar before"
          :disabled="player.playing || player.selectedBar === 0"
          @click="step(-1)"
        />
        <span>on bar {{ bar.index + 1 }}</span>
        <Button
          icon="pi pi-chevron-right"
          text
          rounded
          aria-label="Next bar"
          :disabled="player.playing || player.selectedBar >= player.bars.length - 1"
          @click="step(1)"
        />
      </div>
    </div>

    <div ref="path" class="path" @keydown="onKey">
      <WristPath
        :pattern="pattern"
        :strings="song.instrument.strings.length"
        :flags="flags"
        :reach="reach"
        :cursor="cursor"
        :heard="heard"
        editable
        @select="cursor = $event"
        @touch="touch"
      />
    </div>

    <ul v-if="report.against.length > 0" class="findings" aria-label="What the arm says">
      <li v-for="finding in report.against" :key="finding.slot">
        <button type="button" @click="((cursor = finding.slot), focusPath())">
          {{ finding.reason }}
        </button>
      </li>
    </ul>

    <SayLine :pattern="pattern" />

    <StrokeTools
      :beat="here.beat"
      :division="pattern.beats[here.beat]!.division"
      :school="pattern.arm.school"
      @press="press({ key: $event })"
      @school="songs.run(commands.setArmSchool($event))"
    />

    <div class="lower">
      <div class="chords" aria-label="Chords of this bar">
        <ChordCard
          v-for="symbol in barChords"
          :key="symbol"
          :symbol="symbol"
          :held="heldChords.of(symbol)"
          :sounding="heldChords.soundsAs(symbol)"
          :instrument="song.instrument"
          :capo="song.capo"
          :live="symbol === liveChord"
          small
        />
        <p v-if="barChords.length === 0" class="quiet">
          No chord here yet: write the progression on the Song station.
        </p>
      </div>
      <div class="side">
        <ul class="keys" aria-label="Keys on the path">
          <li v-for="entry in KEY_CARD" :key="entry.does">
            <kbd v-for="key in entry.keys" :key="key">{{ key }}</kbd> {{ entry.does }}
          </li>
        </ul>
        <PatternShelf />
      </div>
    </div>
  </section>
</template>

<style scoped>
.station {
  gap: 0.8rem;
}

.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 1rem;
}

.bar-choice {
  display: flex;
  align-items: center;
  white-space: nowrap;
}

.findings {
  list-style: none;
  margin: 0;
  padding: 0;
}

.findings button {
  border: 0;
  background: none;
  padding: 0;
  color: var(--coral);
  font-weight: 600;
  text-align: left;
  cursor: pointer;
}

.lower {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 1.5rem;
}

.chords {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(17rem, 1fr));
  gap: 0.8rem;
  align-content: start;
}

.side {
  display: grid;
  gap: 0.7rem;
  align-content: start;
}

.keys {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem 1.1rem;
  font-size: 0.95rem;
}

@media (max-width: 62rem) {
  .lower {
    grid-template-columns: minmax(0, 1fr);
  }
}

@media (max-width: 40rem) {
  /* The path keeps a width that can be read and touched, and scrolls. */
  .path {
    overflow-x: auto;
  }

  .path > * {
    min-width: 44rem;
  }

  .top {
    flex-wrap: wrap;
  }
}
</style>
