<script setup lang="ts">
import { computed, ref } from 'vue';
import type { TakeJudgement } from '#core/schema';
import type { PlayedBar } from '#core/song';
import type { Strike } from '#core/arrange';

/**
 * A take under what was meant: the strokes of each bar as the pattern has them, and beside each, thinner and
 * in brass, where it was played. Missed strokes are hollow, added ones dotted rings.
 */
const props = defineProps<{
  bars: PlayedBar[];
  strikes: Strike[];
  judgement: TakeJudgement;
  /** Seconds that one tick lasts at the tempo that was played. */
  perTick: number;
  /** First and last bar, from 0. */
  first: number;
  last: number;
  live: number | null;
  /** Strokes that are marked: those that the verdict counts, by their index in the song. */
  lit?: ReadonlySet<number>;
}>();
const emit = defineEmits<{
  /** A bar, and the stroke in it, by its index in the song; none for the bar from its start. */
  choose: [bar: number, strike?: number];
}>();

const [WIDTH, HEIGHT, TOP, FOOT] = [200, 80, 24, 64];
/** Milliseconds that are drawn as wide as a stroke is: what the eye can still tell. */
const SHOWN_FROM = 12;

const played = computed(
  () => new Map(props.judgement.strokes.map((stroke) => [stroke.strike, stroke])),
);
const missed = computed(() => new Set(props.judgement.missed));
/** Ticks of added strokes, from where the strokes around them were heard. */
const added = computed(() => {
  const { strokes } = props.judgement;
  return props.judgement.added.flatMap((seconds) => {
    const before = strokes.findLast((stroke) => stroke.seconds <= seconds) ?? strokes[0];
    const strike = before && props.strikes[before.strike];
    if (!before || !strike) return [];
    return [strike.tick + strike.late + (seconds - before.seconds) / props.perTick];
  });
});

const rows = computed(() =>
  props.bars.slice(props.first, props.last + 1).map((bar) => {
    const x = (tick: number) => 8 + ((tick - bar.tick) / bar.ticks) * (WIDTH - 16);
    const inside = (tick: number) => tick >= bar.tick && tick < bar.tick + bar.ticks;
    const strokes = props.strikes.flatMap((strike, index) => {
      if (!inside(strike.tick)) return [];
      const stroke = played.value.get(index);
      const at = x(strike.tick + strike.late);
      const shift = stroke ? (stroke.off / 1000 / props.perTick / bar.ticks) * (WIDTH - 16) : 0;
      const turned = stroke?.direction && stroke.direction !== strike.dir;
      return [
        {
          index,
          at,
          heard: stroke ? at + shift : null,
          off: stroke?.off ?? 0,
          missed: missed.value.has(index),
          down: strike.dir === 'down',
          playedDown: turned ? strike.dir !== 'down' : strike.dir === 'down',
          late: stroke?.chord === 'late' || stroke?.chord === 'wrong',
          bass: strike.kind === 'bass',
        },
      ];
    });
    // The arm between the strokes, as it never stops.
    const arm = strokes
      .slice(1)
      .map((stroke, order) => {
        const before = strokes[order]!;
        const [from, to] = [before.down ? FOOT : TOP, stroke.down ? TOP : FOOT];
        const middle = (before.at + stroke.at) / 2;
        const bend = from === to ? (from === FOOT ? 9 : -9) : 0;
        return `M${before.at + 3} ${from}C${middle} ${from + bend} ${middle} ${to + bend} ${stroke.at - 3} ${to}`;
      })
      .join('');
    const landings = strokes.filter(({ index }) => props.strikes[index]!.landing);
    return {
      bar,
      strokes,
      arm,
      flags: landings.map(({ index, at, late }) => ({
        at,
        late,
        symbol: props.strikes[index]!.chord,
      })),
      added: added.value.filter(inside).map(x),
      label: labelOf(bar, strokes),
    };
  }),
);

function labelOf(
  bar: PlayedBar,
  strokes: { missed: boolean; heard: number | null; off: number }[],
): string {
  const gone = strokes.filter((stroke) => stroke.missed).length;
  const worst = strokes.reduce((most, { off }) => (Math.abs(off) > Math.abs(most) ? off : most), 0);
  const how =
    Math.abs(worst) < SHOWN_FROM
      ? 'in time'
      : `up to ${Math.round(Math.abs(worst))} ms ${worst > 0 ? 'late' : 'early'}`;
  return `Bar ${bar.index + 1}: ${how}${gone > 0 ? `, ${gone} missed` : ''}`;
}
/** The stroke that the arrow keys are at, by its index in the song. */
const at = ref<number | null>(null);
type Row = (typeof rows.value)[number];
/** From the stroke that was pressed; a key begins with the one that the arrows are at. */
function choose({ bar, strokes }: Row, event: MouseEvent): void {
  const box = (event.currentTarget as HTMLElement).querySelector('svg')!.getBoundingClientRect();
  const x = ((event.clientX - box.left) / box.width) * WIDTH;
  const byKey = event.detail === 0;
  const there = strokes.filter(({ heard }) => heard !== null);
  const near = byKey
    ? there.find(({ index }) => index === at.value)
    : there.reduce<(typeof there)[number] | undefined>(
        (best, stroke) =>
          !best || Math.abs(stroke.heard! - x) < Math.abs(best.heard! - x) ? stroke : best,
        undefined,
      );
  emit('choose', bar.index, near?.index);
}
function step({ strokes }: Row, by: 1 | -1): void {
  const there = strokes.filter(({ heard }) => heard !== null);
  const now = there.findIndex(({ index }) => index === at.value);
  const next = now < 0 ? (by > 0 ? 0 : there.length - 1) : now + by;
  at.value = there[Math.min(there.length - 1, Math.max(0, next))]?.index ?? null;
}

