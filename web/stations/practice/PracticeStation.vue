<script setup lang="ts">
import { useIntervalFn, useSpeechSynthesis } from '@vueuse/core';
import Button from 'primevue/button';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue';
import type { RungId, TakeJudgement } from '#core/schema';
import { barTicks, secondsPerTick } from '#core/time';
import { describeRung, rungName } from '#core/practice';
import StationFrame from '../../frame/StationFrame.vue';
import { announce, focusNext } from '../../frame/announce';
import { usePageKeys } from '../../frame/keys';
import { useStagePlay } from '../../frame/stagePlay';
import { useOpenTool } from '../../frame/openTool';
import { useAlongStore } from '../../stores/along';
import { useHandStore } from '../../stores/hand';
import { usePlayerStore } from '../../stores/player';
import { usePracticeStore } from '../../stores/practice';
import { useTakesStore } from '../../stores/takes';
import ChairView from './ChairView.vue';
import GoalPanel from './GoalPanel.vue';
import LadderPanel from './LadderPanel.vue';
import ListenPanel from './ListenPanel.vue';
import PracticeCard from './PracticeCard.vue';
import TakeView from './TakeView.vue';
import TakesPanel from './TakesPanel.vue';
import { useTakeRun } from './takeRun';

defineProps<{
  /** What is practised, in one line, where it can be chosen in the slot of that name. */
  settings?: string;
}>();
/** One card at a time: what to do now, the take, what is said of it, and one key for what follows. */
const player = usePlayerStore();
const practice = usePracticeStore();
const takes = useTakesStore();
const hand = useHandStore();

const TOOLS = ['ladder', 'listen', 'goal', 'takes'] as const;
type Panel = (typeof TOOLS)[number];
const panel = useOpenTool<Panel>(() => TOOLS);
const panels: { label: string; value: Panel }[] = [
  { label: 'Ladder', value: 'ladder' },
  { label: 'Listen', value: 'listen' },
  { label: 'Goal', value: 'goal' },
  { label: 'Takes', value: 'takes' },
];

const along = useAlongStore();
onMounted(() => {
  practice.enter();
  // A song without a recording, or a server that is away, leaves that choice out.
  void along.look().catch(() => undefined);
});
onBeforeUnmount(() => practice.leave());
const run = useTakeRun();
useStagePlay(() => ({
  label: run.label.value,
  running: run.running.value !== null || run.hearing.value,
  busy: takes.judging,
  disabled: player.bars.length === 0 || practice.all.length === 0,
  heard: run.heard.value,
  toggle: run.toggle,
}));
watch(run.chooses, () => (panel.value = 'listen'));

const listen = computed(() => {
  const waited = practice.waited?.split(' to ');
  if (waited?.length === 2) return { from: waited[0]!, to: waited[1]! };
  const first = hand.found?.changes[0];
  return first ? { from: first.from, to: first.to } : null;
});
/** What to do now; after a take, what was heard of it. */
const task = computed(() => {
  if (practice.drill) return `${practice.drill.title}, at ${practice.tempo}.`;
  if (!practice.now) return 'No bars yet: write the progression on the Song station.';
  return describeRung(practice.now, practice.tempo, practice.loop, listen.value);
});
const verdict = computed(() => takes.shown?.judgement.verdict ?? null);
const sentence = computed(() => {
  if (verdict.value && !run.running.value) return verdict.value.sentence;
  return task.value;
});

// What was heard of a take is said, and the next step is under the finger.
const card = useTemplateRef<{ $el: HTMLElement }>('card');
watch(
  () => takes.latest,
  (take) => {
    if (!take) return;
    announce(take.judgement.verdict.sentence);
    void focusNext(
      () => card.value?.$el.querySelector<HTMLElement>('button:not([disabled])'),
      '.stage-bar .play',
    );
  },
);

/** The next step, where there was a take since the last one was taken. */
const next = computed(() => {
  const step = practice.next;
  return step && practice.fresh && !practice.drill && practice.hands === 'both' ? step : null;
});
const LABELS = {
  start: 'Begin',
  again: 'Once more',
  up: 'Up',
  down: 'Down',
  loop: 'That place alone',
  whole: 'Back into the whole',
  next: 'The next rung',
  reached: 'Once more, for fun',
} as const;
const advice = computed(() => {
  const step = next.value;
  if (!step) return null;
  const tempo = step.tempo === practice.tempo ? '' : ` to ${step.tempo}`;
  const label =
    step.does === 'up' || step.does === 'down' ? LABELS[step.does] + tempo : LABELS[step.does];
  return { step, label };
});
/** What the verdict itself asks for, in one press, where the next step is something else. */
const asked = computed(() => {
  const now = verdict.value;
  if (!now || run.running.value || practice.drill) return null;
  const { playedAt } = takes.shown!.judgement;
  if (now.trouble === 'tempo' && playedAt) {
    const tempo = Math.round(playedAt);
    return { label: `Take it at ${tempo}`, tempo, loop: practice.loop };
  }
  if (!now.loop || now.trouble === 'clean') return null;
  const { from, to } = now.loop;
  const step = next.value;
  if (step?.loop?.from === from && step.loop.to === to) return null;
  const bars = from === to ? `bar ${from}` : `bars ${from}–${to}`;
  const slower = now.tempo < practice.tempo ? `, at ${now.tempo}` : '';
  return {
    label: `Loop ${bars}${slower}`,
    tempo: Math.min(now.tempo, practice.tempo),
    loop: now.loop,
  };
});
function doAsked(): void {
  const wish = asked.value;
  if (!wish) return;
  takes.shown = null;
  practice.go({ rung: practice.rung, tempo: wish.tempo, loop: wish.loop });
}

