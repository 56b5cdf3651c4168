<script setup lang="ts">
import { computed } from 'vue';
import { count, divisions, type Pattern, slots, slotSentences, strokeWord } from '#core';
import PathFlags, { type Flag } from './PathFlags.vue';
import RidingHand from './RidingHand.vue';
import { drawPath, type PathFrame, type Reach } from './wristPath';

const props = withDefaults(
  defineProps<{
    pattern: Pattern;
    strings: number;
    flags?: Flag[];
    /** Strings of each slot by index; the whole band where there is none. */
    reach?: Map<number, Reach>;
    /** The slot that the keys act on. */
    cursor?: number | null;
    /** What is heard, in ticks from the start of the drawing; null where it is elsewhere. */
    heard?: number | null;
    size?: 'big' | 'small';
    /** Players may place strokes on it. */
    editable?: boolean;
  }>(),
  { flags: () => [], reach: undefined, cursor: null, heard: null, size: 'big' },
);

const emit = defineEmits<{
  select: [slot: number];
  /** A tap, or a swipe in a direction, on a slot. */
  touch: [slot: number, gesture: 'tap' | 'down' | 'up', accent: boolean];
}>();

const FRAMES = {
  big: { width: 1180, height: 318, pad: 14, top: 66, bottom: 246, bandTop: 98, bandBottom: 214 },
  small: { width: 250, height: 86, pad: 2, top: 30, bottom: 82, bandTop: 38, bandBottom: 74 },
};
const COUNT_Y = 284;
const WORD_Y = 308;

const measures = computed(() => FRAMES[props.size]);
const big = computed(() => props.size === 'big');
const frame = computed<PathFrame>(() => ({ ...measures.value, strings: props.strings }));
const drawn = computed(() =>
  drawPath(
    props.pattern,
    frame.value,
    (slot) => props.reach?.get(slot) ?? null,
    big.value ? 1 : 0.5,
  ),
);
const sentences = computed(() => slotSentences(props.pattern));
const words = computed(() => {
  const syllables = count(divisions(props.pattern), props.pattern.meter.beats);
  return slots(props.pattern).map(({ position, stroke }, index) => ({
    count: syllables[index]!,
    word: strokeWord(stroke),
    loud: 'accent' in stroke && (stroke.accent === 'accent' || stroke.accent === 'strong'),
    onBeat: position === 0,
    silent: stroke.kind === 'miss' || stroke.kind === 'hold',
  }));
});

/** String gauges as drawn: the first, nearest the thumb, is the thickest. */
const gauge = (string: number) =>
  (big.value ? 3 : 1.4) - (string * (big.value ? 1.9 : 0.8)) / props.strings;

const SWIPE = 16;
let pressed: { slot: number; y: number } | null = null;

function press(event: PointerEvent, slot: number): void {
  if (!props.editable) return;
  pressed = { slot, y: event.clientY };
  emit('select', slot);
}

function release(event: PointerEvent): void {
  if (!pressed) return;
  const way = event.clientY - pressed.y;
  const gesture = way > SWIPE ? 'down' : way < -SWIPE ? 'up' : 'tap';
  emit('touch', pressed.slot, gesture, event.shiftKey);
  pressed = null;
}

const share = (x: number) => `${(100 * x) / measures.value.width}%`;
</script>

