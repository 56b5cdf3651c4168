<script setup lang="ts">
import Button from 'primevue/button';
import ProgressBar from 'primevue/progressbar';
import ToggleSwitch from 'primevue/toggleswitch';
import ChooseOne from '../../fields/ChooseOne.vue';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { type Habits, previewBars, type Song, type TakeOnset } from '#core';
import { useTapKeys } from '../../frame/keys';
import { Capture, decode, whyNot } from '../../audio/capture';
import { useHandStore } from '../../stores/hand';
import { useMixerStore } from '../../stores/mixer';
import { usePlayerStore } from '../../stores/player';
import { useTakesStore } from '../../stores/takes';

/** The ways in for a take: a microphone, a sound file, taps, or a player who is made up. */
const props = defineProps<{ song: Song }>();
const takes = useTakesStore();
const player = usePlayerStore();
const hand = useHandStore();
const mixer = useMixerStore();

type Way = 'microphone' | 'file' | 'taps' | 'example';
const way = ref<Way>('microphone');
const ways: { label: string; value: Way }[] = [
  { label: 'Microphone', value: 'microphone' },
  { label: 'Sound file', value: 'file' },
  { label: 'Taps', value: 'taps' },
  { label: 'Example player', value: 'example' },
];
const told = ref<string | null>(null);
watch(way, () => (told.value = null));

const withSong = ref(false);
const running = ref<'microphone' | 'taps' | null>(null);
const level = ref(0);
const clipped = ref(false);
const capture = shallowRef<Capture | null>(null);
const taps = shallowRef<TakeOnset[]>([]);
let began = 0;
/** Takes that were begun so far. */
let taken = 0;

/** Plays the bars once with the click, and ends the take a moment after them. */
async function playAlong(): Promise<void> {
  const { from, to } = takes.part;
  if (!player.arranged) return;
  const alone = previewBars(player.arranged, from - 1, to - 1);
  const backing = withSong.value ? alone : { ...alone, strikes: [] };
  await player.audition(backing, { click: true, countIn: Math.max(1, props.song.countIn) });
}

async function startMicrophone(): Promise<void> {
  told.value = null;
  clipped.value = false;
  player.stop();
  try {
    capture.value = await Capture.open(
      (now, over) => {
        level.value = now;
        clipped.value ||= over;
      },
      () => {
        told.value = 'The microphone went away; what was heard until then is judged.';
        void stop();
      },
    );
  } catch (error) {
    told.value = whyNot(error);
    return;
  }
  taken += 1;
  running.value = 'microphone';
  await playAlong();
}

async function startTaps(): Promise<void> {
  told.value = null;
  player.stop();
  taps.value = [];
  began = performance.now();
  taken += 1;
  running.value = 'taps';
  await playAlong();
}

function tap(direction: TakeOnset['direction']): void {
  taps.value = [...taps.value, { seconds: (performance.now() - began) / 1000, direction }];
}
const KEYS: Record<string, TakeOnset['direction']> = {
  ArrowDown: 'down',
  ArrowUp: 'up',
  f: 'down',
  j: 'up',
  ' ': null,
};
useTapKeys(
  () => running.value === 'taps',
  ({ key }) => {
    if (key === 'Escape') void stop();
    else if (key in KEYS) tap(KEYS[key]);
    else return false;
    return true;
  },
);

/** Ends the take and has it judged. */
async function stop(): Promise<void> {
  const how = running.value;
  running.value = null;
  player.stop();
  if (how === 'taps') {
    await takes.fromOnsets(taps.value);
    return;
  }
  const open = capture.value;
  capture.value = null;
  if (how !== 'microphone' || !open) return;
  const recording = await open.close();
  await takes.fromSound('microphone', recording);
}

const AFTER = 700;
/** Ends the take a moment after the music; at once told, so that what was heard before it does not end it. */
watch(
  () => player.auditioning,
  (sounding) => {
    const take = taken;
    if (sounding || !running.value) return;
    setTimeout(() => {
      if (take === taken && running.value) void stop();
    }, AFTER);
  },
  { flush: 'sync' },
);
onBeforeUnmount(() => {
  running.value = null;
  player.stop();
  void capture.value?.close();
});

const LARGEST = 64 * 2 ** 20;
async function read(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (!file) return;
  told.value = null;
  if (file.size > LARGEST) {
    told.value = 'This file is larger than 64 MB; a shorter one would do.';
    return;
  }
  const bytes = await file.arrayBuffer();
  const isWav = new TextDecoder().decode(bytes.slice(0, 4)) === 'RIFF';
  if (isWav) {
    await takes.fromWav(new Uint8Array(bytes));
    return;
  }
  try {
    await takes.fromSound('file', await decode(bytes));
  } catch (error) {
    told.value = error instanceof Error ? error.message : String(error);
  }
}

