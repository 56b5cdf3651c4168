import type { Ticks } from '../plain';
import {
  asPlayed,
  barCount,
  type Arrangement,
  type BarPattern,
  SPLIT_LABELS,
  type Strike,
  struckStrings,
} from '../arrange';
import {
  describeAlternate,
  describeBass,
  describeStrings,
  alternateOf,
  stringNames,
  stringThickness,
  type FrettedChord,
} from '../neck';
import { drawPath, FRAMES, type PathFrame } from '../path';
import type { Instrument, OwnAlternate, Pattern, Stroke } from '../schema';
import { firstFrom, type PlayedBar } from '../song';
import { isLoud, slots, sounds, strokeSign, strokeWord, divisions } from '../stroke';
import { count, type CountVocabulary } from '../time';
import { type chordsOver, drawFoot, drawNames } from './names';
import {
  circle,
  fitting,
  type SheetItem,
  line,
  NAME_GAP,
  nameSize,
  placed,
  shape,
  text,
  textWidth,
  wrapped,
} from './paper';

/** What a sheet is made of, each piece with its height, at 0, 0. */
export interface Block {
  height: number;
  items: SheetItem[];
  /** Stays on the page of what follows it. */
  leads?: boolean;
  /** The section that it is of: where it begins a page, that is said again. */
  section?: string;
}

const SOFT = 0.4;
/** Letters of a count on a beat and beside one, for each of a text. */
const BEAT_COUNT = 1.15;
const COUNT = 0.85;

/**
 * A wrist path with its count and words, as wide as asked.
 * @param on the instrument that it is played on: its strings are named, and as thick as they are low
 */
export function pathBlock(
  pattern: Pattern,
  width: number,
  size: number,
  strings: number,
  vocabulary: CountVocabulary,
  on?: Instrument,
): Block {
  const frame = FRAMES.middle;
  // Drawn as on a screen that is 620 wide to the bar, then made as large as there is room.
  const bars = Math.max(1, Math.ceil(pattern.beats.length / pattern.meter.beats));
  const screen = 620 * bars;
  const scale = width / screen;
  const drawing: PathFrame = { ...frame, width: screen, strings };
  const drawn = drawPath(pattern, drawing, () => null, 0.9);
  const items: SheetItem[] = [];
  const at = (d: string) => placed(d, 0, 0, scale);
  const thickness = on ? stringThickness(on) : [];
  drawn.strings.forEach((y, string) => {
    items.push(line(0, y * scale, width, y * scale, 0.3 + 0.5 * (thickness[string] ?? 0.4), 0.65));
  });
  const names = on ? stringNames(on) : [];
  names.forEach((name, string) => {
    const y = drawn.strings[string]! * scale + size * 0.22;
    items.push(text(-NAME_GAP, y, name, nameSize(size), { anchor: 'end', grey: SOFT }));
  });
  for (const piece of drawn.arm) {
    const passes = piece.kind === 'pass' || piece.kind === 'rest';
    items.push({
      kind: 'path',
      x: 0,
      y: 0,
      d: at(piece.d),
      fill: null,
      stroke: piece.kind === 'kink' ? 0 : 0.35,
      width: piece.kind === 'kink' ? 1.4 : 0.7,
      dash: passes ? [1, 2] : null,
    });
  }
  for (const d of drawn.sweeps) items.push(shape(at(d), null, 0, 0.9));
  const grid = slots(pattern);
  const counts = count(divisions(pattern), pattern.meter, { vocabulary });
  const top = frame.word * scale;
  const most = size * BEAT_COUNT;
  const counted = drawn.slots.map((slot, index) => ({
    x: slot.x * scale,
    words: counts[index] ?? '',
  }));
  const share = countSize(counted, most, 'bold') / most;
  drawn.slots.forEach((slot, index) => {
    const { stroke, position } = grid[index]!;
    for (const d of slot.brushes) {
      items.push(slot.hollow ? shape(at(d), null, 0, 0.8) : shape(at(d), 0));
    }
    if (slot.hatches) items.push(shape(at(slot.hatches), null, 0, 0.9));
    for (const dot of slot.dots) {
      const r = Math.max(2.2, 9 * scale);
      items.push(circle(dot.x * scale, dot.y * scale, r, dot.open ? 1 : 0, 0));
      const letters = r * (dot.label.length > 2 ? 0.92 : 1.3);
      items.push(
        text(dot.x * scale, dot.y * scale + letters * 0.35, dot.label, letters, {
          anchor: 'middle',
          weight: 'bold',
          grey: dot.open ? 0 : 1,
        }),
      );
    }
    for (const arc of slot.arcs) {
      items.push(shape(at(arc.d), null, 0, 1));
      if (!arc.letter) continue;
      const [x, y] = [arc.x * scale, arc.y * scale];
      items.push(text(x, y, arc.letter, size * 0.75, { anchor: 'middle' }));
    }
    if (slot.ring) items.push(circle(slot.ring.x * scale, slot.ring.y * scale, 6 * scale, null, 0));
    if (slot.fingers) {
      const { letters, y } = slot.fingers;
      // Beside the last stroke of a row they keep to the paper.
      const x = Math.min(slot.fingers.x * scale, width - textWidth(letters, size * 0.8, 'regular'));
      items.push(text(x, y * scale, letters, size * 0.8));
    }
    for (const accent of slot.accents)
      items.push(circle(accent.x * scale, accent.y * scale, 1.5, 0));
    const x = slot.x * scale;
    // A first slot may begin before the margin: a word in it does not.
    const room = Math.min((slot.right - slot.left) * scale - 1, 2 * x + size);
    const word = isLoud(stroke) ? strokeWord(stroke).toUpperCase() : strokeWord(stroke);
    const weight = isLoud(stroke) ? 'bold' : 'regular';
    const widthOf = (letters: string) => textWidth(letters, size * 0.8, weight);
    const said = widthOf(word) <= room ? word : plainSign(stroke);
    // Many strings at once have no shorter sign: they are written smaller.
    const smaller = Math.min(1, room / Math.max(1, widthOf(said)));
    items.push(
      text(
        x,
        top + size * 0.5,
        counts[index] ?? '',
        size * share * (position === 0 ? BEAT_COUNT : COUNT),
        {
          anchor: 'middle',
          weight: position === 0 ? 'bold' : 'regular',
          grey: position === 0 ? 0 : SOFT,
        },
      ),
      text(x, top + size * 1.6, said, size * 0.8 * smaller, {
        anchor: 'middle',
        weight,
        grey: sounds(stroke) ? 0 : SOFT,
      }),
    );
  });
  return { height: top + size * 2, items };
}

