import type { Meter } from '../schema';
import { guessKey, noteName, spellChord, usesFlats } from '../neck';
import { DRUM_CHANNEL } from '../take';
import { beatTicks, barTicks, METERS, TICKS_PER_QUARTER } from '../time';
import type { ChartAnswer } from './chart';
import { type MidiFile, parsedMidi } from './midiFile';
import type { ReadStroke } from './readRhythm';
import { chartOfBars, meterOfBeats, type PlacedChord, type ReadBar } from './written';

interface Note {
  from: number;
  to: number;
  midi: number;
}

const MOST_BARS = 4000;

/** Chords that a reading may find, by their tones above the root; the plainer first. */
const QUALITIES: [string, number[]][] = [
  ['', [0, 4, 7]],
  ['m', [0, 3, 7]],
  ['7', [0, 4, 7, 10]],
  ['m7', [0, 3, 7, 10]],
  ['maj7', [0, 4, 7, 11]],
  ['sus4', [0, 5, 7]],
  ['dim', [0, 3, 6]],
  ['aug', [0, 4, 8]],
  ['m7b5', [0, 3, 6, 10]],
];
/** A tone that has less of the sound than this is not there. */
const THERE = 0.03;
/** A stretch is no chord if less of its sound belongs to it. */
const LEAST_SHARE = 0.65;
/** The least of a single beat that names a chord. */
const AT_LEAST = 0.75;

/** How long each tone sounds, all of them together, and the lowest pitch. */
interface Sounding {
  weights: number[];
  total: number;
  lowest: number;
}

/** What sounds in a stretch. */
function soundingIn(notes: Note[], from: number, to: number): Sounding {
  const weights = new Array<number>(12).fill(0);
  let total = 0;
  let lowest = Infinity;
  for (const note of notes) {
    const long = Math.min(note.to, to) - Math.max(note.from, from);
    if (long <= 0) continue;
    weights[note.midi % 12]! += long;
    total += long;
    lowest = Math.min(lowest, note.midi);
  }
  return { weights, total, lowest };
}

/** Stretches that follow each other, as one. */
const together = (some: Sounding[]): Sounding => ({
  weights: Array.from({ length: 12 }, (_, tone) =>
    some.reduce((sum, { weights }) => sum + weights[tone]!, 0),
  ),
  total: some.reduce((sum, { total }) => sum + total, 0),
  lowest: Math.min(...some.map(({ lowest }) => lowest)),
});

/** The tones that sound in a stretch. */
const tonesOf = ({ weights, total }: Sounding): Set<number> =>
  new Set(weights.flatMap((weight, tone) => (weight > THERE * total ? [tone] : [])));

/** The chord that fits a stretch best, and how much of its sound belongs to it; null with fewer than three tones. */
function best({
  weights,
  total,
  lowest,
}: Sounding): { symbol: string; share: number; root: number } | null {
  const there = (tone: number) => weights[tone]! > THERE * total;
  if (weights.filter((_, tone) => there(tone)).length < 3) return null;
  let found = { symbol: '', share: 0, root: 0, fit: -Infinity };
  for (let root = 0; root < 12; root += 1) {
    for (const [quality, tones] of QUALITIES) {
      const own = tones.map((tone) => (root + tone) % 12);
      const share = own.reduce((sum, tone) => sum + weights[tone]!, 0) / total;
      const missing = own.filter((tone) => !there(tone)).length;
      const plain =
        0.05 * (tones.length - 3) + (quality === 'sus4' || quality === 'aug' ? 0.05 : 0);
      const fit = share - 0.25 * missing - plain + (lowest % 12 === root ? 0.08 : 0);
      if (fit > found.fit) found = { symbol: noteName(root, false) + quality, share, root, fit };
    }
  }
  return found;
}

/** A second chord in a bar has to explain so many beats more than one does. */
const ANOTHER_CHORD = 0.3;
/** A chord of three tones is plainer than one of four by so much of a beat for each beat. */
const FOURTH_TONE = 0.06;
/** A beat that holds a chord of its own, without the root of this one, is against it by so much. */
const NO_ROOT = 0.3;
/** Tones of a beat that is a chord by itself. */
const OWN_CHORD = 3;

