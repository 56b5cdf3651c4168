import { modulo } from '../plain';
import type { Instrument } from '../schema';
import type { FrettedChord } from './fretted';
import { type Key, scaleOf } from './key';

/** Single notes on the upper strings that lead into a chord. */
export interface Fill {
  /** Strings from the thumb on, in the order of playing; the tone of the chord that they lead to is not among them. */
  notes: { string: number; fret: number }[];
  direction: 'up' | 'down';
  /** The string on which the chord is reached. */
  into: number;
}

const NEAR_FRETS = 4;

/**
 * Fills from one chord to the next on the strings above its bass: notes of the key, step by step, so that the one
 * after the last is a tone of the next chord as it is held. They stay within reach of the next shape.
 * @param count notes in the fill, 1 to 6
 * @returns the smoothest first, one for each string and direction at most
 * @example fills(held('G'), held('C'), 3, options)[0].notes.length // 3
 */
export function fills(
  from: FrettedChord,
  to: FrettedChord,
  count: number,
  { instrument, capo, key }: { instrument: Instrument; capo: number; key: Key },
): Fill[] {
  const scale = new Set(scaleOf(key));
  const upper = to.pitches.flatMap((midi, string) =>
    midi === null || string === to.bass.string ? [] : [{ midi, string }],
  );
  const held = to.shape.frets.filter((fret): fret is number => fret !== null && fret > 0);
  const lowest = held.length > 0 ? Math.min(...held) : 0;
  const reach = { low: Math.max(0, lowest - 1), high: lowest + NEAR_FRETS };
  const placeOf = (midi: number, near: number) => {
    const places = instrument.strings.flatMap((open, string) => {
      const fret = midi - open - capo - instrument.offset;
      const inReach = fret === 0 || (fret >= reach.low && fret <= reach.high);
      return inReach && fret <= instrument.frets && string > to.bass.string
        ? [{ string, fret, far: Math.abs(string - near) + fret * 0.05 }]
        : [];
    });
    const best = places.sort((a, b) => a.far - b.far)[0];
    return best && { string: best.string, fret: best.fret };
  };
  const found = upper.flatMap(({ midi, string }) =>
    (['down', 'up'] as const).flatMap((direction): (Fill & { cost: number })[] => {
      const notes: Fill['notes'] = [];
      let pitch = midi;
      let near = string;
      while (notes.length < count) {
        pitch += direction === 'down' ? 1 : -1;
        if (Math.abs(pitch - midi) > 14) return [];
        if (!scale.has(modulo(pitch, 12))) continue;
        const place = placeOf(pitch, near);
        if (!place) return [];
        near = place.string;
        notes.unshift(place);
      }
      const first = notes[0]!;
      const starts = from.shape.frets[first.string] === first.fret ? 0 : 1;
      const moved = notes.reduce(
        (sum, note, index) => sum + Math.abs(note.string - (notes[index - 1] ?? note).string),
        0,
      );
      return [{ notes, direction, into: string, cost: starts + moved * 0.5 }];
    }),
  );
  return found.sort((a, b) => a.cost - b.cost).map(({ cost: _, ...fill }) => fill);
}
