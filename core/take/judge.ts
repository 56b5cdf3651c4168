import { median } from 'simple-statistics';
import { plural, type Seconds } from '../plain';
import type { Arrangement, Strike } from '../arrange';
import type { Hand } from '../hand';
import { JUDGE_VERSION, type TakeJudgement, type TakeOnset } from '../schema';
import { beatTicks, pulseTicks, secondsPerTick } from '../time';
import { align, type Alignment, type HeardMoment } from './align';
import { BASS_RATE, directionsOf } from './direction';
import { chordsUnder, plainerThan } from './held';
import { listenTo, type StrokeSound } from './listen';
import { soundsOf, type Heard } from './onsets';
import { downsample } from './signal';
import { softNotes } from './softNotes';
import {
  chucksBesideStrums,
  knownWays,
  LEAST_OF_USUAL,
  LEAST_RIGHT_THERE,
  LIKELY,
  missedByEar,
  secondLook,
  sevenths,
  SOFT,
} from './doubt';
import { type Added, FEWEST_OF } from './findings';
import { byChange, bySlot, type Judged, MAX_TOLERANCE, placeOf, toleranceOf } from './groups';
import { isLanding } from './kinds';
import { unjudged, verdictOf } from './verdict';
import type { Recording } from './wav';

/** Which bars were played, from 0, and with what: the whole song where they are left out. */
export interface TakePart {
  first?: number;
  last?: number;
  /** The second at which their first bar line was, where a clock or a recording says so; else it is found by ear. */
  begins?: Seconds | undefined;
  /** What is known of the player's hand. */
  hand?: Hand | undefined;
}

/** The strikes that a take was to play: those of some bars, in seconds from the first bar line. */
interface Expected {
  strikes: { index: number; strike: Strike; seconds: Seconds }[];
  beat: Seconds;
  begins: Seconds | null;
  bars: { first: number; last: number };
  hand: Hand | undefined;
}

function expectedOf(
  { song, bars, performance }: Arrangement,
  { first = 0, last, begins = undefined, hand = undefined }: TakePart,
): Expected {
  const perTick = secondsPerTick(performance.tempo, song.meter);
  const start = bars[first]?.tick ?? 0;
  const lastBar = Math.min(last ?? bars.length - 1, bars.length - 1);
  const end = bars[lastBar];
  const to = end ? end.tick + end.ticks : 0;
  // What the fretting hand sounds by itself has no onset that could be heard, or missed.
  const strikes = performance.strikes.flatMap((strike, index) =>
    strike.tick >= start && strike.tick < to && strike.kind !== 'legato'
      ? [{ index, strike, seconds: strike.seconds - start * perTick }]
      : [],
  );
  const beat = Math.max(beatTicks(song.meter), pulseTicks(song.meter) / 3) * perTick;
  return { strikes, beat, begins: begins ?? null, bars: { first, last: lastBar }, hand };
}

