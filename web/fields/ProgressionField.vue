<script setup lang="ts">
import { computed, ref } from 'vue';
import {
  hasCrowdedLine,
  oneBarEach,
  progressionParts,
  type TextProblem,
  withReading,
} from '#core/song';

/**
 * The line of text that a progression is typed in. Places that need the player are underlined in
 * the line itself and explained below it.
 */
const text = defineModel<string>({ required: true });
const props = defineProps<{ problems: TextProblem[]; rows?: number }>();

/** Problems explained at once; the rest are underlined and counted. */
const SHOWN = 4;

const area = ref<HTMLTextAreaElement>();
const scrolled = ref(0);
const helpOpen = ref(false);

/** The text cut at the underlined places, for the copy that lies behind the field: its last line has an end too. */
const parts = computed(() => progressionParts(`${text.value}\n`, props.problems));

const crowded = computed(() => hasCrowdedLine(text.value));
const lines = computed(() => Math.max(props.rows ?? 2, text.value.split('\n').length));

/** Changes the text; the button that was pressed may be gone, so the focus goes where one types on. */
function write(now: string): void {
  text.value = now;
  area.value?.focus();
}

function goTo(problem: TextProblem): void {
  area.value?.focus();
  area.value?.setSelectionRange(problem.from, problem.to);
}
</script>

<template>
  <div class="field">
    <div class="head">
      <label for="progression">Progression</label>
      <button
        type="button"
        class="help-button"
        :aria-expanded="helpOpen"
        aria-controls="progression-help"
        @click="helpOpen = !helpOpen"
      >
        {{ helpOpen ? 'Hide how to write it' : 'How to write it' }}
      </button>
    </div>
    <div class="body" :class="{ helped: helpOpen }">
      <div class="sheet">
        <pre class="behind" aria-hidden="true" :style="{ top: `${-scrolled}px` }"><span
        v-for="(part, index) in parts" :key="index" :class="{ bad: part.bad }" :data-testid="part.bad ? 'problem' : undefined">{{ part.text }}</span></pre>
        <textarea
          id="progression"
          ref="area"
          v-model="text"
          :rows="lines"
          spellcheck="false"
          autocomplete="off"
          autocapitalize="off"
          placeholder="A | F#m | D . E7 . | %"
          :aria-invalid="problems.length > 0"
          :aria-describedby="problems.length > 0 ? 'progression-problems' : undefined"
          @scroll="scrolled = area?.scrollTop ?? 0"
        />
      </div>
      <dl v-if="helpOpen" id="progression-help" class="help">
        <div>
          <dt>A | F#m | D</dt>
          <dd>bars, with | between them</dd>
        </div>
        <div>
          <dt>D E7</dt>
          <dd>two chords share the bar</dd>
        </div>
        <div>
          <dt>D . . E7</dt>
          <dd>a dot holds one more beat; write 8 for half beats</dd>
        </div>
        <div>
          <dt>%</dt>
          <dd>the bar before, again</dd>
        </div>
        <div>
          <dt>.</dt>
          <dd>alone: the chord is held</dd>
        </div>
        <div>
          <dt>&lt;E7</dt>
          <dd>lands an eighth early</dd>
        </div>
        <div>
          <dt>&lt;&lt;E7</dt>
          <dd>lands a sixteenth early</dd>
        </div>
        <div>
          <dt>A | D x2</dt>
          <dd>the line, twice</dd>
        </div>
        <div>
          <dt>Chorus:</dt>
          <dd>names a section</dd>
        </div>
        <div>
          <dt>1) E7 | A</dt>
          <dd>an ending, for the first time round</dd>
        </div>
        <div>
          <dt>last) A | %</dt>
          <dd>an ending, for the last time of each passage</dd>
        </div>
        <div>
          <dt>Endings: over the song</dt>
          <dd>times are counted over the whole song instead</dd>
        </div>
        <div>
          <dt>(2/4) D</dt>
          <dd>a bar of another meter</dd>
        </div>
        <div>
          <dt>(pickup 1) E7</dt>
          <dd>a pick-up: only the last beat of the bar</dd>
        </div>
        <div>
          <dt>A[2=Am7,last=A6]</dt>
          <dd>another chord the second time round, and the last</dd>
        </div>
        <div>
          <dt>A~</dt>
          <dd>struck once and held</dd>
        </div>
        <div>
          <dt>Key: G</dt>
          <dd>names the key; chords may then be steps of it: 1 5 6m 4, or I V vi IV</dd>
        </div>
        <div>
          <dt>N.C.</dt>
          <dd>no chord: the hand damps</dd>
        </div>
        <div>
          <dt>Order: Verse, Chorus x2</dt>
          <dd>the sections as they are played</dd>
        </div>
      </dl>
    </div>
    <div id="progression-problems" role="status">
      <p v-if="crowded" class="hint">
        Chords without a bar line share one bar.
        <button type="button" class="reading" @click="write(oneBarEach(text))">One bar each</button>
      </p>
      <ul v-if="problems.length > 0" class="problems">
        <li v-for="(problem, index) in problems.slice(0, SHOWN)" :key="index">
          <button type="button" @click="goTo(problem)">{{ problem.message }}</button>
          <template v-if="problem.readings">
            Did you mean
            <button
              v-for="reading in problem.readings"
              :key="reading"
              type="button"
              class="reading"
              @click="write(withReading(text, problem, reading))"
            >
              {{ reading }}
            </button>
          </template>
        </li>
        <li v-if="problems.length > SHOWN">and {{ problems.length - SHOWN }} more places</li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.field {
  display: grid;
  gap: 0.4rem;
}

