import type { Ticks } from '../plain';
import { fretChords, runs } from '../neck';
import type { RunWish, Song, UsualRun } from '../schema';
import { itemAt, type Landing, type PlayedBar } from '../song';
import { slots, sounds } from '../stroke';
import type { Arrangement } from './arrange';
import { runKey } from './leadIns';

/** Notes of a run where nothing is said: two, the fewest that are heard to lead. */
const USUAL_COUNT = 2;
const QUARTER = 960;
const EIGHTH = 480;

/**
 * How the bass runs of a song go where one is placed: as the song says; else two notes, in quarters where its pattern
 * strikes on the beats alone, in eighths where it strikes between them.
 * @example usualRun(newSong({ title: 'Weir', instrument: 'guitar' })) // { count: 2, noteTicks: 960 }
 */
export function usualRun(song: Pick<Song, 'usualRun' | 'pattern'>): UsualRun {
  if (song.usualRun) return song.usualRun;
  const onBeats = slots(song.pattern).every(
    ({ position, stroke }) => position === 0 || !sounds(stroke),
  );
  const quarters = onBeats && song.pattern.meter.unit <= 4;
  return { count: USUAL_COUNT, noteTicks: quarters ? QUARTER : EIGHTH };
}

/** A chord where it is written, with the run that can lead into it. */
export interface RunPlace {
  section: number;
  line: number;
  bar: number;
  /** In ticks from the bar line. */
  at: Ticks;
  run: RunWish;
}

/**
 * The smoothest run into every chord that has room for one and none yet. A chord that comes several times, after
 * others or sooner, gets one that fits each time, or none.
 * @param wish how many notes, and how long each
 * @example runsThroughout(arrangement(song), { count: 2, noteTicks: 480 }).length // 3
 */
export function runsThroughout(
  { song, bars, changes }: Arrangement,
  { count, noteTicks }: UsualRun,
): RunPlace[] {
  const hold = fretChords(song);
  const key = runKey(song, changes);
  const { instrument, capo } = song;
  const offers = new Map<string, { place: Omit<RunPlace, 'run'>; runs: RunWish[] }>();
  changes.forEach((landing, index) => {
    const bar = barOf(landing, bars);
    const before = changes[index - 1];
    const from = before && hold(before.symbol);
    const to = hold(landing.symbol);
    if (!bar || landing.placement.run) return;
    const available = before ? landing.tick - before.tick : 0;
    const answer =
      from && to ? runs(from, to, count, { instrument, capo, key, noteTicks, available }).runs : [];
    const found = answer.map(({ kind, direction }) => ({ count, noteTicks, kind, direction }));
    const place = { section: bar.section, line: bar.line, bar: bar.bar, at: landing.placement.at };
    const name = Object.values(place).join('/');
    const known = offers.get(name);
    const fits = known?.runs.filter((one) =>
      found.some(({ kind, direction }) => kind === one.kind && direction === one.direction),
    );
    offers.set(name, { place, runs: fits ?? found });
  });
  return [...offers.values()].flatMap(({ place, runs: [run] }) => (run ? [{ ...place, run }] : []));
}

/** The bar that a landing is written in: a push takes it back before the bar line. */
function barOf({ tick, push, placement }: Landing, bars: PlayedBar[]): PlayedBar | undefined {
  const bar = itemAt(bars, tick + push);
  return bar?.content.chords.includes(placement) ? bar : undefined;
}
