import { stringLabel } from './instruments';
import { modulo } from '../plain';
import type { Instrument } from '../schema';
import type { FrettedChord } from './fretted';
import { type Key, scaleOf } from './key';

/** One note of a bass run. */
export interface RunNote {
  string: number;
  fret: number;
  /** MIDI pitch as it sounds. */
  midi: number;
  /** 0 for an open string. */
  finger: number;
}

/** A way from one bass note to the next, arriving exactly on the next chord's bass string and fret. */
export interface BassRun {
  notes: RunNote[];
  direction: 'up' | 'down';
  kind: 'in the key' | 'chromatic';
  /** Less is smoother. */
  cost: number;
}

export interface RunOptions {
  instrument: Instrument;
  capo: number;
  key: Key;
  /** How long the chord before lasts, and how long each note of the run takes, in ticks. */
  available: number;
  noteTicks: number;
  /** Highest fret that is used where the shapes do not lie higher. */
  position?: number;
}

export interface RunAnswer {
  runs: BassRun[];
  /** One sentence where there is none. */
  none: string | null;
}

const FIRST_POSITION = 4;

/**
 * Bass runs from one chord to the next: stepwise in the key or in semitones, from above or below, so
 * that the note after the last is the next bass note. Ranked by how smoothly they leave the root
 * before and how far the hand goes. They stay in the first position unless the shapes do not.
 *
 * @param count notes in the run, 1 to 4
 * @example runs(held('G'), held('C'), 2, options).runs[0].notes.map((note) => note.fret) // A open, B at 2
 */
export function runs(
  from: FrettedChord,
  to: FrettedChord,
  count: number,
  options: RunOptions,
): RunAnswer {
  const needed = count * options.noteTicks;
  // The chord must be heard once before the run begins.
  if (options.available < needed + options.noteTicks) {
    return {
      runs: [],
      none: `${from.symbol} is too short for ${count} notes before ${to.symbol}.`,
    };
  }
  const highest = Math.max(options.position ?? FIRST_POSITION, from.bass.fret, to.bass.fret);
  const scale = new Set(scaleOf(options.key));
  const sounding = options.capo + options.instrument.offset;
  const found: BassRun[] = [];
  for (const direction of ['up', 'down'] as const) {
    for (const kind of ['in the key', 'chromatic'] as const) {
      const pitches = approach(to.bass.midi - sounding, count, direction, kind, scale);
      if (pitches === null) continue;
      // A run that begins on the root it leaves would only say it again.
      if (pitches.includes(from.bass.midi - sounding)) continue;
      const notes = placeNotes(pitches, to, options, highest);
      if (notes) found.push({ notes, direction, kind, cost: costOf(notes, from, to, kind) });
    }
  }
  const fresh = found.filter(
    (run, index) => found.findIndex((other) => pitchesOf(other) === pitchesOf(run)) === index,
  );
  fresh.sort((a, b) => a.cost - b.cost);
  const none =
    fresh.length > 0
      ? null
      : `No run of ${count} lies under the hand from ${from.symbol} to ${to.symbol}.`;
  return { runs: fresh, none };
}

const pitchesOf = ({ notes }: BassRun) => notes.map((note) => note.midi).join(' ');

/** Pitches (as named) that step into the target, or null where the key has no such step. */
function approach(
  target: number,
  count: number,
  direction: 'up' | 'down',
  kind: BassRun['kind'],
  scale: Set<number>,
): number[] | null {
  const step = direction === 'up' ? -1 : 1;
  const pitches: number[] = [];
  let pitch = target;
  while (pitches.length < count) {
    pitch += step;
    if (Math.abs(pitch - target) > 9) return null;
    if (kind === 'chromatic' || scale.has(modulo(pitch, 12))) pitches.unshift(pitch);
  }
  return pitches;
}

/** Puts the pitches on strings: each as near as can be to the note after it, from the last back. */
function placeNotes(
  pitches: number[],
  to: FrettedChord,
  { instrument, capo }: RunOptions,
  highest: number,
): RunNote[] | null {
  const notes: RunNote[] = [];
  let next: { string: number; fret: number } = to.bass;
  const base = Math.max(1, highest - FIRST_POSITION + 1);
  for (const pitch of pitches.toReversed()) {
    const places = instrument.strings.flatMap((open, string) => {
      const fret = pitch - open;
      const inPosition = fret === 0 || (fret >= base && fret <= highest);
      return inPosition ? [{ string, fret }] : [];
    });
    const near = places.sort(
      (a, b) =>
        Math.abs(a.string - next.string) * 2 +
        a.fret * 0.1 -
        (Math.abs(b.string - next.string) * 2 + b.fret * 0.1),
    )[0];
    if (!near || Math.abs(near.string - next.string) > 1) return null;
    notes.unshift({
      ...near,
      midi: pitch + capo + instrument.offset,
      finger: near.fret === 0 ? 0 : Math.min(4, near.fret - base + 1),
    });
    next = near;
  }
  return notes;
}

function costOf(
  notes: RunNote[],
  from: FrettedChord,
  to: FrettedChord,
  kind: BassRun['kind'],
): number {
  const leap = Math.abs(notes[0]!.midi - from.bass.midi);
  const crossings = [...notes, to.bass]
    .slice(1)
    .filter((note, index) => note.string !== notes[index]!.string).length;
  const outside = kind === 'chromatic' ? 1.2 : 0;
  // The best run goes on from the root it leaves, as by a step.
  return Number((Math.max(0, leap - 2) * 0.8 + crossings * 0.4 + outside).toFixed(2));
}

/**
 * Where the notes of a run lie, in words.
 * @example describeRun(INSTRUMENTS.guitar, run) // 'A 2, A 4'
 */
export function describeRun(instrument: Instrument, { notes }: Pick<BassRun, 'notes'>): string {
  return notes
    .map(({ string, fret }) => `${stringLabel(instrument, string)} ${fret === 0 ? 'open' : fret}`)
    .join(', ');
}