const slant = (at: number, down: boolean) =>
  down
    ? { x1: at - 3, x2: at + 3, y1: TOP, y2: FOOT }
    : { x1: at - 3, x2: at + 3, y1: FOOT, y2: TOP };
</script>

<template>
  <ol class="bars" aria-label="The take, bar by bar">
    <li v-for="row in rows" :key="row.bar.index">
      <button
        type="button"
        :aria-label="row.label"
        title="From this stroke on; the arrow keys choose another"
        :class="{ live: live === row.bar.index }"
        @click="choose(row, $event)"
        @keydown.right.prevent="step(row, 1)"
        @keydown.left.prevent="step(row, -1)"
        @blur="at = null"
      >
        <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" aria-hidden="true">
          <line
            v-for="string in 4"
            :key="string"
            class="string"
            x1="4"
            :x2="WIDTH - 4"
            :y1="TOP + 4 + string * 8"
            :y2="TOP + 4 + string * 8"
          />
          <text
            v-for="flag in row.flags"
            :key="flag.at"
            class="flag"
            :class="{ late: flag.late }"
            :x="flag.at - 3"
            y="13"
          >
            {{ flag.symbol }}
          </text>
          <template v-for="stroke in row.strokes" :key="stroke.index">
            <rect
              v-if="stroke.index === at && stroke.heard !== null"
              class="chosen"
              :x="stroke.heard - 6"
              :y="TOP - 4"
              width="12"
              :height="FOOT - TOP + 8"
              rx="3"
            />
          </template>
          <template v-for="stroke in row.strokes" :key="stroke.index">
            <line
              v-if="lit?.has(stroke.index)"
              class="lit"
              :x1="stroke.at - 7"
              :x2="stroke.at + 7"
              :y1="FOOT + 3"
              :y2="FOOT + 3"
            />
          </template>
          <path class="arm" :d="row.arm" />
          <template v-for="stroke in row.strokes" :key="stroke.index">
            <circle
              v-if="stroke.bass"
              class="meant"
              :class="{ missed: stroke.missed }"
              :cx="stroke.at"
              :cy="TOP + 8"
              r="4"
            />
            <line
              v-else
              class="meant"
              :class="{ missed: stroke.missed }"
              v-bind="slant(stroke.at, stroke.down)"
            />
            <line
              v-if="stroke.heard !== null"
              class="played"
              :class="{ far: Math.abs(stroke.off) > judgement.tolerance }"
              v-bind="slant(stroke.heard, stroke.playedDown)"
            />
          </template>
          <circle v-for="x in row.added" :key="x" class="added" :cx="x" :cy="FOOT + 6" r="4" />
          <text class="number" x="4" :y="HEIGHT - 1">{{ row.bar.index + 1 }}</text>
        </svg>
      </button>
    </li>
  </ol>
</template>

<style scoped>
.bars {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(11.5rem, 48%), 1fr));
  gap: 0.35rem;
}

button {
  width: 100%;
  padding: 0.2rem;
  border: 0;
  border-radius: var(--radius);
  background: var(--paper-raised);
  color: inherit;
  cursor: pointer;
}

button.live {
  box-shadow: 0 0 0 2px var(--brass);
}

svg {
  display: block;
  width: 100%;
}

.chosen {
  fill: var(--brass-soft);
}

/* What the verdict counts: a line under the stroke, so that it is no colour alone. */
.lit {
  stroke: var(--brass);
  stroke-width: 3.5;
  stroke-linecap: round;
}

.string {
  stroke: var(--string);
  stroke-width: 0.8;
}

.arm {
  fill: none;
  stroke: var(--arm);
  stroke-width: 1.1;
  stroke-dasharray: 1.5 2.6;
}

.meant {
  stroke: var(--arm);
  stroke-width: 5;
  stroke-linecap: round;
  opacity: 0.55;
  fill: var(--arm);
}

.meant.missed {
  stroke: var(--coral);
  stroke-width: 1.6;
  stroke-dasharray: 3 3;
  fill: none;
  opacity: 1;
}

.played {
  stroke: var(--ink);
  stroke-width: 1.8;
}

.played.far {
  stroke: var(--coral);
  stroke-width: 2.4;
}

.added {
  fill: none;
  stroke: var(--coral);
  stroke-width: 1.4;
  stroke-dasharray: 1.5 2;
}

.flag {
  font-size: 13px;
  font-weight: 700;
  fill: var(--ink);
}

.flag.late {
  fill: var(--coral);
}

.number {
  font-size: 11px;
  fill: var(--ink-soft);
}
</style>
