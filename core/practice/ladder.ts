import { arrangement, type Arrangement } from '../arrange';
import type { Bar, PickedString, RungId, Song, Stroke } from '../schema';
import { firstFrom, withEachBar } from '../song';
import { isLoud, slotWeight, stringPlace } from '../stroke';
import { beatTicks } from '../time';
import { armStrikes, bare, unfold, type UnfoldedBar } from './unfold';

/** A step of learning a song. */
export interface Rung {
  id: RungId;
  name: string;
  /** What to do, in one sentence. */
  does: string;
  /** Strokes that it has, over the whole song. */
  strokes: number;
}

const WORDS: Record<RungId, [name: string, does: string]> = {
  arm: ['The arm alone', 'Swing past the strings and count aloud.'],
  chords: ['Chords in order', 'One down as each chord comes, and let it ring.'],
  landings: ['Landings only', 'Keep the arm going; strike only where a chord lands.'],
  'one before': ['One stroke before', 'The landings, and the stroke before each on open strings.'],
  'two before': [
    'Two strokes before',
    'The landings, and two strokes before each on open strings.',
  ],
  'strong beats': ['Strong beats', 'Landings, accents and the strong beats.'],
  beats: ['All beats', 'Everything that falls on a beat.'],
  damped: ['The pattern, damped', 'Lay the hand on the strings and play the whole pattern.'],
  'one chord': ['The pattern on one chord', 'The whole pattern without a change.'],
  thumb: ['The thumb alone', 'Only the bass notes of the pattern.'],
  fingers: ['The fingers alone', 'Only what lies above the bass.'],
  'open strokes': [
    'With open strokes',
    'Everything, the stroke before each landing on open strings.',
  ],
  plain: ['In full, plain', 'Everything, without runs, notes and other chords.'],
  song: ['In full', 'The song as it is written.'],
};

/** The name of a rung, as the player reads it. */
export const rungName = (id: RungId): string => WORDS[id][0];

/**
 * Strokes of the song that a rung has, by their ticks. Thinning keeps landings and accents and takes the
 * weakest places of the meter first, so each holds those of the one before it.
 */
export interface Layers {
  /** The song without runs, without chords that stand in, and without open strokes. */
  base: Arrangement;
  bars: UnfoldedBar[];
  landings: Set<number>;
  oneBefore: Set<number>;
  twoBefore: Set<number>;
  strong: Set<number>;
  beats: Set<number>;
  all: Set<number>;
}

/** A bar without its line of notes: the strums alone. */
function withoutTune(bar: Bar): Bar {
  if (!bar.rules?.tune) return bar;
  const { tune: _, ...rules } = bar.rules;
  return { ...bar, rules };
}

/**
 * The song without bass runs and without the chords that stand in for others some of the times; itself where it
 * has neither.
 */
export function plainSong(song: Song): Song {
  return withEachBar(song, (bar) => {
    const alone = withoutTune(bar);
    if (!bar.chords.some(({ run, substitutes }) => run ?? substitutes)) return alone;
    const chords = bar.chords.map(({ run: _, substitutes: __, ...rest }) => rest);
    return { ...alone, chords };
  });
}

/** The song with a stroke on open strings before every landing, or with none. */
export function openSong(song: Song, openStrokes: 0 | 1): Song {
  const { openStrokes: _, travel: __, ...rest } = song;
  const bared = withEachBar(rest, (bar) => ({
    ...withoutTune(bar),
    chords: bar.chords.map(bare),
  }));
  return openStrokes === 0 ? bared : { ...bared, openStrokes, travel: 'open' };
}

const layersKnown = new WeakMap<Arrangement, Layers>();

export function layersOf(arranged: Arrangement): Layers {
  const known = layersKnown.get(arranged);
  if (known) return known;
  const base = arrangement(openSong(arranged.song, 0));
  const bars = unfold(base);
  const strikes = armStrikes(base.performance);
  const landings = new Set(strikes.filter(({ landing }) => landing).map(({ tick }) => tick));
  const beat = beatTicks(base.song.meter);
  const before = (count: number) => {
    const ticks = new Set(landings);
    for (const { tick } of base.changes.slice(1)) {
      const next = firstFrom(strikes, tick);
      strikes
        .slice(Math.max(0, next - count), next)
        .filter((strike) => strike.tick >= tick - beat)
        .forEach((strike) => ticks.add(strike.tick));
    }
    return ticks;
  };
  const oneBefore = before(1);
  const twoBefore = before(2);
  const weighing = (least: number, kept: Set<number>) => {
    const ticks = new Set(kept);
    for (const { pattern, slots } of bars) {
      for (const { slot, strike } of slots) {
        if (!strike) continue;
        if (isLoud(slot.stroke) || slotWeight(pattern, slot) >= least) ticks.add(strike.tick);
      }
    }
    return ticks;
  };
  const strong = weighing(STRONG, twoBefore);
  const beats = weighing(BEAT, strong);
  const all = new Set(strikes.map(({ tick }) => tick));
  const made = { base, bars, landings, oneBefore, twoBefore, strong, beats, all };
  layersKnown.set(arranged, made);
  return made;
}

