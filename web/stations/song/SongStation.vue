<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import { computed, ref, watch } from 'vue';
import {
  beatTicks,
  commands,
  METER_NAMES,
  type MeterName,
  meterName,
  METERS,
  type PlayedBar,
  printProgression,
  readProgression,
  type Song,
} from '#core';
import { api } from '../../remote/client';
import BarRows from '../../components/BarRows.vue';
import ProgressionField from '../../components/ProgressionField.vue';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';

const songs = useSongStore();
const player = usePlayerStore();
const song = computed<Song>(() => songs.song!);

/** The line as it is being typed; read again from the bars as soon as they say something else. */
const typed = ref(printProgression(song.value.sections, song.value.meter));
const reading = computed(() => readProgression(typed.value, song.value.meter));

watch(
  () => [song.value.sections, song.value.meter] as const,
  ([sections, meter]) => {
    const now = reading.value.sections;
    if (JSON.stringify(now) !== JSON.stringify(sections)) {
      typed.value = printProgression(sections, meter);
    }
  },
);

function type(text: string): void {
  typed.value = text;
  songs.run(commands.setProgression(text), true);
}

/** Leaving the field shows the line as the bars read back. */
function settle(): void {
  typed.value = printProgression(song.value.sections, song.value.meter);
}

const title = computed({
  get: () => song.value.title,
  set: (value: string | undefined) => {
    if (value?.trim()) songs.run(commands.setTitle(value), true);
  },
});

const meters = METER_NAMES.map((name) => ({ name }));
const meter = computed({
  get: () => meterName(song.value.meter),
  set: (name: string) => songs.run(commands.setMeter(METERS[name as MeterName])),
});

const answer = computed(() => {
  const bars = player.bars.length;
  if (bars === 0) return 'No bars yet: type the chords below.';
  const changes = player.performance!.landings;
  const gaps = changes.slice(1).map(({ tick }, index) => ({
    ticks: tick - changes[index]!.tick,
    from: changes[index]!.symbol,
    to: changes[index + 1]!.symbol,
  }));
  const quickest = gaps.reduce<(typeof gaps)[number] | null>(
    (least, gap) => (least && least.ticks <= gap.ticks ? least : gap),
    null,
  );
  const size = `${bars} ${bars === 1 ? 'bar' : 'bars'}`;
  if (!quickest) return `${size} on one chord.`;
  const beats = quickest.ticks / beatTicks(song.value.meter);
  const count = `${Number(beats.toFixed(2))} ${beats === 1 ? 'beat' : 'beats'}`;
  return `${size}, ${gaps.length} changes; the quickest gives you ${count}, ${quickest.from} to ${quickest.to}.`;
});

const live = computed(() =>
  player.heard && !player.heard.countIn && player.bar
    ? { bar: player.bar, tick: player.heard.tick - player.bar.tick }
    : null,
);

/** The file is made from what the server has, so the latest edit goes there first. */
async function downloadMidi(): Promise<void> {
  await songs.flush();
  if (songs.id) window.location.assign(api.midiUrl(songs.id));
}

function choose(bar: PlayedBar): void {
  player.selectedBar = bar.index;
}
</script>

<template>
  <section class="station">
    <h1 class="answer">{{ answer }}</h1>
    <div class="settings">
      <label for="title" class="heard-only">Name of the song</label>
      <InputText id="title" v-model="title" class="title" maxlength="120" />
      <label id="meter-label">Meter</label>
      <Select
        v-model="meter"
        aria-labelledby="meter-label"
        :options="meters"
        option-label="name"
        option-value="name"
      />
      <Button
        outlined
        icon="pi pi-download"
        label="MIDI file"
        :disabled="player.bars.length === 0"
        @click="downloadMidi"
      />
    </div>
    <ProgressionField
      :model-value="typed"
      :problems="reading.problems"
      @update:model-value="type"
      @focusout="settle"
    />
    <BarRows
      :song="song"
      :selected="player.bars[player.selectedBar] ?? null"
      :live="live"
      @choose="choose"
    />
  </section>
</template>

<style scoped>
.settings {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem 0.9rem;
}

.title {
  width: 22rem;
  max-width: 100%;
  font-weight: 600;
}
</style>
