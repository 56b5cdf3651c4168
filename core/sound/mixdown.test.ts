import { PitchDetector } from 'pitchy';
import { describe, expect, it } from 'vitest';
import { said } from '../pattern/said.test-kit';
import { INSTRUMENTS } from '../neck';
import type { Pattern, Song } from '../schema';
import { arrange, drumHits, evenBars, GROOVES, grooveFor } from '../arrange';
import { newSong } from '../song';
import { newPattern } from '../pattern';
import { countCycle, METERS } from '../time';
import { toWav } from '../formats';
import {
  drum,
  dryMix,
  hertz,
  type Mix,
  mixCues,
  mixdown,
  panGains,
  pluck,
  renderSound,
  impulseResponse,
  type Stereo,
  STRING_VOICES,
  USUAL_LEVELS,
} from '.';

const RATE = 44100;

function song(progression: string, words: string, tempo = 60): Song {
  const start = newSong({ title: 'Any', instrument: 'guitar', progression, tempo });
  return { ...start, pattern: said(words) };
}

function mixOf(made: Song, change: Partial<Mix> = {}): Mix {
  return {
    performance: arrange(made),
    meter: made.meter,
    family: made.instrument.family,
    click: null,
    groove: null,
    levels: USUAL_LEVELS,
    sampleRate: RATE,
    ...change,
  };
}

/** Runs a mix to its end: both channels, and the progress it told. */
function run(mix: Mix): Stereo & { progress: number[] } {
  const progress: number[] = [];
  const steps = mixdown(mix);
  for (;;) {
    const { value, done } = steps.next();
    if (done) return { ...value, progress };
    progress.push(value);
  }
}
const energyOf = (samples: Float32Array) => samples.reduce((sum, x) => sum + x * x, 0);

/** Moments at which something begins after silence, in seconds. */
function onsets(samples: Float32Array): number[] {
  const found: number[] = [];
  let quiet = RATE;
  samples.forEach((sample, index) => {
    if (Math.abs(sample) < 0.0015) {
      quiet += 1;
      return;
    }
    if (quiet > RATE * 0.03) found.push(index / RATE);
    quiet = 0;
  });
  return found;
}

/** How much of a frequency is in some samples, by its correlation with a sine and a cosine. */
function strength(samples: Float32Array, frequency: number): number {
  const w = (2 * Math.PI * frequency) / RATE;
  const [real, imaginary] = samples.reduce(
    ([re, im], x, at) => [re + x * Math.cos(w * at), im + x * Math.sin(w * at)],
    [0, 0],
  );
  return Math.hypot(real, imaginary);
}

const peak = (samples: Float32Array) => samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0);

