<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Accent, SectionRules } from '#core/schema';
import { SECTION_LEVELS, wedgeEnds, withWedge } from '#core/edit';

/** How loud a section is from its start to its end: a wedge that is pulled at its ends. */
const props = defineProps<{ rules: SectionRules; name: string }>();
const emit = defineEmits<{ set: [rules: Pick<SectionRules, 'level' | 'build'>] }>();

const LOUDEST = SECTION_LEVELS.length - 1;
const levelIndex = (accent: Accent) => SECTION_LEVELS.findIndex(({ value }) => value === accent);
const HALF = [1.2, 3.2, 6, 9];
const [WIDTH, MIDDLE] = [150, 10];

type End = 'from' | 'to';
const ENDS: End[] = ['from', 'to'];
const saved = computed(() => wedgeEnds(props.rules));
/** While an end is pulled it is drawn where the finger is; it is written when it is let go. */
const pulled = ref<{ end: End; level: number; y: number; start: number } | null>(null);
const levelOf = (end: End) =>
  pulled.value?.end === end ? pulled.value.level : levelIndex(saved.value[end]);
const shape = computed(() => {
  const [left, right] = [HALF[levelOf('from')]!, HALF[levelOf('to')]!];
  return `M0,${MIDDLE - left}L${WIDTH},${MIDDLE - right}V${MIDDLE + right}L0,${MIDDLE + left}Z`;
});
const plain = computed(() => levelOf('from') === 1 && levelOf('to') === 1);

function write(end: End, level: number): void {
  const bounded = SECTION_LEVELS[Math.max(0, Math.min(LOUDEST, level))]!.value;
  emit('set', withWedge(props.rules, { ...saved.value, [end]: bounded }));
}

const PIXELS = 9;
function grab(event: PointerEvent, end: End): void {
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  const level = levelIndex(saved.value[end]);
  pulled.value = { end, level, start: level, y: event.clientY };
}
function pull(event: PointerEvent): void {
  const now = pulled.value;
  if (!now) return;
  const by = Math.round((now.y - event.clientY) / PIXELS);
  pulled.value = { ...now, level: Math.max(0, Math.min(LOUDEST, now.start + by)) };
}
function drop(): void {
  const now = pulled.value;
  pulled.value = null;
  if (now && now.level !== now.start) write(now.end, now.level);
}
const KEYS: Record<string, number> = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 };
function onKey(event: KeyboardEvent, end: End): void {
  const by = KEYS[event.key];
  if (by === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  write(end, levelIndex(saved.value[end]) + by);
}
</script>

<template>
  <span
    ref="root"
    class="wedge"
    :class="{ plain }"
    :title="`How loud ${name} is: pull an end up or down`"
  >
    <svg :viewBox="`0 0 ${WIDTH} ${2 * MIDDLE}`" aria-hidden="true" preserveAspectRatio="none">
      <path :d="shape" />
    </svg>
    <span
      v-for="end in ENDS"
      :key="end"
      class="end"
      :class="end"
      role="slider"
      tabindex="0"
      aria-orientation="vertical"
      :aria-label="`Loudness at the ${end === 'from' ? 'start' : 'end'} of ${name}`"
      aria-valuemin="0"
      :aria-valuemax="LOUDEST"
      :aria-valuenow="levelOf(end)"
      :aria-valuetext="SECTION_LEVELS[levelOf(end)]!.label"
      @pointerdown="grab($event, end)"
      @pointermove="pull"
      @pointerup="drop"
      @pointercancel="pulled = null"
      @keydown="onKey($event, end)"
    />
    <small v-if="pulled" class="now">{{ SECTION_LEVELS[pulled.level]!.label }}</small>
  </span>
</template>

<style scoped>
.wedge {
  position: relative;
  display: inline-block;
  width: 9.5rem;
  height: 1.25rem;
}

svg {
  position: absolute;
  inset: 0 0.5rem;
  width: calc(100% - 1rem);
  height: 100%;
}

path {
  fill: var(--brass);
}

.plain path {
  fill: var(--string);
}

.end {
  position: absolute;
  top: -0.1rem;
  width: 1.4rem;
  height: 1.45rem;
  cursor: ns-resize;
  touch-action: none;
  border-radius: 0.3rem;
}

.end::after {
  content: '';
  position: absolute;
  inset: 0.3rem 0.6rem;
  border-radius: 0.2rem;
  background: var(--ink-soft);
}

@media (pointer: coarse) {
  .end {
    top: -0.75rem;
    width: 2.75rem;
    height: 2.75rem;
  }

  .end::after {
    inset: 0.9rem 1.25rem;
  }
}

.end.from {
  left: -0.4rem;
}

.end.to {
  right: -0.4rem;
}

.end:hover {
  background: var(--brass-soft);
}

.now {
  position: absolute;
  left: calc(100% + 0.6rem);
  white-space: nowrap;
  color: var(--ink-soft);
}
</style>
