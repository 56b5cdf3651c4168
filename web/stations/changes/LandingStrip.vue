<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { Instrument } from '#core/schema';
import { fingerName, fingerWord } from '#core/neck';
import type { Strike } from '#core/arrange';
import type { HandFinger, HandKind } from '#core/hand';
import ChordDiagram from '../../chords/ChordDiagram.vue';

/**
 * One change as the hand meets it: from the last strokes on the old chord to the first on the new one, with
 * the time that each finger has, what it needs inside it, and the fingers that stay as unbroken lines.
 */
const props = defineProps<{
  change: HandKind;
  instrument: Instrument;
  strikes: Strike[];
  /** Seconds at which the new chord lands. */
  landing: number;
}>();

const box = ref<HTMLElement>();
const { width } = useElementSize(box, { width: 640, height: 0 });
/** Seconds before and after the landing that are shown at most, and at the edges. */
const BEFORE = 1.3;
const AFTER = 0.9;
const MARGIN = 0.06;
const [PATH, ROW, TOP] = [46, 34, 18];
const NAMES = 66;

const fingers = computed(() => [...props.change.fingers].sort((a, b) => a.finger - b.finger));
const span = computed(() => {
  const moving = fingers.value.filter(({ need }) => need > 0);
  const first = Math.min(props.landing - 0.25, ...moving.map(({ freeFrom }) => freeFrom));
  const last = Math.max(
    props.landing + 0.2,
    ...moving.map(({ wantedAt, freeFrom, need }) => Math.max(wantedAt, freeFrom + need / 1000)),
  );
  return {
    from: Math.max(props.landing - BEFORE, first) - MARGIN,
    to: Math.min(props.landing + AFTER, last) + MARGIN,
  };
});
const x = (seconds: number) => {
  const { from, to } = span.value;
  const share = (seconds - from) / (to - from);
  return NAMES + Math.min(1, Math.max(0, share)) * (width.value - NAMES - 8);
};
const height = computed(() => TOP + PATH + Math.max(1, fingers.value.length) * ROW + 16);

/** The strokes in sight: where the hand crosses the strings, and how. */
const strokes = computed(() => {
  const { from, to } = span.value;
  return props.strikes
    .filter(({ seconds }) => seconds >= from && seconds <= to)
    .map((strike) => {
      const at = x(strike.seconds);
      const down = strike.dir === 'down';
      const [start, end] = down ? [TOP + 6, TOP + PATH - 8] : [TOP + PATH - 8, TOP + 6];
      return {
        key: strike.tick,
        x: at,
        start,
        end,
        down,
        kind: strike.kind === 'chuck' ? 'chuck' : strike.transition ? 'open' : 'sounds',
        bass: strike.kind === 'bass',
      };
    });
});
/** The arm between them, as it never stops. */
const arm = computed(() =>
  strokes.value
    .slice(1)
    .map((stroke, index) => {
      const before = strokes.value[index]!;
      const middle = (before.x + stroke.x) / 2;
      return `M${before.x + 5} ${before.end}C${middle} ${before.end} ${middle} ${stroke.start} ${stroke.x - 5} ${stroke.start}`;
    })
    .join(''),
);

const rows = computed(() =>
  fingers.value.map((finger, index) => {
    const y = TOP + PATH + index * ROW + 6;
    const begins = x(finger.freeFrom);
    const ends = x(finger.wantedAt);
    const done = x(finger.freeFrom + finger.need / 1000);
    return { finger, y, begins, ends, done, short: finger.need > finger.window };
  }),
);
const ms = (value: number) => Math.round(value / 10) * 10;
const words = ({ need, window, does }: HandFinger) =>
  need === 0 ? does : `${does}: has ${ms(window)} ms, needs ${ms(need)}`;

const of = (kind: HandFinger['kind']) =>
  props.change.fingers.flatMap((finger) => (finger.kind === kind ? [finger.finger] : []));
const idle = computed(() =>
  props.change.idle.length > 0
    ? `${new Intl.ListFormat('en').format(props.change.idle.map(fingerWord))} optional: no stroke needs ${props.change.idle.length > 1 ? 'them' : 'it'} before the next change.`
    : '',
);
const label = computed(
  () =>
    `${props.change.sentence}. ${fingers.value.map((finger) => `The ${fingerName(finger.finger)} ${words(finger)}`).join('. ')}.`,
);
</script>