/** Of what was heard, how much has to be a stroke that was meant. */
const LEAST_MATCHED = 0.4;
/** What laying a stroke may cost: beyond it, strokes only happen to be near. */
const MAX_COST = 1.3;
const FEWEST = 8;
/** Where a take has less than that, all of it, and never fewer than these. */
const FEWEST_OF_ALL = 4;
/** So many strokes of chords say whether it is these chords at all: if hardly any of them is. */
const ENOUGH_CHORDS = 12;
const LEAST_CHORDS = 0.2;
const MAX_WRONG = 0.4;
/** What a stroke costs to lay in the mean where nobody looks further, and by how much another place has to be better. */
const FITS_WELL = 0.2;
const CLEARLY_BETTER = 0.05;
/** Of the strokes that should ring, more than this share is gone at once: these are no strings. */
const MAX_KNOCKS = 0.75;
/** A click that bleeds is far weaker than a stroke, and lies on a beat. */
const CLICK_STRENGTH = 0.45;
/** What was not meant is a stroke only where it is nearly as strong as they usually are. */
const SURELY = 0.75;
/** Strings that ring beat now and then: where fewer of what was added than this share are as strong as strokes are, they did. */
const [AS_STRONG, STRONG_SHARE] = [0.95, 1 / 2];
/** What is fainter than that is no stroke: a finger that leaves its string. */
const FAINT = 0.42;
/** A single string, or a chuck over what rings, that stands out by less of what is usual is heard, and its start is not sure. */
const HARDLY = 0.82;
const HARD_TO_PLACE: Strike['kind'][] = ['bass', 'chuck'];

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
  const low = downsample(recording);
  const bass = downsample(low, BASS_RATE);
  const sounds = soundsOf(low);
  const expected = expectedOf(arranged, part);
  const usual = median([0, ...sounds.strokes.map(({ strength }) => strength)]);
  const share = ({ strength }: Heard) => strength / usual;
  const likely = sounds.maybe.filter((one) => share(one) >= LIKELY);
  const faint = sounds.maybe.filter((one) => share(one) >= LEAST_OF_USUAL && share(one) < LIKELY);
  const weak = new Set(likely);
  const heard = [...sounds.strokes, ...likely].sort((a, b) => a.seconds - b.seconds);
  const laid = layTake(heard, expected, 'sound', faint);
  if ('reason' in laid) return unjudged(arranged, laid.reason);
  const { alignment } = laid;
  const fainter = sounds.maybe.filter(
    (one) => share(one) >= LEAST_RIGHT_THERE && share(one) < LIKELY,
  );
  const again = secondLook(expected.strikes, alignment, fainter, usual);
  const { under: chords, fullest } = chordsUnder(expected.strikes.map(({ strike }) => strike));
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
    const chord = {
      ...chords[match.expected]!,
      ringing: earlier.map(({ midi }) => midi),
      others: fullest,
      plainer: strike.chord ? plainerThan(strike.chord) : null,
    };
    listened.set(match.expected, listenTo({ low, bass }, place, strike, chord, moment.rings));
  }
  chucksBesideStrums(listened, (at) => expected.strikes[at]!.strike, alignment, heard);
  // Knocks on the table are no strings: what should ring is gone at once.
  const shouldRing = [...listened].filter(([at]) => {
    const { notes, palm, kind } = expected.strikes[at]!.strike;
    return notes.length > 0 && !palm && kind !== 'chuck';
  });
  const knocks = shouldRing.filter(([, { kind }]) => kind === 'damped').length;
  if (shouldRing.length >= FEWEST_OF_ALL && knocks > MAX_KNOCKS * shouldRing.length) {
    return unjudged(arranged, 'what was heard does not ring as strings do');
  }
  const chordal = [...listened].filter(
    ([at, { kind }]) => kind !== 'damped' && expected.strikes[at]!.strike.notes.length >= 3,
  );
  const present = chordal.filter(([, { chord }]) => chord === 'on-time' || chord === 'late');
  const wrong = chordal.filter(([, { chord }]) => chord === 'wrong');
  const few = present.length < LEAST_CHORDS * chordal.length;
  const others =
    wrong.length > MAX_WRONG * chordal.length && present.length < 2 * LEAST_CHORDS * chordal.length;
  if (chordal.length >= ENOUGH_CHORDS && (few || others)) {
    return unjudged(arranged, 'the strokes fit, but what sounds is not these chords');
  }
  const told = [...listened];
  const meant = told.map(([at]) => expected.strikes[at]!.strike);
  const places = told.map(([, { place }], index) => ({ place, meant: meant[index]!.dir }));
  const full = meant.filter(({ kind, notes }) => kind === 'strum' && notes.length >= 4).length;
  const ways = knownWays(directionsOf(places), meant, full);
  const strikeAt = (at: number) => expected.strikes[at]!.strike;
  sevenths(listened, strikeAt);
  const soundOf = new Map(
    told.map(([at, { place: _, plainer: __, strings: ___, ...sound }], index) => [
      at,
      { ...sound, direction: ways[index]! },
    ]),
  );
  const soft = softNotes(low, expected.strikes, alignment, heard);
  return judged(arranged, expected, heard, alignment, soundOf, 'sound', { again, weak, soft });
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
  const heard = sorted.map(({ seconds, loudness = 0.7, direction }) => ({
    seconds,
    direction,
    strength: 10,
    loudness: 20 * Math.log10(Math.max(0.01, loudness)),
    // Whether it rang nobody knows: it may have been counted in.
    rings: 0,
  }));
  const expected = expectedOf(arranged, part);
  const laid = layTake(heard, expected, 'onsets');
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
      rings: null,
    });
  }
  return judged(arranged, expected, heard, laid.alignment, sounds, 'onsets');
}

/** A stroke of which only its moment is known. */
const unknownSound = (strike: Strike): StrokeSound => ({
  kind: meantKind(strike),
  direction: null,
  chord: 'unknown',
  bass: null,
  rings: null,
});

function meantKind({ kind, notes }: Strike): StrokeSound['kind'] {
  if (kind === 'bass') return 'bass';
  if (notes.length === 0) return 'damped';
  return notes.length >= 4 ? 'full' : 'few';
}