.head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}

label {
  font-weight: 600;
}

.help-button {
  border: 0;
  background: none;
  color: var(--ink-soft);
  text-decoration: underline;
  cursor: pointer;
  padding: 0.2rem;
}

.sheet {
  position: relative;
  overflow: hidden;
  background: var(--paper-raised);
  border-radius: var(--radius);
  border: 1px solid var(--string);
}

.sheet:focus-within {
  outline: 3px solid var(--brass);
  outline-offset: 1px;
}

.behind,
textarea {
  font-family: var(--text);
  font-size: 1.1rem;
  line-height: 1.5;
  letter-spacing: 0.02em;
  word-spacing: 0.1em;
  padding: 0.5rem 0.9rem;
  margin: 0;
  white-space: pre-wrap;
  overflow-wrap: break-word;
}

.behind {
  position: absolute;
  inset: 0 0 auto;
  color: transparent;
  pointer-events: none;
}

.behind .bad {
  text-decoration-line: underline;
  text-decoration-style: wavy;
  text-decoration-color: var(--coral);
  text-decoration-thickness: 2px;
  text-underline-offset: 5px;
  background: var(--coral-soft);
  border-radius: 3px;
}

textarea {
  position: relative;
  display: block;
  width: 100%;
  border: 0;
  outline: 0;
  background: none;
  color: var(--ink);
  resize: none;
}

textarea::placeholder {
  color: var(--ink-soft);
  opacity: 0.7;
}

.problems {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.1rem;
}

.problems button {
  border: 0;
  background: none;
  padding: 0.1rem 0;
  color: var(--coral);
  text-align: left;
  cursor: pointer;
  font-weight: 500;
}

.hint {
  color: var(--ink-soft);
}

.hint .reading,
.problems .reading {
  color: var(--ink);
  background: var(--paper-sunk);
  border-radius: 0.4rem;
  padding: 0 0.5rem;
  margin-left: 0.3rem;
  font-weight: 600;
}

.helped {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(24rem, 100%), 1fr));
  gap: 0.6rem 1.6rem;
  align-items: start;
}

.help {
  margin: 0;
  display: grid;
  font-size: 0.92rem;
  line-height: 1.35;
}

.help div {
  display: grid;
  grid-template-columns: 10.5rem 1fr;
  gap: 0.5rem;
}

.help dt {
  font-weight: 700;
}

.help dd {
  margin: 0;
  color: var(--ink-soft);
}
</style>
