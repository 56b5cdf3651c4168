<script setup lang="ts">
import Button from 'primevue/button';
import ToggleSwitch from 'primevue/toggleswitch';
import ChooseOne from '../../fields/ChooseOne.vue';
import FormRow from '../../fields/FormRow.vue';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { plural } from '#core/plain';
import type { ChangeTime, Shape, Song } from '#core/schema';
import { barTicks } from '#core/time';
import { previewSteps } from '#core/arrange';
import { type HandKind, timedChange } from '#core/hand';
import { Capture, whyNot } from '../../audio/capture';
import ChordDiagram from '../../chords/ChordDiagram.vue';
import { useTapKeys } from '../../frame/keys';
import { useFrettedStore } from '../../stores/fretted';
import { useHandStore } from '../../stores/hand';
import { useMixerStore } from '../../stores/mixer';
import { usePlayerStore } from '../../stores/player';
import TimeHistory from './TimeHistory.vue';
import { TIMED_SECONDS, useChangeTimer } from './changeTimer';
import { text } from './text';

/** A change played to and fro as quickly as it comes clean, struck once each time the chord is ready. */
const props = defineProps<{ song: Song; change: HandKind | null }>();
const chords = useFrettedStore();
const hand = useHandStore();
const player = usePlayerStore();
const mixer = useMixerStore();

/** Fewer gaps than this say nothing of a change. */
const FEWEST = 4;

const from = ref<string | null>(null);
const to = ref<string | null>(null);
watch(
  () => props.change && `${props.change.from} ${props.change.to}`,
  () => {
    from.value = props.change?.from ?? null;
    to.value = props.change?.to ?? null;
  },
  { immediate: true },
);
const options = computed(() =>
  chords.chords
    .filter((symbol) => chords.of(symbol))
    .map((symbol) => ({ label: symbol, value: symbol })),
);
const pair = computed(() => {
  const [start, end] = [from.value && chords.of(from.value), to.value && chords.of(to.value)];
  return start && end && start.symbol !== end.symbol ? { from: start, to: end } : null;
});

const clicks = ref(false);
/** It is listened to: a stroke says that the chord is ready, and no key need be pressed. */
const listens = ref(false);
const capture = shallowRef<Capture | null>(null);
/** Why the listening ended before its time. */
let away = '';
async function closeEar(): Promise<void> {
  const open = capture.value;
  capture.value = null;
  await open?.close();
}
onBeforeUnmount(() => void closeEar());
const told = ref('');
const result = ref<ReturnType<typeof timedChange> | null>(null);
const plainShape = ({ frets, fingers }: Shape): Shape => ({
  frets: [...frets],
  fingers: [...fingers],
});

async function finish(gaps: number[]): Promise<void> {
  player.stop();
  const heard = capture.value !== null;
  await closeEar();
  if (!pair.value) return;
  if (gaps.length < FEWEST) {
    result.value = null;
    told.value = `Only ${plural(gaps.length, 'change')}: too few to say anything. Nothing was kept.`;
    return;
  }
  result.value = timedChange(gaps);
  told.value = away;
  const { instrument } = props.song;
  const timing = {
    from: pair.value.from.symbol,
    to: pair.value.to.symbol,
    fromShape: plainShape(pair.value.from.shape),
    toShape: plainShape(pair.value.to.shape),
    instrument: instrument.name,
    strings: [...instrument.strings],
    gaps,
    source: heard ? ('heard' as const) : ('taps' as const),
  };
  try {
    if (!(await hand.keep(timing))) {
      told.value =
        'The server is away. This timing is kept in this browser, and sent when the server is back.';
    }
  } catch {
    told.value =
      'This timing was not kept: the server is away, and this browser has no room for it.';
  }
}
const timer = useChangeTimer((gaps) => void finish(gaps));

async function start(): Promise<void> {
  player.stop();
  away = '';
  told.value = '';
  result.value = null;
  if (listens.value && !(await openEar())) return;
  if (clicks.value && !listens.value) {
    const { tempo, meter } = props.song;
    await player.audition(previewSteps([], barTicks(meter), tempo, meter), {
      click: true,
      loop: true,
      countIn: 0,
    });
  }
  timer.start();
}

async function openEar(): Promise<boolean> {
  try {
    capture.value = await Capture.open(
      {
        heard: () => {},
        lost: () => {
          away = 'The microphone went away; what was heard until then counts.';
          timer.end();
        },
        struck: (_, ago) => timer.ready(performance.now() / 1000 - ago),
      },
      mixer.microphone,
    );
    return true;
  } catch (error) {
    told.value = whyNot(error, 'Keys and the pad work without one.');
    return false;
  }
}

const TAPS = [' ', 'ArrowDown', 'ArrowUp', 'f', 'j'];
useTapKeys(
  () => timer.running.value,
  ({ key }) => {
    if (key === 'Escape') timer.end();
    else if (TAPS.includes(key)) timer.ready();
    else return false;
    return true;
  },
);

