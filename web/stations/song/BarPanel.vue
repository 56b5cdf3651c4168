<script setup lang="ts">
import ChooseOne from '../../fields/ChooseOne.vue';
import Button from 'primevue/button';
import FormMore from '../../fields/FormMore.vue';
import FormRow from '../../fields/FormRow.vue';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, ref, watch } from 'vue';
import { plural } from '#core/plain';
import type { BarRules, Song, TimeRound } from '#core/schema';
import {
  beatTicks,
  countNumber,
  METER_NAMES,
  meterByName,
  meterName,
  METERS,
  sameMeter,
} from '#core/time';
import { isNoChord } from '#core/neck';
import { barNumbers, type Landing, type PlayedBar, songTicks, timeWords } from '#core/song';
import {
  barCommands,
  everySecondBar,
  patternOf,
  rhythmCommands,
  type RhythmTarget,
  withBar,
  withRules,
} from '#core/edit';
import {
  asPlayed,
  barCount,
  barPatterns,
  barRhythm,
  rhythms,
  SPLIT_LABELS,
  whyDifferent,
  type ChordFlag,
  struckStrings,
} from '#core/arrange';
import BarMarks, { type BarMark } from '../../path/BarMarks.vue';
import WristPath from '../../path/WristPath.vue';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';
import { useBarStrokes } from './barStrokes';
import LandingRow from './LandingRow.vue';
import { usePlantFlag } from './plantFlag';
import SayLine from '../../fields/SayLine.vue';
import RhythmPicker from './RhythmPicker.vue';

/** The chosen bar, large: its rhythm, what a shared bar does with it, and what leads into its chords. */
const props = defineProps<{
  song: Song;
  bar: PlayedBar;
  flags: ChordFlag[];
  heard: number | null;
}>();
const emit = defineEmits<{ notes: [] }>();
const songs = useSongStore();
const player = usePlayerStore();
const view = useViewStore();

const place = computed(() => ({
  section: props.bar.section,
  line: props.bar.line,
  bar: props.bar.bar,
}));
/** Which of the times that the bar comes its rhythm is for: each, where none is chosen. */
const EACH = 'each';
const onTime = ref<TimeRound | typeof EACH>(EACH);
watch(
  () => [place.value.section, place.value.line, place.value.bar].join('/'),
  () => {
    const { timed = [] } = props.bar.content.rules ?? {};
    onTime.value = timed.some(({ time }) => time === props.bar.time) ? props.bar.time : EACH;
  },
  { immediate: true },
);
const target = computed<RhythmTarget>(() => ({
  of: 'bar',
  ...place.value,
  ...(onTime.value !== EACH && { time: onTime.value }),
}));
const times = computed(() => [
  { label: `each of the ${props.bar.times} times`, value: EACH },
  ...Array.from({ length: props.bar.times }, (_, at) => ({
    label: `${timeWords(at + 1)} alone`,
    value: at + 1,
  })),
]);
/** The bar is looked at as it goes at that time. */
function chooseTime(time: TimeRound | typeof EACH): void {
  onTime.value = time;
  const { section, line, bar } = place.value;
  const there = player.bars.find(
    (one) => one.section === section && one.line === line && one.bar === bar && one.time === time,
  );
  if (there) player.selectedBar = there.index;
}
/** What the bar plays now, where a strum of its own begins. */
const now = computed(() => {
  const own = patternOf(props.song, target.value);
  const [part] = parts.value;
  return own ?? (part ? barRhythm(part, props.bar) : props.song.pattern);
});
const symbol = computed(() => {
  const changes = player.changes.filter(({ tick }) => tick < props.bar.tick + props.bar.ticks);
  const held = changes.at(-1)?.symbol;
  return held !== undefined && !isNoChord(held) ? held : null;
});
function lay(targets: RhythmTarget[]): void {
  songs.run(rhythmCommands.layRhythm(targets, now.value));
}
const strings = computed(() => props.song.instrument.strings.length);
const parts = computed(() => player.parts[props.bar.index] ?? []);
const drawn = computed(() => {
  if (parts.value.length === 0) return null;
  const { pattern, phase } = barPatterns([parts.value])[0]!;
  const strikes = (player.performance?.strikes ?? []).filter(({ bar }) => bar === props.bar.index);
  const played = asPlayed(pattern, strikes, props.bar, strings.value, player.performance?.leftOut);
  return { phase, pattern: played, reach: struckStrings(played, strikes, props.bar.tick) };
});
const why = computed(() => whyDifferent(props.bar, parts.value));
const rules = computed<BarRules>(() => props.bar.content.rules ?? {});
const notes = computed(() => rules.value.tune?.notes.length ?? 0);

