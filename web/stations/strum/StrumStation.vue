<script setup lang="ts">
import { refDebounced } from '@vueuse/core';
import Button from 'primevue/button';
import Select from 'primevue/select';
import ToggleButton from 'primevue/togglebutton';
import { computed, onMounted, useTemplateRef } from 'vue';
import { announce } from '../../frame/announce';
import { plural } from '#core/plain';
import type { Accent, Song, Stroke } from '#core/schema';
import { swungTick } from '#core/time';
import { armPasses, slots, slotSentences, sounds, spokenWord } from '#core/stroke';
import {
  applyFix,
  type ArmFinding,
  armReport,
  buildSpan,
  changeSpan,
  clearBuilds,
  setIntended,
} from '#core/pattern';
import { commands, rhythmTargets } from '#core/edit';
import { previewPattern } from '#core/arrange';
import { useFrettedStore } from '../../stores/fretted';
import { useIncomingStore } from '../../stores/incoming';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import { useViewStore } from '../../stores/view';
import ChordCard from '../../chords/ChordCard.vue';
import ArmPanel from './ArmPanel.vue';
import FindingList from './FindingList.vue';
import GridBar from './GridBar.vue';
import PatternPath from './PatternPath.vue';
import PatternShelf from './PatternShelf.vue';
import SayLine from '../../fields/SayLine.vue';
import StrokePanel from './StrokePanel.vue';
import StrokeTools from './StrokeTools.vue';
import TapPanel from './TapPanel.vue';
import VariationPanel from './VariationPanel.vue';
import { usePatternEditor } from './patternEditor';
import { KEY_CARD } from '../../path/patternKeys';
import { gridLine } from './gridLine';
import StationFrame from '../../frame/StationFrame.vue';
import { useOpenTool } from '../../frame/openTool';
import { useTurn } from './turnView';

/** Milliseconds after the last key. */
const PANEL_AFTER = 90;

const songs = useSongStore();
const player = usePlayerStore();
const heldChords = useFrettedStore();
const view = useViewStore();
const song = computed<Song>(() => songs.song!);
const pattern = computed(() => songs.rhythm!);
const strings = computed(() => song.value.instrument.strings.length);
const report = computed(() => armReport(pattern.value, song.value.tempo, view.armLimit));

/** Whose rhythm is built here: the song's, or one that a section, a chord or a bar has of its own. */
const targets = computed(() => rhythmTargets(song.value));
const whose = computed({
  get: () => {
    const now = JSON.stringify(songs.target);
    return (targets.value.find(({ target }) => JSON.stringify(target) === now) ?? targets.value[0]!)
      .label;
  },
  set: (label: string) => {
    songs.target = targets.value.find((candidate) => candidate.label === label)!.target;
  },
});

const editor = usePatternEditor(pattern);
const { cursor, here, selected, span } = editor;
const { flags, chords, reach, silent, heard, liveChord, shown, bar: shownBar } = useTurn(pattern);
const firstChord = computed(() => chords.value[0] ?? null);

const speaking = computed(() => report.value.findings.filter(({ quiet }) => !quiet));
const marked = computed(() => speaking.value.flatMap((finding) => finding.slots));

/** What the panel below tells about; it follows a moment later, so that the path comes first. */
const looked = refDebounced(
  computed(() => ({
    stroke: here.value.stroke,
    place: slotSentences(pattern.value)[cursor.value] ?? '',
    count: span.value.to - span.value.from,
  })),
  PANEL_AFTER,
);

/** What the pattern stands on, in one line. */
const settings = computed(() => {
  const line = gridLine(pattern.value, view.counting);
  return songs.target.of === 'song' ? line : `strum of ${whose.value} · ${line}`;
});

