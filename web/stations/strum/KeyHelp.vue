<script setup lang="ts">
import Dialog from 'primevue/dialog';
import { KEY_HELP } from '../../path/patternKeys';

/** Every key of the path. */
const open = defineModel<boolean>({ required: true });
</script>

<template>
  <Dialog
    v-model:visible="open"
    modal
    header="Keys on the path"
    :style="{ width: 'min(56rem, 94vw)' }"
  >
    <div class="columns">
      <section v-for="group in KEY_HELP" :key="group.title">
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
.columns {
  columns: 2 22rem;
  column-gap: 2rem;
}

section {
  break-inside: avoid;
  margin-bottom: 1rem;
}

h3 {
  font-size: 1.05rem;
  margin-bottom: 0.3rem;
}

dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 0.25rem 0.8rem;
  margin: 0;
}

dt {
  display: flex;
  align-items: start;
  gap: 0.25rem;
}

dd {
  margin: 0;
}
</style>
