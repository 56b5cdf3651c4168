import {
  Articulation,
  Beam,
  Dot,
  Glyph,
  Modifier,
  ModifierContext,
  Stave,
  StaveNote,
  StaveTie,
  type StemmableNote,
  TabNote,
  TabSlide,
  TabStave,
  TabTie,
  TickContext,
  Tuplet,
} from 'vexflow/bravura';
import type { Ticks } from '../plain';
import type { Strike } from '../arrange';
import type { LegatoHow } from '../schema';
import { beatTicks, nearestNotated, noteValues, type NoteValue } from '../time';
import type { EngravedBar, EngravedRow, Engraver } from './engraving';
import { type SheetItem, NAME_GAP, nameSize, shape, text } from './paper';
import { Recorder } from './recorder';

/** Tablature and slashes by the usual package for engraving: a door of its own, since that package is large. */

/** Lengths as the package calls them. */
const DURATIONS: Record<NoteValue['type'], string> = {
  whole: 'w',
  half: 'h',
  quarter: 'q',
  eighth: '8',
  '16th': '16',
  '32nd': '32',
  '64th': '64',
  '128th': '128',
  '256th': '256',
};
/** Units of the package between two lines of a staff, and its size beside that of the letters. */
const LINE = 10;
const SHARE = 0.062;
const BOWS = { down: 'stringsDownBow', up: 'stringsUpBow' };
const BOW_SIZE = 26;

/** One note value of a bar: struck there, or what rings on or rests. */
interface Placed {
  at: number;
  value: NoteValue;
  strike: Strike | null;
  /** It is the first value of its stroke. */
  begins: boolean;
}

function valuesOf({ bar, strikes }: EngravedBar): Placed[] {
  const beat = beatTicks(bar.meter);
  const starts = strikes.map((strike) => ({
    strike,
    at: Math.min(bar.ticks, nearestNotated(strike.tick - bar.tick)),
  }));
  const placed: Placed[] = [];
  const fill = (from: number, to: number, strike: Strike | null) => {
    let at = from;
    for (const value of to > from ? noteValues(from, to - from, beat) : []) {
      placed.push({ at, value, strike, begins: at === from });
      at += value.ticks;
    }
  };
  fill(0, starts[0]?.at ?? bar.ticks, null);
  starts.forEach(({ strike, at }, index) => fill(at, starts[index + 1]?.at ?? bar.ticks, strike));
  return placed;
}

const durationOf = ({ type, dots }: NoteValue) => DURATIONS[type] + 'd'.repeat(dots);

/**
 * Puts a note where its tick lies, and nowhere else: bars line up with the paths over them.
 * @param share of its width that lies before that place
 */
function place(note: StemmableNote, stave: Stave, x: number, share = 0): void {
  note.setStave(stave);
  note.addToModifierContext(new ModifierContext());
  const context = new TickContext();
  context.addTickable(note).preFormat();
  context.setX(0);
  context.setX(x - share * note.getWidth() - note.getAbsoluteX());
}

/**
 * Draws a row of bars as tablature or as slashes on a staff, each stroke under the place that it has in the bar.
 * @example engrave({ kind: 'tab', bars: [], each: 120, size: 9.5, strings: 6 }).items // []
 */
export const engrave: Engraver = (row) => {
  const { kind, bars, each, size, strings } = row;
  if (bars.length === 0) return { items: [], height: 0 };
  const points = size * SHARE;
  const context = new Recorder(points);
  const width = (bars.length * each) / points;
  const top = kind === 'tab' ? 0 : LINE;
  const options = {
    space_above_staff_ln: 2,
    space_below_staff_ln: 2,
    left_bar: false,
    right_bar: false,
    fill_style: '#8c8c8c',
  };
  const stave =
    kind === 'tab'
      ? new TabStave(0, top, width, { ...options, num_lines: strings })
      : new Stave(0, top, width, options);
  stave.setContext(context).draw();
  const lines = kind === 'tab' ? strings : 5;
  const [first, last] = [stave.getYForLine(0), stave.getYForLine(lines - 1)];
  [0, ...bars.map((_, index) => index + 1)].forEach((bar) => {
    context.fillRect((bar * each) / points, first, 1.2, last - first);
  });
  const drawn = { row, context, stave, points, last };
  bars.forEach((bar, index) => {
    const xOf = (ticks: Ticks) => (index * each + bar.xOf(ticks)) / points;
    if (kind === 'tab') tabBar(bar, xOf, drawn);
    else slashBar(bar, xOf, drawn);
  });
  const fingers = kind === 'tab' ? fingerLetters(drawn) : [];
  const under = (last + LINE * 3.4) * points + (fingers.length > 0 ? size * 1.1 : 0);
  const touches = touchWords(drawn, under);
  const height = under + (touches.length > 0 ? size * 1.1 : 0);
  const named = kind === 'tab' ? headNames(drawn) : [];
  const items = [...context.items, ...named, ...strumArrows(drawn), ...fingers, ...touches];
  return { items, height };
};

