<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import {
  type Arrangement,
  asPlayed,
  type Bar,
  barLength,
  barNumbers,
  type BarPattern,
  barPatterns,
  type BarSpan,
  countNumber,
  hasWords,
  isInSpan,
  isPlayedOtherwise,
  type Landing,
  type Line,
  type PlayedBar,
  slots,
  type Strike,
  type SungPiece,
  sungWords,
  whyDifferent,
} from '#core';
import { flagsWithin } from './flags';
import BarPath from './BarPath.vue';
import type { Flag } from './PathFlags.vue';

/** The bars of a song as they are written, section by section and line by line. */
const props = withDefaults(
  defineProps<{
    /** The song as it is played. */
    arranged: Arrangement;
    /** The bar that was chosen, as it is played, and the bars chosen with it, as they are written. */
    selected?: PlayedBar | null;
    span?: BarSpan | null;
    /** The arranged strikes, to show runs and open strokes where they are played. */
    strikes?: Strike[];
    /** Ticks of strokes that are left out while the hand travels. */
    leftOut?: number[];
    /** The bar that sounds, and how far into it we are, in ticks. */
    live?: { bar: PlayedBar; tick: number } | null;
    /** Letters of the rhythms of the bars, as they are played; none where all are alike. */
    marks?: string[];
    /** How many bars stand in a row; lines of text go on in one row where it is more than four. */
    inRow?: number;
    /** Flags may be taken to another slot. */
    plantable?: boolean;
  }>(),
  {
    selected: null,
    span: null,
    strikes: () => [],
    leftOut: () => [],
    live: null,
    marks: () => [],
    inRow: 4,
  },
);
const emit = defineEmits<{
  choose: [bar: PlayedBar, extend: boolean];
  /** A flag of a bar was taken from one of its ticks to another. */
  plant: [bar: PlayedBar, from: number, to: number];
}>();

const strings = computed(() => props.arranged.song.instrument.strings.length);
const song = computed(() => props.arranged.song);
const bars = computed(() => props.arranged.bars);

/** A bar of a section that the order leaves out: drawn, but never heard. */
function unplayed(section: number, line: number, bar: number, content: Bar): PlayedBar {
  const length = barLength(content, song.value.meter);
  return { index: -1, passage: -1, section, line, bar, tick: -length.ticks, content, ...length };
}

interface WrittenBar {
  played: PlayedBar;
  flags: Flag[];
  label: string;
  part: BarPattern;
  /** What its rhythm does otherwise, in words; null where it does as the rule says. */
  differs: string | null;
  /** How it is counted where its chord is held: "2 2 3 4"; empty where it is counted from one. */
  counted: string;
  /** What is sung in it the first time that it comes, from its start. */
  words: SungPiece[];
  /** What its line is, on the first bar of it: an ending, so many times. */
  note: string;
}

/** "1st time", "1st and 3rd time, 2 times", "last time"; "1st", "1st 3rd ×2", "last" where it is narrow. */
function noteOf({ only, times }: Line): string {
  const narrow = props.inRow > 4;
  const nth = (time: number) => `${time}${['', 'st', 'nd', 'rd'][time] ?? 'th'}`;
  const round = only === 'last' ? 'last' : only?.map(nth).join(narrow ? ' ' : ' and ');
  const ending = round && (narrow ? round : `${round} time`);
  const often = times > 1 && (narrow ? `×${times}` : `${times} times`);
  return [ending, often].filter(Boolean).join(narrow ? ' ' : ', ');
}

function flagsOf(bar: PlayedBar, changes: Landing[]): Flag[] {
  const written = bar.content.chords.map(({ at, symbol }) => ({ tick: bar.tick + at, symbol }));
  if (bar.index < 0) return flagsWithin(written, bar);
  // A section says what it begins on, though the hand may be there already.
  const [first] = bar.line === 0 && bar.bar === 0 ? bar.content.chords : [];
  const repeated =
    first?.at === 0 && first.push === 0 && !changes.some(({ tick }) => tick === bar.tick);
  return flagsWithin(repeated ? [written[0]!, ...changes] : changes, bar);
}

/** All strikes of the bars that are not played as their pattern alone would have it. */
const special = computed(() => {
  const all = new Map<number, Strike[]>();
  for (const strike of props.strikes) {
    const here = all.get(strike.bar);
    if (here) here.push(strike);
    else all.set(strike.bar, [strike]);
  }
  const found = new Map<number, Strike[]>();
  for (const bar of bars.value) {
    const strikes = all.get(bar.index) ?? [];
    if (isPlayedOtherwise(bar, strikes, props.leftOut)) found.set(bar.index, strikes);
  }
  return found;
});

/** The changes of chord in each bar, by its number: each is looked at once. */
function changesByBar(changes: Landing[]): Landing[][] {
  const by: Landing[][] = bars.value.map(() => []);
  let next = 0;
  for (const bar of bars.value) {
    while (next < changes.length && changes[next]!.tick < bar.tick + bar.ticks) {
      by[bar.index]!.push(changes[next]!);
      next += 1;
    }
  }
  return by;
}

