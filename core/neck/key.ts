import { Key as TonalKey } from 'tonal';
import { parseChord, noteName } from './chords';

/** A key: its tonic as a pitch class, and whether it is minor. */
export interface Key {
  tonic: number;
  minor: boolean;
}

const MAJOR_STEPS = [0, 2, 4, 5, 7, 9, 11];
/** Natural minor: the raised seventh that its dominant chord brings is no note of the key. */
const MINOR_STEPS = [0, 2, 3, 5, 7, 8, 10];

/** Pitch classes of the key's scale, from the tonic. */
export function scaleOf({ tonic, minor }: Key): number[] {
  return (minor ? MINOR_STEPS : MAJOR_STEPS).map((step) => (tonic + step) % 12);
}

/** True where the key is written with flats. */
export function usesFlats({ tonic, minor }: Key): boolean {
  const major = minor ? (tonic + 3) % 12 : tonic;
  return [1, 3, 5, 8, 10].includes(major);
}

/**
 * The key's name as players write it.
 * @example keyName({ tonic: 9, minor: true }) // 'A minor'
 */
export function keyName(key: Key): string {
  return `${noteName(key.tonic, usesFlats(key))} ${key.minor ? 'minor' : 'major'}`;
}

/**
 * The likeliest key of some chords: the one whose scale holds most of their notes, then the one
 * whose tonic chord comes first or last.
 * @example guessKey(['G', 'C', 'D', 'G']) // { tonic: 7, minor: false }
 */
export function guessKey(symbols: string[]): Key {
  const chords = symbols.flatMap((symbol) => parseChord(symbol) ?? []);
  const isMinor = (index: number) => chords.at(index)?.intervals.includes(3) ?? false;
  let best: Key = { tonic: chords[0]?.root ?? 0, minor: isMinor(0) };
  let bestScore = -1;
  for (let tonic = 0; tonic < 12; tonic += 1) {
    for (const minor of [false, true]) {
      const scale = new Set(scaleOf({ tonic, minor }));
      const inside = chords
        .flatMap((chord) => chord.tones)
        .filter((tone) => scale.has(tone)).length;
      const ends = (index: number) =>
        chords.at(index)?.root === tonic && isMinor(index) === minor ? 1 : 0;
      const score = inside * 2 + ends(0) * 3 + ends(-1) * 2.5;
      if (score > bestScore) {
        bestScore = score;
        best = { tonic, minor };
      }
    }
  }
  return best;
}

/**
 * The triads of a key, one on each step of its scale, by name.
 * @example keyChords({ tonic: 0, minor: false }) // ['C', 'Dm', 'Em', 'F', 'G', 'Am', 'Bdim']
 */
export function keyChords(key: Key): string[] {
  const tonic = noteName(key.tonic, usesFlats(key));
  const { triads } = key.minor ? TonalKey.minorKey(tonic).natural : TonalKey.majorKey(tonic);
  return [...triads];
}
