import { median } from 'simple-statistics';
import type { Seconds } from '../plain';
import type { Arrangement, Strike } from '../arrange';
import type { TakeJudgement, TakeOnset } from '../schema';
import { beatTicks, pulseTicks, secondsPerTick } from '../time';
import { align, type Alignment, type HeardMoment } from './align';
import { BASS_RATE, directionsOf } from './direction';
import { listenTo, type StrokeSound } from './listen';
import { onsets, type Heard } from './onsets';
import { lowered } from './signal';
import { byChange, bySlot, type Judged, toleranceOf } from './groups';
import { unjudged, verdictOf } from './verdict';
import type { Recording } from './wav';

/** Which bars were played, from 0, and with what: the whole song where they are left out. */
export interface TakePart {
  first?: number;
  last?: number;
  /** The second at which their first bar line was, where a clock or a recording says so; else it is found by ear. */
  begins?: Seconds | undefined;
}

/** The strikes that a take was to play: those of some bars, in seconds from the first bar line. */
interface Expected {
  strikes: { index: number; strike: Strike; seconds: Seconds }[];
  beat: Seconds;
  begins: Seconds | null;
}

function expectedOf(
  { song, bars, performance }: Arrangement,
  { first = 0, last, begins = undefined }: TakePart,
): Expected {
  const perTick = secondsPerTick(performance.tempo, song.meter);
  const start = bars[first]?.tick ?? 0;
  const end = bars[Math.min(last ?? bars.length - 1, bars.length - 1)];
  const to = end ? end.tick + end.ticks : 0;
  // What the fretting hand sounds by itself has no onset that could be heard, or missed.
  const strikes = performance.strikes.flatMap((strike, index) =>
    strike.tick >= start && strike.tick < to && strike.kind !== 'legato'
      ? [{ index, strike, seconds: strike.seconds - start * perTick }]
      : [],
  );
  const beat = Math.max(beatTicks(song.meter), pulseTicks(song.meter) / 3) * perTick;
  return { strikes, beat, begins: begins ?? null };
}

/** The pitches that the hand holds at each strike, and those that it held for the chord before. */
function chordsUnder(strikes: Strike[]): { now: number[]; before: number[] }[] {
  const fullest = new Map<string, number[]>();
  for (const { chord, notes, transition, run } of strikes) {
    if (!chord || transition || run) continue;
    const known = fullest.get(chord) ?? [];
    if (notes.length > known.length)
      fullest.set(
        chord,
        notes.map(({ midi }) => midi),
      );
  }
  let now: string | null = null;
  let before: string | null = null;
  return strikes.map(({ chord }) => {
    if (chord !== now) {
      before = now;
      now = chord;
    }
    const of = (symbol: string | null) => (symbol ? (fullest.get(symbol) ?? []) : []);
    return { now: of(now), before: of(before) };
  });
}

/** Of what was heard, how much has to be a stroke that was meant. */
const LEAST_MATCHED = 0.4;
/** Seconds around their places beyond which strokes only happen to be near. */
const MOST_SCATTER = 0.085;
const FEWEST = 8;
/** So many strokes of chords say whether it is these chords at all: if hardly any of them is. */
const ENOUGH_CHORDS = 12;
const LEAST_CHORDS = 0.2;
/** A click that bleeds is far weaker than a stroke, and lies on a beat. */
const CLICK_STRENGTH = 0.45;
/** What is fainter than that is no stroke: a finger that leaves its string. */
const FAINT = 0.42;
/** A single string that stands out by less of what is usual is heard, and its start is not sure. */
const HARDLY = 0.82;

/**
 * Judges a take: which strokes came, how late, and what that says.
 * @param arranged the song at the tempo that was played
 * @param recording as it was read
 * @example judgeSound(arrangement(song), readWav(bytes), {}).verdict.trouble // 'clean'
 */