/** Lays what was heard on what was expected, or says why that cannot be done. */
function layTake(
  heard: Heard[],
  { strikes, beat, begins }: Expected,
  came: 'sound' | 'onsets',
  maybe: Heard[] = [],
): { alignment: Alignment } | { reason: string } {
  if (strikes.length === 0) return { reason: 'these bars have no strokes' };
  if (heard.length === 0) return { reason: 'nothing was heard' };
  const fewest = Math.max(FEWEST_OF_ALL, Math.min(FEWEST, strikes.length));
  if (heard.length < fewest) {
    return { reason: `only ${plural(heard.length, 'stroke')} were heard` };
  }
  const meant = strikes.map(({ strike, seconds }, index) => ({
    seconds,
    soft: came === 'sound' && strike.velocity < SOFT,
    pause: strike.landing || strike.bar !== strikes[index - 1]?.strike.bar,
    direction: strike.dir,
  }));
  const faint = maybe.map(({ seconds }) => seconds);
  const told = align(heard, meant, beat, begins, faint);
  // By microphone the place of the bar line is a hint: where the take fits clearly better elsewhere, it is there.
  const sure = begins === null || came === 'onsets' || (told && told.cost < FITS_WELL);
  const free = sure ? null : align(heard, meant, beat, null, faint);
  const alignment = free && (!told || free.cost < told.cost - CLEARLY_BETTER) ? free : told;
  if (!alignment || alignment.matches.length < Math.min(fewest, FEWEST)) {
    return { reason: 'what was heard does not fit these bars' };
  }
  const { matches } = alignment;
  const reached = matches.at(-1)!.expected + 1;
  const inside = heard.filter(
    ({ seconds }) =>
      seconds >= heard[matches[0]!.heard]!.seconds - beat &&
      seconds <= heard[matches.at(-1)!.heard]!.seconds,
  ).length;
  const share = matches.length / Math.max(reached, inside);
  if (share < LEAST_MATCHED || alignment.cost > MAX_COST) {
    return { reason: 'what was heard is not these bars at this tempo' };
  }
  return { alignment };
}

/** Landings that come after their territory are late each time by about as much, within these milliseconds. */
const AS_LATE = 70;
/** Of the landings that seem left out, so many have to be found again. */
const FOUND_AGAIN = 0.6;

/**
 * Landings that come so late that the next stroke is there before them: what looks left out, and added a while later, by
 * about as much each time. They are late, and not left out.
 */
function lateBeyond(all: Judged[], added: Added[], beat: Seconds, at: (place: number) => Seconds) {
  const out = all.flatMap((one, place) =>
    !one.heard && isLanding(one.strike, one.before) ? [{ one, place }] : [],
  );
  if (out.length < 3) return new Map<Judged, Added>();
  const pairs = out.flatMap(({ one, place }) => {
    const from = at(place);
    const found = added.find(({ seconds }) => seconds > from && seconds < from + 1.3 * beat);
    return found ? [{ one, found, late: (found.seconds - from) * 1000 }] : [];
  });
  if (pairs.length < Math.max(3, FOUND_AGAIN * out.length)) return new Map<Judged, Added>();
  const middle = median(pairs.map(({ late }) => late));
  const alike = pairs.filter(({ late }) => Math.abs(late - middle) < AS_LATE);
  if (alike.length < Math.max(3, FOUND_AGAIN * out.length)) return new Map<Judged, Added>();
  return new Map(alike.map(({ one, found }) => [one, found]));
}

/** Milliseconds to which the start of a stroke is known by ear: a take as sound is in time within so much more. */
const EAR = 4;

/** What stands out so little that it is only a stroke where one was meant. */
interface Doubtful {
  /** By its place: strokes that were found there at the second look. */
  again?: Map<number, Heard>;
  /** Taken for strokes from the start; none of them is one too many, and their starts are not sure. */
  weak?: Set<Heard>;
  /** By its place: single notes that sound, though nobody heard them begin. */
  soft?: Set<number>;
}