<template>
  <div class="wrist-path" :class="size">
    <svg :viewBox="`0 0 ${measures.width} ${measures.height}`" aria-hidden="true" focusable="false">
      <rect
        v-if="cursor !== null && drawn.slots[cursor]"
        class="cursor"
        :x="drawn.slots[cursor]!.left"
        :width="drawn.slots[cursor]!.right - drawn.slots[cursor]!.left"
        y="44"
        :height="measures.height - 46"
        rx="8"
      />
      <line
        v-for="(y, string) in drawn.strings"
        :key="`s${string}`"
        class="string"
        x1="0"
        :x2="measures.width"
        :y1="y"
        :y2="y"
        :stroke-width="gauge(string)"
      />
      <path
        v-for="(piece, index) in drawn.arm"
        :key="`a${index}`"
        class="arm"
        :class="piece.kind"
        :d="piece.d"
      />
      <g v-for="slot in drawn.slots" :key="`k${slot.index}`" :class="{ against: slot.against }">
        <path v-if="slot.brush" class="brush" :d="slot.brush" />
        <path v-if="slot.hatches" class="hatch" :d="slot.hatches" />
        <template v-if="slot.dot">
          <circle class="bass" :cx="slot.dot.x" :cy="slot.dot.y" :r="big ? 10 : 4.5" />
          <text v-if="big" class="bass-letter" :x="slot.dot.x" :y="slot.dot.y + 4.5">R</text>
        </template>
        <circle
          v-if="slot.accent"
          class="accent"
          :cx="slot.accent.x"
          :cy="slot.accent.y"
          :r="big ? 5 : 2.4"
        />
      </g>
      <PathFlags
        :flags="flags"
        :x-of="drawn.xOf"
        :foot="measures.bandBottom + (big ? 26 : 6)"
        :heard="heard"
        :big="big"
      />
      <template v-if="big">
        <g v-for="(slot, index) in drawn.slots" :key="`w${index}`" class="count">
          <text :class="words[index]!.onBeat ? 'beat' : 'between'" :x="slot.x" :y="COUNT_Y">
            {{ words[index]!.count }}
          </text>
          <text
            class="word"
            :class="{ loud: words[index]!.loud, silent: words[index]!.silent }"
            :x="slot.x"
            :y="WORD_Y"
          >
            {{ words[index]!.loud ? words[index]!.word.toUpperCase() : words[index]!.word }}
          </text>
        </g>
      </template>
      <RidingHand v-if="heard !== null" :at="drawn.handAt(heard)" :big="big" />
    </svg>
    <div
      v-if="editable"
      class="slots"
      role="listbox"
      tabindex="0"
      aria-label="Strokes of the pattern"
      :aria-activedescendant="cursor === null ? undefined : `slot-${cursor}`"
      @pointerup="release"
      @pointercancel="pressed = null"
    >
      <div
        v-for="slot in drawn.slots"
        :id="`slot-${slot.index}`"
        :key="slot.index"
        role="option"
        :aria-selected="slot.index === cursor"
        :aria-label="sentences[slot.index]"
        :style="{ left: share(slot.left), width: share(slot.right - slot.left) }"
        @pointerdown="press($event, slot.index)"
      />
    </div>
  </div>
</template>

<style scoped>
.wrist-path {
  position: relative;
}

svg {
  display: block;
  width: 100%;
  height: auto;
  overflow: visible;
}

.slots {
  position: absolute;
  inset: 12% 0 0;
  cursor: pointer;
  touch-action: pan-x;
  user-select: none;
}

.slots > div {
  position: absolute;
  top: 0;
  bottom: 0;
}

.cursor {
  fill: var(--brass-soft);
  opacity: 0.75;
}

.string {
  stroke: var(--string);
}

.arm {
  fill: none;
  stroke: var(--arm);
  stroke-width: 1.7;
  stroke-linecap: round;
}

.small .arm {
  stroke-width: 1;
}

.arm.pass {
  stroke-dasharray: 0.5 6;
  stroke-width: 2.2;
}

.small .arm.pass {
  stroke-dasharray: 0.5 3;
  stroke-width: 1.2;
}

.arm.rest {
  stroke-width: 3;
  opacity: 0.6;
}

.arm.kink {
  stroke: var(--coral);
  stroke-width: 2.6;
  stroke-linejoin: bevel;
}

.small .arm.kink {
  stroke-width: 1.6;
}

.brush {
  fill: var(--ink);
}

.hatch {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.2;
  stroke-linecap: round;
}

.small .hatch {
  stroke-width: 1.1;
}

.against .brush {
  fill: var(--coral);
}

.against .hatch {
  stroke: var(--coral);
}

.accent,
.bass {
  fill: var(--brass);
}

.bass-letter {
  fill: var(--paper);
  font-size: 13px;
  font-weight: 700;
  text-anchor: middle;
}

.count text {
  text-anchor: middle;
}

.beat {
  font-family: var(--display);
  font-size: 30px;
  font-weight: 700;
  fill: var(--ink);
}

.between {
  font-family: var(--display);
  font-size: 21px;
  fill: var(--ink-soft);
}

.word {
  font-size: 15px;
  fill: var(--ink);
}

.word.loud {
  font-weight: 700;
}

.word.silent {
  fill: var(--ink-soft);
}
</style>
