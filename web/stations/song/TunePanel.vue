<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import ChooseOne from '../../fields/ChooseOne.vue';
import type { Song, TuneMeets, TuneNote } from '#core/schema';
import { beatTicks } from '#core/time';
import { fills, lineFingers, lineWords, stringLabel } from '#core/neck';
import { type Landing, type PlayedBar, readTune, sayTune, songKey, tuneGrid } from '#core/song';
import { rhythmCommands } from '#core/edit';
import { melodyMix, tuneTurns } from '#core/arrange';
import { useFrettedStore } from '../../stores/fretted';
import { usePlayerStore } from '../../stores/player';
import TuneNeck from './TuneNeck.vue';
import { TUNE_MEETS } from './tuneMeets';
import { useSongStore } from '../../stores/song';

/** The line of single notes of a bar: written with its counts, and how it meets the pattern. */
const props = defineProps<{ song: Song; bar: PlayedBar; heard: number | null }>();
const songs = useSongStore();
const player = usePlayerStore();
const fretted = useFrettedStore();

const place = computed(() => ({
  section: props.bar.section,
  line: props.bar.line,
  bar: props.bar.bar,
}));
const tune = computed(() => props.bar.content.rules?.tune ?? null);
const written = computed(() => sayTune(tune.value?.notes ?? [], props.bar.meter));
const typed = ref(written.value);
const typing = ref(false);
watch([written, () => props.bar.index], () => {
  if (!typing.value) typed.value = written.value;
});

const strings = computed(() => props.song.instrument.strings.length);
const reading = computed(() => readTune(typed.value, props.bar.meter, strings.value));
const problem = computed(() =>
  typing.value && 'problem' in reading.value ? reading.value.problem : null,
);

function keep(notes: TuneNote[], together = false): void {
  const meets = tune.value?.meets;
  const made = notes.length > 0 ? { notes, ...(meets && { meets }) } : null;
  songs.run(rhythmCommands.setTune(place.value, made), together);
}
function write(text: string | undefined): void {
  typing.value = true;
  typed.value = text ?? '';
  if ('notes' in reading.value) keep(reading.value.notes, true);
}
function settle(): void {
  typing.value = false;
  typed.value = written.value;
}

const meets = computed({
  get: () => melodyMix(props.song, props.bar),
  set: (value: TuneMeets) => {
    if (tune.value) songs.run(rhythmCommands.setTune(place.value, { ...tune.value, meets: value }));
  },
});

/** The chord under the hand at a tick of the song. */
function chordAt(tick: number) {
  const landed = player.changes.findLast((change) => change.tick <= tick) ?? player.changes[0];
  return landed ? fretted.of(landed.symbol) : null;
}
const start = computed(() => props.bar.tick - props.bar.lead);
const held = (tick: number) => chordAt(start.value + tick)?.shape.frets ?? null;
const names = computed(() =>
  props.song.instrument.strings.map((_, string) => stringLabel(props.song.instrument, string)),
);
/** What is heard of this bar, counted from its bar line. */
const sounding = computed(() => (props.heard === null ? null : props.heard + props.bar.lead));
/** The line goes on in the next bar, where one is written. */
function onward(): void {
  if (props.bar.index + 1 < player.bars.length) player.selectedBar = props.bar.index + 1;
}

const fingers = computed(() => {
  const notes = tune.value?.notes ?? [];
  if (notes.length === 0) return null;
  // A line alone leaves the hand free.
  const free = meets.value === 'alone';
  const shapes = notes.map(({ at }) => (free ? null : (chordAt(start.value + at)?.shape ?? null)));
  const path = lineFingers(
    notes.map(({ at, string, fret, how, held }, index) => ({
      together: notes[index - 1]?.at === at,
      string: strings.value - string,
      fret,
      how,
      held,
    })),
    shapes,
  );
  return {
    words: lineWords(path, shapes[0] ?? null),
    each: path.map(({ finger }) => (finger === 0 ? 'o' : String(finger))).join(' '),
  };
});
/** Notes for which the arm has to turn back. */
const turns = computed(() => {
  const { bar } = props;
  const pattern = (player.parts[bar.index]?.[0] ?? { pattern: props.song.pattern }).pattern;
  const strikes = (player.performance?.strikes ?? []).filter((one) => one.bar === bar.index);
  const grid = tuneGrid(bar.meter, 4);
  return tuneTurns(strikes, beatTicks(bar.meter) / pattern.arm.halfSwings).map((tick) => {
    const at = tick - start.value;
    return grid.find((place) => place.at === at)?.name ?? `${at} ticks after the bar line`;
  });
});
const silent = computed(() =>
  (player.performance?.silent ?? []).filter(
    ({ tick }) => tick >= props.bar.tick && tick < props.bar.tick + props.bar.ticks,
  ),
);

