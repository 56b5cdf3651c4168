<script setup lang="ts">
import { computed } from 'vue';
import type { ChordFlag } from '#core/arrange';

/** The chord flags of a wrist path, planted exactly on the slots where the chords land. */
const props = defineProps<{
  flags: ChordFlag[];
  xOf: (tick: number) => number;
  /** How far down the poles reach. */
  foot: number;
  heard: number | null;
  big: boolean;
  /** They may be taken along. */
  carries?: boolean;
}>();

const emit = defineEmits<{
  grab: [event: PointerEvent, tick: number];
  pull: [event: PointerEvent];
  letGo: [];
}>();

const planted = computed(() =>
  props.flags.map((flag) => {
    const x = props.xOf(flag.tick);
    const width = props.big ? 30 + flag.symbol.length * 12.5 : 16 + flag.symbol.length * 8.2;
    return { ...flag, x, cloth: pennant(x, width) };
  }),
);

/** The flag of the chord that is heard. */
const live = computed(() => {
  const { heard } = props;
  return heard === null ? -1 : props.flags.findLastIndex((flag) => flag.tick <= heard);
});

function pennant(x: number, width: number): string {
  const [top, height, notch] = props.big ? [4, 30, 10] : [1, 18, 5];
  return `M${x},${top}h${width}l${-notch},${height / 2}l${notch},${height / 2}h${-width}z`;
}
</script>

<template>
  <g
    v-for="(flag, index) in planted"
    :key="index"
    class="flag"
    :data-chord="flag.symbol"
    :class="{ live: index === live, unknown: !flag.known, big, carries }"
    @pointerdown="emit('grab', $event, flag.tick)"
    @pointermove="emit('pull', $event)"
    @pointerup="emit('letGo')"
    @pointercancel="emit('letGo')"
  >
    <title>{{ flag.symbol }} lands here</title>
    <line class="pole" :x1="flag.x" :x2="flag.x" :y1="big ? 6 : 1" :y2="foot" />
    <path :d="flag.cloth" />
    <text :x="flag.x + (big ? 9 : 5)" :y="big ? 26 : 14.5">{{ flag.symbol }}</text>
  </g>
</template>

<style scoped>
.carries {
  cursor: grab;
  touch-action: none;
}

.pole {
  stroke: var(--spruce);
  stroke-width: 1.4;
  stroke-dasharray: 1.5 4;
}

path {
  fill: var(--spruce);
}

text {
  fill: var(--spruce-ink);
  font-family: var(--display);
  font-weight: 650;
  font-size: 13px;
}

.big text {
  font-size: 20px;
}

.live .pole {
  stroke: var(--brass);
}

.live path {
  fill: var(--brass);
}

.live text {
  fill: var(--paper);
}

.unknown .pole {
  stroke: var(--coral);
}

.unknown path {
  fill: var(--coral-soft);
  stroke: var(--coral);
  stroke-dasharray: 3 2;
}

.unknown text {
  fill: var(--coral);
}
</style>
