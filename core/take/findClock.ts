import { median } from 'simple-statistics';
import {
  afterMiss,
  deviation,
  type Evidence,
  FEWEST_OF,
  type Found,
  gathered,
  heardOf,
  landed,
  offsOf,
} from './findings';
import { changeKey, type Judged } from './groups';

/** Per cent beside the tempo that was asked for from which a take is one of another tempo. */
const ANOTHER_TEMPO = 3.5;
/** Of what it is beside it, a tempo that changes by more is rushing or dragging. */
const STEADY = 0.6;
const STEADY_PER_CENT = 2.5;
/** Per cent of tempo at the end, and times its standard error, from which somebody rushes or drags. */
const DRIFT = 1.4;
const DRIFT_ERRORS = 3;
/** Seconds from which a stop is one that is named. */
const STOP = 0.08;
/** And times the scatter of the strokes; where the player hurries back, only what is longer than this. */
const BEYOND_SCATTER = 4;
const HURRIED_STOP = 0.5;

/** The tempo that was played, where it is another than was asked for. */
export function otherTempo({ arranged, tempo }: Evidence): Found | null {
  const changes = Math.abs(tempo.end - tempo.start);
  const away = Math.abs(tempo.mean);
  if (away < ANOTHER_TEMPO || changes > Math.max(STEADY_PER_CENT, STEADY * away)) return null;
  const asked = arranged.song.tempo;
  const played = Math.round(asked * (1 + tempo.mean / 100));
  return {
    trouble: 'tempo',
    hand: 'strumming',
    sentence: `You played at ${played}; ${asked} was asked.`,
    weight: away / ANOTHER_TEMPO,
    strokes: [],
  };
}

const seconds = (value: number) => `${Math.abs(value).toFixed(value < 0.95 ? 2 : 1)} s`;
/** So many stops are told one by one. */
const TOLD = 3;

/** Stops from which the player went on: at the changes, after misses, or somewhere. */
export function stopped({ played, stops }: Evidence): Found | null {
  const steady = heardOf(played).filter(({ hurried }) => !hurried);
  const least = Math.max(STOP, (BEYOND_SCATTER * deviation(offsOf(steady))) / 1000);
  // Who waits and hurries back gets ahead now and then: that is another matter.
  const hurries = played.filter(({ hurried }) => hurried).length > played.length / 4;
  const clear = stops.filter(
    ({ at, seconds: by }) =>
      Math.abs(by) >= least &&
      !(hurries && by < HURRIED_STOP) &&
      // Where the strokes before it are not there, nobody knows that it was a stop.
      (played[at - 1]?.heard || played[at - 2]?.heard),
  );
  if (clear.length === 0) return null;
  const strokes = clear.map(({ at }) => played[at]!);
  const named = (some: { at: number; seconds: number }[]) => {
    const told = some.slice(0, TOLD).map(({ at, seconds: by }) => {
      const one = played[at]!;
      const where = landed(one)
        ? `${one.before!.chord} to ${one.strike.chord} (bar ${one.strike.bar + 1})`
        : `bar ${one.strike.bar + 1}`;
      return `${seconds(by)} ${by > 0 ? 'at' : 'too soon at'} ${where}`;
    });
    const left = some.length - told.length;
    return told.join(', ') + (left > 0 ? `, and ${left} more` : '');
  };
  const atChanges = clear.filter(({ at, seconds: by }) => by > 0 && landed(played[at]!));
  const atMisses = clear.filter(({ at }) => afterMiss(played[at]!) && !landed(played[at]!));
  const weight = 1.5 + clear.length / 4;
  if (atChanges.length * 2 >= clear.length) {
    const worst = [
      ...gathered(
        atChanges.map(({ at }) => played[at]!),
        changeKey,
      ).values(),
    ].sort((a, b) => b.length - a.length)[0]![0]!;
    return {
      trouble: 'waits',
      hand: 'fretting',
      sentence: `You wait at the changes and go on from there: ${named(clear)}.`,
      weight,
      strokes,
      bar: worst.strike.bar + 1,
      change: { from: worst.before!.chord!, to: worst.strike.chord! },
    };
  }
  if (atMisses.length >= FEWEST_OF && atMisses.length * 2 >= clear.length) {
    return {
      trouble: 'after-miss',
      hand: 'strumming',
      sentence: `The arm stops on a miss and goes on from there: ${named(clear)}.`,
      weight,
      strokes,
    };
  }
  return {
    trouble: 'stops',
    hand: 'both',
    sentence: `You stopped and went on: ${named(clear)}. If you slip, keep the arm going.`,
    weight,
    strokes,
    bar: strokes[0]!.strike.bar + 1,
  };
}

/** A tempo that rises or falls while one plays. */
export function drifting({ tempo, tempoError, played }: Evidence): Found | null {
  // Of a take at quite another tempo, only what changes in it counts.
  const steadyAway = Math.abs(tempo.start) >= ANOTHER_TEMPO;
  const drift = steadyAway ? tempo.end - tempo.start : tempo.end;
  if (Math.abs(drift) < DRIFT || Math.abs(drift) < DRIFT_ERRORS * tempoError) return null;
  const by = Math.abs(drift).toFixed(1);
  const ends = steadyAway ? 'what it was at the start' : 'what was asked';
  return {
    trouble: drift > 0 ? 'rushing' : 'dragging',
    hand: 'strumming',
    sentence:
      drift > 0
        ? `You rush: at the end the tempo is ${by} % above ${ends}.`
        : `You drag: at the end the tempo is ${by} % below ${ends}.`,
    weight: Math.abs(drift) / DRIFT,
    strokes: heardOf(played).slice(-8),
  };
}

/** Of the strokes that no place or change explains, more than this share out of time is uneven. */
const UNEVEN = 0.15;
/** Milliseconds of scatter, as a share of what is in time, below which nothing is uneven, and from which anything is. */
const [SCATTER, SCATTERED] = [0.55, 0.68];

/** Strokes that scatter around their places. */
export function uneven(
  { played, tolerance, place }: Evidence,
  explained: Set<Judged>,
): Found | null {
  const strokes = heardOf(played).filter(
    (one) => !explained.has(one) && !one.hurried && !landed(one),
  );
  if (strokes.length < 8) return null;
  // What a place is off by itself is another matter.
  const middles = new Map(
    [...gathered(strokes, place)].map(([name, some]) => [
      name,
      some.length >= FEWEST_OF ? median(offsOf(some)) : 0,
    ]),
  );
  const offs = strokes.map((one) => one.heard!.off - middles.get(place(one))!);
  const scatter = deviation(offs);
  const out = strokes.filter((_, at) => Math.abs(offs[at]!) > tolerance);
  const isMany = out.length > UNEVEN * strokes.length;
  if (scatter < (isMany ? SCATTER : SCATTERED) * tolerance) return null;
  return {
    trouble: 'uneven',
    hand: 'strumming',
    sentence: `The strumming is uneven: ${strokes.length - out.length} of ${strokes.length} strokes within ${tolerance} ms; they lie about ${Math.round(scatter)} ms around their places.`,
    weight: scatter / (SCATTER * tolerance),
    strokes: out,
  };
}
