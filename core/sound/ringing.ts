import type { Seconds, Ticks } from '../plain';
import type { Family } from '../schema';
import type { ClickBeat, DrumHit, DrumPiece, Performance, Strike } from '../arrange';
import { itemAt } from '../song';
import type { BeatWeight } from '../time';
import { drum } from './kit';
import { chuck, click, spokenTone, tap } from './percussion';
import { palmed, pluck, type PluckTouch, STRING_VOICES, stringGain } from './pluck';

/**
 * The mixer as plain data: what is to sound, when, how loud, and when it is stopped. The browser
 * carries the cues out on its audio clock, `mixdown` on an array of samples; so both sound alike.
 */

/** What can sound. Each is rendered once for a sample rate. */
export type Sound =
  | ({ kind: 'pluck'; family: Family; midi: number; palm: boolean } & PluckTouch)
  /** A string that goes on ringing at another length: no stroke is heard in it. */
  | { kind: 'legato'; family: Family; midi: number; by: PluckTouch['by'] }
  /** A string that nobody strikes, and that rings along with those that are. */
  | { kind: 'along'; family: Family; midi: number }
  | { kind: 'chuck'; weight: 'faint' | 'plain' | 'heavy' }
  | { kind: 'tap'; on: 'body' | 'strings' }
  | { kind: 'click'; weight: BeatWeight }
  | { kind: 'drum'; piece: DrumPiece }
  | { kind: 'word'; syllables: 1 | 2 };

/** The faders. */
export const CHANNELS = ['strings', 'bass', 'click', 'drums'] as const;
export type Channel = (typeof CHANNELS)[number];
/** Where each fader stands, 0 to 1. */
export type Levels = Record<Channel, number>;
export const USUAL_LEVELS: Levels = { strings: 0.8, bass: 0.8, click: 0.6, drums: 0.6 };

/** A sound begins, or one that was begun is stopped. Times in seconds, whatever clock they are of. */
export type Cue =
  | {
      act: 'start';
      id: number;
      sound: Sound;
      channel: Channel;
      time: Seconds;
      gain: number;
      /** Where it is heard: -1, left, to 1, right. */
      pan: number;
    }
  | { act: 'stop'; id: number; time: Seconds };

/** Which sound rings on which string, and the number of the next. */
export interface RingingStrings {
  next: number;
  ringing: ReadonlyMap<number, number>;
}

export const NOTHING_RINGS: RingingStrings = { next: 0, ringing: new Map() };

/** Seconds in which a stopped string falls to a third: short, but too long to click. */
export const CHOKE_SECONDS = 0.006;
/** After so many of them it is gone. */
export const CHOKE_TIMES = 8;

const GAINS = { pluck: 0.8, bass: 1.2, chuck: 0.9, tap: 0.9, click: 0.9, drum: 0.9, word: 0.7 };
/** Loudness grows faster than force. */
const FORCE_TO_GAIN = 1.5;

/** A player hears the strings from one side to the other: how far the outer ones are from the middle. */
const MAX_PAN = 0.28;
const USUAL_STRINGS = 6;
const panOf = (string: number, strings: number) =>
  strings > 1 ? MAX_PAN * Math.min(1, (2 * string) / (strings - 1) - 1) : 0;
/** Where the pieces of the kit stand, the hats on one side and the shaker on the other. */
const DRUM_PANS: Partial<Record<DrumPiece, number>> = {
  hat: 0.3,
  'open-hat': 0.3,
  shaker: -0.35,
  rim: -0.15,
  clap: 0.1,
};

/**
 * How much of a struck string another takes up, by the semitones between them: as many partials as they
 * share. A unison shares all, an octave half of them, and so on.
 */
const TAKEN_UP: Record<number, number> = { 0: 1, 5: 0.25, 7: 0.33, 12: 0.5, 19: 0.33, 24: 0.25 };
/** A string that rings along is this much softer than the one it answers. */
const ALONG_LEVEL = 0.07;
/** Softer than this it is not heard beside a stroke. */
const ALONG_LEAST = 0.008;

/** The key under which a rendered sound is kept. */
export function soundKey(sound: Sound): string {
  return Object.values(sound).join(':');
}

const forceOf = (velocity: number): PluckTouch['force'] =>
  velocity < 0.45 ? 'soft' : velocity < 0.78 ? 'medium' : 'hard';

/** Cues of the strings that a stroke stops and sounds, in order of time. */
export interface Cued {
  rings: RingingStrings;
  cues: Cue[];
}

/**
 * What a strike asks for: the strings it damps are stopped, those it sounds begin, each stopping what
 * rang on it; strings under the hand that were still ring along with them.
 * @param time seconds at which it begins
 * @param held the pitch of each string under the hand, null where it is muted; none where nothing is known
 * @example cueStrike(NOTHING_RINGS, strikes[0], 'guitar', 0).cues.length // 5
 */
