<script setup lang="ts">
import { useAsyncState } from '@vueuse/core';
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import { computed, onBeforeUnmount, watch } from 'vue';
import { onBeforeRouteLeave, useRoute, useRouter } from 'vue-router';
import type { InstrumentId, Pattern } from '#core/schema';
import { builtInPatterns } from '#core/pattern';
import { INSTRUMENTS, parseChord, usualBassRule } from '#core/neck';
import { patternAlone } from '#core/practice';
import ChooseOne from '../../fields/ChooseOne.vue';
import { api } from '../../remote/client';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';
import PracticeStation from './PracticeStation.vue';

/** A pattern of the shelf by itself, on one chord or two that take turns: all of Practice, without a song. */
const route = useRoute();
const router = useRouter();
const songs = useSongStore();
const view = useViewStore();

const stored = useAsyncState(() => api.listPatterns(), [], { onError: () => undefined });
const patterns = computed<Pattern[]>(() => [
  ...stored.state.value.map(({ document }) => document),
  ...builtInPatterns(),
]);
const options = computed(() => patterns.value.map(({ name }, value) => ({ label: name, value })));

/** What is chosen is in the address, so that going back and opening it again find it. */
const asked = (name: string, usual: string) => String(route.query[name] ?? usual);
const ask = (change: Record<string, string>) =>
  void router.replace({ query: { ...route.query, ...change } });
const at = computed({
  get: () =>
    Math.max(
      0,
      patterns.value.findIndex(({ name }) => name === route.query.pattern),
    ),
  set: (index: number) => ask({ pattern: patterns.value[index]!.name }),
});
const isKind = (on: string): on is InstrumentId => on in INSTRUMENTS;
const kind = computed({
  get: (): InstrumentId => {
    const on = asked('on', view.lastInstrument);
    return isKind(on) ? on : 'guitar';
  },
  set: (on: InstrumentId) => {
    view.lastInstrument = on;
    ask({ on });
  },
});
const kinds = Object.entries(INSTRUMENTS).map(([value, { name: label }]) => ({ label, value }));
const chord = (name: string, usual: string) =>
  computed({
    get: () => asked(name, usual),
    set: (symbol: string) => ask({ [name]: symbol.trim() }),
  });
const first = chord('chord', 'G');
const second = chord('then', '');
const chords = computed(() => [first.value, second.value].filter(Boolean));
const unknown = computed(() => chords.value.find((symbol) => !parseChord(symbol)) ?? null);
const summary = computed(
  () =>
    `${patterns.value[at.value]?.name ?? ''} on ${chords.value.join(' and ')}, ${INSTRUMENTS[kind.value].name}`,
);

/** Pulses a minute that a pattern begins at where nothing else is known. */
const START = 80;
const USUAL = { capo: 0, countIn: 1 } as const;
watch(
  [() => patterns.value[at.value], kind, chords],
  ([pattern]) => {
    if (!pattern || unknown.value || chords.value.length === 0) return;
    const tempo = songs.id === null && songs.song ? songs.song.tempo : START;
    const instrument = INSTRUMENTS[kind.value];
    const like = { ...USUAL, instrument, bassSchool: usualBassRule(instrument), tempo };
    void songs.hold(patternAlone(like, pattern, chords.value));
  },
  { immediate: true },
);
const letGo = () => {
  if (songs.id === null) songs.close();
};
onBeforeRouteLeave(letGo);
onBeforeUnmount(letGo);
</script>

<template>
  <PracticeStation
    v-if="songs.song && songs.id === null"
    :key="songs.song.pattern.name"
    :settings="summary"
  >
    <template #settings>
      <Select
        v-model="at"
        :options="options"
        option-label="label"
        option-value="value"
        filter
        aria-label="Pattern"
      />
      <label for="alone-chord">on</label>
      <InputText
        id="alone-chord"
        v-model.lazy="first"
        class="chord"
        maxlength="16"
        aria-label="Chord"
      />
      <label for="alone-then">then</label>
      <InputText
        id="alone-then"
        v-model.lazy="second"
        class="chord"
        maxlength="16"
        placeholder="no other"
        aria-label="Second chord"
      />
      <ChooseOne v-model="kind" :options="kinds" aria-label="Instrument" />
      <span v-if="unknown" role="alert">“{{ unknown }}” is no chord that is known.</span>
    </template>
  </PracticeStation>
</template>

<style scoped>
.chord {
  width: 6rem;
}
</style>
