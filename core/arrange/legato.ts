import type { SecondsPerTick, Ticks } from '../plain';
import type { Grace, LegatoHow, LegatoStep } from '../schema';
import type { FrettedChord, FretOptions } from '../neck';
import { itemAt, type Landing, type PlayedBar } from '../song';
import { isLegato } from './articulation';
import { gracesOf, legatoPhrase, type SoundingStroke } from '../stroke';
import type { Performance, Strike, StrikeNote } from './performance';
import { pickedString, type Sounding, soundingStrings, stringAt, VELOCITIES } from './voicing';

/**
 * What the fretting hand sounds by itself. A hammer-on, pull-off or slide needs a string that rings; so it is
 * worked out last, when it is known what rings from when to when.
 */

/** Seconds from the note that an ornament is struck on to the one that it has. */
const GRACE_SECONDS = 0.07;
/** An ornament takes no more than this share of its slot. */
const GRACE_SHARE = 0.35;
/** Share of the time to the stroke before it, or after it, that it may take. */
const GRACE_ROOM = 0.8;
/** The fretting hand sounds a string more softly than the other strikes it. */
const SOFTER = 0.6;
/** Frets that a slide off the strings passes. */
const AWAY_FRETS = 5;

type Rings = Map<number, { fret: number; velocity: number }>;

interface LegatoContext {
  options: FretOptions;
  bars: PlayedBar[];
  hold: (symbol: string) => FrettedChord | null;
  /** The stroke of the pattern, or of a line of notes, that a strike comes from. */
  strokeOf: (strike: Strike) => SoundingStroke | undefined;
  perTick: SecondsPerTick;
}

const stringName = ({ instrument }: FretOptions, string: number) =>
  `string ${instrument.strings.length - string}`;

const fretName = (fret: number) => (fret === 0 ? 'the open string' : `fret ${fret}`);

/** Why a string cannot be sounded so; null where it can. */
function refusal(
  how: LegatoHow,
  target: Sounding,
  ringing: number | undefined,
  behind: boolean,
  options: FretOptions,
): string | null {
  const where = stringName(options, target.string);
  if (ringing === undefined) return `nothing rings on ${where} that could be ${DONE[how]}`;
  if (how === 'slide' && (ringing === 0 || target.fret === 0)) {
    return `nothing slides ${ringing === 0 ? 'from' : 'to'} an open string, and ${where} ${ringing === 0 ? 'rings open' : 'would'}`;
  }
  if (ringing === target.fret) return `${where} already sounds ${fretName(target.fret)}`;
  if (how === 'hammer' && target.fret < ringing) {
    return `a hammer-on goes up, and ${where} rings at ${fretName(ringing)}`;
  }
  if (how === 'pull' && target.fret > ringing) {
    return `a pull-off goes down, and ${where} rings at ${fretName(ringing)}`;
  }
  if (how === 'pull' && !behind)
    return `no finger is behind the pull-off at ${fretName(target.fret)} of ${where}`;
  return null;
}

const DONE: Record<LegatoHow, string> = {
  hammer: 'hammered on',
  pull: 'pulled off',
  slide: 'slid',
};

/** What nothing does where a chord cannot be reached so. */
const COULD: Record<LegatoHow, string> = {
  slide: 'rings under a finger that could slide into',
  hammer: 'rings that could be hammered into',
  pull: 'rings that could be pulled off to',
};

/** The strings that a step goes to; those of the shape that ring otherwise where it names none. */
function targetsOf(
  { how, strings, to }: LegatoStep,
  rings: Rings,
  held: FrettedChord | null,
  next: FrettedChord | null,
  options: FretOptions,
): Sounding[] {
  if (to === 'away') {
    return [...rings].flatMap(([string, { fret }]) =>
      fret > 0 ? [stringAt(options, string, Math.max(1, fret - AWAY_FRETS))] : [],
    );
  }
  const sounding = soundingStrings({ held: to === 'next' ? next : held, options }, false);
  if (strings) {
    return strings.flatMap((picked) => pickedString(picked, sounding, { held, options }) ?? []);
  }
  return sounding.filter(({ string, fret }) => {
    const now = rings.get(string)?.fret;
    if (now === undefined || now === fret) return false;
    // Only a string that stays under a finger slides.
    if (how === 'slide') return fret > 0 && now > 0;
    return how === 'hammer' ? fret > now : fret < now;
  });
}

