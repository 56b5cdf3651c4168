<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef } from 'vue';
import type { Pattern } from '#core/schema';
import { beatTicks, count, countNumber } from '#core/time';
import { armPasses, divisions, slotSentences } from '#core/stroke';
import { patternRows, type SlotSpan } from '#core/pattern';
import type { Reach } from '#core/path';
import type { ChordFlag } from '#core/arrange';
import WristPath from '../../path/WristPath.vue';
import { useViewStore } from '../../stores/view';

/** The pattern as wrist paths, in as many rows as it needs: a list of slots for keys and fingers. */
const props = defineProps<{
  pattern: Pattern;
  strings: number;
  flags: ChordFlag[];
  reach: Map<number, Reach>;
  cursor: number;
  selected: SlotSpan | null;
  /** Slots on which findings stand. */
  marked: number[];
  heard: number | null;
}>();
defineEmits<{
  select: [slot: number, extend: boolean];
  touch: [slot: number, gesture: 'tap' | 'down' | 'up', accent: boolean];
}>();

const view = useViewStore();
const box = useTemplateRef('box');
const { width } = useElementSize(box, { width: 1180, height: 0 });

/** Pixels that a slot needs. */
const SLOT_ROOM = 40;
const MAX_SLOTS = 32;
const most = computed(() => Math.max(8, Math.min(MAX_SLOTS, Math.floor(width.value / SLOT_ROOM))));

interface Row {
  pattern: Pattern;
  firstSlot: number;
  slotCount: number;
  /** First tick, and length. */
  tick: number;
  ticks: number;
  phase: number;
  caption: string | undefined;
  counts: string[];
  sentences: string[];
  flags: ChordFlag[];
  reach: Map<number, Reach>;
  marked: number[];
}

/** The bars of a row: "bar 3", "bars 3 and 4", "bar 1, from 7". */
function captionOf(firstBeat: number, beats: number, { meter }: Pattern): string {
  const first = Math.floor(firstBeat / meter.beats) + 1;
  const last = Math.floor((firstBeat + beats - 1) / meter.beats) + 1;
  const from = firstBeat % meter.beats;
  if (from > 0) return `bar ${first}, from ${countNumber(meter, from)}`;
  return last > first ? `bars ${first} to ${last}` : `bar ${first}`;
}

/** Rows keep their identity while nothing in them changes, so that only the edited one is drawn again. */
let before: { key: string; beats: unknown[]; row: Row }[] = [];

const rows = computed<Row[]>(() => {
  const { pattern } = props;
  const beat = beatTicks(pattern.meter);
  const counts = count(divisions(pattern), pattern.meter, { vocabulary: view.counting });
  const sentences = slotSentences(pattern);
  const swings = armPasses(pattern);
  const all = patternRows(pattern, most.value);
  const now = all.map(({ beats, firstBeat, firstSlot }, index) => {
    const slotCount = beats.reduce((sum, { division }) => sum + division, 0);
    const [tick, ticks] = [firstBeat * beat, beats.length * beat];
    const inRow = <T,>(all: T[]) => all.slice(firstSlot, firstSlot + slotCount);
    const builds = (pattern.builds ?? []).flatMap((build) => {
      const from = Math.max(0, build.beat - firstBeat);
      const to = Math.min(beats.length, build.beat + build.beats - firstBeat);
      return to > from ? [{ ...build, beat: from, beats: to - from }] : [];
    });
    const { beats: _, builds: __, ...rest } = pattern;
    const row: Row = {
      pattern: { ...rest, beats, ...(builds.length > 0 && { builds }) },
      firstSlot,
      slotCount,
      tick,
      ticks,
      phase: swings.find((swing) => swing.tick >= tick)?.dir === 'up' ? 1 : 0,
      caption: all.length > 1 ? captionOf(firstBeat, beats.length, pattern) : undefined,
      counts: inRow(counts),
      sentences: inRow(sentences),
      flags: props.flags
        .filter((flag) => flag.tick >= tick && flag.tick < tick + ticks)
        .map((flag) => ({ ...flag, tick: flag.tick - tick })),
      reach: new Map(
        [...props.reach].flatMap(([slot, strings]) =>
          slot >= firstSlot && slot < firstSlot + slotCount ? [[slot - firstSlot, strings]] : [],
        ),
      ),
      marked: props.marked
        .filter((slot) => slot >= firstSlot && slot < firstSlot + slotCount)
        .map((slot) => slot - firstSlot),
    };
    const { beats: ___, ...rowRest } = row.pattern;
    const key = JSON.stringify([
      rowRest,
      firstSlot,
      row.phase,
      row.caption,
      row.counts,
      row.sentences,
      row.flags,
      [...row.reach],
      row.marked,
    ]);
    const known = before[index];
    const same =
      known?.key === key &&
      known.beats.length === beats.length &&
      beats.every((one, at) => one === known.beats[at]);
    return same ? known : { key, beats, row };
  });
  before = now;
  return now.map(({ row }) => row);
});

const size = computed(() => (rows.value.length > 2 ? 'middle' : 'big'));

function localSlot(row: Row, slot: number): number | null {
  const at = slot - row.firstSlot;
  return at >= 0 && at < row.slotCount ? at : null;
}

/** What is selected of a row, as one string or null so that rows outside it are left alone. */
function localSpan(row: Row): SlotSpan | null {
  const { selected } = props;
  if (!selected) return null;
  const from = Math.max(0, selected.from - row.firstSlot);
  const to = Math.min(row.slotCount, selected.to - row.firstSlot);
  return to > from ? { from, to } : null;
}

function localHeard(row: Row, last: boolean): number | null {
  if (props.heard === null) return null;
  const at = props.heard - row.tick;
  // The hand comes from before the first slot: the row before keeps it until half a swing is left.
  return at >= 0 && (at < row.ticks || (last && at === row.ticks)) ? at : null;
}
</script>

<template>
  <div
    ref="box"
    class="rows"
    role="listbox"
    tabindex="0"
    aria-label="Strokes of the pattern"
    aria-multiselectable="true"
    :aria-activedescendant="`slot-${cursor}`"
  >
    <WristPath
      v-for="(row, index) in rows"
      :key="index"
      v-memo="[
        row,
        strings,
        size,
        width,
        view.bassAtBottom,
        localSlot(row, cursor),
        localSpan(row)?.from,
        localSpan(row)?.to,
        localHeard(row, index === rows.length - 1),
      ]"
      :pattern="row.pattern"
      :strings="strings"
      :flags="row.flags"
      :reach="row.reach"
      :phase="row.phase"
      :first-slot="row.firstSlot"
      :caption="row.caption"
      :counts="row.counts"
      :sentences="row.sentences"
      :cursor="localSlot(row, cursor)"
      :selected="localSpan(row)"
      :marked="row.marked"
      :heard="localHeard(row, index === rows.length - 1)"
      :size="size"
      :width="width"
      :flipped="view.bassAtBottom"
      editable
      @select="(slot, extend) => $emit('select', slot, extend)"
      @touch="(slot, gesture, accent) => $emit('touch', slot, gesture, accent)"
    />
  </div>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 0.4rem;
  cursor: pointer;
}
</style>