function judged(
  arranged: Arrangement,
  expected: Expected,
  heard: Heard[],
  alignment: Alignment,
  sounds: Map<number, StrokeSound>,
  came: 'sound' | 'onsets',
  { again = new Map(), weak = new Set(), soft = new Set() }: Doubtful = {},
): TakeJudgement {
  const { strikes, beat, bars } = expected;
  const usual = median(alignment.matches.map((match) => heard[match.heard]!.strength));
  const all: Judged[] = strikes.map(({ index, strike, seconds }, at) => ({
    index,
    strike,
    seconds,
    before: strikes[at - 1]?.strike ?? null,
    heard: null,
    counts: true,
    hurried: alignment.hurried.has(at),
  }));
  for (const match of alignment.matches) {
    const moment = heard[match.heard]!;
    all[match.expected]!.heard = {
      seconds: moment.seconds,
      off: (moment.seconds - alignment.at(match.expected)) * 1000,
      loudness: moment.loudness,
      faint:
        weak.has(moment) ||
        (HARD_TO_PLACE.includes(strikes[match.expected]!.strike.kind) &&
          moment.strength < HARDLY * usual),
      ...sounds.get(match.expected)!,
    };
  }
  for (const [at, moment] of again) {
    all[at]!.heard = {
      ...unknownSound(strikes[at]!.strike),
      seconds: moment.seconds,
      off: (moment.seconds - alignment.at(at)) * 1000,
      loudness: moment.loudness,
      faint: true,
    };
  }
  const reached = reachedBy(all, alignment.matches.at(-1)!.expected, bars.last);
  const played = all.slice(0, reached + 1);
  const order = alignment.matches.map((match) => heard[match.heard]!.seconds);
  const places = alignment.matches.map((match) => match.expected);
  const extra = alignment.added
    .map((index) => heard[index]!)
    .filter((moment) => !weak.has(moment) && counts(moment, usual, played, alignment, beat, came));
  const strong = extra.filter(({ strength }) => strength >= AS_STRONG * usual);
  const beats =
    came === 'sound' && strong.length < Math.max(FEWEST_OF, STRONG_SHARE * extra.length);
  const beside: Added[] = (beats ? strong : extra).map(({ seconds }) => {
    const next = order.findIndex((one) => one > seconds);
    return { seconds, after: places[(next < 0 ? order.length : next) - 1] ?? 0 };
  });
  const late = lateBeyond(played, beside, beat, alignment.at);
  for (const [one, { seconds }] of late) {
    const at = all.indexOf(one);
    one.heard = {
      seconds,
      off: (seconds - alignment.at(at)) * 1000,
      loudness: 0,
      faint: false,
      ...unknownSound(one.strike),
    };
  }
  const found = new Set(late.values());
  const added = beside.filter((one) => !found.has(one));
  // As onsets everything counts; a microphone may miss what is soft.
  if (came === 'sound') missedByEar(played, soft);
  const barLine = alignment.barLine;
  const residuals = alignment.matches.map(
    (match) => (alignment.at(match.expected) - strikes[match.expected]!.seconds - barLine) * 1000,
  );
  const byEar = came === 'sound' ? EAR : 0;
  const asked = toleranceOf(played.map(({ seconds }) => seconds));
  const tolerance = Math.min(MAX_TOLERANCE, asked + byEar);
  const lag = alignment.countedIn ? median(residuals.slice(0, 24)) : 0;
  const slips = alignment.stops.map(({ expected: at, seconds }) => ({
    bar: strikes[at]!.strike.bar + 1,
    seconds: Number(seconds.toFixed(3)),
  }));
  const slots = bySlot(arranged, played, tolerance);
  const changes = byChange(played, tolerance);
  const round = (value: number) => Number(value.toFixed(1));
  const names = new Map<Judged, string>();
  const place = (one: Judged) => {
    const known = names.get(one) ?? placeOf(arranged, one.strike);
    names.set(one, known);
    return known;
  };
  const { verdict, counted } = verdictOf(
    {
      arranged,
      played,
      tolerance,
      added,
      stops: alignment.stops.map(({ expected: at, seconds }) => ({ at, seconds })),
      tempo: alignment.tempo,
      tempoError: alignment.tempoError,
      byChange: changes,
      place,
    },
    bars,
    expected.hand,
  );
  return {
    lag: round(lag),
    drift: Number(
      (verdict.trouble === 'tempo'
        ? alignment.tempo.end - alignment.tempo.start
        : alignment.tempo.end
      ).toFixed(2),
    ),
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
    missed: played.flatMap(({ index, heard: one, counts: sure }) => (one || !sure ? [] : [index])),
    added: added.map(({ seconds }) => Number(seconds.toFixed(4))),
    slips,
    bySlot: slots,
    byChange: changes,
    playedAt: round(arranged.song.tempo * (1 + alignment.tempo.mean / 100)),
    ...(counted && { counted }),
    judge: JUDGE_VERSION,
    verdict,
  };
}

/** The last stroke that was meant: a player who is in the last bar plays it to its end. */
function reachedBy(all: Judged[], last: number, lastBar: number): number {
  return all[last]!.strike.bar === lastBar ? all.length - 1 : last;
}

/** What was heard beside the strokes counts as added, unless it is a click or part of a roll. */
function counts(
  moment: HeardMoment,
  usual: number,
  played: Judged[],
  alignment: Alignment,
  beat: Seconds,
  came: 'sound' | 'onsets',
): boolean {
  // A string that is let go or beats, a knock or a finger are less than a stroke.
  if (came === 'sound' && moment.strength < SURELY * usual) return false;
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
