import { noteName } from '../neck';
import type { Ticks } from '../plain';
import type { PlacedChord } from './written';

/** A note of a MIDI file. */
export interface MidiNote {
  from: Ticks;
  to: Ticks;
  midi: number;
  /** 1 to 127. */
  velocity: number;
}

/** Chords that a reading may find, by their tones above the root; the plainer first. */
const QUALITIES: [string, number[]][] = [
  ['', [0, 4, 7]],
  ['m', [0, 3, 7]],
  ['7', [0, 4, 7, 10]],
  ['m7', [0, 3, 7, 10]],
  ['maj7', [0, 4, 7, 11]],
  ['sus4', [0, 5, 7]],
  ['dim', [0, 3, 6]],
  ['aug', [0, 4, 8]],
  ['m7b5', [0, 3, 6, 10]],
];
/** A tone that has less of the sound than this is not there. */
const THERE = 0.03;
/** A stretch is no chord if less of its sound belongs to it. */
const LEAST_SHARE = 0.65;
/** The least of a single beat that names a chord. */
const AT_LEAST = 0.75;

/** How long each tone sounds, all of them together, and the lowest pitch. */
interface Sounding {
  weights: number[];
  total: number;
  lowest: number;
}

/** What sounds in a stretch. */
function soundingIn(notes: MidiNote[], from: number, to: number): Sounding {
  const weights = new Array<number>(12).fill(0);
  let total = 0;
  let lowest = Infinity;
  for (const note of notes) {
    const long = Math.min(note.to, to) - Math.max(note.from, from);
    if (long <= 0) continue;
    weights[note.midi % 12]! += long;
    total += long;
    lowest = Math.min(lowest, note.midi);
  }
  return { weights, total, lowest };
}

/** Stretches that follow each other, as one. */
const together = (some: Sounding[]): Sounding => ({
  weights: Array.from({ length: 12 }, (_, tone) =>
    some.reduce((sum, { weights }) => sum + weights[tone]!, 0),
  ),
  total: some.reduce((sum, { total }) => sum + total, 0),
  lowest: Math.min(...some.map(({ lowest }) => lowest)),
});

/** The tones that sound in a stretch. */
const tonesOf = ({ weights, total }: Sounding): Set<number> =>
  new Set(weights.flatMap((weight, tone) => (weight > THERE * total ? [tone] : [])));

/** The chord that fits a stretch best, and how much of its sound belongs to it; null with fewer than three tones. */
function best({
  weights,
  total,
  lowest,
}: Sounding): { symbol: string; share: number; root: number } | null {
  const there = (tone: number) => weights[tone]! > THERE * total;
  if (weights.filter((_, tone) => there(tone)).length < 3) return null;
  let found = { symbol: '', share: 0, root: 0, fit: -Infinity };
  for (let root = 0; root < 12; root += 1) {
    for (const [quality, tones] of QUALITIES) {
      const own = tones.map((tone) => (root + tone) % 12);
      const share = own.reduce((sum, tone) => sum + weights[tone]!, 0) / total;
      const missing = own.filter((tone) => !there(tone)).length;
      const plain =
        0.05 * (tones.length - 3) + (quality === 'sus4' || quality === 'aug' ? 0.05 : 0);
      const fit = share - 0.25 * missing - plain + (lowest % 12 === root ? 0.08 : 0);
      if (fit > found.fit) found = { symbol: noteName(root, false) + quality, share, root, fit };
    }
  }
  return found;
}

/** A second chord in a bar has to explain so many beats more than one does. */
const ANOTHER_CHORD = 0.3;
/** A chord of three tones is plainer than one of four by so much of a beat for each beat. */
const FOURTH_TONE = 0.06;
/** A beat that holds a chord of its own, without the root of this one, is against it by so much. */
const NO_ROOT = 0.3;
/** Tones of a beat that is a chord by itself. */
const OWN_CHORD = 3;

/**
 * The chords of a bar: of all ways to part its beats the one whose chords explain most of what sounds, where each chord
 * beyond the first has to be worth it. C and then G are no Cmaj7, and one that is arpeggiated is one. A bass that
 * passes under a chord keeps its beat: C, and C/B from the third.
 * @param notes that sound in the bar, in the order in which they begin
 * @returns chords with their ticks from the bar line, roots by sharps; empty where no three tones are one
 */