/** Seconds that a slide takes from fret to fret, and the most that it takes in all. */
const FRET_SECONDS = 0.022;
const SLIDE_SECONDS = 0.12;

const inOrder = (notes: StrikeNote[]) => notes.sort((a, b) => a.delay - b.delay);

/** Notes that a strike has at most: a slide of many strings passes fewer of the frets between. */
const MAX_NOTES = 40;

/** When, in seconds from its strike, a string goes on, how long that may take, and how loud it is. */
interface Onward {
  /** How many strings go on in the strike, over all its steps. */
  strings: number;
  delay: number;
  available: number;
  velocity: number;
}

/** A string that goes on at another fret; a slide passes the frets between. */
function goesOn(
  target: Sounding,
  how: LegatoHow,
  from: number,
  { strings, delay, available, velocity }: Onward,
  options: FretOptions,
): StrikeNote[] {
  const way = target.fret - from;
  const passed = Math.min(Math.abs(way), Math.floor(MAX_NOTES / Math.max(1, strings)));
  const count = how === 'slide' ? Math.max(1, passed) : 1;
  const apart = Math.min(FRET_SECONDS, Math.min(SLIDE_SECONDS, GRACE_ROOM * available) / count);
  return Array.from({ length: count }, (_, step) => {
    const left = count - 1 - step;
    return {
      ...stringAt(options, target.string, target.fret - Math.round((way * left) / count)),
      delay: delay + step * apart,
      velocity,
      legato: { how, from },
      ...(left > 0 && { passing: true as const }),
    };
  });
}

/** What is under the hand while a step is played. */
interface Under extends Onward {
  held: FrettedChord | null;
  next: FrettedChord | null;
}

/** The notes of a step, and what of it cannot be sounded. */
function sounded(
  step: LegatoStep,
  rings: Rings,
  now: Under,
  options: FretOptions,
): { notes: StrikeNote[]; problems: string[] } {
  const notes: StrikeNote[] = [];
  const problems: string[] = [];
  const targets = targetsOf(step, rings, now.held, now.next, options);
  if (targets.length === 0) {
    problems.push(`${legatoPhrase([step])}: nothing rings that it would change`);
  }
  for (const target of targets) {
    const ringing = rings.get(target.string);
    const behind =
      target.fret === 0 ||
      now.held?.shape.frets[target.string] === target.fret ||
      (step.strings?.some(({ held }) => held !== undefined) ?? false);
    const problem = refusal(step.how, target, ringing?.fret, behind, options);
    if (problem) {
      problems.push(problem);
      continue;
    }
    const velocity = Math.min(now.velocity, ringing!.velocity) * SOFTER;
    notes.push(...goesOn(target, step.how, ringing!.fret, { ...now, velocity }, options));
    rings.set(target.string, { fret: target.fret, velocity });
  }
  return { notes, problems };
}