export function judgeSound(
  arranged: Arrangement,
  recording: Recording,
  part: TakePart = {},
): TakeJudgement {
  const low = lowered(recording);
  const bass = lowered(low, BASS_RATE);
  const heard = onsets(low);
  const expected = expectedOf(arranged, part);
  const laid = layTake(heard, expected);
  if ('reason' in laid) return unjudged(arranged, laid.reason);
  const { alignment } = laid;
  const chords = chordsUnder(expected.strikes.map(({ strike }) => strike));
  const listened = new Map<number, ReturnType<typeof listenTo>>();
  for (const match of alignment.matches) {
    const moment = heard[match.heard]!;
    const place = {
      before: heard[match.heard - 1]?.seconds ?? -1,
      onset: moment.seconds,
      until: heard[match.heard + 1]?.seconds ?? moment.seconds + 0.5,
    };
    const { strike } = expected.strikes[match.expected]!;
    const earlier = expected.strikes[match.expected - 1]?.strike.notes ?? [];
    const chord = { ...chords[match.expected]!, ringing: earlier.map(({ midi }) => midi) };
    listened.set(match.expected, listenTo({ low, bass }, place, strike, chord, moment.rings));
  }
  const chordal = [...listened].filter(
    ([at, { kind }]) => kind !== 'damped' && expected.strikes[at]!.strike.notes.length >= 3,
  );
  const present = chordal.filter(([, { chord }]) => chord === 'on-time' || chord === 'late');
  if (chordal.length >= ENOUGH_CHORDS && present.length < LEAST_CHORDS * chordal.length) {
    return unjudged(arranged, 'the strokes fit, but what sounds is not these chords');
  }
  const told = [...listened];
  const ways = directionsOf(
    told.map(([at, { place }]) => ({ place, meant: expected.strikes[at]!.strike.dir })),
  );
  const sounds = new Map(
    told.map(([at, { place: _, ...sound }], index) => [at, { ...sound, direction: ways[index]! }]),
  );
  return judged(arranged, expected, heard, alignment, sounds);
}

/**
 * Judges a take that came as onsets: taps, or strokes read from notes. What its sound would tell is unknown.
 * @example judgeOnsets(arrangement(song), [{ seconds: 0.5 }, { seconds: 1 }]).verdict.trouble // 'unjudged'
 */
export function judgeOnsets(
  arranged: Arrangement,
  taken: TakeOnset[],
  part: TakePart = {},
): TakeJudgement {
  const sorted = [...taken].sort((a, b) => a.seconds - b.seconds);
  const heard = sorted.map(({ seconds, loudness = 0.7 }): Heard => ({
    seconds,
    strength: 10,
    loudness: 20 * Math.log10(Math.max(0.01, loudness)),
    // Whether it rang nobody knows: it may have been counted in.
    rings: 0,
  }));
  const expected = expectedOf(arranged, part);
  const laid = layTake(heard, expected);
  if ('reason' in laid) return unjudged(arranged, laid.reason);
  const sounds = new Map<number, StrokeSound>();
  for (const match of laid.alignment.matches) {
    const { strike } = expected.strikes[match.expected]!;
    const direction = sorted[match.heard]!.direction ?? null;
    sounds.set(match.expected, {
      kind: meantKind(strike),
      direction,
      chord: 'unknown',
      bass: null,
    });
  }
  return judged(arranged, expected, heard, laid.alignment, sounds);
}

function meantKind({ kind, notes }: Strike): StrokeSound['kind'] {
  if (kind === 'bass') return 'bass';
  if (notes.length === 0) return 'damped';
  return notes.length >= 4 ? 'full' : 'few';
}

