import abcjs from 'abcjs';
import { parseChord } from '../neck';
import type { Meter } from '../schema';
import { cleanWord } from '../song';
import { METERS, TICKS_PER_QUARTER } from '../time';
import type { ChartAnswer } from './chart';
import { OWN_FIELD, readOwn } from './own';
import { chartOfBars, type Measure, meterOfBeats, pickupOf, unrolled } from './written';

/** What the reader of the usual package gives, as far as it is asked for here. */
interface AbcItem {
  el_type: string;
  type?: string;
  title?: string;
  value?: { num: string; den?: string }[];
  startEnding?: string;
  endEnding?: boolean;
  chord?: { name: string; position?: string }[];
  decoration?: string[];
  duration?: number;
  rest?: { type: string };
  pitches?: { endTie?: unknown; style?: string }[];
  style?: string;
  startTriplet?: number;
  tripletMultiplier?: number;
  endTriplet?: boolean;
  gracenotes?: unknown[];
  lyric?: { syllable: string; divider: string }[];
}
interface AbcTune {
  metaText?: { title?: string | { text: string }[]; tempo?: { bpm?: number } };
  lines?: {
    staff?: { meter?: { type: string; value?: AbcItem['value'] }; voices?: AbcItem[][] }[];
  }[];
  warnings?: string[];
}

const WHOLE = 4 * TICKS_PER_QUARTER;
/** Comments that hold what is this app's own. */
const OWN_ROWS = new RegExp(`^% ${OWN_FIELD} (.*)$`, 'gm');
const plainOf = (html: string) => html.replaceAll(/<[^>]*>/g, '');

function meterOf(
  value: AbcItem['value'],
  type: string | undefined,
  fail: (what: string) => void,
): Meter | null {
  if (type === 'common_time') return METERS['4/4'];
  if (type === 'cut_time') return meterOfBeats(2, 2);
  const [first] = value ?? [];
  if (!first) return null;
  const known = meterOfBeats(Number(first.num), Number(first.den ?? 4));
  if (!known) fail(`the meter ${first.num}/${first.den ?? 4}`);
  return known;
}

/**
 * The chords, the rhythm and the words of an ABC tune, bar by bar as they are played: repeats and endings are
 * written out. Pitches are not read.
 * @returns what it says; or why it cannot be read
 * @example readAbc('X:1').problem.message // 'This tune names no chords over its bars.'
 */
export function readAbc(text: string): ChartAnswer {
  const fail = (message: string): ChartAnswer => ({ problem: { line: 1, column: 1, message } });
  const [tune] = abcjs.parseOnly(text) as unknown as AbcTune[];
  const left: { line: number; text: string }[] = [];
  const leave = (what: string) => left.push({ line: 1, text: what.slice(0, 60) });
  if (!tune) return fail('There is no tune in this file.');
  const rows = [...text.matchAll(OWN_ROWS)].map(([, row]) => row!);
  const own = readOwn(rows);
  const capo = Number(/^N:\s*capo (\d{1,2})\b/im.exec(text)?.[1] ?? 0);
  const measures: Measure[] = [];
  let meter: Meter = METERS['4/4'];
  let section: string | null = null;
  let ending: number[] | null = null;
  const fresh = (): Measure => ({
    meter,
    chords: [],
    section,
    words: [],
    strokes: [],
    begins: false,
    times: null,
    only: ending,
    endsEnding: false,
  });
  let bar = fresh();
  let at = 0;
  let three = 1;
  const note = (item: AbcItem) => {
    if (item.startTriplet) three = item.tripletMultiplier ?? 2 / 3;
    const tick = Math.round(at);
    for (const { name, position } of item.chord ?? []) {
      if (position && position !== 'default' && position !== 'above') continue;
      const symbol = plainOf(name).trim().replaceAll('♯', '#').replaceAll('♭', 'b');
      if (parseChord(symbol) || symbol === 'N.C.') bar.chords.push({ at: tick, symbol });
      else leave(symbol);
    }
    const tied = item.pitches?.some(({ endTie }) => endTie) ?? false;
    if (item.pitches && !item.rest && !tied) {
      const signs = item.decoration ?? [];
      bar.strokes!.push({
        at: tick,
        dir: signs.includes('downbow') ? 'down' : signs.includes('upbow') ? 'up' : null,
        accent: signs.includes('accent') || signs.includes('emphasis'),
        damped: item.style === 'x' || (item.pitches[0]?.style ?? '') === 'x',
      });
    }
    const [sung] = item.lyric ?? [];
    const word = sung ? cleanWord(sung.syllable) : '';
    if (word !== '') {
      bar.words!.push({
        at: tick,
        text: sung!.divider === '-' && !word.endsWith('-') ? `${word}-` : word,
      });
    }
    at += (item.duration ?? 0) * WHOLE * three;
    if (item.endTriplet) three = 1;
  };
  const barLine = ({ type = '', startEnding, endEnding }: AbcItem) => {
    const empty = at === 0 && bar.chords.length === 0;
    // The first bar of a tune may be shorter, and later ones that lines end with.
    const pickup = pickupOf(bar.meter, Math.round(at));
    if (pickup !== undefined && (measures.length === 0 || own)) bar.pickup = pickup;
    if (/right_repeat|dbl_repeat/.test(type)) {
      const last = empty ? measures.at(-1) : bar;
      if (last) last.times = 2;
    }
    if (endEnding) {
      const last = empty ? measures.at(-1) : bar;
      if (last) last.endsEnding = true;
      ending = null;
    }
    if (!empty) measures.push(bar);
    section = empty ? section : null;
    if (startEnding) {
      const numbers = startEnding
        .split(/[ ,]+/)
        .map(Number)
        .filter((one) => one > 0);
      ending = numbers.length > 0 ? numbers : null;
    }
    bar = fresh();
    if (/left_repeat|dbl_repeat/.test(type)) bar.begins = true;
    at = 0;
  };
  for (const { staff } of tune.lines ?? []) {
    const [first] = staff ?? [];
    const before = meterOf(first?.meter?.value, first?.meter?.type, leave);
    if (before && at === 0) {
      meter = before;
      bar.meter = meter;
    }
    for (const item of first?.voices?.[0] ?? []) {
      switch (item.el_type) {
        case 'note':
          note(item);
          break;
        case 'bar':
          barLine(item);
          break;
        case 'part':
          section =
            (item.title ?? '')
              .replace(/[:|\n]/g, ' ')
              .slice(0, 40)
              .trim() || null;
          bar.section = section;
          break;
        case 'meter': {
          const other = meterOf(item.value, item.type, leave);
          if (other) meter = other;
          if (at === 0) bar.meter = meter;
        }
      }
    }
  }
  if (at > 0 || bar.chords.length > 0) measures.push(bar);
  const bars = unrolled(measures);
  if (bars.every(({ chords }) => chords.length === 0)) {
    return fail('This tune names no chords over its bars.');
  }
  const { title, tempo } = tune.metaText ?? {};
  const name = typeof title === 'string' ? title : title?.map((part) => part.text).join(' ');
  const bpm = tempo?.bpm ?? NaN;
  const chart = chartOfBars(bars, {
    title: name?.slice(0, 120).trim() || null,
    tempo: bpm >= 20 && bpm <= 300 ? Math.round(bpm) : null,
    own,
  });
  const capoed = capo > 0 && capo <= 12 ? { capo } : {};
  const leftOut = chart.progression === null ? [...left, ...chart.left] : [];
  return { chart: { ...chart, ...capoed, left: leftOut } };
}