/** Grey of the names of strings. */
const NAMES = 0.4;

interface Drawn {
  row: EngravedRow;
  context: Recorder;
  stave: Stave;
  points: number;
  /** Where the lowest line lies. */
  last: number;
}

/** Which string is which: a letter before each line of the tablature. */
function headNames({ row: { names = [], size }, stave, points }: Drawn): SheetItem[] {
  return names.map((name, string) => {
    const y = stave.getYForLine(names.length - 1 - string) * points + size * 0.22;
    return text(-NAME_GAP, y, name, nameSize(size), { anchor: 'end', grey: NAMES });
  });
}

/** Which way a hand without a pick goes over the strings: an arrow, drawn, since fonts for paper have none. */
function strumArrows({
  row: { bars, each, size, kind, withoutPick },
  last,
  points,
}: Drawn): SheetItem[] {
  if (kind !== 'tab') return [];
  const [top, length, head] = [(last + LINE * 1.6) * points, size * 0.75, size * 0.2];
  return bars.flatMap(({ bar, strikes, fingers, xOf }, index) =>
    strikes.flatMap((strike) => {
      if (!byHand(strike, withoutPick) || !signed(strike) || fingers.has(strike.tick)) return [];
      const x = index * each + xOf(strike.tick - bar.tick);
      const [from, tip] = strike.dir === 'down' ? [top, top + length] : [top + length, top];
      const back = tip + (strike.dir === 'down' ? -head : head);
      const d = `M${x},${from}L${x},${tip}M${x - head},${back}L${x},${tip}L${x + head},${back}`;
      return [shape(d, null, 0, 0.8)];
    }),
  );
}

/** The letters of the picking fingers, under the strokes that they pick. */
function fingerLetters({ row: { bars, each, size }, last, points }: Drawn): SheetItem[] {
  const y = (last + LINE * 3.4) * points + size * 0.6;
  return bars.flatMap(({ bar, fingers, xOf }, index) =>
    [...fingers].map(([tick, letters]) =>
      text(index * each + xOf(tick - bar.tick), y, letters, size * 0.75, { anchor: 'middle' }),
    ),
  );
}

/** Under the strokes what neither frets nor signs say: the palm on the strings, a tap on the body, a slap on the strings. */
function touchWords({ row: { bars, each, size } }: Drawn, under: number): SheetItem[] {
  const y = under + size * 0.6;
  return bars.flatMap(({ bar, strikes, xOf }, index) => {
    let wasPalm = false;
    return strikes.flatMap((strike) => {
      // The palm stays where it is until it is lifted: it is named where it comes down.
      const palm = strike.palm && !wasPalm;
      wasPalm = strike.palm;
      const tap = strike.tap && { body: 'tap', strings: 'slap' }[strike.tap];
      const said = [palm && 'P.M.', tap].filter(Boolean).join(' ');
      if (said === '') return [];
      return text(index * each + xOf(strike.tick - bar.tick), y, said, size * 0.7, {
        anchor: 'middle',
      });
    });
  });
}

/** Rolls, and strums with the flesh of a hand that has no pick. */
const byHand = ({ flesh, kind }: Strike, withoutPick = false) =>
  kind === 'roll' || ((flesh || withoutPick) && kind !== 'pick' && kind !== 'bass');
const signed = ({ kind }: Strike) => kind !== 'tap' && kind !== 'legato';

/** Frets on their strings, with arcs where the fretting hand goes on by itself, and the signs of the strokes. */
function tabBar(
  { bar, strikes, fingers }: EngravedBar,
  xOf: (ticks: Ticks) => number,
  { row: { strings, withoutPick }, context, stave, last }: Drawn,
): void {
  const rings = new Map<number, { note: TabNote; index: number }>();
  for (const strike of strikes) {
    const arrived = strike.notes.filter(({ passing }) => !passing);
    // Of a string that is struck and goes on at once, the fret that it goes on to stands there.
    const kept = [...new Map(arrived.map((note) => [note.string, note])).values()];
    const onBody = strike.kind === 'tap' && strike.tap === 'body';
    const damped = kept.length === 0 && strike.kind !== 'legato' && !onBody;
    const positions = damped
      ? Array.from({ length: strings }, (_, string) => ({ str: string + 1, fret: 'X' }))
      : kept.map(({ string, fret }) => ({ str: strings - string, fret }));
    if (positions.length === 0) continue;
    const x = xOf(strike.tick - bar.tick);
    const note = new TabNote({ positions, duration: 'q' });
    place(note, stave, x, 1 / 2);
    note.setContext(context).draw();
    // Where a finger is named it says how: the signs are those of a pick.
    if (signed(strike) && !fingers.has(strike.tick) && !byHand(strike, withoutPick)) {
      Glyph.renderGlyph(context, x - 4, last + LINE * 2.6, BOW_SIZE, BOWS[strike.dir]);
    }
    /** Strings that go on alike say once how. */
    const said = new Set<string>();
    kept.forEach((sounding, index) => {
      const before = rings.get(sounding.string);
      if (sounding.legato && before) {
        const { how } = sounding.legato;
        join(before, { note, index }, how, !said.has(how), context);
        said.add(how);
      }
      rings.set(sounding.string, { note, index });
    });
    if (damped) rings.clear();
  }
}

