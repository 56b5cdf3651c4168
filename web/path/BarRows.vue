<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import { slots } from '#core/stroke';
import type { PlayedBar } from '#core/song';
import { type BarSpan, isInSpan } from '#core/edit';
import {
  type Arrangement,
  type BarPattern,
  type Strike,
  type WrittenBar,
  writtenBars,
} from '#core/arrange';
import { whenIdle } from '../frame/idle';
import BarPath from './BarPath.vue';

/** The bars of a song as they are written, section by section and line by line. */
const props = withDefaults(
  defineProps<{
    /** The song as it is played. */
    arranged: Arrangement;
    /** The bar that was chosen, as it is played, and the bars chosen with it, as they are written. */
    selected?: PlayedBar | null;
    span?: BarSpan | null;
    /** The arranged strikes, to show runs and open strokes where they are played. */
    strikes?: Strike[];
    /** Ticks of strokes that are left out while the hand travels. */
    leftOut?: number[];
    /** The bar that sounds, and how far into it we are, in ticks. */
    live?: { bar: PlayedBar; tick: number } | null;
    /** Letters of the rhythms of the bars, as they are played; none where all are alike. */
    marks?: string[];
    /** How many bars stand in a row; lines of text go on in one row where it is more than four. */
    inRow?: number;
    /** Flags may be taken to another slot. */
    plantable?: boolean;
  }>(),
  {
    selected: null,
    span: null,
    strikes: () => [],
    leftOut: () => [],
    live: null,
    marks: () => [],
    inRow: 4,
  },
);
const emit = defineEmits<{
  choose: [bar: PlayedBar, extend: boolean];
  /** A flag of a bar was taken from one of its ticks to another. */
  plant: [bar: PlayedBar, from: number, to: number];
}>();

const strings = computed(() => props.arranged.song.instrument.strings.length);

/** What was drawn before, by place: a bar that says the same again is left as it is. */
let drawn = new Map<string, { bar: WrittenBar; says: string }>();

const samePattern = (one: BarPattern, other: BarPattern) =>
  one.phase === other.phase &&
  one.pattern.beats.length === other.pattern.beats.length &&
  one.pattern.meter === other.pattern.meter &&
  one.pattern.builds === other.pattern.builds &&
  one.pattern.beats.every((beat, index) => beat === other.pattern.beats[index]);

/** Each written bar where it is first played. */
const rows = computed(() => {
  const before = drawn;
  drawn = new Map();
  const { strikes, leftOut, inRow } = props;
  const written = writtenBars(props.arranged, { strikes, leftOut, narrow: inRow > 4 });
  return written.map(({ name, lines }) => ({
    name,
    lines: lines.map((line) =>
      line.map((fresh): WrittenBar => {
        const { played, part } = fresh;
        const key = `${played.section}/${played.line}/${played.bar}`;
        const { flags, label, counted, note, words } = fresh;
        const says = JSON.stringify([
          flags,
          label,
          counted,
          note,
          words,
          played.tick,
          [...fresh.reach],
        ]);
        const known = before.get(key);
        const same = known?.says === says && samePattern(known.bar.part, part) && !fresh.special;
        const bar = same ? known.bar : fresh;
        drawn.set(key, { bar, says });
        return bar;
      }),
    ),
  }));
});

const isSame = (a: PlayedBar | null | undefined, b: PlayedBar) =>
  a != null && a.section === b.section && a.line === b.line && a.bar === b.bar;
const isLive = (bar: PlayedBar) => isSame(props.live?.bar, bar);
const isChosen = (bar: PlayedBar) =>
  isSame(props.selected, bar) || (props.span !== null && isInSpan(bar, props.span));

const root = ref<HTMLElement>();
const buttons = () => [...(root.value?.querySelectorAll<HTMLElement>('button.bar') ?? [])];

/** The bars in the order of their buttons: one listener serves them all, so that none is drawn anew. */
const inOrder = computed(() => rows.value.flatMap(({ lines }) => lines.flat()));
function pick(event: MouseEvent): void {
  const button = (event.target as HTMLElement).closest<HTMLElement>('button.bar');
  const bar = button && inOrder.value[buttons().indexOf(button)];
  if (bar) emit('choose', bar.played, event.shiftKey);
}

/** A flag that was let go; the bar is told by where it is written, so that one listener serves them all. */
function planted(place: string, from: number, to: number): void {
  const bar = inOrder.value.find(
    ({ played }) => `${played.section}/${played.line}/${played.bar}` === place,
  );
  if (bar && bar.played.index >= 0) emit('plant', bar.played, from, to);
}

/** The slots of a bar that its flags may stand on, in ticks from its start. */
const slotsOf = (bar: WrittenBar) => slots(bar.part.pattern).map(({ tick }) => tick);
/** `,` and `.` take the last flag of the bar a slot earlier or later. */
function carry(event: KeyboardEvent): void {
  const by = event.key === ',' ? -1 : event.key === '.' ? 1 : 0;
  const bar = inOrder.value[buttons().indexOf(event.target as HTMLElement)];
  const flag = bar?.flags.at(-1);
  if (!by || !props.plantable || !flag || bar!.played.index < 0) return;
  event.preventDefault();
  const places = slotsOf(bar!);
  const to = by > 0 ? places.find((at) => at > flag.tick) : places.findLast((at) => at < flag.tick);
  // Beyond the first slot or the last it is over the bar line: an eighth before it, or on the next.
  const over = by < 0 ? -480 : bar!.played.ticks;
  emit('plant', bar!.played, flag.tick, to ?? over);
}