/** Lays what was heard on what was expected, or says why that cannot be done. */
function layTake(
  heard: Heard[],
  { strikes, beat, begins }: Expected,
): { alignment: Alignment } | { reason: string } {
  if (strikes.length === 0) return { reason: 'these bars have no strokes' };
  if (heard.length === 0) return { reason: 'nothing was heard' };
  if (heard.length < FEWEST) return { reason: `only ${heard.length} strokes were heard` };
  const alignment = align(
    heard,
    strikes.map(({ seconds }) => seconds),
    beat,
    begins,
  );
  if (!alignment || alignment.matches.length < FEWEST) {
    return { reason: 'what was heard does not fit these bars' };
  }
  const { matches } = alignment;
  const meant = matches.at(-1)!.expected + 1;
  const inside = heard.filter(
    ({ seconds }) =>
      seconds >= heard[matches[0]!.heard]!.seconds - beat &&
      seconds <= heard[matches.at(-1)!.heard]!.seconds,
  ).length;
  const share = matches.length / Math.max(meant, inside);
  const offs = matches.map(({ heard: index, expected }) =>
    Math.abs(heard[index]!.seconds - alignment.at(expected)),
  );
  if (share < LEAST_MATCHED || median(offs) > MOST_SCATTER) {
    return { reason: 'what was heard is not these bars at this tempo' };
  }
  return { alignment };
}

function judged(
  arranged: Arrangement,
  expected: Expected,
  heard: Heard[],
  alignment: Alignment,
  sounds: Map<number, StrokeSound>,
): TakeJudgement {
  const { strikes, beat } = expected;
  const usual = median(alignment.matches.map((match) => heard[match.heard]!.strength));
  const all: Judged[] = strikes.map(({ index, strike, seconds }, at) => ({
    index,
    strike,
    seconds,
    before: strikes[at - 1]?.strike ?? null,
    heard: null,
  }));
  for (const match of alignment.matches) {
    const moment = heard[match.heard]!;
    all[match.expected]!.heard = {
      seconds: moment.seconds,
      off: (moment.seconds - alignment.at(match.expected)) * 1000,
      loudness: moment.loudness,
      faint: strikes[match.expected]!.strike.kind === 'bass' && moment.strength < HARDLY * usual,
      ...sounds.get(match.expected)!,
    };
  }
  const reached = alignment.matches.at(-1)!.expected;
  const played = all.slice(0, reached + 1);
  const added = alignment.added
    .map((index) => heard[index]!)
    .filter((moment) => counts(moment, usual, played, alignment, beat));
  const barLine = alignment.barLine;
  const residuals = alignment.matches.map(
    (match) => (alignment.at(match.expected) - strikes[match.expected]!.seconds - barLine) * 1000,
  );
  const tolerance = toleranceOf(arranged, played);
  const lag = alignment.countedIn ? median(residuals.slice(0, 24)) : 0;
  const slips = alignment.slips.map(({ expected: at, seconds }) => ({
    bar: strikes[at]!.strike.bar + 1,
    seconds,
  }));
  const slots = bySlot(arranged, played, tolerance);
  const changes = byChange(played, tolerance);
  const round = (value: number) => Number(value.toFixed(1));
  return {
    lag: round(lag),
    drift: Number(alignment.drift.toFixed(2)),
    tolerance,
    strokes: played.flatMap(({ index, heard: one }) =>
      one
        ? [
            {
              strike: index,
              seconds: Number(one.seconds.toFixed(4)),
              off: round(one.off),
              kind: one.kind,
              direction: one.direction,
              chord: one.chord,
            },
          ]
        : [],
    ),
    missed: played.flatMap(({ index, heard: one }) => (one ? [] : [index])),
    added: added.map(({ seconds }) => Number(seconds.toFixed(4))),
    slips,
    bySlot: slots,
    byChange: changes,
    verdict: verdictOf(arranged, played, {
      drift: alignment.drift,
      added: added.length,
      slips,
      tolerance,
      byChange: changes,
    }),
  };
}

/** What was heard beside the strokes counts as added, unless it is a click or part of a roll. */
function counts(
  moment: HeardMoment,
  usual: number,
  played: Judged[],
  alignment: Alignment,
  beat: Seconds,
): boolean {
  const rolls = played.some(
    ({ strike, heard }) =>
      strike.kind === 'roll' &&
      heard &&
      moment.seconds > heard.seconds &&
      moment.seconds < heard.seconds + beat,
  );
  if (rolls) return false;
  const into = (moment.seconds - alignment.barLine) / beat;
  const onBeat = Math.abs(into - Math.round(into)) * beat < 0.05;
  return moment.strength > (onBeat ? CLICK_STRENGTH : FAINT) * usual;
}
