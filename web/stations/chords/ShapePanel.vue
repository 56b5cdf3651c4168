<script setup lang="ts">
import Button from 'primevue/button';
import ToggleButton from 'primevue/togglebutton';
import { computed, ref, watch } from 'vue';
import type { Shape, Song } from '#core/schema';
import { sayString } from '#core/stroke';
import {
  describeStrings,
  fretShape,
  offeredShapes,
  parseChord,
  isReentrant,
  relativeStrings,
  standIns,
  toneBeside,
} from '#core/neck';
import { commands } from '#core/edit';
import { previewSteps } from '#core/arrange';
import ChordDiagram from '../../chords/ChordDiagram.vue';
import { useFrettedStore } from '../../stores/fretted';
import { usePlayerStore } from '../../stores/player';
import { api } from '../../remote/client';
import { savePicture } from '../../shell/picture';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';
import NeckEditor from './NeckEditor.vue';

/** The shapes of one chord: to hear, to choose, to lock, to make. */
const props = defineProps<{ symbol: string; song: Song }>();
const songs = useSongStore();
const player = usePlayerStore();
const heldChords = useFrettedStore();
const view = useViewStore();
const making = ref(false);
watch(
  () => props.symbol,
  () => (making.value = false),
);

const held = computed(() => heldChords.of(props.symbol));
const chord = computed(() => parseChord(props.symbol));
const sameFrets = (a: Shape, b: Shape) => String(a.frets) === String(b.frets);

const SOURCES = { usual: 'usual', found: 'found', own: 'your own' };
const offers = computed(() => {
  const list = offeredShapes(props.symbol, props.song);
  const first = list[0];
  return list.slice(0, 8).map((shape) => {
    const tone = toneBeside(props.song.instrument, shape, first!);
    const about = [
      SOURCES[shape.source],
      ...(tone === 'even' ? [] : [tone]),
      ...shape.reasons.slice(0, 2),
    ];
    return {
      shape,
      about: about.join('; '),
      chosen: held.value !== null && sameFrets(shape, held.value.shape),
    };
  });
});
const easier = computed(() =>
  chord.value && held.value ? standIns(props.song.instrument, chord.value, held.value.shape) : [],
);
const locked = computed(
  () => props.song.chosenShapes.find((choice) => choice.symbol === props.symbol)?.locked ?? false,
);
const relative = computed(() =>
  held.value
    ? relativeStrings(held.value.shape, held.value.bass.string, isReentrant(props.song.instrument))
        .map((name) => (name === null ? '–' : sayString(name)))
        .join(' ')
    : '',
);

function choose(shape: Shape): void {
  songs.run(commands.chooseShape(props.symbol, shape));
}

function hear(symbol: string, shape: Shape): void {
  const reading = parseChord(symbol);
  const strummed = reading && fretShape(reading, shape, props.song);
  if (!strummed) return;
  const { tempo, meter } = props.song;
  void player.audition(previewSteps([{ tick: 0, held: strummed }], 2880, tempo, meter));
}

function lock(on: boolean): void {
  if (held.value) songs.run(commands.lockShape(props.symbol, held.value.shape, on));
}

function make(shape: Shape): void {
  songs.run(commands.addOwnShape(props.symbol, shape));
  making.value = false;
}

/** The diagram in use as a picture, for a poster or a message. */
const told = ref<string | null>(null);
async function away(ending: 'svg' | 'png'): Promise<void> {
  told.value = null;
  await songs.flush();
  if (!songs.id) return;
  const url = api.chordUrl(songs.id, props.symbol, view.leftHanded);
  if (ending === 'svg') return window.location.assign(url);
  await savePicture(url, props.symbol).catch((error: Error) => (told.value = error.message));
}

const blank = computed<Shape>(() => ({
  frets: props.song.instrument.strings.map(() => null),
  fingers: props.song.instrument.strings.map(() => 0),
}));
</script>

<template>
  <section class="panel" :aria-label="`Shapes of ${symbol}`">
    <header>
      <h2>{{ symbol }}</h2>
      <ToggleButton
        v-if="held"
        :model-value="locked"
        on-label="Locked"
        off-label="Lock"
        on-icon="pi pi-lock"
        off-icon="pi pi-lock-open"
        aria-label="Lock this shape"
        @update:model-value="lock"
      />
      <Button label="Draw your own shape" icon="pi pi-pencil" text @click="making = !making" />
    </header>
    <p v-if="held" class="quiet">
      Strings from the root: <strong>{{ relative }}</strong>
      <Button label="SVG" size="small" text :aria-label="`${symbol} as SVG`" @click="away('svg')" />
      <Button label="PNG" size="small" text :aria-label="`${symbol} as PNG`" @click="away('png')" />
      <span v-if="told" role="alert">{{ told }}</span>
    </p>
    <NeckEditor
      v-if="making"
      :symbol="symbol"
      :instrument="song.instrument"
      :start="held?.shape ?? blank"
      @make="make"
      @close="making = false"
    />
    <ul v-else class="offers">
      <li
        v-for="offer in offers"
        :key="String(offer.shape.frets)"
        :class="{ chosen: offer.chosen }"
      >
        <ChordDiagram
          :shape="offer.shape"
          :instrument="song.instrument"
          :label="`${symbol}, ${describeStrings(song.instrument, offer.shape)}: ${offer.about}`"
        />
        <p>{{ offer.about }}</p>
        <div>
          <Button
            icon="pi pi-volume-up"
            text
            rounded
            :aria-label="`Hear ${symbol} this way`"
            @click="hear(symbol, offer.shape)"
          />
          <Button
            :label="offer.chosen ? 'In use' : 'Use'"
            size="small"
            :severity="offer.chosen ? 'secondary' : undefined"
            :disabled="offer.chosen"
            @click="choose(offer.shape)"
          />
        </div>
      </li>
    </ul>
    <template v-if="!making && easier.length > 0">
      <h3>Easier, and what is lost</h3>
      <ul class="offers">
        <li v-for="stand in easier" :key="stand.symbol + stand.shape.frets">
          <ChordDiagram
            :shape="stand.shape"
            :instrument="song.instrument"
            :label="`${stand.symbol}, lost: ${stand.lost}`"
          />
          <p>
            <strong>{{ stand.symbol }}</strong> {{ stand.lost }}
          </p>
          <div>
            <Button
              icon="pi pi-volume-up"
              text
              rounded
              :aria-label="`Hear ${stand.symbol} as a stand-in`"
              @click="hear(stand.symbol, stand.shape)"
            />
            <Button
              label="Use"
              size="small"
              :aria-label="`Use ${stand.symbol} for ${symbol}`"
              @click="choose(stand.shape)"
            />
          </div>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 0.5rem;
  align-content: start;
}

header {
  display: flex;
  align-items: center;
  gap: 0.6rem;
}

h2 {
  font-size: 1.6rem;
  margin-right: auto;
}

h3 {
  font-size: 1.1rem;
}

.offers {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(7.5rem, 1fr));
  gap: 0.7rem;
}

.offers li {
  display: grid;
  grid-template-rows: auto 1fr auto;
  gap: 0.2rem;
  padding: 0.4rem;
  border-radius: var(--radius);
  font-size: 0.9rem;
  line-height: 1.25;
}

.offers li.chosen {
  background: var(--paper-raised);
}

.offers .diagram {
  max-width: 7.5rem;
}

.offers div:last-child {
  display: flex;
  align-items: center;
}
</style>
