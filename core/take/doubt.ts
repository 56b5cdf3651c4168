import { median } from 'simple-statistics';
import type { Strike } from '../arrange';
import type { Seconds } from '../plain';
import type { Direction } from '../schema';
import type { Alignment } from './align';
import { apart, CHANCE } from './findings';
import type { Judged } from './groups';
import { plainerThan } from './held';
import type { StrokeSound } from './listen';
import type { Heard } from './onsets';

/** What a microphone may miss, and what it may take for a stroke: nobody is accused of it. */

/** Velocity below which a stroke may go unheard in a room. */
export const SOFT = 0.45;

/** A second look is for strokes that are about in time: within so many seconds of where they were meant. */
const SECOND_LOOK: Seconds = 0.045;
/** And stands out by this share of what strokes usually do: what is left of one, and not of the noise. */
export const LEAST_OF_USUAL = 0.45;
/** Right where it was meant less is enough: noise would be anywhere. */
const RIGHT_THERE: Seconds = 0.013;
export const LEAST_RIGHT_THERE = 0.33;
/** From this share on it is taken for a stroke from the start: where strings ring, strokes stand out little. */
export const LIKELY = 0.55;

/**
 * Strokes that were meant and seem left out, where something may be one: a stroke over strings that ring alike hardly
 * stands out, and whoever knows that it was meant still hears it.
 */
export function secondLook(
  strikes: unknown[],
  { matches, at }: Alignment,
  maybe: Heard[],
  usual: number,
): Map<number, Heard> {
  const found = new Map<number, Heard>();
  const there = new Set(matches.map(({ expected }) => expected));
  const last = matches.at(-1)?.expected ?? -1;
  for (let place = 0; place <= last; place += 1) {
    if (there.has(place) || strikes[place] === undefined) continue;
    const wanted = at(place);
    const near = maybe.filter(({ seconds, strength }) => {
      const within = strength >= LEAST_OF_USUAL * usual ? SECOND_LOOK : RIGHT_THERE;
      return Math.abs(seconds - wanted) <= within;
    });
    const [best] = near.sort((a, b) => b.strength - a.strength);
    if (best) found.set(place, best);
  }
  return found;
}

const STRUMS_TO_TELL = 4;
/** Of the chucks that were heard, so many are damped, or nothing tells that the ear knows damped strings here. */
const SURELY_DAMPED = 0.25;

/**
 * Whether chucks ring is told where some of them surely do not, or beside the strums of the take: damped strings die away
 * in the room, and on strings that the ear does not know, at their own pace. Where they ring less than strums do, nothing
 * is said of them.
 */
export function chucksBesideStrums(
  listened: Map<number, Pick<StrokeSound, 'rings'>>,
  strikeAt: (at: number) => Strike,
  { matches }: Alignment,
  heard: Heard[],
): void {
  const left = (kind: Strike['kind']) =>
    matches.flatMap((match) => {
      const strike = strikeAt(match.expected);
      const rings = heard[match.heard]!.rings;
      return strike.kind === kind && !strike.palm ? [rings] : [];
    });
  const chucks = [...listened.values()].filter(({ rings }) => rings !== null);
  const damped = chucks.filter(({ rings }) => !rings);
  if (damped.length >= SURELY_DAMPED * chucks.length) return;
  const [strums, struck] = [left('strum'), left('chuck')];
  if (strums.length >= STRUMS_TO_TELL && apart(strums, struck) < CHANCE) return;
  for (const sound of chucks) sound.rings = null;
}

/** Of the strums that were meant one way, so many are heard that way, or nothing is said of any of them. */
const AS_MEANT = 0.5;
/** One that is heard to go the other way is believed where so many of the two before and the two after it are, too, */
const BESIDE = 2;
/** or of those at its place of the bar so many do, of four at least. */
const [AT_ITS_PLACE, OF_A_PLACE] = [0.6, 4];
/** Where fewer of the full strums than this are told at all, the ear does not know these strings. */
const LEAST_TOLD = 0.15;

