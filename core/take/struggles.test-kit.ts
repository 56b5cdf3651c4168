import { arrangement, type Arrangement } from '../arrange';
import { builtInPatterns } from '../pattern';
import type { Song, TakeJudgement, Trouble } from '../schema';
import { newSong } from '../song';
import { pulseTicks, secondsPerTick } from '../time';
import { placeOf, toleranceOf } from './groups';
import { isLanding, kindOfStroke, type KindOfStroke } from './kinds';
import { type Habits, playTake } from './player';

/** A made-up player, and what a teacher would say of the take: any of these first, and all of those in it. */
export interface Struggle {
  /** What the player does: 'landings late', with how much. */
  what: string;
  how: string;
  habits: Omit<Habits, 'seed'>;
  /** Any of these is right; where there are two lists, one of each has to be said, in any order. */
  right: Trouble[][];
}

const JITTER = 8;

/** A song for a pattern of the shelf: four chords, round twice. */
export function songOn(name: string): Song {
  const pattern = builtInPatterns().find((one) => one.name === name);
  if (!pattern) throw new Error(`no pattern of the shelf is called ${name}`);
  const progression = 'G | Em | C | D | Am | D | C | G';
  return {
    ...newSong({ title: name, instrument: 'guitar', meter: pattern.meter, progression }),
    pattern,
  };
}

/** Patterns of the shelf in 3/4, 6/8, twelve counts and sixteenths, as songs. */
export const shelfSongs = (): Song[] =>
  [
    'Waltz with lift',
    'Six with missed twos',
    'Twelve counts from twelve',
    'Rolling sixteenths',
  ].map(songOn);

/** What is in a song that somebody can struggle with. */
interface Room {
  /** Seconds of a pulse, and of the territory that a landing has to the next stroke. */
  beat: number;
  tolerance: number;
  landings: number;
  strikes: number;
  /** How many strokes of each kind there are, and how many of them on a landing. */
  kinds: Map<KindOfStroke, number>;
  /** Slots that are not only landings, the most frequent first, with their territory in milliseconds. */
  slots: { slot: number; count: number; territory: number; afterMiss: boolean; share: number }[];
}

function roomOf(arranged: Arrangement): Room {
  const { song, performance } = arranged;
  const perTick = secondsPerTick(song.tempo, song.meter);
  const strikes = performance.strikes.filter(({ kind }) => kind !== 'legato');
  const seconds = strikes.map((strike) => strike.seconds);
  const kinds = new Map<KindOfStroke, number>();
  const slots = new Map<string, { at: number[]; landings: number; slot: number }>();
  strikes.forEach((strike, at) => {
    kinds.set(kindOfStroke(strike), (kinds.get(kindOfStroke(strike)) ?? 0) + 1);
    if (strike.run) return;
    const name = placeOf(arranged, strike);
    const known = slots.get(name) ?? { at: [], landings: 0, slot: strike.slot };
    known.at.push(at);
    if (isLanding(strike, strikes[at - 1])) known.landings += 1;
    slots.set(name, known);
  });
  const gap = (at: number, by: 1 | -1) => {
    const [one, other] = [seconds[at], seconds[at + by]];
    return one === undefined || other === undefined ? Infinity : Math.abs(other - one) * 500;
  };
  // A number of a slot is one place only where the song has one pattern.
  const numbers = new Map<number, number>();
  for (const { slot } of slots.values()) numbers.set(slot, (numbers.get(slot) ?? 0) + 1);
  return {
    beat: pulseTicks(song.meter) * perTick,
    tolerance: toleranceOf(seconds),
    landings: strikes.filter((strike, at) => isLanding(strike, strikes[at - 1])).length,
    strikes: strikes.length,
    kinds,
    slots: [...slots.values()]
      .filter(({ at, landings, slot }) => landings < at.length / 4 && numbers.get(slot) === 1)
      .sort((a, b) => b.at.length - a.at.length)
      .map(({ at, slot }) => ({
        slot,
        count: at.length,
        share: at.length / strikes.length,
        territory: Math.min(...at.map((one) => Math.min(gap(one, 1), gap(one, -1)))),
        afterMiss: at.some(
          (one) => one > 0 && strikes[one]!.tick - strikes[one - 1]!.tick > strikes[one - 1]!.ticks,
        ),
      })),
  };
}

const ms = (value: number) => `${Math.round(value)} ms`;
const FEWEST = 4;
/** Within so many milliseconds of what counts as in time, late and clean are both right. */
const GREY = 9;