/** Signs that the fonts of a sheet have no letters for: arrows, the fan of a roll, the ring of a tap. */
const PLAIN_SIGNS: Record<string, string> = { '↓': 'D', '↑': 'U' };
function plainSign(stroke: Stroke): string {
  const sign = strokeSign(stroke);
  const known = [...sign].every((letter) => letter.codePointAt(0)! < 256);
  return PLAIN_SIGNS[sign] ?? (known ? sign : strokeWord(stroke).slice(0, 1));
}

/** A diagram of a chord: nut on top, the thumb's string on the left; dots carry their fingers. */
export function chordBlock(
  held: FrettedChord,
  instrument: Instrument,
  capo: number,
  size: number,
  leftHanded: boolean,
  /** Whether the bass is marked, and what the player wants as alternates; null where it is not. */
  basses: { own?: OwnAlternate[] | undefined } | null,
): Block & { width: number } {
  const { frets, fingers } = held.shape;
  const count = frets.length;
  const gap = size * 0.95;
  const width = gap * (count - 1);
  const pressed = frets.filter((fret): fret is number => fret !== null && fret > 0);
  const most = Math.max(0, ...pressed);
  const first = most > 4 ? Math.min(...pressed) : 1;
  const rows = Math.max(4, most - first + 1);
  const row = size * 1.15;
  const left = size * 1.6;
  const top = size * 3.1;
  const x = (string: number) => left + gap * (leftHanded ? count - 1 - string : string);
  const y = (fret: number) => top + (fret - first + 0.5) * row;
  const items: SheetItem[] = [
    text(
      left + width / 2,
      size * 1.2,
      held.symbol,
      fitting(held.symbol, width + size * 3, size * 1.3, 'bold'),
      {
        anchor: 'middle',
        weight: 'bold',
      },
    ),
  ];
  for (let string = 0; string < count; string += 1) {
    items.push(line(x(string), top, x(string), top + rows * row, 0.6, 0.3));
  }
  for (let fret = 0; fret <= rows; fret += 1) {
    const nut = fret === 0 && first === 1;
    items.push(
      line(left, top + fret * row, left + width, top + fret * row, nut ? 2 : 0.6, nut ? 0 : 0.3),
    );
  }
  if (first > 1) {
    items.push(
      text(left - size * 0.55, y(first) + size * 0.3, String(first), size * 0.8, { anchor: 'end' }),
    );
  }
  const barred = new Map<number, { fret: number; from: number; to: number }>();
  frets.forEach((fret, string) => {
    const finger = fingers[string] ?? 0;
    if (fret === null || fret === 0 || finger === 0) return;
    const known = barred.get(finger);
    barred.set(finger, known ? { ...known, to: string } : { fret, from: string, to: string });
  });
  for (const { fret, from, to } of barred.values()) {
    if (to > from) items.push(line(x(from), y(fret), x(to), y(fret), size * 0.5, 0));
  }
  frets.forEach((fret, string) => {
    const mark = top - size * 0.45;
    if (fret === null) {
      const touched = fingers[string] ? `x${fingers[string]}` : 'x';
      items.push(text(x(string), mark, touched, size * 0.85, { anchor: 'middle', grey: SOFT }));
    } else if (fret === 0) {
      items.push(circle(x(string), mark - size * 0.25, size * 0.24, null, 0));
    } else {
      const finger = fingers[string] ?? 0;
      items.push(circle(x(string), y(fret), size * 0.42, 0));
      if (finger > 0) {
        items.push(
          text(x(string), y(fret) + size * 0.26, String(finger), size * 0.72, {
            anchor: 'middle',
            weight: 'bold',
            grey: 1,
          }),
        );
      }
    }
  });
  const foot = top + rows * row;
  if (basses) items.push(...bassMarks(held, { instrument, capo }, basses.own, x, foot, size));
  return { width: width + left * 1.6, height: foot + size * 1.2, items };
}

