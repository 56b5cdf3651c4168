import { differenceInCalendarDays, parseISO } from 'date-fns';
import type { PlanItem, RungId } from '../schema';
import { plural } from '../plain';

/** What is known of a song when an evening is planned. */
export interface PlannedSong {
  songId: string;
  song: string;
  goal: number;
  /** The day by which, as an ISO date. */
  by: string | null;
  /** The quickest clean tempo in full; null where none was. */
  clean: number | null;
  /** What would come next on its ladder. */
  next: { rung: RungId; name: string; tempo: number };
  /** When it is due again; null where it was never judged. */
  due: string | null;
  /** The change that waits longest in it. */
  left: string | null;
}

/** A change or a rhythm that is due again, by spaced repetition. */
export interface DueThing {
  /** What is done, in a few words: 'C to F, to and fro'. */
  what: string;
  songId: string;
  rung: RungId | null;
  tempo: number | null;
  /** As an ISO date. */
  due: string;
}

/** Minutes from which more than one thing that is due finds room. */
const ROOMY = 30;

const SHARES = { 'warm-up': 0.1, change: 0.2, due: 0.25, rung: 0.45, end: 0.15 } as const;
/** From so many minutes on there is a pause, and one more for each half of an hour after it. */
const PAUSE_FROM = 20;
const LONG = 40;

/** How much of the goal is missing, as a share; more weight where its day is near. */
function pressing({ goal, clean, by }: PlannedSong, today: string): number {
  const missing = 1 - Math.min(1, (clean ?? goal / 2) / goal);
  if (by === null) return missing;
  const days = Math.max(1, differenceInCalendarDays(parseISO(by), parseISO(today)));
  return missing * (1 + 14 / days);
}

/**
 * A list for an evening, with minutes that add up to those there are: warm-up, the change that holds most songs
 * back, what is due again, one rung further, and something to end on that is good already.
 * @param minutes that there are, 5 or more
 * @param today as an ISO date
 * @param others changes and rhythms that are practised by themselves, with when they are due again
 * @returns nothing where there is no song
 * @example tonight([], 20, '2031-05-08') // []
 */
export function tonight(
  songs: PlannedSong[],
  minutes: number,
  today: string,
  others: DueThing[] = [],
): PlanItem[] {
  if (songs.length === 0) return [];
  const byNeed = [...songs].sort((a, b) => pressing(b, today) - pressing(a, today));
  const main = byNeed[0]!;
  const due = songs
    .filter((song) => song.due !== null && song.due <= today && song !== main)
    .sort((a, b) => (a.due! < b.due! ? -1 : 1))[0];
  const taken = (song: PlannedSong) => Number(song === due || song === main);
  // The evening ends on a song that is good already; on another than was just played, where there is one.
  const good = [...songs]
    .filter(({ clean }) => clean !== null)
    .sort((a, b) => taken(a) - taken(b) || b.clean! / b.goal - a.clean! / a.goal)[0];
  const held = heldBack(songs);
  const item = (kind: PlanItem['kind'], rest: Omit<PlanItem, 'kind' | 'minutes'>) => ({
    kind,
    ...rest,
  });
  const things = others
    .filter(({ due: day, what }) => day <= today && !(held && what.startsWith(held.change)))
    .sort((a, b) => (a.due < b.due ? -1 : 1))
    .slice(0, minutes >= ROOMY ? 2 : due ? 0 : 1)
    .map(({ due: _, ...thing }) => item('due', { ...thing, why: 'due again, before it fades' }));
  const wished: (Omit<PlanItem, 'minutes'> | null)[] = [
    item('warm-up', {
      songId: (good ?? main).songId,
      what: `The arm alone, to ${(good ?? main).song}`,
      why: 'small and loose before anything is quick',
      rung: 'arm',
      tempo: Math.round((good?.clean ?? main.goal) * 0.6),
    }),
    held &&
      item('change', {
        songId: held.song.songId,
        what: `${held.change}, to and fro`,
        why:
          held.count > 1
            ? `it holds ${plural(held.count, 'song')} back`
            : `it holds ${held.song.song} back`,
        rung: null,
        tempo: null,
      }),
    due
      ? item('due', {
          songId: due.songId,
          what: due.song,
          why: 'due again, before it fades',
          rung: 'song',
          tempo: due.clean ?? due.next.tempo,
        })
      : null,
    ...things,
    item('rung', {
      songId: main.songId,
      what: `${main.song}: ${main.next.name.toLowerCase()}`,
      why: main.by
        ? `farthest from its goal of ${main.goal}, with ${daysTo(main.by, today)} left`
        : `farthest from its goal of ${main.goal}`,
      rung: main.next.rung,
      tempo: main.next.tempo,
    }),
    good
      ? item('end', {
          songId: good.songId,
          what: good.song,
          why: `clean at ${good.clean}: good to end on`,
          rung: 'song',
          tempo: good.clean,
        })
      : null,
  ];
  const items = wished.filter((one) => one !== null);
  const pauses = minutes >= LONG ? 2 : minutes >= PAUSE_FROM ? 1 : 0;
  return shared(items, minutes - pauses).flatMap((one) =>
    one.kind === 'rung' && pauses > 0 ? [pause(pauses, main.songId), one] : [one],
  );
}

const daysTo = (by: string, today: string) =>
  plural(Math.max(0, differenceInCalendarDays(parseISO(by), parseISO(today))), 'day');

const pause = (minutes: number, songId: string): PlanItem => ({
  minutes,
  kind: 'pause',
  songId,
  what: 'Hands off the strings',
  why: 'a rest that is taken keeps the hand well',
  rung: null,
  tempo: null,
});

/** The change that is what is left in most songs. */
function heldBack(
  songs: PlannedSong[],
): { change: string; count: number; song: PlannedSong } | null {
  const byChange = new Map<string, PlannedSong[]>();
  for (const song of songs) {
    if (song.left) byChange.set(song.left, [...(byChange.get(song.left) ?? []), song]);
  }
  const [most] = [...byChange].sort((a, b) => b[1].length - a[1].length);
  return most ? { change: most[0], count: most[1].length, song: most[1][0]! } : null;
}

/** Minutes by their shares, whole, at least one each, and together what there is. */
function shared(items: Omit<PlanItem, 'minutes'>[], minutes: number): PlanItem[] {
  const weight = (kind: PlanItem['kind']) => (kind === 'pause' ? 0 : SHARES[kind]);
  const all = items.reduce((sum, { kind }) => sum + weight(kind), 0);
  const kept = items.slice(0, Math.max(1, minutes));
  const given = kept.map((one) => ({
    ...one,
    minutes: Math.max(1, Math.floor((minutes * weight(one.kind)) / all)),
  }));
  const left = minutes - given.reduce((sum, one) => sum + one.minutes, 0);
  const main = given.find(({ kind }) => kind === 'rung') ?? given[0]!;
  main.minutes = Math.max(1, main.minutes + left);
  return given;
}