<template>
  <div class="strip">
    <figure>
      <ChordDiagram
        :shape="change.fromShape"
        :instrument="instrument"
        :anchors="of('stays')"
        :guides="of('slides')"
        :label="`${change.from}, before`"
      />
      <figcaption>{{ change.from }}</figcaption>
    </figure>
    <div ref="box" class="drawing">
      <svg :width="width" :height="height" role="img" :aria-label="label">
        <line class="landing" :x1="x(landing)" :x2="x(landing)" :y1="TOP - 4" :y2="height - 14" />
        <text class="flag" :x="x(landing) + 5" :y="11">{{ change.to }} lands</text>
        <line
          v-for="string in instrument.strings.length"
          :key="string"
          class="string"
          :x1="NAMES"
          :x2="width - 8"
          :y1="TOP + 6 + ((string - 1) * (PATH - 14)) / (instrument.strings.length - 1)"
          :y2="TOP + 6 + ((string - 1) * (PATH - 14)) / (instrument.strings.length - 1)"
        />
        <path class="arm" :d="arm" />
        <template v-for="stroke in strokes" :key="stroke.key">
          <circle v-if="stroke.bass" class="bass" :cx="stroke.x" :cy="TOP + 8" r="5" />
          <line
            v-else
            class="stroke"
            :class="stroke.kind"
            :x1="stroke.x - 4"
            :x2="stroke.x + 4"
            :y1="stroke.start"
            :y2="stroke.end"
          />
        </template>
        <g v-for="row in rows" :key="row.finger.finger">
          <text class="finger" :x="0" :y="row.y + 14">{{ fingerWord(row.finger.finger) }}</text>
          <template v-if="row.finger.need === 0">
            <line class="stays" :x1="NAMES" :x2="width - 8" :y1="row.y + 9" :y2="row.y + 9" />
            <text class="words" :x="NAMES + 8" :y="row.y + 25">{{ row.finger.does }}</text>
          </template>
          <template v-else>
            <rect
              class="window"
              :x="row.begins"
              :y="row.y"
              :width="Math.max(2, row.ends - row.begins)"
              height="18"
              rx="4"
            />
            <rect
              class="need"
              :class="{ short: row.short }"
              :x="row.begins"
              :y="row.y + 4"
              :width="Math.max(2, row.done - row.begins)"
              height="10"
              rx="3"
            />
            <text class="words" :x="Math.min(row.begins, width - 330)" :y="row.y + 30">
              {{ words(row.finger) }}
            </text>
          </template>
        </g>
      </svg>
      <p v-if="idle" class="quiet">{{ idle }}</p>
      <p v-if="fingers.length === 0" class="quiet">No finger has to move for it.</p>
    </div>
    <figure>
      <ChordDiagram
        :shape="change.toShape"
        :instrument="instrument"
        :anchors="of('stays')"
        :guides="of('slides')"
        :label="`${change.to}, after`"
      />
      <figcaption>{{ change.to }}</figcaption>
    </figure>
  </div>
</template>

<style scoped>
.strip {
  display: grid;
  grid-template-columns: 5.4rem minmax(0, 1fr) 5.4rem;
  gap: 0.6rem;
  align-items: start;
}

figure {
  margin: 0;
}

figcaption {
  font-family: var(--display);
  font-weight: 650;
  text-align: center;
}

.drawing {
  min-width: 0;
}

svg {
  display: block;
  overflow: visible;
}

.string {
  stroke: var(--string);
  stroke-width: 1;
}

.landing {
  stroke: var(--brass);
  stroke-width: 2;
}

.flag {
  fill: var(--brass-ink);
  font-weight: 700;
  font-size: 13px;
}

.arm {
  fill: none;
  stroke: var(--arm);
  stroke-width: 1.4;
  stroke-dasharray: 2 4;
}

.stroke {
  stroke: var(--ink);
  stroke-width: 5;
  stroke-linecap: round;
}

.stroke.open {
  stroke: var(--arm);
  stroke-width: 2;
}

.stroke.chuck {
  stroke-linecap: butt;
  stroke-dasharray: 4 3;
}

.bass {
  fill: var(--ink);
}

.finger {
  fill: var(--ink);
  font-weight: 650;
  font-size: 14px;
}

.window {
  fill: var(--paper-sunk);
  stroke: var(--ink-soft);
  stroke-width: 1.2;
}

.need {
  fill: var(--arm);
}

.need.short {
  fill: var(--coral);
}

.stays {
  stroke: var(--spruce);
  stroke-width: 4;
}

.words {
  fill: var(--ink-soft);
  font-size: 12.5px;
}

@media (max-width: 40rem) {
  .strip {
    grid-template-columns: 1fr 1fr;
  }

  .drawing {
    grid-column: 1 / -1;
    grid-row: 1;
  }

  figure {
    max-width: 7rem;
    justify-self: center;
  }
}
</style>