export function cueStrike(
  rings: RingingStrings,
  strike: Strike,
  family: Family,
  time: Seconds,
  held: readonly (number | null)[] = [],
): Cued {
  const cues: Cue[] = [];
  const ringing = new Map(rings.ringing);
  let { next } = rings;
  const stop = (string: number, at: Seconds) => {
    const id = ringing.get(string);
    if (id === undefined) return;
    ringing.delete(string);
    cues.push({ act: 'stop', id, time: at });
  };
  const start = (sound: Sound, channel: Channel, at: Seconds, gain: number, pan = 0) => {
    cues.push({ act: 'start', id: next, sound, channel, time: at, gain, pan });
    next += 1;
    return next - 1;
  };
  const { velocity, kind } = strike;
  strike.damps.forEach((string) => stop(string, time));
  if (kind === 'chuck') {
    const force = forceOf(velocity);
    const weight = force === 'soft' ? 'faint' : force === 'medium' ? 'plain' : 'heavy';
    start({ kind: 'chuck', weight }, 'strings', time, velocity * GAINS.chuck);
  }
  if (strike.tap) start({ kind: 'tap', on: strike.tap }, 'strings', time, velocity * GAINS.tap);
  const by = strike.flesh ? 'flesh' : 'pick';
  const strings = held.length || USUAL_STRINGS;
  for (const note of strike.notes) {
    const at = time + note.delay;
    const { midi } = note;
    const sound: Sound = note.legato
      ? { kind: 'legato', family, midi, by }
      : { kind: 'pluck', family, midi, palm: strike.palm, force: forceOf(note.velocity), by };
    stop(note.string, at);
    const channel = kind === 'bass' ? 'bass' : 'strings';
    // A single string beside strums of five or six.
    const loudness = kind === 'bass' ? GAINS.bass : GAINS.pluck;
    const gain = note.velocity ** FORCE_TO_GAIN * loudness * stringGain(family, note.string);
    ringing.set(note.string, start(sound, channel, at, gain, panOf(note.string, strings)));
  }
  if (strike.palm || strike.transition) return { rings: { next, ringing }, cues };
  held.forEach((midi, string) => {
    if (midi === null || ringing.has(string) || strike.damps.includes(string)) return;
    const gain = strike.notes.reduce((sum, note) => {
      const taken = TAKEN_UP[Math.abs(note.midi - midi)] ?? 0;
      return sum + ALONG_LEVEL * taken * note.velocity ** FORCE_TO_GAIN;
    }, 0);
    if (gain < ALONG_LEAST) return;
    const sound: Sound = { kind: 'along', family, midi };
    ringing.set(string, start(sound, 'strings', time, gain, panOf(string, strings)));
  });
  return { rings: { next, ringing }, cues };
}

/** Stops every string that rings. */
export function cueSilence({ next, ringing }: RingingStrings, time: Seconds): Cued {
  const cues = [...ringing.values()].map((id): Cue => ({ act: 'stop', id, time }));
  return { rings: { next, ringing: new Map() }, cues };
}

/** A sound that belongs to no string. */
function cueLoose(
  rings: RingingStrings,
  cue: { sound: Sound; channel: Channel; time: Seconds; gain: number; pan?: number },
) {
  return {
    rings: { ...rings, next: rings.next + 1 },
    cues: [{ act: 'start' as const, id: rings.next, pan: 0, ...cue }],
  };
}

/** A click of the metronome; `level` 0 to 1 for one that fades out. */
export function cueClick(rings: RingingStrings, beat: ClickBeat, time: Seconds, level = 1): Cued {
  const sound: Sound = { kind: 'click', weight: beat.weight };
  return cueLoose(rings, { sound, channel: 'click', time, gain: GAINS.click * level });
}

export function cueDrum(rings: RingingStrings, { piece, velocity }: DrumHit, time: Seconds): Cued {
  const sound: Sound = { kind: 'drum', piece };
  const pan = DRUM_PANS[piece] ?? 0;
  return cueLoose(rings, { sound, channel: 'drums', time, gain: GAINS.drum * velocity, pan });
}

/** A word as a tone of so many syllables. */
export function cueWord(rings: RingingStrings, syllables: number, time: Seconds): Cued {
  const sound: Sound = { kind: 'word', syllables: syllables > 1 ? 2 : 1 };
  return cueLoose(rings, { sound, channel: 'click', time, gain: GAINS.word });
}

/** Seconds that a rendered pluck lasts; it is choked long before in almost every pattern. */
const PLUCK_SECONDS = 3;
const PALMED_SECONDS = 1.2;
/** One that rings along is soft, and sooner lost under what follows. */
const ALONG_SECONDS = 2.4;
const CHUCK_WEIGHTS = { faint: 0.15, plain: 0.55, heavy: 1 };

