import type { Entry, PracticeWishes, RungId, SaidTrouble } from '../schema';
import { rungName } from './ladder';

/** Bars that are played round, from 1. */
export interface BarLoop {
  from: number;
  to: number;
}

/** A take of a rung, as far as the next step follows from it. */
export interface RungTake {
  rung: RungId;
  tempo: number;
  /** The bars that were played round; null for all of them. */
  loop: BarLoop | null;
  trouble: SaidTrouble;
  /** The bars that its verdict asks for; null where it names none. */
  place: BarLoop | null;
}

/**
 * A row of the log as the next step needs it.
 * @example rungTakeOf({ rung: 'song', tempo: 80, whole: false, from: 3, to: 5, trouble: 'clean', place: null }).loop
 * // { from: 3, to: 5 }
 */
export function rungTakeOf({
  rung,
  tempo,
  whole: all,
  from,
  to,
  trouble,
  place,
}: Pick<Entry, 'rung' | 'tempo' | 'whole' | 'from' | 'to' | 'trouble' | 'place'>): RungTake {
  return {
    rung: rung ?? 'song',
    tempo: tempo ?? 0,
    loop: all || from === null || to === null ? null : { from, to },
    trouble: trouble ?? 'unjudged',
    place,
  };
}

/** The rules of climbing. */
export interface StepRules {
  /** The tempo that the song is practised for. */
  goal: number;
  /** Pulses a minute of an ordinary step. */
  step: number;
  /** How often in a row a take has to be clean before the tempo goes up. */
  clean: number;
}

/** What is done next, and why. */
export interface NextStep {
  does: 'start' | 'again' | 'up' | 'down' | 'loop' | 'whole' | 'next' | 'reached';
  rung: RungId;
  tempo: number;
  loop: BarLoop | null;
  says: string;
}

/** What bounds the tempo: the ceiling of the changes, and where the arm reaches its limit. */
export interface Bounds {
  ceiling: number | null;
  arm: number | null;
}

const USUAL_STEP = 4;
const USUAL_CLEAN = 2;
/** A new rung begins at this share of the tempo that was clean last. */
const BEGIN_AT = 0.75;
/** Rungs below the last are left for the next at this share of the goal: they serve it. */
const ENOUGH = 0.75;
/** The same trouble twice: so much slower. */
const SLOWER = 0.9;
/** A loop around a place is played so far below the ceiling. */
const BELOW_CEILING = 0.95;
const SLOWEST = 20;

/**
 * The rules of a song: what the player wishes, and what is usual where nothing is said.
 * @example stepRules({ tempo: 92 }) // { goal: 92, step: 4, clean: 2 }
 */
export function stepRules({
  tempo,
  practice,
}: {
  tempo: number;
  practice?: PracticeWishes | undefined;
}): StepRules {
  return {
    goal: practice?.goal ?? tempo,
    step: practice?.step ?? USUAL_STEP,
    clean: practice?.clean ?? USUAL_CLEAN,
  };
}

const whole = (tempo: number) => Math.max(SLOWEST, Math.round(tempo));

/**
 * Where a rung begins: at three quarters of the tempo that was last clean (of the goal where none was), or at
 * the ceiling of the changes where that is lower.
 * @example beginTempo(80, { ceiling: 71, arm: null }) // 60
 */
export function beginTempo(lastClean: number, { ceiling }: Bounds): number {
  return whole(Math.min(lastClean * BEGIN_AT, ceiling === null ? Infinity : Math.floor(ceiling)));
}

/**
 * How far the tempo goes up: twice an ordinary step while more than a quarter of the goal is missing, half of
 * one where two steps would reach it; never beyond the goal.
 * @example stepUp(60, { goal: 92, step: 4, clean: 2 }) // 8
 */
export function stepUp(tempo: number, { goal, step }: StepRules): number {
  const missing = goal - tempo;
  const by =
    missing > goal / 4 ? step * 2 : missing <= step * 2 ? Math.max(1, Math.ceil(step / 2)) : step;
  return Math.max(0, Math.min(by, missing));
}

const sameLoop = (one: BarLoop | null, other: BarLoop | null) =>
  one?.from === other?.from && one?.to === other?.to;

/** Takes just before the last that were of the same: the same rung, bars and tempo; the last included. */
function trailOf(takes: RungTake[]): RungTake[] {
  const last = takes.at(-1)!;
  const other = takes.findLastIndex(
    ({ rung, tempo, loop }) =>
      rung !== last.rung || Math.abs(tempo - last.tempo) > 0.5 || !sameLoop(loop, last.loop),
  );
  return takes.slice(other + 1).filter(({ trouble }) => trouble !== 'unjudged');
}

/**
 * The next step of practising a song, from the takes that there were.
 *
 * Clean as often as the rules ask: the tempo goes up, or, where the rung is quick enough, its successor begins;
 * in a loop: back to the whole. Trouble stays at the tempo. The same trouble twice in a row: round the bars that
 * it lies in, if the verdict names some, else slower by a tenth. A take that cannot be judged counts for nothing.
 *
 * @param rungs of the ladder, in the player's order
 * @param takes of this song, the oldest first
 * @throws RangeError where there are no rungs
 * @example nextStep(['landings', 'song'], [], stepRules(song), { ceiling: 88, arm: null }).tempo // 69
 */
