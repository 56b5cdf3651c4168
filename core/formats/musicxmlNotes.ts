import type { XMLBuilder } from 'xmlbuilder2/lib/interfaces';
import type { Strike, StrikeNote } from '../arrange';
import type { LegatoHow } from '../schema';
import { noteName, parseChord, plainSymbol } from '../neck';
import type { NoteValue } from '../time';

/** One chord symbol, one stroke, one rest in MusicXML: what the bars of `musicxml.ts` are made of. */

/** The qualities that MusicXML has a word for, by what follows the root in a symbol. */
const KINDS: Record<string, string> = {
  '': 'major',
  maj: 'major',
  m: 'minor',
  min: 'minor',
  aug: 'augmented',
  '+': 'augmented',
  dim: 'diminished',
  '7': 'dominant',
  maj7: 'major-seventh',
  M7: 'major-seventh',
  m7: 'minor-seventh',
  dim7: 'diminished-seventh',
  aug7: 'augmented-seventh',
  m7b5: 'half-diminished',
  mMaj7: 'major-minor',
  mM7: 'major-minor',
  '6': 'major-sixth',
  m6: 'minor-sixth',
  '9': 'dominant-ninth',
  maj9: 'major-ninth',
  m9: 'minor-ninth',
  '11': 'dominant-11th',
  maj11: 'major-11th',
  m11: 'minor-11th',
  '13': 'dominant-13th',
  maj13: 'major-13th',
  m13: 'minor-13th',
  sus2: 'suspended-second',
  sus4: 'suspended-fourth',
  sus: 'suspended-fourth',
  '5': 'power',
};

const ALTERS: Record<string, number> = { '': 0, '#': 1, '##': 2, b: -1, bb: -2 };

export function stepOf(name: string): { step: string; alter: number } {
  return { step: name[0]!, alter: ALTERS[name.slice(1)] ?? 0 };
}

function pitch(parent: XMLBuilder, midi: number, flats: boolean): void {
  const { step, alter } = stepOf(noteName(midi % 12, flats));
  const element = parent.ele('pitch');
  element.ele('step').txt(step);
  if (alter !== 0) element.ele('alter').txt(String(alter));
  element.ele('octave').txt(String(Math.floor(midi / 12) - 1));
}