/**
 * Ways of the hand as they were heard, but for those that the ear does not know here: whoever takes every up for a down
 * tells nothing of ups, and a stroke that goes the other way by itself is a slip of the ear before it is one of the hand.
 * @param ways of each stroke in order; null where it was not told
 * @param meant each of them as it was meant
 * @param asked how many full strums there are, whose way may be told
 * @example knownWays(['down', 'down'], [{ dir: 'down', slot: 0 }, { dir: 'up', slot: 1 }], 2) // ['down', null]
 */
export function knownWays(
  ways: (Direction | null)[],
  meant: Pick<Strike, 'dir' | 'slot'>[],
  asked: number,
): (Direction | null)[] {
  const told = meant.flatMap(({ dir, slot }, at) => {
    const way = ways[at];
    return way ? [{ at, dir, slot, turned: way !== dir }] : [];
  });
  if (told.length < LEAST_TOLD * asked) return ways.map(() => null);
  const share = (some: typeof told) =>
    some.filter(({ turned }) => turned).length / Math.max(1, some.length);
  const unknown = new Set(
    (['down', 'up'] as const).filter(
      (dir) => share(told.filter((one) => one.dir === dir)) > 1 - AS_MEANT,
    ),
  );
  const places = new Map<number, typeof told>();
  for (const one of told) places.set(one.slot, [...(places.get(one.slot) ?? []), one]);
  const known = [...ways];
  told.forEach(({ at, dir, slot, turned }, index) => {
    const beside = [-2, -1, 1, 2].filter((by) => told[index + by]?.turned).length;
    const place = places.get(slot)!;
    const alone =
      turned && beside < BESIDE && !(place.length >= OF_A_PLACE && share(place) >= AT_ITS_PLACE);
    if (alone || unknown.has(dir)) known[at] = null;
  });
  return known;
}

/** A stroke so soon after another, in seconds, is hard to hear beside what rings of it. */
const CLOSE: Seconds = 0.1;
/** Of what is hard to hear, more than this share left out is left out. */
const HARD_TO_HEAR = 1 / 3;

/**
 * Strokes that were not heard and are not counted as missing: soft ones, and those that are hard to hear, chucks over
 * strings that ring and what follows at once, as long as most of these were heard; and single notes that sound, though
 * nobody heard them begin.
 * @param sounding the places of these, from `softNotes`
 */
export function missedByEar(played: Judged[], sounding = new Set<number>()): void {
  const hard = played.filter(
    ({ strike, seconds }, at) =>
      strike.kind === 'chuck' || (at > 0 && seconds - played[at - 1]!.seconds < CLOSE),
  );
  const out = hard.filter(({ heard }) => heard === null);
  const few = out.length <= HARD_TO_HEAR * hard.length;
  for (const [at, one] of played.entries()) {
    const unsure = one.strike.velocity < SOFT || (few && out.includes(one)) || sounding.has(at);
    one.counts = one.heard !== null || !unsure;
  }
}

/** A string is heard in a take where it is this share of the others in the middle of so many strokes. */
const HEARD_SHARE = 0.4;
const STROKES_TO_TELL = 5;

/**
 * Sevenths that seem not to be held, where the take shows that their strings are heard at all: on other chords the same
 * string stands out there. On strings that the ear does not know it may be weak whatever is held.
 */
export function sevenths(
  listened: Map<
    number,
    Pick<StrokeSound, 'other'> & {
      plainer?: string | null;
      strings?: { string: number; share: number }[];
    }
  >,
  strikeAt: (at: number) => Strike,
): void {
  const shares = new Map<number, number[]>();
  for (const [at, { plainer, strings = [] }] of listened) {
    // A chord with a seventh says nothing of the strings of others.
    if (plainer || plainerThan(strikeAt(at).chord ?? '')) continue;
    for (const { string, share } of strings) {
      shares.set(string, [...(shares.get(string) ?? []), share]);
    }
  }
  const isHeard = (string: number) => {
    const known = shares.get(string) ?? [];
    return known.length >= STROKES_TO_TELL && median(known) >= HEARD_SHARE;
  };
  for (const [at, sound] of listened) {
    if (!sound.plainer || sound.other) continue;
    const { notes, chord } = strikeAt(at);
    const without = plainerThan(chord ?? '')?.without;
    const own = notes.filter(({ midi }) => midi % 12 === without);
    if (own.length > 0 && own.every(({ string }) => isHeard(string))) sound.other = sound.plainer;
  }
}