/** Above so many beats only the first number is said. */
const ALL_COUNTS = 6;
function countedAs({ meter, lead, content }: PlayedBar, number: number): string {
  if (number === 1 || lead > 0 || content.unread !== undefined) return '';
  const rest = Array.from({ length: meter.beats - 1 }, (_, beat) => countNumber(meter, beat + 1));
  return meter.beats > ALL_COUNTS ? `${number} …` : [number, ...rest].join(' ');
}

/** What was drawn before, by place: a bar that says the same again is left as it is. */
let drawn = new Map<string, { bar: WrittenBar; says: string }>();

const samePattern = (one: BarPattern, other: BarPattern) =>
  one.phase === other.phase &&
  one.pattern.beats.length === other.pattern.beats.length &&
  one.pattern.meter === other.pattern.meter &&
  one.pattern.builds === other.pattern.builds &&
  one.pattern.beats.every((beat, index) => beat === other.pattern.beats[index]);

const sung = computed(() => (hasWords(song.value) ? sungWords(song.value, bars.value) : []));

/** Each written bar where it is first played. */
const rows = computed(() => {
  const { changes, rhythms: rhythmOf } = props.arranged;
  const here = changesByBar(changes);
  const numbers = barNumbers(bars.value, changes);
  const parts = barPatterns(rhythmOf);
  const first = new Map<string, PlayedBar>();
  for (const bar of bars.value) {
    const key = `${bar.section}/${bar.line}/${bar.bar}`;
    if (!first.has(key)) first.set(key, bar);
  }
  const before = drawn;
  drawn = new Map();
  return song.value.sections.map((section, sectionIndex) => ({
    name: section.name,
    lines: section.lines.map((line, lineIndex) => {
      const note = noteOf(line);
      return line.bars.map((content, index): WrittenBar => {
        const key = `${sectionIndex}/${lineIndex}/${index}`;
        const played = first.get(key) ?? unplayed(sectionIndex, lineIndex, index, content);
        const flags = flagsOf(played, here[played.index] ?? []);
        const chords = flags.map((flag) => flag.symbol).join(', ') || 'chord held';
        const broken = content.unread === undefined ? '' : ', cannot be read yet';
        const plain = parts[played.index] ?? { pattern: song.value.pattern, phase: 0 };
        const arrivals = special.value.get(played.index);
        const part = arrivals
          ? {
              ...plain,
              pattern: asPlayed(plain.pattern, arrivals, played, strings.value, props.leftOut),
            }
          : plain;
        const row = rhythmOf[played.index];
        const why = row ? whyDifferent(played, row) : null;
        const differs = why?.replace(/^bar \d+: /, '') ?? null;
        const fresh: WrittenBar = {
          played,
          flags,
          part,
          differs,
          counted: countedAs(played, numbers[played.index] ?? 1),
          note: index === 0 ? note : '',
          words: (sung.value[played.index] ?? []).map(({ tick, text }) => ({
            tick: tick - played.tick,
            text,
          })),
          label: `${played.index < 0 ? 'Not played' : `Bar ${played.index + 1}`}: ${chords}${broken}${differs ? `; ${differs}` : ''}`,
        };
        const says = JSON.stringify([
          flags,
          fresh.label,
          fresh.counted,
          fresh.note,
          fresh.words,
          played.tick,
        ]);
        const known = before.get(key);
        const same = known?.says === says && samePattern(known.bar.part, part) && !arrivals;
        const bar = same ? known.bar : fresh;
        drawn.set(key, { bar, says });
        return bar;
      });
    }),
  }));
});

const isSame = (a: PlayedBar | null | undefined, b: PlayedBar) =>
  a != null && a.section === b.section && a.line === b.line && a.bar === b.bar;
const isLive = (bar: PlayedBar) => isSame(props.live?.bar, bar);
const isChosen = (bar: PlayedBar) =>
  isSame(props.selected, bar) || (props.span !== null && isInSpan(bar, props.span));

const root = ref<HTMLElement>();
const buttons = () => [...(root.value?.querySelectorAll<HTMLElement>('button.bar') ?? [])];

/** The bars in the order of their buttons: one listener serves them all, so that none is drawn anew. */
const inOrder = computed(() => rows.value.flatMap(({ lines }) => lines.flat()));
function pick(event: MouseEvent): void {
  const button = (event.target as HTMLElement).closest<HTMLElement>('button.bar');
  const bar = button && inOrder.value[buttons().indexOf(button)];
  if (bar) emit('choose', bar.played, event.shiftKey);
}

/** A flag that was let go; the bar is told by where it is written, so that one listener serves them all. */
function planted(place: string, from: number, to: number): void {
  const bar = inOrder.value.find(
    ({ played }) => `${played.section}/${played.line}/${played.bar}` === place,
  );
  if (bar && bar.played.index >= 0) emit('plant', bar.played, from, to);
}