export function chordsOfBar(
  notes: MidiNote[],
  bar: Ticks,
  beat: Ticks,
  beats: number,
): PlacedChord[] {
  /** What is explained of the beats before each place, and the last chord of the way there. */
  const ways: { worth: number; chord: PlacedChord | null; from: number }[] = [
    { worth: 0, chord: null, from: 0 },
  ];
  const inBeat = Array.from({ length: beats }, (_, at) =>
    soundingIn(notes, bar + at * beat, bar + (at + 1) * beat),
  );
  const tones = inBeat.map(tonesOf);
  for (let to = 1; to <= beats; to += 1) {
    let way = { worth: -Infinity, chord: null as PlacedChord | null, from: 0 };
    for (let from = 0; from < to; from += 1) {
      const found = best(together(inBeat.slice(from, to)));
      const isOne = found !== null && found.share >= (to - from === 1 ? AT_LEAST : LEAST_SHARE);
      const length = to - from;
      const plain = /7/.test(found?.symbol ?? '') ? FOURTH_TONE : 0;
      const against = tones
        .slice(from, to)
        .filter((own) => own.size >= OWN_CHORD && found && !own.has(found.root)).length;
      const explained = isOne ? length * (found.share - plain) - NO_ROOT * against : 0;
      const before = ways[from]!;
      const fresh = isOne && before.chord !== null ? ANOTHER_CHORD : 0;
      const worth = before.worth + explained - fresh;
      if (worth <= way.worth) continue;
      way = { worth, chord: isOne ? { at: from * beat, symbol: found.symbol } : null, from };
    }
    ways.push(way);
  }
  const chords: PlacedChord[] = [];
  for (let to = beats; to > 0; to = ways[to]!.from) {
    const { chord, from } = ways[to]!;
    if (chord) chords.unshift(...withBass(chord, notes, { bar, beat, from, to }));
  }
  return chords.filter(({ symbol }, at) => symbol !== chords[at - 1]?.symbol);
}

/** Lower than this is a bass: the top of a ukulele or a mandolin has none. */
const BASS_BELOW = 50;
/** Notes that begin in a beat beside its bass, at least, where a chord is struck over it. */
const STRUCK = 2;

/**
 * A chord with what the bass does under it: tones of its own change nothing, another one that comes on a later beat
 * passes, and where the root is never lowest the chord stands on what is.
 */
function withBass(
  whole: PlacedChord,
  notes: MidiNote[],
  { bar, beat, from, to }: { bar: Ticks; beat: Ticks; from: number; to: number },
): PlacedChord[] {
  const basses: { at: number; pitch: number; struck: boolean }[] = [];
  const above: Sounding[] = [];
  for (let at = from; at < to; at += 1) {
    const [begins, ends] = [bar + at * beat, bar + (at + 1) * beat];
    const fresh = notes.filter((note) => note.from >= begins && note.from < ends);
    const lowest = Math.min(...fresh.map(({ midi }) => midi));
    const pitch = lowest < BASS_BELOW ? lowest : basses.at(-1)?.pitch;
    if (pitch === undefined) return [whole];
    basses.push({ at, pitch, struck: fresh.length > STRUCK });
    const others = notes.filter(({ midi }) => midi !== pitch);
    above.push(soundingIn(others, begins, ends));
  }
  const changes = new Set(basses.map(({ pitch }) => pitch % 12)).size > 1;
  const chord = changes
    ? best(together(above))
    : best(soundingIn(notes, bar + from * beat, bar + to * beat));
  if (!chord || chord.share < LEAST_SHARE) return [whole];
  const tones = new Set(tonesOfChord(chord.symbol, chord.root));
  const foreign = ({ pitch }: { pitch: number }) => !tones.has(pitch % 12);
  if (changes && !foreign(basses[0]!) && basses.some((one) => foreign(one) && one.struck)) {
    return basses.map((one) => ({
      at: one.at * beat,
      symbol: foreign(one) && one.struck ? over(chord.symbol, one.pitch) : chord.symbol,
    }));
  }
  const stands = basses.every(({ pitch }) => pitch % 12 !== chord.root);
  if (chord.symbol !== whole.symbol || !stands || foreign(basses[0]!)) return [whole];
  return [{ ...whole, symbol: over(whole.symbol, basses[0]!.pitch) }];
}

const over = (symbol: string, pitch: number) => `${symbol}/${noteName(pitch % 12, false)}`;

/** The tones of a chord that a reading has found. */
function tonesOfChord(symbol: string, root: number): number[] {
  const quality = symbol.slice(noteName(root, false).length);
  return QUALITIES.find(([name]) => name === quality)![1].map((tone) => (root + tone) % 12);
}
