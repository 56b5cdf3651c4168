import { arrangement } from '../arrange';
import { said } from '../pattern/said.test-kit';
import { newSong } from '../song';
import type { Evidence } from './findings';
import { type Judged, placeOf, toleranceOf } from './groups';
import { verdictOf } from './verdict';

export const PROGRESSION = 'C | Am | F | G | C | Am | F | G | C | Am | F | G';

/** A take as it was meant, stroke by stroke, with some of them changed. */
export function take(
  words: string,
  change: (all: Judged[]) => void,
  progression = PROGRESSION,
  tempo = 100,
  other: Partial<Evidence> = {},
): ReturnType<typeof verdictOf>['verdict'] {
  const song = { ...newSong({ title: 'Sluice', instrument: 'guitar', progression }), tempo };
  const arranged = arrangement({ ...song, pattern: said(words) });
  const { strikes } = arranged.performance;
  const played = strikes.map((strike, index): Judged => ({
    index,
    strike,
    seconds: strike.seconds,
    before: strikes[index - 1] ?? null,
    heard: {
      seconds: strike.seconds,
      off: 0,
      loudness: 20 * Math.log10(strike.velocity),
      faint: false,
      kind: 'full',
      direction: strike.dir,
      chord: 'on-time',
      bass: strike.kind === 'bass' || strike.kind === 'pick' ? true : null,
      rings: strike.kind === 'chuck' ? false : null,
    },
    counts: true,
    hurried: false,
  }));
  change(played);
  const evidence: Evidence = {
    arranged,
    played,
    tolerance: toleranceOf(played.map(({ seconds }) => seconds)),
    added: [],
    stops: [],
    tempo: { start: 0, mean: 0, end: 0 },
    tempoError: 0.1,
    byChange: [],
    place: ({ strike }) => placeOf(arranged, strike),
    ...other,
  };
  return verdictOf(evidence, { first: 0, last: arranged.bars.length - 1 }).verdict;
}
