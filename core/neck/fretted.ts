import type { BassRule, ChosenShape, Instrument, OwnAlternate, OwnShape, Shape } from '../schema';
import { type BassNote, bassNote } from './bass';
import { type ChordReading, parseChord, voicingNumber } from './chords';
import { fingerings, unusualFingers } from './fingerings';
import { type RankedShape, weigh } from './search';
import { shapesFor } from './shapes';
import type { ShapeChoice } from './smoothest';
import { shapePitches } from './spelling';

/** A chord under the hand: how it is held, what each string sounds, where its bass lies. */
export interface FrettedChord {
  symbol: string;
  chord: ChordReading;
  shape: Shape;
  /** MIDI pitch per string as it sounds, null where the string is left out. */
  pitches: (number | null)[];
  bass: BassNote;
  /** Which bass strikes are meant. */
  school: BassRule;
}

/** What decides how a chord is held; a song has all of it. */
export interface FretOptions {
  instrument: Instrument;
  capo: number;
  bassSchool: BassRule;
  chosenShapes?: ChosenShape[];
  ownShapes?: OwnShape[];
  ownAlternates?: OwnAlternate[] | undefined;
}

/**
 * All shapes on offer for a chord: the player's own first, then those of `shapesFor`.
 * @example offeredShapes('D', song)[0].source // 'usual'
 */
export function offeredShapes(symbol: string, options: FretOptions): RankedShape[] {
  const chord = parseChord(symbol);
  if (!chord) return [];
  const own = (options.ownShapes ?? [])
    .filter((made) => made.symbol === symbol && fits(made.shape, options.instrument))
    .map(({ shape }): RankedShape => ({
      ...weigh(shape, chord, options.instrument),
      source: 'own',
    }));
  return [...own, ...inPlace(shapesFor(options.instrument, chord), voicingNumber(symbol))];
}

/** Frets apart from which a shape lies elsewhere on the neck. */
const ELSEWHERE = 2;

/** Where the hand is: the lowest fret that it holds; 0 where all is open. */
function placeOf({ frets }: Shape): number {
  const held = frets.filter((fret) => fret !== null && fret > 0) as number[];
  return held.length > 0 ? Math.min(...held) : 0;
}

/** For another voicing the shapes that lie elsewhere on the neck come first, the nearest of them in front. */
function inPlace(shapes: RankedShape[], number: number): RankedShape[] {
  const [usual] = shapes;
  if (number === 0 || !usual) return shapes;
  const places: RankedShape[] = [];
  for (const shape of shapes) {
    const far = [usual, ...places].every(
      (other) => Math.abs(placeOf(other) - placeOf(shape)) >= ELSEWHERE,
    );
    if (far) places.push(shape);
  }
  const first = places.sort((a, b) => placeOf(a) - placeOf(b))[Math.min(number, places.length) - 1];
  return first ? [first, ...shapes.filter((shape) => shape !== first)] : shapes;
}

/** True where a shape can be held on an instrument at all. */
function fits(shape: Shape, { strings, frets }: Instrument): boolean {
  return (
    shape.frets.length === strings.length &&
    shape.frets.every((fret) => fret === null || fret <= frets) &&
    shape.frets.some((fret) => fret !== null)
  );
}

/** Holds a chord in a given shape; null where the shape sounds nothing. */
export function fretShape(
  chord: ChordReading,
  shape: Shape,
  options: FretOptions,
): FrettedChord | null {
  const { instrument, capo, bassSchool } = options;
  const bass = bassNote(instrument, shape, chord, bassSchool, capo);
  if (!bass) return null;
  const pitches = shapePitches(instrument, shape, capo);
  return { symbol: chord.symbol, chord, shape, pitches, bass, school: bassSchool };
}

/**
 * Holds a chord in the shape that was chosen for it, or in the first on offer.
 * @returns null where the symbol names no chord, or there is no shape for it
 * @example fretChord('E7', { instrument: INSTRUMENTS.guitar, capo: 0, bassSchool: 'root' })?.bass.midi // 40
 */
export function fretChord(symbol: string, options: FretOptions): FrettedChord | null {
  const chord = parseChord(symbol);
  if (!chord) return null;
  const chosen = options.chosenShapes?.find(
    (choice) => choice.symbol === symbol && fits(choice.shape, options.instrument),
  );
  const shape = chosen?.shape ?? offeredShapes(symbol, options)[0];
  return shape ? fretShape(chord, shape, options) : null;
}

/** Shapes with their bass note on the string where the chord has it now: the striking hand knows it there. */
function onSameBass(shapes: RankedShape[], symbol: string, options: FretOptions): RankedShape[] {
  const now = fretChord(symbol, options);
  if (!now) return shapes;
  const { instrument, capo, bassSchool } = options;
  return shapes.filter(
    (shape) => bassNote(instrument, shape, now.chord, bassSchool, capo)?.string === now.bass.string,
  );
}

/** Other fingers on the same frets that are offered; what each costs for being another, and for being less usual. */
const FINGERINGS = 2;
const OTHER = 0.2;
const UNUSUAL = 1.2;

/** Shapes with other fingers on the same frets after each. */
function withFingerings(shapes: RankedShape[]): RankedShape[] {
  return shapes.flatMap((shape) => {
    const usual = unusualFingers(shape);
    return fingerings(shape)
      .slice(0, 1 + FINGERINGS)
      .map((fingered, order) => {
        const less = Math.max(0, unusualFingers(fingered) - usual);
        const extra = order === 0 ? 0 : OTHER + less * UNUSUAL;
        return { ...shape, fingers: fingered.fingers, difficulty: shape.difficulty + extra };
      });
  });
}

/**
 * Chords under the hand by their symbol, each worked out once; null for one without a shape.
 * @example fretChords(song)('A')?.bass.midi // 45
 */
export function fretChords(options: FretOptions): (symbol: string) => FrettedChord | null {
  const known = new Map<string, FrettedChord | null>();
  return (symbol) => {
    if (!known.has(symbol)) known.set(symbol, fretChord(symbol, options));
    return known.get(symbol) ?? null;
  };
}

/**
 * The chords of a song with the shapes to choose from, for `smoothestSet`, other fingers on the same frets
 * included: each with its bass note on the string where it is now, and a locked chord just the shape it is
 * locked in.
 * @example shapeChoices(['A', 'D'], song)[0].symbol // 'A'
 */
export function shapeChoices(symbols: string[], options: FretOptions): ShapeChoice[] {
  return symbols.map((symbol) => {
    const locked = options.chosenShapes?.find(
      (choice) => choice.symbol === symbol && choice.locked,
    );
    const chord = parseChord(symbol);
    const kept = locked && chord ? weigh(locked.shape, chord, options.instrument) : null;
    return {
      symbol,
      shapes: kept
        ? [{ ...kept, source: 'own' as const }]
        : withFingerings(onSameBass(offeredShapes(symbol, options), symbol, options)),
    };
  });
}
