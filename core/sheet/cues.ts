import type { Arrangement } from '../arrange';
import { plural } from '../plain';
import { passageName } from '../song';
import type { Block } from './drawn';
import { text, wrapped } from './paper';
import { heading, type Frame } from './frame';

/** A passage of a song as whoever leads calls it. */
export interface Cue {
  section: string;
  first: number;
  last: number;
  /** The chord that it opens on, and the one that it ends on. */
  opens: string | null;
  ends: string | null;
}

/**
 * The passages of a song in the order of playing, with their bars from 1 and the chords that they open and end on.
 * @example cuesOf(arranged)[0] // { section: 'Verse', first: 1, last: 8, opens: 'A', ends: 'E7' }
 */
export function cuesOf({
  song,
  bars,
  performance,
}: Pick<Arrangement, 'song' | 'bars' | 'performance'>): Cue[] {
  const heldAt = (tick: number) =>
    performance.landings.findLast((landing) => landing.tick <= tick)?.symbol ?? null;
  const cues: (Cue & { passage: number })[] = [];
  for (const bar of bars) {
    const { passage, index, tick, ticks } = bar;
    const last = cues.at(-1);
    const ends = heldAt(tick + ticks - 1);
    if (last?.passage === passage) {
      last.last = index + 1;
      last.ends = ends;
      continue;
    }
    cues.push({
      passage,
      section: passageName(song, bar),
      first: index + 1,
      last: index + 1,
      opens: heldAt(tick),
      ends,
    });
  }
  return cues.map(({ passage: _, ...cue }) => cue);
}

/** The order of a song and what to call: for whom leads. */
export function orderOf(arranged: Arrangement, room: Frame): Block[] {
  const cues = cuesOf(arranged);
  if (cues.length === 0) return [];
  const { size, width } = room;
  const rows = cues.map(({ section, first, last, opens, ends }, index): Block => {
    const chords = [opens && `from ${opens}`, ends && ends !== opens && `to ${ends}`];
    const facts = [
      first === last ? `bar ${first}` : `bars ${first} to ${last}`,
      plural(last - first + 1, 'bar'),
      chords.filter(Boolean).join(' '),
    ].filter(Boolean);
    const words = `${index + 1}. ${section || 'The song'}: ${facts.join(' · ')}`;
    const lines = wrapped(words, width, size, 'regular');
    return {
      height: size * (0.2 + 1.3 * lines.length),
      items: lines.map((row, at) => text(0, size * (1 + at * 1.3), row, size)),
    };
  });
  return [heading('Order and cues', room), ...rows];
}