describe('a mix', () => {
  it('begins every stroke within a millisecond of its time, swung ones too', () => {
    const made = song('A | A', 'chuck chuck, miss chuck, chuck miss, miss chuck');
    const swung = {
      ...made,
      pattern: { ...made.pattern, feel: { on: 'eighths', percent: 67 } as const },
    };
    for (const one of [made, swung]) {
      const samples = dryMix(mixOf(one));
      const wanted = arrange(one).strikes.map(({ seconds }) => seconds);
      const heard = onsets(samples);
      expect(heard).toHaveLength(wanted.length);
      heard.forEach((time, index) => expect(Math.abs(time - wanted[index]!)).toBeLessThan(0.001));
    }
  });

  it('stays below full scale at any density, with drums and click', () => {
    const dense = song('E | A', 'DOWN up DOWN up, DOWN up DOWN up, roll4 up, DOWN-tap up', 180);
    const { left, right } = run(
      mixOf(dense, {
        click: 'all',
        groove: 'sixteenths',
        levels: { strings: 1, bass: 1, click: 1, drums: 1 },
      }),
    );
    for (const samples of [left, right]) {
      expect(peak(samples)).toBeLessThan(1);
      expect(peak(samples)).toBeGreaterThan(0.3);
      expect(samples.every(Number.isFinite)).toBe(true);
      expect(Math.abs(samples.at(-1)!)).toBeLessThan(1e-4);
    }
  });

  it('is as loud for one pattern as for another, within a few decibels', () => {
    const level = (words: string) => {
      const samples = dryMix(mixOf(song('A | D', words, 90)));
      const body = samples.slice(0, 5 * RATE);
      return 10 * Math.log10(body.reduce((sum, x) => sum + x * x, 0) / body.length);
    };
    const levels = [
      'down miss, down miss, down miss, down miss',
      'down up, down up, down up, down up',
      'bass miss, down up, alternate miss, down up',
    ].map(level);
    expect(Math.max(...levels) - Math.min(...levels)).toBeLessThan(6);
  });

  it('stops strings where a chuck damps them', () => {
    const made = song('A', 'down miss, miss miss, chuck miss, miss miss');
    const samples = dryMix(mixOf(made));
    const energy = (from: number, to: number) =>
      samples.slice(from * RATE, to * RATE).reduce((sum, x) => sum + x * x, 0) / (to - from);
    expect(energy(2.3, 2.9)).toBeLessThan(0.001 * energy(1.3, 1.9));
  });

  it('rakes in the direction of the stroke: the string that is struck first is heard first', () => {
    for (const [words, order] of [
      ['down miss, miss miss, miss miss, miss miss', 1],
      ['up miss, miss miss, miss miss, miss miss', -1],
    ] as const) {
      const { cues } = mixCues(mixOf(song('E', words)));
      const plucks = cues.flatMap((cue) =>
        cue.act === 'start' && cue.sound.kind === 'pluck'
          ? [[cue.time, cue.sound.midi] as const]
          : [],
      );
      const pitches = plucks.sort(([a], [b]) => a - b).map(([, midi]) => midi);
      expect(pitches).toEqual([...pitches].sort((a, b) => order * (a - b)));
    }
    // In the first hundredth of a second only the string that is struck first sounds.
    const lowOverHigh = (words: string) => {
      const head = dryMix(mixOf(song('E', words))).slice(0, Math.round(RATE * 0.012));
      return strength(head, hertz(40)) / strength(head, hertz(64));
    };
    const [down, up] = ['down', 'up'].map((word) =>
      lowOverHigh(`${word} miss, miss miss, miss miss, miss miss`),
    );
    expect(down).toBeGreaterThan(4 * up!);
  });

  it('plays a part of the song, tells its progress, and can be written as a file', () => {
    const made = song('A | D | E7 | A', 'down up, down up, down up, down up', 120);
    const { left, right, progress } = run(mixOf(made, { from: 3840, to: 7680, click: 'first' }));
    expect(right).toHaveLength(left.length);
    expect(left.length / RATE).toBeCloseTo(2 + 1.5, 2);
    expect(progress).toEqual([...progress].sort((a, b) => a - b));
    expect(progress.at(-1)).toBe(1);
    const file = toWav({ left, right }, RATE);
    expect(String.fromCharCode(...file.slice(0, 4))).toBe('RIFF');
    expect(file.length).toBe(44 + left.length * 4);
    expect(toWav(left, RATE)).toHaveLength(44 + left.length * 2);
  });

  it('fades the click bar by bar, or keeps it to some beats', () => {
    const made = song(
      Array(10).fill('A').join(' | '),
      'miss miss, miss miss, miss miss, miss miss',
    );
    const clicks = (click: Mix['click']) =>
      mixCues(mixOf(made, { click })).cues.flatMap((cue) =>
        cue.act === 'start' && cue.channel === 'click' ? [cue.gain] : [],
      );
    expect(clicks('all')).toHaveLength(40);
    expect(clicks('back')).toHaveLength(20);
    expect(clicks('first')).toHaveLength(10);
    const fading = clicks('fading');
    expect(fading).toHaveLength(32);
    expect(fading[4]).toBeLessThan(fading[0]!);
    expect(clicks(null)).toHaveLength(0);
  });
});