/** Below the strings: an arrow for the bass note, a ring for its alternate. */
function bassMarks(
  held: FrettedChord,
  on: { instrument: Instrument; capo: number },
  own: OwnAlternate[] | undefined,
  x: (string: number) => number,
  foot: number,
  size: number,
): SheetItem[] {
  const bass = x(held.bass.string);
  const tip = size * 0.3;
  const arrow = shape(
    `M${bass.toFixed(2)} ${(foot + 2).toFixed(2)}L${(bass - tip).toFixed(2)} ${(foot + 2 + tip * 1.6).toFixed(2)}L${(bass + tip).toFixed(2)} ${(foot + 2 + tip * 1.6).toFixed(2)}Z`,
    0,
  );
  const alternate = alternateOf(held, on, own);
  const sounds = held.shape.frets[alternate.string] === alternate.fret;
  if (alternate.relation === 'root again' || !sounds) return [arrow];
  return [arrow, circle(x(alternate.string), foot + size * 0.5, size * 0.22, null, 0)];
}

/** One line of the bass table. */
export function bassLine(
  held: FrettedChord,
  instrument: Instrument,
  capo: number,
  own?: OwnAlternate[],
): { bass: string; alternate: string; strings: string } {
  const alternate = alternateOf(held, { instrument, capo }, own);
  return {
    bass: describeBass(instrument, held.bass),
    alternate: describeAlternate(instrument, alternate),
    strings: describeStrings(instrument, held.shape),
  };
}

/** The size at which numbers under a bar stay apart: the usual one, or as much smaller as the nearest two ask for. */
function countSize(
  numbers: { x: number; words: string }[],
  usual: number,
  weight: 'regular' | 'bold' = 'regular',
): number {
  const shares = numbers.slice(1).map(({ x, words }, index) => {
    const before = numbers[index]!;
    const wide = textWidth(words, usual, weight) + textWidth(before.words, usual, weight);
    return (x - before.x) / (wide / 2 + 1);
  });
  return usual * Math.min(1, ...shares);
}

/** What is said under a bar: how its rhythm is split, a stop, a run. */
export function barNote({ content }: PlayedBar, parts: Arrangement['rhythms'][number]): string {
  const notes: string[] = [];
  const split = parts.find((part) => part.split !== null)?.split;
  if (split && split !== 'roll') {
    notes.push(SPLIT_LABELS.find(({ value }) => value === split)!.label);
  }
  if (content.rules?.stop !== undefined) notes.push('stop');
  if (content.rules?.skipFirst) notes.push('no first stroke');
  if (content.pickup) notes.push('pick-up');
  for (const { run, fermata, symbol } of content.chords) {
    if (run) notes.push(`run of ${run.count} into ${symbol}`);
    if (fermata) notes.push('hold');
  }
  return notes.join(', ');
}

const ownStrings = ({ kind, notes }: Strike) =>
  kind === 'pick' || kind === 'bass' ? notes.map(({ string }) => string).join('.') : '';