/** What stands over notes that the fretting hand joins. */
const SIGNS: Record<LegatoHow, string> = { hammer: 'H', pull: 'P', slide: 'sl.' };

function join(
  from: { note: TabNote; index: number },
  to: { note: TabNote; index: number },
  how: LegatoHow,
  isSaid: boolean,
  context: Recorder,
): void {
  const ends = {
    first_note: from.note,
    last_note: to.note,
    first_indices: [from.index],
    last_indices: [to.index],
  };
  const sign = isSaid ? SIGNS[how] : '';
  const tie = how === 'slide' ? new Slide(ends, sign) : new TabTie(ends, sign);
  tie.setContext(context).draw();
}

/** A slide with a word of ours, or none. */
class Slide extends TabSlide {
  constructor(ends: ConstructorParameters<typeof TabSlide>[0], sign: string) {
    super(ends);
    this.text = sign;
  }
}

/** Lengths that have no flag that a beam could stand for. */
const UNBEAMED = new Set<NoteValue['type']>(['whole', 'half', 'quarter']);

/** Slashes with stems and beams, crosses for damped strokes, and the signs of the strokes over them. */
function slashBar(
  engraved: EngravedBar,
  xOf: (ticks: Ticks) => number,
  { context, stave }: Drawn,
): void {
  const { bar } = engraved;
  const beat = beatTicks(bar.meter);
  const values = valuesOf(engraved);
  const notes = values.map(({ at, value, strike, begins }) => {
    const damped = strike !== null && strike.notes.length === 0;
    const silent = strike === null || (damped && !begins);
    const duration = durationOf(value);
    const note = silent
      ? new StaveNote({ keys: ['b/4'], duration: `${duration}r` })
      : new StaveNote({
          keys: [damped ? 'b/4/x2' : 'b/4'],
          duration: `${duration}${damped ? '' : 's'}`,
          stem_direction: 1,
        });
    if (value.dots > 0) Dot.buildAndAttach([note]);
    if (strike && begins && !silent) {
      const over = (sign: string) =>
        note.addModifier(new Articulation(sign).setPosition(Modifier.Position.ABOVE));
      if (signed(strike)) over(strike.dir === 'down' ? 'am' : 'a|');
      if (strike.accent === 'accent' || strike.accent === 'strong') over('a>');
    }
    place(note, stave, xOf(at) - 5);
    return note;
  });
  // Beams join what lies within a beat; rests part them.
  const groups = new Map<string, StaveNote[]>();
  let run = 0;
  values.forEach(({ at, value }, index) => {
    const note = notes[index]!;
    if (note.isRest() || UNBEAMED.has(value.type)) {
      run += 1;
      return;
    }
    const key = `${run} ${Math.floor(at / Math.max(beat, 960))}`;
    groups.set(key, [...(groups.get(key) ?? []), note]);
  });
  const beams = [...groups.values()]
    .filter((group) => group.length > 1)
    .map((group) => new Beam(group));
  notes.forEach((note) => note.setContext(context).draw());
  beams.forEach((beam) => beam.setContext(context).draw());
  values.forEach(({ begins, strike }, index) => {
    const [from, to] = [notes[index - 1], notes[index]!];
    if (begins || !strike || !from || to.isRest() || from.isRest()) return;
    new StaveTie({ first_note: from, last_note: to, first_indices: [0], last_indices: [0] })
      .setContext(context)
      .draw();
  });
  for (const three of threes(values, notes)) {
    new Tuplet(three, { num_notes: 3, notes_occupied: 2 }).setContext(context).draw();
  }
}

/** Notes of three in the time of two, a beat of them together. */
function threes(values: Placed[], notes: StaveNote[]): StaveNote[][] {
  const groups: StaveNote[][] = [];
  let ticks = 0;
  values.forEach(({ value }, index) => {
    if (!value.triplet) {
      ticks = 0;
      return;
    }
    if (ticks === 0) groups.push([]);
    groups.at(-1)!.push(notes[index]!);
    ticks = (ticks + value.ticks) % 960;
  });
  return groups.filter((group) => group.length > 1);
}