/**
 * The chords of a bar: of all ways to part its beats the one whose chords explain most of what sounds, where each chord
 * beyond the first has to be worth it. C and then G are no Cmaj7, and one that is arpeggiated is one.
 */
function named(notes: Note[], bar: number, beat: number, beats: number): PlacedChord[] {
  /** What is explained of the beats before each place, and the last chord of the way there. */
  const ways: { worth: number; chord: PlacedChord | null; from: number }[] = [
    { worth: 0, chord: null, from: 0 },
  ];
  const inBeat = Array.from({ length: beats }, (_, at) =>
    soundingIn(notes, bar + at * beat, bar + (at + 1) * beat),
  );
  const tones = inBeat.map(tonesOf);
  for (let to = 1; to <= beats; to += 1) {
    let way = { worth: -Infinity, chord: null as PlacedChord | null, from: 0 };
    for (let from = 0; from < to; from += 1) {
      const found = best(together(inBeat.slice(from, to)));
      const isOne = found !== null && found.share >= (to - from === 1 ? AT_LEAST : LEAST_SHARE);
      const length = to - from;
      const plain = /7/.test(found?.symbol ?? '') ? FOURTH_TONE : 0;
      const against = tones
        .slice(from, to)
        .filter((own) => own.size >= OWN_CHORD && found && !own.has(found.root)).length;
      const explained = isOne ? length * (found.share - plain) - NO_ROOT * against : 0;
      const before = ways[from]!;
      const fresh = isOne && before.chord !== null ? ANOTHER_CHORD : 0;
      const worth = before.worth + explained - fresh;
      if (worth <= way.worth) continue;
      way = { worth, chord: isOne ? { at: from * beat, symbol: found.symbol } : null, from };
    }
    ways.push(way);
  }
  const chords: PlacedChord[] = [];
  for (let to = beats; to > 0; to = ways[to]!.from) {
    const { chord } = ways[to]!;
    if (chord) chords.unshift(chord);
  }
  return chords.filter(({ symbol }, at) => symbol !== chords[at - 1]?.symbol);
}

/** Ticks within which notes are one stroke. */
const RAKE = 90;
/** A stroke has at least so many notes; fewer are a melody. */
const STRINGS = 3;
const SIXTEENTH = 240;
const THIRD = 320;

/** Strokes of a bar: notes that begin together, and the way in which they do: from the lowest up it is a down. */
function strokesOf(notes: Note[], bar: number, length: number): ReadStroke[] {
  const groups: Note[][] = [];
  for (const note of notes) {
    const last = groups.at(-1);
    if (last && note.from - last[0]!.from <= RAKE) last.push(note);
    else groups.push([note]);
  }
  const strokes = groups
    .filter((group) => group.length >= STRINGS)
    .map((group): ReadStroke => {
      const early = group[0]!;
      const late = group.at(-1)!;
      const told = late.from > early.from && late.midi !== early.midi;
      const into = early.from - bar;
      const [by16, by3] = [SIXTEENTH, THIRD].map((step) => Math.round(into / step) * step) as [
        number,
        number,
      ];
      const at = Math.abs(by3 - into) < Math.abs(by16 - into) ? by3 : by16;
      return {
        at,
        dir: told ? (late.midi > early.midi ? 'down' : 'up') : null,
        accent: false,
        damped: false,
      };
    });
  return strokes.filter(({ at }, index) => at < length && at !== strokes[index - 1]?.at);
}

/**
 * The chords of a standard MIDI file, named from its notes bar by bar and finer where a bar
 * is not one chord, with its tempo and its meters. It is a
 * reading and no truth: to be looked through.
 * @param bytes of the file
 * @example readMidi(new Uint8Array()) // { problem: { line: 1, column: 1, message: 'This is no MIDI file that can be read.' } }
 */
