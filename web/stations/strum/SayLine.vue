<script setup lang="ts">
import Button from 'primevue/button';
import Textarea from 'primevue/textarea';
import { computed, ref, watch } from 'vue';
import {
  commands,
  type NearFit,
  parsePattern,
  type Pattern,
  previewPattern,
  say,
  slots,
  spokenWord,
  swungTick,
} from '#core';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';

/** The pattern in words, always in view; typed into, it is read as it is said. */
const props = defineProps<{ pattern: Pattern }>();
const songs = useSongStore();
const player = usePlayerStore();

const spoken = computed(() => say(props.pattern));
const typed = ref(spoken.value);
const typing = ref(false);

/** Roughly, where the browser does not let the field grow with its text. */
const LETTERS_A_ROW = 110;
const rows = computed(() => Math.min(8, Math.ceil((typed.value.length + 1) / LETTERS_A_ROW)));

const reading = computed(() => parsePattern(typed.value, props.pattern));
const problem = computed(() =>
  typing.value && 'problem' in reading.value ? reading.value.problem : null,
);

// What others change is spoken back; what is being typed is left alone until the field is left.
watch(spoken, (words) => {
  if (!typing.value) typed.value = words;
});

/** As it was before the line was typed into: a line with a mistake puts it back. */
let before = props.pattern;

function hear(text: string | undefined): void {
  if (!typing.value) before = props.pattern;
  typing.value = true;
  typed.value = (text ?? '').replaceAll('\n', ' ');
  const said = reading.value;
  const heard = 'pattern' in said ? said.pattern : before;
  if (heard !== props.pattern) songs.runOnRhythm(commands.sayPattern(heard), true);
}

function settle(event?: FocusEvent): void {
  // The buttons of the nearest fits take the focus; what was typed waits for them.
  const to = event?.relatedTarget;
  if (to instanceof HTMLElement && to.closest('.fits')) return;
  typing.value = false;
  typed.value = spoken.value;
}

function take(fit: NearFit): void {
  songs.runOnRhythm(commands.sayPattern(fit.pattern));
  typing.value = false;
  typed.value = say(fit.pattern);
}

/** Reads the words aloud in time. */
function readAloud(): void {
  const { song } = songs;
  if (!song) return;
  const { pattern } = props;
  const words = slots(pattern).flatMap(({ tick, stroke }) => {
    const said = spokenWord(stroke);
    const late = swungTick(tick, pattern.feel, pattern.meter) - tick;
    return said ? [{ ...said, tick, late }] : [];
  });
  const silent = { ...previewPattern(song, pattern, null), strikes: [] };
  void player.audition(silent, { click: true, words });
}
</script>

<template>
  <div class="say">
    <label for="say">Say it</label>
    <Textarea
      id="say"
      :model-value="typed"
      :rows="rows"
      class="line"
      fluid
      autocomplete="off"
      spellcheck="false"
      maxlength="6000"
      :invalid="problem !== null"
      :aria-describedby="problem ? 'say-problem' : undefined"
      @update:model-value="hear"
      @blur="settle"
      @keydown.enter.prevent="settle()"
    />
    <Button
      icon="pi pi-volume-up"
      text
      rounded
      aria-label="Read it aloud in time"
      title="Read it aloud in time"
      @click="readAloud"
    />
    <div v-if="problem" id="say-problem" class="problem" role="status">
      <p>
        <mark>{{ typed.slice(problem.from, problem.to) || '…' }}</mark> {{ problem.message }} The
        pattern stays as it was.
      </p>
      <p v-if="problem.fits.length > 0" class="fits">
        Near to it:
        <Button
          v-for="fit in problem.fits"
          :key="fit.label"
          size="small"
          severity="secondary"
          :label="fit.label"
          @click="take(fit)"
        />
      </p>
    </div>
  </div>
</template>

<style scoped>
.say {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  align-items: center;
  gap: 0.2rem 0.8rem;
}

/* Grows with its text without a script that measures it at every key. */
.line {
  field-sizing: content;
  resize: none;
}

label {
  font-weight: 600;
}

.problem {
  grid-column: 2;
  color: var(--coral);
}

.fits {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
  color: var(--ink);
  margin-top: 0.3rem;
}

mark {
  color: inherit;
  background: var(--coral-soft);
  text-decoration-line: underline;
  text-decoration-style: wavy;
  text-decoration-color: var(--coral);
  text-underline-offset: 4px;
}
</style>