/** Every way of struggling that a song has room for. */
export function struggles(song: Song): Struggle[] {
  const room = roomOf(arrangement(song));
  const found: Struggle[] = [];
  const add = (what: string, how: string, habits: Struggle['habits'], ...right: Trouble[][]) =>
    found.push({ what, how, habits: { jitter: JITTER, ...habits }, right });
  if (room.landings >= FEWEST) {
    for (const late of [60, 100, 140, 200, 300, 500, 1000 * room.beat]) {
      add('landings late', ms(late), { landingsLate: late }, ['landings', 'landings-out']);
    }
    for (const late of [200, 400, 700 * room.beat]) {
      const habits = { landingsLate: late, afterLate: 'hurries' as const };
      add('waits, then hurries', ms(late), habits, ['landings', 'waits', 'landings-out']);
    }
    for (const late of [200, 400, 800]) {
      const habits = { landingsLate: late, afterLate: 'goes on' as const };
      add('waits and goes on', ms(late), habits, ['waits']);
    }
    add('landings left out', 'all', { leavesOut: { what: 'landings', share: 1 } }, [
      'landings-out',
    ]);
    if (room.landings >= 12)
      add('landings left out', 'half', { leavesOut: { what: 'landings', share: 0.5 } }, [
        'landings-out',
      ]);
  }
  for (const stop of [350, 500, 1000]) {
    add('stops before each bar', ms(stop), { stops: stop }, ['waits', 'stops']);
  }
  for (const { slot, count, territory, share, afterMiss } of room.slots.slice(0, 2)) {
    if (count < FEWEST || share > 0.4) continue;
    for (const by of [40, 60, 100, 0.85 * territory, -40, -60, -100, -0.85 * territory]) {
      if (Math.abs(by) > 0.9 * territory) continue;
      const sure = Math.abs(by) - room.tolerance;
      const right: Trouble[] =
        sure < -GREY ? ['clean'] : sure < GREY ? ['clean', 'slot', 'nearly'] : ['slot'];
      if (afterMiss && by > 0 && sure > -GREY) right.push('after-miss');
      add(
        'one place off',
        `${ms(Math.abs(by))} ${by > 0 ? 'late' : 'early'}`,
        { slotLate: { slot, by } },
        right,
      );
    }
    add('one place left out', 'each time', { leavesOut: { what: { slot }, share: 1 } }, [
      'missing',
      'ups',
      'taps',
      'after-miss',
      'landings-out',
    ]);
  }
  for (const [kind, count] of room.kinds) {
    if (count < FEWEST || count > 0.6 * room.strikes || count < 0.05 * room.strikes) continue;
    const right: Trouble[] =
      kind === 'ups' ? ['ups'] : kind === 'taps' ? ['taps'] : ['missing', 'landings-out'];
    add(`${kind} left out`, 'all', { leavesOut: { what: kind, share: 1 } }, right);
  }
  add('a third left out', 'at random', { leavesOut: { what: 'any', share: 1 / 3 } }, [
    'missing',
    'landings-out',
    'ups',
  ]);
  add('a third added', 'between strokes', { adds: 1 / 3 }, ['added']);
  for (const pace of [0.5, 0.65, 0.8, 0.9, 0.95, 1.05, 1.1, 1.2, 1.35, 2]) {
    add('another tempo', `× ${pace}`, { pace }, ['tempo']);
  }
  add('rushes', '4 %', { drift: 4 }, ['rushing']);
  add('drags', '4 %', { drift: -4 }, ['dragging']);
  add('uneven', 'by 38 ms', { jitter: 38 }, ['uneven']);
  const ups = room.kinds.get('ups') ?? 0;
  if (room.landings >= FEWEST) {
    const late = { landingsLate: 120 };
    const lands: Trouble[] = ['landings', 'landings-out'];
    if (ups >= FEWEST && ups < 0.5 * room.strikes) {
      const out = { leavesOut: { what: 'ups' as const, share: 1 } };
      add('two at once', 'landings late, no ups', { ...late, ...out }, lands, ['ups']);
      add(
        'two at once',
        'waits and goes on, no ups',
        { landingsLate: 400, afterLate: 'goes on', ...out },
        ['waits'],
        ['ups', 'missing'],
      );
    }
    add('two at once', 'landings late, rushes', { ...late, drift: 4 }, lands, ['rushing']);
    add('two at once', 'landings late, a third added', { ...late, adds: 1 / 3 }, lands, ['added']);
    add('two at once', 'landings late, × 1.2', { ...late, pace: 1.2 }, ['tempo'], lands);
  }
  return found;
}

/** Whether a verdict says what it should. */
export function isRight({ right }: Struggle, { verdict }: TakeJudgement): boolean {
  const said = [verdict.trouble, ...(verdict.then ? [verdict.then.trouble] : [])];
  const [first, second] = right;
  if (!second) return first!.includes(verdict.trouble);
  return said.some((one) => first!.includes(one)) && said.some((one) => second.includes(one));
}

/** Seconds before the first bar line. */
export const LEAD = 1.5;

/** The onsets of a made-up player. */
export const onsetsOf = (arranged: Arrangement, habits: Habits) =>
  playTake(arranged.performance, arranged.song.meter, habits)
    .strikes.filter(({ kind }) => kind !== 'legato')
    .map(({ seconds, dir, velocity }) => ({
      seconds: Math.max(0, seconds + LEAD),
      direction: dir,
      loudness: Math.min(1, velocity),
    }));
