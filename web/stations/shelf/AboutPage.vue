<script setup lang="ts">
import { useAsyncState } from '@vueuse/core';
import { api } from '../../remote/client';

/** What this is, where what a player has is kept, and whose work is in it. */
const about = useAsyncState(() => api.readAbout(), null);
const licences = useAsyncState(() => api.readLicences(), []);
</script>

<template>
  <section class="station">
    <h1 class="answer">
      Plucky Wrist{{ about.state.value ? ` ${about.state.value.version}` : '' }}
    </h1>
    <p>
      Strums, and the changes under them. Free to use, to read and to change, under the MIT licence.
    </p>
    <h2>Your songs</h2>
    <p v-if="about.state.value?.folder">
      Songs, patterns, takes and the log lie in <code>{{ about.state.value.folder }}</code> on this
      computer. Nothing is sent anywhere. The log can save all of it as one file.
    </p>
    <p v-else-if="about.state.value">
      Songs, patterns, takes and the log lie on the computer that serves this page. Nothing is sent
      anywhere else.
    </p>
    <p v-if="about.error.value" role="alert">The server cannot be reached.</p>
    <p class="quiet">
      Times, tempos and limits of the hand are estimates, no prescription: a teacher sees more, and
      pain that stays is for a clinician.
    </p>
    <h2>Made with the work of others</h2>
    <p v-if="licences.isReady.value && licences.state.value.length === 0" class="quiet">
      The list of licences is made with the app, and this one was made without it.
    </p>
    <ul aria-label="Licences">
      <li v-for="one in licences.state.value" :key="`${one.name} ${one.version}`">
        <details>
          <summary>
            <b>{{ one.name }}</b> {{ one.version }} <span class="quiet">{{ one.license }}</span>
          </summary>
          <pre>{{ one.text }}</pre>
        </details>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  columns: 2 24rem;
}

li {
  break-inside: avoid;
}

summary {
  cursor: pointer;
  padding: 0.25rem 0;
}

pre {
  white-space: pre-wrap;
  max-height: 20rem;
  overflow: auto;
  font-size: 0.85rem;
  padding: 0.6rem;
  background: var(--paper-sunk);
}

code {
  overflow-wrap: anywhere;
}
</style>
