<script setup lang="ts">
import type { ChartConfiguration, PointStyle } from 'chart.js';
import { computed, ref } from 'vue';
import type { LogSummary } from '#core/schema';
import {
  changeSeries,
  cleanSeries,
  type DaySeries,
  describeChangeTimes,
  describeClean,
  describeMinutes,
  describeSlots,
  describeVerdicts,
  troubleWord,
  weeksOf,
} from '#core/log';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import { useChart } from '../../theme/chart';
import type { Colours } from '../../theme/colours';

/** One chart at a time, with the sentence that it shows, and the same as a table for who cannot see it. */
const props = defineProps<{ summary: LogSummary; song: string | null }>();

type Kind = 'clean' | 'slots' | 'changes' | 'minutes' | 'verdicts';
const kind = ref<Kind>('minutes');
const kinds = computed<{ label: string; value: Kind }[]>(() => [
  { label: 'Minutes', value: 'minutes' },
  { label: 'Clean tempo', value: 'clean' },
  { label: 'Lateness', value: 'slots' },
  { label: 'Changes', value: 'changes' },
  { label: 'Verdicts', value: 'verdicts' },
]);

const MAX_LINES = 5;
const clean = computed(() => cleanSeries(props.summary.clean).slice(0, MAX_LINES));
const changes = computed(() => changeSeries(props.summary.changes).slice(0, MAX_LINES));
const weeks = computed(() => weeksOf(props.summary.days));
const goal = computed(
  () => props.summary.songs.find(({ songId }) => songId === props.song)?.goal ?? null,
);
const sentence = computed(() => {
  switch (kind.value) {
    case 'clean':
      return props.song === null
        ? 'Choose one song above to see how its clean tempo went.'
        : describeClean(clean.value, goal.value);
    case 'slots':
      return props.song === null
        ? 'Choose one song above to see how late each of its strokes comes.'
        : describeSlots(props.summary.slots);
    case 'changes':
      return describeChangeTimes(changes.value);
    case 'minutes':
      return describeMinutes(props.summary.days);
    default:
      return describeVerdicts(props.summary.verdicts);
  }
});

const DAY = 86_400_000;
const short = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' });
const POINTS: PointStyle[] = ['circle', 'rectRot', 'triangle', 'rect', 'star'];
const DASHES = [[], [6, 4], [2, 3], [8, 3, 2, 3], [1, 4]];

/** Lines over days, told apart by their points and dashes before their colours. */
function lines(
  series: DaySeries[],
  colours: Colours,
  unit: string,
  aim: number | null,
): ChartConfiguration {
  const { ink, inkSoft, brass, coral, arm } = colours;
  const strokes = [ink, brass, arm, coral, inkSoft];
  const all = series.flatMap(({ points }) => points.map(({ day }) => Date.parse(day) / DAY));
  const [from, to] = all.length > 0 ? [Math.min(...all), Math.max(...all)] : [0, 0];
  return {
    type: 'line',
    data: {
      datasets: [
        ...series.map(({ name, points }, index) => ({
          label: name,
          data: points.map(({ day, value }) => ({ x: Date.parse(day) / DAY, y: value })),
          borderColor: strokes[index % strokes.length]!,
          backgroundColor: strokes[index % strokes.length]!,
          borderDash: DASHES[index % DASHES.length]!,
          pointStyle: POINTS[index % POINTS.length]!,
          pointRadius: 5,
          borderWidth: 2,
        })),
        ...(aim === null || series.length === 0
          ? []
          : [
              {
                label: 'goal',
                data: [
                  { x: from, y: aim },
                  { x: Math.max(to, from + 1), y: aim },
                ],
                borderColor: brass,
                borderDash: [2, 4],
                borderWidth: 2,
                pointRadius: 0,
              },
            ]),
      ],
    },
    options: {
      scales: {
        x: {
          type: 'linear',
          min: from - 1,
          max: to + 1,
          grid: { display: false },
          ticks: {
            color: inkSoft,
            maxTicksLimit: 7,
            precision: 0,
            callback: (value) => short.format(new Date(Number(value) * DAY)),
          },
        },
        y: {
          grid: { display: false },
          ticks: { color: inkSoft, maxTicksLimit: 5 },
          title: { display: true, text: unit, color: inkSoft },
        },
      },
    },
  };
}