/** A strike with an ornament: struck so many frets away, and at once sounded where it belongs. */
function ornamented(
  strike: Strike,
  { grace, picked, isFirst }: { grace: Grace; picked: number | null; isFirst: boolean },
  available: { before: number; after: number },
  { options, perTick }: LegatoContext,
): Strike | string {
  const by = grace.how === 'pull' || grace.above ? grace.frets : -grace.frets;
  const has = ({ string, fret }: StrikeNote) =>
    (picked === null ? fret > 0 || by > 0 : string === picked) && fret + by >= 0;
  const some = strike.notes.filter(has);
  if (some.length === 0) {
    return `no string of this stroke can be ${DONE[grace.how]} from ${grace.frets} frets ${by > 0 ? 'above' : 'below'}`;
  }
  const wanted = Math.min(GRACE_SECONDS, GRACE_SHARE * strike.ticks * perTick);
  // What comes before its time still comes after the stroke before it; where there is no room, it is on time.
  const early = grace.before === true && available.before > 0;
  const seconds = Math.min(wanted, GRACE_ROOM * (early ? available.before : available.after));
  // Of several the first takes the strike with it; the others begin when it does.
  const ahead = early && isFirst ? -seconds : 0;
  return {
    ...strike,
    late: strike.late + ahead / perTick,
    seconds: strike.seconds + ahead,
    notes: inOrder([
      ...strike.notes.map((note) =>
        has(note) ? { ...note, ...stringAt(options, note.string, note.fret + by) } : note,
      ),
      ...some.map((note) => ({
        ...note,
        delay: Math.max(note.delay * (1 + GRACE_ROOM), seconds),
        velocity: note.velocity * SOFTER,
        legato: { how: grace.how, from: note.fret + by },
      })),
    ]),
  };
}

/**
 * Lets the fretting hand sound its notes: slots and ornaments of the pattern, and chords that arrive by a slide.
 * What nothing rings for stays silent and is told; the arm passes as it does.
 * @param changes of the song, in order
 * @example withLegato(strikes, changes, context).strikes.filter(({ kind }) => kind === 'legato')
 */
