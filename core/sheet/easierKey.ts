import { barres, capoOptions, fretChords, keyName, parseChord, shapesFor } from '../neck';
import { plural } from '../plain';
import type { Shape, Song } from '../schema';
import { landings, playedBars, songChords } from '../song';

/** Fingers that are down. */
export const fingersDown = ({ fingers }: Shape): number =>
  new Set(fingers.filter((finger) => finger > 0)).size;

/** What a hand that begins cannot hold yet: a barre, or four fingers at once. */
export const isHard = (shape: Shape): boolean => barres(shape).length > 0 || fingersDown(shape) > 3;

/** Half steps that a voice may be asked to go. */
const FARTHEST = 5;

/**
 * Another key for a song whose chords a hand that begins cannot hold: with a capo that brings the pitch back where there
 * is one, else the nearest key; null where all can be held, or no key helps.
 * @example easierKey(song) // 'B and E are hard to hold: in G major all are easy, and capo 4 brings the pitch back.'
 */
export function easierKey(song: Song): string | null {
  const hold = fretChords(song);
  const hard = songChords(song).filter((symbol) => {
    const held = hold(symbol);
    return held !== null && isHard(held.shape);
  });
  if (hard.length === 0) return null;
  const { instrument, capo } = song;
  const sequence = landings(playedBars(song)).map(({ symbol }) => symbol);
  const isEasy = ({ chords }: ReturnType<typeof capoOptions>[number]) =>
    chords.every(({ fingered }) => {
      const [shape] = shapesFor(instrument, parseChord(fingered)!);
      return shape !== undefined && !isHard(shape);
    });
  const names = new Intl.ListFormat('en').format(hard);
  const are = `${names} ${hard.length === 1 ? 'is' : 'are'} hard to hold`;
  const here = capoOptions({ instrument, sequence, capo, lowest: 0, highest: 0 }).find(isEasy);
  if (here) {
    return `${are}: in ${keyName(here.fingeredKey)} all are easy, and capo ${here.capo} brings the pitch back.`;
  }
  const near = capoOptions({ instrument, sequence, capo, lowest: -FARTHEST, highest: FARTHEST })
    .filter((option) => option.capo === capo && isEasy(option))
    .sort((one, other) => Math.abs(one.sounds) - Math.abs(other.sounds))[0];
  if (!near) return null;
  const way = near.sounds < 0 ? 'lower' : 'higher';
  return `${are}: in ${keyName(near.fingeredKey)} all are easy, ${plural(Math.abs(near.sounds), 'half step')} ${way}.`;
}
