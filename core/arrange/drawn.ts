import type { Division, Pattern, PatternBeat, Stroke } from '../schema';
import { beatTicks } from '../time';
import { sounds } from '../stroke';
import type { Strike } from './performance';
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
    strikes.some(({ run, transition }) => run || transition) ||
    leftOut.some((tick) => tick >= bar.tick && tick < bar.tick + bar.ticks)
  );
}

/** A stroke of the pattern as it is struck here: open or damped for a hand that travels, a bass to land with. */
function asStruck(stroke: Stroke, { kind, dir, accent, transition, landing }: Strike): Stroke {
  if (transition && kind === 'chuck') return { kind, dir, accent };
  if (transition && (stroke.kind === 'strum' || stroke.kind === 'pick')) {
    return { ...stroke, open: true };
  }
  return landing && kind === 'bass' && stroke.kind === 'strum' ? { kind, accent } : stroke;
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
  const lastTick = Math.max(-1, ...strikes.map(({ tick }) => tick - barTick));
  const beat = beatTicks(pattern.meter);
  const at = new Map(strikes.map((strike) => [strike.tick - barTick, strike]));
  const beats = pattern.beats.map((before, index): PatternBeat => {
    const start = index * beat;
    const notes = strikes.filter(
      ({ run, tick }) => run && tick - barTick >= start && tick - barTick < start + beat,
    );
    const division = (
      notes[0] ? Math.max(before.division, beat / notes[0].ticks) : before.division
    ) as Division;
    const fits = division % before.division === 0 && [1, 2, 3, 4, 6, 8].includes(division);
    const grid = fits ? division : before.division;
    const begins = notes.length > 0 ? notes[0]!.tick - barTick : Infinity;
    const slots = Array.from({ length: grid }, (_, position): Stroke => {
      const tick = start + (position * beat) / grid;
      const strike = at.get(tick);
      if (strike?.run) {
        const [note] = strike.notes;
        const target = { string: strings - note!.string, fret: note!.fret };
        return { kind: 'bass', accent: 'normal', note: target };
      }
      if (tick >= begins) return MISS;
      const stroke = before.slots[(position * before.division) / grid] ?? MISS;
      if (cut && strike && !sounds(stroke)) {
        return { kind: 'strum', dir: 'down', accent: strike.accent };
      }
      if (cut && !strike && sounds(stroke)) return tick > lastTick ? HOLD : MISS;
      if (cut && tick > lastTick) return HOLD;
      if (leftOut.includes(barTick + tick)) return MISS;
      return strike ? asStruck(stroke, strike) : stroke;
    });
    return { division: grid, slots };
  });
  return { ...pattern, beats };
}
