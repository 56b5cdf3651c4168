import { Note } from 'tonal';
import { type Family, type Instrument, type InstrumentId, instrumentIdSchema } from '../schema';

function instrument(
  name: string,
  family: Family,
  notes: string,
  frets: number,
  offset = 0,
): Instrument {
  const strings = notes.split(' ').map((note) => Note.midi(note)!);
  return { name, family, strings, frets, offset };
}

/** The built-in instruments, strings from the thumb side. */
export const INSTRUMENTS: Record<InstrumentId, Instrument> = {
  guitar: instrument('Guitar', 'guitar', 'E2 A2 D3 G3 B3 E4', 20),
  'guitar-drop-d': instrument('Guitar, drop D', 'guitar', 'D2 A2 D3 G3 B3 E4', 20),
  'guitar-half-down': instrument('Guitar, half a step down', 'guitar', 'E2 A2 D3 G3 B3 E4', 20, -1),
  'guitar-open-g': instrument('Guitar, open G', 'guitar', 'D2 G2 D3 G3 B3 D4', 20),
  'guitar-open-d': instrument('Guitar, open D', 'guitar', 'D2 A2 D3 F#3 A3 D4', 20),
  'guitar-nylon': instrument('Guitar, nylon strings', 'nylon', 'E2 A2 D3 G3 B3 E4', 19),
  ukulele: instrument('Ukulele', 'ukulele', 'G4 C4 E4 A4', 15),
  'ukulele-low': instrument('Ukulele, low G', 'ukulele', 'G3 C4 E4 A4', 15),
  baritone: instrument('Baritone ukulele', 'baritone', 'D3 G3 B3 E4', 18),
  mandolin: instrument('Mandolin', 'mandolin', 'G3 D4 A4 E5', 20),
  banjo: instrument('Tenor banjo', 'banjo', 'C3 G3 D4 A4', 19),
  'banjo-five': instrument('Banjo, five strings', 'banjo', 'G4 D3 G3 B3 D4', 22),
};

export const INSTRUMENT_IDS = instrumentIdSchema.options;

/** Two instruments whose strings are tuned alike have the same shapes. */
export function tuningKey({ strings, frets, family }: Instrument): string {
  return `${family}/${frets}/${strings.join(' ')}`;
}

/**
 * Which built-in instrument this is, or null for the player's own.
 * @example builtInId(INSTRUMENTS.mandolin) // 'mandolin'
 */
export function builtInId(instrument: Instrument): InstrumentId | null {
  const same = (id: InstrumentId) =>
    tuningKey(INSTRUMENTS[id]) === tuningKey(instrument) &&
    INSTRUMENTS[id].offset === instrument.offset;
  return INSTRUMENT_IDS.find(same) ?? null;
}

/**
 * Frets between the lowest and the highest that a hand holds at once, by the length of the strings.
 * Estimates for an ordinary hand in the first frets.
 */
export const REACH: Record<Family, number> = {
  guitar: 3,
  nylon: 3,
  baritone: 4,
  ukulele: 4,
  banjo: 4,
  mandolin: 5,
};

/** True where the string nearest the thumb is not the lowest. */
export function isReentrant({ strings }: Instrument): boolean {
  return strings[0]! > Math.min(...strings);
}

/**
 * An instrument inside a sentence: notes keep their capitals, and a low G stands before its ukulele.
 * @example instrumentWords({ name: 'Ukulele, low G' }) // 'low-G ukulele'
 * @example instrumentWords({ name: 'Guitar, drop D' }) // 'guitar, drop D'
 */
export function instrumentWords({ name }: Pick<Instrument, 'name'>): string {
  const [, kind = name, place, note] = /^(.+), (low|high) ([A-G])$/.exec(name) ?? [];
  const words = kind.replaceAll(/\b[A-Z](?=[a-z])/g, (letter) => letter.toLowerCase());
  return place ? `${place}-${note} ${words}` : words;
}

/** Pitch classes of the open strings by name, as they are written under a chord diagram. */
export function stringNames({ strings }: Instrument): string[] {
  return strings.map((midi) => Note.pitchClass(Note.fromMidi(midi)));
}

/**
 * How thick each string is drawn, 1 for the lowest that there is towards 0: on a re-entrant ukulele the second is the
 * thickest.
 * @example stringThickness(INSTRUMENTS.ukulele) // [1/3, 1, 2/3, 0]: C is the thickest, then E, G, A
 */
export function stringThickness({ strings }: Instrument): number[] {
  const above = (midi: number) => strings.filter((other) => other > midi).length;
  return strings.map((midi) => above(midi) / Math.max(1, strings.length - 1));
}

/**
 * What a player calls a string; strings of one name are told apart.
 * @example stringLabel(INSTRUMENTS.guitar, 0) // 'low E'
 */
export function stringLabel(instrument: Instrument, string: number): string {
  const names = stringNames(instrument);
  const name = names[string]!;
  const namesakes = names
    .flatMap((other, index) => (other === name ? [index] : []))
    .sort((a, b) => instrument.strings[a]! - instrument.strings[b]!);
  if (namesakes.length === 1) return name;
  const at = namesakes.indexOf(string);
  const place = at === 0 ? 'low' : at === namesakes.length - 1 ? 'high' : 'middle';
  return `${place} ${name}`;
}

/**
 * Reads a tuning as it is typed, strings from the thumb side.
 * @returns the MIDI pitches, or the first word that is no pitch
 * @example readTuning('D2 A2 D3') // { strings: [38, 45, 50] }
 */
export function readTuning(text: string): { strings: number[] } | { problem: string } {
  const words = text
    .trim()
    .split(/[\s,]+/)
    .filter(Boolean);
  const strings: number[] = [];
  for (const word of words) {
    const midi = Note.midi(word.charAt(0).toUpperCase() + word.slice(1));
    if (midi === null || midi < 20 || midi > 100) {
      return { problem: `“${word}” is not a pitch: write the note and its octave, like D3.` };
    }
    strings.push(midi);
  }
  if (strings.length < 3 || strings.length > 8) {
    return { problem: `An instrument has 3 to 8 strings; this line names ${strings.length}.` };
  }
  return { strings };
}

/** A tuning as it is typed. */
export function printTuning({ strings }: Instrument): string {
  return strings.map((midi) => Note.fromMidi(midi)).join(' ');
}