const HABITS: { label: string; value: string; habits: Omit<Habits, 'seed'> }[] = [
  { label: 'plays cleanly', value: 'clean', habits: { jitter: 9 } },
  {
    label: 'comes late to the hardest change',
    value: 'change',
    habits: { jitter: 8, landingsLate: 85 },
  },
  {
    label: 'comes late to every change',
    value: 'landings',
    habits: { jitter: 8, landingsLate: 65 },
  },
  { label: 'strums unevenly', value: 'uneven', habits: { jitter: 38 } },
  { label: 'rushes', value: 'rushing', habits: { jitter: 8, drift: 4 } },
  { label: 'leaves out ups', value: 'ups', habits: { jitter: 8, upsMissed: 0.5 } },
  { label: 'stops the arm after a miss', value: 'miss', habits: { jitter: 8, stopsAfterMiss: 60 } },
  { label: 'still holds the old chord', value: 'chord', habits: { jitter: 8, chordLate: true } },
];
const habit = ref('change');
const seed = ref(1);
function example(): void {
  const chosen = HABITS.find(({ value }) => value === habit.value)!;
  const [first, second] = player.changes;
  const hardest =
    hand.found?.changes[0] ??
    (first && second ? { from: first.symbol, to: second.symbol } : undefined);
  const change =
    habit.value === 'change' && hardest ? { change: { from: hardest.from, to: hardest.to } } : {};
  seed.value += 1;
  void takes.fromExample({ seed: seed.value, ...chosen.habits, ...change });
}

const counting = computed(() => running.value !== null && player.heardAlone?.countIn !== false);
const bars = computed(() =>
  takes.part.from === takes.part.to
    ? `bar ${takes.part.from}`
    : `bars ${takes.part.from} to ${takes.part.to}`,
);
</script>

<template>
  <section class="listen" aria-label="Listen">
    <ChooseBeside v-model="way" :options="ways" aria-label="How the take comes in" size="small" />
    <p class="quiet">
      It plays a click over {{ bars }} at {{ song.tempo }} and listens. The loop of the stage bar
      says which bars.
    </p>

    <template v-if="running">
      <p class="now" role="status">{{ counting ? 'Count-in…' : 'Play.' }}</p>
      <template v-if="running === 'microphone'">
        <ProgressBar :value="Math.round(level * 100)" :show-value="false" aria-label="Level" />
        <p v-if="clipped" class="clip">
          Too loud: the sound is cut off at the top. Move away a little.
        </p>
      </template>
      <div v-else class="pads">
        <button type="button" @pointerdown.prevent="tap('down')">Down</button>
        <button type="button" @pointerdown.prevent="tap('up')">Up</button>
      </div>
      <Button label="Stop and judge" icon="pi pi-stop" @click="stop" />
    </template>

    <template v-else-if="way === 'microphone'">
      <label class="row"><ToggleSwitch v-model="withSong" /> play the song’s own sound too</label>
      <Button
        label="Listen to a take"
        icon="pi pi-microphone"
        :loading="takes.judging"
        :disabled="player.bars.length === 0"
        @click="startMicrophone"
      />
      <p class="quiet">
        With headphones it hears you alone, which is surest; a click from the loudspeaker works too.
        {{ mixer.cautioned ? '' : 'Keep the level in headphones moderate.' }} The sound is not kept.
      </p>
    </template>
    <template v-else-if="way === 'file'">
      <label class="file p-button">
        Choose a sound file
        <input type="file" accept="audio/*,.wav" class="heard-only" @change="read" />
      </label>
      <p class="quiet">
        With or without a count-in, beginning with bar {{ takes.part.from }}. It stays on this
        machine.
      </p>
    </template>
    <template v-else-if="way === 'taps'">
      <p>
        Down is <kbd>↓</kbd> or <kbd>f</kbd>, up is <kbd>↑</kbd> or <kbd>j</kbd>; the space bar or a
        pedal is either.
      </p>
      <Button
        label="Tap a take"
        icon="pi pi-play"
        :loading="takes.judging"
        :disabled="player.bars.length === 0"
        @click="startTaps"
      />
    </template>
    <template v-else>
      <div class="row">
        <span id="habit">A player who</span>
        <ChooseOne v-model="habit" :options="HABITS" aria-labelledby="habit" />
      </div>
      <Button
        label="Hear what is said of it"
        icon="pi pi-user"
        :loading="takes.judging"
        :disabled="player.bars.length === 0"
        @click="example"
      />
      <p class="quiet">
        A made-up take, rendered with noise and a small room, and heard like any other.
      </p>
    </template>

    <p v-if="takes.judging" role="status">Listening to the take…</p>
    <p v-if="told ?? takes.trouble" class="trouble" role="alert">{{ told ?? takes.trouble }}</p>
    <p class="quiet">
      Stop when the hand, wrist or forearm hurts, tingles or goes numb. Rest often.
    </p>
  </section>
</template>

<style scoped>
.listen {
  display: grid;
  gap: 0.7rem;
  justify-items: start;
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
}

.now {
  font-family: var(--display);
  font-size: 1.8rem;
  font-weight: 650;
}

.pads {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.6rem;
  width: 100%;
}

.pads button {
  min-height: 5rem;
  border: 2px solid var(--brass);
  border-radius: var(--radius);
  background: var(--paper-raised);
  color: inherit;
  font-size: 1.2rem;
  touch-action: manipulation;
}

.listen :deep(.p-progressbar) {
  width: 100%;
}

.clip,
.trouble {
  color: var(--ink);
  border-left: 4px solid var(--coral);
  padding-left: 0.6rem;
}

.file {
  cursor: pointer;
}

.file:focus-within {
  outline: 3px solid var(--brass);
  outline-offset: 2px;
}
</style>