function set(changed: Partial<BarRules>): void {
  songs.run(rhythmCommands.setBarRules(place.value, changed));
}

const { cursor, isPlain, touch, pressKey } = useBarStrokes(
  now,
  () => drawn.value?.pattern ?? null,
  (said) => songs.run(rhythmCommands.sayRhythm(target.value, said)),
);
watch(
  () => props.bar.index,
  () => (cursor.value = null),
);

const shared = computed(() => props.bar.content.chords.filter(({ at }) => at > 0).length > 0);
/** What each rule would make of this bar, to be seen before one is chosen. */
const previews = computed(() =>
  shared.value && !rules.value.pattern
    ? SPLIT_LABELS.map(({ value, label }) => {
        const tried = withBar(props.song, place.value, (bar) => withRules(bar, { split: value }));
        const bars = player.bars.map((bar) =>
          bar.index === props.bar.index
            ? { ...bar, content: { ...bar.content, rules: { ...bar.content.rules, split: value } } }
            : bar,
        );
        const row = rhythms(tried, bars)[props.bar.index]!;
        return { value, label, ...barPatterns([row])[0]! };
      })
    : [],
);
const splitNow = computed(
  () =>
    rules.value.split ??
    props.song.sections[props.bar.section]?.rules?.split ??
    props.song.split ??
    'roll',
);

const plantFlag = usePlantFlag();

const AS_SONG = 'song';
/** The meter of this bar alone, or how many of its last beats are a pick-up. */
const lengths = computed(() => [
  { label: `${meterName(props.song.meter)}, as the song`, value: AS_SONG },
  ...METER_NAMES.filter((name) => !sameMeter(METERS[name], props.song.meter)).map((name) => ({
    label: name,
    value: name as string,
  })),
  ...Array.from({ length: props.song.meter.beats - 1 }, (_, index) => ({
    label: `pick-up of ${index + 1}`,
    value: `pickup ${index + 1}`,
  })),
]);
const length = computed({
  get: () => {
    const { meter, pickup } = props.bar.content;
    if (pickup !== undefined) return `pickup ${pickup}`;
    return meter ? meterName(meter) : AS_SONG;
  },
  set: (value: string) => {
    const beats = Number(/^pickup (\d+)$/.exec(value)?.[1]);
    songs.run(
      beats > 0
        ? barCommands.setPickup(place.value, beats)
        : barCommands.setBarMeter(place.value, meterByName(value)),
    );
  },
});
const counts = computed(() => {
  if (!drawn.value) return undefined;
  const number = barNumbers(player.bars, player.changes)[props.bar.index] ?? 1;
  return barCount(props.bar, drawn.value.pattern, number, view.counting);
});

const NO_STOP = -1;
const stops = computed(() => {
  const { meter, lead, ticks } = props.bar;
  const beat = beatTicks(meter);
  const places = Array.from({ length: ticks / beat }, (_, index) => ({
    label: `on ${countNumber(meter, index + lead / beat)}`,
    held: `All stop on ${countNumber(meter, index + lead / beat)} and hold`,
    value: index * beat,
  }));
  return [{ label: 'none', held: '', value: NO_STOP }, ...places];
});

