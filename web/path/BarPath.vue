<script setup lang="ts">
import { useIntersectionObserver } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { Pattern } from '#core/schema';
import type { SungPiece } from '#core/song';
import type { Reach } from '#core/path';
import type { ChordFlag } from '#core/arrange';
import BarWords from './BarWords.vue';
import { useBassAtBottom } from './turned';
import WristPath from './WristPath.vue';

/** One bar of a song as it is written: a small wrist path with its flags and its number. */
const props = defineProps<{
  pattern: Pattern;
  phase: number;
  strings: number;
  /** The strings of its picks and basses, by slot. */
  reach?: Map<number, Reach>;
  flags: ChordFlag[];
  number: number;
  /** How it is counted where its chord is held: "2 2 3 4". */
  counted: string;
  /** An ending, or how often its line is played. */
  note: string;
  /** A flag stands where the number would be beside a note. */
  tight?: boolean;
  /** What its rhythm does otherwise, in words. */
  differs: string | null;
  /** In words, for a screen reader. */
  label: string;
  live: boolean;
  selected: boolean;
  heard: number | null;
  /** Narrow, where many stand in a row. */
  dense: boolean;
  /** The letter of its rhythm, where the song has several. */
  mark?: string;
  /** Where it is written: section, line and bar. */
  place?: string;
  /** What is sung in it the first time, in ticks from its start; and its length. */
  words?: SungPiece[];
  ticks?: number;
  /** Its flags may be taken along, to another slot. */
  carries?: boolean;
  /** It is in the first picture, and is drawn with it. */
  first?: boolean;
}>();
const emit = defineEmits<{ plant: [place: string, from: number, to: number] }>();
const bassAtBottom = useBassAtBottom();

/** Where the last flag stands at the very end, the note of its line stands before that flag. */
const VERY_LATE = 0.65;
const noteAt = computed(() => {
  const last = props.flags.at(-1);
  const share = last && props.ticks ? last.tick / props.ticks : 0;
  return props.note && share > VERY_LATE ? { right: `${100 - 100 * share}%` } : undefined;
});

/** Drawn once it comes near the window: a long song opens at once. */
const root = ref<HTMLElement>();
const near = ref(props.first);
const { stop } = useIntersectionObserver(
  root,
  (entries) => {
    if (!entries.some(({ isIntersecting }) => isIntersecting)) return;
    near.value = true;
    stop();
  },
  { rootMargin: '300px' },
);
</script>

<template>
  <button
    ref="root"
    type="button"
    class="bar"
    :class="{ live, selected, dense, first }"
    :aria-label="label"
    :aria-pressed="selected"
    :aria-current="live || undefined"
    :data-place="place"
  >
    <span class="number" :style="noteAt" aria-hidden="true" :title="differs ?? undefined">
      <b v-if="note">{{ note }}</b>
      <span v-if="counted" class="counted">{{ counted }}</span>
      <i v-if="differs && !mark" class="pi pi-bookmark-fill" />
      <b v-if="mark" class="mark" data-testid="rhythm-letter">{{ mark }}</b>
      <template v-if="!(note && tight)">{{ number > 0 ? number : '–' }}</template>
    </span>
    <WristPath
      v-if="near"
      :pattern="pattern"
      :phase="phase"
      :strings="strings"
      :reach="reach"
      :flags="flags"
      :heard="heard"
      :flipped="bassAtBottom"
      :dense="dense"
      :carries="carries"
      size="small"
      @plant="(from, to) => emit('plant', place ?? '', from, to)"
    />
    <span v-else class="place" :class="{ dense }" />
    <BarWords v-if="words?.length" :pieces="words" :from="0" :ticks="ticks ?? 1" />
  </button>
</template>

<style scoped>
.bar :deep(.words) {
  font-size: 0.92rem;
  line-height: 1.1;
}

.bar {
  border: 0;
  background: none;
  padding: 0.25rem 0.4rem 0.35rem;
  text-align: left;
  color: inherit;
  cursor: pointer;
  border-radius: var(--radius);
  border-bottom: 3px solid transparent;
  display: block;
  position: relative;
  min-width: 0;
  /* Bars beyond the window cost nothing until they come near. */
  content-visibility: auto;
  contain-intrinsic-size: auto 7rem;
}

/* Asking whether they are in sight would lay the page out twice. */
.first {
  content-visibility: visible;
}

.place {
  display: block;
  aspect-ratio: 250 / 86;
}

.place.dense {
  aspect-ratio: 150 / 72;
}

.bar:hover {
  background: var(--paper-raised);
}

.bar.selected {
  background: var(--paper-raised);
}

.bar.live {
  border-bottom-color: var(--brass);
}

.number i {
  font-size: 0.65rem;
  color: var(--brass-ink);
}

/* Where there is little room it lies over the end of a late flag, not under it. */
.bar.dense .number i {
  margin-right: -0.2rem;
}

.counted {
  color: var(--brass-ink);
  margin-right: 0.4rem;
}

.number b {
  font-family: var(--display);
  font-weight: 600;
  color: var(--ink);
  margin-right: 0.3rem;
}

.bar.dense {
  padding: 0.05rem 0.3rem 0.05rem;
}

.number {
  position: absolute;
  right: 0.5rem;
  top: 0.2rem;
  z-index: 1;
  font-size: 0.8rem;
  color: var(--ink-soft);
}
</style>