export function harmony(measure: XMLBuilder, named: string, offset: number): void {
  const symbol = plainSymbol(named);
  const chord = parseChord(symbol);
  const element = measure.ele('harmony');
  const [, root = 'C', quality = '', bass] =
    /^([A-G][#b♯♭]*)([^/]*|6\/9.*)(?:\/([A-G][#b♯♭]*))?$/.exec(symbol) ?? [];
  const { step, alter } = stepOf(root.replaceAll('♯', '#').replaceAll('♭', 'b'));
  const name = element.ele('root');
  name.ele('root-step').txt(chord ? step : 'C');
  if (chord && alter !== 0) name.ele('root-alter').txt(String(alter));
  const kind = chord ? (KINDS[quality] ?? 'other') : 'none';
  element.ele('kind', { text: chord ? quality : symbol }).txt(kind);
  if (chord && bass) {
    const below = stepOf(bass.replaceAll('♯', '#').replaceAll('♭', 'b'));
    const slash = element.ele('bass');
    slash.ele('bass-step').txt(below.step);
    if (below.alter !== 0) slash.ele('bass-alter').txt(String(below.alter));
  }
  if (offset !== 0) element.ele('offset').txt(String(offset));
}

/** How pitches are named, and how many strings there are to number. */
export interface Naming {
  flats: boolean;
  strings: number;
}

/** A stroke as it is written: with what goes on from it on each string, and the note an ornament is struck on. */
export interface WrittenStrike extends Strike {
  onward: Map<number, LegatoHow>;
  graces: StrikeNote[];
}

/**
 * Strokes as they are written: a slot in which a string goes on more than once as notes of equal length, an
 * ornament as a small note before its own, and every note with what joins it to the next on its string.
 */
export function joinedStrikes(strikes: Strike[]): WrittenStrike[] {
  const written = strikes.flatMap((strike) =>
    strike.kind === 'legato' ? stepsOf(strike) : [withGraces(strike)],
  );
  const last = new Map<number, WrittenStrike>();
  for (const strike of written) {
    for (const { string, legato } of strike.notes) {
      const before = last.get(string);
      if (legato && before && !strike.graces.some((note) => note.string === string)) {
        before.onward.set(string, legato.how);
      }
      last.set(string, strike);
    }
  }
  return written;
}

/** The frets that a slide only passes are not written. */
const arrived = (notes: StrikeNote[]) => notes.filter(({ passing }) => !passing);

/** The shortest notes that steps are written in: 64ths, and those of three. */
const SHORTEST = 60;
const SHORTEST_OF_THREE = 80;

function stepsOf(strike: Strike): WrittenStrike[] {
  const steps: StrikeNote[][] = [];
  const counts = new Map<number, number>();
  for (const note of arrived(strike.notes)) {
    const step = counts.get(note.string) ?? 0;
    counts.set(note.string, step + 1);
    (steps[step] ??= []).push(note);
  }
  const each = strike.ticks / steps.length;
  const fits = each % SHORTEST === 0 || each % SHORTEST_OF_THREE === 0;
  const kept = fits ? steps : steps.slice(-1);
  const ticks = strike.ticks / kept.length;
  return kept.map((notes, step) => ({
    ...strike,
    tick: strike.tick + step * ticks,
    ticks,
    notes,
    onward: new Map(),
    graces: [],
  }));
}

function withGraces(strike: Strike): WrittenStrike {
  const all = arrived(strike.notes);
  const ends = new Set(all.filter(({ legato }) => legato).map(({ string }) => string));
  return {
    ...strike,
    notes: all.filter(({ string, legato }) => legato !== undefined || !ends.has(string)),
    graces: all.filter(({ string, legato }) => !legato && ends.has(string)),
    onward: new Map(),
  };
}

const JOINS: Record<LegatoHow, [element: string, text: string]> = {
  hammer: ['hammer-on', 'H'],
  pull: ['pull-off', 'P'],
  slide: ['slide', ''],
};

/** What all notes of one stroke share. */
interface Sounding {
  strike: WrittenStrike;
  fermata: boolean;
}

function noteEnd(
  element: XMLBuilder,
  { type, dots, triplet }: NoteValue,
  ties: ('start' | 'stop')[],
): void {
  for (const tie of ties) element.ele('tie', { type: tie });
  element.ele('voice').txt('1');
  element.ele('type').txt(type);
  if (dots > 0) element.ele('dot');
  if (triplet) {
    const change = element.ele('time-modification');
    change.ele('actual-notes').txt('3');
    change.ele('normal-notes').txt('2');
  }
}

const BOWS = { down: 'down-bow', up: 'up-bow' };

function notations(
  element: XMLBuilder,
  { strike, fermata }: Sounding,
  note: { string: number; fret: number; joins: Join[] } | null,
  first: boolean,
  ties: ('start' | 'stop')[],
): void {
  const { accent, kind, dir } = strike;
  const struck = !ties.includes('stop');
  const accented = struck && first && (accent === 'accent' || accent === 'strong');
  const directed = struck && first && kind !== 'tap' && kind !== 'legato';
  if (ties.length === 0 && !note && !accented && !directed && !fermata) return;
  const all = element.ele('notations');
  for (const tie of ties) all.ele('tied', { type: tie });
  if (note || directed) {
    const technical = all.ele('technical');
    if (directed) technical.ele(BOWS[dir]);
    if (note) {
      technical.ele('string').txt(String(note.string));
      technical.ele('fret').txt(String(note.fret));
      for (const { how, type } of note.joins) {
        const [element, text] = JOINS[how];
        if (how !== 'slide') technical.ele(element, { type, number: '1' }).txt(text);
      }
    }
  }
  for (const { how, type } of note?.joins ?? []) {
    if (how === 'slide') all.ele('slide', { type, number: '1', 'line-type': 'solid' });
  }
  if (accented) {
    all.ele('articulations').ele(accent === 'strong' ? 'strong-accent' : 'accent');
  }
  if (fermata && first) all.ele('fermata', { type: 'upright' });
}

/** Where a note is joined to another on its string by the fretting hand. */
interface Join {
  how: LegatoHow;
  type: 'start' | 'stop';
}

/** The small notes that ornaments are struck on, before the stroke itself. */
function writeGraces(measure: XMLBuilder, strike: WrittenStrike, { flats, strings }: Naming): void {
  strike.graces.forEach(({ string, fret, midi }, index) => {
    const { how } = strike.notes.find((note) => note.string === string)!.legato!;
    const element = measure.ele('note');
    element.ele('grace');
    if (index > 0) element.ele('chord');
    pitch(element, midi, flats);
    element.ele('voice').txt('1');
    element.ele('type').txt('16th');
    const joins: Join[] = [{ how, type: 'start' }];
    const plain = { ...strike, kind: 'legato' as const, accent: 'normal' as const };
    notations(
      element,
      { strike: plain, fermata: false },
      { string: strings - string, fret, joins },
      false,
      [],
    );
  });
}

/** A piece of the words, and how it hangs together with the one before it. */
export interface Lyric {
  syllabic: 'single' | 'begin' | 'middle' | 'end';
  text: string;
}

function writeLyric(element: XMLBuilder, words: Lyric | null): void {
  if (!words) return;
  const lyric = element.ele('lyric', { number: '1' });
  lyric.ele('syllabic').txt(words.syllabic);
  lyric.ele('text').txt(words.text);
}

/** A stroke through one note value: a chord of its strings, or one note without pitch. */
export function writeStroke(
  measure: XMLBuilder,
  sounding: Sounding,
  value: NoteValue,
  ties: ('start' | 'stop')[],
  { flats, strings }: Naming,
  lyric: Lyric | null = null,
): void {
  const { strike } = sounding;
  const { notes, accent, palm } = strike;
  if (notes.length === 0) {
    const element = measure.ele('note');
    const place = element.ele('unpitched');
    place.ele('display-step').txt('B');
    place.ele('display-octave').txt('4');
    element.ele('duration').txt(String(value.ticks));
    noteEnd(element, value, []);
    element
      .ele('notehead', accent === 'ghost' ? { parentheses: 'yes' } : {})
      .txt(strike.kind === 'tap' ? 'circle-x' : 'x');
    notations(element, sounding, null, true, []);
    writeLyric(element, lyric);
    return;
  }
  if (!ties.includes('stop')) writeGraces(measure, strike, { flats, strings });
  const upwards = [...notes].sort((a, b) => a.string - b.string);
  upwards.forEach(({ string, fret, midi, legato }, index) => {
    const onward = ties.includes('start') ? undefined : strike.onward.get(string);
    const joins: Join[] = [
      ...(legato && !ties.includes('stop') ? [{ how: legato.how, type: 'stop' as const }] : []),
      ...(onward ? [{ how: onward, type: 'start' as const }] : []),
    ];
    const element = measure.ele('note');
    if (index > 0) element.ele('chord');
    pitch(element, midi, flats);
    element.ele('duration').txt(String(value.ticks));
    noteEnd(element, value, ties);
    if (accent === 'ghost') element.ele('notehead', { parentheses: 'yes' }).txt('normal');
    notations(element, sounding, { string: strings - string, fret, joins }, index === 0, ties);
    if (index === 0) writeLyric(element, lyric);
    if (palm && !ties.includes('stop')) element.ele('play').ele('mute').txt('palm');
  });
}

export function isPercussive({ kind, tap }: Strike): boolean {
  return kind === 'chuck' || tap !== null;
}

export function writeRest(measure: XMLBuilder, value: NoteValue, lyric: Lyric | null = null): void {
  const element = measure.ele('note');
  element.ele('rest');
  element.ele('duration').txt(String(value.ticks));
  noteEnd(element, value, []);
  writeLyric(element, lyric);
}
