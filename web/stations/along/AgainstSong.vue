<script setup lang="ts">
import Button from 'primevue/button';
import { computed, ref, shallowRef, watch } from 'vue';
import { clock } from '#core/plain';
import { type Difference, passagesOn } from '#core/along';
import { useAlongStore } from '../../stores/along';
import { usePlayerStore } from '../../stores/player';

/** The recording against the bars that the song has: where each part lies, and what differs in it. */
const emit = defineEmits<{ seek: [seconds: number] }>();
const along = useAlongStore();
const player = usePlayerStore();

const passages = computed(() =>
  along.laid && player.arranged && player.changes.length > 0
    ? passagesOn(along.laid, player.arranged)
    : [],
);
const found = shallowRef<Difference[] | null>(null);
const busy = ref(false);
watch([() => along.laid, () => player.arranged], () => (found.value = null));
async function compare(): Promise<void> {
  if (!player.arranged) return;
  busy.value = true;
  found.value = await along.differences(player.arranged);
  busy.value = false;
}
const short = computed(() => {
  const last = Math.max(0, ...passages.value.map((one) => one.last));
  return last < player.bars.length ? player.bars.length - last : 0;
});
</script>

<template>
  <section v-if="passages.length > 0" aria-label="Against the song">
    <h2 class="sub">Against the song</h2>
    <ul aria-label="Parts of the song in the recording">
      <li v-for="one in passages" :key="one.from">
        <button type="button" @click="emit('seek', one.from)">
          {{ one.section || 'The song' }}{{ one.time > 1 ? `, time ${one.time}` : '' }}
        </button>
        <span class="quiet">
          bars {{ one.first }} to {{ one.last }}, {{ clock(one.from) }} to {{ clock(one.to) }}
        </span>
      </li>
    </ul>
    <p v-if="short > 0" class="quiet">The last {{ short }} bars of the song are not in it.</p>
    <Button
      size="small"
      severity="secondary"
      label="What differs in the recording?"
      :loading="busy"
      @click="compare"
    />
    <template v-if="found">
      <p v-if="found.length === 0" role="status">Nothing that can be heard with certainty.</p>
      <ul v-else aria-label="What differs">
        <li v-for="one in found" :key="one.from">
          <button type="button" @click="emit('seek', one.from)">{{ one.says }}</button>
        </li>
      </ul>
      <p class="quiet">Heard by ear from a mix of sounds: a hint where to listen, no more.</p>
    </template>
  </section>
</template>

<style scoped>
section,
ul {
  display: grid;
  gap: 0.4rem;
  justify-items: start;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

li button {
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
  padding: 0.2rem 0;
}
</style>
