<script setup lang="ts">
import { messageOf } from '#core/plain';
import { ref } from 'vue';
import { RouterLink, useRouter } from 'vue-router';
import { METERS } from '#core/time';
import { builtInPatterns, newPattern } from '#core/pattern';
import { type ChordFlag, flagAt } from '#core/arrange';
import WristPath from '../../path/WristPath.vue';
import { api } from '../../remote/client';

/** What a new player finds on an empty shelf: three ways to begin, each with a picture of what comes of it. */
const emit = defineEmits<{ open: [] }>();
const router = useRouter();

const WIDTH = 280;
const plain = newPattern(METERS['4/4'], 'Four downs');
const strummed = builtInPatterns().find(({ name }) => name === 'Missed three') ?? plain;
/** Four chords, a beat each in the picture. */
const four: ChordFlag[] = ['C', 'Am', 'F', 'G'].map((symbol, beat) => flagAt(beat * 960, symbol));
const first: ChordFlag[] = [flagAt(0, 'A')];

const trouble = ref<string | null>(null);
const bringing = ref(false);
/** Brings a song of the circle in, and opens it. */
async function bring(): Promise<void> {
  if (bringing.value) return;
  bringing.value = true;
  trouble.value = null;
  try {
    const { document } = await api.readExample();
    const { id } = await api.createSong(document);
    await router.push({ name: 'song', params: { id } });
  } catch (error) {
    trouble.value = messageOf(error);
  } finally {
    bringing.value = false;
  }
}
</script>

<template>
  <ul class="ways" aria-label="Ways to begin">
    <li>
      <RouterLink class="way" :to="{ name: 'new' }">
        <WristPath
          :pattern="plain"
          :strings="6"
          :flags="four"
          size="middle"
          :width="WIDTH"
          aria-hidden="true"
        />
        <b>Write four chords</b>
        <span class="quiet">C | Am | F | G: its bars are drawn as you type.</span>
      </RouterLink>
    </li>
    <li>
      <button type="button" class="way" @click="emit('open')">
        <span class="page" aria-hidden="true"
          ><span>C<span class="gap" />Am</span>Down by the water<span>F<span class="gap" />G</span
          >lanterns are lit</span
        >
        <b>Open a file</b>
        <span class="quiet">A chart with chords, tablature, ChordPro, MusicXML, ABC or MIDI.</span>
      </button>
    </li>
    <li>
      <button type="button" class="way" :disabled="bringing" @click="bring">
        <WristPath
          :pattern="strummed"
          :strings="6"
          :flags="first"
          size="middle"
          :width="WIDTH"
          aria-hidden="true"
        />
        <b>Look at a song of Kettle Lock</b>
        <span class="quiet">It comes onto your shelf, to play, to change, to delete.</span>
      </button>
    </li>
  </ul>
  <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
</template>

<style scoped>
.ways {
  list-style: none;
  margin: 1.2rem 0 2rem;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(17rem, 100%), 1fr));
  gap: 1.2rem;
}

.way {
  display: grid;
  grid-template-rows: 14.5rem auto auto;
  gap: 0.4rem;
  width: 100%;
  height: 100%;
  padding: 1rem 1.2rem 1.2rem;
  border: 1px solid var(--line);
  border-radius: var(--radius);
  background: var(--paper-raised);
  color: inherit;
  font: inherit;
  text-align: left;
  text-decoration: none;
  cursor: pointer;
}

.way:hover {
  border-color: var(--spruce);
}

.way b {
  font-family: var(--display);
  font-size: 1.15rem;
}

.way > :first-child {
  align-self: center;
  justify-self: start;
  max-width: 100%;
  overflow: hidden;
}

.page {
  display: grid;
  gap: 0.15rem;
  padding: 0.7rem 1rem;
  border: 1px solid var(--line);
  background: var(--paper);
  line-height: 1.3;
}

.page > span {
  font-weight: 700;
  color: var(--brass);
}

.gap {
  display: inline-block;
  width: 3rem;
}

.trouble {
  color: var(--coral);
  font-weight: 600;
}
</style>