/** What tells a bar's drawing from another's on the same pattern: its strikes and its length. */
export function barSignature({ performance }: Arrangement, bar: PlayedBar): string {
  const { strikes } = performance;
  const end = bar.tick + bar.ticks;
  const struck = strikes
    .slice(firstFrom(strikes, bar.tick), firstFrom(strikes, end))
    .map(
      (one) =>
        `${one.tick - bar.tick}${one.kind}${one.dir}${one.accent}${one.transition}${one.run}${ownStrings(one)}`,
    );
  return `${bar.lead}/${bar.ticks}/${struck.join()}`;
}

/**
 * A bar to be played from: its path, small, with its chords where they land.
 * @param over the chords over it, as `chordsOver` gives them
 * @param bare leaves the path out: something else is drawn under it
 */
export function barBlock(
  arranged: Arrangement,
  bar: PlayedBar,
  drawing: BarPattern,
  width: number,
  size: number,
  note: string,
  over: ReturnType<typeof chordsOver>,
  bare = false,
): Block & { foot: number; above: number; xOf: (ticks: Ticks) => number } {
  const strings = arranged.song.instrument.strings.length;
  const { strikes: all } = arranged.performance;
  const end = bar.tick + bar.ticks;
  const strikes = all.slice(firstFrom(all, bar.tick), firstFrom(all, end));
  const pattern = asPlayed(drawing.pattern, strikes, bar, strings, arranged.performance.leftOut);
  const counts = barCount(bar, pattern, 1);
  const reach = struckStrings(pattern, strikes, bar.tick);
  const frame = FRAMES.middle;
  const screen = 560;
  const scale = width / screen;
  const top = size * 1.7;
  const band = { ...frame, top: 16, bottom: 96, bandTop: 28, bandBottom: 84 };
  const drawn = drawPath(
    pattern,
    { ...band, width: screen, strings, pad: 6 },
    (slot) => reach.get(slot) ?? null,
    1,
    drawing.phase,
  );
  const at = (d: string) => placed(d, 0, top, scale);
  const foot = bare ? top + size * 0.9 : top + 104 * scale;
  const items: SheetItem[] = [];
  for (const y of bare ? [] : drawn.strings)
    items.push(line(0, top + y * scale, width, top + y * scale, 0.35, 0.75));
  for (const piece of bare ? [] : drawn.arm) {
    if (piece.kind !== 'pass' && piece.kind !== 'rest') {
      items.push({
        kind: 'path',
        x: 0,
        y: 0,
        d: at(piece.d),
        fill: null,
        stroke: 0.5,
        width: 0.45,
        dash: null,
      });
    }
  }
  drawn.slots.forEach((slot) => {
    for (const d of bare ? [] : slot.brushes) {
      items.push(slot.hollow ? shape(at(d), null, 0, 0.5) : shape(at(d), 0));
    }
    if (slot.hatches && !bare) items.push(shape(at(slot.hatches), null, 0, 0.6));
    for (const dot of bare ? [] : slot.dots) {
      items.push(circle(dot.x * scale, top + dot.y * scale, 2, dot.open ? 1 : 0, 0));
    }
  });
  const numbers = drawn.slots.flatMap((slot, index) => {
    const words = counts[index] ?? '';
    return /^\d+$/.test(words) ? [{ x: slot.x * scale, words }] : [];
  });
  const letters = countSize(numbers, size * 0.7);
  for (const { x, words } of numbers) {
    items.push(text(x, foot + size * 0.65, words, letters, { anchor: 'middle', grey: SOFT }));
  }
  const { names, feet } = over;
  const xOf = (ticks: Ticks) => drawn.xOf(ticks) * scale;
  const flag = bare ? foot : top + band.bandBottom * scale;
  for (const landed of feet) {
    items.push(...drawFoot(xOf(landed.at), landed, size * 0.4, flag, size));
  }
  // Names leave the flag free of a chord that is named over the next bar.
  const flagged = feet.find((landed) => landed.over);
  const named = drawNames(
    names.map(({ at: ticks, words }) => ({ x: xOf(ticks), words })),
    flagged ? xOf(flagged.at) : width,
    size,
  );
  items.push(...named.items);
  if (!bare) items.push(line(width, size * 0.3, width, foot, 0.9));
  // Under the counts, and beside the number of the bar.
  const notes = wrapped(note, width - size * 3.2, size * 0.7, 'regular');
  notes.forEach((row, index) => {
    items.push(text(size * 0.9, foot + size * (1.45 + index * 0.85), row, size * 0.7));
  });
  return {
    height: foot + size * (0.8 + Math.max(1, notes.length) * 0.85),
    items,
    foot,
    above: named.above,
    xOf,
  };
}
