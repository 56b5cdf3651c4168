<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue';
import type { Pattern } from '#core/schema';
import { beatTicks, count } from '#core/time';
import {
  divisions,
  isLoud,
  slots,
  slotSentences,
  sounds,
  strokeSign,
  strokeWord,
} from '#core/stroke';
import {
  DENSE_WIDTH,
  drawPath,
  FRAMES,
  type PathFrame,
  type Reach,
  SCALES,
  SMALL_WIDTH,
  WORD_ROOM,
} from '#core/path';
import type { ChordFlag } from '#core/arrange';
import PathFlags from './PathFlags.vue';
import RidingHand from './RidingHand.vue';
import { useStrings } from './turned';

const props = withDefaults(
  defineProps<{
    pattern: Pattern;
    strings: number;
    flags?: ChordFlag[];
    /** Strings of each slot by index; what the stroke says of itself where there is none. */
    reach?: Map<number, Reach>;
    /** Which bar it begins with, where there are several rows. */
    caption?: string;
    /** Half-swings, slots, that went before: a row of a longer pattern. */
    phase?: number;
    firstSlot?: number;
    /** What is counted on each slot, and its sentence; the pattern's own where they are left out. */
    counts?: string[];
    sentences?: string[];
    /** The slot that the keys act on, and the slots that are selected, by index in this drawing. */
    cursor?: number | null;
    selected?: { from: number; to: number } | null;
    /** Slots that a finding stands on. */
    marked?: number[];
    /** What is heard, in ticks from the start of the drawing; null where it is elsewhere. */
    heard?: number | null;
    size?: 'big' | 'middle' | 'small';
    /** Width in pixels; the small one keeps its own. */
    width?: number;
    /** A small one that is narrower still. */
    dense?: boolean;
    /** The bass string at the bottom, as in tablature. */
    flipped?: boolean;
    /** Players may place strokes on it. */
    editable?: boolean;
    /** Flags may be taken to another slot. */
    plantable?: boolean;
    /** Its flags may be taken along by themselves, in a small one that is all one button. */
    carries?: boolean;
    /** Laid over another, to compare: only its arm and strokes, as outlines. */
    overlay?: boolean;
  }>(),
  {
    flags: () => [],
    reach: undefined,
    caption: undefined,
    phase: 0,
    firstSlot: 0,
    counts: undefined,
    sentences: undefined,
    cursor: null,
    selected: null,
    marked: () => [],
    heard: null,
    size: 'big',
    width: 1180,
  },
);

const emit = defineEmits<{
  select: [slot: number, extend: boolean];
  /** A tap, or a swipe in a direction, on a slot. */
  touch: [slot: number, gesture: 'tap' | 'down' | 'up', accent: boolean];
  /** A flag was taken from one tick of the drawing to another. */
  plant: [from: number, to: number];
}>();

const measures = computed(
  () => FRAMES[props.size === 'small' && props.dense ? 'dense' : props.size],
);
const full = computed(() => props.size !== 'small');
const scale = computed(() => SCALES[props.size]);
const drawingWidth = computed(() =>
  full.value ? Math.max(240, props.width) : props.dense ? DENSE_WIDTH : SMALL_WIDTH,
);
const frame = computed<PathFrame>(() => {
  const { pad, top, bottom, bandTop, bandBottom } = measures.value;
  const rest = { width: drawingWidth.value, pad, strings: props.strings };
  return props.flipped
    ? { ...rest, top: bottom, bottom: top, bandTop: bandBottom, bandBottom: bandTop }
    : { ...rest, top, bottom, bandTop, bandBottom };
});
const drawn = computed(() =>
  drawPath(
    props.pattern,
    frame.value,
    (slot) => props.reach?.get(slot) ?? null,
    scale.value,
    props.phase,
  ),
);
const spoken = computed(() => props.sentences ?? slotSentences(props.pattern));
const narrow = computed(() =>
  drawn.value.slots.some(
    ({ left, right }) => right - left < WORD_ROOM * (scale.value === 1 ? 1 : 0.9),
  ),
);
const words = computed(() => {
  if (!full.value) return [];
  const syllables = props.counts ?? count(divisions(props.pattern), props.pattern.meter);
  return slots(props.pattern).map(({ position, stroke }, index) => ({
    count: syllables[index]!,
    word: narrow.value
      ? strokeSign(stroke)
      : isLoud(stroke)
        ? strokeWord(stroke).toUpperCase()
        : strokeWord(stroke),
    loud: isLoud(stroke),
    onBeat: position === 0,
    silent: !sounds(stroke),
  }));
});