const answer = computed(() => {
  // Where a shuffling arm waits it does not swing.
  const waits = armPasses(pattern.value).filter(({ rests }) => rests).length;
  const all = editor.grid.value.length - waits;
  const sounding = editor.grid.value.filter(({ stroke }) => sounds(stroke)).length;
  const { rate, busiest } = report.value;
  const at = `at ${song.value.tempo}`;
  const against = speaking.value.filter(({ kind }) => kind === 'against').length;
  if (against > 0) {
    const strokes = plural(against, 'stroke goes', 'strokes go');
    return `${strokes} against the arm: up to ${busiest.toFixed(1)} moves a second ${at}.`;
  }
  const others = speaking.value.length;
  const wants = others > 0 ? ` ${plural(others, 'tip')} for your arm.` : '';
  const legato = editor.grid.value.filter(({ stroke }) => stroke.kind === 'legato').length;
  const fretting = legato > 0 ? `, ${legato} of them by the fretting hand` : '';
  return `${plural(sounding, 'stroke')} in ${plural(all, 'arm move')}${fretting}; ${rate.toFixed(1)} moves a second ${at}.${wants}`;
});

/** A stroke that is placed is told by ear, before the place that the cursor goes on to. */
function onKey(event: KeyboardEvent): void {
  const [place, before] = [cursor.value, pattern.value];
  if (!editor.press(event)) return;
  event.preventDefault();
  const now = slotSentences(pattern.value)[place];
  if (pattern.value !== before && now) announce(`${now}.`);
}

const path = useTemplateRef<HTMLElement>('path');
function focusPath(): void {
  path.value?.querySelector<HTMLElement>('[role=listbox]')?.focus();
}

// A song that was just made is strummed at once: the first key is the first stroke.
const incoming = useIncomingStore();
onMounted(() => {
  if (incoming.justMade) focusPath();
  incoming.justMade = false;
});

function show({ slots: [slot] }: ArmFinding): void {
  editor.moveTo(slot!);
  focusPath();
}

function fix({ fix: how }: ArmFinding): void {
  if (how.does === 'tempo') songs.run(commands.setTempo(how.tempo));
  else editor.edit(how.label.toLowerCase(), applyFix(pattern.value, how));
}

function mean({ kind }: ArmFinding, meant: boolean): void {
  editor.edit(meant ? 'mean it so' : 'listen again', setIntended(pattern.value, kind, meant));
}

function change(name: string, how: (stroke: Stroke) => Stroke): void {
  editor.edit(name, changeSpan(pattern.value, span.value, how));
}

function build(from: Accent, to: Accent): void {
  editor.edit('build', buildSpan(pattern.value, span.value, from, to));
}

function step(by: number): void {
  const last = player.bars.length - 1;
  player.selectedBar = Math.min(last, Math.max(0, player.selectedBar + by));
}

const TOOLS = ['stroke', 'vary', 'tap', 'shelf', 'arm', 'chords'] as const;
type Panel = (typeof TOOLS)[number];
const panel = useOpenTool<Panel>(() => TOOLS);
const panels: { label: string; value: Panel }[] = [
  { label: 'Stroke', value: 'stroke' },
  { label: 'Variations', value: 'vary' },
  { label: 'Tap it in', value: 'tap' },
  { label: 'Patterns', value: 'shelf' },
  { label: 'Arm', value: 'arm' },
  { label: 'Chords', value: 'chords' },
];

/** Reads the words of the strokes aloud in time. */
function readAloud(): void {
  const words = slots(pattern.value).flatMap(({ tick, stroke }) => {
    const said = spokenWord(stroke);
    const late = swungTick(tick, pattern.value.feel, pattern.value.meter) - tick;
    return said ? [{ ...said, tick, late }] : [];
  });
  const silent = { ...previewPattern(song.value, pattern.value, null), strikes: [] };
  void player.audition(silent, { click: true, words });
}
</script>

