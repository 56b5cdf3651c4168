import type { Instrument, Shape } from '../schema';
import { type ChordReading, parseChord } from './chords';
import { soundKey } from './dataShapes';
import { assignFingers } from './fingering';
import { INSTRUMENTS } from './instruments';
import { neededTones, shapePitches, spellingFault } from './spelling';
import { readShape } from './writtenShape';

/**
 * The shape that players learn first for a chord, where the data set has none or puts another one first. Tables in
 * text: a chord and its frets from the thumb's side, with fingers where they are not the usual ones.
 */

/** Open shapes of the guitar, as beginners' books have them. Movable ones are made from the forms below. */
const GUITAR = `
C x32010  D xx0232  E 022100  G 320003  A x02220  Am x02210  Dm xx0231  Em 022000
C7 x32310  D7 xx0212  E7 020100  G7 320001  A7 x02020  B7 x21202
Am7 x02010  Dm7 xx0211
Cmaj7 x32000  Dmaj7 xx0222  Emaj7 021100  Fmaj7 xx3210  Gmaj7 320002  Amaj7 x02120
Csus2 x30033  Dsus2 xx0230  Esus2 024400  Gsus2 300033  Asus2 x02200
Csus4 x33011  Dsus4 xx0233  Esus4 022200  Gsus4 330013  Asus4 x02230
D7sus4 xx0213  E7sus4 020200  A7sus4 x02030  G7sus4 330011
Cadd9 x32030  Gadd9 300203  Eadd9 024100
C6 x32210  D6 xx0202  E6 022120  G6 320000  A6 x02222  Am6 x02212  Dm6 xx0201  Em6 022020
E7#9 076780  A7#9 x5456x  D5 xx023x
Bdim x2343x  Ddim xx0131  Ddim7 xx0101  Edim xx2323  Bm7b5 x2323x  F#m7b5 2x221x
C/E 032010  C/G 332010  C/B x22010  C/Bb x12010  G/B x20033  G/D xx0003  G/F# 2x0003  D/F# 200232  D/A x00232
Am/G 302210  Am/E 002210  Am/C x32210  Am/F# 2x2210  A/C# x42220  A/E 002220  E/B x22100  E/G# 422100
Em/B x22000  Em/D xx0000  Em/G 322000  F/C x33211  F/A x03211  Fmaj7/C x33210  Dm/F 1x0231  Dm/C x30231  Dm/A x00231
`;

/** Open shapes of the mandolin: all four courses sound, in the first five frets. */
const MANDOLIN = `
C 0230  D 2002  E 1220  F 5301  G 0023  A 2245  B 4122  Am 2230  Bm 4022  Dm 2001  Em 0220  Gm 0013  Fm 1301
C7 3230  D7 2032  E7 1020  G7 0021  A7 2243  B7 4120  F7 2301  Bb 3011  Eb 0113
`;

/** Of the ukulele only what its data has otherwise: E as most hold it, open shapes, the fingers of F6 for Dm7. */
const UKULELE = `
E 4442/2341  Dsus2 2200/1200  Dm7 2213/2314  D7 2223/1112
`;
/** What players of ukuleles hold where the first shape is hard: the root is left to others. */
const EASY_UKULELE = 'D7 2020/1020';

/** Shapes that move along the guitar's neck: frets over a barre, with the root on the sixth string or the fifth. */
const FORMS: { intervals: string; onSixth: string; onFifth: string }[] = [
  { intervals: '0,4,7', onSixth: '022100', onFifth: 'x02220' },
  { intervals: '0,3,7', onSixth: '022000', onFifth: 'x02210' },
  { intervals: '0,4,7,10', onSixth: '020100', onFifth: 'x02020' },
  { intervals: '0,3,7,10', onSixth: '020000', onFifth: 'x02010' },
  { intervals: '0,4,7,11', onSixth: '0x110x', onFifth: 'x02120' },
  { intervals: '0,5,7', onSixth: '022200', onFifth: 'x02230' },
  { intervals: '0,2,7', onSixth: '', onFifth: 'x02200' },
  { intervals: '0,5,7,10', onSixth: '020200', onFifth: 'x02030' },
  { intervals: '0,3,6,10', onSixth: '', onFifth: 'x0101x' },
  { intervals: '0,7', onSixth: '022xxx', onFifth: 'x022xx' },
];
/** Up to this fret a movable shape is what comes to hand first; further up a smaller one nearer the nut is. */
const HIGHEST_FORM = 5;
/**
 * A baritone's own, where the guitar's form lies on strings that it has not got: the ones that guitarists hold on their four
 * high strings.
 */
const BARITONE = `
Eb 1343 Ebm 1342 Eb7 1323 Ebmaj7 1333 Ebm7 1322 Cm7 1313 Bb7 3334 Bbmaj7 3335 Bbm7 3324 Abmaj7 1113 F#maj7 4321 Bmaj7 1302
Bm7 0202
`;

const SIXTH = 4;
const FIFTH = 9;

/** A power chord as metal and punk hands hold it first: three strings, then two. */
const TWO_STRINGS = { intervals: '0,7', onSixth: '02xxxx', onFifth: 'x02xxx' };

const tables = new Map<string, Map<string, Shape>>();

