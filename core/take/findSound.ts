import { median } from 'simple-statistics';
import { plural } from '../plain';
import {
  apart,
  CHANCE,
  densestBar,
  type Evidence,
  FEWEST_OF,
  type Found,
  gathered,
  heardOf,
  landed,
} from './findings';
import type { Judged } from './groups';

/** Decibels that ups are softer than downs, beyond what the pattern asks for. */
const UPS_SOFT = 10;
/** Of those that can be told, the share from which something is wrong. */
const [LANDINGS_TOLD, CHORD_LATE] = [5, 0.34];
const WRONG_BASS = 0.3;
const TURNED = 0.28;
/** Of strums at one place, or in a row of so many, this share goes the other way; of all others hardly any does. */
const MOSTLY = 0.8;
const IN_A_ROW = 6;
const AT_A_PLACE = 4;
const STRAY = 0.12;
const RINGS = 0.4;
const [SOUND_WRONG, WRONG_CHORD] = [5, 0.6];
const MISSING_SEVENTH = 0.75;
const WRONG_STRINGS = 0.4;
/** Of those that can be told, this share is as it was meant, or nothing is said. */
const LEAST_RIGHT = 0.25;
/** Strokes that are told at least, before anything is said of their direction. */
const TOLD_WAYS = 8;

const isUp = ({ strike }: Judged) => strike.dir === 'up' && strike.kind !== 'bass';

/** Ups that are there and hardly to be heard. */
export function upsSoft({ played }: Evidence): Found | null {
  const level = (strokes: Judged[]) =>
    heardOf(strokes)
      .filter(({ strike }) => strike.kind === 'strum' && !strike.palm && strike.notes.length >= 3)
      // What the pattern itself asks for is taken off: a soft up that is meant soft is none.
      .map(
        ({ heard, strike }) => heard!.loudness - 20 * Math.log10(Math.max(0.05, strike.velocity)),
      );
  const ups = played.filter(isUp);
  const [up, down] = [level(ups), level(played.filter((one) => !isUp(one)))];
  if (up.length < 4 || down.length < 4) return null;
  const softer = median(down) - median(up);
  if (softer < UPS_SOFT || apart(down, up) < CHANCE) return null;
  return {
    trouble: 'ups',
    hand: 'strumming',
    sentence: `The ups are ${Math.round(softer)} dB softer than the downs: hardly to be heard.`,
    weight: softer / UPS_SOFT,
    strokes: heardOf(ups),
  };
}

/** The old chord still sounds in the strokes that land. */
export function chordsLate({ played }: Evidence): Found | null {
  const told = played.filter(
    (one) =>
      landed(one) && one.heard && one.heard.chord !== 'unknown' && one.heard.chord !== 'wrong',
  );
  const late = told.filter(({ heard }) => heard!.chord === 'late');
  if (told.length < LANDINGS_TOLD || late.length < FEWEST_OF) return null;
  if (late.length / told.length < CHORD_LATE) return null;
  const first = late[0]!;
  const change = { from: first.before!.chord!, to: first.strike.chord! };
  return {
    trouble: 'chord-late',
    hand: 'fretting',
    sentence: `At ${late.length} of ${plural(told.length, 'landing')} the old chord still sounds, as at ${change.from} to ${change.to}: the hand arrives after the stroke.`,
    weight: 1.5 + late.length / told.length / CHORD_LATE,
    strokes: late,
    bar: first.strike.bar + 1,
    change,
  };
}

/** A chord that is held as another one all the time that it lasts. */
export function otherChord({ played }: Evidence): Found | null {
  const told = played.filter(({ heard, strike }) => heard?.other !== undefined && strike.chord);
  const found: Found[] = [];
  for (const [chord, some] of gathered(told, ({ strike }) => strike.chord!)) {
    const wrong = some.filter(({ heard }) => heard!.other !== null);
    if (wrong.length < SOUND_WRONG) continue;
    // Of one bar or of all: those in a row count.
    const bars = gathered(some, ({ strike }) => String(strike.bar));
    const bad = [...bars.values()].filter(
      (strokes) =>
        strokes.filter(({ heard }) => heard!.other !== null).length >= WRONG_CHORD * strokes.length,
    );
    const strokes = bad.flat().filter(({ heard }) => heard!.other !== null);
    if (strokes.length < SOUND_WRONG) continue;
    const others = gathered(strokes, ({ heard }) => heard!.other!);
    const [other, most] = [...others].sort((a, b) => b[1].length - a[1].length)[0]!;
    if (most.length < WRONG_CHORD * strokes.length) continue;
    // A seventh that is not held is missing wherever the chord comes; once or twice it is only soft.
    const isPlainer = chord.startsWith(other);
    if (isPlainer && wrong.length < MISSING_SEVENTH * some.length) continue;
    const bar = densestBar(strokes)!;
    found.push({
      trouble: 'chord',
      hand: 'fretting',
      sentence: `${chord} sounds as ${other} in ${plural(strokes.length, 'stroke')}, first in bar ${strokes[0]!.strike.bar + 1}: look at the fretting hand.`,
      weight: 1 + strokes.length / 4,
      strokes,
      bar,
    });
  }
  return found.sort((a, b) => b.strokes.length - a.strokes.length)[0] ?? null;
}

