<script setup lang="ts">
import Button from 'primevue/button';
import Textarea from 'primevue/textarea';
import { computed, ref, shallowRef, useId, useTemplateRef, watch } from 'vue';
import type { Pattern } from '#core/schema';
import type { CountVocabulary } from '#core/time';
import { type NearFit, parsePattern, say } from '#core/stroke';
import WristPath from '../path/WristPath.vue';

/** The pattern in words, always in view; typed into, it is read as it is said. */
const props = defineProps<{
  pattern: Pattern;
  /** How many the instrument has, and whether the bass string is drawn at the bottom. */
  strings: number;
  flipped: boolean;
  /** How the player counts. */
  counting: CountVocabulary;
  /** What the line is for, where it is not the rhythm that the station is about: "Say bar 4". */
  label?: string;
}>();
const emit = defineEmits<{
  /** A rhythm that was said; one that goes on being typed is one step with what was typed before. */
  said: [pattern: Pattern, goesOn: boolean];
}>();
const id = useId();

const spoken = computed(() => say(props.pattern));
const typed = ref(spoken.value);
const typing = ref(false);

/** Roughly, where the browser does not let the field grow with its text. */
const LETTERS_A_ROW = 110;
const rows = computed(() => Math.min(8, Math.ceil((typed.value.length + 1) / LETTERS_A_ROW)));

/** As it was before the line was typed into: what is typed is read on it, and a line with a mistake puts it back. */
const before = shallowRef(props.pattern);
const reading = computed(() =>
  parsePattern(typed.value, typing.value ? before.value : props.pattern, {
    vocabulary: props.counting,
  }),
);
const problem = computed(() =>
  typing.value && 'problem' in reading.value ? reading.value.problem : null,
);
/** What the line may mean, the likeliest first. */
const choice = computed(() =>
  typing.value && 'choice' in reading.value ? reading.value.choice : null,
);
/** What is asked comes into sight, also where the line is the last that there is room for. */
const asked = useTemplateRef<HTMLElement>('asked');
watch(
  () => choice.value !== null,
  (isAsked) => {
    if (isAsked) asked.value?.scrollIntoView({ block: 'nearest' });
  },
  { flush: 'post' },
);

// What others change is spoken back; what is being typed is left alone until the field is left.
watch(spoken, (words) => {
  if (!typing.value) typed.value = words;
});

function hear(text: string | undefined): void {
  if (!typing.value) before.value = props.pattern;
  typing.value = true;
  typed.value = (text ?? '').replaceAll('\n', ' ');
  const said = reading.value;
  const heard = 'pattern' in said ? said.pattern : before.value;
  if (heard !== props.pattern) emit('said', heard, true);
}

/** Enter takes the first of several. */
function enter(): void {
  const [first] = choice.value?.fits ?? [];
  if (first) take(first);
  else settle();
}

function settle(event?: FocusEvent): void {
  // The buttons of what may be meant take the focus; what was typed waits for them, and for whoever comes back.
  const to = event?.relatedTarget;
  if (to instanceof HTMLElement && to.closest('.fits')) return;
  if (event && choice.value) return;
  typing.value = false;
  typed.value = spoken.value;
}

function take(fit: NearFit): void {
  emit('said', fit.pattern, false);
  typing.value = false;
  typed.value = say(fit.pattern);
}
</script>

<template>
  <div class="say">
    <label :for="id">{{ label ?? 'Say it' }}</label>
    <Textarea
      :id="id"
      :model-value="typed"
      :rows="rows"
      class="line"
      fluid
      autocomplete="off"
      spellcheck="false"
      maxlength="6000"
      :invalid="problem !== null"
      :aria-describedby="problem ? `${id}-problem` : choice ? `${id}-choice` : undefined"
      @update:model-value="hear"
      @blur="settle"
      @keydown.enter.prevent="enter"
      @keydown.escape="settle()"
    />
    <slot />
    <div
      v-if="choice"
      :id="`${id}-choice`"
      ref="asked"
      class="choice"
      role="group"
      aria-label="Which is meant?"
    >
      <p class="asks" role="status">{{ choice.asks }} Enter takes the first.</p>
      <ul class="fits">
        <li v-for="fit in choice.fits" :key="fit.label">
          <button type="button" class="fit" @click="take(fit)">
            <WristPath
              :pattern="fit.pattern"
              :strings="strings"
              size="small"
              :flipped="flipped"
              aria-hidden="true"
            />
            <span>{{ fit.label }}</span>
          </button>
        </li>
      </ul>
    </div>
    <div v-if="problem" :id="`${id}-problem`" class="problem" role="status">
      <p>
        <mark>{{ typed.slice(problem.from, problem.to) || '…' }}</mark> {{ problem.message }} The
        pattern stays as it was.
      </p>
      <p v-if="problem.fits.length > 0" class="fits">
        Close matches:
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

.choice {
  grid-column: 2;
}

.asks {
  margin: 0.2rem 0;
}

ul.fits {
  list-style: none;
  padding: 0;
  align-items: stretch;
}

.fit {
  display: grid;
  gap: 0.1rem;
  justify-items: center;
  width: 14rem;
  min-height: 44px;
  padding: 0.3rem 0.6rem;
  font: inherit;
  color: inherit;
  background: var(--paper-raised);
  border: 1px solid var(--line);
  border-radius: var(--radius);
  cursor: pointer;
}

.fit:hover,
.fit:focus-visible {
  border-color: var(--brass);
}

li:first-child .fit {
  border-width: 2px;
  border-color: var(--spruce);
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
