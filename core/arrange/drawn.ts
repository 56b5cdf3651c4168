import type { Division, Pattern, PatternBeat, Stroke } from '../schema';
import { beatTicks } from '../time';
import type { Reach } from '../path';
import type { Ticks } from '../plain';
import { slots, sounds } from '../stroke';
import { ROLL_HITS } from './articulation';
import type { Strike, StrikeNote } from './performance';
import type { PlayedBar } from '../song';

const MISS: Stroke = { kind: 'miss' };
const HOLD: Stroke = { kind: 'hold' };

/** True for a bar with a stop, a held chord, or without its first stroke. */
function isCut({ content }: Pick<PlayedBar, 'content'>): boolean {
  const { stop, skipFirst } = content.rules ?? {};
  return stop !== undefined || skipFirst === true || content.chords.some(({ fermata }) => fermata);
}

/** True where a bar is not played as its pattern alone would have it. */
export function isPlayedOtherwise(
  bar: Pick<PlayedBar, 'content' | 'tick' | 'ticks'>,
  strikes: Strike[],
  leftOut: number[] = [],
): boolean {
  return (
    isCut(bar) ||
    bar.content.chords.some(({ arrive }) => arrive) ||
    strikes.some(({ run, transition, tune }) => run || transition || tune) ||
    bar.content.rules?.tune !== undefined ||
    leftOut.some((tick) => tick >= bar.tick && tick < bar.tick + bar.ticks)
  );
}

/** A stroke of the pattern as it is struck here: open or damped for a hand that travels, a bass to land with. */
function asStruck(stroke: Stroke, { kind, dir, accent, transition, landing }: Strike): Stroke {
  if (transition && kind === 'chuck') return { kind, dir, accent };
  if (transition && (stroke.kind === 'strum' || stroke.kind === 'pick')) {
    return { ...stroke, open: true };
  }
  if (!landing || kind === stroke.kind) return stroke;
  if (kind === 'bass' && stroke.kind === 'strum') return { kind, accent };
  // It lands as the whole chord, or rolled, though its pattern begins with a bass.
  if (kind === 'strum') return { kind, dir, accent };
  return kind === 'roll' ? { kind, dir, accent, hits: ROLL_HITS } : stroke;
}

/** The coarsest division of a beat, a multiple of the pattern's, on which all its notes lie; else the pattern's. */
function finest(division: number, beat: number, notes: Strike[], start: number): number {
  const lies = (parts: number) =>
    notes.every(({ tick, ticks, run }) => {
      const step = beat / parts;
      return (tick - start) % step === 0 && (!run || ticks % step === 0);
    });
  return [1, 2, 3, 4, 6, 8].find((parts) => parts % division === 0 && lies(parts)) ?? division;
}

/** A note of a line, as a stroke that is drawn on its string. */
function tuneStroke({ kind, dir, accent, notes }: Strike, strings: number): Stroke {
  const note = notes.at(-1)!;
  const placeOf = ({ string, fret }: StrikeNote) => ({ string: `s${strings - string}`, fret });
  const place = placeOf(note);
  if (kind === 'legato') {
    const arrived = notes.filter(({ passing }) => !passing).map(placeOf);
    return { kind, accent, steps: [{ how: note.legato!.how, strings: arrived }] };
  }
  if (kind === 'strum') {
    const reach = [...new Set(notes.map(({ string }) => strings - string))];
    return { kind, dir, accent, reach };
  }
  return { kind: 'pick', dir, accent, strings: [place] };
}

/** Strokes on strings of their own: the others go over all that sound. */
const ON_STRINGS = new Set<Strike['kind']>(['pick', 'bass']);

/**
 * The strings that the picks and basses of a bar strike on the chords that it has, for drawing.
 * @param pattern as it is drawn (`asPlayed`)
 * @param strikes those of the bar
 * @param from tick of the song at which the drawing begins
 * @returns by slot, from 0; nothing for strokes that go over the strings
 * @example struckStrings(pattern, strikesOfBar, bar.tick).get(0)?.bass // 1: the A string
 */
