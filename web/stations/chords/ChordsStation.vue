<script setup lang="ts">
import TransposeField from '../../fields/TransposeField.vue';
import InputNumber from 'primevue/inputnumber';
import ChooseOne from '../../fields/ChooseOne.vue';
import ToggleButton from 'primevue/togglebutton';
import { computed, ref } from 'vue';
import { plural } from '#core/plain';
import type { Instrument, Song } from '#core/schema';
import { isNoChord, isReentrant, offeredShapes, stringLabel, weigh } from '#core/neck';
import { songChords, songKey } from '#core/song';
import { commands } from '#core/edit';
import ChordCard from '../../chords/ChordCard.vue';
import StationFrame from '../../frame/StationFrame.vue';
import { useOpenTool } from '../../frame/openTool';
import { useFrettedStore } from '../../stores/fretted';
import { usePlayerStore } from '../../stores/player';
import { useHandStore } from '../../stores/hand';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';
import BassTable from './BassTable.vue';
import CapoPanel from './CapoPanel.vue';
import ChangePanel from './ChangePanel.vue';
import InstrumentPicker from './InstrumentPicker.vue';
import RingPanel from './RingPanel.vue';
import ShapePanel from './ShapePanel.vue';

const songs = useSongStore();
const player = usePlayerStore();
const heldChords = useFrettedStore();
const view = useViewStore();
const song = computed<Song>(() => songs.song!);
const chords = computed(() => heldChords.chords);

const hand = useHandStore();
const idle = computed(
  () => new Map(hand.found?.idle.map(({ symbol, fingers }) => [symbol, fingers])),
);

const liveChord = computed(() => {
  const { heard } = player;
  if (!heard || heard.countIn) return null;
  return player.performance?.landings.findLast(({ tick }) => tick <= heard.tick)?.symbol ?? null;
});

const answer = computed(() => {
  if (chords.value.length === 0) return 'No chords yet: write the progression on the Song station.';
  const held = chords.value.flatMap((symbol) => heldChords.of(symbol) ?? []);
  if (held.length === 0) {
    return `${plural(chords.value.length, 'chord')}, and no shape for any of them on this neck.`;
  }
  const strings = [...new Set(held.map(({ bass }) => bass.string))].sort((a, b) => a - b);
  const names = strings.map((string) => stringLabel(song.value.instrument, string));
  const list = new Intl.ListFormat('en').format(names);
  return `${plural(chords.value.length, 'chord')}; the bass notes lie on ${plural(strings.length, 'string')}: ${list}.`;
});

/** A shape this hard is no good shape to play a song with. */
const TOO_HARD = 12;
const lacking = computed(() =>
  chords.value.filter((symbol) => {
    if (isNoChord(symbol)) return false;
    const held = heldChords.of(symbol);
    if (!held) return true;
    // What players hold every day is no bad shape, as hard as it is: a barre over all strings.
    const isUsual = offeredShapes(symbol, song.value).some(
      ({ source, frets }) => source === 'usual' && String(frets) === String(held.shape.frets),
    );
    const { difficulty } = weigh(held.shape, held.chord, song.value.instrument);
    return !isUsual && difficulty > TOO_HARD;
  }),
);

const schools = computed(() => [
  { label: 'the lowest string that sounds the root', value: 'root' },
  { label: 'the lowest string of the shape', value: 'lowest' },
  ...(isReentrant(song.value.instrument) || song.value.bassSchool === 'thumb'
    ? [
        {
          label: isReentrant(song.value.instrument)
            ? 'one of the thumb’s two strings'
            : 'the root string nearest the thumb',
          value: 'thumb',
        },
      ]
    : []),
]);
const school = computed({
  get: () => song.value.bassSchool,
  set: (value: Song['bassSchool']) => songs.run(commands.setBassRule(value)),
});
const instrument = computed({
  get: () => song.value.instrument,
  set: (value: Instrument) => songs.run(commands.setInstrument(value)),
});
const capo = computed({
  get: () => song.value.capo,
  set: (value: number | null) => songs.run(commands.setCapo(value ?? 0), true),
});

/** A capo leaves at least so many frets to play on. */
const FRETS_LEFT = 5;

