<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed } from 'vue';
import { plural } from '#core/plain';
import { parseChord } from '#core/neck';
import { commands } from '#core/edit';
import { placeWords, secondsOf } from '#core/along';
import AgainstSong from './AgainstSong.vue';
import { useAlongStore } from '../../stores/along';
import { useSongStore } from '../../stores/song';

/** Where the chords of the recording land, and what they may be; the line that they make. */
const emit = defineEmits<{ seek: [seconds: number] }>();
const along = useAlongStore();
const songs = useSongStore();

const rows = computed(() => {
  const { map } = along;
  if (!map) return [];
  return along.landings.map(({ tick, moved, symbol }) => ({
    tick,
    seconds: secondsOf(map, tick),
    symbol,
    where: placeWords(map, tick),
    moved: Math.abs(moved) < 5 ? '' : `moved by ${moved} ms`,
    guesses: along.guesses.get(tick) ?? [],
  }));
});
const unnamed = computed(() => rows.value.filter(({ symbol }) => symbol === null).length);

function write(tick: number, text: string | undefined): void {
  const symbol = (text ?? '').trim();
  if (symbol === '') along.name(tick, null);
  else if (parseChord(symbol)) along.name(tick, symbol);
}
function takeLine(): void {
  if (along.line) songs.run(commands.setProgression(along.line));
}
const percent = (sure: number) => `${Math.round(sure * 100)} %`;
</script>

<template>
  <div class="chords">
    <p v-if="!along.map">First the beats: then a press goes to the nearest place of their grid.</p>
    <template v-else>
      <p>
        While it plays, press <kbd>L</kbd> the moment a chord changes. Names are suggested from the
        sound: suggestions, no more.
      </p>
      <Button
        v-if="unnamed > 0"
        size="small"
        severity="secondary"
        :label="`Name ${plural(unnamed, 'landing')} as suggested`"
        @click="along.nameSuggested()"
      />
      <div v-if="along.odd.length > 0" role="status" class="odd">
        <p>
          {{ plural(along.odd.length, 'landing lies', 'landings lie') }} between the beats:
          {{ along.odd.map(({ tick }) => placeWords(along.map!, tick)).join('; ') }}.
        </p>
        <Button size="small" label="Put on the beat" @click="along.oddToBeats()" />
        <Button size="small" severity="secondary" label="Meant so" @click="along.leaveOdd()" />
      </div>
      <ul aria-label="Landings">
        <li v-for="row in rows" :key="row.tick">
          <button type="button" class="where" @click="emit('seek', row.seconds)">
            {{ row.where }}
          </button>
          <span v-if="row.moved" class="quiet">{{ row.moved }}</span>
          <InputText
            class="name"
            :model-value="row.symbol ?? ''"
            :aria-label="`Chord at ${row.where}`"
            placeholder="?"
            maxlength="24"
            autocomplete="off"
            spellcheck="false"
            @change="write(row.tick, ($event.target as HTMLInputElement).value)"
          />
          <Button
            v-for="guess in row.symbol ? [] : row.guesses"
            :key="guess.symbol"
            size="small"
            text
            :label="`${guess.symbol} ${percent(guess.sure)}`"
            :aria-label="`${guess.symbol}, ${percent(guess.sure)} sure, at ${row.where}`"
            @click="along.name(row.tick, guess.symbol)"
          />
          <Button
            size="small"
            text
            icon="pi pi-times"
            :aria-label="`Delete the landing at ${row.where}`"
            @click="along.drop(row.tick)"
          />
        </li>
      </ul>
      <template v-if="along.line">
        <h2 class="sub">The line that they make</h2>
        <pre class="line">{{ along.line }}</pre>
        <Button label="Use as the song’s line" @click="takeLine" />
        <p class="quiet">Undo brings the line back that was there.</p>
      </template>
      <AgainstSong @seek="emit('seek', $event)" />
    </template>
  </div>
</template>

<style scoped>
.chords {
  display: grid;
  gap: 0.7rem;
  align-content: start;
}

.odd {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
}

.odd p {
  flex-basis: 100%;
  margin: 0;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.25rem;
}

li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.3rem;
}

.where {
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
  padding: 0.3rem 0;
}

.name {
  width: 5rem;
}

.line {
  margin: 0;
  white-space: pre-wrap;
  font-family: var(--mono, monospace);
}
</style>