const LEVELS = { ghost: 1.5, normal: 4, accent: 7, strong: 10 };
/** The builds as wedges under the band: as thick at each end as it is loud. */
const wedges = computed(() => {
  const { bottom } = measures.value;
  const beat = beatTicks(props.pattern.meter);
  return (full.value ? (props.pattern.builds ?? []) : []).map((build) => {
    const left = drawn.value.xOf(build.beat * beat);
    const right = drawn.value.xOf((build.beat + build.beats) * beat) - 12;
    const y = bottom + 9;
    const [thin, thick] = [LEVELS[build.from] / 2, LEVELS[build.to] / 2];
    return `M${left},${y - thin}L${right},${y - thick}L${right},${y + thick}L${left},${y + thin}Z`;
  });
});

const marks = computed(() => drawn.value.slots.filter(({ index }) => props.marked.includes(index)));
const chosen = computed(() => {
  const { selected } = props;
  const first = selected && drawn.value.slots[Math.max(0, selected.from)];
  const last = selected && drawn.value.slots[Math.min(drawn.value.slots.length, selected.to) - 1];
  return first && last && last.index >= first.index
    ? { x: first.left, width: last.right - first.left }
    : null;
});
const isSelected = (index: number) =>
  props.selected
    ? index >= props.selected.from && index < props.selected.to
    : index === props.cursor;

/** The open song's strings, where it is these that are drawn; else the first, nearest the thumb, is the thickest. */
const songStrings = useStrings();
const known = computed(() =>
  songStrings.value?.names.length === props.strings ? songStrings.value : null,
);
const gauge = (string: number) => {
  const thickness = known.value?.thickness[string] ?? 1 - string / props.strings;
  return full.value ? 1.1 + 1.9 * thickness : 0.6 + 0.8 * thickness;
};
const names = computed(() => (full.value && !props.overlay ? (known.value?.names ?? []) : []));

const SWIPE = 16;
let pressed: { slot: number; y: number } | null = null;

function press(event: PointerEvent, slot: number): void {
  if (!props.editable) return;
  pressed = event.shiftKey ? null : { slot, y: event.clientY };
  emit('select', props.firstSlot + slot, event.shiftKey);
}

function release(event: PointerEvent): void {
  if (!pressed) return;
  const way = (event.clientY - pressed.y) * (props.flipped ? -1 : 1);
  const gesture = way > SWIPE ? 'down' : way < -SWIPE ? 'up' : 'tap';
  emit('touch', props.firstSlot + pressed.slot, gesture, event.altKey);
  pressed = null;
}

const svg = useTemplateRef<SVGSVGElement>('svg');
const slotTicks = computed(() => slots(props.pattern).map(({ tick }) => tick));
/** The end of what is drawn: where a chord that lands before the next bar line has its place. */
const end = computed(() => props.pattern.beats.length * beatTicks(props.pattern.meter));
/** An eighth before the bar line, where a chord that is played early lands. */
const BEFORE = -480;
/** The flag that is being dragged, and the slot it is over. */
const dragged = ref<{ from: number; to: number } | null>(null);

function drag(event: PointerEvent, tick: number): void {
  (event.target as HTMLElement).setPointerCapture(event.pointerId);
  dragged.value = { from: tick, to: tick };
}