/** Which of the two is next: the first stroke is the old chord. */
const next = computed(() => (timer.moments.value.length % 2 === 0 ? 'from' : 'to'));
const changes = computed(() => Math.max(0, timer.moments.value.length - 1));
const sameShapes = (timing: ChangeTime) => {
  const names = [timing.from, timing.to].sort().join(' ');
  return (
    pair.value !== null && names === [pair.value.from.symbol, pair.value.to.symbol].sort().join(' ')
  );
};
const history = computed(() => hand.timings.filter(sameShapes));
const ceiling = computed(
  () =>
    hand.found?.changes.find(
      (change) => change.from === pair.value?.from.symbol && change.to === pair.value.to.symbol,
    ) ?? null,
);
</script>

<template>
  <section class="timing" aria-label="Time a change">
    <h2>Time a change</h2>
    <template v-if="!timer.running.value">
      <FormRow v-slot="{ labelId }" label="From">
        <ChooseOne v-model="from" :options="options" :aria-labelledby="labelId" />
      </FormRow>
      <FormRow v-slot="{ labelId }" label="To">
        <ChooseOne v-model="to" :options="options" :aria-labelledby="labelId" />
      </FormRow>
    </template>
    <template v-if="pair">
      <div class="pair">
        <figure
          v-for="(held, side) in pair"
          :key="side"
          :class="{ next: timer.running.value && next === side }"
        >
          <ChordDiagram
            :shape="held.shape"
            :instrument="song.instrument"
            :label="`${held.symbol}${timer.running.value && next === side ? ', next' : ''}`"
          />
          <figcaption>{{ held.symbol }}</figcaption>
        </figure>
      </div>
      <template v-if="timer.running.value">
        <button type="button" class="pad" @pointerdown.prevent="timer.ready()">
          <span class="left">{{ Math.ceil(timer.left.value) }} s</span>
          <span>{{ plural(changes, 'change') }}</span>
          <small v-if="capture"
            >Strike once when {{ pair[next].symbol }} is ready: it listens.</small
          >
          <small v-else
            >Strike once when {{ pair[next].symbol }} is ready, and press here or the space
            bar.</small
          >
        </button>
        <Button label="Stop" icon="pi pi-stop" severity="secondary" @click="timer.end()" />
      </template>
      <template v-else>
        <FormRow v-slot="{ labelId }" label="Listen">
          <ToggleSwitch v-model="listens" :aria-labelledby="labelId" />
          <span class="quiet">The microphone hears each stroke.</span>
        </FormRow>
        <FormRow v-if="!listens" v-slot="{ labelId }" label="Soft click">
          <ToggleSwitch v-model="clicks" :aria-labelledby="labelId" />
          <span class="quiet">at {{ song.tempo }}</span>
        </FormRow>
        <Button :label="`Start, ${TIMED_SECONDS} seconds`" icon="pi pi-stopwatch" @click="start" />
        <p class="quiet">
          To and fro, once each. Stop at once when the hand, wrist or forearm hurts, tingles or goes
          numb.
        </p>
      </template>
    </template>
    <p v-else class="quiet">Choose two chords that have a shape.</p>
    <div v-if="result" role="status" class="result">
      <p>
        <strong>{{ plural(result.changes, 'change') }}, {{ result.median }} ms each.</strong>
        {{ text.spread(result.spread, result.left) }}
      </p>
      <p v-if="ceiling?.ceiling && ceiling.measured">
        {{ ceiling.from }} to {{ ceiling.to }} is now possible up to
        {{ Math.floor(ceiling.ceiling) }}.
      </p>
    </div>
    <p v-if="told" role="status">{{ told }}</p>
    <TimeHistory v-if="history.length > 0" :timings="history" @remove="hand.remove" />
  </section>
</template>

<style scoped>
.timing {
  display: grid;
  gap: 0.4rem;
  justify-items: start;
}

h2 {
  font-size: 1.15rem;
}

.pair {
  display: flex;
  gap: 1rem;
}

figure {
  margin: 0;
  width: 7rem;
  padding: 0.3rem;
  border-radius: var(--radius);
}

figure.next {
  background: var(--brass-soft);
}

figcaption {
  font-family: var(--display);
  font-weight: 650;
  text-align: center;
}

.pad {
  display: grid;
  gap: 0.2rem;
  width: 100%;
  padding: 1rem;
  border: 2px solid var(--brass);
  border-radius: var(--radius);
  background: var(--paper-raised);
  color: inherit;
  font-size: 1.3rem;
  touch-action: manipulation;
}

.left {
  font-family: var(--display);
  font-size: 2.2rem;
  font-weight: 700;
}

.result {
  display: grid;
  gap: 0.2rem;
}
</style>
