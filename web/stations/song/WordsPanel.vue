<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import { type Line, MAX_VERSES, type Song } from '#core/schema';
import { barLength, printWords, readWords, versesOf } from '#core/song';
import { rhythmCommands } from '#core/edit';
import { useSongStore } from '../../stores/song';

/** The words of the song, typed line by line under its bars: bars by bar lines, syllables on beats. */
const props = defineProps<{ song: Song }>();
const songs = useSongStore();

/** Verses that a section shows a row for, beside those that it has. */
const opened = ref(new Map<number, number>());
const sections = computed(() =>
  props.song.sections.map((section, index) => {
    const had = Math.max(1, ...section.lines.flatMap(versesOf));
    const shown = Math.max(had, opened.value.get(index) ?? 1);
    return {
      name: section.name || 'The song',
      index,
      verses: Array.from({ length: shown }, (_, verse) => verse + 1),
      lines: section.lines.map((line) => ({ line, chords: chordsOf(line) })),
    };
  }),
);
function chordsOf({ bars }: Line): string {
  const cells = bars.map(({ chords }) => chords.map(({ symbol }) => symbol).join(' ') || '.');
  return cells.join(' | ');
}

/** What is typed and cannot be read yet, by its row. */
const wrong = ref(new Map<string, { text: string; message: string }>());
const keyOf = (section: number, line: number, verse: number) => `${section}/${line}/${verse}`;
function shown(section: number, line: number, verse: number, written: Line): string {
  const kept = wrong.value.get(keyOf(section, line, verse));
  return kept?.text ?? printWords(written, props.song.meter, verse);
}
function write(section: number, line: number, verse: number, written: Line, text: string): void {
  const key = keyOf(section, line, verse);
  const lengths = written.bars.map((bar) => barLength(bar, props.song.meter));
  const read = readWords(text, lengths);
  const next = new Map(wrong.value);
  if ('problem' in read) next.set(key, { text, message: read.problem.message });
  else {
    next.delete(key);
    songs.run(rhythmCommands.setWords(section, line, verse, read.bars));
  }
  wrong.value = next;
}
function another(section: number, verses: number): void {
  opened.value = new Map(opened.value).set(section, verses + 1);
}
</script>

<template>
  <section class="panel" aria-label="Lyrics">
    <p class="quiet">
      Under each line its words: <kbd>|</kbd> between bars, a space between syllables, which go on
      the beats in turn, or on halves where there are more. A hyphen goes on, <kbd>.</kbd> is a
      place without, <kbd>_</kbd> a space within:
      <code>Low- er the | lan- terns to_the | . wa- ter</code>
    </p>
    <div v-for="section in sections" :key="section.index" class="section">
      <h3>{{ section.name }}</h3>
      <template v-for="({ line, chords }, at) in section.lines" :key="at">
        <p class="chords" aria-hidden="true">{{ chords }}</p>
        <template v-for="verse in section.verses" :key="verse">
          <InputText
            :model-value="shown(section.index, at, verse, line)"
            :aria-label="`${section.name}, line ${at + 1}, verse ${verse}: ${chords}`"
            :placeholder="verse > 1 ? `verse ${verse}` : 'words'"
            :invalid="wrong.has(keyOf(section.index, at, verse))"
            spellcheck="false"
            autocomplete="off"
            fluid
            @change="
              write(section.index, at, verse, line, ($event.target as HTMLInputElement).value)
            "
          />
          <p v-if="wrong.has(keyOf(section.index, at, verse))" role="alert" class="wrong">
            {{ wrong.get(keyOf(section.index, at, verse))!.message }} Nothing was changed.
          </p>
        </template>
      </template>
      <Button
        v-if="section.verses.length < MAX_VERSES"
        size="small"
        text
        icon="pi pi-plus"
        :label="`Another verse of ${section.name}`"
        @click="another(section.index, section.verses.length)"
      />
    </div>
    <p class="quiet">A part that comes again takes its next verse; without one, the last again.</p>
  </section>
</template>

<style scoped>
.panel,
.section {
  display: grid;
  gap: 0.35rem;
  align-content: start;
  justify-items: start;
}

.section {
  width: 100%;
}

.chords {
  font-family: var(--display);
  font-weight: 600;
  margin-top: 0.3rem;
}

.wrong {
  border-left: 4px solid var(--coral);
  padding-left: 0.6rem;
}
</style>
