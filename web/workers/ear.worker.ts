import { expose } from 'comlink';
import type { ChangeTime, Instrument, Pattern, Shape, Song, TakeOnset } from '#core/schema';
import type { FrettedChord } from '#core/neck';
import { arrangement, previewBars } from '#core/arrange';
import { handFrom } from '#core/hand';
import {
  type Habits,
  type Heard,
  judgeOnsets,
  judgeSound,
  onsets,
  playTake,
  readWav,
  type Recording,
  ringOf,
  type RingReport,
  takeSound,
} from '#core/take';
import { playIn } from '#core/along';
import { toWav } from '#core/formats';

/** What was played, and what is known of the hand, as far as a worker can be told. */
type Part = {
  first: number;
  last: number;
  begins?: number | undefined;
  /** Changes that the player has timed: they say at which tempo a late one can be made. */
  timings?: ChangeTime[] | undefined;
};

const withHand = (song: Song, { timings = [], ...part }: Part) => ({
  ...part,
  hand: handFrom(timings, song.instrument),
});

/** What listens to takes, away from the page. */
const ear = {
  sound: (song: Song, recording: Recording, part: Part) =>
    judgeSound(arrangement(song), recording, withHand(song, part)),
  wav: (song: Song, bytes: Uint8Array, part: Part) =>
    judgeSound(arrangement(song), readWav(bytes), withHand(song, part)),
  onsets: (song: Song, onsets: TakeOnset[], part: Part) =>
    judgeOnsets(arrangement(song), onsets, withHand(song, part)),

  /** The strokes, clicks or knocks of a recording. */
  onsetsOf: (recording: Recording): Heard[] => onsets(recording),
  /** Whether a shape rings, its strings plucked one by one. */
  ring: (
    recording: Recording,
    instrument: Instrument,
    shape: Shape,
    pitches: (number | null)[],
  ): RingReport => ringOf(recording, instrument, shape, pitches),
  /** A pattern that was played on the instrument. */
  playIn: (recording: Recording, tempo: number, base: Pattern, chord: FrettedChord | null) =>
    playIn(recording, tempo, base, chord),
  /** A recording as a file. */
  toWav: ({ samples, sampleRate }: Recording) => toWav(samples, sampleRate),
  readWav: (bytes: Uint8Array): Recording => readWav(bytes),

  /** A take of a made-up player, judged from its sound. */
  example(song: Song, habits: Habits, part: Part) {
    const arranged = arrangement(song);
    const performance = previewBars(arranged, part.first, part.last);
    const played = playTake(performance, song.meter, habits);
    const rate = 22_050;
    const samples = takeSound(played, song.meter, song.instrument.family, rate, { noise: 34 });
    return judgeSound(arranged, { samples, sampleRate: rate }, withHand(song, part));
  },
};

export type Ear = typeof ear;

expose(ear);