/** What can be set at the places of the bar: where all stop, where a chord is held, how the bar is shared. */
const marks = computed<BarMark[]>(() => {
  const { ticks } = props.bar;
  const { stop, skipFirst } = rules.value;
  const first: BarMark = {
    id: 'first',
    tick: 0,
    label: 'Leave out the first stroke',
    sign: '×',
    on: skipFirst === true,
  };
  const atBeats = stops.value
    .filter(({ value }) => value !== NO_STOP && value > 0 && value < ticks)
    .map(({ held, value }): BarMark => {
      const id = `stop ${value}`;
      return {
        id,
        tick: value,
        label: held,
        sign: '■',
        on: stop === value,
      };
    });
  const held = rows.value.map(({ landing, where }): BarMark => {
    const tick = Math.max(0, landing.tick - props.bar.tick);
    const { symbol, placement } = landing;
    return {
      id: `hold ${landing.tick}`,
      tick: tick + beatTicks(props.bar.meter) / 4,
      label: `Strike ${symbol} on ${where} once and hold it`,
      sign: '◡',
      on: placement.fermata === true,
    };
  });
  return [first, ...atBeats, ...held];
});
function setMark(id: string): void {
  const [what, at] = id.split(' ');
  if (what === 'first') set({ skipFirst: rules.value.skipFirst ? undefined : true });
  if (what === 'stop') set({ stop: rules.value.stop === Number(at) ? undefined : Number(at) });
  if (what !== 'hold') return;
  const row = rows.value.find(({ landing }) => landing.tick === Number(at));
  if (!row) return;
  const { placement } = row.landing;
  songs.run(barCommands.setFermata(place.value, placement.at, !placement.fermata));
}

interface Row {
  landing: Landing;
  before: Landing | null;
  nextTick: number;
  where: string;
  lost: string | null;
}
const rows = computed<Row[]>(() => {
  const changes = player.changes;
  const { meter, lead } = props.bar;
  const beat = beatTicks(meter);
  return changes.flatMap((landing, index) => {
    if (!props.bar.content.chords.includes(landing.placement)) return [];
    if (landing.tick + landing.push < props.bar.tick) return [];
    if (landing.tick + landing.push >= props.bar.tick + props.bar.ticks) return [];
    const into = (landing.placement.at + lead) / beat;
    const number = countNumber(meter, Math.floor(into));
    const early = landing.push
      ? `, early by ${landing.push === 480 ? 'an eighth' : 'a sixteenth'}`
      : '';
    const where = `${Number.isInteger(into) ? number : `the & of ${number}`}${early}`;
    const lost = player.performance?.lostRuns.find(({ tick }) => tick === landing.tick);
    return [
      {
        landing,
        before: changes[index - 1] ?? null,
        nextTick: changes[index + 1]?.tick ?? songTicks(player.bars),
        where,
        lost: lost?.message ?? null,
      },
    ];
  });
});
</script>

