import type { Ticks } from '../plain';
import { type Arrangement, excerptStrikes, type Strike, voicingsOf } from '../arrange';
import { fretChords, type FrettedChord } from '../neck';
import type { Pattern, Shape, Song } from '../schema';
import { itemAt, type Landing } from '../song';
import { secondsPerTick } from '../time';
import { type LandingPlace, patternOf } from '../edit';
import type { HandEdit } from './edits';
import { ceilingOf, type ChangeKind } from './report';
import type { Hand } from './timed';
import { handChange, type HandChange, settingOf, strikesAround } from './windows';

/** Changes before and after one that are worked out with it: a run comes from the chord before. */
const BEFORE = 3;
const AFTER = 2;
/** Bars before and after the one that it lands in. */
const NEAR = 1;

/** A song with edits tried on it: what differs from the song as it is. */
interface Variant {
  song: Song;
  hold: (symbol: string) => FrettedChord | null;
  voicings: ReturnType<typeof voicingsOf>;
  change: (landing: Landing, place: string) => Landing;
  pattern?: { from: Pattern; to: Pattern };
  /** True where every strike sounds as it does in the song. */
  sameNotes: boolean;
}

const placeKey = ({ section, line, bar, at }: LandingPlace) => `${section}/${line}/${bar}/${at}`;

function withShape(song: Song, symbol: string, shape: Shape): Song {
  const others = song.chosenShapes.filter((choice) => choice.symbol !== symbol);
  return { ...song, chosenShapes: [...others, { symbol, shape, locked: false }] };
}

/** What strokes sound where one chord is held otherwise; on all others they sound as they did. */
function otherwise(
  before: Variant['voicings'],
  now: Variant['voicings'],
  symbol: string,
): Variant['voicings'] {
  return {
    hold: (chord) => (chord === symbol ? now : before).hold(chord),
    touch: (stroked) => (stroked.symbol === symbol ? now : before).touch(stroked),
  };
}

/** Edits tried on the changes of one song. */
export interface Trial {
  /** The strikes around the tightest place of a kind, with edits on the song. */
  strikes: (kind: ChangeKind, edits: HandEdit[]) => Strike[];
  /**
   * The tightest place of a kind with edits; null where they leave no such change. The first place found below
   * `floor` is given without looking at the others: the edits are no good then.
   */
  tightest: (kind: ChangeKind, edits: HandEdit[], floor?: number) => HandChange | null;
}

/**
 * Tries edits on the changes of a song without working the whole song out again: only the bars around each
 * change, and of changes that are alike only one.
 * @param hand what is known of the player's hand
 * @example trialOf(arranged, ANY_HAND).tightest(kind, [{ do: 'slow', tempo: 80 }])
 */
