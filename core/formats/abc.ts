import type { Ticks } from '../plain';
import { arrangement, type Strike } from '../arrange';
import { noteName, plainSymbol, usesFlats } from '../neck';
import type { Song } from '../schema';
import { passageName, songKey } from '../song';
import { barTicks, beatTicks, pulseTicks, TICKS_PER_QUARTER } from '../time';
import { nearestNotated, noteValues } from '../time';
import { OWN_FIELD, ownRows } from './own';

/** Of what lengths are counted in: an eighth. */
const UNIT = TICKS_PER_QUARTER / 2;

/** A length in eighths, as ABC writes it: nothing for one, 3 for three, /2 for half of one. */
function lengthOf(ticks: Ticks): string {
  const divisor = gcd(ticks, UNIT);
  const [over, under] = [ticks / divisor, UNIT / divisor];
  return `${over === 1 ? '' : over}${under === 1 ? '' : `/${under}`}`;
}
const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

/** A name in quotes or in a field: no quotes, no line breaks, and no comment. */
const plain = (words: string) =>
  words
    .replace(/["%\\]/g, '’')
    .replace(/[\p{C}\s]+/gu, ' ')
    .trim();

/** Down and up are the signs of a bow, a damped stroke a note with an x for its head. */
function signsOf({ kind, dir, accent }: Strike): string {
  const loud = accent === 'accent' || accent === 'strong' ? '!>!' : '';
  const sign = kind === 'tap' ? '' : dir === 'down' ? 'v' : 'u';
  const head = kind === 'chuck' || kind === 'tap' ? '!style=x!' : '!style=rhythm!';
  return `${loud}${head}${sign}B`;
}

interface AbcNote {
  at: number;
  ticks: Ticks;
  triplet: boolean;
  label: string;
  head: string;
  tied: string;
}

/** The notes of a bar in a row, beats apart from each other; three in the time of two are marked as that. */
function spelt(notes: AbcNote[], beat: number): string {
  return notes
    .map(({ at, ticks, triplet, label, head, tied }, index) => {
      const before = notes[index - 1];
      const inBeat = (one: AbcNote | undefined) =>
        one?.triplet && Math.floor(one.at / beat) === Math.floor(at / beat);
      const spaced = index > 0 && at % beat === 0 ? ' ' : '';
      const begins = triplet && !inBeat(before);
      const count = begins ? notes.filter((one) => one.at >= at && inBeat(one)).length : 0;
      const length = lengthOf(triplet ? (ticks * 3) / 2 : ticks);
      return `${spaced}${begins ? `(3:2:${count}` : ''}${label}${head}${length}${tied}`;
    })
    .join('');
}

/**
 * The song as ABC 2.1: its chords over its rhythm on one line, with the signs of the bow for down and up, written
 * out as it is played. Strings, pitches and loudness are not in it.
 * @example toAbc(song).startsWith('%abc-2.1') // true
 */
export function toAbc(song: Song): string {
  const { bars, performance } = arrangement(song);
  const { meter, tempo } = song;
  const key = songKey(song);
  const pulse = pulseTicks(meter) / (4 * TICKS_PER_QUARTER);
  const fraction =
    pulse === 0.375 ? '3/8' : pulse === 0.125 ? '1/8' : pulse === 0.5 ? '1/2' : '1/4';
  const lines = [
    '%abc-2.1',
    'X:1',
    `T:${plain(song.title)}`,
    `M:${meter.beats}/${meter.unit}`,
    'L:1/8',
    `Q:${fraction}=${Math.round(tempo)}`,
    ...(song.capo > 0 ? [`N:capo ${song.capo}, chords as they are held`] : []),
    `K:${noteName(key.tonic, usesFlats(key))}${key.minor ? 'm' : ''} clef=perc`,
  ];
  const row: string[] = [];
  let passage = -1;
  let before = meter;
  let nextStrike = 0;
  let nextLanding = 0;
  for (const bar of bars) {
    if (bar.passage !== passage) {
      flush(row, lines);
      passage = bar.passage;
      const name = passageName(song, bar);
      if (name) lines.push(`P:${plain(name)}`);
    }
    const { strikes } = performance;
    const placeOf = (tick: Ticks) => nearestNotated(Math.max(0, tick - bar.tick) + bar.lead);
    const end = bar.lead + bar.ticks;
    const cuts = new Map<number, { strike?: Strike; chord?: string }>([[bar.lead, {}]]);
    for (; strikes[nextStrike]?.bar === bar.index; nextStrike += 1) {
      const strike = strikes[nextStrike]!;
      const at = placeOf(strike.tick);
      if (at < end) cuts.set(at, { strike });
    }
    const { landings } = performance;
    for (; (landings[nextLanding]?.tick ?? Infinity) < bar.tick + bar.ticks; nextLanding += 1) {
      const { tick, symbol } = landings[nextLanding]!;
      const at = placeOf(tick);
      if (at < end) cuts.set(at, { ...cuts.get(at), chord: plainSymbol(symbol) });
    }
    const places = [...cuts].sort(([a], [b]) => a - b);
    const beat = beatTicks(bar.meter);
    const notes = places.flatMap(([at, { strike, chord }], index): AbcNote[] => {
      const until = places[index + 1]?.[0] ?? end;
      const label = chord === undefined ? '' : `"${plain(chord)}"`;
      // Lengths that one note cannot have are tied, so that any reader counts them.
      let from = at;
      return noteValues(at, until - at, beat).map(({ ticks, triplet }, part, all) => {
        const start = from;
        from += ticks;
        const tied = strike && part < all.length - 1 ? '-' : '';
        const head = strike ? (part === 0 ? signsOf(strike) : 'B') : 'z';
        return { at: start, ticks, triplet, label: part === 0 ? label : '', head, tied };
      });
    });
    const written = spelt(notes, beat);
    const other = bar.meter !== before ? `[M:${bar.meter.beats}/${bar.meter.unit}]` : '';
    before = bar.meter;
    row.push(`${other}${written}`);
    if (row.length === 4 || bar.ticks < barTicks(bar.meter)) flush(row, lines);
  }
  flush(row, lines);
  // Comments, which other readers pass over.
  lines.push(...ownRows(song).map((own) => `% ${OWN_FIELD} ${own}`));
  return `${lines.join('\n')}\n`;
}

function flush(row: string[], lines: string[]): void {
  if (row.length > 0) lines.push(`${row.join(' | ')} |`);
  row.length = 0;
}