export function withLegato(
  strikes: Strike[],
  changes: Landing[],
  context: LegatoContext,
): Pick<Performance, 'strikes' | 'silent'> & { slides: Set<number> } {
  const { options, bars, hold, strokeOf, perTick } = context;
  const silent: Performance['silent'] = [];
  const slides = new Set<number>();
  const wanted =
    changes.some(({ placement: { arrive } }) => isLegato(arrive)) ||
    strikes.some((strike) => {
      if (strike.kind === 'legato') return true;
      const stroke = strokeOf(strike);
      return stroke !== undefined && gracesOf(stroke).length > 0;
    });
  if (!wanted) return { strikes, silent, slides };

  const all: Strike[] = [];
  const rings: Rings = new Map();
  let change = 0;
  let slid: Landing | null = null;
  const heldAt = (index: number) => (changes[index] ? hold(changes[index].symbol) : null);
  const tell = (tick: Ticks, problems: string[]) =>
    silent.push(
      ...problems.map((text) => ({ tick, message: `${text[0]!.toUpperCase()}${text.slice(1)}.` })),
    );
  const ring = ({ damps, notes }: Strike) => {
    damps.forEach((string) => rings.delete(string));
    notes.forEach(({ string, fret, velocity }) => rings.set(string, { fret, velocity }));
  };
  const handInto = (
    how: LegatoHow,
    landing: Landing,
    under: Strike | undefined,
    available: number,
  ) => {
    const held = hold(landing.symbol);
    const targets = targetsOf({ how }, rings, held, null, options);
    if (!held || targets.length === 0) {
      tell(landing.tick, [`nothing ${COULD[how]} ${landing.symbol}`]);
      rings.clear();
      return;
    }
    const kept = new Set(held.pitches.flatMap((midi, string) => (midi === null ? [] : [string])));
    const damps = [...rings.keys()].filter((string) => !kept.has(string));
    const strike: Strike = {
      kind: 'legato',
      dir: 'down',
      accent: 'normal',
      tick: landing.tick,
      ticks: under?.ticks ?? Math.max(1, Math.round(0.25 / perTick)),
      late: under?.late ?? 0,
      seconds: under?.seconds ?? landing.tick * perTick,
      bar: under?.bar ?? itemAt(bars, landing.tick)?.index ?? 0,
      slot: under?.slot ?? 0,
      chord: landing.symbol,
      landing: true,
      transition: false,
      run: false,
      palm: false,
      flesh: false,
      tap: null,
      velocity: VELOCITIES.normal,
      notes: targets.flatMap((target) => {
        const { fret, velocity } = rings.get(target.string)!;
        return goesOn(
          target,
          how,
          fret,
          { strings: targets.length, delay: 0, available, velocity: velocity * SOFTER },
          options,
        );
      }),
      damps,
    };
    inOrder(strike.notes);
    if (how === 'slide') slides.add(landing.tick);
    slid = landing;
    ring(strike);
    all.push(strike);
  };
  /** The hand leaves: what it held is damped, open strings ring on. */
  const leave = () => {
    for (const [string, { fret }] of [...rings]) if (fret > 0) rings.delete(string);
  };
  const land = (until: number, under?: Strike, after = Infinity) => {
    for (; changes[change] && changes[change]!.tick <= until; change += 1) {
      const landing = changes[change]!;
      slid = null;
      const here = under?.tick === landing.tick ? under : undefined;
      const next = Math.min((changes[change + 1]?.tick ?? Infinity) * perTick, after);
      const available = next - landing.tick * perTick;
      const { arrive } = landing.placement;
      if (isLegato(arrive)) handInto(arrive, landing, here, available);
      else leave();
    }
  };

  /** The stroke that a chord was to land with is silent: it lands with the next. */
  let owed = false;
  for (const [index, written] of strikes.entries()) {
    const after = strikes[index + 1]?.seconds ?? Infinity;
    const strike: Strike = owed && !written.landing ? { ...written, landing: true } : written;
    owed = false;
    land(strike.tick, strike, after);
    // The hand is on its way along the strings: the stroke at that moment is left to it.
    if (slid !== null && (slid as Landing).tick === strike.tick) continue;
    const stroke = strokeOf(written);
    if (strike.kind === 'legato' && stroke?.kind === 'legato') {
      const until = Math.min(after, (changes[change]?.tick ?? Infinity) * perTick);
      const whole = Math.min(strike.ticks * perTick, until - strike.seconds);
      const available = whole / stroke.steps.length;
      const notes: StrikeNote[] = [];
      stroke.steps.forEach((step, order) => {
        const under = {
          held: heldAt(change - 1),
          next: heldAt(change),
          velocity: strike.velocity,
          strings: stroke.steps.length * options.instrument.strings.length,
          delay: order * available,
          available,
        };
        const now = sounded(step, rings, under, options);
        notes.push(...now.notes);
        tell(strike.tick, now.problems);
      });
      if (notes.length > 0) all.push({ ...strike, notes: inOrder(notes) });
      else owed = strike.landing;
      continue;
    }
    const graces = stroke ? gracesOf(stroke) : [];
    if (graces.length > 0 && strike.notes.length > 0) {
      const held = heldAt(change - 1);
      const sounding = soundingStrings({ held, options }, false);
      const before = all.at(-1);
      const until = Math.min(after, (changes[change]?.tick ?? Infinity) * perTick);
      const available = {
        before: strike.seconds - (before ? before.seconds + (before.notes.at(-1)?.delay ?? 0) : 0),
        after: until - strike.seconds,
      };
      const early = graces[0]!.before;
      let made = strike;
      const taken = new Set<number>();
      for (const one of graces) {
        const picked =
          one.string === undefined
            ? null
            : (pickedString({ string: one.string }, sounding, { held, options })?.string ?? -1);
        // Two names may come to one string here, as R+1 and 2: it has one ornament.
        if (picked !== null && taken.has(picked)) {
          tell(strike.tick, ['two ornaments come to one string: the first of them is played']);
          continue;
        }
        if (picked !== null) taken.add(picked);
        // Notes that are struck together begin together: as the first does.
        const { before: _, ...late } = one;
        const grace: Grace = early ? { ...late, before: true } : late;
        const next = ornamented(
          made,
          { grace, picked, isFirst: made === strike },
          available,
          context,
        );
        if (typeof next === 'string') tell(strike.tick, [next]);
        else made = next;
      }
      ring(made);
      all.push(made);
      continue;
    }
    ring(strike);
    all.push(strike);
  }
  land(Infinity);
  return { strikes: all, silent, slides };
}