export function nextStep(
  rungs: RungId[],
  takes: RungTake[],
  rules: StepRules,
  bounds: Bounds,
): NextStep {
  const first = rungs[0];
  if (first === undefined) throw new RangeError('a ladder has at least one rung');
  const known = takes.filter(({ rung }) => rungs.includes(rung));
  const last = known.at(-1);
  if (!last) {
    const tempo = beginTempo(rules.goal, bounds);
    return { does: 'start', rung: first, tempo, loop: null, says: `Begin at ${tempo}.` };
  }
  const stay = { rung: last.rung, tempo: last.tempo, loop: last.loop };
  const trail = trailOf(known);
  const now = trail.at(-1);
  if (last.trouble === 'unjudged' || !now) {
    return { ...stay, does: 'again', says: 'Once more: that could not be judged.' };
  }
  if (now.trouble === 'clean') return afterClean(rungs, trail, known, rules, bounds);
  if (now.trouble === 'tempo') {
    return { ...stay, does: 'again', says: `Once more at ${last.tempo}, with the click.` };
  }
  if (now.trouble === 'so-so' || now.trouble === 'nearly') {
    return { ...stay, does: 'again', says: 'Nearly. Once more at this tempo.' };
  }
  const twice = trail.at(-2)?.trouble === now.trouble;
  if (!twice)
    return { ...stay, does: 'again', says: 'Once more at this tempo, with that in mind.' };
  if (now.place && !now.loop) {
    const { ceiling } = bounds;
    const tempo = whole(
      ceiling === null ? last.tempo : Math.min(last.tempo, ceiling * BELOW_CEILING),
    );
    const { from, to } = now.place;
    const bars = from === to ? `bar ${from}` : `bars ${from} to ${to}`;
    return {
      does: 'loop',
      rung: last.rung,
      tempo,
      loop: now.place,
      says: `Same problem twice: loop ${bars}${tempo < last.tempo ? `, at ${tempo}` : ''}.`,
    };
  }
  const tempo = whole(Math.min(last.tempo - 1, last.tempo * SLOWER));
  if (last.tempo <= SLOWEST) return { ...stay, does: 'again', says: 'Once more, as slowly.' };
  return { ...stay, does: 'down', tempo, says: `Same problem twice: down to ${tempo}.` };
}

function afterClean(
  rungs: RungId[],
  trail: RungTake[],
  takes: RungTake[],
  rules: StepRules,
  bounds: Bounds,
): NextStep {
  const last = trail.at(-1)!;
  const since = trail.findLastIndex(({ trouble }) => trouble !== 'clean');
  const times = trail.length - 1 - since;
  const stay = { rung: last.rung, tempo: last.tempo, loop: last.loop };
  if (times < rules.clean) {
    const left = rules.clean - times;
    const says = `Clean. ${left === 1 ? 'Once' : `${left} times`} more to be sure.`;
    return { ...stay, does: 'again', says };
  }
  if (last.loop) {
    return {
      ...stay,
      does: 'whole',
      loop: null,
      says: 'That place is clean: back into the whole.',
    };
  }
  const at = rungs.indexOf(last.rung);
  const next = rungs[at + 1];
  const aim = next === undefined ? rules.goal : rules.goal * ENOUGH;
  if (last.tempo >= aim - 0.5 && next === undefined) {
    return { ...stay, does: 'reached', says: `Clean at ${last.tempo}: that is the goal.` };
  }
  if (last.tempo >= aim - 0.5) {
    const clean = takes.filter(({ rung, trouble }) => rung === next && trouble === 'clean').at(-1);
    const tempo = beginTempo(Math.max(last.tempo, clean?.tempo ?? 0), bounds);
    const says = `Clean at ${last.tempo}. Next: ${rungName(next!).toLowerCase()}, at ${tempo}.`;
    return { does: 'next', rung: next!, tempo, loop: null, says };
  }
  const tempo = last.tempo + stepUp(last.tempo, rules);
  const { ceiling, arm } = bounds;
  const over =
    arm !== null && tempo > arm
      ? ` That is above the ${Math.floor(arm)} that your arm was measured for.`
      : ceiling !== null && tempo > ceiling
        ? ` Your changes are reckoned up to ${Math.floor(ceiling)}.`
        : '';
  return { ...stay, does: 'up', tempo, says: `Clean: up to ${tempo}.${over}` };
}

/**
 * The quickest tempo at which a rung was clean as often as the rules ask; null where none was.
 * @example cleanTempo([], 'song', stepRules(song)) // null
 */
export function cleanTempo(takes: RungTake[], rung: RungId, { clean }: StepRules): number | null {
  let best: number | null = null;
  let row = 0;
  let before: RungTake | null = null;
  for (const take of takes) {
    if (take.rung !== rung || take.loop || take.trouble === 'unjudged') continue;
    const goesOn = before !== null && Math.abs(before.tempo - take.tempo) <= 0.5;
    row = take.trouble === 'clean' ? (goesOn ? row + 1 : 1) : 0;
    before = take;
    if (row >= clean) best = Math.max(best ?? 0, take.tempo);
  }
  return best;
}
