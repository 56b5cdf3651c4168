import { Note } from 'tonal';
import type { InstrumentId } from '../schema';

export interface Instrument {
  id: InstrumentId;
  name: string;
  /**
   * MIDI pitch of every open string, from the string nearest the player's thumb to the farthest.
   * On a re-entrant ukulele the first is not the lowest.
   */
  openStrings: number[];
  /** The same strings by name, as players call them. */
  stringNames: string[];
  frets: number;
}

function instrument(id: InstrumentId, name: string, notes: string[], frets: number): Instrument {
  return {
    id,
    name,
    openStrings: notes.map((note) => Note.midi(note)!),
    stringNames: notes.map((note) => Note.pitchClass(note)),
    frets,
  };
}

export const INSTRUMENTS: Record<InstrumentId, Instrument> = {
  guitar: instrument('guitar', 'Guitar', ['E2', 'A2', 'D3', 'G3', 'B3', 'E4'], 20),
  ukulele: instrument('ukulele', 'Ukulele', ['G4', 'C4', 'E4', 'A4'], 15),
};

/**
 * What a player calls a string; the two E strings of a guitar are told apart.
 * @example stringLabel(INSTRUMENTS.guitar, 0) // 'low E'
 */
export function stringLabel(instrument: Instrument, string: number): string {
  const name = instrument.stringNames[string]!;
  const namesakes = instrument.stringNames.flatMap((other, index) =>
    other === name ? [index] : [],
  );
  if (namesakes.length === 1) return name;
  const lowest = namesakes.reduce((low, index) =>
    instrument.openStrings[index]! < instrument.openStrings[low]! ? index : low,
  );
  return `${string === lowest ? 'low' : 'high'} ${name}`;
}