/** Bass strikes that hit another string. */
export function bassWrong({ played }: Evidence): Found | null {
  return stringsWrong(played, 'bass', WRONG_BASS, (wrong, told) => ({
    trouble: 'bass',
    sentence: `${wrong} of ${plural(told, 'bass stroke')} ${wrong === 1 ? 'hits' : 'hit'} another string than the one that was meant.`,
  }));
}

/** Picked notes on other strings. */
export function picksWrong({ played }: Evidence): Found | null {
  return stringsWrong(played, 'pick', WRONG_STRINGS, (wrong, told) => ({
    trouble: 'strings',
    sentence: `${wrong} of ${plural(told, 'picked note')} ${wrong === 1 ? 'is' : 'are'} on another string than the one that was meant.`,
  }));
}

function stringsWrong(
  played: Judged[],
  kind: 'bass' | 'pick',
  share: number,
  say: (wrong: number, told: number) => Pick<Found, 'trouble' | 'sentence'>,
): Found | null {
  const told = played.filter(({ heard, strike }) => heard?.bass != null && strike.kind === kind);
  const wrong = told.filter(({ heard }) => heard!.bass === false);
  const right = told.length - wrong.length;
  if (wrong.length <= FEWEST_OF || wrong.length / told.length < share) return null;
  // Where hardly any is what was meant, it is the ear that does not know these strings.
  if (right < FEWEST_OF || right < LEAST_RIGHT * told.length) return null;
  return {
    ...say(wrong.length, told.length),
    hand: 'strumming',
    weight: wrong.length / told.length / share,
    strokes: wrong,
  };
}

/** Chucks that ring as strums. */
export function chucksRing({ played }: Evidence): Found | null {
  const told = played.filter(
    ({ heard, strike }) => heard?.rings != null && strike.kind === 'chuck',
  );
  const ring = told.filter(({ heard }) => heard!.rings);
  if (told.length < 4 || ring.length < FEWEST_OF || ring.length / told.length < RINGS) return null;
  return {
    trouble: 'chucks',
    hand: 'both',
    sentence: `${ring.length} of ${plural(told.length, 'chuck')} ring: let the fretting hand go slack, or the heel of the strumming hand fall, as you strike.`,
    weight: ring.length / told.length / RINGS,
    strokes: ring,
  };
}

/** Strums that go the other way than the pattern: at one place of the bar each time, or for a while. */
export function turnedRound({ played, place }: Evidence): Found | null {
  const told = played.filter(({ heard }) => heard !== null && heard.direction !== null);
  if (told.length < TOLD_WAYS) return null;
  const isTurned = ({ heard, strike }: Judged) => heard!.direction !== strike.dir;
  const mostly = (some: Judged[]) => some.filter(isTurned).length >= MOSTLY * some.length;
  const turned = new Set<Judged>();
  const take = (some: Judged[]) => some.filter(isTurned).forEach((one) => turned.add(one));
  for (const some of gathered(told, place).values()) {
    if (some.length >= AT_A_PLACE && mostly(some)) take(some);
  }
  for (let at = 0; at + IN_A_ROW <= told.length; at += 1) {
    const row = told.slice(at, at + IN_A_ROW);
    if (mostly(row)) take(row);
  }
  // An ear that errs does so anywhere: what is left has to agree with what was meant.
  const others = told.filter((one) => !turned.has(one));
  if (turned.size < IN_A_ROW || others.filter(isTurned).length > STRAY * others.length) return null;
  return {
    trouble: 'direction',
    hand: 'strumming',
    sentence: `${turned.size} of ${told.length} strums go the other way than the pattern: the arm has turned round.`,
    weight: turned.size / told.length / TURNED,
    strokes: [...turned],
  };
}
