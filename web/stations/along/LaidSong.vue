<script setup lang="ts">
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import { clock, ordinal } from '#core/plain';
import type { LaidPart } from '#core/schema';
import { passageName } from '#core/song';
import { layPart } from '#core/along';
import ChooseOne from '../../fields/ChooseOne.vue';
import { useAlongStore } from '../../stores/along';
import { useSongStore } from '../../stores/song';

/** Where the song lies on the recording: after an intro, with a solo in it, or with a repeat that the song has not. */
const props = defineProps<{
  /** The pulse that is nearest to where the recording is. */
  here: number;
}>();
const emit = defineEmits<{ seek: [seconds: number]; begin: [] }>();
const along = useAlongStore();
const songs = useSongStore();

/** The parts of the song in the order in which they are played, each with the bar that it begins with, from 0. */
const parts = computed(() => {
  const times = new Map<string, number>();
  return along.songBars.flatMap((bar, index, bars) => {
    if (index > 0 && bars[index - 1]!.passage === bar.passage) return [];
    const name = (songs.song && passageName(songs.song, bar)) || 'The song';
    const time = (times.get(`${bar.section}/${name}`) ?? 0) + 1;
    times.set(`${bar.section}/${name}`, time);
    const round = time > 1 ? `, the ${ordinal(time)} time` : '';
    // A pick-up goes before the bar that is meant.
    const first = bar.lead > 0 && bars[index + 1] ? index + 1 : index;
    return [{ label: `${name}${round}`, value: first }];
  });
});
const NOT_THE_SONG = -1;
const options = computed(() => [
  ...parts.value,
  { label: 'not the song: an intro, a solo, an end', value: NOT_THE_SONG },
]);
const chosen = ref(NOT_THE_SONG);

function lay(): void {
  const bar = chosen.value === NOT_THE_SONG ? null : chosen.value;
  along.setLayout(layPart(along.layout, { pulse: props.here, bar }));
}
const nameOf = ({ bar }: LaidPart) => {
  if (bar === null) return 'not the song';
  const part = parts.value.find(({ value }) => value === bar);
  return part?.label ?? `bar ${bar + 1} of the song`;
};
const rows = computed(() =>
  along.layout.map((part) => ({
    part,
    name: nameOf(part),
    seconds: along.map?.pulses[part.pulse] ?? 0,
  })),
);
const drop = (part: LaidPart) =>
  along.setLayout(along.layout.filter(({ pulse }) => pulse !== part.pulse));
</script>

<template>
  <section aria-label="The song on the recording">
    <h2 class="sub">The song on the recording</h2>
    <p v-if="rows.length === 0" class="quiet">
      It begins with the first bar. Where there is an intro before it, go to the place where the
      song begins and say so.
    </p>
    <div class="row">
      <Button size="small" severity="secondary" label="The song begins here" @click="emit('begin')">
        <template #icon><kbd>S</kbd></template>
      </Button>
      <Button
        size="small"
        severity="secondary"
        label="Find it by its chords"
        :disabled="along.busy !== null"
        @click="along.findSong()"
      />
    </div>
    <div class="row">
      <span id="laid-part">From here on</span>
      <ChooseOne v-model="chosen" :options="options" aria-labelledby="laid-part" />
      <Button size="small" severity="secondary" label="Set" @click="lay" />
    </div>
    <ul v-if="rows.length > 0" aria-label="Parts that are set">
      <li v-for="row in rows" :key="row.part.pulse">
        <button type="button" @click="emit('seek', row.seconds)">
          {{ clock(row.seconds) }} {{ row.name }}
        </button>
        <Button
          size="small"
          text
          icon="pi pi-times"
          :aria-label="`Delete ${row.name} at ${clock(row.seconds)}`"
          @click="drop(row.part)"
        />
      </li>
    </ul>
  </section>
</template>

<style scoped>
section,
ul {
  display: grid;
  gap: 0.5rem;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

li,
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem;
}

li button:first-child {
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
  padding: 0.3rem 0;
}
</style>
