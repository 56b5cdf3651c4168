import { INSTRUMENTS, instrumentWords, noteName, stringNames } from '../neck';
import { plural } from '../plain';
import type { Song } from '../schema';
import type { Block } from './drawn';
import type { Engraver } from './engraving';
import { flow, numbered, paperOf, type Sheet, type SheetWish, sizeOf, songPages } from './layout';
import { MARGIN, shortened, text } from './paper';
import { heading, type Frame, SOFT } from './frame';

/** What the hands have to do between two songs, and how much that is. */
export interface Changeover {
  /** Sentences; none where one song can follow the other at once. */
  does: string[];
  /** 0 for nothing; a capo is quickly moved, a string is retuned, another instrument is taken up. */
  effort: number;
}

/** What each is worth beside moving a capo. */
const [CAPO, STRING, TAKE_UP] = [1, 2, 6];

const isOctave = (semitones: number): boolean => semitones !== 0 && semitones % 12 === 0;

/** The songs as they are played by whom the booklet is for. */
const playedOn = (song: Song, { instrument }: Pick<SheetWish, 'instrument'>): Song =>
  instrument === null ? song : { ...song, instrument: INSTRUMENTS[instrument] };

/**
 * What has to be retuned, re-capoed or taken up between two songs.
 * @example changeover(song, { ...song, capo: 2 }).does // ['Capo to fret 2.']
 */
export function changeover(from: Song, to: Song): Changeover {
  const does: string[] = [];
  let effort = 0;
  const [one, other] = [from.instrument, to.instrument];
  if (one.family !== other.family || one.strings.length !== other.strings.length) {
    does.push(`Take up the ${instrumentWords(other)}.`);
    effort += TAKE_UP;
  } else {
    const names = stringNames(other);
    const sounds = ({ strings, offset }: Song['instrument'], at: number) => strings[at]! + offset;
    const retuned = other.strings.flatMap((_, at) => {
      const [before, after] = [sounds(one, at), sounds(other, at)];
      if (before === after || isOctave(after - before)) return [];
      return [`${names[at]} from ${noteName(before % 12, true)} to ${noteName(after % 12, true)}`];
    });
    if (retuned.length > 0) {
      does.push(`Retune ${retuned.join(', ')}.`);
      effort += retuned.length * STRING;
    }
    // Nobody winds a string an octave: another string goes on, or another instrument is taken up.
    const octaves = other.strings.flatMap((_, at) => {
      const way = sounds(other, at) - sounds(one, at);
      return isOctave(way) ? [`the ${way < 0 ? 'low' : 'high'} ${names[at]} string`] : [];
    });
    if (octaves.length > 0) {
      does.push(`Take up the ${instrumentWords(other)}, or put on ${octaves.join(' and ')}.`);
      effort += TAKE_UP;
    }
  }
  if (from.capo !== to.capo) {
    does.push(to.capo === 0 ? 'Capo off.' : `Capo to fret ${to.capo}.`);
    effort += CAPO;
  }
  return { does, effort };
}

/** Songs up to which every order is looked at; above it, the nearest next is taken and then mended. */
const EXACT = 12;

/**
 * The order of songs in which least has to be retuned, re-capoed and taken up between them.
 * @returns indexes of the songs; of several orders the one that is nearest to how they stand
 * @example easiestOrder([song, { ...song, capo: 2 }, song]) // [0, 2, 1]
 */
export function easiestOrder(songs: Song[]): number[] {
  const count = songs.length;
  if (count < 3) return songs.map((_, index) => index);
  const efforts = songs.map((from) => songs.map((to) => changeover(from, to).effort));
  return count <= EXACT ? exactOrder(efforts) : nearOrder(efforts);
}

/** By all subsets of songs that were played, and the one played last. */
function exactOrder(efforts: number[][]): number[] {
  const count = efforts.length;
  const all = (1 << count) - 1;
  const least = Array.from({ length: 1 << count }, () => new Float64Array(count).fill(Infinity));
  const before = Array.from({ length: 1 << count }, () => new Int8Array(count).fill(-1));
  // A little for each song that comes earlier than it stands keeps the order where it costs nothing.
  const early = (played: number, next: number) => {
    let passed = 0;
    for (let song = 0; song < next; song += 1) if (!(played & (1 << song))) passed += 1;
    return passed * 1e-4;
  };
  for (let song = 0; song < count; song += 1) least[1 << song]![song] = early(0, song);
  for (let played = 1; played <= all; played += 1) {
    for (let last = 0; last < count; last += 1) {
      const effort = least[played]![last]!;
      if (effort === Infinity) continue;
      for (let next = 0; next < count; next += 1) {
        if (played & (1 << next)) continue;
        const then = played | (1 << next);
        const sum = effort + efforts[last]![next]! + early(played, next);
        if (sum < least[then]![next]!) {
          least[then]![next] = sum;
          before[then]![next] = last;
        }
      }
    }
  }
  let last = least[all]!.indexOf(Math.min(...least[all]!));
  let played = all;
  const order: number[] = [];
  while (last >= 0) {
    order.unshift(last);
    const earlier = before[played]![last]!;
    played &= ~(1 << last);
    last = earlier;
  }
  return order;
}