<template>
  <section class="panel" aria-label="The chosen bar">
    <div class="side">
      <h2>
        Bar {{ bar.index + 1 }}<span v-if="why" class="why">{{ why.replace(/^bar \d+/, '') }}</span>
      </h2>
      <div
        v-if="drawn"
        class="strokes"
        role="group"
        tabindex="0"
        :aria-label="`Strokes of bar ${bar.index + 1}`"
        :aria-activedescendant="cursor === null || !isPlain ? undefined : `slot-${cursor}`"
        @keydown="pressKey"
        @focus.self="cursor ??= 0"
      >
        <WristPath
          :pattern="drawn.pattern"
          :phase="drawn.phase"
          :reach="drawn.reach"
          :strings="strings"
          :flags="flags"
          :counts="counts"
          :heard="heard"
          :flipped="view.bassAtBottom"
          size="middle"
          :width="620"
          plantable
          :editable="isPlain"
          :cursor="isPlain ? cursor : null"
          @plant="(from, to) => plantFlag(bar, from, to)"
          @touch="touch"
        >
          <template #default="{ left }">
            <BarMarks :marks="marks" :left="left" @set="setMark" />
          </template>
        </WristPath>
      </div>
      <SayLine
        :key="`${bar.index} ${onTime}`"
        :pattern="now"
        :strings="strings"
        :flipped="view.bassAtBottom"
        :counting="view.counting"
        :label="`Say bar ${bar.index + 1}`"
        @said="(said, goesOn) => songs.run(rhythmCommands.sayRhythm(target, said), goesOn)"
      />
      <FormRow label="Strum">
        <RhythmPicker :target="target" :owner="`bar ${bar.index + 1}`" :now="now" />
      </FormRow>
      <FormRow v-if="bar.times > 1" label="Use it for">
        <ChooseOne
          :model-value="onTime"
          :options="times"
          aria-label="Which time the strum is for"
          @update:model-value="chooseTime"
        />
      </FormRow>
      <FormRow label="Copy it to">
        <div class="row" role="group" aria-label="The same strum elsewhere">
          <Button
            v-if="symbol"
            size="small"
            outlined
            :label="`every ${symbol}`"
            :aria-label="`on every ${symbol}`"
            @click="lay([{ of: 'chord', symbol }])"
          />
          <Button
            size="small"
            outlined
            label="every 2nd bar"
            aria-label="on every second bar"
            @click="lay(everySecondBar(song, place))"
          />
          <Button
            size="small"
            outlined
            label="the section"
            aria-label="on the whole section"
            @click="lay([{ of: 'section', section: place.section }])"
          />
        </div>
      </FormRow>
      <FormRow label="Meter">
        <ChooseOne v-model="length" :options="lengths" aria-label="Meter of this bar" />
      </FormRow>
      <FormMore
        about="stop, first stroke"
        :open="rules.skipFirst === true || rules.stop !== undefined"
      >
        <FormRow label="Stop">
          <ChooseOne
            :model-value="rules.stop ?? NO_STOP"
            :options="stops"
            aria-label="Stop in this bar"
            @update:model-value="(at: number) => set({ stop: at === NO_STOP ? undefined : at })"
          />
        </FormRow>
        <FormRow v-slot="{ labelId }" label="First stroke left out">
          <ToggleSwitch
            :model-value="rules.skipFirst === true"
            :aria-labelledby="labelId"
            @update:model-value="(on: boolean) => set({ skipFirst: on ? true : undefined })"
          />
        </FormRow>
      </FormMore>
      <div
        v-if="previews.length > 0"
        class="previews"
        role="group"
        aria-label="The chords share this bar"
      >
        <button
          v-for="preview in previews"
          :key="preview.value"
          type="button"
          :aria-pressed="preview.value === splitNow"
          :class="{ chosen: preview.value === splitNow }"
          @click="set({ split: preview.value })"
        >
          {{ preview.label }}
          <WristPath
            :pattern="preview.pattern"
            :phase="preview.phase"
            :strings="strings"
            :flipped="view.bassAtBottom"
            size="small"
          />
        </button>
      </div>
    </div>
    <div class="side">
      <ul class="landings" aria-label="Chords of this bar">
        <LandingRow
          v-for="row in rows"
          :key="row.landing.tick"
          :song="song"
          :place="place"
          :landing="row.landing"
          :before="row.before"
          :next-tick="row.nextTick"
          :beat="beatTicks(bar.meter)"
          :where="row.where"
          :pattern="parts[0]?.pattern ?? song.pattern"
          :lost="row.lost"
        />
      </ul>
      <Button
        class="notes"
        size="small"
        text
        :label="notes ? `${plural(notes, 'note')} in this bar` : 'Notes in this bar'"
        @click="emit('notes')"
      />
      <p v-if="rows.length === 0" class="quiet">No chord lands here: the one before is held.</p>
    </div>
  </section>
</template>

<style scoped>
.notes {
  justify-self: start;
}

.panel {
  display: grid;
  gap: 0.8rem 2rem;
  grid-template-columns: repeat(auto-fit, minmax(min(28rem, 100%), 1fr));
}

.side {
  display: grid;
  gap: 0.6rem;
  align-content: start;
  grid-template-columns: minmax(0, 1fr);
}

.why {
  font-family: var(--text);
  font-size: 1rem;
  font-weight: 400;
  color: var(--ink-soft);
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem 0.6rem;
}

.previews {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(8.5rem, 1fr));
  gap: 0.4rem;
}

.previews button {
  border: 0;
  background: none;
  color: inherit;
  padding: 0.3rem 0.5rem;
  text-align: left;
  cursor: pointer;
  border-radius: var(--radius);
  border-bottom: 3px solid transparent;
}

.previews button:hover {
  background: var(--paper-raised);
}

.previews .chosen {
  background: var(--paper-raised);
  border-bottom-color: var(--spruce);
  font-weight: 600;
}

.landings {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.8rem;
}
</style>