/** The slots of a bar that its flags may stand on, in ticks from its start. */
const slotsOf = (bar: WrittenBar) => slots(bar.part.pattern).map(({ tick }) => tick);
/** `,` and `.` take the last flag of the bar a slot earlier or later. */
function carry(event: KeyboardEvent): void {
  const by = event.key === ',' ? -1 : event.key === '.' ? 1 : 0;
  const bar = inOrder.value[buttons().indexOf(event.target as HTMLElement)];
  const flag = bar?.flags.at(-1);
  if (!by || !props.plantable || !flag || bar!.played.index < 0) return;
  event.preventDefault();
  const places = slotsOf(bar!);
  const to = by > 0 ? places.find((at) => at > flag.tick) : places.findLast((at) => at < flag.tick);
  if (to !== undefined) emit('plant', bar!.played, flag.tick, to);
}

/** The arrow keys go from bar to bar, and up and down between rows; with Shift they choose on. */
function travel(event: KeyboardEvent): void {
  carry(event);
  const all = buttons();
  const at = all.indexOf(event.target as HTMLElement);
  if (at < 0 || event.ctrlKey || event.metaKey || event.altKey) return;
  const target = nextOf(all, at, event.key);
  if (!target) return;
  event.preventDefault();
  const place = all.indexOf(target);
  const bar = inOrder.value[place];
  target.focus();
  const from = inOrder.value[at];
  if (event.shiftKey && from && !isChosen(from.played)) emit('choose', from.played, false);
  if (bar) emit('choose', bar.played, event.shiftKey);
}

function nextOf(all: HTMLElement[], at: number, key: string): HTMLElement | undefined {
  if (key === 'ArrowRight') return all[at + 1];
  if (key === 'ArrowLeft') return all[at - 1];
  if (key === 'Home') return all[0];
  if (key === 'End') return all.at(-1);
  if (key !== 'ArrowUp' && key !== 'ArrowDown') return undefined;
  const box = all[at]!.getBoundingClientRect();
  const middle = box.left + box.width / 2;
  const beyond = all.filter((button) => {
    const { top } = button.getBoundingClientRect();
    return key === 'ArrowUp' ? top < box.top - 4 : top > box.top + 4;
  });
  const nearest = (button: HTMLElement) => {
    const { top, left, width } = button.getBoundingClientRect();
    return Math.abs(top - box.top) * 10 + Math.abs(left + width / 2 - middle);
  };
  return beyond.sort((one, other) => nearest(one) - nearest(other))[0];
}

/** Bars that are made at once: more than any window shows. The others follow when the page has nothing to do. */
const AT_ONCE = 40;
const ready = ref(AT_ONCE);
const starts = computed(() => {
  let before = 0;
  return rows.value.map(({ lines }) =>
    lines.map((line) => {
      before += line.length;
      return before - line.length;
    }),
  );
});
function makeMore(): void {
  if (ready.value >= inOrder.value.length) {
    ready.value = Infinity;
    return;
  }
  ready.value += AT_ONCE;
  requestIdleCallback(makeMore, { timeout: 100 });
}
onMounted(() => requestIdleCallback(makeMore, { timeout: 200 }));

/** One bar takes part in the order of the Tab key: the chosen one, or the first. */
const entry = computed(() => props.selected ?? rows.value[0]?.lines[0]?.[0]?.played ?? null);
</script>

<template>
  <div ref="root" class="rows" :class="{ flowing: inRow > 4 }" @keydown="travel" @click="pick">
    <section v-for="(section, index) in rows" :key="index">
      <slot name="section" :index="index" :title="section.name">
        <h2 v-if="section.name">{{ section.name }}</h2>
      </slot>
      <div class="bars" :style="{ '--in-row': inRow }">
        <template v-for="(line, at) in section.lines" :key="at">
          <BarPath
            v-for="(bar, place) in line.slice(0, Math.max(0, ready - starts[index]![at]!))"
            :key="place"
            :pattern="bar.part.pattern"
            :phase="bar.part.phase"
            :strings="strings"
            :flags="bar.flags"
            :number="bar.played.index + 1"
            :counted="bar.counted"
            :note="bar.note"
            :dense="inRow > 4"
            :differs="bar.differs"
            :label="bar.label"
            :live="isLive(bar.played)"
            :selected="isChosen(bar.played)"
            :heard="isLive(bar.played) ? live!.tick : null"
            :words="bar.words"
            :mark="marks[bar.played.index] ?? ''"
            :place="`${index}/${at}/${place}`"
            :ticks="bar.played.ticks"
            :carries="plantable"
            :tabindex="isSame(entry, bar.played) ? 0 : -1"
            :class="{
              starts: place === 0,
              unread: bar.played.content.unread !== undefined,
              unplayed: bar.played.index < 0,
            }"
            @plant="planted"
          />
        </template>
      </div>
    </section>
  </div>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 0.8rem;
}

.flowing {
  gap: 0.15rem;
}

h2 {
  font-size: 1.05rem;
  margin-bottom: 0.1rem;
}

.bars {
  display: grid;
  grid-template-columns: repeat(var(--in-row), minmax(0, 1fr));
  gap: 0.1rem;
}

.rows:not(.flowing) .starts {
  grid-column-start: 1;
}

.unplayed {
  opacity: 0.5;
}

.unread {
  background: var(--coral-soft);
}
</style>