/** The arrow keys go from bar to bar, and up and down between rows; with Shift they choose on. */
function travel(event: KeyboardEvent): void {
  carry(event);
  const all = buttons();
  const at = all.indexOf(event.target as HTMLElement);
  if (at < 0 || event.ctrlKey || event.metaKey || event.altKey) return;
  const target = nextOf(all, at, event.key);
  if (!target) return;
  event.preventDefault();
  const place = all.indexOf(target);
  const bar = inOrder.value[place];
  target.focus();
  const from = inOrder.value[at];
  if (event.shiftKey && from && !isChosen(from.played)) emit('choose', from.played, false);
  if (bar) emit('choose', bar.played, event.shiftKey);
}

function nextOf(all: HTMLElement[], at: number, key: string): HTMLElement | undefined {
  if (key === 'ArrowRight') return all[at + 1];
  if (key === 'ArrowLeft') return all[at - 1];
  if (key === 'Home') return all[0];
  if (key === 'End') return all.at(-1);
  if (key !== 'ArrowUp' && key !== 'ArrowDown') return undefined;
  const box = all[at]!.getBoundingClientRect();
  const middle = box.left + box.width / 2;
  const beyond = all.filter((button) => {
    const { top } = button.getBoundingClientRect();
    return key === 'ArrowUp' ? top < box.top - 4 : top > box.top + 4;
  });
  const nearest = (button: HTMLElement) => {
    const { top, left, width } = button.getBoundingClientRect();
    return Math.abs(top - box.top) * 10 + Math.abs(left + width / 2 - middle);
  };
  return beyond.sort((one, other) => nearest(one) - nearest(other))[0];
}

/** Bars that are made at once: more than any window shows. The others follow when the page has nothing to do. */
const AT_ONCE = 40;
const ready = ref(AT_ONCE);
/** Rows that any window shows: they are drawn at once, the others as they come near it. */
const FIRST_ROWS = 4;
const starts = computed(() => {
  let before = 0;
  return rows.value.map(({ lines }) =>
    lines.map((line) => {
      before += line.length;
      return before - line.length;
    }),
  );
});
function makeMore(): void {
  if (ready.value >= inOrder.value.length) {
    ready.value = Infinity;
    return;
  }
  ready.value += AT_ONCE;
  whenIdle(makeMore, 100);
}
onMounted(() => whenIdle(makeMore, 200));

/** One bar takes part in the order of the Tab key: the chosen one, or the first. */
const entry = computed(() => props.selected ?? rows.value[0]?.lines[0]?.[0]?.played ?? null);
</script>

<template>
  <div ref="root" class="rows" :class="{ flowing: inRow > 4 }" @keydown="travel" @click="pick">
    <section v-for="(section, index) in rows" :key="index">
      <slot name="section" :index="index" :title="section.name">
        <h2 v-if="section.name">{{ section.name }}</h2>
      </slot>
      <div class="bars" :style="{ '--in-row': inRow }">
        <template v-for="(line, at) in section.lines" :key="at">
          <BarPath
            v-for="(bar, place) in line.slice(0, Math.max(0, ready - starts[index]![at]!))"
            :key="place"
            :pattern="bar.part.pattern"
            :phase="bar.part.phase"
            :strings="strings"
            :reach="bar.reach"
            :flags="bar.flags"
            :number="bar.played.index + 1"
            :counted="bar.counted"
            :note="bar.note"
            :tight="bar.isTight"
            :dense="inRow > 4"
            :differs="bar.differs"
            :label="bar.label"
            :live="isLive(bar.played)"
            :selected="isChosen(bar.played)"
            :heard="isLive(bar.played) ? live!.tick : null"
            :words="bar.words"
            :mark="marks[bar.played.index] ?? ''"
            :place="`${index}/${at}/${place}`"
            :ticks="bar.played.ticks"
            :carries="plantable"
            :first="starts[index]![at]! + place < FIRST_ROWS * inRow"
            :tabindex="isSame(entry, bar.played) ? 0 : -1"
            :class="{
              starts: place === 0,
              unread: bar.played.content.unread !== undefined,
              unplayed: bar.played.index < 0,
            }"
            @plant="planted"
          />
        </template>
      </div>
    </section>
  </div>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 0.8rem;
}

.flowing {
  gap: 0.15rem;
}

h2 {
  font-size: 1.05rem;
  margin-bottom: 0.1rem;
}

.bars {
  display: grid;
  grid-template-columns: repeat(var(--in-row), minmax(0, 1fr));
  gap: 0.1rem;
}

.rows:not(.flowing) .starts {
  grid-column-start: 1;
}

.unplayed {
  opacity: 0.5;
}

.unread {
  background: var(--coral-soft);
}
</style>