<template>
  <StationFrame
    v-model:tool="panel"
    :answer="answer"
    :settings="settings"
    :tools="panels"
    work="Strokes"
  >
    <template #beside>
      <div v-if="player.bar" class="bar-choice">
        <Button
          icon="pi pi-chevron-left"
          text
          rounded
          aria-label="Bar before"
          :disabled="player.playing || player.selectedBar === 0"
          @click="step(-1)"
        />
        <span>{{ shownBar === null ? 'not played here' : `on bar ${shownBar + 1}` }}</span>
        <Button
          icon="pi pi-chevron-right"
          text
          rounded
          aria-label="Next bar"
          :disabled="player.playing || player.selectedBar >= player.bars.length - 1"
          @click="step(1)"
        />
      </div>
    </template>

    <template #settings>
      <p v-if="targets.length > 1" class="whose">
        <span id="whose-label" class="label">Strum of</span>
        <Select
          v-model="whose"
          :options="targets"
          option-label="label"
          option-value="label"
          aria-labelledby="whose-label"
        />
      </p>
      <GridBar :pattern="pattern" />
      <ToggleButton
        v-model="view.bassAtBottom"
        size="small"
        on-label="Bass string at the bottom"
        off-label="Bass string on top"
        aria-label="Bass string at the bottom"
      />
      <ToggleButton
        v-model="view.leftHanded"
        size="small"
        on-label="Left-handed"
        off-label="Left-handed"
        aria-label="Draw for the left-handed"
      />
    </template>

    <div ref="path" @keydown="onKey">
      <PatternPath
        :pattern="shown"
        :strings="strings"
        :flags="flags"
        :reach="reach"
        :cursor="cursor"
        :selected="selected"
        :marked="marked"
        :heard="heard"
        @select="editor.select"
        @touch="editor.touch"
      />
    </div>

    <FindingList :findings="report.findings" @show="show" @fix="fix" @mean="mean" />

    <ul v-if="silent.length > 0" class="silent" role="status" aria-label="The fretting hand">
      <li v-for="message in silent.slice(0, 2)" :key="message">{{ message }}</li>
    </ul>

    <SayLine
      class="say"
      :pattern="pattern"
      :strings="song.instrument.strings.length"
      :flipped="view.bassAtBottom"
      :counting="view.counting"
      @said="(said, goesOn) => songs.runOnRhythm(commands.sayPattern(said), goesOn)"
    >
      <Button
        icon="pi pi-volume-up"
        text
        rounded
        aria-label="Read it aloud in time"
        title="Read it aloud in time"
        @click="readAloud"
      />
    </SayLine>

    <div class="entry">
      <StrokeTools
        :beat="here.beat"
        :division="pattern.beats[here.beat]!.division"
        @press="editor.press({ key: $event })"
      />
      <ul class="keys" aria-label="Keys on the path">
        <li v-for="entry in KEY_CARD" :key="entry.does">
          <kbd v-for="key in entry.keys" :key="key">{{ key }}</kbd> {{ entry.does }}
        </li>
      </ul>
    </div>

    <template #tool>
      <StrokePanel
        v-if="panel === 'stroke'"
        :stroke="looked.stroke"
        :place="looked.place"
        :instrument="song.instrument"
        :count="looked.count"
        @change="change"
        @build="build"
        @unbuild="editor.edit('even out', clearBuilds(pattern, span))"
      />
      <VariationPanel
        v-else-if="panel === 'vary'"
        :pattern="pattern"
        :strings="strings"
        :chord="firstChord"
      />
      <TapPanel
        v-else-if="panel === 'tap'"
        :pattern="pattern"
        :strings="strings"
        :chord="firstChord"
      />
      <PatternShelf
        v-else-if="panel === 'shelf'"
        :pattern="pattern"
        :strings="strings"
        :chord="firstChord"
        :tempo="song.tempo"
        @used="focusPath"
      />
      <ArmPanel
        v-else-if="panel === 'arm'"
        :report="report"
        :pattern="pattern"
        :tempo="song.tempo"
      />
      <div v-else class="chords" aria-label="Chords of this time round">
        <ChordCard
          v-for="symbol in chords"
          :key="symbol"
          :symbol="symbol"
          :held="heldChords.of(symbol)"
          :sounding="heldChords.soundsAs(symbol)"
          :instrument="song.instrument"
          :capo="song.capo"
          :alternates="song.ownAlternates"
          :live="symbol === liveChord"
          small
        />
        <p v-if="chords.length === 0" class="quiet">
          No chord here yet: write the progression on the Song station.
        </p>
      </div>
    </template>
  </StationFrame>
</template>

<style scoped>
.whose {
  display: flex;
  align-items: center;
  gap: 0.5rem;
}

.bar-choice {
  display: flex;
  align-items: center;
  white-space: nowrap;
}

.entry {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem 1.4rem;
}

.keys {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 0.9rem;
  font-size: 0.85rem;
}

.chords {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr));
  gap: 0.8rem;
  align-content: start;
}

@media (max-width: 40rem) {
  .keys {
    display: none;
  }

  /* The strokes are in reach of the thumb; the line comes after them. */
  .say {
    order: 1;
  }
}
</style>
