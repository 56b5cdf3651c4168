import type { Milliseconds, Seconds, Ticks } from '../plain';
import type { Bar, BeatMap, HeardLanding, Placement, Section } from '../schema';
import { printProgression } from '../song';
import { barTicks, beatTicks, countNumber, EIGHTH, SIXTEENTH, strongBeats } from '../time';
import { secondsOf, tickOf, wholeBars } from './beatMap';

/** Chord changes that were heard, on the grid of the bars. */

/**
 * A press, put on the nearest slot of the grid.
 * @param seconds of the recording at which the key was pressed
 * @param late seconds by which presses of this player come after what they hear
 * @param step ticks of the grid: a sixteenth where it is left out
 * @returns its tick from the first bar line, and by how many milliseconds the press was moved
 */
export function landOn(
  map: BeatMap,
  seconds: Seconds,
  late: Seconds = 0,
  step: Ticks = SIXTEENTH,
): { tick: Ticks; moved: Milliseconds } {
  const tick = Math.max(0, Math.round(tickOf(map, seconds - late) / step) * step);
  return { tick, moved: Math.round((secondsOf(map, tick) - seconds) * 1000) };
}

/**
 * Where on the grid a landing is, in the player's words.
 * @example placeWords(map, 4800) // 'bar 2, the & of 2'
 */
export function placeWords({ meter }: Pick<BeatMap, 'meter'>, tick: Ticks): string {
  const bar = barTicks(meter);
  const into = (tick % bar) / beatTicks(meter);
  const number = countNumber(meter, Math.floor(into));
  const part = into % 1;
  const after = part === 0.5 ? 'the & of ' : part < 0.5 ? 'the e of ' : 'the a of ';
  return `bar ${Math.floor(tick / bar) + 1}, ${part === 0 ? '' : after}${number}`;
}

/** How early a change on this tick is of a strong beat, as a push: an eighth, a sixteenth, or not at all. */
function pushOf(tick: Ticks, beat: number, strong: number[], bar: number): Placement['push'] {
  for (const push of [EIGHTH, SIXTEENTH] as const) {
    const into = (tick + push) % bar;
    if (push < beat && into % beat === 0 && strong.includes(into / beat)) return push;
  }
  return 0;
}

/**
 * The bars of a song from the changes that were heard: splits where chords share a bar, pushes where one comes
 * just before a strong beat. A change that has no name yet is left out.
 * @example barsOf(map, [{ tick: 0, moved: 0, symbol: 'A' }]).length
 */
export function barsOf(map: BeatMap, landings: HeardLanding[]): Bar[] {
  const { meter } = map;
  const length = barTicks(meter);
  const beat = beatTicks(meter);
  const strong = strongBeats(meter);
  const bars: Bar[] = Array.from({ length: wholeBars(map) }, () => ({ chords: [] }));
  let before: string | null = null;
  for (const { tick, symbol } of [...landings].sort((a, b) => a.tick - b.tick)) {
    if (symbol === null || symbol === before) continue;
    const push = pushOf(tick, beat, strong, length);
    const meant = tick + push;
    const bar = bars[Math.floor(meant / length)];
    if (!bar) continue;
    const at = meant % length;
    if (bar.chords.some((chord) => chord.at === at)) continue;
    bar.chords.push({ at, push, symbol });
    before = symbol;
  }
  const last = bars.findLastIndex(({ chords }) => chords.length > 0);
  return bars.slice(0, Math.max(1, last + 1));
}

const BARS_A_LINE = 4;

/** The same as sections, four bars to a line, for a song. */
export function sectionsOf(map: BeatMap, landings: HeardLanding[], name = ''): Section[] {
  const bars = barsOf(map, landings);
  const lines = [];
  for (let from = 0; from < bars.length; from += BARS_A_LINE) {
    lines.push({ bars: bars.slice(from, from + BARS_A_LINE), times: 1 });
  }
  return [{ name, lines }];
}

/** The line of text that the changes make. */
export function lineOf(map: BeatMap, landings: HeardLanding[]): string {
  return printProgression(sectionsOf(map, landings), map.meter);
}