/** A file that is a take of another rung: which, once it was tried. */
const elsewhere = shallowRef<{ id: RungId; judgement: TakeJudgement } | null>(null);
watch(
  () => takes.latest,
  async (take) => {
    elsewhere.value = null;
    const trouble = take?.judgement.verdict.trouble;
    if (!take || take.source !== 'file' || !['unjudged', 'missing', 'added'].includes(trouble!))
      return;
    const others = practice.rungSongs().filter(({ id }) => id !== practice.rung);
    elsewhere.value = await takes.fitsElsewhere(others).catch(() => null);
  },
);
function goElsewhere(): void {
  const there = elsewhere.value;
  if (!there) return;
  elsewhere.value = null;
  const { shown } = takes;
  practice.go({ rung: there.id, tempo: practice.tempo, loop: practice.loop });
  takes.shown = shown;
  takes.showAs({ rung: there.id }, there.judgement);
}

function follow(): void {
  const step = next.value;
  if (!step) return;
  takes.shown = null;
  practice.go(step);
}

/** It goes on by itself: the advice, two bars of rest, the next take; any key ends that. */
const rest = ref<ReturnType<typeof setTimeout> | null>(null);
const BARS_OF_REST = 2;
function endRest(): void {
  if (rest.value) clearTimeout(rest.value);
  rest.value = null;
}
watch(
  () => practice.taken.length,
  (count, before) => {
    if (!practice.ready || count <= before) return;
    if (practice.aloud && speech.isSupported.value) speech.speak();
    if (!practice.runsOn) return;
    const meter = player.activeSong?.meter;
    if (!meter) return;
    const bar = barTicks(meter) * secondsPerTick(practice.tempo, meter) * 1000;
    endRest();
    rest.value = setTimeout(() => {
      rest.value = null;
      follow();
      void run.start();
    }, BARS_OF_REST * bar);
  },
);
usePageKeys(() => {
  endRest();
  return false;
});
onBeforeUnmount(endRest);
const speech = useSpeechSynthesis(
  () => `${verdict.value?.sentence ?? ''} ${next.value?.says ?? ''}`,
);

/** Playing is counted; after so many minutes a pause is proposed, and may be waved away. */
useIntervalFn(() => {
  if (player.playing) practice.played += 1;
}, 1000);
const pause = computed(
  () =>
    practice.pauseAfter > 0 && practice.played >= practice.pauseAfter * 60 && !run.running.value,
);
const chair = ref(false);
/** A take is looked at: it takes the place of the path. */
const looking = computed(() => takes.shown !== null && run.running.value === null);

function hear(bar: number): void {
  player.selectedBar = bar;
  player.stop();
  void player.play();
}
</script>

<template>
  <StationFrame
    v-model:tool="panel"
    :answer="sentence"
    :tools="panels"
    work="Take"
    v-bind="settings ? { settings } : {}"
  >
    <template #settings><slot name="settings" /></template>
    <template #beside>
      <Button
        icon="pi pi-expand"
        text
        rounded
        aria-label="Stand view"
        title="Full screen, with one key or a pedal"
        @click="chair = true"
      />
    </template>
    <p v-if="verdict && !run.running.value" class="task quiet">{{ task }}</p>
    <p v-if="pause" class="pause" role="status">
      {{ Math.floor(practice.played / 60) }} minutes of playing. Hands off the strings for a while:
      stop when the hand, wrist or forearm hurts, tingles or goes numb.
      <Button label="I have rested" size="small" text @click="practice.played = 0" />
    </p>
    <PracticeCard v-if="practice.all.length > 0" ref="card" :run="run" :compact="looking">
      <Button
        v-if="advice"
        :label="advice.label"
        icon="pi pi-arrow-right"
        size="large"
        :disabled="run.running.value !== null"
        @click="follow"
      />
      <Button
        v-if="asked"
        :label="asked.label"
        icon="pi pi-refresh"
        size="large"
        outlined
        @click="doAsked"
      />
    </PracticeCard>
    <p v-if="advice && !run.running.value" class="says">
      {{ advice.step.says }}
      <template v-if="rest">Continues in two bars; press any key to stay.</template>
    </p>
    <p v-if="elsewhere && looking" class="elsewhere" role="status">
      This fits “{{ rungName(elsewhere.id) }}” better.
      <Button label="Judge it as that" size="small" text @click="goElsewhere" />
    </p>
    <p v-if="run.told.value ?? takes.trouble ?? practice.trouble" class="trouble" role="alert">
      {{ run.told.value ?? takes.trouble ?? practice.trouble }}
    </p>
    <TakeView v-if="looking" :take="takes.shown!" @hear="hear" />

    <template #tool>
      <LadderPanel v-if="panel === 'ladder'" />
      <ListenPanel v-else-if="panel === 'listen'" :run="run" />
      <GoalPanel v-else-if="panel === 'goal'" />
      <TakesPanel v-else />
    </template>
  </StationFrame>
  <ChairView
    v-if="chair"
    :run="run"
    :sentence="sentence"
    :advice="advice?.step.says ?? null"
    @follow="follow"
    @leave="chair = false"
  />
</template>

<style scoped>
.task {
  margin-top: -0.3rem;
}

.says {
  font-weight: 650;
}

.pause,
.trouble {
  border-left: 4px solid var(--coral);
  padding-left: 0.6rem;
}
</style>
