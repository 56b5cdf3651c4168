<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { useSongStore } from '../stores/song';
import { useUnsentStore } from '../stores/unsent';

/** Where the latest edit is, in words; and the choice where two versions have parted. */
const songs = useSongStore();
const unsent = useUnsentStore();

const words = computed(() => {
  if (!songs.id) return '';
  if (songs.onlyHere && songs.state !== 'conflict') {
    return 'Not saved, and this browser has no room left: your edits are only in this window. Keep it open until they are saved.';
  }
  return {
    saved: 'Saved',
    saving: 'Saving…',
    away: 'The server is away. Your edits are kept in this browser and sent when it is back.',
    full: 'Not saved yet; your edits are kept in this browser and sent again.',
    gone: 'This song was deleted elsewhere. What you have is kept here.',
    conflict: 'This song was changed elsewhere. Both versions are kept.',
    refused: 'Not saved; kept in this browser.',
  }[songs.state];
});
const router = useRouter();

async function putBack(): Promise<void> {
  const id = await songs.putBack();
  if (id) await router.replace({ params: { id } });
}

const needsPlayer = computed(
  () => songs.onlyHere || ['away', 'full', 'conflict', 'gone', 'refused'].includes(songs.state),
);
</script>

<template>
  <p class="save" :class="{ needs: needsPlayer }" role="status" data-testid="save-state">
    {{ words }}
    <span
      v-if="unsent.count > 0"
      class="notice"
      :title="
        unsent.onlyHere
          ? 'This browser has no room left: what you practised is only in this window. Keep it open.'
          : 'What you practised while the server was away is kept in this browser, and sent when it is back.'
      "
      >Practice to send: {{ unsent.count }}</span
    >
    <span v-if="unsent.trouble" class="notice">{{ unsent.trouble }}</span>
    <span v-if="songs.told ?? songs.notice" class="notice">{{ songs.told ?? songs.notice }}</span>
    <Button v-if="songs.state === 'gone'" size="small" label="Put it back" @click="putBack" />
    <template v-if="songs.state === 'conflict'">
      <Button size="small" label="Go on with mine" @click="songs.keepMine()" />
      <Button
        size="small"
        outlined
        label="Use the other, keep mine as a copy"
        @click="songs.keepBoth()"
      />
    </template>
  </p>
</template>

<style scoped>
.save {
  color: var(--ink-soft);
  font-size: 0.9rem;
  margin-right: 0.6rem;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
  max-width: 34rem;
  min-width: 4.2rem;
  justify-content: flex-end;
}

.needs {
  color: var(--coral);
  font-weight: 600;
}

.notice {
  color: var(--brass-ink);
}
</style>
