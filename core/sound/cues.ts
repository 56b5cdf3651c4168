import type { Seconds, Ticks } from '../plain';
import {
  clickBeats,
  clickLevel,
  type ClickMode,
  type CountedBar,
  drumHits,
  type Groove,
  type Performance,
} from '../arrange';
import type { Family } from '../schema';
import { firstFrom } from '../song';
import {
  type Cue,
  cueClick,
  type Cued,
  cueDrum,
  cueSilence,
  cueStrike,
  cueWord,
  heldAt,
  NOTHING_RINGS,
  type RingingStrings,
} from './ringing';

/** A word said on a tick. */
export interface SaidWord {
  tick: Ticks;
  late: Ticks;
  word: string;
  syllables: number;
}

/** What sounds: the one list of strikes, and what may be heard beside it. */
export interface Playback {
  performance: Performance;
  family: Family;
  /** Which beats click; null for none but a count-in. */
  click: ClickMode | null;
  groove: Groove | null;
  words?: SaidWord[];
}

/** A stretch of ticks to be given, and when it is. */
export interface CueWindow {
  from: Ticks;
  to: Ticks;
  /** Seconds at which a tick is heard. */
  at: (tick: Ticks) => Seconds;
  /** The bar that is counted in, where this is a count-in. */
  into?: CountedBar | undefined;
}

/** What goes on from one window to the next. */
export interface CueState {
  rings: RingingStrings;
  /** Bars that have clicked since the start, and the last of them. */
  clicked: { count: number; last: number };
}

export const BEFORE_ALL: CueState = { rings: NOTHING_RINGS, clicked: { count: -1, last: -1 } };

/**
 * Everything that sounds in a window: the one rule that playing live, mixing down and writing files carry
 * out. As a chord lands the hand leaves its strings, then comes the strike; what clicks, drums and is said
 * comes beside it.
 * @param speak takes a word that a voice says; one that it does not take becomes a tone
 * @example nextCues(BEFORE_ALL, playback, { from: 0, to: 960, at: (tick) => tick / 1920 }).cues.length // 12
 */
export function nextCues(
  state: CueState,
  { performance, family, click, groove, words = [] }: Playback,
  { from, to, at, into }: CueWindow,
  speak: (word: SaidWord, time: Seconds) => boolean = () => false,
): { state: CueState; cues: Cue[]; clicks: Seconds[] } {
  const cues: Cue[] = [];
  const clicks: Seconds[] = [];
  let { rings, clicked } = state;
  const take = (cued: Cued) => {
    rings = cued.rings;
    cues.push(...cued.cues);
  };
  const inside = <T extends { tick: Ticks }>(items: T[]) =>
    items.slice(firstFrom(items, from), firstFrom(items, to));

  if (into || click) {
    for (const beat of clickBeats(performance.bars, from, to, into)) {
      if (!into && beat.bar !== clicked.last) {
        clicked = { count: clicked.count + 1, last: beat.bar };
      }
      const level = into ? 1 : clickLevel(click ?? 'all', beat, clicked.count);
      if (level === 0) continue;
      clicks.push(at(beat.tick));
      take(cueClick(rings, beat, at(beat.tick), level));
    }
  }
  if (into) return { state: { rings, clicked }, cues, clicks };

  const landings = inside(performance.landings);
  let next = 0;
  const leaveUntil = (tick: Ticks) => {
    for (; landings[next] && landings[next]!.tick <= tick; next += 1) {
      const { tick: landed, late, slides } = landings[next]!;
      if (!slides) take(cueSilence(rings, at(landed + late)));
    }
  };
  for (const strike of inside(performance.strikes)) {
    leaveUntil(strike.tick);
    const held = heldAt(performance.landings, strike.tick);
    take(cueStrike(rings, strike, family, at(strike.tick + strike.late), held));
  }
  leaveUntil(to);
  if (groove) {
    for (const hit of drumHits(performance, groove, from, to)) {
      take(cueDrum(rings, hit, at(hit.tick)));
    }
  }
  for (const word of inside(words)) {
    const time = at(word.tick + word.late);
    if (!speak(word, time)) take(cueWord(rings, word.syllables, time));
  }
  return { state: { rings, clicked }, cues, clicks };
}
