<script setup lang="ts">
import { useDevicesList } from '@vueuse/core';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed } from 'vue';
import { isReentrant } from '#core/neck';
import { knowsMidi } from '../../audio/midiIn';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import ChooseFile from '../../fields/ChooseFile.vue';
import ChooseOne from '../../fields/ChooseOne.vue';
import FormRow from '../../fields/FormRow.vue';
import { FASTEST, SLOWEST } from '../../stores/alongPlay';
import { useMixerStore } from '../../stores/mixer';
import { usePlayerStore } from '../../stores/player';
import { usePracticeStore } from '../../stores/practice';
import { useTakesStore } from '../../stores/takes';
import { useAlongStore } from '../../stores/along';
import type { TakeRun } from './takeRun';
import { type Behind, HABITS, type Way } from './takeWays';
import { text } from './text';

/** The ways in for a take, and what is heard while it is played. */
const props = defineProps<{ run: TakeRun }>();
const takes = useTakesStore();
const player = usePlayerStore();
const practice = usePracticeStore();
const mixer = useMixerStore();
const { way, backing, habit } = props.run;

const ways: { label: string; value: Way }[] = [
  { label: 'Microphone', value: 'microphone' },
  { label: 'Sound file', value: 'file' },
  { label: 'Taps', value: 'taps' },
  ...(knowsMidi() ? [{ label: 'MIDI', value: 'midi' as const }] : []),
  { label: 'Rate it myself', value: 'word' },
  { label: 'Example player', value: 'example' },
];
const along = useAlongStore();
const backings = computed<{ label: string; value: Behind }[]>(() => [
  { label: 'click only', value: 'nothing' },
  { label: 'what is to be played', value: 'all' },
  { label: 'the song without your part', value: 'rest' },
  ...(along.map && !practice.drill
    ? [{ label: 'the recording, in headphones', value: 'recording' as const }]
    : []),
]);
const callsAhead = [
  { label: 'off', value: 'off' },
  { label: 'a beat ahead', value: 'beat' },
  { label: 'a bar ahead', value: 'bar' },
];

/** What there is room for in these bars. */
const habits = computed(() => {
  const strikes = player.performance?.strikes ?? [];
  return HABITS.filter(({ fits }) => fits?.(strikes) ?? true);
});
/** An empty choice would be shown as none. */
const ANY = 'any';
const microphone = computed({
  get: () => mixer.microphone || ANY,
  set: (id) => (mixer.microphone = id === ANY ? '' : id),
});
/** Those that have a name: the browser tells them once it was allowed to listen. */
const { audioInputs } = useDevicesList();
const microphones = computed(() => [
  { label: 'as the browser chooses', value: ANY },
  ...audioInputs.value
    .filter(({ deviceId, label }) => deviceId !== '' && label !== '')
    .map(({ deviceId, label }) => ({ label, value: deviceId })),
]);
/** Where the lowest string is in the middle, a strum sounds alike both ways. */
const waysUnheard = computed(
  () =>
    (way.value === 'microphone' || way.value === 'file') &&
    player.activeSong !== null &&
    isReentrant(player.activeSong.instrument),
);
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
      A take is {{ bars }}, once, at {{ practice.tempo }}. The loop of the stage bar says which
      bars.
    </p>

    <p v-if="waysUnheard" class="quiet">
      On these strings down and up sound alike: by ear nothing is said of them.
    </p>
    <template v-if="way === 'microphone'">
      <FormRow v-if="microphones.length > 2" v-slot="{ labelId }" label="Microphone">
        <ChooseOne v-model="microphone" :options="microphones" :aria-labelledby="labelId" />
      </FormRow>
      <p class="quiet">
        {{ text.headphones(mixer.cautioned) }}
      </p>
    </template>
    <template v-else-if="way === 'file'">
      <ChooseFile
        label="Choose a sound file"
        accept="audio/*,.wav,.mid,.midi"
        @file="run.readFile"
      />
      <p class="quiet">
        Sound, or notes of a MIDI file. With or without a count-in, beginning with bar
        {{ takes.part.from }}. It stays on this machine.
      </p>
    </template>
    <template v-else-if="way === 'taps'">
      <p>
        Down is <kbd>↓</kbd> or <kbd>f</kbd>, up is <kbd>↑</kbd> or <kbd>j</kbd>; the space bar or a
        pedal is either. <kbd>Esc</kbd> ends the take.
      </p>
    </template>
    <template v-else-if="way === 'midi'">
      <p class="quiet">
        A MIDI instrument on this machine. The browser asks before it may be listened to, when the
        take begins.
      </p>
    </template>
    <template v-else-if="way === 'word'">
      <p class="quiet">Nobody listens. After the take you say how it went, with one key.</p>
    </template>
    <template v-else>
      <FormRow v-slot="{ labelId }" label="A player who">
        <ChooseOne v-model="habit" :options="habits" :aria-labelledby="labelId" />
      </FormRow>
      <p class="quiet">
        A made-up take, rendered with noise and a small room, and heard like any other.
      </p>
    </template>

    <FormRow v-if="way !== 'file' && way !== 'example'" v-slot="{ labelId }" label="With the click">
      <ChooseOne v-model="backing" :options="backings" :aria-labelledby="labelId" />
    </FormRow>
    <p v-if="backing === 'recording' && along.map" class="quiet">
      A bar is counted, then the recording plays at the tempo of the take, from
      {{ Math.round(SLOWEST * 100) }} to {{ Math.round(FASTEST * 100) }} % of its own speed; what
      you play is judged by its beats.
    </p>
    <p v-if="backing === 'rest'" class="quiet">
      The rest of the song: strokes that this rung leaves out; of the song in full, its bass runs
      and notes.
    </p>
    <FormRow v-slot="{ labelId }" label="Call the chords">
      <ChooseOne v-model="practice.calls" :options="callsAhead" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow v-slot="{ labelId }" label="Say the verdict aloud">
      <ToggleSwitch v-model="practice.aloud" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow v-slot="{ labelId }" label="Start the next take automatically">
      <ToggleSwitch v-model="practice.runsOn" :aria-labelledby="labelId" />
    </FormRow>
    <p v-if="player.groove" class="quiet">The drums of the mixer play along.</p>
  </section>
</template>

<style scoped>
.listen {
  --form-labels: 9.5rem;

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
</style>
