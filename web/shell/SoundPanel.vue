<script setup lang="ts">
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import Slider from 'primevue/slider';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed } from 'vue';
import { type Channel, CHANNELS, type ClickMode, type Groove, GROOVES } from '#core';
import { type DrumChoice, useMixerStore } from '../stores/mixer';
import { usePlayerStore } from '../stores/player';
import ChooseOne from '../fields/ChooseOne.vue';
import LatencyField from './LatencyField.vue';

/** The mixer: faders, click, drums, speed and climbing tempo, and how late the player hears. */
const mixer = useMixerStore();
const player = usePlayerStore();

const NAMES: Record<Channel, string> = {
  strings: 'Strings',
  bass: 'Bass notes',
  click: 'Click',
  drums: 'Drums',
};
const percent = (channel: Channel) => Math.round(mixer.levels[channel] * 100);
function fade(channel: Channel, value: number | number[]): void {
  mixer.levels = { ...mixer.levels, [channel]: Number(value) / 100 };
}

const clickModes: { label: string; value: ClickMode }[] = [
  { label: 'on every beat', value: 'all' },
  { label: 'on the back-beats', value: 'back' },
  { label: 'on the one only', value: 'first' },
  { label: 'fading out', value: 'fading' },
];
const GROOVE_NAMES: Record<Groove, string> = {
  eighths: 'eighths',
  sixteenths: 'sixteenths',
  shuffle: 'shuffle',
  waltz: 'waltz',
  pulse: 'two or three to the bar',
  claps: 'claps on the accents',
};
const drumChoices = computed<{ label: string; value: DrumChoice }[]>(() => [
  { label: 'no drums', value: 'none' },
  { label: 'what goes with the pattern', value: 'auto' },
  ...GROOVES.map((value) => ({ label: GROOVE_NAMES[value], value })),
]);
const speeds = [
  { label: 'full speed', value: 1 },
  ...Array.from({ length: 9 }, (_, step) => 95 - 5 * step).map((percent) => ({
    label: `${percent} %`,
    value: percent / 100,
  })),
  { label: 'half speed', value: 0.5 },
  { label: 'quarter speed', value: 0.25 },
];
const climb = computed(() => mixer.climb);
function setClimb(change: Partial<typeof mixer.climb>): void {
  mixer.climb = { ...mixer.climb, ...change };
}
</script>

<template>
  <section class="sound" aria-label="Mixer">
    <div v-for="channel in CHANNELS" :key="channel" class="fader">
      <span :id="`fader-${channel}`">{{ NAMES[channel] }}</span>
      <Slider
        :model-value="percent(channel)"
        :aria-labelledby="`fader-${channel}`"
        @update:model-value="(value: number | number[]) => fade(channel, value)"
      />
      <span class="value">{{ percent(channel) }}</span>
    </div>
    <div class="row">
      <span class="label">click</span>
      <ChooseOne v-model="mixer.clickMode" :options="clickModes" aria-label="The click sounds" />
    </div>
    <div class="row">
      <ToggleSwitch v-model="mixer.counting" input-id="count-aloud" />
      <label for="count-aloud">the beats are counted aloud</label>
    </div>
    <div class="row">
      <span class="label">drums</span>
      <ChooseOne v-model="mixer.drums" :options="drumChoices" aria-label="Drums" />
    </div>
    <div class="row">
      <span class="label">tempo</span>
      <ChooseOne v-model="mixer.speed" :options="speeds" aria-label="Speed" />
    </div>
    <div class="row">
      <ToggleSwitch v-model="mixer.climbs" input-id="climbs" />
      <label for="climbs">faster each time round</label>
    </div>
    <div v-if="mixer.climbs" class="row climb">
      <span>every</span>
      <InputNumber
        :model-value="climb.every"
        class="tiny"
        :min="1"
        :max="16"
        :allow-empty="false"
        aria-label="Turns at one tempo"
        @update:model-value="(every: number) => setClimb({ every })"
      />
      <span>turns by</span>
      <InputNumber
        :model-value="climb.by"
        class="tiny"
        :min="-40"
        :max="40"
        :allow-empty="false"
        aria-label="Faster by"
        @update:model-value="(by: number) => setClimb({ by })"
      />
      <span>until</span>
      <InputNumber
        :model-value="climb.until"
        class="tiny"
        :min="20"
        :max="300"
        :allow-empty="false"
        aria-label="Until the tempo"
        @update:model-value="(until: number) => setClimb({ until })"
      />
      <ToggleSwitch
        :model-value="climb.back"
        input-id="climb-back"
        @update:model-value="(back: boolean) => setClimb({ back })"
      />
      <label for="climb-back">and back</label>
      <span v-if="!player.looping" class="quiet">It needs the loop.</span>
    </div>
    <LatencyField />
    <div class="row">
      <ToggleSwitch v-model="mixer.flash" input-id="flash" />
      <label for="flash">flash on the beats in the stand view</label>
    </div>
    <div class="row">
      <ToggleSwitch v-model="mixer.headphones" input-id="headphones" />
      <label for="headphones">I listen on headphones</label>
    </div>
    <p v-if="mixer.headphones && !mixer.cautioned" class="caution" role="alert">
      Keep the level moderate, and rest your ears now and then: what is loud for long can harm
      hearing. Ringing that stays is for a doctor.
      <Button size="small" text label="I will" @click="mixer.cautioned = true" />
    </p>
  </section>
</template>

<style scoped>
.sound {
  display: grid;
  gap: 0.6rem;
  width: min(25rem, 88vw);
}

.fader {
  display: grid;
  grid-template-columns: 6.5rem 1fr 2rem;
  align-items: center;
  gap: 0.9rem;
}

.value {
  text-align: right;
  color: var(--ink-soft);
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.35rem 0.6rem;
}

.row > .label {
  min-width: 3.2rem;
}

.tiny :deep(input) {
  width: 3.4rem;
  text-align: center;
}

.caution {
  background: var(--brass-soft);
  border-radius: var(--radius);
  padding: 0.6rem 0.8rem;
}
</style>