/** Seconds over which a rendered string is faded to silence. */
const FADES_IN = 0.05;

/**
 * Renders a sound.
 * @param longest seconds of it that will be heard; a string that is stopped sooner need not be rendered whole
 * @returns mono samples
 * @example renderSound({ kind: 'drum', piece: 'kick' }, 48000).length // 14400
 */
export function renderSound(
  sound: Sound,
  sampleRate: number,
  longest = Infinity,
): Float32Array<ArrayBuffer> {
  const seconds = (whole: number) => Math.min(whole, longest + FADES_IN);
  switch (sound.kind) {
    case 'pluck': {
      const { family, midi, palm, force, by } = sound;
      const voice = STRING_VOICES[family];
      return palm
        ? pluck(midi, seconds(PALMED_SECONDS), sampleRate, palmed(voice), { force, by })
        : pluck(midi, seconds(PLUCK_SECONDS), sampleRate, voice, { force, by });
    }
    case 'legato':
      return rungOn(sound, sampleRate, COMES_IN, seconds(PLUCK_SECONDS));
    case 'along':
      return rungOn({ ...sound, by: 'flesh' }, sampleRate, TAKES_UP, seconds(ALONG_SECONDS));
    case 'chuck':
      return chuck(sampleRate, CHUCK_WEIGHTS[sound.weight]);
    case 'tap':
      return tap(sound.on, sampleRate);
    case 'click':
      return click(sound.weight, sampleRate);
    case 'drum':
      return drum(sound.piece, sampleRate);
    case 'word':
      return spokenTone(sound.syllables, sampleRate);
  }
}

/** A string that was struck so many seconds ago has lost its pluck; so it comes in, without one. */
const AFTER_PLUCK = 0.18;
const COMES_IN = 0.045;
/** One that rings along takes longer to be heard. */
const TAKES_UP = 0.14;

/** A string of so many seconds ago, at a new length: it swells in, and is never struck. */
function rungOn(
  { family, midi, by }: { family: Family; midi: number; by: PluckTouch['by'] },
  sampleRate: number,
  comesIn: number,
  seconds: Seconds,
): Float32Array<ArrayBuffer> {
  const struck = pluck(midi, seconds + AFTER_PLUCK, sampleRate, STRING_VOICES[family], {
    force: 'soft',
    by,
  });
  const rising = Math.round(comesIn * sampleRate);
  return struck
    .slice(Math.round(AFTER_PLUCK * sampleRate))
    .map((sample, index) =>
      index >= rising ? sample : sample * 0.5 * (1 - Math.cos((Math.PI * index) / rising)),
    );
}

/** Below this nothing is changed; above it peaks are rounded off, and full scale is never reached. */
export const KNEE = 0.6;
/** What goes into the limiter at most: `limiterCurve` covers plus and minus this. */
export const LIMITER_RANGE = 4;

/**
 * Rounds off what is too loud.
 * @example limit(0.5) // 0.5
 * @example limit(3) // 0.999...
 */
export function limit(sample: number): number {
  const size = Math.abs(sample);
  if (size <= KNEE) return sample;
  const rounded = KNEE + (1 - KNEE) * Math.tanh((size - KNEE) / (1 - KNEE));
  return Math.sign(sample) * rounded * 0.999;
}

/** The limiter as a curve over plus and minus `LIMITER_RANGE`, for a wave shaper. */
export function limiterCurve(points = 4097): Float32Array<ArrayBuffer> {
  return new Float32Array(points).map((_, index) =>
    limit(((2 * index) / (points - 1) - 1) * LIMITER_RANGE),
  );
}

/** The pitches of the strings under the hand at a tick. */
export function heldAt(
  landings: Performance['landings'],
  tick: Ticks,
): readonly (number | null)[] | undefined {
  return itemAt(landings, tick)?.strings;
}

/**
 * Every sound that a performance will ask for, each once, to be rendered ahead.
 * @example soundsOf(arrange(song), 'guitar').length // 14
 */
export function soundsOf({ strikes, landings }: Performance, family: Family): Sound[] {
  const found = new Map<string, Sound>();
  const seen = new Set<string>();
  for (const strike of strikes) {
    const { kind, tap: tapped, palm, flesh, velocity, notes } = strike;
    const held = heldAt(landings, strike.tick);
    const said = `${kind}${tapped}${palm}${flesh}${velocity}${notes.map(({ midi }) => midi).join()}/${held?.join()}`;
    if (seen.has(said)) continue;
    seen.add(said);
    for (const cue of cueStrike(NOTHING_RINGS, strike, family, 0, held).cues) {
      if (cue.act === 'start') found.set(soundKey(cue.sound), cue.sound);
    }
  }
  return [...found.values()];
}
