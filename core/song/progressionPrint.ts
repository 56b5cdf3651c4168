import { type Key, sayDegree, writtenKey } from '../neck';
import type { Bar, DegreeStyle, Meter, Passage, Placement, RoundsOver, Section } from '../schema';
import { EIGHTH, meterName, SIXTEENTH } from '../time';
import { passageHead } from './passages';
import { FINER, HOLD, REPEAT_BAR, type BarGrid, gridOf, shareOf } from './progressionSyntax';

const PUSH_MARKS: Record<Placement['push'], string> = { 0: '', [EIGHTH]: '<', [SIXTEENTH]: '<<' };

/** The starts that a bar's chords would have if they shared it equally. */
function sharesEqually(bar: Bar, grid: BarGrid): boolean {
  const share = shareOf(grid, bar.chords.length);
  return share !== null && bar.chords.every((chord, index) => chord.at === index * share);
}

/** How a song writes its chords: in a key that is named, and by its steps where that is chosen. */
export interface WrittenIn {
  key?: Key | undefined;
  degrees?: DegreeStyle | undefined;
  /** How times round are counted. */
  endings?: RoundsOver;
}

function printChord(
  { push, symbol, substitutes, fermata }: Placement,
  { key, degrees }: WrittenIn,
): string {
  const name = (chord: string) => (key && degrees ? sayDegree(chord, key, degrees) : chord);
  const others = substitutes?.map(({ time, symbol: other }) => `${String(time)}=${name(other)}`);
  return `${PUSH_MARKS[push]}${name(symbol)}${others ? `[${others.join()}]` : ''}${fermata ? '~' : ''}`;
}

function printBar(bar: Bar, meter: Meter, writtenIn: WrittenIn): string {
  if (bar.unread !== undefined) return bar.unread;
  const own = bar.meter
    ? `(${meterName(bar.meter)}) `
    : bar.pickup !== undefined
      ? `(pickup ${bar.pickup}) `
      : '';
  const grid = gridOf(bar, meter);
  if (bar.chords.length === 0) return `${own}${HOLD}`;
  const print = (chord: Placement) => printChord(chord, writtenIn);
  if (sharesEqually(bar, grid)) return own + bar.chords.map(print).join(' ');
  const { beats, beat } = grid;
  const count = FINER.find((finer) => bar.chords.every(({ at }) => at % (beat / finer) === 0)) ?? 4;
  const cells = Array.from({ length: beats * count }, (_, index) => {
    const chord = bar.chords.find((candidate) => candidate.at === (index * beat) / count);
    return chord ? print(chord) : HOLD;
  });
  return own + cells.join(' ');
}

/** True where two bars are written alike. */
function sameBar(a: Bar, b: Bar, meter: Meter): boolean {
  return a === b || (a.unread === b.unread && printBar(a, meter, {}) === printBar(b, meter, {}));
}

/** A passage as it reads back; a wider gap tells it from a section that is called “Verse +2”. */
function printPassage(passage: Passage, names: Set<string>): string {
  const { times, shift, lastLines } = passage;
  const say = (gap: string) => passageHead(passage, gap, '-');
  const words = names.has(say(' ')) && (shift || lastLines) ? say('  ') : say(' ');
  return times > 1 ? `${words} x${times}` : words;
}

/**
 * Prints sections as the text that reads back to them. A bar that is the same as the one before it
 * in its line is printed `%`.
 * @example printProgression(readProgression('A|A', METERS['4/4']).sections, METERS['4/4']) // 'A | %'
 */
export function printProgression(
  sections: Section[],
  meter: Meter,
  order?: Passage[],
  writtenIn: WrittenIn = {},
): string {
  const rows = sections.flatMap((section, index) => {
    const opens = index === 0 && section.name === '' && section.lines.length > 0;
    const header = opens ? [] : [`${section.name}:`];
    const lines = section.lines.map((line) => {
      const bars = line.bars.map((bar, at) => {
        const before = line.bars[at - 1];
        return before && bar.unread === undefined && sameBar(before, bar, meter)
          ? REPEAT_BAR
          : printBar(bar, meter, writtenIn);
      });
      // An empty first or last cell would pass for an outer bar line, so it is given one.
      const open = bars[0] === '' ? '| ' : '';
      const close = bars.at(-1) === '' ? ' |' : '';
      const repeat = line.times > 1 ? ` x${line.times}` : '';
      const ending = line.only === undefined ? '' : `${String(line.only)}) `;
      return `${ending}${open}${bars.join(' | ')}${close}${repeat}`;
    });
    return [...header, ...lines];
  });
  if (writtenIn.key) rows.unshift(`Key: ${writtenKey(writtenIn.key)}`);
  if (order) {
    const names = new Set(sections.map(({ name }) => name));
    rows.push(`Order: ${order.map((passage) => printPassage(passage, names)).join(', ')}`);
  }
  if (writtenIn.endings) rows.push('Endings: over the song');
  return rows.join('\n');
}
