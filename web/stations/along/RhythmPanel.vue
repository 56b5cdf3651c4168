<script setup lang="ts">
import Button from 'primevue/button';
import { computed, shallowRef } from 'vue';
import { plural } from '#core/plain';
import { pulseTicks } from '#core/time';
import { say } from '#core/stroke';
import { commands } from '#core/edit';
import type { HeardRhythm } from '#core/along';
import WristPath from '../../path/WristPath.vue';
import { useAlongStore } from '../../stores/along';
import { useSongStore } from '../../stores/song';
import { alongWorker } from '../../workers/along';
import { cloneForWorker } from '../../workers/cloneForWorker';

/** What some bars of the recording play, offered as a pattern. */
const props = defineProps<{ first: number; last: number }>();
const along = useAlongStore();
const songs = useSongStore();
const heard = shallowRef<HeardRhythm | null>(null);
const told = shallowRef<string | null>(null);
const bars = computed(() => Math.max(1, props.last - props.first + 1));

async function listen(): Promise<void> {
  const { map } = along;
  const begin = along.bars.find((bar) => (bar.song ?? bar.number) === props.first);
  const { song } = songs;
  if (!map || !begin || !song) return;
  told.value = 'Listening.';
  const found = await alongWorker().rhythm(
    cloneForWorker(map),
    (begin.pulse - map.one) * pulseTicks(map.meter),
    bars.value,
    cloneForWorker(song.pattern),
  );
  heard.value = found;
  told.value = found ? null : 'Too few strokes were heard in these bars to make a strum of them.';
}
const says = computed(() => (heard.value ? say(heard.value.pattern) : ''));
function takeIt(): void {
  if (heard.value)
    songs.run(commands.takeEdited('take a strum that was heard', heard.value.pattern));
}
</script>

<template>
  <div class="rhythm">
    <p v-if="!along.map">First the beats: the strokes are heard on their grid.</p>
    <template v-else>
      <p>
        Bars {{ first }} to {{ last }} are heard together, and what most of them strike is kept. A
        mix of several instruments is guesswork.
      </p>
      <Button :label="`Hear the strum of ${plural(bars, 'bar')}`" @click="listen" />
      <p v-if="told" role="status">{{ told }}</p>
      <template v-if="heard">
        <WristPath
          :pattern="heard.pattern"
          :strings="songs.song!.instrument.strings.length"
          :marked="heard.unsure"
          size="middle"
          :width="380"
        />
        <p>{{ says }}</p>
        <p v-if="heard.unsure.length > 0" class="quiet">
          {{ plural(heard.unsure.length, 'place is', 'places are') }} underlined: there it is
          unsure. Directions are the arm’s own.
        </p>
        <Button label="Use as the song’s strum" severity="secondary" @click="takeIt" />
      </template>
    </template>
  </div>
</template>

<style scoped>
.rhythm {
  display: grid;
  gap: 0.7rem;
  align-content: start;
}
</style>