export function trialOf(arranged: Arrangement, hand: Hand): Trial {
  const { song: plain, bars, changes, performance } = arranged;
  const setting = settingOf(arranged, hand);
  const perTick = secondsPerTick(plain.tempo, plain.meter);
  const untouched: Variant = {
    song: plain,
    hold: fretChords(plain),
    voicings: voicingsOf(plain),
    change: (landing) => landing,
    sameNotes: true,
  };
  const places = changes.map(({ placement, barEnd }) => {
    const { section, line, bar } = itemAt(bars, barEnd - 1)!;
    return placeKey({ section, line, bar, at: placement.at });
  });
  const alike = new Map<ChangeKind, number[]>();

  const tried = (now: Variant, edit: HandEdit): Variant => {
    if (edit.do === 'slow') return now;
    if (edit.do === 'thin') {
      const from = patternOf(plain, edit.target);
      return from ? { ...now, sameNotes: false, pattern: { from, to: edit.pattern } } : now;
    }
    if (edit.do === 'shape') {
      const held = now.hold(edit.symbol)?.shape.frets;
      const sameNotes = now.sameNotes && String(held) === String(edit.shape.frets);
      const song = withShape(now.song, edit.symbol, edit.shape);
      const hold = fretChords(song);
      const voicings = otherwise(now.voicings, voicingsOf(song), edit.symbol);
      return { ...now, song, sameNotes, hold, voicings };
    }
    const meant = new Set(edit.places.map(placeKey));
    return {
      ...now,
      sameNotes: false,
      change: (landing, place) => {
        const before = now.change(landing, place);
        return meant.has(place) ? edited(before, edit) : before;
      },
    };
  };
  const variant = (edits: HandEdit[]) => edits.reduce(tried, untouched);

  /** One landing of a kind for all that have the same strikes around them. */
  const landingsOf = (kind: ChangeKind): number[] => {
    const known = alike.get(kind);
    if (known) return known;
    const found = new Map<string, number>();
    for (const index of kind.landings) {
      const { before, after } = strikesAround(performance.strikes, changes, index, perTick);
      const { tick } = changes[index]!;
      const likeness = [...before, ...after]
        .map(
          (strike) =>
            `${strike.tick - tick}${strike.kind}${strike.notes.length}/${strike.notes[0]?.string}`,
        )
        .join();
      if (!found.has(likeness)) found.set(likeness, index);
    }
    // The place that is the tightest as the song is comes first: most edits that do not help fail there.
    const list = [...found.values()];
    const first = list.findIndex((index) => index === kind.tightest.index);
    if (first > 0) list.unshift(...list.splice(first, 1));
    alike.set(kind, list);
    return list;
  };

  const around = ({ song, voicings, change, pattern }: Variant, index: number) => {
    const start = Math.max(0, index - BEFORE);
    const some = changes
      .slice(start, index + AFTER + 1)
      .map((landing, order) => ({
        index: start + order,
        landing: change(landing, places[start + order]!),
      }))
      // A landing that comes to lie on the next is overtaken by it.
      .filter(
        ({ landing }, order, all) => landing.tick < (all[order + 1]?.landing.tick ?? Infinity),
      );
    const next = changes[index + 1];
    const barOf = (tick: Ticks) => itemAt(bars, tick)?.index ?? 0;
    const at = changes[index]!;
    const before = changes[Math.max(0, index - 1)]!;
    // A finger that has longer than a bar is never the tightest.
    const first = Math.max(barOf(before.tick), barOf(at.tick) - NEAR);
    const last = Math.min(next ? barOf(next.tick - 1) : bars.length - 1, barOf(at.tick) + NEAR);
    const landed = some.map(({ landing }) => landing);
    const strikes = excerptStrikes(arranged, song, voicings, {
      first: Math.max(0, before.placement.run ? first - 1 : first),
      last,
      changes: landed,
      ...(pattern && { pattern }),
    });
    const since = bars[first]!.tick;
    return { strikes, landed, since, at: some.findIndex((one) => one.index === index) };
  };

  /** Around a landing as it is: what other fingers on the same frets need nothing new for. */
  const plainAround = new Map<number, ReturnType<typeof around>>();
  const asItIs = (index: number) => {
    const known = plainAround.get(index) ?? around(untouched, index);
    plainAround.set(index, known);
    return known;
  };

  const changeAt = (now: Variant, index: number): HandChange | null => {
    const { strikes, landed, since, at } = now.sameNotes ? asItIs(index) : around(now, index);
    const [before, place] = [landed[at - 1], landed[at]];
    const [from, to] = [before && now.hold(before.symbol), place && now.hold(place.symbol)];
    if (!place || !from || !to) return null;
    const near = strikesAround(strikes, landed, at, perTick);
    near.since = Math.max(near.since, since * perTick);
    return handChange({ index, tick: place.tick, from, to }, near, setting);
  };

  return {
    strikes: (kind, edits) => around(variant(edits), kind.tightest.index).strikes,
    tightest: (kind, edits, floor = 0) => {
      const now = variant(edits);
      let least: HandChange | null = null;
      for (const index of landingsOf(kind)) {
        const change = changeAt(now, index);
        if (!change) return null;
        if (!least || ceilingOf(change) < ceilingOf(least)) least = change;
        if (ceilingOf(least) < floor) return least;
      }
      return least;
    },
  };
}

function edited(
  landing: Landing,
  edit: Extract<HandEdit, { do: 'travel' | 'arrive' | 'push' | 'delay' }>,
): Landing {
  const { placement, tick, push } = landing;
  switch (edit.do) {
    case 'travel':
      return {
        ...landing,
        placement: { ...placement, openStrokes: edit.count, travel: edit.how },
      };
    case 'arrive':
      return { ...landing, placement: { ...placement, arrive: edit.how } };
    case 'push':
      return {
        ...landing,
        tick: Math.max(0, tick + push - edit.push),
        push: edit.push,
        placement: { ...placement, push: edit.push },
      };
    case 'delay':
      return {
        ...landing,
        tick: tick + edit.by,
        placement: { ...placement, at: placement.at + edit.by },
      };
  }
}
