import { produce } from 'immer';
import type {
  Accent,
  ArmStyle,
  DegreeStyle,
  Division,
  Feel,
  Instrument,
  Loose,
  Meter,
  Pattern,
  Shape,
  PracticeWishes,
  Song,
  Stroke,
} from '../schema';
import { type Key, moveLine, transposeChord, tuningKey, usualBassRule } from '../neck';
import { accentStroke, divideBeat, fitPattern, placeStroke } from '../pattern';
import { modulo } from '../plain';
import { sameMeter } from '../time';
import { printProgression, readProgression } from '../song';
import { carryRules, rulesInMeter } from './rules';

/**
 * A change to a song: what it is called in the undo list, and a pure step from song to song. Parts
 * that did not change keep their identity, so that only what changed is drawn again.
 */
export interface Command {
  name: string;
  apply: (song: Song) => Song;
}

function set(name: string, change: (draft: Song) => void): Command {
  return { name, apply: (song) => produce(song, change) };
}

function onPattern(name: string, change: (pattern: Pattern) => Pattern): Command {
  return { name, apply: (song) => ({ ...song, pattern: change(song.pattern) }) };
}

function choose(song: Song, symbol: string, shape: Shape, locked: boolean): void {
  const { frets, fingers } = shape;
  song.chosenShapes = [
    ...song.chosenShapes.filter((choice) => choice.symbol !== symbol),
    { symbol, shape: { frets: [...frets], fingers: [...fingers] }, locked },
  ];
}

/** The lines of notes by so many semitones, or on another instrument; one that has no place there is let go. */
function moveTunes(song: Song, semitones: number, to: Instrument): void {
  for (const bar of song.sections.flatMap(({ lines }) => lines.flatMap(({ bars }) => bars))) {
    const { tune } = bar.rules ?? {};
    if (!tune) continue;
    const notes = moveLine(tune.notes, semitones, song.instrument, to);
    if (notes) tune.notes = notes.map((note) => ({ ...note }));
    else delete bar.rules!.tune;
  }
}

/** Every chord by so many semitones; shapes of the old ones are let go, rhythms go with their chords. */
function moveChords(song: Song, semitones: number, flats: boolean): void {
  if (semitones === 0) return;
  const moved = (symbol: string) => transposeChord(symbol, semitones, flats);
  if (song.key) song.key.tonic = modulo(song.key.tonic + semitones, 12);
  song.chosenShapes = [];
  song.ownShapes = [];
  delete song.ownAlternates;
  moveTunes(song, semitones, song.instrument);
  for (const rhythm of song.chordPatterns ?? []) rhythm.symbol = moved(rhythm.symbol);
  for (const bar of song.sections.flatMap(({ lines }) => lines.flatMap(({ bars }) => bars))) {
    for (const chord of bar.chords.flatMap((one) => [one, ...(one.substitutes ?? [])])) {
      chord.symbol = moved(chord.symbol);
    }
  }
}

/** A song in another meter: its progression read again as it is written, its pattern fitted. */
function inMeter(song: Song, meter: Meter): Song {
  const read = readProgression(printProgression(song.sections, song.meter), meter).sections;
  const sections = carryRules(song.sections, read);
  const pattern = fitPattern(song.pattern, meter);
  return rulesInMeter({ ...song, meter, sections, pattern }, meter);
}