function bars(
  labels: string[],
  values: number[],
  colours: Colours,
  across: boolean,
): ChartConfiguration {
  const { brass, inkSoft } = colours;
  const plain = { grid: { display: false }, ticks: { color: inkSoft } };
  return {
    type: 'bar',
    data: {
      labels,
      datasets: [{ data: values, backgroundColor: brass, maxBarThickness: 34, borderRadius: 3 }],
    },
    options: {
      indexAxis: across ? 'y' : 'x',
      scales: { x: { ...plain, beginAtZero: true }, y: { ...plain, beginAtZero: true } },
    },
  };
}

/** Two bars for each slot: a month ago, and now. */
function beside(slots: LogSummary['slots'], { brass, ink, inkSoft }: Colours): ChartConfiguration {
  const plain = { grid: { display: false }, ticks: { color: inkSoft } };
  return {
    type: 'bar',
    data: {
      labels: slots.map(({ place }) => place),
      datasets: [
        {
          label: 'a month ago',
          data: slots.map(({ before }) => before),
          backgroundColor: 'transparent',
          borderColor: ink,
          borderWidth: 2,
          maxBarThickness: 18,
        },
        {
          label: 'now',
          data: slots.map(({ now }) => now),
          backgroundColor: brass,
          maxBarThickness: 18,
        },
      ],
    },
    options: {
      scales: {
        x: plain,
        y: { ...plain, title: { display: true, text: 'ms late', color: inkSoft } },
      },
    },
  };
}

function configuration(colours: Colours): ChartConfiguration {
  switch (kind.value) {
    case 'clean':
      return lines(clean.value, colours, 'clean tempo', goal.value);
    case 'slots':
      return beside(props.summary.slots, colours);
    case 'changes':
      return lines(changes.value, colours, 'milliseconds', null);
    case 'minutes':
      return bars(
        weeks.value.map(({ week }) => short.format(new Date(week))),
        weeks.value.map(({ minutes }) => minutes),
        colours,
        false,
      );
    case 'verdicts':
      return bars(
        props.summary.verdicts.map(({ trouble }) => troubleWord(trouble)),
        props.summary.verdicts.map(({ count }) => count),
        colours,
        true,
      );
  }
}
const canvas = ref<HTMLCanvasElement>();
useChart(canvas, configuration, [() => props.summary, kind]);

/** What the chart draws, row by row. */
const table = computed<[string, string][]>(() => {
  const rows = (series: DaySeries[]) =>
    series.flatMap(({ name, points }) =>
      points.map(({ day, value }): [string, string] => [`${name}, ${day}`, String(value)]),
    );
  switch (kind.value) {
    case 'clean':
      return rows(clean.value);
    case 'changes':
      return rows(changes.value);
    case 'slots':
      return props.summary.slots.map(({ place, now, before }) => [
        place,
        `${before ?? 'not heard'} a month ago, ${now ?? 'not heard'} now`,
      ]);
    case 'minutes':
      return weeks.value.map(({ week, minutes }) => [`week of ${week}`, `${minutes} minutes`]);
    default:
      return props.summary.verdicts.map(({ trouble, count }) => [
        troubleWord(trouble),
        String(count),
      ]);
  }
});
const legend = computed(() => {
  if (kind.value === 'clean') return clean.value.map(({ name }) => name);
  if (kind.value === 'slots' && props.summary.slots.length > 0) return ['a month ago', 'now'];
  return kind.value === 'changes' ? changes.value.map(({ name }) => name) : [];
});
const SIGNS = ['●', '◆', '▲', '■', '✱'];
const sign = (index: number) => (kind.value === 'slots' ? ['☐', '■'] : SIGNS)[index];
</script>

<template>
  <figure>
    <ChooseBeside v-model="kind" :options="kinds" aria-label="Chart" size="small" />
    <figcaption>{{ sentence }}</figcaption>
    <ul v-if="legend.length > 1" class="legend" aria-hidden="true">
      <li v-for="(name, index) in legend" :key="name">{{ sign(index) }} {{ name }}</li>
    </ul>
    <div v-show="table.length > 0" class="box" aria-hidden="true"><canvas ref="canvas" /></div>
    <table class="heard-only">
      <caption>
        {{
          sentence
        }}
      </caption>
      <tbody>
        <tr v-for="[name, value] in table" :key="name">
          <th scope="row">{{ name }}</th>
          <td>{{ value }}</td>
        </tr>
      </tbody>
    </table>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  display: grid;
  gap: 0.4rem;
  justify-items: start;
}

figcaption {
  font-weight: 650;
}

.legend {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 1.2rem;
  color: var(--ink-soft);
}

.box {
  position: relative;
  width: 100%;
  height: 13rem;
}
</style>
