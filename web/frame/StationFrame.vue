<script setup lang="ts" generic="Tool extends string">
import { useLocalStorage, useMediaQuery } from '@vueuse/core';
import Button from 'primevue/button';
import Splitter from 'primevue/splitter';
import SplitterPanel from 'primevue/splitterpanel';
import { computed, nextTick, ref, useId, useTemplateRef, watch } from 'vue';
import ChooseBeside from '../fields/ChooseBeside.vue';
import MoreButton from './MoreButton.vue';
import { useOverflow } from './overflow';
import { useRegion } from './regions';

/**
 * The one frame of all stations: the sentence that it answers with, one line of settings that opens in
 * place, what is worked on, and the tools. What is worked on stays in sight: the tools stand beside it and
 * scroll alone, or come up from the foot where the window is narrow.
 */
const props = defineProps<{
  /** The sentence. */
  answer: string;
  /** The settings in one line, as they are. */
  settings?: string;
  /** None where there is nothing to work on yet. */
  tools: { label: string; value: Tool }[];
  /** What is worked on, by name: "Strokes", "Bars". */
  work: string;
}>();
const tool = defineModel<Tool>('tool', { required: true });

/** The width from which tools stand beside the work. */
const beside = useMediaQuery('(min-width: 1100px)');
const open = useLocalStorage('plucky-wrist:settings-open', false);
const foldedBeside = useLocalStorage('plucky-wrist:tools-folded', false);
/** From the foot they come when they are asked for. */
const foldedBelow = ref(true);
const folded = computed({
  get: () => (beside.value ? foldedBeside.value : foldedBelow.value),
  set: (value) => {
    if (beside.value) foldedBeside.value = value;
    else foldedBelow.value = value;
  },
});
watch(tool, () => (folded.value = false));

/** What is typed is seen in what is drawn above it: where that was scrolled away the settings make room for it. */
async function foldSettings(event: Event): Promise<void> {
  const work = event.currentTarget;
  if (!(event.target instanceof HTMLTextAreaElement) || !(work instanceof HTMLElement)) return;
  await nextTick();
  if (work.scrollTop > 0) open.value = false;
}

/** A tool that is open is closed by its own tab where it covers the work. */
function choose(value: Tool): void {
  if (!beside.value && value === tool.value) folded.value = !folded.value;
  else {
    folded.value = false;
    tool.value = value;
  }
}

const settingsId = useId();
useRegion('work', 'main');
/** Tools in a row: four at most, and more of them in two even rows. */
const IN_A_ROW = 4;
const columns = computed(() => {
  const { length } = props.tools;
  return length <= IN_A_ROW ? length : Math.ceil(length / 2);
});
const row = useTemplateRef<{ $el: HTMLElement }>('row');
const tabs = computed(() => row.value?.$el);
const { hasMore, goOn } = useOverflow(tabs);
const side = useRegion('tools', 'side', () => {
  // The key that leads to the tools folds them away where the focus is already there.
  const inside = side.value?.contains(document.activeElement) ?? false;
  folded.value = inside && !folded.value;
  return !folded.value;
});
</script>

<template>
  <section class="frame" :class="{ folded: folded || tools.length === 0 }">
    <Splitter
      class="split"
      state-key="plucky-wrist:split"
      state-storage="local"
      :gutter-size="6"
      :step="2"
    >
      <SplitterPanel class="main" :size="66" :min-size="40">
        <div class="head">
          <h1 class="answer">{{ props.answer }}</h1>
          <slot name="beside" />
          <Button
            v-if="folded && beside && tools.length > 0"
            class="unfold"
            icon="pi pi-angle-double-left"
            text
            rounded
            aria-label="Show the tools"
            title="Show the tools (F9)"
            @click="folded = false"
          />
        </div>
        <div v-if="settings" class="settings">
          <button
            type="button"
            class="line"
            :aria-expanded="open"
            :aria-controls="settingsId"
            @click="open = !open"
          >
            <span class="heard-only">Settings: </span>{{ settings }}
            <i class="pi" :class="open ? 'pi-angle-up' : 'pi-angle-down'" aria-hidden="true" />
          </button>
          <div v-if="open" :id="settingsId" class="fields"><slot name="settings" /></div>
        </div>
        <div
          ref="main"
          class="work"
          role="region"
          :aria-label="work"
          tabindex="-1"
          @input="foldSettings"
        >
          <slot />
        </div>
      </SplitterPanel>
      <SplitterPanel v-show="tools.length > 0" class="side" :size="34" :min-size="22">
        <div ref="side" class="tools" role="region" aria-label="Tools" tabindex="-1">
          <div class="tabs">
            <div class="row">
              <ChooseBeside
                ref="row"
                :model-value="tool"
                :options="tools"
                aria-label="Look at"
                size="small"
                @update:model-value="choose"
                @click="!beside && folded ? (folded = false) : undefined"
              />
              <MoreButton :shown="hasMore && !beside" label="More tools" @press="goOn" />
            </div>
            <Button
              class="fold"
              :icon="beside ? 'pi pi-angle-double-right' : 'pi pi-angle-down'"
              text
              rounded
              aria-label="Fold the tools away"
              title="Fold the tools away (F9)"
              @click="folded = true"
            />
          </div>
          <div v-if="beside || !folded" class="tool"><slot name="tool" /></div>
        </div>
      </SplitterPanel>
    </Splitter>
  </section>