/** A table by the sound of its chords, however they are spelled. */
function tableOf(like: Instrument, text: string): Map<string, Shape> {
  const known = tables.get(text);
  if (known) return known;
  const words = text.trim().split(/\s+/);
  const made = new Map<string, Shape>();
  for (let at = 0; at < words.length; at += 2) {
    const chord = parseChord(words[at]!);
    const read = readShape(words[at + 1]!, like);
    if (!chord || !('shape' in read)) throw new Error(`No shape: ${words[at]} ${words[at + 1]}`);
    made.set(soundKey(chord, chord.bass), read.shape);
  }
  tables.set(text, made);
  return made;
}

/** True where strings have the same names, an octave here or there apart. */
const sameNames = (one: number[], two: number[]) =>
  one.length === two.length && one.every((midi, string) => (midi - two[string]!) % 12 === 0);

/** The strings that an instrument shares with the guitar's highest, as the baritone ukulele does. */
const isTopOfGuitar = ({ strings }: Instrument) =>
  strings.length === 4 && sameNames(strings, INSTRUMENTS.guitar.strings.slice(2));

/** Ukuleles in C: their table says the fingers too, where the data set has odd ones. */
export const isUkulele = ({ strings }: Instrument) =>
  sameNames(strings, INSTRUMENTS.ukulele.strings);

/** A form moved up the neck, its fingers found anew. */
function moved(form: string, by: number): Shape | null {
  if (form === '') return null;
  const frets = [...form].map((sign) => (sign === 'x' ? null : Number(sign) + by));
  return { frets, fingers: assignFingers(frets, true) ?? frets.map(() => 0) };
}

/** The movable shapes of a chord, each the one nearer the nut; none where its kind has no form, or only far up. */
function movable(chord: ChordReading): Shape[] {
  if (chord.bass !== chord.root) return [];
  const intervals = chord.intervals.map((interval) => interval % 12).sort((a, b) => a - b);
  const sixth = (chord.root - SIXTH + 12) % 12;
  const fifth = (chord.root - FIFTH + 12) % 12;
  return [...FORMS, TWO_STRINGS]
    .filter((form) => form.intervals === intervals.join())
    .flatMap(({ onSixth, onFifth }) => {
      const low = moved(onSixth, sixth);
      const high = moved(onFifth, fifth);
      const nearer =
        low && (!high || sixth < fifth) ? { shape: low, at: sixth } : { shape: high, at: fifth };
      return nearer.shape && nearer.at <= HIGHEST_FORM ? nearer.shape : [];
    });
}

function guitarShapes(chord: ChordReading): Shape[] {
  const open = tableOf(INSTRUMENTS.guitar, GUITAR).get(soundKey(chord, chord.bass));
  return open ? [open, ...movable(chord)] : movable(chord);
}

/**
 * The first shapes of a chord on an instrument that players have some for; none elsewhere. On four strings that are the
 * guitar's highest they are the guitar's, held as there.
 * @example usualShapes(INSTRUMENTS.guitar, parseChord('Cm')!)[0].frets // [null, 3, 5, 5, 4, 3]
 */
export function usualShapes(instrument: Instrument, chord: ChordReading): Shape[] {
  return shapesOf(instrument, chord).filter((shape) => {
    const pitches = shapePitches(instrument, shape, 0).filter((pitch) => pitch !== null);
    if (shape.frets.some((fret) => (fret ?? 0) > instrument.frets)) return false;
    // Where the guitar's low strings are not there, the root of an open shape may be missing, as A7 2020 is held.
    return (isTopOfGuitar(instrument) || isUkulele(instrument)) && shape.frets.includes(0)
      ? allButRoot(pitches, chord)
      : spellingFault(pitches, chord, instrument.strings.length) === null;
  });
}

/** True where pitches are of a chord, and all that it needs is there but for its root. */
function allButRoot(pitches: number[], chord: ChordReading): boolean {
  const sounding = new Set(pitches.map((pitch) => pitch % 12));
  const needed = neededTones(chord, pitches.length).filter((tone) => tone !== chord.root);
  return (
    needed.every((tone) => sounding.has(tone)) &&
    [...sounding].every((tone) => chord.tones.includes(tone))
  );
}

function shapesOf(instrument: Instrument, chord: ChordReading): Shape[] {
  const { guitar, mandolin } = INSTRUMENTS;
  if (isTopOfGuitar(instrument)) {
    const own = tableOf(INSTRUMENTS.baritone, BARITONE).get(soundKey(chord, chord.bass));
    const fromGuitar = guitarShapes(chord).flatMap(({ frets: whole, fingers }) => {
      const frets = whole.slice(2);
      if (frets.includes(null)) return [];
      return { frets, fingers: assignFingers(frets, true) ?? fingers.slice(2) };
    });
    return own ? [own, ...fromGuitar] : fromGuitar;
  }
  if (sameNames(instrument.strings, guitar.strings)) return guitarShapes(chord);
  if (isUkulele(instrument)) {
    const key = soundKey(chord, chord.bass);
    const { ukulele } = INSTRUMENTS;
    return [UKULELE, EASY_UKULELE].flatMap((table) => tableOf(ukulele, table).get(key) ?? []);
  }
  if (!sameNames(instrument.strings, mandolin.strings)) return [];
  return [tableOf(mandolin, MANDOLIN).get(soundKey(chord, chord.bass)) ?? []].flat();
}