export const commands = {
  setStroke: (slot: number, stroke: Stroke): Command =>
    onPattern('place a stroke', (pattern) => placeStroke(pattern, slot, stroke)),

  /** Takes the strokes of a pattern that was said. */
  sayPattern: (said: Pattern): Command => commands.takeEdited('say the pattern', said),

  /**
   * Puts a pattern in place that was made from the song's own: a span that was moved, a fix, a
   * variation. Where it has another meter, the song goes to that meter with it.
   */
  takeEdited: (name: string, edited: Pattern): Command => ({
    name,
    apply: (song) => {
      const there = sameMeter(edited.meter, song.meter) ? song : inMeter(song, edited.meter);
      return { ...there, pattern: edited };
    },
  }),

  setAccent: (slot: number, accent: Accent): Command =>
    onPattern('change an accent', (pattern) => accentStroke(pattern, slot, accent)),

  divideBeat: (beat: number, division: Division): Command =>
    onPattern('divide a beat', (pattern) => divideBeat(pattern, beat, division)),

  setArmStyle: (school: ArmStyle): Command =>
    onPattern('change the arm', (pattern) => ({ ...pattern, arm: { ...pattern.arm, school } })),

  /** How many half-swings the arm makes in a beat. */
  setArmRate: (halfSwings: Division): Command =>
    onPattern('change the arm', (pattern) => ({ ...pattern, arm: { ...pattern.arm, halfSwings } })),

  /** Straight, or swung. */
  setFeel: (feel: Feel | undefined): Command =>
    onPattern('change the feel', ({ feel: _, ...pattern }) =>
      feel ? { ...pattern, feel } : pattern,
    ),

  /** Hits that vary from turn to turn, or the pattern as it is written. */
  setLoose: (loose: Loose | undefined): Command =>
    onPattern('loosen the pattern', ({ loose: _, ...pattern }) =>
      loose ? { ...pattern, loose } : pattern,
    ),

  setTags: (tags: string[]): Command =>
    onPattern('tag the pattern', ({ tags: _, ...pattern }) =>
      tags.length > 0 ? { ...pattern, tags } : pattern,
    ),

  renamePattern: (name: string): Command =>
    onPattern('rename the pattern', (pattern) => ({ ...pattern, name })),

  /** Takes a pattern from elsewhere, fitted to the song's meter. */
  takePattern: (taken: Pattern): Command => ({
    name: 'take a pattern',
    apply: (song) => ({ ...song, pattern: fitPattern(taken, song.meter) }),
  }),

  setTitle: (title: string): Command => set('rename the song', (song) => void (song.title = title)),

  setTempo: (tempo: number): Command =>
    set('change the tempo', (song) => void (song.tempo = tempo)),

  setCountIn: (bars: number): Command =>
    set('change the count-in', (song) => void (song.countIn = bars)),

  /** Sets how the song is practised; a wish that is undefined goes back to what is usual. */
  setPractice: (
    change: { [Wish in keyof PracticeWishes]?: PracticeWishes[Wish] | undefined },
    name = 'set how it is practised',
  ): Command =>
    set(name, (song) => {
      const wished = Object.entries({ ...song.practice, ...change });
      const kept = wished.filter(([, value]) => value !== undefined);
      if (kept.length > 0) song.practice = Object.fromEntries(kept);
      else delete song.practice;
    }),

  setCapo: (capo: number): Command => set('move the capo', (song) => void (song.capo = capo)),

  setBassRule: (school: Song['bassSchool']): Command =>
    set('choose the bass strings', (song) => void (song.bassSchool = school)),

  /** Another instrument or tuning; shapes that were chosen for the old one are let go. */
  setInstrument: (instrument: Instrument): Command =>
    set('change the instrument', (song) => {
      if (tuningKey(song.instrument) !== tuningKey(instrument)) {
        song.chosenShapes = [];
        song.ownShapes = [];
        delete song.ownAlternates;
        moveTunes(song, 0, instrument);
      }
      if (song.bassSchool === usualBassRule(song.instrument)) {
        song.bassSchool = usualBassRule(instrument);
      }
      song.instrument = instrument;
    }),

  /** Holds a chord in a shape from now on. */
  chooseShape: (symbol: string, shape: Shape): Command =>
    set('choose a shape', (song) => {
      const locked = song.chosenShapes.find((choice) => choice.symbol === symbol)?.locked ?? false;
      choose(song, symbol, shape, locked);
    }),

  /** Keeps a chord in the shape it has, whatever set is taken for the song; or lets it go. */
  lockShape: (symbol: string, shape: Shape, locked: boolean): Command =>
    set(locked ? 'lock a shape' : 'unlock a shape', (song) => choose(song, symbol, shape, locked)),

  /** Keeps a shape that the player has made, and holds the chord in it. */
  addOwnShape: (symbol: string, shape: Shape): Command =>
    set('make a shape', (song) => {
      song.ownShapes.push({ symbol, shape });
      choose(song, symbol, shape, false);
    }),

  /** The alternate bass of a chord, wherever it comes; null for the usual one. */
  setAlternate: (symbol: string, place: { string: number; fret: number } | null): Command =>
    set('choose an alternate bass', (song) => {
      const others = (song.ownAlternates ?? []).filter((own) => own.symbol !== symbol);
      const all = place ? [...others, { symbol, ...place }] : others;
      if (all.length > 0) song.ownAlternates = all;
      else delete song.ownAlternates;
    }),

  /** Takes a whole set of shapes at once; locked ones stay. */
  takeShapes: (shapes: Map<string, Shape>): Command =>
    set('take the smoothest set', (song) => {
      for (const [symbol, shape] of shapes) {
        const locked = song.chosenShapes.some(
          (choice) => choice.symbol === symbol && choice.locked,
        );
        if (!locked) choose(song, symbol, shape, false);
      }
    }),

  /** Puts the capo elsewhere and fingers other chords behind it. */
  takeCapo: (capo: number, shift: number, flats: boolean): Command =>
    set('take a capo', (song) => {
      song.capo = capo;
      moveChords(song, shift, flats);
    }),

  /**
   * Moves every chord by so many semitones, their rhythms with them; shapes are chosen anew.
   * @param flats whether the key that it goes to is written with flats
   */
  transpose: (semitones: number, flats: boolean): Command =>
    set('transpose the song', (song) => moveChords(song, semitones, flats)),

  /** How the line of text writes the chords: by name, or by the steps of a key. */
  writeChords: (key: Key, degrees: DegreeStyle | null): Command =>
    set('write chords otherwise', (song) => {
      song.key = key;
      if (degrees) song.degrees = degrees;
      else delete song.degrees;
    }),

  /** Reads the progression from text; see `readProgression` for what it may hold. */
  setProgression: (text: string): Command => ({
    name: 'write the progression',
    apply: (song) => {
      const { sections, order, endings, key, degrees, tooLong } = readProgression(text, song.meter);
      if (tooLong) return song;
      const { order: _, endings: __, key: ___, degrees: ____, ...rest } = song;
      return {
        ...rest,
        sections: carryRules(song.sections, sections),
        ...(order && { order }),
        ...(endings && { endings }),
        ...(key && { key }),
        ...(key && degrees && { degrees }),
      };
    },
  }),

  /** Another meter: the progression is read again as it is written, the pattern is fitted. */
  setMeter: (meter: Meter): Command => ({
    name: 'change the meter',
    apply: (song) => inMeter(song, meter),
  }),
};