function nearOrder(efforts: number[][]): number[] {
  const left = new Set(efforts.map((_, index) => index));
  const order = [0];
  left.delete(0);
  while (left.size > 0) {
    const last = order.at(-1)!;
    const next = [...left].reduce((best, song) =>
      efforts[last]![song]! < efforts[last]![best]! ? song : best,
    );
    order.push(next);
    left.delete(next);
  }
  const cost = (list: number[]) =>
    list.slice(1).reduce((sum, song, index) => sum + efforts[list[index]!]![song]!, 0);
  // Stretches that are turned round, as long as that helps.
  for (let better = true; better;) {
    better = false;
    for (let from = 0; from < order.length - 1; from += 1) {
      for (let to = from + 1; to < order.length; to += 1) {
        const turned = [
          ...order.slice(0, from),
          ...order.slice(from, to + 1).reverse(),
          ...order.slice(to + 1),
        ];
        if (cost(turned) >= cost(order)) continue;
        order.splice(0, order.length, ...turned);
        better = true;
      }
    }
  }
  return order;
}

/**
 * Songs of an evening as one booklet: contents, then a sheet of each, with what has to be done before it.
 * @param songs in the order of the evening
 * @example booklet([song], USUAL_SHEET, 'Lantern evening').pages.length // 2
 */
export function booklet(
  songs: Song[],
  wish: SheetWish,
  title: string,
  engrave: Engraver | null = null,
): Sheet {
  const { width, height } = paperOf(wish);
  const size = sizeOf(wish);
  const room: Frame = { width: width - 2 * MARGIN, height: height - 2 * MARGIN, size };
  const between = songs.map((song, index) => {
    const last = songs[index - 1];
    return last ? changeover(playedOn(last, wish), playedOn(song, wish)).does.join(' ') : '';
  });
  const sheets = songs.map((song, index) => songPages(song, wish, engrave, between[index]));
  const contents = (first: number[]) => {
    const entries = sheets.map((sheet, index): Block => {
      const row = size * 1.7;
      const note = between[index] ?? '';
      const items = [
        text(0, row, `${index + 1}`, size * 1.1, { grey: SOFT }),
        text(
          size * 2.4,
          row,
          shortened(sheet.title, room.width * 0.8, size * 1.1, 'bold'),
          size * 1.1,
          {
            weight: 'bold',
          },
        ),
        text(room.width, row, String(first[index]), size * 1.1, { anchor: 'end' as const }),
      ];
      if (note === '') return { height: row * 1.2, items };
      const said = text(
        size * 2.4,
        row * 0.62,
        shortened(note, room.width * 0.8, size * 0.85, 'regular'),
        size * 0.85,
        {
          grey: SOFT,
        },
      );
      const lower = items.map((item) => ({ ...item, y: item.y + row * 0.55 }));
      return { height: row * 1.75, items: [said, ...lower] };
    });
    const head: Block = {
      height: size * 4.6,
      items: [
        text(0, size * 2.2, shortened(title, room.width, size * 2.2, 'bold'), size * 2.2, {
          weight: 'bold',
        }),
        text(0, size * 3.8, plural(songs.length, 'song'), size, { grey: SOFT }),
      ],
    };
    return flow([head, heading('In this order', room), ...entries], width, height, size);
  };
  // How many pages the contents take does not depend on the numbers in them.
  const ahead = contents(sheets.map(() => 0)).length;
  const first = sheets.map(
    (_, index) =>
      ahead + 1 + sheets.slice(0, index).reduce((sum, { pages }) => sum + pages.length, 0),
  );
  const pages = [
    ...contents(first).map((page) => ({ page, title, size })),
    ...sheets.flatMap((sheet) =>
      sheet.pages.map((page) => ({ page, title: sheet.title, size: sheet.size })),
    ),
  ];
  const left = sheets.flatMap((sheet) => sheet.left.map((what) => `${sheet.title}: ${what}`));
  return { title, pages: numbered(pages), left };
}