describe('the room', () => {
  const played = run(mixOf(song('A', 'down miss, miss miss, chuck miss, miss miss')));
  const part = (samples: Float32Array, from: number, to: number) =>
    energyOf(samples.slice(from * RATE, to * RATE)) / (to - from);

  it('goes on after a chuck, softly, and is gone before the next beat', () => {
    const [ringing, after, later] = [
      part(played.left, 1.3, 1.9),
      part(played.left, 2.15, 2.25),
      part(played.left, 2.6, 2.9),
    ];
    expect(10 * Math.log10(ringing / after)).toBeGreaterThan(12);
    expect(10 * Math.log10(ringing / later)).toBeGreaterThan(35);
    expect(after).toBeGreaterThan(0);
  });

  it('comes after the sound itself: what is first heard is dry', () => {
    const answer = impulseResponse(RATE);
    for (const side of [answer.left, answer.right]) {
      const first = side.findIndex((sample) => Math.abs(sample) > 1e-6);
      expect(first / RATE).toBeGreaterThan(0.001);
      expect(energyOf(side)).toBeLessThan(0.1);
      expect(energyOf(side.slice(side.length / 2))).toBeLessThan(0.05 * energyOf(side));
    }
    // Two ears hear two rooms.
    const cross = answer.left.reduce((sum, sample, at) => sum + sample * answer.right[at]!, 0);
    expect(cross).toBeLessThan(0.5 * energyOf(answer.left));
  });

  it('has the click beside it: a bar of clicks is the same in both channels, and dry', () => {
    const silent = mixOf(song('A', 'miss miss, miss miss, miss miss, miss miss'), { click: 'all' });
    const { left, right } = run(silent);
    const apart = left.reduce((most, x, at) => Math.max(most, Math.abs(x - right[at]!)), 0);
    expect(apart).toBeLessThan(1e-12);
    expect(part(left, 0.2, 0.9)).toBeLessThan(1e-20);
  });

  it('hears low strings on the left and high ones on the right', () => {
    const sides = (words: string) => {
      const { left, right } = run(mixOf(song('E', words)));
      return energyOf(left) / energyOf(right);
    };
    expect(sides('s6 miss, miss miss, miss miss, miss miss')).toBeGreaterThan(1.3);
    expect(sides('s1 miss, miss miss, miss miss, miss miss')).toBeLessThan(0.95);
  });

  it('keeps the power of a sound wherever it is', () => {
    for (const pan of [-1, -0.4, 0, 0.3, 1]) {
      const { left, right } = panGains(pan);
      expect(left ** 2 + right ** 2).toBeCloseTo(2, 6);
    }
  });
});

describe('strings that ring along', () => {
  const along = (words: string, chord = 'E') =>
    mixCues(mixOf(song(chord, words))).cues.flatMap((cue) =>
      cue.act === 'start' && cue.sound.kind === 'along' ? [cue] : [],
    );

  it('answer a bass note an octave and a fifth higher, and much softer', () => {
    const found = along('bass miss, miss miss, miss miss, miss miss');
    // The low E of an E chord: B a fifth above, E an octave, B a twelfth, the high E two octaves.
    const pitches = found.map(({ sound }) => 'midi' in sound && sound.midi);
    expect(pitches).toEqual([47, 52, 59, 64]);
    const struck = mixCues(mixOf(song('E', 'bass miss, miss miss, miss miss, miss miss'))).cues[0]!;
    for (const { gain } of found) {
      expect(gain).toBeLessThan(0.1 * ('gain' in struck ? struck.gain : 0));
    }
  });

  it('are none where all strings are struck, under the palm, or damped', () => {
    expect(along('down miss, miss miss, miss miss, miss miss')).toEqual([]);
    expect(along('palm-bass miss, miss miss, miss miss, miss miss')).toEqual([]);
    expect(along('chuck miss, miss miss, miss miss, miss miss')).toEqual([]);
  });

  it('swell in: nothing is struck', () => {
    const samples = renderSound({ kind: 'along', family: 'guitar', midi: 52 }, RATE);
    const step = (from: number) => energyOf(samples.slice(from * RATE, (from + 0.02) * RATE));
    expect(step(0)).toBeLessThan(0.05 * step(0.2));
  });
});

