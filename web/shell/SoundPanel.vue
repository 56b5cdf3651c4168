<script setup lang="ts">
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import Slider from 'primevue/slider';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed } from 'vue';
import { type ClickMode, type Groove, GROOVES } from '#core/arrange';
import { type Channel, CHANNELS } from '#core/sound';
import { type DrumChoice, useMixerStore } from '../stores/mixer';
import { usePlayerStore } from '../stores/player';
import ChooseOne from '../fields/ChooseOne.vue';
import FormRow from '../fields/FormRow.vue';
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
    <FormRow v-slot="{ labelId }" label="Click">
      <ChooseOne v-model="mixer.clickMode" :options="clickModes" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow v-slot="{ labelId }" label="Drums">
      <ChooseOne v-model="mixer.drums" :options="drumChoices" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow v-slot="{ labelId }" label="Speed">
      <ChooseOne v-model="mixer.speed" :options="speeds" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow v-slot="{ labelId }" label="Faster each time round">
      <ToggleSwitch v-model="mixer.climbs" :aria-labelledby="labelId" />
      <span v-if="mixer.climbs && !player.looping" class="quiet">It needs the loop.</span>
    </FormRow>
    <template v-if="mixer.climbs">
      <FormRow label="Times at one tempo" for="climb-every">
        <InputNumber
          :model-value="climb.every"
          input-id="climb-every"
          class="tiny"
          :min="1"
          :max="16"
          :allow-empty="false"
          @update:model-value="(every: number) => setClimb({ every })"
        />
      </FormRow>
      <FormRow label="Faster by" for="climb-by">
        <InputNumber
          :model-value="climb.by"
          input-id="climb-by"
          class="tiny"
          :min="-40"
          :max="40"
          :allow-empty="false"
          @update:model-value="(by: number) => setClimb({ by })"
        />
      </FormRow>
      <FormRow label="Until the tempo" for="climb-until">
        <InputNumber
          :model-value="climb.until"
          input-id="climb-until"
          class="tiny"
          :min="20"
          :max="300"
          :allow-empty="false"
          @update:model-value="(until: number) => setClimb({ until })"
        />
      </FormRow>
      <FormRow v-slot="{ labelId }" label="And back down">
        <ToggleSwitch
          :model-value="climb.back"
          :aria-labelledby="labelId"
          @update:model-value="(back: boolean) => setClimb({ back })"
        />
      </FormRow>
    </template>
    <FormRow v-slot="{ labelId }" label="Count aloud">
      <ToggleSwitch v-model="mixer.counting" :aria-labelledby="labelId" />
    </FormRow>
    <FormRow v-slot="{ labelId }" label="Flash on the beats">
      <ToggleSwitch v-model="mixer.flash" :aria-labelledby="labelId" />
      <span class="quiet">in the stand view</span>
    </FormRow>
    <FormRow v-slot="{ labelId }" label="Headphones">
      <ToggleSwitch v-model="mixer.headphones" :aria-labelledby="labelId" />
    </FormRow>
    <p v-if="mixer.headphones && !mixer.cautioned" class="caution" role="alert">
      Keep the level moderate, and rest your ears now and then: what is loud for long can harm
      hearing. Ringing that stays is for a doctor.
      <Button size="small" text label="I will" @click="mixer.cautioned = true" />
    </p>
    <LatencyField />
  </section>
</template>

<style scoped>
.sound {
  --form-labels: 9rem;

  display: grid;
  gap: 0.3rem;
  width: min(25rem, 88vw);
}

.fader {
  display: grid;
  grid-template-columns: var(--form-labels) 1fr 2rem;
  min-height: 2.2rem;
  align-items: center;
  gap: 0.9rem;
}

.value {
  text-align: right;
  color: var(--ink-soft);
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