function over(event: PointerEvent): void {
  const box = svg.value?.getBoundingClientRect();
  if (!dragged.value || !box) return;
  const x = ((event.clientX - box.left) / box.width) * drawingWidth.value;
  const nearest = drawn.value.slots.reduce((best, slot) =>
    Math.abs(slot.x - x) < Math.abs(best.x - x) ? slot : best,
  );
  // To the left of all of them it lands before the bar line.
  const isBefore = x < drawn.value.slots[0]!.left;
  dragged.value = { ...dragged.value, to: isBefore ? BEFORE : slotTicks.value[nearest.index]! };
}

function drop(): void {
  const last = dragged.value;
  dragged.value = null;
  if (last && last.to !== last.from) emit('plant', last.from, last.to);
}

/** To the slot before or after, with the arrow keys. */
function step(tick: number, by: 1 | -1): void {
  const to =
    by > 0 ? slotTicks.value.find((at) => at > tick) : slotTicks.value.findLast((at) => at < tick);
  if (to !== undefined) emit('plant', tick, to);
  else emit('plant', tick, by < 0 ? BEFORE : end.value);
}

const share = (x: number) => `${(100 * x) / drawingWidth.value}%`;
</script>

<template>
  <div class="wrist-path" :class="[full ? 'full' : 'small', size, { overlay }]">
    <svg
      ref="svg"
      :viewBox="`0 0 ${drawingWidth} ${measures.height}`"
      aria-hidden="true"
      focusable="false"
    >
      <line
        v-if="dragged"
        class="target"
        :x1="drawn.xOf(Math.max(0, dragged.to))"
        :x2="drawn.xOf(Math.max(0, dragged.to))"
        y1="0"
        :y2="measures.bottom"
      />
      <template v-if="full">
        <rect
          v-if="chosen"
          class="chosen"
          :x="chosen.x"
          :width="chosen.width"
          :y="measures.top - 22"
          :height="measures.height - measures.top + 20"
          rx="8"
        />
        <rect
          v-if="cursor !== null && drawn.slots[cursor]"
          class="cursor"
          :x="drawn.slots[cursor]!.left"
          :width="drawn.slots[cursor]!.right - drawn.slots[cursor]!.left"
          :y="measures.top - 22"
          :height="measures.height - measures.top + 20"
          rx="8"
        />
        <path
          v-for="mark in marks"
          :key="`m${mark.index}`"
          class="mark"
          data-testid="finding-mark"
          :d="`M${mark.left + 3},${measures.bottom + 6}H${mark.right - 3}`"
        />
        <path
          v-for="(wedge, index) in wedges"
          :key="`b${index}`"
          class="wedge"
          data-testid="build"
          :d="wedge"
        >
          <title>Build: from soft to loud, or back</title>
        </path>
      </template>
      <template v-if="!overlay">
        <line
          v-for="(y, string) in drawn.strings"
          :key="`s${string}`"
          class="string"
          x1="0"
          :x2="drawingWidth"
          :y1="y"
          :y2="y"
          :stroke-width="gauge(string)"
        />
        <text
          v-for="(name, string) in names"
          :key="`n${string}`"
          class="string-name"
          x="0"
          :y="drawn.strings[string]! + 3.5"
          aria-hidden="true"
        >
          {{ name }}
        </text>
      </template>
      <path
        v-for="(piece, index) in drawn.arm"
        :key="`a${index}`"
        class="arm"
        :class="piece.kind"
        :data-testid="piece.kind"
        :d="piece.d"
      >
        <title v-if="piece.kind === 'kink'">Against the arm: it has to turn back here</title>
      </path>
      <path v-for="d in drawn.sweeps" :key="d" class="sweep" data-testid="sweep" :d="d" />
      <g
        v-for="slot in drawn.slots"
        :key="`k${slot.index}`"
        :class="{ against: slot.against, hollow: slot.hollow }"
      >
        <title v-if="full">{{ spoken[slot.index] }}</title>
        <path v-if="slot.blur" class="blur" :d="slot.blur" />
        <path v-for="(outline, index) in slot.brushes" :key="index" class="brush" :d="outline" />
        <path v-if="slot.hatches" class="hatch" :d="slot.hatches" />
        <template v-for="(dot, index) in slot.dots" :key="`d${index}`">
          <circle class="dot" :class="{ open: dot.open }" :cx="dot.x" :cy="dot.y" :r="10 * scale" />
          <text
            v-if="full"
            class="dot-letter"
            :class="{ open: dot.open }"
            :x="dot.x"
            :y="dot.y + 4.5 * scale"
            :font-size="(dot.label.length > 2 ? 9.5 : 13) * Math.max(scale, 0.8)"
          >
            {{ dot.label }}
          </text>
        </template>
        <template v-for="(arc, index) in slot.arcs" :key="`g${index}`">
          <path class="arc" :d="arc.d" />
          <text v-if="full && arc.letter" class="arc-letter" :x="arc.x" :y="arc.y">
            {{ arc.letter }}
          </text>
        </template>
        <template v-if="slot.ring">
          <circle class="ring" :cx="slot.ring.x" :cy="slot.ring.y" :r="7 * scale" />
          <circle
            v-if="slot.ring.slap"
            class="ring"
            :cx="slot.ring.x"
            :cy="slot.ring.y"
            :r="3 * scale"
          />
        </template>
        <text v-if="slot.fingers && full" class="fingers" :x="slot.fingers.x" :y="slot.fingers.y">
          {{ slot.fingers.letters }}
        </text>
        <circle
          v-for="(accent, index) in slot.accents"
          :key="`l${index}`"
          class="accent"
          :cx="accent.x"
          :cy="accent.y"
          :r="full ? 5 * scale : 2.4"
        />
      </g>
      <PathFlags
        v-if="!overlay"
        :carries="carries"
        :flags="flags"
        :x-of="drawn.xOf"
        :foot="measures.bandBottom + (full ? 26 : 6)"
        :heard="heard"
        :big="full"
        @grab="(event, tick) => carries && drag(event, tick)"
        @pull="over"
        @let-go="drop"
      />
      <template v-if="full && !overlay">
        <g v-for="(slot, index) in drawn.slots" :key="`w${index}`" class="count">
          <text :class="words[index]!.onBeat ? 'beat' : 'between'" :x="slot.x" :y="measures.count">
            {{ words[index]!.count }}
          </text>
          <text
            class="word"
            :class="{ loud: words[index]!.loud, silent: words[index]!.silent }"
            :x="slot.x"
            :y="measures.word"
          >
            {{ words[index]!.word }}
          </text>
        </g>
      </template>
      <text v-if="caption" class="caption" :x="drawingWidth - 4" y="20">{{ caption }}</text>
      <RidingHand v-if="heard !== null" :at="drawn.handAt(heard)" :big="full" />
    </svg>
    <button
      v-for="flag in plantable ? flags : []"
      :key="`h${flag.tick}`"
      type="button"
      class="handle"
      :style="{ left: share(drawn.xOf(flag.tick)) }"
      :aria-label="`${flag.symbol}: drag it, or move it with the arrow keys`"
      @pointerdown="drag($event, flag.tick)"
      @pointermove="over"
      @pointerup="drop"
      @pointercancel="dragged = null"
      @keydown.left.prevent="step(flag.tick, -1)"
      @keydown.right.prevent="step(flag.tick, 1)"
    />
    <slot :left="(tick: number) => share(drawn.xOf(tick))" />
    <div
      v-if="editable"
      class="slots"
      :role="plantable ? 'listbox' : 'group'"
      :aria-label="caption ?? 'The whole pattern'"
      @pointerup="release"
      @pointercancel="pressed = null"
    >
      <div
        v-for="slot in drawn.slots"
        :id="`slot-${firstSlot + slot.index}`"
        :key="slot.index"
        role="option"
        :aria-selected="isSelected(slot.index)"
        :aria-label="spoken[slot.index]"
        :title="spoken[slot.index]"
        :style="{ left: share(slot.left), width: share(slot.right - slot.left) }"
        @pointerdown="press($event, slot.index)"
      />
    </div>
  </div>
</template>

<style scoped src="./wristPath.css"></style>
