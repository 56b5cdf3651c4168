import type { Milliseconds, Seconds, Ticks } from '../plain';
import type { Arrangement } from '../arrange';
import { adviceFor, type Advice } from './advice';
import { describeAnchor, songAnchors } from './anchors';
import { handReport, type ChangeKind, type UnknownChord } from './report';
import { ANY_HAND, type Hand } from './timed';
import { trialOf } from './trial';
import { fretChords, type FingerMove } from '../neck';
import type { Shape } from '../schema';
import { describeKind, describeMove, describeReport } from './words';

/** One finger in a change, as plain data. */
export interface HandFinger {
  finger: number;
  kind: FingerMove['kind'];
  /** 'moves to the G string, fret 2'. */
  does: string;
  /** Seconds from the start of the song: when it may leave, and when its note is struck. */
  freeFrom: Seconds;
  wantedAt: Seconds;
  /** Milliseconds at the song's tempo: what it has, and what it needs. */
  window: Milliseconds;
  need: Milliseconds;
  /** Beats a minute; null for a finger that needs nothing. */
  ceiling: number | null;
}

/** One kind of change of a song, as plain data that a worker and the server send. */
export interface HandKind {
  from: string;
  to: string;
  fromShape: Shape;
  toShape: Shape;
  sentence: string;
  times: number;
  /** Where it comes, as bars are counted from 1 in the order of playing. */
  bars: number[];
  /** The bar, from 1, and the tick of the place where the hand has least time. */
  bar: number;
  tick: Ticks;
  fingers: HandFinger[];
  /** Fingers of the new chord that no stroke needs there. */
  idle: number[];
  /** The finger that holds it back; null where none does. */
  tightest: number | null;
  window: Milliseconds | null;
  need: Milliseconds | null;
  slack: Milliseconds | null;
  ceiling: number | null;
  measured: boolean;
  /** What helps, with how much the ceiling gains; null where nothing holds it back any more. */
  advice: (Advice & { gain: number | null })[];
}

/** What the fretting hand has time for in a song. */
export interface SongHand {
  sentence: string;
  tempo: number;
  ceiling: number | null;
  changes: HandKind[];
  idle: { symbol: string; fingers: number[] }[];
  unknown: UnknownChord[];
  anchors: string[];
}

/** Anchors worth naming. */
const ANCHORS = 4;
const places = (value: number) => Number(value.toFixed(4));

/**
 * Every change of a song with the time that the hand has for it, what it needs, its ceiling and what
 * helps, the one that holds the song back first; as plain data.
 * @param hand what is known of the player's hand
 * @example songHand(arrangement(song)).changes[0].bars // [3, 7]
 */
export function songHand(arranged: Arrangement, hand: Hand = ANY_HAND): SongHand {
  const { song, bars, changes } = arranged;
  const report = handReport(arranged, hand);
  const trial = trialOf(arranged, hand);
  const barOf = (kind: ChangeKind) => kind.bars[kind.landings.indexOf(kind.tightest.index)] ?? 0;
  const kinds = report.kinds.map((kind): HandKind => {
    const { tightest } = kind.tightest;
    const advice = adviceFor(arranged, report, kind, hand, trial);
    return {
      from: kind.from.symbol,
      to: kind.to.symbol,
      fromShape: shapeOf(kind.from.shape),
      toShape: shapeOf(kind.to.shape),
      sentence: describeKind(kind, report.tempo),
      times: kind.times,
      bars: kind.bars.map((bar) => bar + 1),
      bar: barOf(kind) + 1,
      tick: kind.tightest.tick,
      fingers: kind.tightest.fingers.map((finger) => ({
        finger: finger.move.finger,
        kind: finger.move.kind,
        does: describeMove(song.instrument, finger),
        freeFrom: places(finger.freeFrom),
        wantedAt: places(finger.wantedAt),
        window: places(finger.window),
        need: places(finger.ms),
        ceiling: finger.ceiling,
      })),
      idle: kind.tightest.idle,
      tightest: tightest?.move.finger ?? null,
      window: tightest && places(tightest.window),
      need: tightest && places(tightest.ms),
      slack: kind.slack,
      ceiling: kind.ceiling,
      measured: kind.measured,
      advice: advice.map((one) => ({
        ...one,
        gain: one.ceiling === null || kind.ceiling === null ? null : one.ceiling - kind.ceiling,
      })),
    };
  });
  const hold = fretChords(song);
  const anchors = bars.length > 0 ? songAnchors(changes.map(({ symbol }) => hold(symbol))) : [];
  return {
    sentence: describeReport(report),
    tempo: report.tempo,
    ceiling: report.ceiling,
    changes: kinds,
    idle: [...report.idle].map(([symbol, fingers]) => ({ symbol, fingers })),
    unknown: report.unknown,
    anchors: anchors.slice(0, ANCHORS).map((anchor) => describeAnchor(song.instrument, anchor)),
  };
}

const shapeOf = ({ frets, fingers }: Shape): Shape => ({ frets, fingers });
