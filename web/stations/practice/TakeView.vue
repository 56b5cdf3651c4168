<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import { plural } from '#core/plain';
import { secondsPerTick } from '#core/time';
import { CLEAN_SHARE, MAX_ADDED } from '#core/take';
import { usePlayerStore } from '../../stores/player';
import { usePracticeStore } from '../../stores/practice';
import type { JudgedTake } from '../../stores/takes';
import SlotChart from './SlotChart.vue';
import TakeAnswer from './TakeAnswer.vue';
import TakeBars from './TakeBars.vue';
import TakeSound from './TakeSound.vue';
import { text } from './text';

/** A take under what was meant, and what was measured of it. */
const props = defineProps<{ take: JudgedTake }>();
const emit = defineEmits<{ hear: [bar: number] }>();
const player = usePlayerStore();
const practice = usePracticeStore();

const HANDS = {
  strumming: 'strumming hand',
  fretting: 'fretting hand',
  both: 'both hands',
} as const;
const facts = computed(() => {
  const { strokes, missed, added, drift, lag, verdict, judge } = props.take.judgement;
  if (strokes.length === 0) return '';
  const sure = verdict.sure > 0.8 ? 'sure' : verdict.sure > 0.55 ? 'fairly sure' : 'not sure';
  return [
    `${plural(strokes.length, 'stroke')} heard, ${missed.length} missed, ${added.length} added`,
    Math.abs(drift) < 0.05
      ? 'tempo steady'
      : `tempo ${drift > 0 ? '+' : ''}${drift.toFixed(1)} % at the end`,
    ...(Math.abs(lag) >= 5
      ? [
          `${Math.round(Math.abs(lag))} ms ${lag > 0 ? 'behind' : 'before'} the count-in throughout, taken off`,
        ]
      : []),
    ...(verdict.hand ? [HANDS[verdict.hand]] : []),
    sure,
    ...(judge === undefined ? ['judged by earlier rules'] : []),
  ].join(' · ');
});
/** The strokes that the verdict speaks of: they light up on the bars. */
const lit = computed(() => new Set(props.take.judgement.verdict.strokes ?? []));
const then = computed(() => props.take.judgement.verdict.then);
const OF_TWENTY = 20;
const clean = `Clean is: of the strokes that are meant, at least ${Math.round(CLEAN_SHARE * OF_TWENTY)} of ${OF_TWENTY} are heard and in time, taps and chucks included; at most ${Math.round(MAX_ADDED * OF_TWENTY)} in ${OF_TWENTY} is added; and no place of the bar and no change is late, early or left out by itself.`;
const sound = useTemplateRef('sound');
const PLAYS = [
  { label: 'the take', value: 'take' as const },
  { label: 'the song', value: 'song' as const },
];
const plays = ref<'take' | 'song'>('take');
/** Seconds before a stroke from which the take is heard. */
const LEAD = 0.15;
/** @param strike the stroke from which the take is heard, by its index; the first of the bar where it is left out */
function hear(bar: number, strike?: number): void {
  const { strokes } = props.take.judgement;
  const first =
    strokes.find((stroke) => stroke.strike === strike) ??
    strokes.find((stroke) => player.performance?.strikes[stroke.strike]?.bar === bar);
  if (plays.value === 'song' || !sound.value?.there || !first) {
    emit('hear', bar);
    return;
  }
  player.stop();
  sound.value.playFrom(first.seconds - LEAD);
}
const perTick = computed(() =>
  player.activeSong ? secondsPerTick(props.take.tempo, player.activeSong.meter) : 0,
);
const changes = computed(() =>
  [...props.take.judgement.byChange].sort((a, b) => (b.median ?? 0) - (a.median ?? 0)).slice(0, 6),
);
/** A take of a song that was changed since, or of another rung, lies on bars that are not those shown. */
const fits = computed(
  () =>
    props.take.to <= player.bars.length &&
    (props.take.rung ?? 'song') === practice.rung &&
    props.take.judgement.strokes.every(({ strike }) => player.performance?.strikes[strike]),
);
/** Whole rows of bars, as many as leave the chart below in sight; the one that the verdict speaks of is the first. */
const bars = useTemplateRef<{ $el: HTMLElement }>('bars');
const list = computed(() => bars.value?.$el);
/** Rows that are seen at once, and the height of a window that has room for another. */
const ROWS = 2;
const TALL = 950;
const room = ref<string>();
function measure(): void {
  const tops = [...(list.value?.children ?? [])].map((item) => item.getBoundingClientRect().top);
  const below = tops.find((top) => top > tops[0]! + 1);
  if (below === undefined) {
    room.value = undefined;
    return;
  }
  const row = Math.ceil(below - tops[0]!);
  room.value = `${(window.innerHeight < TALL ? ROWS : ROWS + 1) * row}px`;
}
// Not by the size of the list, which hangs on what is set here: a scroll bar would come and go for ever.
useEventListener(window, 'resize', measure);
watch(
  [list, () => props.take],
  async () => {
    await nextTick();
    measure();
    await nextTick();
    const spoken = list.value?.querySelector('.lit')?.closest('li');
    const first = list.value?.firstElementChild as HTMLElement | null;
    if (list.value && spoken && first) list.value.scrollTop = spoken.offsetTop - first.offsetTop;
  },
  { immediate: true },
);
</script>

