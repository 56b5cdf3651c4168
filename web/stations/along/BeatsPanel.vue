<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import { plural } from '#core/plain';
import { meterName } from '#core/time';
import { nearestPulse, doublePulses, halvePulses } from '#core/along';
import LaidSong from './LaidSong.vue';
import { useAlongStore } from '../../stores/along';
import { useSongStore } from '../../stores/song';

/** The beats of the recording: tapped for a few bars, found in the rest, and put right by hand. */
const props = defineProps<{
  taps: number[];
  seconds: number;
}>();
const emit = defineEmits<{ clear: []; seek: [seconds: number]; begin: [] }>();
const along = useAlongStore();
const songs = useSongStore();

const meter = computed(() => songs.song!.meter);
const range = computed(() => {
  const { tempos } = along;
  if (!tempos) return '';
  const [least, most] = [Math.round(tempos.least), Math.round(tempos.most)];
  return least === most ? `at ${least}` : `between ${least} and ${most} a minute`;
});
/** The pulse that is nearest to where the recording is. */
const here = computed(() => nearestPulse(along.map?.pulses ?? [], props.seconds));
async function find(): Promise<void> {
  await along.findBeats(props.taps, meter.value);
  if (!along.trouble) emit('clear');
}
</script>

<template>
  <div class="beats">
    <p>
      Play the recording and tap its beats with <kbd>T</kbd>, at least four in a row, the first of
      them on a “one” of {{ meterName(meter) }}.
    </p>
    <p aria-live="polite">
      <b>{{ plural(taps.length, 'beat') }} tapped.</b>
      <Button v-if="taps.length > 0" size="small" text label="Clear" @click="emit('clear')" />
    </p>
    <div class="row">
      <Button
        :label="along.map ? 'Find them again through these' : 'Find all the beats'"
        :disabled="taps.length < 4 || along.busy !== null"
        @click="find"
      />
      <Button
        v-if="along.map && along.map.set.length > 0"
        label="Follow the bars that I set"
        severity="secondary"
        :disabled="along.busy !== null"
        @click="along.findBeats([], meter)"
      />
    </div>
    <template v-if="along.map">
      <p>{{ plural(along.bars.length, 'bar') }}, {{ range }}.</p>
      <p v-if="along.unsure.length > 0" class="unsure">
        Unsure:
        <Button
          v-for="bar in along.unsure.slice(0, 8)"
          :key="bar.number"
          size="small"
          text
          :label="`bar ${bar.number}`"
          @click="emit('seek', bar.seconds)"
        />
        <template v-if="along.unsure.length > 8">{{ along.unsure.length - 8 }} more</template>
      </p>
      <div class="row">
        <Button
          size="small"
          severity="secondary"
          label="“One” is here"
          @click="along.setDownbeatHere(here)"
        />
        <Button
          size="small"
          severity="secondary"
          label="Twice as many beats"
          @click="along.setMap(doublePulses(along.map))"
        />
        <Button
          size="small"
          severity="secondary"
          label="Half as many"
          @click="along.setMap(halvePulses(along.map))"
        />
      </div>
      <p class="quiet">
        A bar line can be dragged in the waveform, or moved with <kbd>[</kbd> and <kbd>]</kbd> by a
        hundredth of a second; the beats around it follow.
      </p>
      <LaidSong :here="here" @seek="emit('seek', $event)" @begin="emit('begin')" />
    </template>
  </div>
</template>

<style scoped>
.beats {
  display: grid;
  gap: 0.7rem;
  align-content: start;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
}

.unsure {
  color: var(--coral);
}
</style>
