<script setup lang="ts">
import { computed } from 'vue';
import {
  isNoChord,
  type Landing,
  landings as landingsOf,
  parseChord,
  type PlayedBar,
  playedBars,
  type Song,
} from '#core';
import BarPath from './BarPath.vue';
import type { Flag } from './PathFlags.vue';

/** The bars of a song as they are written, section by section and line by line. */
const props = defineProps<{
  song: Song;
  /** The bar that was chosen, as it is played. */
  selected?: PlayedBar | null;
  /** The bar that sounds, and how far into it we are, in ticks. */
  live?: { bar: PlayedBar; tick: number } | null;
}>();
defineEmits<{ choose: [bar: PlayedBar] }>();

const strings = computed(() => props.song.instrument.strings.length);
const bars = computed(() => playedBars(props.song));

interface WrittenBar {
  played: PlayedBar;
  flags: Flag[];
  label: string;
}

function flagsOf(bar: PlayedBar, changes: Landing[]): Flag[] {
  return changes
    .filter(({ tick }) => tick >= bar.tick && tick < bar.tick + bar.ticks)
    .map(({ tick, symbol }) => ({
      tick: tick - bar.tick,
      symbol,
      known: parseChord(symbol) !== null || isNoChord(symbol),
    }));
}

/** Each written bar where it is first played. */
const rows = computed(() => {
  const changes = landingsOf(bars.value);
  const first = new Map<string, PlayedBar>();
  for (const bar of bars.value) {
    const key = `${bar.section}/${bar.line}/${bar.bar}`;
    if (!first.has(key)) first.set(key, bar);
  }
  return props.song.sections.map((section, sectionIndex) => ({
    name: section.name,
    lines: section.lines.map((line, lineIndex) => ({
      times: line.times,
      bars: line.bars.map((content, index): WrittenBar => {
        const played = first.get(`${sectionIndex}/${lineIndex}/${index}`)!;
        const flags = flagsOf(played, changes);
        const chords = flags.map((flag) => flag.symbol).join(', ') || 'chord held';
        const broken = content.unread === undefined ? '' : ', cannot be read yet';
        return { played, flags, label: `Bar ${played.index + 1}: ${chords}${broken}` };
      }),
    })),
  }));
});

const isSame = (a: PlayedBar | null | undefined, b: PlayedBar) =>
  a != null && a.section === b.section && a.line === b.line && a.bar === b.bar;
</script>

<template>
  <div class="rows">
    <section v-for="(section, index) in rows" :key="index">
      <h2 v-if="section.name">{{ section.name }}</h2>
      <div v-for="(line, at) in section.lines" :key="at" class="line">
        <div class="bars">
          <BarPath
            v-for="bar in line.bars"
            :key="bar.played.bar"
            :pattern="song.pattern"
            :strings="strings"
            :flags="bar.flags"
            :number="bar.played.index + 1"
            :label="bar.label"
            :live="isSame(live?.bar, bar.played)"
            :selected="isSame(selected, bar.played)"
            :heard="isSame(live?.bar, bar.played) ? live!.tick : null"
            :class="{ unread: bar.played.content.unread !== undefined }"
            @choose="$emit('choose', bar.played)"
          />
        </div>
        <span v-if="line.times > 1" class="times">{{ line.times }} times</span>
      </div>
    </section>
  </div>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 0.8rem;
}

h2 {
  font-size: 1.05rem;
  margin-bottom: 0.1rem;
}

.line {
  display: flex;
  align-items: center;
  gap: 0.6rem;
  padding-right: 4.8rem;
  position: relative;
}

.bars {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(max(13rem, 24%), 1fr));
  gap: 0.1rem;
  flex: 1;
}

.times {
  /* In a margin that every line keeps free, so that all bars are of one width. */
  position: absolute;
  right: 0;
  font-family: var(--display);
  font-weight: 600;
  white-space: nowrap;
}

.unread {
  background: var(--coral-soft);
}
</style>
