import { fingerChange, fingerName, type FrettedChord, stringLabel } from '../neck';
import type { Instrument } from '../schema';

/** A finger that keeps to a string through chords that follow each other. */
export interface Anchor {
  finger: number;
  string: number;
  /** The fret that it stays on; null for one that slides along the string. */
  fret: number | null;
  /** The chords in order. */
  chords: string[];
}

/** A finger that stays for fewer chords than this is no news: the change itself says it. */
const FEWEST = 3;

/**
 * Fingers that stay on a string, or slide along it, through three chords of the song or more: the longest
 * first, each run of chords once.
 * @param sequence the chords in the order in which they are played; null for one without a shape
 * @example songAnchors([D, G, Cadd9]) // [{ finger: 3, string: 4, fret: 3, chords: ['D', 'G', 'Cadd9'] }]
 */
export function songAnchors(sequence: (FrettedChord | null)[]): Anchor[] {
  const found = new Map<string, Anchor>();
  const open = new Map<number, Anchor>();
  const close = (anchor: Anchor) => {
    const through = new Set(anchor.chords);
    if (through.size < FEWEST) return;
    const key = `${anchor.finger}/${anchor.string}/${[...through].sort().join()}`;
    if (!found.has(key)) found.set(key, { ...anchor, chords: [...through] });
  };
  sequence.slice(1).forEach((chord, index) => {
    const before = sequence[index];
    const moves = before && chord ? fingerChange(before.shape, chord.shape).moves : [];
    for (let finger = 1; finger <= 4; finger += 1) {
      const move = moves.find((one) => one.finger === finger);
      const known = open.get(finger);
      const keeps = move && (move.kind === 'stays' || move.kind === 'slides');
      if (!keeps) {
        if (known) close(known);
        open.delete(finger);
        continue;
      }
      const string = move.to!.strings.find((one) => move.from!.strings.includes(one))!;
      const fret = move.kind === 'stays' ? move.to!.fret : null;
      if (known?.string === string && known.fret === fret) {
        known.chords.push(chord!.symbol);
      } else {
        if (known) close(known);
        open.set(finger, { finger, string, fret, chords: [before!.symbol, chord!.symbol] });
      }
    }
  });
  for (const anchor of open.values()) close(anchor);
  return [...found.values()].sort((a, b) => b.chords.length - a.chords.length);
}

/**
 * An anchor as a sentence.
 * @example describeAnchor(guitar, anchor) // 'The third finger stays on the B string through D, G, and Cadd9.'
 */
export function describeAnchor(instrument: Instrument, anchor: Anchor): string {
  const chords = new Intl.ListFormat('en').format(anchor.chords);
  const does = anchor.fret === null ? 'slides along' : 'stays on';
  const name = fingerName(anchor.finger);
  return `The ${name} ${does} the ${stringLabel(instrument, anchor.string)} string through ${chords}.`;
}
