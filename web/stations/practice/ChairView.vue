<script setup lang="ts">
import { useFullscreen, useWakeLock } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted } from 'vue';
import { usePageKeys } from '../../frame/keys';
import { useStagePlay } from '../../frame/stagePlay';
import { usePracticeStore } from '../../stores/practice';
import PracticeCard from './PracticeCard.vue';
import type { TakeRun } from './takeRun';

/**
 * Practice read from the chair, with a pedal or one key: it plays, it stops and judges, it does what the verdict
 * advises and plays again.
 */
const props = defineProps<{ run: TakeRun; sentence: string; advice: string | null }>();
const emit = defineEmits<{ leave: []; follow: [] }>();
const practice = usePracticeStore();
const full = useFullscreen(document.documentElement);
const lock = useWakeLock();

const goes = computed(() => {
  if (props.run.running.value) return 'stops';
  return props.advice ? 'does that and plays' : 'plays';
});

/** One key for all: stop what runs, else follow the advice and play. */
async function goOn(): Promise<void> {
  if (props.run.running.value) return props.run.stop();
  if (props.run.asks.value) return;
  if (props.advice) emit('follow');
  await props.run.start();
}
// The space bar is a key like any other here, and the stage bar under this view hears it first.
useStagePlay(() => ({
  label: props.run.label.value,
  running: props.run.running.value !== null,
  heard: props.run.heard.value,
  toggle: () => void goOn(),
}));
const WORDS: Record<string, 'clean' | 'so-so' | 'not yet'> = {
  1: 'clean',
  2: 'so-so',
  3: 'not yet',
};
usePageKeys(({ key, target, repeat }) => {
  if (repeat || key === 'Tab' || key === 'Shift') return false;
  const button = (target as HTMLElement).closest?.('button');
  if (button && (key === ' ' || key === 'Enter')) return false;
  if (key === 'Escape') emit('leave');
  else if (props.run.asks.value) {
    const word = WORDS[key];
    if (word) void props.run.say(word);
  } else if (key === 'a') void props.run.start();
  else if (key === 'n' || key === 'ArrowUp') practice.stepRung(1);
  else if (key === 'b' || key === 'ArrowDown') practice.stepRung(-1);
  else void goOn();
  return true;
});
onMounted(() => void lock.request('screen').catch(() => undefined));
onBeforeUnmount(() => {
  void lock.release().catch(() => undefined);
  if (full.isFullscreen.value) void full.exit();
});
</script>

<template>
  <section class="chair" aria-label="Practice, stand view">
    <header>
      <h1>{{ sentence }}</h1>
      <div class="corner">
        <button type="button" @click="full.toggle()">
          {{ full.isFullscreen.value ? 'Window' : 'Full screen' }}
        </button>
        <button type="button" @click="emit('leave')">Leave</button>
      </div>
    </header>
    <PracticeCard :run="run" large />
    <footer>
      <span v-if="advice" class="advice">{{ advice }}</span>
      <span v-if="run.asks.value"><kbd>1</kbd> clean <kbd>2</kbd> so-so <kbd>3</kbd> not yet</span>
      <span v-else>any key or a pedal {{ goes }}</span>
      <span><kbd>a</kbd> again <kbd>n</kbd> next <kbd>b</kbd> back</span>
    </footer>
  </section>
</template>

<style scoped>
.chair {
  position: fixed;
  inset: 0;
  z-index: 30;
  background: var(--paper);
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  gap: 1.5vh;
  padding: 2vh 32px;
  overflow: auto;
}

header {
  display: flex;
  justify-content: space-between;
  gap: 1rem;
}

h1 {
  font-size: clamp(1.4rem, 4.5vh, 2.6rem);
}

.corner {
  display: flex;
  gap: 0.6rem;
  align-self: start;
}

.corner button {
  border: 0;
  background: var(--paper-sunk);
  color: var(--ink-soft);
  border-radius: var(--radius);
  padding: 0.5rem 1rem;
  cursor: pointer;
}

footer {
  display: flex;
  flex-wrap: wrap;
  gap: 2rem;
  font-size: 1.2rem;
  color: var(--ink-soft);
}

.advice {
  color: var(--ink);
  font-weight: 650;
}

@media (max-width: 40rem) {
  .chair {
    padding: 1.5vh 16px;
  }

  header {
    flex-direction: column-reverse;
  }
}
</style>
