<script setup lang="ts">
import ChooseBeside from '../../fields/ChooseBeside.vue';
import ChooseOne from '../../fields/ChooseOne.vue';
import { computed, ref } from 'vue';
import type { Song } from '#core/schema';
import { sayString } from '#core/stroke';
import {
  alternateBass,
  alternateOf,
  describeAlternate,
  describeBass,
  guessKey,
  fretChord,
  type FrettedChord,
  keyChords,
  keyName,
  isReentrant,
  relativeStrings,
} from '#core/neck';
import { commands } from '#core/edit';
import { useFrettedStore } from '../../stores/fretted';
import { useSongStore } from '../../stores/song';

/** Bass string, alternate and strings of every chord, on one small card. */
const props = defineProps<{ song: Song }>();
const heldChords = useFrettedStore();
const songs = useSongStore();

const scope = ref<'song' | 'key'>('song');
const scopes = [
  { label: 'This song', value: 'song' },
  { label: 'A whole key', value: 'key' },
];
const keys = [false, true].flatMap((minor) =>
  Array.from({ length: 12 }, (_, tonic) => ({
    label: keyName({ tonic, minor }),
    value: { tonic, minor },
  })),
);
const guessed = guessKey(heldChords.chords);
const key = ref(
  keys.find(({ value }) => value.tonic === guessed.tonic && value.minor === guessed.minor)!.value,
);

/** The alternate bass as it is worked out. */
const USUAL = 'usual';
/** What a chord may have as its alternate bass: what is worked out, and each string that sounds beside the bass. */
function choicesFor(held: FrettedChord) {
  const { instrument, capo } = props.song;
  const count = instrument.strings.length;
  const usual = alternateBass(instrument, held.shape, held.chord, held.bass, capo);
  const sounding = held.shape.frets.flatMap((fret, string) =>
    fret === null || string === held.bass.string ? [] : [{ string, fret }],
  );
  const places = new Map(
    [...usual, ...sounding].map(({ string, fret }) => [
      `${count - string}/${fret}`,
      describeBass(instrument, { string, fret }),
    ]),
  );
  return [
    { label: 'as usual', value: USUAL },
    ...[...places].map(([value, label]) => ({ label, value })),
  ];
}
function choose(symbol: string, value: string): void {
  const [string, fret] = value.split('/').map(Number);
  const place = value === USUAL ? null : { string: string!, fret: fret! };
  songs.run(commands.setAlternate(symbol, place));
}

const rows = computed(() => {
  const symbols = scope.value === 'song' ? heldChords.chords : keyChords(key.value);
  return symbols.map((symbol) => {
    const held = scope.value === 'song' ? heldChords.of(symbol) : fretChord(symbol, props.song);
    if (!held) {
      return { symbol, bass: 'no shape', alternate: '', strings: '', own: USUAL, choices: [] };
    }
    const { instrument, capo } = props.song;
    const { ownAlternates } = props.song;
    const alternate = alternateOf(held, { instrument, capo }, ownAlternates);
    const own = ownAlternates?.find((one) => one.symbol === symbol);
    return {
      symbol,
      own: own ? `${own.string}/${own.fret}` : USUAL,
      choices: scope.value === 'song' ? choicesFor(held) : [],
      bass: describeBass(instrument, held.bass),
      alternate: describeAlternate(instrument, alternate),
      strings: relativeStrings(held.shape, held.bass.string, isReentrant(instrument))
        .map((name) => (name === null ? '–' : sayString(name)))
        .join(' '),
    };
  });
});
</script>

<template>
  <section class="table" aria-label="Bass table">
    <div class="choice">
      <ChooseBeside v-model="scope" :options="scopes" aria-label="Chords in the table" />
      <ChooseOne v-if="scope === 'key'" v-model="key" :options="keys" aria-label="Key" />
    </div>
    <table>
      <thead>
        <tr>
          <th scope="col">Chord</th>
          <th scope="col">Bass</th>
          <th scope="col">Alternate</th>
          <th scope="col">Strings</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.symbol">
          <th scope="row">{{ row.symbol }}</th>
          <td>{{ row.bass }}</td>
          <td>
            {{ row.alternate }}
            <ChooseOne
              v-if="row.choices.length > 0"
              :model-value="row.own"
              :options="row.choices"
              :aria-label="`Alternate bass of ${row.symbol}`"
              size="small"
              class="alternate"
              @update:model-value="choose(row.symbol, $event)"
            />
          </td>
          <td class="strings">{{ row.strings }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.table {
  display: grid;
  gap: 0.6rem;
  align-content: start;
}

.alternate {
  width: 100%;
  max-width: 8.5rem;
}

.choice {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
}

table {
  border-collapse: collapse;
  width: 100%;
}

th,
td {
  text-align: left;
  padding: 0.3rem 0.7rem 0.3rem 0;
  border-bottom: 1px solid var(--line);
  vertical-align: top;
  line-height: 1.25;
}

thead th {
  color: var(--ink-soft);
  font-weight: 400;
}

tbody th {
  font-family: var(--display);
  font-size: 1.1rem;
}

.strings {
  word-spacing: -0.1em;
}
</style>
