import { arrangement, type Arrangement } from '../arrange';
import { commands } from '../edit';
import { type RankedShape, shapeChoices, smoothestSet, soundingLength } from '../neck';
import { songChords } from '../song';
import { changeDuration } from './need';
import { handReport } from './report';
import { ANY_HAND, type Hand } from './timed';

/** The shapes with which a song can be played the fastest. */
export interface QuickestSet {
  shapes: Map<string, RankedShape>;
  /** The song's ceiling as it is, and with them; null where nothing holds it back. */
  before: number | null;
  after: number | null;
  /** False where the search was cut short and a better set may exist. */
  exact: boolean;
}

/**
 * How steeply a change that takes more of its time counts: so that the tightest change decides, and among
 * sets that are alike in that the next tightest.
 */
const STEEP = 8;

/**
 * Chooses shapes and fingers for all chords of a song so that its tightest change has the highest ceiling:
 * what each change needs, against the time that it has today. Locked shapes stay. A set that turns out no
 * better, since other strings are struck with it, is not given.
 * @example quickestSet(arrangement(song)).after // 104.2
 */
export function quickestSet(arranged: Arrangement, hand: Hand = ANY_HAND): QuickestSet {
  const { song, changes } = arranged;
  const report = handReport(arranged, hand);
  const windows = new Map(
    report.kinds.map(({ from, to, tightest }) => [
      `${from.symbol} ${to.symbol}`,
      tightest.tightest?.window ?? Infinity,
    ]),
  );
  const scale = soundingLength(song.instrument, song.capo);
  const found = smoothestSet(
    shapeChoices(songChords(song), song),
    changes.map(({ symbol }) => symbol),
    (from, to) => {
      const window = windows.get(`${from.symbol} ${to.symbol}`) ?? Infinity;
      return (changeDuration(from.shape, to.shape, scale).ms / window) ** STEEP;
    },
  );
  const taken = commands.takeShapes(found.shapes).apply(song);
  const after = handReport(arrangement(taken), hand).ceiling;
  const better = (after ?? Infinity) > (report.ceiling ?? Infinity);
  return {
    shapes: better ? found.shapes : new Map(),
    before: report.ceiling,
    after: better ? after : report.ceiling,
    exact: found.exact,
  };
}
