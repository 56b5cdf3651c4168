import type { Arrangement } from '../arrange';
import { ANY_HAND, type Hand, handReport } from '../hand';
import { plural } from '../plain';
import { JUDGE_VERSION, type TakeJudgement, type Trouble } from '../schema';
import { drifting, otherTempo, stopped, uneven } from './findClock';
import { afterMisses, landingsLate, landingsOut } from './findLandings';
import { addedStrokes, leftOut, MAX_ADDED, placeOff } from './findOmissions';
import {
  bassWrong,
  chordsLate,
  chucksRing,
  otherChord,
  picksWrong,
  turnedRound,
  upsSoft,
} from './findSound';
import { afterMiss, densestBar, type Evidence, type Found, heardOf, isMissing } from './findings';
import { isInTime, type Judged } from './groups';

/**
 * Clean, in one place: of the strokes that are meant in the bars played, at least this share is heard and in time, and no
 * more than one in twenty is added beside them. A place, a change or a kind of stroke that stands out is a finding, and
 * where there is a finding a take is not clean.
 */
export const CLEAN_SHARE = 19 / 20;
/** From this share on a take that is not clean is nearly so. */
const NEARLY_SHARE = 0.8;

/** What a teacher would mend first. What stops or throws the beat comes before what colours it. */
const ORDER: Trouble[] = [
  'tempo',
  'waits',
  'stops',
  'chord',
  'landings-out',
  'landings',
  'after-miss',
  'chord-late',
  'direction',
  'ups',
  'taps',
  'missing',
  'added',
  'uneven',
  'rushing',
  'dragging',
  'bass',
  'strings',
  'chucks',
  'slot',
  'nearly',
];
const rank = ({ trouble }: Found) => ORDER.indexOf(trouble);

/** Of the strokes that were heard, so many lie about where they were meant: then it is known which is which. */
const FOLLOWED = 0.6;
const ABOUT = 2;

/** Whether it is known which stroke was which: what one sounded like says nothing where another was meant. */
function isFollowed({ played, tolerance }: Evidence): boolean {
  const heard = heardOf(played);
  const near = heard.filter((one) => Math.abs(one.heard!.off) <= ABOUT * tolerance);
  return near.length >= FOLLOWED * heard.length;
}

const soundFindings = (evidence: Evidence): (Found | null)[] => [
  chordsLate(evidence),
  otherChord(evidence),
  upsSoft(evidence),
  bassWrong(evidence),
  picksWrong(evidence),
  chucksRing(evidence),
  turnedRound(evidence),
];

/** Everything that is wrong, what a teacher would mend first at the front. */
function findings(evidence: Evidence): Found[] {
  const { played } = evidence;
  const explained = new Set<Judged>();
  const explain = (found: Found | null) => {
    found?.strokes.forEach((one) => explained.add(one));
    return found;
  };
  const tempo = otherTempo(evidence);
  const stops = stopped(evidence);
  const arm = afterMisses(evidence);
  // Who stops at the changes comes late there: that is one thing.
  const late = stops?.trouble === 'waits' ? null : explain(landingsLate(evidence, arm !== null));
  const out = explain(landingsOut(evidence));
  if (arm) played.filter(afterMiss).forEach((one) => explained.add(one));
  const scattered = uneven(evidence, explained);
  const omitted = [explain(leftOut(evidence, explained)), explain(leftOut(evidence, explained))];
  const places = arm ? [] : [explain(placeOff(evidence, explained)), placeOff(evidence, explained)];
  const all = [
    tempo,
    stops,
    arm,
    late,
    out,
    scattered,
    ...omitted,
    ...places,
    addedStrokes(evidence),
    ...(isFollowed(evidence) ? soundFindings(evidence) : []),
    drifting(evidence),
  ].filter((one) => one !== null);
  return all.sort((one, other) => rank(one) - rank(other) || other.weight - one.weight);
}

/** What is wrong with a take where nothing by itself stands out: nothing, or too much in all. */
function inAll(evidence: Evidence, good: number, meant: number): Found | null {
  const { played, added, tolerance } = evidence;
  if (good >= CLEAN_SHARE * meant && added.length <= MAX_ADDED * meant) return null;
  const out = played.filter(isMissing);
  const off = heardOf(played).filter((one) => !isInTime(one, tolerance));
  const parts = [
    out.length > 0 && `${out.length} left out`,
    off.length > 0 && `${off.length} early or late`,
    added.length > 0 && `${added.length} added`,
  ].filter((one) => one !== false);
  const nearly = good >= NEARLY_SHARE * meant;
  const strokes = [...out, ...off];
  const most: Trouble = out.length > off.length ? 'missing' : 'uneven';
  return {
    trouble: nearly ? 'nearly' : added.length > strokes.length ? 'added' : most,
    hand: 'strumming',
    sentence: `${nearly ? 'Nearly: ' : ''}${parts.join(', ')}, here and there.`,
    weight: 1,
    strokes,
  };
}

/** Pulses a minute to go up or down by, as a share of the tempo. */
const STEP = 0.06;
const stepOf = (tempo: number) => Math.max(2, Math.round(tempo * STEP));
const SLOWEST = 20;
/** A change is practised so far below the tempo that the hand can do. */
const BELOW_CEILING = 0.95;
/** From this weight on something is bad enough to go slower. */
const BAD = 1.8;

/** What the hand can do at a change: a sentence where it has too little time, and the tempo up to which it has enough. */
function handAt(
  arranged: Arrangement,
  change: { from: string; to: string },
  hand: Hand,
): { sentence: string; ceiling: number | null } {
  const kind = handReport(arranged, hand).kinds.find(
    ({ from, to }) => from.symbol === change.from && to.symbol === change.to,
  );
  const finger = kind?.tightest.tightest;
  if (!kind || !finger || kind.ceiling === null) return { sentence: '', ceiling: null };
  const [needs, has] = [Math.round(finger.ms), Math.round(finger.window)];
  return {
    sentence: needs > has ? ` Your hand needs ${needs} ms there, the song gives ${has}.` : '',
    ceiling: kind.ceiling,
  };
}

