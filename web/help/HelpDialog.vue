<script setup lang="ts">
import Dialog from 'primevue/dialog';
import { computed } from 'vue';
import { KEY_HELP } from '../path/patternKeys';
import HelpSign from './HelpSign.vue';
import { SIGNS } from './signs';
import { COMMON_KEYS, HELP } from './texts';

/** The help of one station: the signs of its drawing, its words, its keys. */
const props = defineProps<{ station: string }>();
const open = defineModel<boolean>({ required: true });

const help = computed(() => HELP[props.station] ?? HELP.shelf!);
const keys = computed(() => [
  ...(help.value.keys.length > 0 ? [{ title: 'Keys here', entries: help.value.keys }] : []),
  // Strokes are placed by keys where a path takes them.
  ...(props.station === 'strum' ? KEY_HELP : []),
  { title: 'Keys everywhere', entries: COMMON_KEYS },
]);
</script>

<template>
  <Dialog
    v-model:visible="open"
    modal
    dismissable-mask
    :header="`Help: ${help.title}`"
    :style="{ width: 'min(60rem, 96vw)' }"
  >
    <p class="does">{{ help.does }}</p>
    <section v-if="help.signs.length > 0" aria-labelledby="help-signs">
      <h3 id="help-signs">Signs</h3>
      <ul class="signs">
        <li v-for="name in help.signs" :key="name">
          <HelpSign :sign="SIGNS[name]" />
          <span>
            <b>{{ SIGNS[name].name }}</b>
            {{ SIGNS[name].meaning }}
          </span>
        </li>
      </ul>
    </section>
    <section v-if="help.words.length > 0" aria-labelledby="help-words">
      <h3 id="help-words">Words</h3>
      <dl class="words">
        <template v-for="{ word, means } in help.words" :key="word">
          <dt>{{ word }}</dt>
          <dd>{{ means }}</dd>
        </template>
      </dl>
    </section>
    <div class="columns">
      <section v-for="group in keys" :key="group.title">
        <h3>{{ group.title }}</h3>
        <dl>
          <template v-for="entry in group.entries" :key="entry.does">
            <dt>
              <kbd v-for="key in entry.keys" :key="key">{{ key }}</kbd>
            </dt>
            <dd>{{ entry.does }}</dd>
          </template>
        </dl>
      </section>
    </div>
  </Dialog>
</template>

<style scoped>
.does {
  font-size: 1.05rem;
  margin-bottom: 1rem;
}

h3 {
  font-size: 1.1rem;
  margin: 0.8rem 0 0.4rem;
}

.signs {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(22rem, 100%), 1fr));
  gap: 0.5rem 1.5rem;
}

.signs li {
  display: flex;
  align-items: center;
  gap: 0.8rem;
}

.signs b {
  display: block;
}

.columns {
  columns: 2 22rem;
  column-gap: 2rem;
}

.columns section {
  break-inside: avoid;
  margin-bottom: 1rem;
}

dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 0.25rem 0.8rem;
  margin: 0;
}

.words dt {
  font-weight: 650;
}

.columns dt {
  display: flex;
  flex-wrap: wrap;
  align-items: start;
  gap: 0.25rem;
}

dd {
  margin: 0;
}
</style>
