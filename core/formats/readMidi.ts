import type { Meter } from '../schema';
import { guessKey, spellChord, usesFlats } from '../neck';
import { DRUM_CHANNEL } from '../take';
import { beatTicks, barTicks, METERS, TICKS_PER_QUARTER } from '../time';
import type { Ticks } from '../plain';
import type { ChartAnswer, ChartReading, ChartWish } from './chart';
import { parsedMidi } from './midiFile';
import { chordsOfBar, type MidiNote } from './midiChords';
import { likelyMeters } from './midiMeter';
import type { ReadStroke } from './readRhythm';
import { chartOfBars, meterOfBeats, type ReadBar, tempoOfQuarters } from './written';

const MAX_BARS = 4000;

/** Ticks within which notes are one stroke. */
const RAKE = 90;
/** A stroke has at least so many notes; fewer are a melody. */
const STRINGS = 3;
const SIXTEENTH = 240;
const THIRD = 320;

/** Strokes of a bar: notes that begin together, and the way in which they do: from the lowest up it is a down. */
function strokesOf(notes: MidiNote[], bar: number, length: number): ReadStroke[] {
  const groups: MidiNote[][] = [];
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

/** What a MIDI file holds. */
interface MidiContent {
  /** In the order in which they begin; drums are left out. */
  notes: MidiNote[];
  meters: { at: Ticks; meter: Meter }[];
  title: string | null;
  /** Quarters a minute. */
  tempo: number | null;
  left: ChartReading['left'];
}

/**
 * The notes of a MIDI file, with what it says of meter, tempo and title.
 * @throws Error where it is none
 */
export function midiContent(bytes: Uint8Array): MidiContent {
  const file = parsedMidi(bytes);
  const scale = TICKS_PER_QUARTER / file.ticksPerQuarter;
  const found: MidiContent = { notes: [], meters: [], title: null, tempo: null, left: [] };
  file.tracks.forEach((track, index) => {
    let at = 0;
    const open = new Map<string, Pick<MidiNote, 'from' | 'velocity'>>();
    for (const event of track) {
      at += event.deltaTime;
      const tick = Math.round(at * scale);
      if (event.type === 'setTempo')
        found.tempo ??= Math.round(60_000_000 / event.microsecondsPerBeat);
      else if (event.type === 'timeSignature') {
        const meter = meterOfBeats(event.numerator, event.denominator);
        if (meter) found.meters.push({ at: tick, meter });
        else
          found.left.push({
            line: 1,
            text: `the meter ${event.numerator}/${event.denominator}`,
          });
      } else if (event.type === 'trackName' && index === 0)
        found.title ??= event.text.slice(0, 120).trim() || null;
      else if (event.type === 'noteOn' || event.type === 'noteOff') {
        if (event.channel === DRUM_CHANNEL) continue;
        const key = `${event.channel}/${event.noteNumber}`;
        const begun = open.get(key);
        if (begun) {
          found.notes.push({ ...begun, to: tick, midi: event.noteNumber });
          open.delete(key);
        }
        if (event.type === 'noteOn' && event.velocity > 0)
          open.set(key, { from: tick, velocity: event.velocity });
      }
    }
  });
  found.notes.sort((a, b) => a.from - b.from);
  return found;
}

/** The bars of notes, each with its chords and strokes. */
function barsOf(notes: MidiNote[], meters: MidiContent['meters'], first: Meter): ReadBar[] {
  const end = notes.reduce((last, { to }) => Math.max(last, to), 0);
  const bars: ReadBar[] = [];
  let meter = first;
  let next = 0;
  let sounding: MidiNote[] = [];
  for (let at = 0; at < end && bars.length < MAX_BARS;) {
    meter = meters.findLast((one) => one.at <= at)?.meter ?? meter;
    const length = barTicks(meter);
    const begins = next;
    while (next < notes.length && notes[next]!.from < at + length) sounding.push(notes[next++]!);
    sounding = sounding.filter(({ to }) => to > at);
    const chords = chordsOfBar(sounding, at, beatTicks(meter), meter.beats);
    const inside = notes.slice(begins, next);
    bars.push({ meter, chords, section: null, strokes: strokesOf(inside, at, length) });
    at += length;
  }
  while (
    bars.length > 1 &&
    bars.at(-1)!.chords.length === 0 &&
    bars.length * barTicks(meter) > end + barTicks(meter)
  )
    bars.pop();
  return bars;
}

/** Chords spelled as their key is, each only where it is another than the one before. */
function spell(bars: ReadBar[]): void {
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
}

/**
 * The chords of a standard MIDI file, named from its notes bar by bar and finer where a bar
 * is not one chord, with its tempo and its meters. It is a
 * reading and no truth: to be looked through. A file that says no meter is read in the likeliest (`likelyMeters`).
 * @param bytes of the file
 * @param wish the meter to read it in, where the file says none
 * @example readMidi(new Uint8Array()) // { problem: { line: 1, column: 1, message: 'This is no MIDI file that can be read.' } }
 */
export function readMidi(bytes: Uint8Array, wish: ChartWish = {}): ChartAnswer {
  const fail = (message: string): ChartAnswer => ({ problem: { line: 1, column: 1, message } });
  let content: MidiContent;
  try {
    content = midiContent(bytes);
  } catch (error) {
    return fail((error as Error).message);
  }
  const { notes, meters, title, tempo, left } = content;
  if (notes.length === 0) return fail('There are no notes in this file.');
  const likely = meters.length === 0 ? likelyMeters(notes) : [];
  const opening = meters.find(({ at }) => at === 0)?.meter;
  const bars = barsOf(notes, meters, opening ?? wish.meter ?? likely[0] ?? METERS['4/4']);
  spell(bars);
  if (bars.every(({ chords }) => chords.length === 0)) {
    return fail('No three notes of this file sound together, so no chord can be named.');
  }
  // A short bar before the others is a pick-up to them.
  const [first, second] = bars;
  if (first && second && first.meter.unit === second.meter.unit) {
    const pickup = first.meter.beats < second.meter.beats ? first.meter.beats : undefined;
    if (pickup !== undefined) Object.assign(first, { meter: second.meter, pickup });
  }
  const chart = chartOfBars(bars, { title, tempo: null });
  return {
    chart: {
      ...chart,
      tempo: tempo === null ? null : tempoOfQuarters(tempo, chart.meter!),
      ...(likely.length > 0 && { likelyMeters: likely }),
      left: [...left, ...chart.left],
    },
  };
}