/** The chord that lands next after this bar has begun, and the one before it. */
const next = computed<{ landing: Landing; before: Landing } | null>(() => {
  const end = props.bar.tick + props.bar.ticks;
  const index = player.changes.findIndex(({ tick }) => tick > props.bar.tick && tick <= end);
  const before = player.changes[index - 1];
  return index > 0 && before ? { landing: player.changes[index]!, before } : null;
});
const FILL_NOTES = 3;
const FILL_TICKS = 480;
const offers = computed(() => {
  if (!next.value) return [];
  const { landing, before } = next.value;
  const [from, to] = [fretted.of(before.symbol), fretted.of(landing.symbol)];
  if (!from || !to) return [];
  if (landing.tick - FILL_NOTES * FILL_TICKS < props.bar.tick) return [];
  const key = songKey(props.song);
  return fills(from, to, FILL_NOTES, { ...props.song, key }).slice(0, 2);
});
/** The notes of a fill by string and fret. */
const sayFill = ({ notes }: (typeof offers.value)[number]) =>
  notes.map(({ string, fret }) => `s${strings.value - string}f${fret}`).join(' ');
function takeFill(offer: (typeof offers.value)[number]): void {
  const start = next.value!.landing.tick - FILL_NOTES * FILL_TICKS;
  const from = start - props.bar.tick + props.bar.lead;
  const made = offer.notes.map(({ string, fret }, index) => ({
    at: from + index * FILL_TICKS,
    string: strings.value - string,
    fret,
  }));
  keep([...(tune.value?.notes ?? []).filter(({ at }) => at < from), ...made]);
}

/** Bars with a line of notes, of all: more than a third is much beside a song that is strummed. */
const share = computed(() => {
  const all = player.bars.length;
  const lines = player.bars.filter(({ content }) => content.rules?.tune).length;
  return lines > 0 && lines > all / 3 ? `${lines} of ${all} bars have notes.` : null;
});
</script>

<template>
  <section class="tune" aria-label="Notes of the bar">
    <h2>Notes of bar {{ bar.index + 1 }}</h2>
    <TuneNeck
      :notes="tune?.notes ?? []"
      :meter="bar.meter"
      :lead="bar.lead"
      :strings="names"
      :frets="song.instrument.frets - song.capo"
      :chord-at="held"
      :heard="sounding"
      @write="(notes) => keep(notes)"
      @onward="onward"
    />
    <div class="row">
      <label for="tune">Notes</label>
      <InputText
        id="tune"
        class="line"
        :model-value="typed"
        :invalid="problem !== null"
        placeholder="1 s3f0 & hammer s3f2 2 s4f2"
        autocomplete="off"
        spellcheck="false"
        maxlength="1200"
        :aria-describedby="problem ? 'tune-problem' : 'tune-help'"
        @update:model-value="write"
        @blur="settle"
        @keydown.enter.prevent="settle"
      />
      <ChooseOne
        v-if="tune"
        v-model="meets"
        :options="TUNE_MEETS"
        aria-label="How notes and strum meet"
      />
      <Button v-if="tune" size="small" text label="Delete the notes" @click="keep([])" />
    </div>
    <p v-if="problem" id="tune-problem" class="problem" role="status">
      <mark>{{ typed.slice(problem.from, problem.to) }}</mark> {{ problem.message }} The notes stay
      as they were.
    </p>
    <p v-else-if="!tune" id="tune-help" class="quiet">
      A tune, a fill, a riff: on the neck, or in words, a count, then string and fret. hammer, pull
      or slide before a note lets the fretting hand sound it; a plus sets notes together that sound
      at once, as s5f3+s2f1.
    </p>
    <p v-if="fingers" class="quiet">
      {{ fingers.words }} Fingers in order: <strong>{{ fingers.each }}</strong>
    </p>
    <p v-for="fault in silent" :key="fault.message" class="problem" role="status">
      {{ fault.message }}
    </p>
    <p v-if="turns.length > 0" class="quiet">
      On {{ turns.join(', ') }} the arm has to turn back: the stroke before goes the same way.
    </p>
    <p v-if="share" class="quiet">{{ share }}</p>
    <div v-if="offers.length > 0" class="row">
      <Button
        v-for="offer in offers"
        :key="`${offer.direction}${offer.into}`"
        size="small"
        severity="secondary"
        :label="`Fill into ${next!.landing.symbol}: ${sayFill(offer)}`"
        @click="takeFill(offer)"
      />
    </div>
  </section>
</template>

<style scoped>
.tune {
  display: grid;
  gap: 0.4rem;
}

@media (max-width: 40rem) {
  h2 {
    font-size: 1rem;
  }
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem 0.6rem;
}

.line {
  flex: 1 1 16rem;
  min-width: 0;
}

.problem {
  color: var(--coral-ink, var(--coral));
}
</style>