const picked = ref<string | null>(null);
const selected = computed(() =>
  picked.value && chords.value.includes(picked.value) ? picked.value : (chords.value[0] ?? null),
);
const TOOLS = ['shapes', 'changes', 'bass', 'capo', 'ring'] as const;
type Panel = (typeof TOOLS)[number];
const panel = useOpenTool<Panel>(() => TOOLS);
const panels: { label: string; value: Panel }[] = [
  { label: 'Shapes', value: 'shapes' },
  { label: 'Changes', value: 'changes' },
  { label: 'Bass table', value: 'bass' },
  { label: 'Capo', value: 'capo' },
  { label: 'Does it ring?', value: 'ring' },
];

const key = computed(() => songKey(song.value));
/** What the chords stand on, in one line. */
const settings = computed(() => {
  const { instrument: held, capo: fret, bassSchool } = song.value;
  const takes = schools.value.find(({ value }) => value === bassSchool)?.label ?? bassSchool;
  const clamped = fret > 0 ? `capo at fret ${fret}` : 'no capo';
  return `${held.name} · ${clamped} · a bass strike takes ${takes}`;
});

/** Tools that are of one chord. */
const ofOne = computed(() => panel.value === 'shapes' || panel.value === 'ring');
function pick(symbol: string): void {
  picked.value = symbol;
  if (panel.value !== 'ring') panel.value = 'shapes';
}
</script>

<template>
  <StationFrame
    v-model:tool="panel"
    :answer="answer"
    :settings="settings"
    :tools="panels"
    work="Chords"
  >
    <template #settings>
      <InstrumentPicker v-model="instrument" />
      <div class="field">
        <label for="capo">Capo at fret</label>
        <InputNumber
          v-model="capo"
          input-id="capo"
          :min="0"
          :max="song.instrument.frets - FRETS_LEFT"
          show-buttons
          class="capo"
        />
      </div>
      <div class="field">
        <span id="bass-label">A bass strike takes</span>
        <ChooseOne v-model="school" aria-labelledby="bass-label" :options="schools" />
      </div>
      <TransposeField
        v-if="songChords(song).length > 0"
        :now="key"
        @transpose="(by, flats) => songs.run(commands.transpose(by, flats))"
      />
      <ToggleButton
        v-model="view.leftHanded"
        on-label="Left-handed"
        off-label="Left-handed"
        on-icon="pi pi-check"
        off-icon="pi pi-minus"
        aria-label="Draw for the left-handed"
      />
    </template>

    <p v-if="lacking.length > 0" class="lacking" role="status">
      No good shape on {{ song.instrument.name }} for {{ lacking.join(', ') }}.
    </p>
    <div class="cards" role="group" aria-label="Chords of the song">
      <ChordCard
        v-for="symbol in chords"
        :key="symbol"
        class="pick"
        :class="{ selected: ofOne && symbol === selected }"
        :symbol="symbol"
        :held="heldChords.of(symbol)"
        :instrument="song.instrument"
        :capo="song.capo"
        :alternates="song.ownAlternates"
        :sounding="heldChords.soundsAs(symbol)"
        :idle="idle.get(symbol)"
        :live="symbol === liveChord"
        :small="chords.length > 4"
      >
        <button
          type="button"
          class="cover"
          :aria-label="`Shapes of ${symbol}`"
          :aria-pressed="ofOne && symbol === selected"
          @click="pick(symbol)"
        />
      </ChordCard>
    </div>

    <template #tool>
      <div v-if="chords.length > 0" class="side">
        <ShapePanel v-if="panel === 'shapes' && selected" :symbol="selected" :song="song" />
        <ChangePanel v-else-if="panel === 'changes'" :song="song" />
        <BassTable v-else-if="panel === 'bass'" :song="song" />
        <CapoPanel v-else-if="panel === 'capo'" :song="song" />
        <RingPanel v-else-if="panel === 'ring' && selected" :symbol="selected" :song="song" />
      </div>
      <p v-else class="quiet">Write the progression on the Song station; its chords come here.</p>
    </template>
  </StationFrame>
</template>

<style scoped>
.field {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
}

.capo :deep(input) {
  width: 5.2rem;
}

.lacking {
  color: var(--coral);
  font-weight: 600;
}

.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(19rem, 100%), 1fr));
  gap: 0.7rem;
}

.pick {
  position: relative;
}

.pick.selected {
  box-shadow: 0 0 0 2px var(--spruce);
}

/* The whole card is pressed. */
.cover {
  position: absolute;
  inset: 0;
  border: 0;
  background: none;
  cursor: pointer;
  border-radius: var(--radius);
}

.side {
  display: grid;
  gap: 0.9rem;
  justify-items: start;
}

.side > * {
  max-width: 100%;
}
</style>