</template>

<style scoped>
.frame {
  height: 100%;
  min-height: 0;
}

.split {
  height: 100%;
  border: 0;
  border-radius: 0;
  background: none;
}

.main,
.side {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
}

.main {
  gap: 0.45rem;
  padding: 0.5rem 1.1rem 0 2rem;
}

.head {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 0.8rem;
}

.head .answer {
  font-size: 1.4rem;
}

.line {
  border: 0;
  background: none;
  padding: 0.1rem 0;
  color: var(--ink-soft);
  text-align: left;
  cursor: pointer;
  font-weight: 600;
}

.line:hover {
  color: var(--ink);
}

.line .pi {
  font-size: 0.8rem;
}

.fields {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem 0.9rem;
  padding: 0.3rem 0;
}

.work {
  flex: 1;
  min-height: 0;
  overflow: auto;
  display: grid;
  gap: 0.6rem;
  align-content: start;
  grid-template-columns: minmax(0, 1fr);
  /* The ring of the focus is not cut off at the edge. */
  padding: 0.2rem 0.3rem 1rem;
  margin: 0 -0.3rem;
  outline: 0;
}

.side {
  background: var(--paper-sunk);
}

.tools {
  display: flex;
  flex-direction: column;
  gap: 0.7rem;
  height: 100%;
  min-height: 0;
  padding: 0.7rem 0 0 1rem;
  outline: 0;
}

.row {
  --behind: var(--paper-sunk);

  position: relative;
  display: flex;
  flex: 1;
  min-width: 0;
}

.row > :deep(.p-selectbutton) {
  flex: 1;
  min-width: 0;
}

.tabs {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  align-items: start;
  gap: 0.3rem;
  padding-right: 0.6rem;
}

.tool {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 0 1rem 1.2rem 0.2rem;
}

.split :deep(.p-splitter-gutter) {
  background: var(--paper-sunk);
}

.folded .split :deep(> .p-splitter-gutter) {
  display: none;
}

@media (min-width: 1100px) {
  /* Tools that take more than one row stand below each other, and not wherever they end. */
  .tabs :deep(.p-selectbutton) {
    display: grid;
    grid-template-columns: repeat(v-bind(columns), minmax(0, 1fr));
  }

  .tabs :deep(.p-togglebutton),
  .tabs :deep(.p-togglebutton-content) {
    padding-inline: 0.15rem;
  }

  .folded .side {
    display: none;
  }

  .folded .main {
    flex-basis: 100% !important;
    padding-right: 2rem;
  }
}

/* Narrow: the tools come up from the foot, and what is worked on keeps the rest. */
@media not all and (min-width: 1100px) {
  .split {
    flex-direction: column;
  }

  .split :deep(> .p-splitter-gutter) {
    display: none;
  }

  .main {
    flex: 1 1 0 !important;
    padding: 0.4rem 0.8rem 0;
    gap: 0.3rem;
  }

  .side {
    flex: 0 0 auto !important;
    max-height: 52%;
    border-top: 1px solid var(--line);
  }

  .tools {
    padding: 0.35rem 0.5rem 0;
    gap: 0.3rem;
  }

  .tabs {
    padding: 0 0 0.35rem;
  }

  .tabs :deep(.p-selectbutton) {
    overflow-x: auto;
    scrollbar-width: none;
  }

  .tabs :deep(.p-togglebutton) {
    flex: none;
    white-space: nowrap;
  }

  .tabs :deep(.p-selectbutton) {
    flex-wrap: nowrap;
  }

  .folded .fold {
    display: none;
  }

  .head .answer {
    font-size: 1.15rem;
  }

  .tool {
    padding: 0 0.3rem 0.8rem;
  }
}

@media (max-width: 40rem) {
  .head {
    flex-wrap: wrap;
    gap: 0 0.6rem;
  }

  .line {
    font-size: 0.85rem;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    max-width: 100%;
  }
}
</style>
