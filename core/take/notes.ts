import type { Seconds } from '../plain';
import type { TakeOnset } from '../schema';

/** A note as a MIDI instrument plays it. */
export interface StruckNote {
  seconds: Seconds;
  /** Note number, 60 for middle C. */
  midi: number;
  /** 1 to 127. */
  velocity: number;
}

/** The MIDI channel of drums, counted from 0: its notes are no pitches. */
export const DRUM_CHANNEL = 9;
/** Notes that begin within this of the first are one stroke. */
export const RAKE_SECONDS: Seconds = 0.09;
/** Fewer notes than this say nothing of the way of the hand. */
const STRINGS = 3;

/** Of all pairs of notes, whether more go up than down: a down-stroke begins with the low strings. */
function wayOf(notes: StruckNote[]): TakeOnset['direction'] {
  if (notes.length < STRINGS) return null;
  let more = 0;
  notes.forEach((note, at) => {
    for (const later of notes.slice(at + 1)) {
      if (later.seconds > note.seconds) more += Math.sign(later.midi - note.midi);
    }
  });
  if (more === 0) return null;
  return more > 0 ? 'down' : 'up';
}

/**
 * The strokes of notes as a MIDI instrument sends them: what begins together is one, as loud as its loudest note, and
 * its way is told by which strings came first.
 * @example strokesOfNotes([{ seconds: 1, midi: 60, velocity: 127 }]) // one stroke, at 1, as loud as may be
 */
export function strokesOfNotes(notes: readonly StruckNote[]): TakeOnset[] {
  const groups: StruckNote[][] = [];
  for (const note of [...notes].sort((a, b) => a.seconds - b.seconds)) {
    const last = groups.at(-1);
    if (last && note.seconds - last[0]!.seconds <= RAKE_SECONDS) last.push(note);
    else groups.push([note]);
  }
  return groups.map((group) => ({
    seconds: Math.max(0, Number(group[0]!.seconds.toFixed(4))),
    direction: wayOf(group),
    loudness: Math.min(1, Math.max(...group.map(({ velocity }) => velocity)) / 127),
  }));
}