export function readMidi(bytes: Uint8Array): ChartAnswer {
  const fail = (message: string): ChartAnswer => ({ problem: { line: 1, column: 1, message } });
  let file: MidiFile;
  try {
    file = parsedMidi(bytes);
  } catch (error) {
    return fail((error as Error).message);
  }
  const scale = TICKS_PER_QUARTER / file.ticksPerQuarter;
  const notes: Note[] = [];
  const meters: { at: number; meter: Meter }[] = [];
  const left: { line: number; text: string }[] = [];
  let title: string | null = null;
  let tempo: number | null = null;
  file.tracks.forEach((track, index) => {
    let at = 0;
    const open = new Map<string, number>();
    for (const event of track) {
      at += event.deltaTime;
      const tick = Math.round(at * scale);
      if (event.type === 'setTempo') tempo ??= Math.round(60_000_000 / event.microsecondsPerBeat);
      else if (event.type === 'timeSignature') {
        const meter = meterOfBeats(event.numerator, event.denominator);
        if (meter) meters.push({ at: tick, meter });
        else left.push({ line: 1, text: `the meter ${event.numerator}/${event.denominator}` });
      } else if (event.type === 'trackName' && index === 0)
        title ??= event.text.slice(0, 120).trim() || null;
      else if (event.type === 'noteOn' || event.type === 'noteOff') {
        if (event.channel === DRUM_CHANNEL) continue;
        const key = `${event.channel}/${event.noteNumber}`;
        const from = open.get(key);
        if (from !== undefined) {
          notes.push({ from, to: tick, midi: event.noteNumber });
          open.delete(key);
        }
        if (event.type === 'noteOn' && event.velocity > 0) open.set(key, tick);
      }
    }
  });
  if (notes.length === 0) return fail('There are no notes in this file.');
  notes.sort((a, b) => a.from - b.from);
  const end = notes.reduce((last, { to }) => Math.max(last, to), 0);
  const bars: ReadBar[] = [];
  let meter = meters.find(({ at }) => at === 0)?.meter ?? METERS['4/4'];
  let next = 0;
  let sounding: Note[] = [];
  for (let at = 0; at < end && bars.length < MOST_BARS;) {
    meter = meters.findLast((one) => one.at <= at)?.meter ?? meter;
    const length = barTicks(meter);
    const begins = next;
    while (next < notes.length && notes[next]!.from < at + length) sounding.push(notes[next++]!);
    sounding = sounding.filter(({ to }) => to > at);
    const chords = named(sounding, at, beatTicks(meter), meter.beats);
    const inside = notes.slice(begins, next);
    bars.push({ meter, chords, section: null, strokes: strokesOf(inside, at, length) });
    at += length;
  }
  const flats = usesFlats(
    guessKey(bars.flatMap(({ chords }) => chords.map(({ symbol }) => symbol))),
  );
  let before: string | null = null;
  for (const bar of bars) {
    bar.chords = bar.chords
      .map((chord) => ({ ...chord, symbol: spellChord(chord.symbol, flats) }))
      .filter(({ symbol }) => {
        const fresh = symbol !== before;
        before = symbol;
        return fresh;
      });
  }
  while (
    bars.length > 1 &&
    bars.at(-1)!.chords.length === 0 &&
    bars.length * barTicks(meter) > end + barTicks(meter)
  )
    bars.pop();
  if (bars.every(({ chords }) => chords.length === 0)) {
    return fail('No three notes of this file sound together, so no chord can be named.');
  }
  // A short bar before the others is a pick-up to them.
  const [first, second] = bars;
  if (first && second && first.meter.unit === second.meter.unit) {
    const pickup = first.meter.beats < second.meter.beats ? first.meter.beats : undefined;
    if (pickup !== undefined) Object.assign(first, { meter: second.meter, pickup });
  }
  const chart = chartOfBars(bars, {
    title,
    tempo: tempo !== null && tempo >= 20 && tempo <= 300 ? tempo : null,
  });
  return { chart: { ...chart, left: [...left, ...chart.left] } };
}