describe('plucks, read by another pitch reader', () => {
  const detector = PitchDetector.forFloat32Array(8192);
  const cents = (midi: number, samples: Float32Array) => {
    const [read] = detector.findPitch(samples.slice(RATE / 4, RATE / 4 + 8192), RATE);
    return 1200 * Math.log2(read / hertz(midi));
  };

  it('are in tune on every family, by pick and flesh, soft and hard', () => {
    for (const id of ['guitar', 'guitar-nylon', 'ukulele', 'baritone', 'mandolin'] as const) {
      const { strings, family } = INSTRUMENTS[id];
      for (const open of strings) {
        for (const [fret, force, by] of [
          [0, 'medium', 'pick'],
          [5, 'hard', 'pick'],
          [9, 'soft', 'flesh'],
        ] as const) {
          const samples = pluck(open + fret, 1, RATE, STRING_VOICES[family], { force, by });
          expect(Math.abs(cents(open + fret, samples)), `${id} ${open}+${fret}`).toBeLessThan(3);
        }
      }
    }
  });

  it('are brighter the harder they are, and rounder by flesh', () => {
    const crossings = (samples: Float32Array) =>
      samples.slice(0, RATE / 20).filter((x, at, all) => at > 0 && x * all[at - 1]! < 0).length;
    const of = (force: 'soft' | 'medium' | 'hard', by: 'pick' | 'flesh') =>
      crossings(pluck(45, 0.5, RATE, STRING_VOICES.guitar, { force, by }));
    expect(of('soft', 'pick')).toBeLessThanOrEqual(of('hard', 'pick'));
    expect(of('medium', 'flesh')).toBeLessThan(of('medium', 'pick'));
  });
});

describe('drums', () => {
  it('are below full scale, begin and end without a step, and differ', () => {
    const pieces = ['kick', 'snare', 'rim', 'hat', 'open-hat', 'shaker', 'clap'] as const;
    for (const piece of pieces) {
      const samples = drum(piece, RATE);
      expect(peak(samples), piece).toBeLessThan(1);
      expect(peak(samples), piece).toBeGreaterThan(0.05);
      expect(Math.abs(samples[0]!)).toBeLessThan(0.02);
      expect(Math.abs(samples.at(-1)!)).toBeLessThan(0.01);
    }
    const crossings = (piece: (typeof pieces)[number]) =>
      drum(piece, RATE)
        .slice(0, 800)
        .filter((x, at, all) => at > 0 && x * all[at - 1]! < 0).length;
    expect(crossings('hat')).toBeGreaterThan(8 * crossings('kick'));
  });

  it('have a groove for each meter and feel', () => {
    const straight = newPattern(METERS['4/4']);
    const shuffled: Pattern = { ...straight, feel: { on: 'eighths', percent: 67 } };
    expect(grooveFor(METERS['4/4'], straight)).toBe('eighths');
    expect(grooveFor(METERS['4/4'], shuffled)).toBe('shuffle');
    expect(grooveFor(METERS['3/4'], newPattern(METERS['3/4']))).toBe('waltz');
    expect(grooveFor(METERS['6/8'], newPattern(METERS['6/8']))).toBe('pulse');
    const cycle = countCycle(12, [12, 3, 6, 8, 10], 12);
    expect(grooveFor(cycle, newPattern(cycle))).toBe('claps');
    const hits = (meter: typeof cycle, groove: (typeof GROOVES)[number], piece: string) =>
      drumHits({ bars: evenBars(meter, 1), feels: [] }, groove, 0, 1e6)
        .filter((hit) => hit.piece === piece)
        .map(({ tick }) => tick);
    expect(hits(METERS['4/4'], 'eighths', 'snare')).toEqual([960, 2880]);
    expect(hits(METERS['4/4'], 'eighths', 'kick')).toEqual([0, 1920]);
    expect(hits(METERS['4/4'], 'sixteenths', 'hat')).toHaveLength(16);
    expect(hits(METERS['4/4'], 'shuffle', 'hat').slice(0, 3)).toEqual([0, 640, 960]);
    expect(hits(METERS['6/8'], 'pulse', 'snare')).toEqual([1440]);
    expect(hits(cycle, 'claps', 'clap')).toEqual([0, 2880, 5760, 7680, 9600]);
    expect(hits(METERS['3/4'], 'waltz', 'rim')).toEqual([960, 1920]);
  });

  it('swing with the pattern, and come once whatever the windows', () => {
    const bars = evenBars(METERS['4/4'], 7680);
    const feel = { on: 'eighths', percent: 60 } as const;
    const swung = { bars, feels: [{ tick: 0, feel }] };
    const whole = drumHits(swung, 'eighths', 0, 7680);
    expect(whole.find(({ tick }) => tick > 0)!.tick).toBeCloseTo(576, 6);
    const pieces = [0, 500, 577, 1000.5, 3839, 3841, 7680].flatMap((from, index, all) =>
      index === 0 ? [] : drumHits(swung, 'eighths', all[index - 1]!, from),
    );
    expect(pieces).toEqual(whole);
  });
});
