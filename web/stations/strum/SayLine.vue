<script setup lang="ts">
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import { commands, parsePattern, type Pattern, say } from '#core';
import { useSongStore } from '../../stores/song';

/** The pattern in words, always in view; typed into, it is read as it is said. */
const props = defineProps<{ pattern: Pattern }>();
const songs = useSongStore();

const spoken = computed(() => say(props.pattern));
const typed = ref(spoken.value);
const typing = ref(false);

const reading = computed(() => parsePattern(typed.value, props.pattern));
const problem = computed(() =>
  typing.value && 'problem' in reading.value ? reading.value.problem : null,
);

// What others change is spoken back; what is being typed is left alone until the field is left.
watch(spoken, (words) => {
  if (!typing.value) typed.value = words;
});

function hear(text: string | undefined): void {
  typing.value = true;
  typed.value = text ?? '';
  const said = reading.value;
  if ('pattern' in said) songs.run(commands.sayPattern(said.pattern), true);
}

function settle(): void {
  typing.value = false;
  typed.value = spoken.value;
}
</script>

<template>
  <div class="say">
    <label for="say">Say it</label>
    <InputText
      id="say"
      :model-value="typed"
      fluid
      autocomplete="off"
      spellcheck="false"
      maxlength="600"
      :invalid="problem !== null"
      :aria-describedby="problem ? 'say-problem' : undefined"
      @update:model-value="hear"
      @blur="settle"
      @keydown.enter="settle"
    />
    <p v-if="problem" id="say-problem" class="problem" role="status">
      <mark>{{ typed.slice(problem.from, problem.to) || '…' }}</mark> {{ problem.message }} The
      pattern stays as it was.
    </p>
  </div>
</template>

<style scoped>
.say {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  align-items: center;
  gap: 0.2rem 0.8rem;
}

label {
  font-weight: 600;
}

.problem {
  grid-column: 2;
  color: var(--coral);
}

mark {
  color: inherit;
  background: var(--coral-soft);
  text-decoration: underline wavy var(--coral);
  text-underline-offset: 4px;
}
</style>
