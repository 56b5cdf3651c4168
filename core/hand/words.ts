import { fingerName, stringLabel } from '../neck';
import type { Instrument } from '../schema';
import { type Milliseconds, plural } from '../plain';
import type { ChangeKind, HandReport } from './report';
import type { FingerWindow } from './windows';

const rounded = (ms: Milliseconds) => Math.round(ms / 10) * 10;

/**
 * What holds a song, in one sentence with its numbers.
 * @example describeReport(report)
 * // 'C to F is what holds you at 71: at 88 your first finger has 340 ms and needs 420.'
 */
export function describeReport({ kinds, tempo, unknown }: HandReport): string {
  const first = kinds[0];
  if (!first) {
    const why = unknown[0] ? `${unknown[0].symbol}: ${unknown[0].why}` : null;
    return why
      ? `No change to measure yet; ${why}.`
      : 'One chord, no change: there is nothing for the hand to be late for.';
  }
  const { tightest, ceiling } = first;
  const name = `${first.from.symbol} to ${first.to.symbol}`;
  if (ceiling === null || !tightest.tightest) {
    return `${plural(kinds.length, 'change')}, and no finger has to hurry for ${kinds.length === 1 ? 'it' : 'any of them'}.`;
  }
  const { move, window, ms } = tightest.tightest;
  const finger = fingerName(move.finger);
  if (ceiling < tempo) {
    return `${name} is too quick at ${tempo}: your ${finger} gets ${rounded(window)} ms and needs ${rounded(ms)}. OK up to ${Math.floor(ceiling)}.`;
  }
  return `Every change has time at ${tempo}; ${name} is the first to run out, at ${Math.floor(ceiling)}.`;
}

/** What a finger does in a change, in a few words: 'moves to the G string, fret 2'. */
export function describeMove(instrument: Instrument, { move }: Pick<FingerWindow, 'move'>): string {
  const { kind, from, to } = move;
  const place = to ?? from!;
  const where =
    place.strings.length > 1
      ? `${plural(place.strings.at(-1)! - place.strings[0]! + 1, 'string')} at fret ${place.fret}`
      : `the ${stringLabel(instrument, place.strings[0]!)} string, fret ${place.fret}`;
  switch (kind) {
    case 'stays':
      return from!.strings.length === to!.strings.length
        ? `stays on ${where}`
        : to!.strings.length > from!.strings.length
          ? `lies down over ${where}`
          : `gets up to ${where}`;
    case 'slides':
      return `slides to ${where}`;
    case 'moves':
      return to!.strings.length > 1 ? `lies over ${where}` : `moves to ${where}`;
    case 'lands':
      return to!.strings.length > 1 ? `lies over ${where}` : `lands on ${where}`;
    case 'lifts':
      return `lifts off ${where}`;
  }
}

/**
 * What there is to say of one kind of change.
 * @example describeKind(kind, 92) // 'Bm to D: 120 ms short at 92, possible up to 74'
 */
export function describeKind({ from, to, ceiling, slack }: ChangeKind, tempo: number): string {
  const name = `${from.symbol} to ${to.symbol}`;
  if (ceiling === null || slack === null) return `${name}: always works`;
  if (slack >= 0) {
    return `${name}: ${rounded(slack)} ms to spare at ${tempo}, possible up to ${Math.floor(ceiling)}`;
  }
  return `${name}: ${rounded(-slack)} ms short at ${tempo}, possible up to ${Math.floor(ceiling)}`;
}