/** The strokes of the rungs that thin the song, by their ticks; of the others, all. */
export function ticksOf(
  { landings, oneBefore, twoBefore, strong, beats, all }: Layers,
  id: RungId,
): Set<number> {
  const thinned: Partial<Record<RungId, Set<number>>> = {
    arm: new Set(),
    chords: landings,
    landings,
    'one before': oneBefore,
    'two before': twoBefore,
    'strong beats': strong,
    beats,
  };
  return thinned[id] ?? all;
}

/** Weights of places in the meter, from `slotWeight`. */
const STRONG = 4;
const BEAT = 3;

/** True for a picked string that is the thumb's: said to be, or the root, or one of the low strings. */
function isThumbs({ string, finger }: PickedString): boolean {
  if (finger !== undefined) return finger === 'p';
  const place = stringPlace(string);
  return 'number' in place ? place.number >= 4 : place.above === 0;
}

/**
 * The ladder of a song: what to learn first, and what then. Rungs that say nothing new for it are left out:
 * a song of one chord has no landings to learn, a pattern of whole beats no beats to be thinned to.
 * @example ladder(arrangement(song)).map(({ id }) => id)
 * // ['arm', 'chords', 'landings', 'one before', 'beats', 'damped', 'one chord', 'open strokes', 'song']
 */
export function ladder(arranged: Arrangement): Rung[] {
  const { song, performance } = arranged;
  const layers = layersOf(arranged);
  const { base, bars, landings, oneBefore, twoBefore, strong, beats, all } = layers;
  const strikes = armStrikes(base.performance);
  const struck = bars.flatMap(({ slots }) => slots.filter(({ strike }) => strike));
  if (struck.length === 0) return [];
  const picks = struck.filter(({ slot }) => slot.stroke.kind === 'pick');
  const picked = picks.length * 2 > struck.length;
  const changes = new Set(base.changes.map(({ symbol }) => symbol)).size > 1;
  const opens =
    changes &&
    oneBefore.size > landings.size &&
    !performance.strikes.some(({ transition }) => transition);
  const rung = (id: RungId, strokes: number): Rung => ({
    id,
    name: WORDS[id][0],
    does: WORDS[id][1],
    strokes,
  });
  const rungs: Rung[] = [];
  if (!picked) rungs.push(rung('arm', 0));
  if (changes) {
    rungs.push(rung('chords', landings.size), rung('landings', landings.size));
    if (oneBefore.size > landings.size) rungs.push(rung('one before', oneBefore.size));
    if (twoBefore.size > oneBefore.size) rungs.push(rung('two before', twoBefore.size));
  }
  const least = changes ? twoBefore.size : 0;
  if (strong.size > least && strong.size < beats.size)
    rungs.push(rung('strong beats', strong.size));
  if (beats.size > least && beats.size < all.size) rungs.push(rung('beats', beats.size));
  if (!picked && strikes.some(({ kind }) => kind !== 'chuck')) rungs.push(rung('damped', all.size));
  if (changes) rungs.push(rung('one chord', all.size));
  if (picked) {
    const thumbs = struck.filter(({ slot: { stroke } }) => partOf(stroke, 'thumb') !== null);
    const others = struck.filter(({ slot: { stroke } }) => partOf(stroke, 'fingers') !== null);
    if (thumbs.length > 0 && others.length > 0) {
      rungs.push(rung('thumb', thumbs.length), rung('fingers', others.length));
    }
  }
  if (opens) rungs.push(rung('open strokes', all.size));
  if (plainSong(song) !== song) rungs.push(rung('plain', all.size));
  rungs.push(rung('song', performance.strikes.length));
  return rungs;
}

/** What one part of the picking hand has of a stroke; null where it rests. */
export function partOf(stroke: Stroke, part: 'thumb' | 'fingers'): Stroke | null {
  if (stroke.kind === 'bass') return part === 'thumb' ? stroke : null;
  if (stroke.kind !== 'pick') return part === 'fingers' ? stroke : null;
  const strings = stroke.strings.filter((string) => isThumbs(string) === (part === 'thumb'));
  if (strings.length === 0) return null;
  return strings.length === stroke.strings.length ? stroke : { ...stroke, strings };
}