<template>
  <p v-if="then" class="then"><span>Then:</span> {{ then.sentence }}</p>
  <p class="quiet">{{ facts }}</p>
  <details class="quiet">
    <summary>What counts as clean</summary>
    <p>
      {{ clean }} In time is within {{ take.judgement.tolerance }} ms here: about an eighth of the
      shortest gap between two strokes, never under 30 and never over 45.
    </p>
  </details>
  <p v-if="take.source === 'example'" class="example">
    A made-up player, as an example. It is not kept, and counts for nothing.
  </p>
  <blockquote v-if="take.answer" class="reply" aria-label="Answer">{{ take.answer }}</blockquote>
  <template v-if="take.judgement.strokes.length > 0 && fits">
    <TakeBars
      ref="bars"
      class="take"
      :style="{ maxHeight: room, minHeight: room }"
      :bars="player.bars"
      :strikes="player.performance?.strikes ?? []"
      :judgement="take.judgement"
      :per-tick="perTick"
      :first="take.from - 1"
      :last="take.to - 1"
      :lit="lit"
      :live="player.heard ? (player.bar?.index ?? null) : null"
      @choose="hear"
    />
    <div class="row">
      <TakeSound :key="take.id ?? 'fresh'" ref="sound" :take="take" />
      <template v-if="sound?.there">
        <span class="label">a bar plays</span>
        <ChooseBeside v-model="plays" :options="PLAYS" size="small" aria-label="What a bar plays" />
      </template>
    </div>
    <p class="quiet">
      Thick: the pattern. Thin: you. Hollow: missed. A dotted ring: added. Underlined: what the
      verdict counts.
    </p>
    <div class="below">
      <SlotChart :judgement="take.judgement" />
      <section v-if="changes.length > 0" aria-label="Changes in this take">
        <h2>Landings, the latest first</h2>
        <ul>
          <li v-for="change in changes" :key="`${change.from} ${change.to}`">
            {{ text.change(change) }}
          </li>
        </ul>
      </section>
    </div>
  </template>
  <TakeAnswer :take="take" :sounds="sound?.there === true" />
</template>

<style scoped>
.example {
  font-weight: 650;
  color: var(--brass-ink);
}

.then span {
  font-weight: 650;
}

details {
  max-width: 70ch;
}

summary {
  cursor: pointer;
  width: max-content;
}

/* What a teacher wrote. */
.reply {
  margin: 0;
  padding: 0.3rem 0.8rem;
  border-left: 4px solid var(--brass);
  white-space: pre-wrap;
}

/* The chart below stays in sight; the bars scroll alone. */
.take {
  overflow: auto;
  scrollbar-width: thin;
  /* Rows are as high as they are wide: a scroll bar that comes and goes would change the one with the other. */
  scrollbar-gutter: stable;
  padding-inline: 0.15rem;
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem 0.8rem;
}

.below {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(12rem, 2fr);
  gap: 1.2rem;
}

h2 {
  font-size: 1rem;
}

ul {
  margin: 0.3rem 0 0;
  padding-left: 1.1rem;
}

@media (max-width: 40rem) {
  .below {
    grid-template-columns: 1fr;
  }
}
</style>