export function struckStrings(
  pattern: Pattern,
  strikes: Strike[],
  from: Ticks,
): Map<number, Reach> {
  const found = new Map<number, Reach>();
  const own = strikes.filter(({ kind, notes }) => ON_STRINGS.has(kind) && notes.length > 0);
  if (own.length === 0) return found;
  const at = new Map(own.map((strike) => [strike.tick - from, strike]));
  slots(pattern).forEach(({ tick, stroke }, slot) => {
    const strike = at.get(tick);
    if (!strike || (stroke.kind !== 'pick' && stroke.kind !== 'bass')) return;
    const touched = [...new Set(strike.notes.map(({ string }) => string))].sort((a, b) => a - b);
    found.set(slot, {
      first: touched[0]!,
      last: touched.at(-1)!,
      bass: stroke.kind === 'bass' ? touched[0]! : null,
      touched,
    });
  });
  return found;
}

/**
 * The pattern of a bar as it is played, for drawing: strokes on open strings hollow, the notes of a bass
 * run in the place of the strokes that made way for it, nothing after a stop or under a held chord.
 * @param strikes those of the bar
 * @param bar where it is played
 * @param strings how many the instrument has, to number those of a run
 * @param leftOut ticks of the song whose strokes are left out while the hand travels
 * @returns the pattern itself where nothing of the kind is in the bar
 * @example asPlayed(part.pattern, strikesOfBar, bar, 6)
 */
export function asPlayed(
  pattern: Pattern,
  strikes: Strike[],
  bar: Pick<PlayedBar, 'tick' | 'ticks' | 'content'>,
  strings: number,
  leftOut: number[] = [],
): Pattern {
  if (!isPlayedOtherwise(bar, strikes, leftOut)) return pattern;
  const barTick = bar.tick;
  const cut = isCut(bar);
  const alone = strikes.length > 0 && strikes.every(({ tune }) => tune);
  const lastTick = Math.max(-1, ...strikes.map(({ tick }) => tick - barTick));
  const beat = beatTicks(pattern.meter);
  const at = new Map(strikes.map((strike) => [strike.tick - barTick, strike]));
  const beats = pattern.beats.map((before, index): PatternBeat => {
    const start = index * beat;
    const notes = strikes.filter(
      ({ run, tune, tick }) =>
        (run || tune) && tick - barTick >= start && tick - barTick < start + beat,
    );
    const division = (
      notes.length > 0 ? finest(before.division, beat, notes, barTick + start) : before.division
    ) as Division;
    const fits = division % before.division === 0 && [1, 2, 3, 4, 6, 8].includes(division);
    const grid = fits ? division : before.division;
    const first = notes.find(({ run }) => run);
    const begins = first ? first.tick - barTick : Infinity;
    const strokes = Array.from({ length: grid }, (_, position): Stroke => {
      const tick = start + (position * beat) / grid;
      const strike = at.get(tick);
      if (strike?.run) {
        const [note] = strike.notes;
        const target = { string: strings - note!.string, fret: note!.fret };
        return { kind: 'bass', accent: 'normal', note: target };
      }
      const slides = strike?.kind === 'legato' && strike.landing;
      if ((strike?.tune || slides) && strike.notes.length > 0) return tuneStroke(strike, strings);
      if (tick >= begins) return MISS;
      const written = before.slots[(position * before.division) / grid] ?? MISS;
      const stroke = alone && sounds(written) ? MISS : written;
      if (cut && strike && !sounds(stroke)) {
        return { kind: 'strum', dir: 'down', accent: strike.accent };
      }
      if (cut && !strike && sounds(stroke)) return tick > lastTick ? HOLD : MISS;
      if (cut && tick > lastTick) return HOLD;
      if (leftOut.includes(barTick + tick)) return MISS;
      return strike ? asStruck(stroke, strike) : stroke;
    });
    return { division: grid, slots: strokes };
  });
  return { ...pattern, beats };
}
