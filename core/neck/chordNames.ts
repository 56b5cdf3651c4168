import { noteName, parseChord } from './chords';
import { type Key, scaleOf, usesFlats } from './key';
import { neededTones } from './spelling';

/** Kinds of chords by how often players name them so: of two that fit, the more usual is meant. */
const KINDS = [
  '', 'm', '7', 'm7', '5', 'maj7', 'sus4', 'sus2', 'add9', '6', 'm6', '7sus4', 'dim', '9', 'm9', 'dim7', 'm7b5', 'aug',
  'maj9', 'madd9', '6/9', 'mMaj7', '7#9', '7b9', '11', '13', 'm11', '9sus4', '7b5', '7#5', 'maj7#11', '7#11',
]; // prettier-ignore

/** What speaks against a name: a place further down the list, another bass than the root, a tone left out, a foreign root. */
const RARER = 0.15;
const OTHER_BASS = 2.4;
const FOREIGN_BASS = 1;
/** A seventh that is only the bass is written after a slash: Am/G. */
const SEVENTH_BASS = 2;
const LEFT_OUT = 0.6;
const OUT_OF_KEY = 0.7;
/** As on six strings: which tones a chord may be without. */
const STRINGS = 6;

/** Roots that are written with a flat where no key says otherwise. */
const FLAT_ROOTS = [3, 8, 10];

/**
 * Names what a set of pitches sounds, the likeliest first: by its lowest note, with the fewest alterations, as the key
 * expects; empty where no name is known.
 * @param pitches MIDI pitches, in any order
 * @param key that the song is in, where it is known
 * @example detectChords([40, 52, 56, 61, 66])[0] // 'E6/9'
 */
export function detectChords(pitches: number[], key?: Key): string[] {
  const sounding = [...new Set(pitches.map((midi) => midi % 12))];
  if (sounding.length < 2) return [];
  const lowest = Math.min(...pitches) % 12;
  const scale = key && new Set(scaleOf(key));
  const spell = (tone: number) => noteName(tone, key ? usesFlats(key) : FLAT_ROOTS.includes(tone));
  const found: { name: string; cost: number }[] = [];
  for (let root = 0; root < 12; root += 1) {
    KINDS.forEach((kind, rank) => {
      const name = spell(root) + kind;
      const chord = parseChord(name);
      if (!chord) return;
      const tones = new Set(chord.tones);
      const own = sounding.filter((tone) => tones.has(tone));
      const foreign = sounding.length - own.length;
      // One note that is not the chord's may be its bass.
      if (foreign > 1 || (foreign === 1 && tones.has(lowest))) return;
      const missing = tones.size - own.length;
      const needed = neededTones(chord, STRINGS);
      if (!own.includes(root) || !needed.every((tone) => own.includes(tone))) return;
      const cost =
        rank * RARER +
        (lowest === root ? 0 : OTHER_BASS) +
        foreign * FOREIGN_BASS +
        ((lowest - root + 12) % 12 === 10 && foreign === 0 ? SEVENTH_BASS : 0) +
        missing * LEFT_OUT +
        (scale && !scale.has(root) ? OUT_OF_KEY : 0);
      found.push({ name: lowest === root ? name : `${name}/${spell(lowest)}`, cost });
    });
  }
  return found.sort((a, b) => a.cost - b.cost).map(({ name }) => name);
}