/**
 * One verdict from all that was found: what a teacher would mend first, what comes then, what to do next, and how sure
 * that is.
 * @param hand what is known of the player's hand: it says at which tempo a late change can be made
 */
export function verdictOf(
  evidence: Evidence,
  bars: { first: number; last: number },
  hand: Hand = ANY_HAND,
): Pick<TakeJudgement, 'verdict' | 'counted'> {
  const { arranged, played, tolerance } = evidence;
  const { song } = arranged;
  const found = findings(evidence);
  // What sounds wrong is not good, however well it is in time.
  const wrong = new Set(
    found.filter(({ trouble }) => WRONG_SOUND.includes(trouble)).flatMap(({ strokes }) => strokes),
  );
  const heard = heardOf(played);
  const meant = played.filter(({ counts }) => counts).length;
  const good = heard.filter((one) => isInTime(one, tolerance) && !wrong.has(one)).length;
  const soft = played.length - meant;
  const counted = { meant, heard: heard.length, good, soft };
  const count = `${good} of ${plural(meant, 'stroke')} within ${tolerance} ms`;
  const left =
    soft > 0
      ? ` ${plural(soft, 'stroke')} that a microphone may miss ${soft === 1 ? 'was' : 'were'} not heard and ${soft === 1 ? 'is' : 'are'} not counted.`
      : '';
  const enough = Math.min(1, heard.length / 40) * (heard.length / Math.max(1, played.length));
  if (found.length === 0) {
    const whole = inAll(evidence, good, meant);
    if (!whole) {
      return {
        counted,
        verdict: {
          trouble: 'clean',
          hand: null,
          sentence: `Clean: ${count} at ${song.tempo}.${left}`,
          advice: 'up',
          tempo: song.tempo + stepOf(song.tempo),
          loop: null,
          sure: Number((0.55 + 0.4 * enough).toFixed(2)),
          strokes: heard.map(({ index }) => index),
        },
      };
    }
    found.push(whole);
  }
  const [first, second] = found as [Found, Found?];
  const can = first.change ? handAt(arranged, first.change, hand) : null;
  const bad = first.trouble !== 'tempo' && first.weight > BAD;
  const slower = Math.max(SLOWEST, song.tempo - stepOf(song.tempo));
  const canAt = can?.ceiling == null ? Infinity : Math.floor(can.ceiling * BELOW_CEILING);
  const tooQuick = canAt < song.tempo;
  const down = bad || tooQuick;
  const start = first.sentence;
  const isFew =
    first.trouble === 'missing' || first.trouble === 'taps' || first.trouble === 'nearly';
  return {
    counted,
    verdict: {
      trouble: first.trouble,
      hand:
        second && second.hand !== first.hand && NEXT_TO.has(second.trouble) ? 'both' : first.hand,
      sentence: isFew
        ? `${capital(start)} ${capital(count)}.${left}`
        : `${start}${can?.sentence ?? ''} ${capital(`${ASIDE[first.trouble] ?? ''}${count}`)}.${left}`,
      advice: down ? 'down' : 'stay',
      tempo: down ? Math.max(SLOWEST, Math.min(slower, canAt)) : song.tempo,
      loop: loopOf(first, bars),
      sure: Number(
        Math.max(0.3, Math.min(0.98, 0.45 + 0.35 * enough + 0.12 * (first.weight - 1))).toFixed(2),
      ),
      strokes: first.strokes.map(({ index }) => index).sort((a, b) => a - b),
      ...(second && { then: { trouble: second.trouble, sentence: second.sentence } }),
    },
  };
}

/** What the count leaves out of account, where it does. */
const ASIDE: Partial<Record<Trouble, string>> = {
  tempo: 'at your own tempo, ',
  waits: 'between the stops, ',
  stops: 'between the stops, ',
};
const WRONG_SOUND: Trouble[] = ['chord', 'chord-late', 'bass', 'strings', 'chucks', 'direction'];
/** Troubles of the one hand beside which those of the other are worth naming. */
const NEXT_TO = new Set<Trouble>([
  'landings',
  'landings-out',
  'waits',
  'after-miss',
  'uneven',
  'ups',
]);
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The bars to play round: the worst one with the one before and after, or where most of it lies. */
function loopOf(
  { bar, strokes, trouble }: Found,
  { first, last }: { first: number; last: number },
): TakeJudgement['verdict']['loop'] {
  if (trouble === 'tempo' || trouble === 'rushing' || trouble === 'dragging') return null;
  const at = bar ?? densestBar(strokes);
  if (at === undefined) return null;
  const [from, to] = [Math.max(first + 1, at - 1), Math.min(last + 1, at + 1)];
  return from <= first + 1 && to >= last + 1 && bar === undefined ? null : { from, to };
}

/** Too little to say anything: with the reason, and nothing invented. */
export function unjudged({ song }: Arrangement, reason: string): TakeJudgement {
  return {
    lag: 0,
    drift: 0,
    tolerance: 0,
    strokes: [],
    missed: [],
    added: [],
    slips: [],
    bySlot: [],
    byChange: [],
    judge: JUDGE_VERSION,
    verdict: {
      trouble: 'unjudged',
      hand: null,
      sentence: `This take can’t be judged: ${reason}.`,
      advice: 'stay',
      tempo: song.tempo,
      loop: null,
      sure: 0,
    },
  };
}
